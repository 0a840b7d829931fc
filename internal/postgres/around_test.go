package postgres_test

import (
	"context"
	"database/sql"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/studio"
	"softpalm/internal/studio/protocols"
	"softpalm/internal/studio/shelf"
	"softpalm/internal/studio/treatment"
)

// asOwner runs a statement as the database's owner, with a table's row security
// set aside: for what the application offers no way to do.
func (w *world) asOwner(t *testing.T, table, query string, args ...any) {
	t.Helper()
	owner, err := sql.Open("pgx", w.ownerURL)
	require.NoError(t, err)
	defer owner.Close()
	for _, q := range []string{"alter table " + table + " no force row level security", query, "alter table " + table + " force row level security"} {
		if q == query {
			_, err = owner.Exec(q, args...)
		} else {
			_, err = owner.Exec(q)
		}
		require.NoError(t, err, q)
	}
}

// findings are those of a visit's plan that carry a code.
func (w *world) findings(t *testing.T, visit uuid.UUID, hands adjusting.PractitionerState, code evaluation.Code) []evaluation.Finding {
	t.Helper()
	p, err := w.svc.Checks.PlanFor(context.Background(), &w.owner, visit, studio.PlanOptions{Practitioner: hands})
	require.NoError(t, err)
	out := []evaluation.Finding{}
	for _, f := range p.Evaluation.Findings {
		if f.Code == code {
			out = append(out, f)
		}
	}
	return out
}

// treated gives a visit of today from the door to the closed record, with yes to
// the answers given.
func (w *world) treated(t *testing.T, v studio.VisitLine, yes map[string]contraindication.Answer) {
	t.Helper()
	ctx := context.Background()
	w.checked(t, v, yes)
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	require.NoError(t, w.start(t, v.ID))
	rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, rec.Record)
	require.NoError(t, err)
}

// again books a client for a protocol on a day and goes there.
func (w *world) again(t *testing.T, client, plan uuid.UUID, day string) studio.VisitLine {
	t.Helper()
	ctx := context.Background()
	free, err := w.svc.Diary.FreeTimes(ctx, &w.owner, studio.FreeQuery{Protocol: plan, Client: &client, From: day, Days: 1})
	require.NoError(t, err)
	require.NotEmpty(t, free)
	v, err := w.svc.Diary.Book(ctx, &w.owner, studio.NewVisit{ID: uuid.New(), Client: client, Practitioner: free[0].Practitioner, Room: free[0].Room, Protocol: plan, Start: free[0].Start})
	require.NoError(t, err)
	w.now = v.StartsAt.Add(-10 * time.Minute)
	return *v
}

// Exfoliating at most weekly (handbook, chapter 3): what the client had here four
// days ago is found when the plan is made, a week later it is not.
func TestWhatTheSkinHadLately(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	shelf, err := w.svc.Shelf.Shelf(ctx, &w.owner)
	require.NoError(t, err)
	p, err := w.svc.Protocols.OpenProtocol(ctx, &w.owner, v.Protocol)
	require.NoError(t, err)
	for _, l := range shelf {
		for _, s := range p.Draft.Body.Steps {
			if s.Use != nil && s.Use.Product == l.Product.Key && l.Product.Key == "oat-milk" {
				require.NoError(t, w.svc.Shelf.SaveContents(ctx, &w.owner, l.Product.ID, studio.RevisedContents{Contents: studio.Contents{Tags: []string{"Scrub", "scrub"}, Ingredients: l.Product.Ingredients}, Revision: w.contentsRevision(t, l.Product.ID)}))
			}
		}
	}
	w.checked(t, v, nil)
	assert.Empty(t, w.findings(t, v.ID, adjusting.PractitionerState{}, evaluation.TooOften), "nothing lately")
	w.treated(t, v, nil)
	for _, c := range []struct {
		day   string
		found int
	}{{"2026-11-30", 1}, {"2026-12-01", 0}} { // six and seven days after 24 November
		n := w.again(t, v.Client, v.Protocol, c.day)
		w.checked(t, n, nil)
		found := w.findings(t, n.ID, adjusting.PractitionerState{}, evaluation.TooOften)
		require.Len(t, found, c.found, c.day)
		if c.found > 0 {
			assert.Equal(t, "exfoliation", found[0].Values.(*evaluation.Again).What)
		}
		_, err = w.svc.Diary.SetVisitState(ctx, &w.owner, n.ID, studio.Cancelled, "asked to")
		require.NoError(t, err)
	}
}

