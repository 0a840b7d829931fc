package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/craft/substance"
	"softpalm/internal/studio"
	shelfroom "softpalm/internal/studio/shelf"
)

// What a client is allergic to is named when it is sold to them, and sold only with a word of reason; what comes
// back opened is disposed of in the same step; what is sent back names its credit (handbook, chapter 4).
func TestTheTill(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.consult(t, v.Client, noTo(w, contraindication.Consultation), studio.ClientHistory{
		Allergies: []substance.Allergy{{Kind: "ingredient", Key: "Helianthus Annuus Seed Oil", Name: "Sunflower"}},
	})
	with := w.product(t, "Sunflower night oil", "mL", func(n *shelfroom.NewProduct) { n.Ingredients = []string{"Helianthus Annuus Seed Oil"} })
	without := w.product(t, "Plain night oil", "mL", func(n *shelfroom.NewProduct) { n.Ingredients = []string{"Squalane"} })
	packs := w.receive(t, with, "T-1", "2029-01-01", 2, "100", "20.00")
	sale := shelfroom.PackMove{Kind: shelf.Retail, Client: &v.Client, Note: "R 17"}
	err := w.svc.Shelf.MovePack(ctx, &w.desk, packs[0].ID, sale)
	var bad *studio.InputError
	require.ErrorAs(t, err, &bad)
	assert.Equal(t, "/despite", bad.Problems[0].Path)
	assert.Contains(t, bad.Problems[0].Sentence.Message, "Sunflower")
	assert.Equal(t, "200", w.lineOf(t, with).Remaining.String(), "nothing was sold")
	require.NoError(t, w.svc.Shelf.MovePack(ctx, &w.desk, w.receive(t, without, "T-2", "2029-01-01", 1, "100", "20.00")[0].ID, sale))
	sale.Despite = "a present for her sister"
	require.NoError(t, w.svc.Shelf.MovePack(ctx, &w.desk, packs[0].ID, sale))
	moves, err := w.svc.Shelf.Movements(ctx, &w.owner, with, time.Time{})
	require.NoError(t, err)
	assert.Equal(t, "Sold despite Sunflower: a present for her sister. R 17", moves[0].Note)
	assert.Equal(t, v.Client, *moves[0].Client, "a recall finds her")

	require.NoError(t, w.svc.Shelf.MovePack(ctx, &w.owner, packs[0].ID, shelfroom.PackMove{Kind: shelf.Return, Amount: some("100"), Client: &v.Client, Opened: true}))
	assert.Equal(t, "100", w.lineOf(t, with).Remaining.String(), "what came back opened is not used again")
	back := shelfroom.PackMove{Kind: shelf.SendBack}
	assert.Equal(t, "/note", at(w.svc.Shelf.MovePack(ctx, &w.owner, packs[1].ID, back)))
	back.Note = "10.00, C 4"
	require.NoError(t, w.svc.Shelf.MovePack(ctx, &w.owner, packs[1].ID, back))
}
