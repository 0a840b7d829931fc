package house

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Passwords are hashed with argon2id, 19 MiB, 2 passes, 1 lane, each with a salt of its own
// (OWASP Password Storage Cheat Sheet, from memory).
func TestPasswordsAreHashedWithArgon2id(t *testing.T) {
	a, err := HashPassword("soft palms at ten")
	require.NoError(t, err)
	b, err := HashPassword("soft palms at ten")
	require.NoError(t, err)
	assert.Contains(t, a, "$argon2id$v=19$m=19456,t=2,p=1$")
	assert.NotEqual(t, a, b)
}
