package diary

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// ReviewAsked is what the end review of a series found, and what is done next.
type ReviewAsked struct {
	Found    string                  `json:"found" maxLength:"2000"`
	Decision studio.ReviewedDecision `json:"decision" enum:"go-on,change,stop"`
}

// ReviewSeries finishes a series with its end review: in its last visit or after it, and no sooner
// than a fortnight after the first, as nothing is judged before. Nothing goes on by itself.
func (s *Service) ReviewSeries(ctx context.Context, a *studio.Actor, id uuid.UUID, asked ReviewAsked) (*SeriesView, error) {
	asked.Found = strings.TrimSpace(asked.Found)
	var out *SeriesView
	err := studio.In(ctx, s.Kernel, a, func(tx holdStore, st *studio.Studio) error {
		if err := a.May("review-series"); err != nil {
			return err
		}
		sr, visits, err := s.lockSeries(ctx, tx, id)
		if err != nil {
			return err
		}
		if sr.Review != nil { // sent twice
			out, err = s.view(ctx, tx, a, id)
			return err
		}
		if sr.State != studio.SeriesRunning {
			return &studio.StateError{Code: "series-state", Sentence: words.ThisSeriesIsOver()}
		}
		if asked.Found == "" {
			return studio.FaultAt("/found", words.SayWhatTheReviewFound())
		}
		v, err := s.view(ctx, tx, a, id)
		if err != nil {
			return err
		}
		if v.ReviewFrom == "" {
			return &studio.StateError{Code: "series-state", Sentence: words.TheReviewComesWithTheLastVisit()}
		}
		if s.Today(st) < v.ReviewFrom {
			return &studio.StateError{Code: "too-early", Sentence: words.NothingIsJudgedBefore(v.ReviewFrom)}
		}
		sr.State, sr.Reason = studio.SeriesFinished, ""
		sr.Review = &studio.SeriesReview{At: s.Now(), By: a.Account, Found: asked.Found, Decision: asked.Decision}
		if err := tx.SaveSeries(ctx, sr); err != nil {
			return err
		}
		if err := s.closeReview(ctx, tx, a, visits); err != nil {
			return err
		}
		if out, err = s.view(ctx, tx, a, id); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "review", "series", id)
	})
	return out, err
}

// reviewFrom is the first day on which a series can be reviewed, empty while it has treatments to
// come besides the last.
func (v *SeriesView) reviewFrom(now time.Time, zone *time.Location) string {
	last := v.Treatments[len(v.Treatments)-1].Visit
	left := len(v.Treatments) - v.Given - v.Used
	today := now.In(zone).Format(time.DateOnly)
	inLast := left == 1 && last != nil && last.StartsAt.In(zone).Format(time.DateOnly) == today
	first := v.Treatments[0].Visit
	if left > 0 && !inLast || first == nil {
		return ""
	}
	return first.StartsAt.In(zone).AddDate(0, 0, series.ReviewLeast).Format(time.DateOnly)
}

// used are the missed visits of a series that count as used: by the studio's rule all, none, or all
// but the first.
func used(visits []studio.VisitLine, rule studio.MissedRule) map[uuid.UUID]bool {
	out := map[uuid.UUID]bool{}
	missed := 0
	for i := range visits { // by start
		if visits[i].State != studio.NoShow || visits[i].Kind != studio.ForTreatment {
			continue
		}
		missed++
		if rule == studio.MissedUsed || rule == studio.MissedFirstBack && missed > 1 {
			out[visits[i].ID] = true
		}
	}
	return out
}

// missedLately counts the appointments that a client missed in the last twelve months.
func missedLately(visits []studio.VisitLine, now time.Time) (n int) {
	for i := range visits {
		if v := &visits[i]; v.State == studio.NoShow && v.StartsAt.After(now.AddDate(-1, 0, 0)) {
			n++
		}
	}
	return n
}

// reviewMinutes is how long an end review of its own takes.
const reviewMinutes = 15

// reviewTimes is how many times for a review are offered, reviewDays on how many days they are looked for.
const (
	reviewTimes = 12
	reviewDays  = 14
)

