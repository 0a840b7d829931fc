package postgres_test

import (
	"context"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/studio"
	"softpalm/internal/studio/protocols"
	shelfroom "softpalm/internal/studio/shelf"
)

var dec = decimal.RequireFromString

// line is a product on the shelf.
func (w *world) line(t *testing.T, key string) shelfroom.ShelfLine {
	t.Helper()
	list, err := w.svc.Shelf.Shelf(context.Background(), &w.owner)
	require.NoError(t, err)
	for _, l := range list {
		if l.Product.Key == key {
			return l
		}
	}
	t.Fatal("no product " + key)
	return shelfroom.ShelfLine{}
}

// at is the path of the first fault of an error; the error's own text where it is
// another one.
func at(err error) string {
	var bad *studio.InputError
	if e, ok := err.(*studio.InputError); ok {
		bad = e
	}
	if bad == nil {
		if err == nil {
			return ""
		}
		return err.Error()
	}
	return bad.Problems[0].Path
}

// A studio's own strokes: kept under a key of their own, judged like the trade's,
// in the trade's place where they carry its key, and not taken away while a
// protocol uses them.
func TestStrokesOfTheStudiosOwn(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	own := stroke.Stroke{Manner: stroke.Manner{Name: "Lantern glide", Family: stroke.Effleurage, Intent: stroke.Lift, Hand: "flat palm"}, Pressure: 2, Profile: "even", Relation: stroke.Slides, Glide: "slide", Sides: stroke.BothAtOnce,
		Path: []string{"jawline", "cheekbone"}, Dose: stroke.Dose{Kind: stroke.Reps, Planned: 4}, Parts: []stroke.Part{{Kind: stroke.Move, Seconds: 3}}}
	has := func(key string) *stroke.Stroke {
		lib, err := w.svc.Protocols.Library(ctx, &w.owner)
		require.NoError(t, err)
		for i := range lib.Strokes {
			if lib.Strokes[i].Key == key {
				return &lib.Strokes[i]
			}
		}
		return nil
	}
	first, err := w.svc.Protocols.SaveStroke(ctx, &w.owner, own, nil)
	require.NoError(t, err)
	assert.Equal(t, "lantern-glide", first.Key)
	second, err := w.svc.Protocols.SaveStroke(ctx, &w.owner, own, nil)
	require.NoError(t, err)
	assert.Equal(t, "lantern-glide-2", second.Key, "another of the same name does not write over it")
	bad := own
	bad.Path = []string{"jawline", "moon"}
	_, err = w.svc.Protocols.SaveStroke(ctx, &w.owner, bad, nil)
	assert.Equal(t, "/path/1", at(err))
	bad = own
	bad.Hand, bad.Tool = "", &stroke.ToolPart{Key: "gold-fork"}
	_, err = w.svc.Protocols.SaveStroke(ctx, &w.owner, bad, nil)
	assert.Equal(t, "/tool/key", at(err))
	_, err = w.svc.Protocols.SaveStroke(ctx, &w.desk, own, nil)
	require.ErrorIs(t, err, studio.ErrForbidden)

	trade := *has("cheek-scoop")
	ours := trade
	ours.Name = "Cheek scoop, our way"
	_, err = w.svc.Protocols.SaveStroke(ctx, &w.owner, ours, nil)
	require.NoError(t, err)
	assert.Equal(t, "Cheek scoop, our way", has("cheek-scoop").Name)
	require.NoError(t, w.svc.Protocols.DropStroke(ctx, &w.owner, "cheek-scoop"), "though protocols use it: the trade's is back")
	assert.Equal(t, trade.Name, has("cheek-scoop").Name)

	plans, err := w.plans(ctx)
	require.NoError(t, err)
	o, err := w.svc.Protocols.OpenProtocol(ctx, &w.owner, plans[0].ID)
	require.NoError(t, err)
	body := o.Draft.Body
	body.Steps = append(body.Steps[:len(body.Steps):len(body.Steps)], protocol.Step{ID: "ours", Stroke: first.Key, Phase: "work"})
	_, err = w.svc.Protocols.SaveDraft(ctx, &w.owner, plans[0].ID, protocols.DraftEdit{Revision: 0, BasedOn: o.Version, Protocol: &body})
	require.NoError(t, err)
	var state *studio.StateError
	require.ErrorAs(t, w.svc.Protocols.DropStroke(ctx, &w.owner, first.Key), &state)
	assert.Equal(t, "stroke-in-use", state.Code)
	require.ErrorIs(t, w.svc.Protocols.DropDraft(ctx, &w.desk, plans[0].ID), studio.ErrForbidden)
	require.NoError(t, w.svc.Protocols.DropDraft(ctx, &w.owner, plans[0].ID))
	require.NoError(t, w.svc.Protocols.DropStroke(ctx, &w.owner, second.Key))
	assert.Nil(t, has(second.Key))

	// Published, booked, then published again without it: the booking still needs it.
	_, err = w.svc.Protocols.SaveDraft(ctx, &w.owner, plans[0].ID, protocols.DraftEdit{Revision: 0, BasedOn: o.Version, Protocol: &body})
	require.NoError(t, err)
	version, err := w.svc.Protocols.Publish(ctx, &w.owner, plans[0].ID)
	require.NoError(t, err)
	booked := w.again(t, w.first(t).Client, plans[0].ID, "2026-12-14")
	require.Equal(t, version, booked.Version)
	_, err = w.svc.Protocols.SaveDraft(ctx, &w.owner, plans[0].ID, protocols.DraftEdit{Revision: 0, BasedOn: version, Protocol: &o.Draft.Body})
	require.NoError(t, err)
	_, err = w.svc.Protocols.Publish(ctx, &w.owner, plans[0].ID)
	require.NoError(t, err)
	require.ErrorAs(t, w.svc.Protocols.DropStroke(ctx, &w.owner, first.Key), &state)
	_, err = w.svc.Diary.SetVisitState(ctx, &w.owner, booked.ID, studio.Cancelled, "asked to")
	require.NoError(t, err)
	require.NoError(t, w.svc.Protocols.DropStroke(ctx, &w.owner, first.Key), "nothing is booked with it any more")
	require.ErrorIs(t, w.svc.Protocols.DropStroke(ctx, &w.owner, "never-there"), studio.ErrNotFound)

	tool := protocol.Tool{Name: "Jade Comb", Kind: "stone", ReadyAfter: 10, Pieces: 1}
	made, err := w.svc.Protocols.AddTool(ctx, &w.owner, tool)
	require.NoError(t, err)
	assert.Equal(t, "jade-comb", made.Key)
	tool.Key = "jade-comb"
	_, err = w.svc.Protocols.AddTool(ctx, &w.owner, tool)
	assert.Equal(t, "/key", at(err))
	_, err = w.svc.Protocols.AddTool(ctx, &w.desk, tool)
	require.ErrorIs(t, err, studio.ErrForbidden)
}

