package postgres_test

import (
	"context"
	"encoding/json"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/gowebpki/jcs"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/stroke"
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

// worked goes through a plan on the owner's tablet, each spell at a multiple of its planned seconds, by taps; an oil is
// added by the way where it is named.
func (w *world) worked(t *testing.T, v *studio.VisitLine, pace float64, added string) {
	t.Helper()
	room, err := w.svc.Treatment.Room(context.Background(), &w.owner, v.ID)
	require.NoError(t, err)
	e := room.Treatment.Evaluation
	at := float64(w.now.UnixMilli())
	var events []guide.Event
	for i := range e.Occurrences {
		o := &e.Occurrences[i]
		r := &e.Steps[o.Step]
		events = append(events, guide.Event{Kind: guide.Begin, Spell: guide.SpellKey(r.ID, o.Number), By: "tap", At: at})
		at += 1000 * (o.Lead + pace*r.Working)
		if added != "" && i > len(e.Occurrences)/2 && len(r.Path) > 0 && r.Relation == stroke.Slides {
			events = append(events, guide.Event{Kind: guide.Product, Product: added, Zone: r.Path[0].Zone, Side: "left", At: at - 500})
			added = ""
		}
	}
	events = append(events, guide.Event{Kind: guide.Finish, By: "tap", At: at})
	for part := range slices.Chunk(events, 90) {
		require.NoError(t, w.happened(v.ID, part...))
	}
}

// What the room teaches: three treatments worked a tenth faster make a pace, the next plan is timed by it and says so,
// and it is forgotten on wish; an oil added by the way tells the shelf how long it slid (handbook, chapter 7, Real
// against planned).
func TestTheRoomTeaches(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	var mine []studio.VisitLine
	for _, v := range day.Visits {
		if v.Practitioner == *w.owner.Practitioner {
			mine = append(mine, v)
		}
	}
	require.GreaterOrEqual(t, len(mine), 3)
	oil := w.line(t, "calm-oil").Product.ID
	before, err := w.svc.Shelf.LearnedOf(ctx, &w.owner, oil)
	require.NoError(t, err)
	for i := range 3 {
		v := &mine[i]
		w.checked(t, *v, nil)
		_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
		require.NoError(t, err)
		plan, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
		require.NoError(t, err)
		assert.InDelta(t, 1, plan.Pace.Pace, 1e-9, "fewer than three teach nothing yet")
		require.NoError(t, w.start(t, v.ID))
		w.worked(t, v, 0.9, map[bool]string{true: "calm-oil"}[i == 0])
		rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
		require.NoError(t, err)
		_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, rec.Record)
		require.NoError(t, err)
		w.now = w.now.Add(time.Minute)
	}
	after, err := w.svc.Shelf.LearnedOf(ctx, &w.owner, oil)
	require.NoError(t, err)
	assert.Greater(t, after.Observations, before.Observations, "the oil was added to, or slid to the end")

	next := w.next(t, mine[0].Client)
	w.now = next.StartsAt.Add(-10 * time.Minute)
	w.checked(t, next, nil)
	plan, err := w.svc.Checks.PlanFor(ctx, &w.owner, next.ID, studio.PlanOptions{})
	require.NoError(t, err)
	require.Equal(t, *w.owner.Practitioner, next.Practitioner)
	assert.InDelta(t, 0.96, plan.Pace.Pace, 0.011, "3 of 8 parts of ln 0.9")
	assert.Equal(t, 3, plan.Pace.Treatments)
	require.ErrorIs(t, w.svc.Treatment.ForgetPace(ctx, &w.desk, next.Practitioner), studio.ErrForbidden)
	require.NoError(t, w.svc.Treatment.ForgetPace(ctx, &w.owner, next.Practitioner))
	again, err := w.svc.Checks.PlanFor(ctx, &w.owner, next.ID, studio.PlanOptions{})
	require.NoError(t, err)
	assert.Zero(t, again.Pace.Treatments, "timed as published again")
}