// ReviewTimes lists the next times for an end review of its own: a quarter of an hour, with whoever gave
// the last treatment where that can be.
func (s *Service) ReviewTimes(ctx context.Context, a *studio.Actor, id uuid.UUID) ([]studio.FreeTime, error) {
	out := []studio.FreeTime{}
	err := studio.In(ctx, s.Kernel, a, func(tx holdStore, st *studio.Studio) error {
		if err := a.May("review-times"); err != nil {
			return err
		}
		v, err := s.view(ctx, tx, a, id)
		if err != nil || v.ReviewFrom == "" {
			return err
		}
		q := studio.FreeQuery{
			Length: reviewMinutes * time.Minute, Client: &v.Client, From: max(v.ReviewFrom, s.Today(st)), Days: reviewDays,
		}
		if last := v.Treatments[len(v.Treatments)-1].Visit; last != nil {
			q.Practitioner = &last.Practitioner
		}
		for {
			list, err := s.FreeTimesIn(ctx, tx, st, q)
			if err != nil || len(list) > 0 || q.Practitioner == nil {
				out = append(out, list[:min(len(list), reviewTimes)]...)
				return err
			}
			q.Practitioner = nil
		}
	})
	return out, err
}

// BookReview books the end review of a series as an appointment of its own; the same id twice books once.
func (s *Service) BookReview(ctx context.Context, a *studio.Actor, id uuid.UUID, n studio.NewVisit) (*SeriesView, error) {
	var out *SeriesView
	err := studio.In(ctx, s.Kernel, a, func(tx holdStore, st *studio.Studio) error {
		if err := a.May("book-review"); err != nil {
			return err
		}
		sr, visits, err := s.lockSeries(ctx, tx, id)
		if err != nil {
			return err
		}
		v, err := s.view(ctx, tx, a, id)
		if err != nil {
			return err
		}
		switch {
		case v.ReviewFrom == "":
			return &studio.StateError{Code: "series-state", Sentence: words.TheReviewComesWithTheLastVisit()}
		case n.Start.In(st.Zone()).Format(time.DateOnly) < v.ReviewFrom:
			return studio.FaultAt("/start", words.NothingIsJudgedBefore(v.ReviewFrom))
		}
		for i := range visits {
			if visits[i].ID == n.ID { // sent twice
				out = v
				return nil
			}
		}
		at := &studio.Visit{
			ID: n.ID, Client: sr.Client, Practitioner: n.Practitioner, Room: n.Room, Kind: studio.ForReview, State: studio.Booked, Series: &sr.ID,
			BusyFrom: n.Start, StartsAt: n.Start, EndsAt: n.Start.Add(reviewMinutes * time.Minute), CreatedAt: s.Now(),
		}
		at.BusyUntil = at.EndsAt
		if err := s.judgeBooking(ctx, studio.As[Store](tx), st, at); err != nil {
			return err
		}
		if err := tx.AddVisit(ctx, at); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, at.ID, studio.Booked, &a.Account, s.Now()); err != nil {
			return err
		}
		if err := s.Messages.Tell(ctx, tx, st, booked(sr.Client, at.ID)); err != nil {
			return err
		}
		out, err = s.view(ctx, tx, a, id)
		return err
	})
	return out, err
}

// closeReview ends the appointment of a review that was made.
func (s *Service) closeReview(ctx context.Context, tx holdStore, a *studio.Actor, visits []studio.VisitLine) error {
	for i := range visits {
		v := &visits[i]
		waits := v.State == studio.Booked || v.State == studio.Confirmed || v.State == studio.Arrived
		if v.Kind != studio.ForReview || !waits {
			continue
		}
		to := studio.Done
		if v.StartsAt.After(s.Now().Add(arrivesBefore)) { // it was made sooner
			to = studio.Cancelled
		}
		if err := tx.SetVisitState(ctx, v.ID, to); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, v.ID, to, &a.Account, s.Now()); err != nil {
			return err
		}
	}
	return nil
}