// What a product is made of is kept tidy, and its tags as rules write them.
func TestWhatAProductIsMadeOf(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	id, err := w.svc.Shelf.AddProduct(ctx, &w.owner, shelf.NewProduct{
		FileProduct: studio.FileProduct{Name: "Bees in the attic", Form: "balm", FullDose: 3, RangeMin: 2, RangeMax: 4, Tags: []string{"Honey", " our Own group", "bees", ""}, Ingredients: []string{" Cera Alba ", "", "Juglans Regia Seed Oil", "Cera Alba"}},
		Unit:        "g", PackSize: decimal.NewFromInt(50), Price: decimal.NewFromInt(10)})
	require.NoError(t, err)
	of := func() studio.Product {
		lib, err := w.svc.Protocols.Library(ctx, &w.owner)
		require.NoError(t, err)
		for _, p := range lib.Products {
			if p.ID == id {
				return p
			}
		}
		t.Fatal("the product is not there")
		return studio.Product{}
	}
	p := of()
	assert.Equal(t, []string{"bee-product", "our-own-group"}, p.Tags)
	assert.Equal(t, []string{"Cera Alba", "Juglans Regia Seed Oil"}, p.Ingredients)
	assert.Equal(t, []string{"bee-product", "our-own-group", "nut-oil"}, p.AllTags(), "the walnut brings its own")
	require.NoError(t, w.svc.Shelf.SaveContents(ctx, &w.owner, id, studio.RevisedContents{Contents: studio.Contents{Unsuited: []string{"oily", "oily"}}, Revision: w.contentsRevision(t, id)}))
	p = of()
	assert.Empty(t, p.Tags)
	assert.Equal(t, []string{"oily"}, p.Unsuited)
	var bad *studio.InputError
	many := make([]string, 201)
	for i := range many {
		many[i] = fmt.Sprint("ingredient ", i)
	}
	require.ErrorAs(t, w.svc.Shelf.SaveContents(ctx, &w.owner, id, studio.RevisedContents{Contents: studio.Contents{Ingredients: many}, Revision: w.contentsRevision(t, id)}), &bad)
	require.ErrorIs(t, w.svc.Shelf.SaveContents(ctx, &w.desk, id, studio.RevisedContents{Contents: studio.Contents{}, Revision: w.contentsRevision(t, id)}), studio.ErrForbidden)
	require.ErrorIs(t, w.svc.Shelf.SaveContents(ctx, &w.owner, uuid.New(), studio.RevisedContents{Contents: studio.Contents{}, Revision: w.contentsRevision(t, uuid.New())}), studio.ErrNotFound)
}

// Tools in use or being cleaned are found in the plan of the visit that wants them
// (handbook, chapter 4), as long as no piece is free; so is a day of hard work for
// the practitioner's thumbs.
func TestToolsAndHandsOfTheDay(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	stones := []studio.VisitLine{}
	for _, v := range day.Visits {
		if strings.HasPrefix(v.ProtocolName, "Stone work") {
			stones = append(stones, v)
		}
	}
	require.GreaterOrEqual(t, len(stones), 3, "the demo's day has three with stones, at 9:30, 13:00 and 14:00")
	last := stones[2]
	w.now = last.StartsAt.Add(-5 * time.Minute)
	w.checked(t, last, nil)
	busy := func(pieces, readyAfter int) []evaluation.Finding {
		w.asOwner(t, "tool", "update tool set body = body || jsonb_build_object('pieces', $1::int, 'readyAfter', $2::int) where key = 'stone-plate'", pieces, readyAfter)
		return w.findings(t, last.ID, adjusting.PractitionerState{}, evaluation.ToolBusy)
	}
	assert.Empty(t, busy(4, 20), "four of them, one still in use")
	assert.Empty(t, busy(1, 0), "one, wiped when the visit before ends")
	gap := last.StartsAt.Sub(stones[1].EndsAt).Minutes()
	assert.Empty(t, busy(2, int(gap)+60), "the morning's piece has long been clean")
	found := busy(1, int(gap)+60)
	require.Len(t, found, 1, "once for the tool")
	assert.Greater(t, len(found[0].Steps), 1, "with every step that wants it too early")
	minutes := found[0].Values.(*evaluation.ToolInUse).Minutes
	assert.LessOrEqual(t, minutes, 60.0)
	assert.Greater(t, minutes, 0.0)
	require.NotEmpty(t, busy(2, 600), "both are being cleaned")
}

