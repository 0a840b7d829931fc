package postgres_test

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/reaction"
	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/treatment"
)

// reacted records a reaction noticed now.
func (w *world) reacted(t *testing.T, v studio.VisitLine, grade int, zones ...contraindication.ZoneSide) *treatment.ReactionView {
	t.Helper()
	r, err := w.svc.Treatment.OpenReaction(context.Background(), &w.owner, v.Client, treatment.NewReaction{
		ID: uuid.New(), Visit: &v.ID, NoticedBy: "the client", Kind: "rash", Zones: zones, Grade: grade,
	})
	require.NoError(t, err)
	return r
}

// barOf is what a reaction says of a product.
func barOf(r *treatment.ReactionView, product string) reaction.Bar {
	i := slices.IndexFunc(r.Products, func(p studio.ReactionProduct) bool { return p.Product == product })
	if i < 0 {
		return ""
	}
	return r.Products[i].Bar
}

// A moderate reaction bars what lay on the skin until a patch test of later days reads negative; once the record is
// signed the lots are known; it is asked again after 24, 72 and 168 hours between nine and seven (handbook, chapter 7,
// The record).
func TestAReactionIsFollowedUp(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, rec := w.recording(t)
	product := rec.Uses[0].Product
	r := w.reacted(t, v, 2)
	assert.Equal(t, reaction.BlockedUntilPatch, barOf(r, product))
	assert.Empty(t, r.Products[0].Lot, "the record is still open")
	require.Len(t, r.FollowUp, 3)
	_, err := w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, *rec)
	require.NoError(t, err)
	list, err := w.svc.Treatment.Reactions(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	require.Len(t, list, 1)
	i := slices.IndexFunc(list[0].Products, func(p studio.ReactionProduct) bool { return p.Product == product })
	lot := list[0].Products[i].Lot
	require.NotEmpty(t, lot, "now the record says which lots lay on the skin")
	assert.False(t, list[0].Products[i].SetAside, "one moderate reaction sets no lot aside")

	wants := func() (untested, excluded bool) {
		next := studio.VisitLine{Visit: v.Visit}
		next.StartsAt = w.now.Add(48 * time.Hour)
		line := w.line(t, product)
		require.NoError(t, w.db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error {
			st, err := tx.Studio(ctx)
			require.NoError(t, err)
			needs, err := w.svc.Checks.NeedsPatch(ctx, tx, st, &next)
			untested = slices.ContainsFunc(needs, func(n studio.Named) bool { return n.Key == product })
			require.NoError(t, err)
			bar, err := w.svc.Checks.BarTo(ctx, tx, st, v.Client, &line.Product.Product)
			excluded = bar != ""
			return err
		}))
		return untested, excluded
	}
	untested, excluded := wants()
	assert.True(t, untested && excluded)

	w.now = w.now.Add(time.Hour)
	p, err := w.svc.Checks.ApplyPatchTest(ctx, &w.owner, v.Client, checks.NewPatchTest{Product: product, Lot: lot, Place: "arm", Months: 6})
	require.NoError(t, err)
	w.now = w.now.Add(24 * time.Hour)
	inbox, err := w.svc.Checks.Inbox(ctx, &w.owner)
	require.NoError(t, err)
	assert.Equal(t, studio.FollowUpDue, inbox[0].Kind, "how somebody's skin is comes first")
	require.NoError(t, w.svc.Checks.ReadPatchTest(ctx, &w.owner, p.ID, patch.Reading{Hours: 24, Grade: patch.Negative}))
	untested, excluded = wants()
	assert.False(t, untested || excluded, "a test applied after the reaction reads negative")

	grade := 1
	after, err := w.svc.Treatment.AnswerFollowUp(ctx, &w.owner, r.ID, r.FollowUp[0].N, treatment.FollowUpAnswer{Now: reaction.Better, Grade: &grade})
	require.NoError(t, err)
	assert.Equal(t, 2, after.Grade, "the worst so far stays")
	again, err := w.svc.Treatment.AnswerFollowUp(ctx, &w.owner, r.ID, r.FollowUp[0].N, treatment.FollowUpAnswer{Now: reaction.Gone})
	require.NoError(t, err)
	assert.Nil(t, again.ClosedAt, "a repeat changes nothing")
	after, err = w.svc.Treatment.AnswerFollowUp(ctx, &w.owner, r.ID, r.FollowUp[1].N, treatment.FollowUpAnswer{Now: reaction.Gone})
	require.NoError(t, err)
	assert.Equal(t, reaction.Settled, after.Outcome)
	assert.Nil(t, after.Next())
}

