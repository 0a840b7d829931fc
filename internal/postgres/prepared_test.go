package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/studio"
	"softpalm/internal/studio/protocols"
)

// A plan is worked out once: whatever changes in the studio after a treatment began
// (a stroke removed, a product's amounts, the client's skin, a new rule), guide and
// record show what was begun; and what was planned is the plan's, whoever writes the
// record.
func TestWhatWasBegunDoesNotChange(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plans, err := w.plans(ctx)
	require.NoError(t, err)
	opened, err := w.svc.Protocols.OpenProtocol(ctx, &w.owner, plans[0].ID)
	require.NoError(t, err)
	own := stroke.Stroke{Manner: stroke.Manner{Name: "Lantern glide", Family: stroke.Effleurage, Hand: "flat palm", Intent: stroke.Soothe}, Relation: stroke.Slides, Glide: stroke.AnyGlide, Pressure: 1,
		Sides: stroke.BothAtOnce, Path: []string{"forehead", "temple"}, Dose: stroke.Dose{Kind: stroke.Clock, Planned: 30}}
	made, err := w.svc.Protocols.SaveStroke(ctx, &w.owner, own, nil)
	require.NoError(t, err)
	body := opened.Draft.Body
	body.Steps = append(body.Steps[:0:0], body.Steps...)
	for i := range body.Steps {
		if body.Steps[i].Phase == "work" {
			s := body.Steps[i]
			s.ID, s.Stroke, s.Path, s.Dose, s.Parts, s.Tool, s.Hand = "lantern", made.Key, nil, nil, nil, nil, ""
			body.Steps[i] = s
			break
		}
	}
	_, err = w.svc.Protocols.SaveDraft(ctx, &w.owner, plans[0].ID, protocols.DraftEdit{Revision: opened.Draft.Revision, BasedOn: opened.Version, Protocol: &body})
	require.NoError(t, err)
	_, err = w.svc.Protocols.Publish(ctx, &w.owner, plans[0].ID)
	require.NoError(t, err)
	client := w.first(t).Client
	v := w.again(t, client, plans[0].ID, w.now.AddDate(0, 0, 1).Format(time.DateOnly)) // one appointment a day
	w.checked(t, v, map[string]contraindication.Answer{"sore-skin": {Yes: true, Zones: []contraindication.ZoneSide{{Zone: "chin", Side: "both"}}}})
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, client, studio.ConsentTreatment, "P. Client", false, signature)
	require.NoError(t, err)
	require.NoError(t, w.start(t, v.ID))
	before, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	record, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	require.NotEmpty(t, record.Record.Uses)
	require.Positive(t, before.Treatment.Demands.TiringMinutes+float64(len(before.Treatment.Evaluation.Steps)))

	w.asOwner(t, "stroke", "delete from stroke where key = $1", made.Key)
	w.asOwner(t, "product", "update product set drops_per_ml = drops_per_ml * 2, ml_per_press = ml_per_press * 3, density = 0.5")
	file, err := w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)
	fields := file.Client.ClientFields
	fields.SkinType, fields.SkinStates = "oily", []string{"sensitive", "couperose"}
	_, err = w.svc.Clients.ChangeClient(ctx, &w.owner, client, w.revision(t, client), fields)
	require.NoError(t, err)
	_, err = w.svc.Checks.SaveRule(ctx, &w.owner, contraindication.Rule{Title: "No foreheads", Group: "today", Stage: contraindication.Consultation, AnswerType: contraindication.Nothing, Why: "w", Basis: "b",
		Outcomes: []contraindication.Outcome{{Kind: contraindication.LeaveOut, Zones: []string{"forehead"}, FromAge: 1}}}, w.saving("", true))
	require.NoError(t, err)

	after, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, before.Treatment.PreparedPlan, after.Treatment.PreparedPlan)
	uses := record.Record.Uses
	for i := range uses {
		uses[i].Planned = dec("999")
	}
	require.NoError(t, w.svc.Treatment.SaveRecord(ctx, &w.owner, v.ID, studio.Record{Note: "n", Uses: uses}))
	again, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	locked, err := w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, studio.Record{Note: "n", Uses: uses, Revision: 1})
	require.NoError(t, err)
	for i, pl := range before.Treatment.Amounts {
		assert.Equal(t, pl.Planned.String(), again.Record.Uses[i].Planned.String(), pl.Product)
		assert.Equal(t, pl.Planned.String(), locked.Record.Uses[i].Planned.String(), pl.Product)
	}
	assert.Equal(t, before.Treatment.Evaluation, locked.Treatment.Evaluation)
}

// A treatment begun by the version before, which did not prepare its plan, is shown
// from the studio as it is now.
func TestATreatmentBegunBeforePlansWerePrepared(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, map[string]contraindication.Answer{"sore-skin": {Yes: true, Zones: []contraindication.ZoneSide{{Zone: "chin", Side: "both"}}}})
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	require.NoError(t, w.start(t, v.ID))
	begun, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	w.asOwner(t, "treatment", `do $$ begin
		alter table treatment disable trigger treatment_prepared;
		set constraints all immediate;
		update treatment set prepared = jsonb_build_object('protocol', prepared -> 'protocol', 'adjustments', prepared -> 'adjustments', 'overrides', prepared -> 'overrides', 'practitioner', prepared -> 'practitioner') where finished_at is null;
		alter table treatment enable trigger treatment_prepared;
	end $$`)
	late, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, begun.Treatment.Protocol.Steps, late.Treatment.Protocol.Steps)
	assert.Equal(t, begun.Treatment.Avoid, late.Treatment.Avoid)
	assert.Equal(t, begun.Treatment.Headline, late.Treatment.Headline)
	require.Len(t, late.Treatment.Amounts, len(begun.Treatment.Amounts))
	for i, pl := range begun.Treatment.Amounts {
		assert.True(t, pl.Planned.Equal(late.Treatment.Amounts[i].Planned), pl.Product)
	}
	assert.NotEqual(t, uuid.Nil, late.Visit.ID)
	record, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.NotEmpty(t, record.Record.Uses)
}
