package postgres_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
	"softpalm/internal/studio/protocols"
	"softpalm/internal/studio/treatment"
)

// What a practitioner overrode at a step is not changed again by another rule without being
// asked: the other rule's change needs a yes of its own, and the record tells both.
func TestOneDecisionAStep(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, map[string]contraindication.Answer{
		"blood-thinners": {Yes: true}, "high-pressure-treated": {Yes: true}, "pressure-wish": {Option: "lighter"},
	})
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	plan := func(want studio.PlanOptions) *studio.Plan {
		p, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, want)
		require.NoError(t, err)
		return p
	}
	first := plan(studio.PlanOptions{})
	want := studio.PlanOptions{}
	var again *adjusting.Adjustment
	for _, c := range first.Adjustments {
		if c.Kind != adjusting.Lowered {
			continue
		}
		want.Overrides = []studio.Override{{Rule: c.Rule, Step: c.Step, Reason: "She asked for it."}}
		for _, x := range plan(want).Adjustments {
			if x.Step == c.Step && x.Kind == adjusting.Lowered && x.Rule != c.Rule {
				again = &x
			}
		}
		if again != nil {
			break
		}
	}
	require.NotNil(t, again, "two rules lower the same step")
	assert.True(t, again.Again)
	assert.False(t, again.Gentler)
	begin := func(yes ...string) error {
		all := treatment.AcceptedAdjustments{Gentler: true, Adjustments: yes}
		for _, c := range plan(want).Adjustments {
			if !c.Again {
				all.Adjustments = append(all.Adjustments, c.ID)
			}
		}
		return w.svc.Treatment.StartTreatment(ctx, &w.owner, v.ID, want, all)
	}
	var state *studio.StateError
	require.ErrorAs(t, begin(), &state)
	assert.Equal(t, "not-accepted", state.Code)
	require.NoError(t, begin(again.ID))
	room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, want.Overrides, room.Treatment.Overrides)
	told := false
	for _, c := range room.Treatment.Adjustments {
		told = told || c.ID == again.ID && c.Again
	}
	assert.True(t, told)
}

// Publishing tells what a draft brings and what becomes of appointments, and asks for a price
// and for time around the hands' work where they lack.
func TestWhatPublishingMeans(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	_, err := w.svc.Protocols.Publishing(ctx, &w.owner, v.Protocol)
	var state *studio.StateError
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "nothing-to-publish", state.Code)
	o, err := w.svc.Protocols.OpenProtocol(ctx, &w.owner, v.Protocol)
	require.NoError(t, err)
	body := o.Draft.Body
	save := func(revision int) {
		_, err := w.svc.Protocols.SaveDraft(ctx, &w.owner, v.Protocol, protocols.DraftEdit{Revision: revision, BasedOn: o.Version, Protocol: &body})
		require.NoError(t, err)
	}
	save(0)
	p, err := w.svc.Protocols.Publishing(ctx, &w.owner, v.Protocol)
	require.NoError(t, err)
	assert.Empty(t, p.Ask)
	assert.Equal(t, o.Version+1, p.Number)
	assert.Positive(t, p.Booked)
	assert.Equal(t, body.Minutes.Treatment+body.Minutes.Reset, p.Minutes)
	assert.Equal(t, body.Price.Amount, p.Gross)
	assert.Equal(t, o.Evaluation.Cost, p.Cost)
	body.Price.Amount, body.Minutes.Treatment = "0", body.Minutes.HandsOn
	save(1)
	p, err = w.svc.Protocols.Publishing(ctx, &w.owner, v.Protocol)
	require.NoError(t, err)
	assert.Equal(t, []string{"price", "minutes"}, p.Ask)
	_, err = w.svc.Protocols.Publishing(ctx, &w.desk, v.Protocol)
	assert.ErrorIs(t, err, studio.ErrForbidden)
}

// A consent is signed by typing one's name only where the studio allows it; what was stated
// with it is part of the text.
func TestSigningByTyping(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.first(t).Client
	sign := func() (*studio.Consent, error) {
		return w.svc.Clients.SignConsent(ctx, &w.owner, client, studio.ConsentTreatment, "Ada Abendroth", false, nil)
	}
	_, err := sign()
	var bad *studio.InputError
	require.ErrorAs(t, err, &bad)
	assert.Equal(t, "/signature", bad.Problems[0].Path)
	s, err := w.svc.House.Settings(ctx, &w.owner)
	require.NoError(t, err)
	assert.False(t, s.TypedSignatures)
	s.TypedSignatures = true
	_, err = w.svc.House.ChangeSettings(ctx, &w.owner, s.Revision, s.Settings)
	require.NoError(t, err)
	c, err := sign()
	require.NoError(t, err)
	assert.Empty(t, c.Signature)
	assert.Contains(t, c.Body, "Signed by typing the name Ada Abendroth.")
	f, err := w.file(ctx, &w.owner, client)
	require.NoError(t, err)
	assert.Equal(t, c.Body, f.Consents[0].Body)
}
