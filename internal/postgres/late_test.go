package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
)

// A client who comes late gets the plan fitted to what is left; the sold end stays.
func TestALateClientsPlanIsFitted(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, map[string]contraindication.Answer{})
	now, err := w.svc.Diary.Visit(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Nil(t, now.Late)
	w.now = v.StartsAt.Add(12 * time.Minute)
	now, err = w.svc.Diary.Visit(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	require.NotNil(t, now.Late)
	assert.Equal(t, series.Lateness{Minutes: 12, HandsOn: 33, Advice: series.FitPlan}, *now.Late)
	whole, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	assert.Nil(t, whole.Fitted)
	fitted, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{HandsOn: now.Late.HandsOn})
	require.NoError(t, err)
	require.NotNil(t, fitted.Fitted)
	assert.Equal(t, 33, fitted.Fitted.Minutes)
	assert.Positive(t, fitted.Fitted.Shorter+len(fitted.Fitted.LeftOut))
	if fitted.Fitted.OverBy == 0 {
		assert.LessOrEqual(t, fitted.Evaluation.Seconds, 33*60.0)
	}
	assert.Less(t, fitted.Evaluation.Seconds, whole.Evaluation.Seconds)
	w.now = v.StartsAt.Add(30 * time.Minute)
	now, err = w.svc.Diary.Visit(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, series.ChooseNew, now.Late.Advice)
}

// The studio tells that it is late, before a client sets out: once for each number of minutes, from 20
// on with something offered.
func TestTheStudioIsLate(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	day, err := w.svc.Diary.Day(ctx, &w.owner, "2026-11-24")
	require.NoError(t, err)
	v := day.Visits[len(day.Visits)-1]
	require.NoError(t, w.svc.Portal.TellRunningLate(ctx, &w.desk, v.ID, 10, ""))
	require.NoError(t, w.svc.Portal.TellRunningLate(ctx, &w.desk, v.ID, 10, ""))
	all := w.told(t, v.ClientName)
	require.Len(t, all, 1)
	assert.Contains(t, all[0].Body, "10 minutes late")
	var input *studio.InputError
	require.ErrorAs(t, w.svc.Portal.TellRunningLate(ctx, &w.desk, v.ID, 20, " "), &input)
	require.NoError(t, w.svc.Portal.TellRunningLate(ctx, &w.desk, v.ID, 20, "The hand massage is on us."))
	assert.Contains(t, w.newest(t).Body, "on us")
	w.now = v.StartsAt
	var state *studio.StateError
	require.ErrorAs(t, w.svc.Portal.TellRunningLate(ctx, &w.desk, v.ID, 30, "Tea"), &state)
}