// A record tells what happened by the room's log, is signed over canonical JSON, and proposes what to do otherwise; a
// proposal that is taken becomes a note where it counts, once (handbook, chapter 7, The record).
func TestARecordFromTheRoom(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, _ := w.recording(t)
	w.worked(t, &v, 1.1, "calm-oil")
	require.NoError(t, w.happened(v.ID, guide.Event{Kind: guide.Tender, Zone: "temple", Side: "left"}))
	rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	require.NotNil(t, rec.Account)
	assert.Greater(t, rec.Account.Real, rec.Account.Planned)
	assert.Len(t, rec.Account.Marks, 2)
	assert.Nil(t, rec.Signature, "it is still open")
	rec.Record.Said = "Warm and light."
	locked, err := w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, rec.Record)
	require.NoError(t, err)
	require.NotNil(t, locked.Signature)
	assert.True(t, locked.Signature.Whole)
	assert.Equal(t, w.owner.Name, locked.Signature.By)
	assert.Len(t, locked.Signature.SHA256, 64)
	var read struct {
		Record struct{ Uses []struct{ Product string } }
		Visit  string
	}
	require.NoError(t, json.Unmarshal([]byte(locked.Treatment.Signed), &read))
	assert.Equal(t, v.ID.String(), read.Visit)
	assert.NotEmpty(t, read.Record.Uses)
	again, err := jcs.Transform([]byte(locked.Treatment.Signed))
	require.NoError(t, err)
	assert.Equal(t, locked.Treatment.Signed, string(again), "it is canonical: written once more it is the same (RFC 8785)")

	codes := map[string]string{}
	for _, p := range locked.Next {
		codes[p.Code] = p.Key
	}
	assert.Equal(t, "temple/left", codes["lighter-here"])
	assert.Contains(t, codes["product-again"], "calm-oil@")
	for range 2 {
		locked, err = w.svc.Treatment.AnswerProposal(ctx, &w.owner, v.ID, "lighter-here", "temple/left", true)
		require.NoError(t, err)
	}
	require.NotNil(t, locked.Next[0].Taken)
	assert.True(t, *locked.Next[0].Taken)
	assert.Equal(t, "Less pressure here: left temple", locked.Next[0].Text)
	require.NotEmpty(t, locked.Next[0].Because)
	assert.Contains(t, locked.Next[0].Because[0], "Tender at minute")
	notes := w.count(t, "select count(*) from client_note where zone = 'temple' and side = 'left' and client_id = '"+v.Client.String()+"'")
	assert.Equal(t, 1, notes, "once, however often it is pressed")
	_, err = w.svc.Treatment.AnswerProposal(ctx, &w.owner, v.ID, "calmer", "", true)
	require.ErrorIs(t, err, studio.ErrNotFound)

	require.NoError(t, w.svc.Clients.EraseClient(ctx, &w.owner, v.Client, v.ClientName))
	left := w.ownerQuery(t, "select (select count(*) from room_event) + (select count(*) from proposal_answer) + (select count(*) from treatment where visit_id = '"+v.ID.String()+"' and (signed <> '' or record ? 'said'))")
	assert.Zero(t, left, "a deleted client leaves no log of their skin behind")
}

// The desk's strip sees how late a treatment is, without a reason: it grows while the guide waits or stands still, and
// stays as it is while the plan runs.
func TestTheStripSeesTheMinutes(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, _ := w.recording(t)
	room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	e := room.Treatment.Evaluation
	late := func() int {
		day, err := w.svc.Diary.Day(ctx, &w.desk, "")
		require.NoError(t, err)
		for _, l := range day.Visits {
			if l.ID == v.ID {
				return l.RoomMinutes
			}
		}
		return -999
	}
	o := &e.Occurrences[len(e.Occurrences)/2]
	w.now = room.HandsOff.Add(-time.Duration(e.Seconds-(o.Start-o.Lead))*time.Second + 7*time.Minute)
	require.NoError(t, w.happened(v.ID, guide.Event{Kind: guide.Begin, Spell: guide.SpellKey(e.Steps[o.Step].ID, o.Number)}))
	assert.Equal(t, 7, late())
	w.now = w.now.Add(time.Duration(o.End-o.Start+o.Lead) * time.Second)
	assert.Equal(t, 7, late(), "on the plan it stays")
	w.now = w.now.Add(5 * time.Minute)
	assert.Equal(t, 12, late(), "waiting for Next it grows")
}

// What was graded in the room is shown beside the same measure the next time, also where nothing was graded in between.
func TestTheLastGradesAreShown(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	grades := func(v *studio.VisitLine) map[string]float64 {
		room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
		require.NoError(t, err)
		return room.LastGrades
	}
	treat := func(v *studio.VisitLine, events ...guide.Event) {
		require.NoError(t, w.start(t, v.ID))
		require.NoError(t, w.happened(v.ID, events...))
		rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
		require.NoError(t, err)
		_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, rec.Record)
		require.NoError(t, err)
	}
	graded := func(measure, side string, value float64) guide.Event {
		return guide.Event{Kind: guide.Grade, Measure: measure, Side: side, Reading: 1, Value: value}
	}
	w.checked(t, v, nil)
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	treat(&v, graded("puffiness", "left", 2), graded("puffiness", "right", 3), graded("puffiness", "left", 1))
	assert.Empty(t, grades(&v), "nothing before the first")
	taken := graded("redness", "left", 5)
	taken.ID = studio.NewID().String()
	for week := range 2 { // what is graded in between is taken back
		next := w.again(t, v.Client, v.Protocol, w.now.AddDate(0, 0, 7).Format(time.DateOnly))
		w.checked(t, next, nil)
		treat(&next, taken, guide.Event{Kind: guide.Undo, Of: taken.ID})
		assert.Equal(t, map[string]float64{"puffiness/left": 1, "puffiness/right": 3}, grades(&next), "week %d", week)
	}
	last := w.again(t, v.Client, v.Protocol, w.now.AddDate(0, 0, 7).Format(time.DateOnly))
	w.checked(t, last, nil)
	treat(&last, graded("redness", "left", 4))
	assert.Equal(t, map[string]float64{"puffiness/left": 1, "puffiness/right": 3}, grades(&last))
	after := w.again(t, v.Client, v.Protocol, w.now.AddDate(0, 0, 7).Format(time.DateOnly))
	w.checked(t, after, nil)
	require.NoError(t, w.start(t, after.ID))
	assert.Equal(t, map[string]float64{"redness/left": 4}, grades(&after))
}