// The practitioner's own side (handbook, chapter 5): a cold sore of one's own
// begins no treatment; long nails lead to other hands, which want a yes and stay
// in the record.
func TestThePractitionersOwnSide(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	o, err := w.svc.Protocols.OpenProtocol(ctx, &w.owner, v.Protocol)
	require.NoError(t, err)
	body := o.Draft.Body
	for i := range body.Steps {
		if body.Steps[i].Stroke == "jaw-sweep" {
			body.Steps[i].Stroke, body.Steps[i].Path = "jaw-hook", nil
		}
	}
	_, err = w.svc.Protocols.SaveDraft(ctx, &w.owner, v.Protocol, protocols.DraftEdit{Revision: 0, BasedOn: o.Version, Protocol: &body})
	require.NoError(t, err)
	version, err := w.svc.Protocols.Publish(ctx, &w.owner, v.Protocol)
	require.NoError(t, err)
	w.asOwner(t, "visit", "update visit set protocol_version = $1 where id = $2", version, v.ID)
	w.checked(t, v, nil)
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)

	var state *studio.StateError
	require.ErrorAs(t, w.svc.Treatment.StartTreatment(ctx, &w.owner, v.ID, studio.PlanOptions{Practitioner: adjusting.PractitionerState{Unwell: true}}, treatment.AcceptedAdjustments{Gentler: true}), &state)
	assert.Equal(t, "not-your-hands", state.Code)

	long := studio.PlanOptions{Practitioner: adjusting.PractitionerState{LongNails: true}}
	p, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	for _, c := range p.Adjustments {
		assert.True(t, c.Skin, "short nails change nothing: %+v", c)
	}
	p, err = w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, long)
	require.NoError(t, err)
	require.NotEmpty(t, p.Adjustments)
	assert.Equal(t, adjusting.OtherHand, p.Adjustments[0].Kind)
	assert.NotContains(t, p.OverridableAdjustments, p.Adjustments[0].ID)
	require.ErrorAs(t, w.svc.Treatment.StartTreatment(ctx, &w.owner, v.ID, long, treatment.AcceptedAdjustments{Gentler: true}), &state)
	assert.Equal(t, "not-accepted", state.Code, "knuckles want a yes of their own")
	all := treatment.AcceptedAdjustments{Gentler: true}
	for _, c := range p.Adjustments {
		all.Adjustments = append(all.Adjustments, c.ID)
	}
	require.NoError(t, w.svc.Treatment.StartTreatment(ctx, &w.owner, v.ID, long, all))
	room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, long.Practitioner, room.Treatment.Practitioner, "what was said stays with the treatment")
	assert.Equal(t, len(p.Adjustments), len(room.Treatment.Adjustments))
	hand := ""
	for _, r := range room.Treatment.Evaluation.Steps {
		if r.StrokeKey == "jaw-hook" {
			hand = r.Hand
		}
	}
	assert.Equal(t, "fist knuckles", hand)
}

// The plan of a visit is the protocol for the client's skin (handbook, variants by
// skin type): told with its reasons, begun without a yes to each, left out when the
// practitioner says so; a change of the file's skin is a change of the plan.
func TestThePlanIsForTheClientsSkin(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t) // a client with dry skin
	w.checked(t, v, nil)
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	p, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	assert.Equal(t, []string{"Dry"}, p.SkinVariants)
	require.NotEmpty(t, p.Adjustments)
	for _, c := range p.Adjustments {
		assert.True(t, c.Skin)
		assert.NotContains(t, p.OverridableAdjustments, c.ID)
	}
	for _, f := range p.Evaluation.Findings {
		assert.NotEqual(t, evaluation.GlideThin, f.Code, "product goes on again in time")
	}
	assert.LessOrEqual(t, p.Evaluation.Seconds, float64(p.Evaluation.SlotSeconds)+0.5)
	any, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{SkipSkinVariants: true})
	require.NoError(t, err)
	assert.Empty(t, any.Adjustments)
	assert.Equal(t, []string{"Dry"}, any.SkinVariants, "it can be taken up again")

	file, err := w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	fields := file.Client.ClientFields
	fields.SkinType = "normal"
	_, err = w.svc.Clients.ChangeClient(ctx, &w.owner, v.Client, w.revision(t, v.Client), fields)
	require.NoError(t, err)
	normal, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	assert.Empty(t, normal.SkinVariants)
	fields.SkinType = "dry"
	_, err = w.svc.Clients.ChangeClient(ctx, &w.owner, v.Client, w.revision(t, v.Client), fields)
	require.NoError(t, err)
	require.NoError(t, w.svc.Treatment.StartTreatment(ctx, &w.owner, v.ID, studio.PlanOptions{}, treatment.AcceptedAdjustments{}), "no yes is asked for what the protocol says itself")
	room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, p.Protocol.Steps, room.Treatment.Protocol.Steps)
	assert.NotEmpty(t, room.Treatment.Adjustments, "and the record shows why")
}

// A adjusted plan tells by what it leaves out: an erased client's treatments keep
// the plan as it was published, and what they used and cost.
func TestAnErasedClientsPlansTellNothing(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.treated(t, v, map[string]contraindication.Answer{"sore-skin": {Yes: true, Zones: []contraindication.ZoneSide{{Zone: "cheekbone", Side: "left"}}}, "blood-thinners": {Yes: true}})
	published, err := w.svc.Protocols.OpenProtocol(ctx, &w.owner, v.Protocol)
	require.NoError(t, err)
	before, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	require.NotEqual(t, published.Draft.Body.Steps, before.Treatment.Protocol.Steps)
	require.NotEmpty(t, before.Treatment.Adjustments)
	require.NoError(t, w.svc.Clients.EraseClient(ctx, &w.owner, v.Client, v.ClientName))
	after, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, published.Draft.Body.Steps, after.Treatment.Protocol.Steps)
	assert.Empty(t, after.Treatment.Adjustments)
	assert.Nil(t, after.Treatment.PreCheck)
	assert.Equal(t, before.Record.Uses, after.Record.Uses)
	assert.Equal(t, before.Cost.String(), after.Cost.String())
	assert.Equal(t, "Deleted client", after.Visit.ClientName)
}