// A severe reaction blocks the products for good and sets their lots aside for everybody; other clients who had them
// are listed; recorded by mistake, the products are allowed again.
func TestASevereReactionSetsLotsAside(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, rec := w.recording(t)
	_, err := w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, *rec)
	require.NoError(t, err)
	r := w.reacted(t, v, 1)
	product := rec.Uses[0].Product
	assert.Equal(t, reaction.Ask, barOf(r, product))
	grade := 3
	r, err = w.svc.Treatment.AnswerFollowUp(ctx, &w.owner, r.ID, r.FollowUp[0].N, treatment.FollowUpAnswer{Now: reaction.Worse, Grade: &grade})
	require.NoError(t, err)
	assert.Equal(t, reaction.Blocked, barOf(r, product))
	assert.Len(t, r.FollowUp, 6, "one that was made, and those of a severe one from now on")
	assert.True(t, r.Products[0].SetAside)
	blocked := w.count(t, "select count(*) from pack where lot_id = '"+r.Products[0].LotID.String()+"' and blocked <> ''")
	assert.Positive(t, blocked)

	_, err = w.svc.Treatment.CloseReaction(ctx, &w.owner, r.ID, reaction.Mistake, "")
	var input *studio.InputError
	require.ErrorAs(t, err, &input, "a mistake is explained")
	r, err = w.svc.Treatment.CloseReaction(ctx, &w.owner, r.ID, reaction.Mistake, "Another client.")
	require.NoError(t, err)
	assert.Equal(t, reaction.Free, barOf(r, product))
	assert.Equal(t, blocked, w.count(t, "select count(*) from pack where lot_id = '"+r.Products[0].LotID.String()+"' and blocked <> ''"), "somebody lets the lot be used")

	report, err := w.svc.Treatment.ReactionReport(ctx, &w.owner, r.ID)
	require.NoError(t, err)
	assert.Empty(t, report.ClientName)
	assert.Empty(t, report.Others)
	assert.NotEmpty(t, report.Initials)
	_, err = w.svc.Treatment.ReactionReport(ctx, &w.desk, r.ID)
	require.ErrorIs(t, err, studio.ErrForbidden)
}

// A reaction sent twice at once is one; who is deleted leaves none; a follow-up without anybody reached is made the
// next day, within the hours in which one calls.
func TestAReactionIsOpenedOnce(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	n := treatment.NewReaction{ID: uuid.New(), NoticedBy: "the client", Kind: "itching", Grade: 4}
	errs := together(5, func(int) error {
		_, err := w.svc.Treatment.OpenReaction(ctx, &w.owner, v.Client, n)
		return err
	})
	assert.Positive(t, harmless(t, errs, studio.ErrExists, studio.ErrTryAgain))
	assert.Equal(t, 1, w.count(t, "select count(*) from reaction"))
	list, err := w.svc.Treatment.Reactions(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	r := list[0]
	require.Len(t, r.FollowUp, 4)
	assert.Equal(t, 4*time.Hour, r.FollowUp[0].DueAt.Sub(r.NoticedAt).Truncate(time.Minute), "this one is not moved")
	for range 2 {
		next := r.Next()
		w.now = next.DueAt.Add(time.Minute)
		after, err := w.svc.Treatment.AnswerFollowUp(ctx, &w.owner, r.ID, next.N, treatment.FollowUpAnswer{Now: reaction.NotReached})
		require.NoError(t, err)
		require.NotNil(t, after.Next(), "it stays open")
		assert.LessOrEqual(t, after.Next().DueAt.Sub(w.now), 38*time.Hour)
		r = *after
	}
	_, err = w.svc.Treatment.OpenReaction(ctx, &w.owner, v.Client, treatment.NewReaction{ID: uuid.New(), Noticed: "2099-01-01T10:00", NoticedBy: "x", Kind: "rash"})
	var input *studio.InputError
	require.ErrorAs(t, err, &input)
	assert.Equal(t, "/noticed", input.Problems[0].Path)
	file, err := w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	require.NoError(t, w.svc.Clients.EraseClient(ctx, &w.owner, v.Client, file.Client.Name))
	assert.Zero(t, w.count(t, "select (select count(*) from reaction) + (select count(*) from follow_up) + (select count(*) from reaction_product)"))
}

// A trainee's record is locked by their signature and complete with somebody else's; the day page says so until then.
func TestATraineesRecordIsSignedTwice(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, rec := w.recording(t)
	_, trainee := w.account(t, w.owner.Studio, studio.Trainee, &v.Practitioner)
	_, err := w.svc.Treatment.Countersign(ctx, &w.owner, v.ID)
	var state *studio.StateError
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "record-open", state.Code)
	locked, err := w.svc.Treatment.SignAndLock(ctx, trainee, v.ID, *rec)
	require.NoError(t, err)
	assert.True(t, locked.Signature.NeedsSecond)
	assert.Nil(t, locked.Signature.Second)
	_, err = w.svc.Treatment.Countersign(ctx, trainee, v.ID)
	require.ErrorIs(t, err, studio.ErrForbidden)
	waits := func() bool {
		inbox, err := w.svc.Checks.Inbox(ctx, &w.owner)
		require.NoError(t, err)
		return slices.ContainsFunc(inbox, func(i studio.InboxItem) bool { return i.Kind == studio.SecondToSign && i.ID == v.ID })
	}
	assert.True(t, waits())
	for range 2 {
		locked, err = w.svc.Treatment.Countersign(ctx, &w.owner, v.ID)
		require.NoError(t, err)
	}
	assert.Equal(t, w.owner.Name, locked.Signature.Second.By)
	assert.True(t, locked.Signature.Whole)
	assert.False(t, waits())
}

