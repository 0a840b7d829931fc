package diary

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// standing is a series with the visits that stand for its treatments, and the finder's request
// to lay it again: what is past, arrived or in the room is fixed.
type standing struct {
	*heard
	series *studio.Series
	visits map[int]*studio.VisitLine // by number
	patch  *studio.VisitLine
}

// stand reads a series to lay it again.
func (s *Service) stand(ctx context.Context, tx askStore, st *studio.Studio, sr *studio.Series, visits []studio.VisitLine) (*standing, error) {
	h, err := s.hear(ctx, tx, st, questionOf(sr), &sr.ID)
	if err != nil {
		return nil, err
	}
	x := &standing{heard: h, series: sr, visits: map[int]*studio.VisitLine{}}
	q := &h.request
	today := s.Now().In(h.zone)
	counted := used(visits, st.Diary.Missed)
	q.Series.First = &series.FirstVisit{
		Earliest: today.Format(time.DateOnly), Ideal: today.Format(time.DateOnly), Latest: today.AddDate(0, 0, latestFirst).Format(time.DateOnly),
	}
	q.Relay = &series.Relay{Current: make([]series.CurrentVisit, len(sr.Items))}
	for i := range visits {
		v := &visits[i]
		switch {
		case !v.State.TakesTime() && !counted[v.ID] || v.Item < 1 || v.Item > len(sr.Items):
			continue
		case v.Kind == studio.ForPatchTest:
			x.patch = v
			continue
		}
		x.visits[v.Item] = v
		p := h.placed(&v.Visit)
		q.Relay.Current[v.Item-1] = series.CurrentVisit{Start: p.Start, Practitioner: p.Practitioner}
		if v.State != studio.Held && v.State != studio.Booked && v.State != studio.Confirmed || v.StartsAt.Before(s.Now()) {
			q.Series.Items[v.Item-1].Fixed = &series.Fixed{Start: p.Start, Practitioner: p.Practitioner, Room: p.Room}
		}
	}
	if first, stands := x.visits[1]; stands {
		from := minDay(first.StartsAt.In(h.zone), today)
		q.Series.First = &series.FirstVisit{Earliest: from, Latest: first.StartsAt.In(h.zone).AddDate(0, 0, latestFirst).Format(time.DateOnly)}
	}
	x.afterPause(today)
	if x.patch != nil && (x.patch.State == studio.Done || x.patch.StartsAt.Before(s.Now())) {
		q.Series.Patch = nil
	}
	h.question.Current = q.Relay.Current
	return x, nil
}

// afterPause lets the first treatment that has no visit begin anew from a day, where its rhythm
// has run out meanwhile: after a pause, or when a series is late.
func (x *standing) afterPause(from time.Time) {
	for i := 1; i < len(x.request.Series.Items); i++ {
		before, stands := x.visits[i]
		if _, has := x.visits[i+1]; has || !stands {
			continue
		}
		it := &x.request.Series.Items[i]
		if gap := daysBetween(before.StartsAt.In(x.zone), from); gap > it.Ideal {
			it.Ideal, it.Least, it.Most = gap, min(it.Least, gap), gap+latestFirst
		}
		return
	}
}

func minDay(a, b time.Time) string {
	return min(a.Format(time.DateOnly), b.Format(time.DateOnly))
}

// LaySeries answers how a series is laid again when one visit is moved: as few other visits
// change as can be. Nothing is written.
// moved may be nil: then what has no visit is laid, after a pause for example.
func (s *Service) LaySeries(ctx context.Context, a *studio.Actor, id uuid.UUID, moved *MovedVisit) (*SeriesAnswer, error) {
	x, err := s.readStanding(ctx, a, id, "lay-series", moved)
	if err != nil {
		return nil, err
	}
	return x.answer(s.Now())
}

