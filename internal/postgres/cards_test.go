package postgres_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/exchange"
	"softpalm/internal/studio/clients"
)

// Contacts go out and come in again as the same people; new ones are added, what is missing is filled
// in, and a doubtful one waits for a person. Looking first writes nothing.
func TestContactsOutAndIn(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	all, err := w.svc.Clients.Cards(ctx, &w.desk, nil)
	require.NoError(t, err)
	require.Greater(t, len(all), 10)
	people := func() int { return w.count(t, "select count(*) from client") }
	before := people()
	write := func(cards ...clients.Card) string {
		data, err := exchange.Files{}.WriteCards(cards, w.now)
		require.NoError(t, err)
		return string(data)
	}
	same, err := w.svc.Clients.ImportCards(ctx, &w.desk, clients.CardImport{File: write(all...)})
	require.NoError(t, err)
	for _, line := range same {
		assert.Equal(t, clients.SameCard, line.Match, line.Card.Name)
		assert.Empty(t, line.Fills)
	}
	assert.Equal(t, before, people())

	first := all[0]
	file := write(
		clients.Card{UID: "x-1", Name: "Wilma Weiss", Email: "wilma@example.org", Phone: "555 0101"},
		clients.Card{UID: "x-2", Name: first.Name, Email: "other@example.org", BirthDate: "1980-02-29"},
		clients.Card{UID: "x-3", Name: "Bad Birthday", BirthDate: "1066-10-14"},
	)
	dry, err := w.svc.Clients.ImportCards(ctx, &w.desk, clients.CardImport{File: file, Dry: true})
	require.NoError(t, err)
	assert.Equal(t, []clients.CardMatch{clients.NewCard, clients.DoubtfulCard, clients.SkippedCard}, []clients.CardMatch{dry[0].Match, dry[1].Match, dry[2].Match})
	assert.Equal(t, first.Name, dry[1].Client.Name)
	assert.NotEmpty(t, dry[2].Fault)
	assert.Equal(t, before, people(), "looking first writes nothing")

	took, err := w.svc.Clients.ImportCards(ctx, &w.desk, clients.CardImport{File: file, Decisions: map[int]clients.CardMatch{1: clients.SameCard}})
	require.NoError(t, err)
	assert.Equal(t, before+1, people())
	assert.Equal(t, clients.SameCard, took[1].Match)
	again, err := w.svc.Clients.ImportCards(ctx, &w.desk, clients.CardImport{File: file})
	require.NoError(t, err)
	assert.Equal(t, []clients.CardMatch{clients.SameCard, clients.SameCard}, []clients.CardMatch{again[0].Match, again[1].Match}, "known by their UID now")
	assert.Equal(t, before+1, people(), "a repeat is safe")
}
