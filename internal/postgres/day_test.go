package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
)

// A treatment begins on the day of its appointment. On another day an owner can begin it
// with a reason, which the record keeps and the audit log tells of; nobody else can.
func TestATreatmentBeginsOnItsDay(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.now = w.now.Add(24 * time.Hour)
	w.checked(t, v, nil)
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	begin := func(a studio.Actor, reason string) error {
		p, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
		require.NoError(t, err)
		all := treatment.AcceptedAdjustments{Gentler: true}
		for _, c := range p.Adjustments {
			all.Adjustments = append(all.Adjustments, c.ID)
		}
		return w.svc.Treatment.StartTreatment(ctx, &a, v.ID, studio.PlanOptions{OtherDay: reason}, all)
	}
	practitioner := w.owner
	practitioner.Role = studio.Practitioner
	for _, who := range []studio.Actor{w.owner, practitioner} {
		var state *studio.StateError
		require.ErrorAs(t, begin(who, "  "), &state)
		assert.Equal(t, "other-day", state.Code)
		assert.Contains(t, state.Sentence.Message, v.StartsAt.In(w.now.Location()).Format(time.DateOnly))
	}
	require.ErrorIs(t, begin(practitioner, "The train was late."), studio.ErrForbidden)
	var bad *studio.InputError
	require.ErrorAs(t, begin(w.owner, "late"), &bad)
	assert.Equal(t, "/otherDay", bad.Problems[0].Path)
	require.NoError(t, begin(w.owner, "The train was late."))
	room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, "The train was late.", room.Treatment.OtherDay)
	log, err := w.svc.House.AuditLog(ctx, &w.owner, time.Time{})
	require.NoError(t, err)
	told := false
	for _, l := range log {
		told = told || l.Action == "overrule" && l.At.Equal(w.now)
	}
	assert.True(t, told)
}
