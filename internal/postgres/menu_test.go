package postgres_test

import (
	"context"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/studio"
	"softpalm/internal/studio/protocols"
)

// The menu says what a protocol lacks today: a tool that is out, product in lots that may be used, somebody
// with the skill. Each is there again when it is.
func TestTheMenuSaysWhatIsLacking(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	list, err := w.plans(ctx)
	require.NoError(t, err)
	lacks := func(plan uuid.UUID) []protocols.Lack {
		menu, err := w.svc.Protocols.Menu(ctx, &w.owner)
		require.NoError(t, err)
		require.Len(t, menu, 12)
		for i := range menu {
			assert.NotEmpty(t, menu[i].Travel)
			if menu[i].Protocol == plan {
				return menu[i].Lacks
			}
		}
		return nil
	}
	face, stones := list[0].ID, list[1].ID
	require.Empty(t, lacks(face))
	require.Empty(t, lacks(stones))

	lib, err := w.svc.Protocols.Library(ctx, &w.owner)
	require.NoError(t, err)
	pieces := map[string]int{}
	for _, tool := range lib.Tools {
		pieces[tool.Key] = tool.Pieces
	}
	day := w.now.Format("2006-01-02")
	out := studio.ToolOut{ID: uuid.New(), Tool: "stone-plate", Pieces: pieces["stone-plate"], From: day, To: day, Reason: studio.ToolMended}
	require.NoError(t, w.svc.Diary.AddToolOut(ctx, &w.owner, out))
	assert.Equal(t, []protocols.Lack{{Kind: "tool", Name: "Green stone plate"}}, lacks(stones))
	assert.Empty(t, lacks(face), "the others are given")

	w.asOwner(t, "lot", "update lot set expiry = '2026-01-01' where product_id in (select id from product where key = 'calm-oil')")
	assert.Equal(t, []protocols.Lack{{Kind: "product", Name: "Calm seed oil"}}, lacks(face), "what has expired is not there")

	o, err := w.svc.Protocols.OpenProtocol(ctx, &w.owner, stones)
	require.NoError(t, err)
	body := o.Draft.Body
	body.Skills = []string{"walking on the ceiling"}
	_, err = w.svc.Protocols.SaveDraft(ctx, &w.owner, stones, protocols.DraftEdit{BasedOn: o.Version, Protocol: &body})
	require.NoError(t, err)
	_, err = w.svc.Protocols.Publish(ctx, &w.owner, stones)
	require.NoError(t, err)
	assert.Contains(t, lacks(stones), protocols.Lack{Kind: "skill", Name: "walking on the ceiling"})
}