// What is not signed is the practitioner's to see at once, marked after a day, and the owner's after three (handbook,
// chapter 7, The record).
func TestUnsignedRecordsAreShown(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, _ := w.recording(t)
	_, own := w.account(t, w.owner.Studio, studio.Practitioner, &v.Practitioner)
	_, other := w.account(t, w.owner.Studio, studio.Owner, nil)
	shown := func(a *studio.Actor) (there, overdue bool) {
		inbox, err := w.svc.Checks.Inbox(ctx, a)
		require.NoError(t, err)
		i := slices.IndexFunc(inbox, func(i studio.InboxItem) bool { return i.Kind == studio.RecordToSign && i.ID == v.ID })
		return i >= 0, i >= 0 && inbox[i].Overdue
	}
	for _, c := range []struct {
		after               time.Duration
		own, marked, owners bool
	}{{time.Minute, true, false, false}, {24 * time.Hour, true, true, false}, {71 * time.Hour, true, true, false}, {72 * time.Hour, true, true, true}} {
		w.now = v.EndsAt.Add(c.after)
		there, overdue := shown(own)
		owners, _ := shown(other)
		assert.Equal(t, []bool{c.own, c.marked, c.owners}, []bool{there, overdue, owners}, c.after)
	}
}

// A correction names its field, shows what was signed beside what is right, and changes neither.
func TestAFieldIsCorrected(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, rec := w.recording(t)
	locked, err := w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, *rec)
	require.NoError(t, err)
	field := locked.Correctable[0]
	before := w.line(t, rec.Uses[0].Product).Remaining
	added, err := w.svc.Treatment.AddToRecord(ctx, &w.owner, v.ID, treatment.NewAddition{Field: field.Field, Right: "4 mL"})
	require.NoError(t, err)
	assert.Equal(t, []string{field.Was, "4 mL"}, []string{added.Additions[0].Was, added.Additions[0].Right})
	assert.True(t, added.Signature.Whole)
	assert.Equal(t, locked.Record, added.Record)
	assert.True(t, before.Equal(w.line(t, rec.Uses[0].Product).Remaining))
	for _, wrong := range []treatment.NewAddition{{Field: field.Field}, {Field: "price", Right: "2"}} {
		_, err = w.svc.Treatment.AddToRecord(ctx, &w.owner, v.ID, wrong)
		var input *studio.InputError
		require.ErrorAs(t, err, &input)
	}
}

// An incident is recorded once, with the record open or locked.
func TestAnIncidentIsRecorded(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, rec := w.recording(t)
	i := treatment.NewIncident{ID: uuid.New(), Kind: "broken-tool", Body: "The stone fell.", Told: "the owner"}
	for range 2 {
		got, err := w.svc.Treatment.AddIncident(ctx, &w.owner, v.ID, i)
		require.NoError(t, err)
		require.Len(t, got.Incidents, 1)
	}
	_, err := w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, *rec)
	require.NoError(t, err)
	i.ID = uuid.New()
	got, err := w.svc.Treatment.AddIncident(ctx, &w.owner, v.ID, i)
	require.NoError(t, err)
	assert.Len(t, got.Incidents, 2)
	i.ID, i.Body = uuid.New(), " "
	_, err = w.svc.Treatment.AddIncident(ctx, &w.owner, v.ID, i)
	var input *studio.InputError
	require.ErrorAs(t, err, &input)
}

// What was taken from a record for the next time is read with the next plan of the same protocol, in its words.
func TestATakenProposalReachesTheNextPlan(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, rec := w.recording(t)
	room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	first := room.Treatment.Evaluation.Steps[0].ID
	require.NoError(t, w.happened(v.ID, guide.Event{Kind: guide.Begin, Spell: guide.SpellKey(first, 1)}))
	_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, *rec)
	require.NoError(t, err)
	_, err = w.svc.Treatment.AnswerProposal(ctx, &w.owner, v.ID, "baseline", "", true)
	require.NoError(t, err)
	require.NoError(t, w.db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error {
		taken, at, err := tx.(*postgres.Tx).TakenProposals(ctx, v.Client, v.Protocol, v.StartsAt.AddDate(0, 0, 7))
		require.NoError(t, err)
		assert.Equal(t, []string{"Measure before the first stroke next time, so that changes can be seen"}, taken)
		assert.True(t, at.Equal(v.StartsAt))
		taken, _, err = tx.(*postgres.Tx).TakenProposals(ctx, v.Client, uuid.New(), v.StartsAt.AddDate(0, 0, 7))
		assert.Empty(t, taken, "another protocol is another plan")
		return err
	}))
}