// readStanding reads a series as it stands, with one visit moved where moved is not nil.
func (s *Service) readStanding(ctx context.Context, a *studio.Actor, id uuid.UUID, operation string, moved *MovedVisit) (*standing, error) {
	if err := a.May(operation); err != nil {
		return nil, err
	}
	var x *standing
	err := studio.In(ctx, s.Kernel, a, func(tx holdStore, st *studio.Studio) error {
		sr, err := tx.Series(ctx, id)
		if err != nil {
			return err
		}
		visits, err := tx.SeriesVisits(ctx, id)
		if err != nil {
			return err
		}
		if x, err = s.stand(ctx, tx, st, sr, visits); err != nil || moved == nil {
			return err
		}
		return x.move(*moved)
	})
	return x, err
}

// move puts one visit somewhere by hand.
func (x *standing) move(m MovedVisit) error {
	q := &x.request
	if m.N < 1 || m.N > len(q.Series.Items) {
		return studio.FaultAt("/n", words.ThereIsNoSuchVisit())
	}
	if q.Series.Items[m.N-1].Fixed != nil {
		return &studio.StateError{Code: "visit-state", Sentence: words.ThisVisitCannotBeMovedAnyMore()}
	}
	q.Series.Items[m.N-1].Fixed = &series.Fixed{Start: m.Start, Practitioner: m.Practitioner}
	q.Relay.Moved = m.N
	x.question.Moved = &m
	return nil
}

// StandingTimes lists the times at which a visit of a series that is booked could be, two weeks
// round where it stands.
func (s *Service) StandingTimes(ctx context.Context, a *studio.Actor, id uuid.UUID, n int) ([]OfferedVisit, error) {
	x, err := s.readStanding(ctx, a, id, "standing-times", nil)
	if err != nil {
		return nil, err
	}
	around := s.Now().In(x.zone)
	if v, stands := x.visits[n]; stands {
		around = v.StartsAt.In(x.zone)
	}
	list, err := series.Times(&x.request, n, around.AddDate(0, 0, -timesRound).Format(time.DateOnly), around.AddDate(0, 0, timesRound).Format(time.DateOnly))
	if err != nil {
		return nil, studio.FaultAt("/n", words.ThereIsNoSuchVisit())
	}
	return x.told(list)
}

// WhyNotStanding says which limit forbids a visit of a series that is booked at a spot.
func (s *Service) WhyNotStanding(ctx context.Context, a *studio.Actor, id uuid.UUID, at MovedVisit) (*WhyNot, error) {
	x, err := s.readStanding(ctx, a, id, "standing-why", nil)
	if err != nil {
		return nil, err
	}
	why, err := series.Why(&x.request, at.N, at.Spot, x.beside())
	if err != nil {
		return nil, studio.FaultAt("/at", words.ThereIsNoSuchVisit())
	}
	if why == nil {
		return &WhyNot{}, nil
	}
	return &WhyNot{why.Limit, x.name(why.Key)}, nil
}

// MoveSeries writes a series that was laid again: each visit that changes is moved, keeps its
// identity and is booked again; what had no visit gets one.
func (s *Service) MoveSeries(ctx context.Context, a *studio.Actor, id uuid.UUID, visits []series.Placed) (*SeriesView, error) {
	var out *SeriesView
	err := studio.In(ctx, s.Kernel, a, func(tx holdStore, st *studio.Studio) error {
		if err := a.May("move-series"); err != nil {
			return err
		}
		sr, there, err := s.lockSeries(ctx, tx, id)
		if err != nil {
			return err
		}
		if sr.State != studio.SeriesRunning && sr.State != studio.SeriesPaused {
			return &studio.StateError{Code: "series-state", Sentence: words.ThisSeriesIsOver()}
		}
		x, err := s.stand(ctx, tx, st, sr, there)
		if err != nil {
			return err
		}
		changed, err := x.changes(visits)
		if err != nil {
			return err
		}
		if err := s.moveAll(ctx, tx, a, x, changed); err != nil {
			return err
		}
		if err := s.tellMoved(ctx, tx, st, x, changed); err != nil {
			return err
		}
		if out, err = s.view(ctx, tx, a, id); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "move", "series", id)
	})
	return out, err
}

