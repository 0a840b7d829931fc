package postgres_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/postgres"
)

// The server does not serve with the owner's password: row security would not hold it.
func TestTheServerDoesNotSignInAsTheOwner(t *testing.T) {
	w := newWorld(t)
	db, err := postgres.Open(context.Background(), w.ownerURL)
	assert.ErrorContains(t, err, "the server must sign in as "+postgres.AppRole)
	assert.Nil(t, db)
}