// Papers come as what they are, under a name that gives nobody away, and are never
// kept by anything on the way; each print of health data is in the audit log.
func TestPapersOverHTTP(t *testing.T) {
	w := newWorld(t)
	call := w.signedIn(t, "owner@demo.example", "demo palms 1")
	v := w.first(t)
	w.checked(t, v, map[string]contraindication.Answer{"cancer": {Yes: true}})
	ctx := context.Background()
	letter, err := w.svc.Checks.WriteLetter(ctx, &w.owner, v.Client, &v.ID, "May the neck be worked?", "")
	require.NoError(t, err)
	for _, c := range []struct{ path, kind, begins string }{
		{"/api/letters/" + letter.ID.String() + "/paper", "application/pdf", "%PDF-"},
		{"/api/clients/" + v.Client.String() + "/summary", "application/pdf", "%PDF-"},
		{"/api/clients/" + v.Client.String() + "/file", "application/pdf", "%PDF-"},
		{"/api/clients/" + v.Client.String() + "/export", "application/json", "{"},
		{"/api/protocols/" + v.Protocol.String() + "/card", "application/pdf", "%PDF-"},
		{"/api/protocols/" + v.Protocol.String() + "/csv", "text/csv", "\ufeff"},
		{"/api/protocols/" + v.Protocol.String() + "/file", "application/json", "{"},
	} {
		res, body := call(http.MethodGet, c.path, "")
		if !assert.Equal(t, 200, res.StatusCode, "%s: %.200s", c.path, body) {
			continue
		}
		assert.True(t, strings.HasPrefix(res.Header.Get("Content-Type"), c.kind), "%s is %s", c.path, res.Header.Get("Content-Type"))
		assert.True(t, strings.HasPrefix(strings.TrimSpace(body), c.begins) || c.kind == "text/csv", "%s begins %.20q", c.path, body)
		assert.Contains(t, res.Header.Get("Cache-Control"), "no-store", c.path)
		assert.NotContains(t, strings.ToLower(res.Header.Get("Content-Disposition")), strings.ToLower(strings.Fields(v.ClientName)[0]), c.path)
	}
	log, err := w.svc.House.AuditLog(ctx, &w.owner, w.now.Add(time.Hour))
	require.NoError(t, err)
	prints := 0
	for _, l := range log {
		if l.Action == "print" {
			prints++
		}
	}
	assert.GreaterOrEqual(t, prints, 2)
}