// changes are the visits that stand elsewhere now, each with its room; every limit is kept.
func (x *standing) changes(visits []series.Placed) ([]series.Placed, error) {
	fixed := x.request.Series.Items
	var toCheck, out []series.Placed
	for _, p := range visits {
		if p.Kind == "treatment" && p.N >= 1 && p.N <= len(fixed) && fixed[p.N-1].Fixed != nil {
			continue // it is past, and stays
		}
		toCheck = append(toCheck, p)
	}
	beside := map[int]series.Spot{}
	for n, v := range x.visits {
		if fixed[n-1].Fixed != nil {
			p := x.placed(&v.Visit)
			beside[n] = series.Spot{Start: p.Start, Practitioner: p.Practitioner}
		}
	}
	placed, failed, why, err := series.CheckBeside(&x.request, toCheck, beside)
	if err != nil {
		return nil, studio.FaultAt("/visits", words.ThereIsNoSuchVisit())
	}
	if why != nil {
		return nil, &SeriesTakenError{Visit: toCheck[failed].N, Limit: why.Limit, Name: x.name(why.Key)}
	}
	for _, p := range placed {
		if was := x.was(&p); was != nil {
			if now := x.placed(&was.Visit); now.Start == p.Start && now.Practitioner == p.Practitioner {
				continue
			}
		}
		out = append(out, p)
	}
	return out, nil
}

// moveAll moves visits together: all are let go first, so that they may take each other's times.
func (s *Service) moveAll(ctx context.Context, tx holdStore, a *studio.Actor, x *standing, changed []series.Placed) error {
	for i := range changed {
		if v := x.was(&changed[i]); v != nil {
			if err := tx.SetVisitState(ctx, v.ID, studio.Released); err != nil {
				return err
			}
		}
	}
	for i := range changed {
		p := &changed[i]
		v := x.was(p)
		if v == nil {
			if err := s.addVisits(ctx, tx, a, x.heard, x.series, changed[i:i+1], studio.Booked); err != nil {
				return err
			}
			continue
		}
		if err := s.moveOne(ctx, tx, a, x, v, p); err != nil {
			return err
		}
	}
	return nil
}

// tellMoved tells a client which visits of a series have another time, and which are new.
func (s *Service) tellMoved(ctx context.Context, tx holdStore, st *studio.Studio, x *standing, changed []series.Placed) error {
	moved := studio.Notice{Kind: studio.MovingMessage, Client: x.series.Client, Was: map[uuid.UUID]time.Time{}}
	for i := range changed {
		if v := x.was(&changed[i]); v != nil {
			moved.Visits, moved.Was[v.ID] = append(moved.Visits, v.ID), v.StartsAt
		}
	}
	if len(moved.Visits) > 0 {
		if err := s.Messages.Tell(ctx, tx, st, moved); err != nil {
			return err
		}
	}
	visits, err := tx.SeriesVisits(ctx, x.series.ID)
	if err != nil {
		return err
	}
	added := booked(x.series.Client)
	for i := range visits {
		if v := &visits[i]; v.State == studio.Booked && !x.stood(v.ID) {
			added.Visits = append(added.Visits, v.ID)
		}
	}
	if len(added.Visits) == 0 {
		return nil
	}
	return s.Messages.Tell(ctx, tx, st, added)
}

// stood reports whether a visit was there before the series was laid again.
func (x *standing) stood(id uuid.UUID) bool {
	if x.patch != nil && x.patch.ID == id {
		return true
	}
	for _, v := range x.visits {
		if v.ID == id {
			return true
		}
	}
	return false
}

// was is the visit that stood for a placement before.
func (x *standing) was(p *series.Placed) *studio.VisitLine {
	if p.Kind == "patch" {
		return x.patch
	}
	return x.visits[p.N]
}

