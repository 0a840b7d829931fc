package postgres_test

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/house"
	"softpalm/internal/studio/treatment"
)

// together runs something several times at the same moment and returns the errors.
func together(n int, do func(i int) error) []error {
	errs := make([]error, n)
	var ready, done sync.WaitGroup
	ready.Add(1)
	for i := range n {
		done.Go(func() {
			ready.Wait()
			errs[i] = do(i)
		})
	}
	ready.Done()
	done.Wait()
	return errs
}

// harmless counts those that did it or found it done, and fails on anything that
// is no clear answer.
func harmless(t *testing.T, errs []error, allowed ...error) (fine int) {
	t.Helper()
	for _, err := range errs {
		ok := err == nil
		for _, a := range allowed {
			ok = ok || errors.Is(err, a)
		}
		assert.True(t, ok, "%v", err)
		if err == nil {
			fine++
		}
	}
	return fine
}

// The same button pressed on two tablets, or twice by an impatient finger: one
// treatment begins, one record is closed, what was used leaves the shelf once.
func TestThePlanIsBegunAndClosedOnce(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, nil)
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	errs := together(50, func(int) error {
		return w.svc.Treatment.StartTreatment(ctx, &w.owner, v.ID, studio.PlanOptions{}, treatment.AcceptedAdjustments{Gentler: true})
	})
	assert.Positive(t, harmless(t, errs, studio.ErrTryAgain))
	rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	before := map[string]string{}
	for _, u := range rec.Record.Uses {
		before[u.Product] = w.line(t, u.Product).Remaining.Sub(u.Used).String()
	}
	require.NotEmpty(t, before)
	errs = together(50, func(int) error {
		_, err := w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, rec.Record)
		return err
	})
	assert.Equal(t, 1, harmless(t, errs, studio.ErrLocked, studio.ErrTryAgain), "one closes it, the others find it closed: %v", errs)
	for key, left := range before {
		assert.Equal(t, left, w.line(t, key).Remaining.String(), "%s left the shelf once", key)
	}
	now, err := w.svc.Diary.Visit(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, studio.Done, now.State)
}

// Answers, signatures, letters and readings that arrive twice or side by side are
// each kept whole: never half, never a second time where only one may be.
func TestHealthRecordsArriveSideBySide(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	all := noTo(w, contraindication.Consultation, contraindication.PreTreatment)
	sick := noTo(w, contraindication.Consultation, contraindication.PreTreatment)
	sick["cancer"] = contraindication.Answer{Yes: true}
	errs := together(50, func(i int) error {
		answers := all
		if i%2 == 0 {
			answers = sick
		}
		_, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, &v.ID, answers, nil, nil)
		return err
	})
	assert.Positive(t, harmless(t, errs, studio.ErrTryAgain))
	f, err := w.svc.Clients.ExportClient(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	for _, sc := range f.PreChecks {
		whole := sc.Result.Headline == contraindication.NeedsLetter
		assert.Equal(t, sc.Answers["cancer"].Yes, whole, "each check is judged by its own answers")
	}

	w.now = w.now.Add(time.Minute)
	_, err = w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, &v.ID, sick, nil, nil)
	require.NoError(t, err)
	l, err := w.svc.Checks.WriteLetter(ctx, &w.owner, v.Client, &v.ID, "May it be given?", "")
	require.NoError(t, err)
	errs = together(50, func(i int) error { return w.svc.Checks.AnswerLetter(ctx, &w.owner, l.ID, i%2 == 0, "2099-01-01", "") })
	assert.Equal(t, 1, harmless(t, errs, studio.ErrLocked, studio.ErrTryAgain), "a letter has one answer: %v", errs)

	link, err := w.svc.Checks.NewLink(ctx, &w.owner, v.Client, false)
	require.NoError(t, err)
	home := noTo(w, contraindication.Consultation)
	errs = together(50, func(int) error {
		return w.svc.Checks.SaveLinked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"}, home, studio.ClientHistory{}, true)
	})
	assert.Positive(t, harmless(t, errs, studio.ErrTryAgain))
	f, err = w.svc.Clients.ExportClient(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	var sent []uuid.UUID
	for _, c := range f.Consultations {
		if c.SentAt != nil && c.ReviewedAt == nil {
			sent = append(sent, c.ID)
		}
	}
	require.Len(t, sent, 1)
	errs = together(50, func(int) error {
		return w.svc.Checks.Review(ctx, &w.owner, v.Client, sent[0], home, studio.ClientHistory{})
	})
	assert.Equal(t, 1, harmless(t, errs, studio.ErrLocked, studio.ErrTryAgain), "it is reviewed once: %v", errs)
}

