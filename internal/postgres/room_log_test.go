package postgres_test

import (
	"context"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/guide"
	"softpalm/internal/studio"
)

// happened sends events of the owner's tablet, numbered on from what is there; the first time it starts the guide.
func (w *world) happened(visit uuid.UUID, events ...guide.Event) error {
	ctx := context.Background()
	heard, err := w.svc.Treatment.RoomLog(ctx, &w.owner, visit)
	if err != nil {
		return err
	}
	if heard.Standing.N == 0 {
		events = append([]guide.Event{{Kind: guide.Start}}, events...)
	}
	n, seq := heard.Standing.N, heard.Standing.Seq["tablet"]
	for i := range events {
		e := &events[i]
		if e.Device == "" {
			e.Device = "tablet"
			seq++
			e.Seq = seq
		}
		if e.N == 0 {
			n++
			e.N = n
		}
		if e.At == 0 {
			e.At = float64(w.now.UnixMilli())
		}
		if e.ID == "" {
			e.ID = studio.NewID().String()
		}
	}
	_, err = w.svc.Treatment.AddEvents(ctx, &w.owner, visit, events)
	return err
}

// The room's log: sent in pieces, twice, out of order and from two tablets at once, it comes to the same; gaps are
// told; what cannot be read is refused whole; it is never changed (handbook, chapter 7, Event log).
func TestTheRoomsLog(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, _ := w.recording(t)
	send := func(events ...guide.Event) guide.Standing {
		heard, err := w.svc.Treatment.AddEvents(ctx, &w.owner, v.ID, events)
		require.NoError(t, err)
		return heard.Standing
	}
	at := float64(w.now.UnixMilli())
	event := func(device string, seq, n int, kind guide.Kind, change func(*guide.Event)) guide.Event {
		e := guide.Event{ID: studio.NewID().String(), Device: device, Seq: seq, N: n, At: at + float64(1000*n), Kind: kind}
		if change != nil {
			change(&e)
		}
		return e
	}
	start := event("A", 1, 1, guide.Start, nil)
	begin := event("A", 2, 2, guide.Begin, func(e *guide.Event) { e.Spell = "one/1" })
	tender := event("B", 1, 3, guide.Tender, func(e *guide.Event) { e.Zone, e.Side = "temple", "left" })
	pause := event("A", 3, 4, guide.Pause, nil)
	s := send(pause, begin)
	assert.Equal(t, []any{"", 0}, []any{s.Leader, s.Seq["A"]}, "the first is still to come")
	assert.Equal(t, []int{1}, s.Missing["A"])
	s = send(start, tender, begin)
	assert.Equal(t, []any{"A", 3, 1, false}, []any{s.Leader, s.Seq["A"], s.Seq["B"], s.Running})
	assert.InDelta(t, 2, s.Into, 1e-6)
	errs := together(6, func(int) error {
		_, err := w.svc.Treatment.AddEvents(ctx, &w.owner, v.ID, []guide.Event{start, begin, tender, pause})
		return err
	})
	for _, err := range errs {
		require.NoError(t, err)
	}
	assert.Equal(t, 4, w.count(t, "select count(*) from room_event where visit_id = '"+v.ID.String()+"'"))

	bad := event("A", 4, 5, "dance", nil)
	_, err := w.svc.Treatment.AddEvents(ctx, &w.owner, v.ID, []guide.Event{event("A", 4, 5, guide.Resume, nil), bad})
	var input *studio.InputError
	require.ErrorAs(t, err, &input)
	assert.Equal(t, 4, w.count(t, "select count(*) from room_event where visit_id = '"+v.ID.String()+"'"), "nothing of it")
	_, err = w.svc.Treatment.AddEvents(ctx, &w.desk, v.ID, nil)
	require.ErrorIs(t, err, studio.ErrForbidden)

	rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, rec.Record)
	require.NoError(t, err)
	send(event("A", 4, 5, guide.Resume, nil))
	rec, err = w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	require.Len(t, rec.Additions, 1, "what came after locking is told beside the record")
	send(event("A", 4, 5, guide.Resume, func(e *guide.Event) { e.ID = start.ID }))
	rec, err = w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Len(t, rec.Additions, 1, "a repeat changes nothing")
}
