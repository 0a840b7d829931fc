package postgres_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/studio"
)

// revision is a client's revision as it is now.
func (w *world) revision(t *testing.T, client uuid.UUID) int {
	t.Helper()
	f, err := w.svc.Clients.Client(context.Background(), &w.owner, client)
	require.NoError(t, err)
	return f.Client.Revision
}

// contentsRevision is the revision of what a product is made of; 1 where there is none.
func (w *world) contentsRevision(t *testing.T, product uuid.UUID) int {
	t.Helper()
	lines, err := w.svc.Shelf.Shelf(context.Background(), &w.owner)
	require.NoError(t, err)
	for _, l := range lines {
		if l.Product.ID == product {
			return l.Product.Revision
		}
	}
	return 1
}

// Of fifty people who save one client at the same moment, one does; the others are shown
// what that one saved, and nothing of theirs is half-written. The next one who saves on
// top of it succeeds.
func TestOfTwoWhoChangeAClientTheSecondIsShownTheFirst(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	f, err := w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	errs := together(50, func(i int) error {
		fields := f.Client.ClientFields
		fields.Phone = fmt.Sprintf("+00 555 %04d", i)
		_, err := w.svc.Clients.ChangeClient(ctx, &w.owner, v.Client, f.Client.Revision, fields)
		return err
	})
	winners := 0
	for _, err := range errs {
		var changed *studio.ChangedError
		if err == nil {
			winners++
		} else if assert.ErrorAs(t, err, &changed) {
			assert.Equal(t, f.Client.Revision+1, changed.Client.Revision)
			assert.NotEqual(t, f.Client.Phone, changed.Client.Phone)
		}
	}
	assert.Equal(t, 1, winners)
	now, err := w.svc.Clients.ChangeClient(ctx, &w.owner, v.Client, f.Client.Revision+1, f.Client.ClientFields)
	require.NoError(t, err)
	assert.Equal(t, f.Client.Revision+2, now.Revision)
}

// What the front desk gets back of a client that was changed meanwhile holds no health data.
func TestTheDeskIsShownNoHealthOfAChangedClient(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.first(t).Client
	f, err := w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)
	fields := f.Client.ClientFields
	fields.Note, fields.SkinStates = "hates the cold stone", []string{"sensitive"}
	_, err = w.svc.Clients.ChangeClient(ctx, &w.owner, client, f.Client.Revision, fields)
	require.NoError(t, err)
	seen, err := w.svc.Clients.Client(ctx, &w.desk, client)
	require.NoError(t, err)
	_, err = w.svc.Clients.ChangeClient(ctx, &w.desk, client, f.Client.Revision, seen.Client.ClientFields)
	var changed *studio.ChangedError
	require.ErrorAs(t, err, &changed)
	assert.Empty(t, changed.Client.Note)
	assert.Empty(t, changed.Client.SkinStates)
	out, err := w.svc.Clients.ChangeClient(ctx, &w.desk, client, changed.Client.Revision, seen.Client.ClientFields)
	require.NoError(t, err)
	assert.Empty(t, out.Note, "nor what it saved")
	f, err = w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)
	assert.Equal(t, "hates the cold stone", f.Client.Note, "and it overwrites none")
	assert.Equal(t, fields.SkinType, f.Client.SkinType)
	assert.Equal(t, fields.Phototype, f.Client.Phototype)
}

// The same for what a product is made of, where an allergen could be lost.
func TestOfTwoWhoChangeAProductTheSecondIsShownTheFirst(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	product := w.line(t, "calm-oil").Product
	errs := together(20, func(i int) error {
		made := studio.Contents{Ingredients: []string{fmt.Sprintf("Oleum %d", i)}, Tags: []string{"nut-oil"}, Unsuited: []string{}}
		return w.svc.Shelf.SaveContents(ctx, &w.owner, product.ID, studio.RevisedContents{Contents: made, Revision: product.Revision})
	})
	winners := 0
	for i, err := range errs {
		var changed *studio.ChangedError
		if errors.As(err, &changed) {
			assert.Equal(t, product.Revision+1, changed.Contents.Revision)
			assert.NotEqual(t, []string{fmt.Sprintf("Oleum %d", i)}, changed.Contents.Ingredients)
			continue
		}
		require.NoError(t, err)
		winners++
	}
	assert.Equal(t, 1, winners)
}

// Over HTTP: 409 with what is there, and the text of the refused request is not in it.
func TestAChangeMeanwhileOverHTTP(t *testing.T) {
	w := newWorld(t)
	call := w.signedIn(t, "maud@demo.example", "demo palms 2")
	path := "/api/clients/" + w.first(t).Client.String()
	edit := func(phone string, revision int) string {
		return fmt.Sprintf(`{"name":"Ada Abendroth","email":"","phone":%q,"birthDate":"","skinType":"dry","skinStates":[],"phototype":0,"note":"","revision":%d}`, phone, revision)
	}
	res, body := call("PUT", path, edit("111", 1))
	require.Equal(t, 200, res.StatusCode, body)
	res, body = call("PUT", path, edit("222", 1))
	assert.Equal(t, 409, res.StatusCode)
	assert.Contains(t, body, `"code":"changed-meanwhile"`)
	assert.Contains(t, body, `"phone":"111"`)
	assert.NotContains(t, body, "222")
	res, body = call("PUT", path, edit("222", 2))
	assert.Equal(t, 200, res.StatusCode, body)
	res, _ = call("PUT", path, `{"name":"Ada Abendroth","email":"","phone":"","birthDate":"","skinType":"dry","skinStates":[],"phototype":0,"note":""}`)
	assert.Equal(t, 422, res.StatusCode, "a change without its revision is none")
}

// What a screen is shown can be sent back changed: the revision that the API gives is the
// one that it takes.
func TestTheRevisionShownIsTheOneToSaveOn(t *testing.T) {
	w := newWorld(t)
	call := w.signedIn(t, "owner@demo.example", "demo palms 1")
	_, out := call("GET", "/api/shelf", "")
	var lines []struct {
		Product struct {
			ID       uuid.UUID
			Revision int
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &lines))
	require.NotEmpty(t, lines)
	for _, l := range lines {
		body := fmt.Sprintf(`{"ingredients":["Bisabolol"],"tags":[],"unsuited":[],"revision":%d}`, l.Product.Revision)
		res, out := call("PUT", fmt.Sprintf("/api/products/%s/contents", l.Product.ID), body)
		require.Equal(t, 2, res.StatusCode/100, out)
	}
	client := w.client(t, "Greta")
	_, out = call("GET", fmt.Sprintf("/api/clients/%s", client), "")
	var file struct{ Client map[string]any }
	require.NoError(t, json.Unmarshal([]byte(out), &file))
	delete(file.Client, "id")
	delete(file.Client, "createdAt")
	body, err := json.Marshal(file.Client)
	require.NoError(t, err)
	res, out := call("PUT", fmt.Sprintf("/api/clients/%s", client), string(body))
	require.Equal(t, 200, res.StatusCode, out)
}
