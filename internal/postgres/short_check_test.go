package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
)

// A private link lives until the appointment it is for, moves with it, is sent by who makes
// it where that is wished, and lasts three days where there is no appointment.
func TestALinkLivesUntilItsAppointment(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.client(t, "Kaia")
	v := w.next(t, client)
	link, err := w.svc.Checks.NewLink(ctx, &w.owner, client, false)
	require.NoError(t, err)
	require.NotNil(t, link.For)
	assert.Equal(t, v.StartsAt, *link.For)
	assert.Equal(t, v.StartsAt, link.Until)
	assert.Contains(t, link.Message, link.Token)
	assert.Empty(t, link.SentTo)
	list, err := w.svc.Portal.Messages(ctx, &w.owner)
	require.NoError(t, err)
	assert.Empty(t, list.Messages, "nothing is sent unasked")

	sent, err := w.svc.Checks.NewLink(ctx, &w.owner, client, true)
	require.NoError(t, err)
	assert.NotEmpty(t, sent.SentTo)
	assert.Equal(t, sent.Message, w.newest(t).Body)

	free, err := w.svc.Diary.FreeTimes(ctx, &w.owner, studio.FreeQuery{Protocol: v.Protocol, Client: &client, From: v.StartsAt.AddDate(0, 0, 3).Format(time.DateOnly), Days: 4})
	require.NoError(t, err)
	require.NotEmpty(t, free)
	_, err = w.svc.Diary.MoveVisit(ctx, &w.owner, v.ID, studio.NewVisit{Practitioner: free[0].Practitioner, Room: free[0].Room, Start: free[0].Start})
	require.NoError(t, err)
	assert.Equal(t, free[0].Start.UTC(), w.newestOf(t, studio.ConsultationMessage).Until.UTC(), "the message keeps its text as long")
	open := func() error {
		_, err := w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: sent.Token, From: "phone"})
		return err
	}
	w.now = v.StartsAt.Add(time.Minute)
	require.NoError(t, open())
	w.now = free[0].Start
	require.ErrorIs(t, open(), checks.ErrLink)

	nobody, err := w.svc.Clients.AddClient(ctx, &w.owner, studio.ClientFields{Name: "New Person", Email: "new@example.org", SkinStates: []string{}})
	require.NoError(t, err)
	link, err = w.svc.Checks.NewLink(ctx, &w.owner, nobody.ID, false)
	require.NoError(t, err)
	assert.Nil(t, link.For)
	assert.Equal(t, w.now.Add(checks.LinkLength), link.Until)
	assert.Equal(t, w.now.Add(60*24*time.Hour), checks.LinkEnd(w.now.AddDate(1, 0, 0), w.now), "not for ever")
}

// What was gone through at a consultation of today is not asked again at the check of today,
// and counts; the day after, it is asked. A no said for many questions at once keeps which.
func TestNothingOfTodayIsAskedTwice(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	told := noTo(w, contraindication.Consultation)
	told["peel"] = contraindication.Answer{Yes: true, Day: "2026-11-20"}
	w.consult(t, v.Client, told, studio.ClientHistory{})
	asked := func() map[string]bool {
		q, err := w.svc.Checks.QuestionsFor(ctx, &w.owner, v.Client)
		require.NoError(t, err)
		assert.NotEmpty(t, q.Spoken)
		out := map[string]bool{}
		for _, r := range q.PreCheck {
			out[r.ID] = true
		}
		return out
	}
	now := asked()
	assert.True(t, now["fever"])
	assert.False(t, now["peel"])
	assert.False(t, now["filler"])
	answers := map[string]contraindication.Answer{}
	together := []string{"not-a-rule"}
	for id := range now {
		answers[id] = contraindication.Answer{}
		together = append(together, id)
	}
	answers["hay-fever"] = contraindication.Answer{Yes: true}
	c, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, &v.ID, answers, nil, together)
	require.NoError(t, err)
	assert.Equal(t, contraindication.NotBefore, c.Result.Headline, "the peel of four days ago counts")
	assert.Len(t, c.Together, len(now)-1)
	assert.NotContains(t, c.Together, "hay-fever")
	f, err := w.svc.Clients.ExportClient(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	assert.ElementsMatch(t, c.Together, f.PreChecks[0].Together)
	assert.True(t, asked()["peel"], "a check of today is there to be corrected")
	w.now = w.now.Add(24 * time.Hour)
	assert.True(t, asked()["peel"])
}

// A rough day is counted on the day it was said at home, not on that of the review.
func TestARoughDayFromHome(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.client(t, "Kaia")
	link, err := w.svc.Checks.NewLink(ctx, &w.owner, client, false)
	require.NoError(t, err)
	told := noTo(w, contraindication.Consultation)
	told["filler"] = contraindication.Answer{Yes: true, Rough: "3w", Zones: []contraindication.ZoneSide{{Zone: "upper-lip"}}}
	by := checks.LinkCaller{Token: link.Token, From: "phone"}
	require.NoError(t, w.svc.Checks.SaveLinked(ctx, by, told, studio.ClientHistory{}, true))
	said := w.now
	w.now = w.now.Add(48 * time.Hour)
	f, err := w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)
	for _, c := range f.Consultations {
		if c.SentAt != nil && c.ReviewedAt == nil {
			require.NoError(t, w.svc.Checks.Review(ctx, &w.owner, client, c.ID, c.Answers, c.History))
		}
	}
	f, err = w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)
	got := f.Consultations[0].Answers["filler"]
	assert.Equal(t, "3w", got.Rough)
	assert.EqualValues(t, said.AddDate(0, 0, -18).Format(time.DateOnly), got.Day)
}
