package postgres_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/studio"
)

// Clients are found by part of a name, an e-mail address or a telephone number.
func TestClientsAreFoundByWhatOneHas(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	_, err := w.svc.Clients.AddClient(ctx, &w.owner, studio.ClientFields{Name: "Дарья Łucja Đặng", Email: "Darya.L@Client.example", Phone: "+351 (912) 345-678", SkinType: "dry"})
	require.NoError(t, err)
	for search, found := range map[string]bool{
		"łuc": true, "дАРЬ": true, "darya.l": true, "client.EXAMPLE": true, "912345": true, "912 34": true, "(912)": true, "+351 912": true,
		"99": false, "913": false, "lucia": false, "%": false, "_": false,
	} {
		list, _, err := w.svc.Clients.Clients(ctx, &w.owner, search, "")
		require.NoError(t, err)
		is := false
		for _, c := range list {
			is = is || c.Name == "Дарья Łucja Đặng"
		}
		assert.Equal(t, found, is, "%q", search)
	}
}

// Nobody's skin is normal before somebody asked: a new client has no skin type, and plans
// are made without one.
func TestSkinIsUnknownUntilItIsAsked(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	for _, who := range []*studio.Actor{&w.owner, &w.desk} {
		made, err := w.svc.Clients.AddClient(ctx, who, studio.ClientFields{Name: "Pia Lindqvist"})
		require.NoError(t, err)
		f, err := w.svc.Clients.Client(ctx, &w.owner, made.ID)
		require.NoError(t, err)
		assert.Empty(t, f.Client.SkinType)
		v := w.again(t, made.ID, w.first(t).Protocol, "2026-12-14")
		w.checked(t, v, nil)
		_, err = w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
		require.NoError(t, err)
		fields := f.Client.ClientFields
		fields.SkinType = "dry"
		_, err = w.svc.Clients.ChangeClient(ctx, &w.owner, made.ID, w.revision(t, made.ID), fields)
		require.NoError(t, err)
		f, err = w.svc.Clients.Client(ctx, &w.owner, made.ID)
		require.NoError(t, err)
		assert.Equal(t, "dry", f.Client.SkinType)
		w.now = start
	}
}