// One client, one place at a time: the same client cannot be booked with two
// practitioners at once, nor two clients into one room, also when everybody
// presses at once; the visit that is moved is never in two places.
func TestNobodyIsInTwoPlaces(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	free, err := w.svc.Diary.FreeTimes(ctx, &w.owner, studio.FreeQuery{Protocol: v.Protocol, Client: &v.Client, From: "2026-12-14", Days: 1})
	require.NoError(t, err)
	at := free[0].Start
	people := []studio.FreeTime{}
	for _, f := range free {
		if f.Start.Equal(at) {
			people = append(people, f)
		}
	}
	require.Greater(t, len(people), 1, "several are free then")
	errs := together(50, func(i int) error {
		i %= len(people)
		_, err := w.svc.Diary.Book(ctx, &w.owner, studio.NewVisit{ID: uuid.New(), Client: v.Client, Practitioner: people[i].Practitioner, Room: people[i].Room, Protocol: v.Protocol, Start: at})
		return err
	})
	booked := 0
	for _, err := range errs {
		var taken *studio.TakenError
		if err == nil {
			booked++
		} else if !errors.Is(err, studio.ErrTryAgain) {
			assert.ErrorAs(t, err, &taken)
		}
	}
	assert.Equal(t, 1, booked)

	next := w.next(t, v.Client)
	later := []studio.FreeTime{}
	for _, f := range free {
		if f.Start.After(at.Add(2 * time.Hour)) {
			later = append(later, f)
		}
	}
	require.Greater(t, len(later), 3)
	_ = together(50, func(i int) error {
		i %= len(later)
		_, err := w.svc.Diary.MoveVisit(ctx, &w.owner, next.ID, studio.NewVisit{Practitioner: later[i].Practitioner, Room: later[i].Room, Start: later[i].Start})
		return err
	})
	f, err := w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	places := 0
	for _, x := range f.Visits {
		if x.ID == next.ID {
			places++
		}
	}
	assert.Equal(t, 1, places)
}

// Of cancelling and starting one treatment at the same moment, one happens and never
// both; the same of cancelling and arriving (a state is decided and written under a lock).
func TestOfTwoStatesOneWins(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, nil)
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	plan, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	all := treatment.AcceptedAdjustments{Gentler: true}
	for _, c := range plan.Adjustments {
		all.Adjustments = append(all.Adjustments, c.ID)
	}
	errs := together(50, func(i int) error {
		if i%2 == 0 {
			_, err := w.svc.Diary.SetVisitState(ctx, &w.owner, v.ID, studio.Cancelled, "asked to")
			return err
		}
		return w.svc.Treatment.StartTreatment(ctx, &w.owner, v.ID, studio.PlanOptions{}, all)
	})
	var done [2]bool
	for i, err := range errs {
		var state *studio.StateError
		if err == nil {
			done[i%2] = true
		} else if !errors.Is(err, studio.ErrTryAgain) {
			require.ErrorAs(t, err, &state)
			assert.Equal(t, "visit-state", state.Code)
		}
	}
	assert.NotEqual(t, done[0], done[1], "cancelled: %v, started: %v", done[0], done[1])

	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	for _, v := range day.Visits[1:5] {
		errs := together(50, func(i int) error {
			to := studio.Arrived
			if i%2 == 0 {
				to = studio.Cancelled
			}
			_, err := w.svc.Diary.SetVisitState(ctx, &w.owner, v.ID, to, "asked to")
			return err
		})
		now, err := w.svc.Diary.Visit(ctx, &w.owner, v.ID)
		require.NoError(t, err)
		for i, err := range errs {
			if i%2 == 1 && now.State.TakesTime() {
				assert.NoError(t, err, "it arrived, and the same again changes nothing")
			}
		}
	}
}