func (s *Service) moveOne(ctx context.Context, tx holdStore, a *studio.Actor, x *standing, v *studio.VisitLine, p *series.Placed) error {
	to, err := x.visit(x.series, p)
	if err != nil {
		return err
	}
	moved := v.Visit
	moved.MoveTo(to.StartsAt)
	moved.Practitioner, moved.Room, moved.State, moved.HeldUntil = to.Practitioner, to.Room, studio.Booked, nil
	if err := tx.MoveVisit(ctx, &moved); err != nil {
		return err
	}
	if err := s.Checks.MoveLinks(ctx, tx, v.ID, moved.StartsAt); err != nil {
		return err
	}
	return tx.AddVisitChange(ctx, v.ID, studio.Booked, &a.Account, s.Now())
}

// seriesSteps are the states that a series may come to by hand.
var seriesSteps = map[studio.SeriesState][]studio.SeriesState{
	studio.SeriesRunning: {studio.SeriesPaused, studio.SeriesFinished, studio.SeriesBrokenOff},
	studio.SeriesPaused:  {studio.SeriesRunning, studio.SeriesBrokenOff},
}

// seriesActs are what changing to a state is called in the audit log.
var seriesActs = map[studio.SeriesState]string{
	studio.SeriesRunning: "take up", studio.SeriesPaused: "pause", studio.SeriesFinished: "finish", studio.SeriesBrokenOff: "break off",
}

// SetSeriesState pauses a series, takes it up again, finishes it or breaks it off. Pausing and
// breaking off cancel the visits to come and ask for a reason; the studio does not call that late.
func (s *Service) SetSeriesState(ctx context.Context, a *studio.Actor, id uuid.UUID, to studio.SeriesState, reason string) (*SeriesView, error) {
	var out *SeriesView
	err := studio.In(ctx, s.Kernel, a, func(tx holdStore, st *studio.Studio) error {
		if err := a.May("set-series-state"); err != nil {
			return err
		}
		sr, visits, err := s.lockSeries(ctx, tx, id)
		if err != nil {
			return err
		}
		if sr.State != to {
			if !slices.Contains(seriesSteps[sr.State], to) {
				return &studio.StateError{Code: "series-state", Sentence: words.ThisSeriesCannotBecome(string(sr.State), string(to))}
			}
			if to != studio.SeriesRunning && len(reason) < shortestReason && to != studio.SeriesFinished {
				return studio.FaultAt("/reason", words.SayWhyTheSeriesStops())
			}
			if to == studio.SeriesPaused || to == studio.SeriesBrokenOff {
				if err := s.cancelComing(ctx, tx, st, a, visits, reason); err != nil {
					return err
				}
			}
			sr.State, sr.Reason = to, reason
			if err := tx.SaveSeries(ctx, sr); err != nil {
				return err
			}
			if err := s.Audit(ctx, tx, a, seriesActs[to], "series", id); err != nil {
				return err
			}
		}
		out, err = s.view(ctx, tx, a, id)
		return err
	})
	return out, err
}

// cancelComing cancels the visits of a series that have not begun.
func (s *Service) cancelComing(
	ctx context.Context, tx holdStore, st *studio.Studio, a *studio.Actor, visits []studio.VisitLine, reason string,
) error {
	var gone []uuid.UUID
	for i := range visits {
		v := &visits[i]
		if v.State != studio.Booked && v.State != studio.Confirmed {
			continue
		}
		if err := tx.SetVisitState(ctx, v.ID, studio.Cancelled); err != nil {
			return err
		}
		if err := tx.AddCancelling(ctx, v.ID, studio.Cancelled, &a.Account, s.Now(), reason); err != nil {
			return err
		}
		gone = append(gone, v.ID)
	}
	if len(gone) == 0 {
		return nil
	}
	return s.Messages.Tell(ctx, tx, st, noLonger(visits[0].Client, gone...))
}