// Ten rules of the studio added at once are ten rules and ten lines of the log.
func TestTenRulesAtOnceAreTen(t *testing.T) {
	w := aloneWorld(t)
	ctx := context.Background()
	errs := together(10, func(i int) error {
		_, err := w.svc.Checks.SaveRule(ctx, &w.owner, contraindication.Rule{
			Title: fmt.Sprintf("Rule %d", i), Group: "Health", Stage: contraindication.Consultation,
			Question: fmt.Sprintf("Is it so, the %d time?", i), AnswerType: "yes-no", Why: "We would like to know.", Basis: "the studio's own",
			Outcomes: []contraindication.Outcome{{Kind: contraindication.Cap, Pressure: 2}},
		}, w.saving("", true))
		return err
	})
	for _, err := range errs {
		require.NoError(t, err)
	}
	view, err := w.svc.Checks.Rules(ctx, &w.owner)
	require.NoError(t, err)
	assert.Len(t, view.Own.Rules, 10)
	assert.Len(t, view.Own.Log, 10)
}

// Forty wrong passwords at once count as forty, and are slowed down, not locked out: the
// owner of the address waits at most five minutes, however many others guessed.
func TestGuessesAtOnceAreAllCounted(t *testing.T) {
	w := aloneWorld(t)
	ctx := context.Background()
	errs := together(40, func(i int) error {
		_, err := w.svc.House.SignIn(ctx, house.Credentials{Email: "maud@demo.example", Password: "wrong"}, fmt.Sprintf("address %d", i))
		return err
	})
	looked := 0
	for _, err := range errs {
		if errors.Is(err, studio.ErrSignIn) {
			looked++
		} else {
			require.ErrorIs(t, err, studio.ErrThrottled)
		}
	}
	assert.Equal(t, studio.ThrottleTries, looked, "no more passwords are compared than are free")
	for range 20 { // patient guessing: each waits as long as it is told
		var wait *studio.ThrottledError
		if _, err := w.svc.House.SignIn(ctx, house.Credentials{Email: "maud@demo.example", Password: "wrong"}, "patient"); errors.As(err, &wait) {
			assert.LessOrEqual(t, wait.Wait, 5*time.Minute)
			w.now = w.now.Add(wait.Wait)
		}
	}
	w.now = w.now.Add(5 * time.Minute)
	_, err := w.svc.House.SignIn(ctx, house.Credentials{Email: "maud@demo.example", Password: "demo palms 2"}, "at the studio")
	require.NoError(t, err, "the right password gets in")
}

// Wrong tokens of one address slow down that address's guesses, and never shut out the
// client next door whose link is right.
func TestWrongLinksDoNotShutOutTheNeighbours(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	link, err := w.svc.Checks.NewLink(ctx, &w.owner, w.first(t).Client, false)
	require.NoError(t, err)
	throttled := 0
	for range 3 * studio.ThrottleTries {
		if _, err := w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: "no such token", From: "one hotel"}); errors.Is(err, studio.ErrThrottled) {
			throttled++
		}
	}
	assert.Equal(t, 2*studio.ThrottleTries, throttled)
	_, err = w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: link.Token, From: "one hotel"})
	assert.NoError(t, err)
}
