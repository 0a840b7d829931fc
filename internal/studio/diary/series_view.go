package diary

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/studio"
)

// SeriesView is a series with its visits and how far it has come.
type SeriesView struct {
	studio.Series
	ClientName string         `json:"clientName"`
	Treatments []SeriesPlace  `json:"treatments"`
	PatchTests []studio.Visit `json:"patchTests"`
	Given      int            `json:"given"`
	// Used is how many missed treatments count as used.
	Used int `json:"used,omitempty"`
	// ReviewFrom is the first day on which the series can be reviewed, empty while treatments are to
	// come besides the last.
	ReviewFrom string `json:"reviewFrom,omitempty"`
	// ReviewVisit is the appointment of its end review, nil where it has none of its own.
	ReviewVisit *studio.VisitLine `json:"reviewVisit,omitempty"`
	// Due is the first treatment that is not given yet and has no visit, 0 where all have one.
	Due int `json:"due"`
	// LateBy is how many days the series is behind: those by which the next treatment comes after
	// the latest day that its rhythm allows, or that day has passed.
	LateBy int `json:"lateBy"`
	// NotBefore is the first day that the client's screening allows now, TooEarly the treatments to
	// come that lie before it.
	NotBefore string `json:"notBefore,omitempty"`
	TooEarly  []int  `json:"tooEarly"`
}

// SeriesPlace is one treatment of a series: what it is, and the visit that stands for it.
type SeriesPlace struct {
	studio.SeriesItem
	Name  string            `json:"name"`
	Visit *studio.VisitLine `json:"visit,omitempty"`
	// Gap is the days from the treatment before, as booked.
	Days int `json:"days,omitempty"`
}

// seriesStore is what a series is shown from.
type seriesStore interface {
	studio.Tx
	Series(ctx context.Context, id uuid.UUID) (*studio.Series, error)
	SeriesVisits(ctx context.Context, id uuid.UUID) ([]studio.VisitLine, error)
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	Protocols(ctx context.Context, account uuid.UUID) ([]studio.ProtocolLine, error)
}

// SeriesOf returns a series.
func (s *Service) SeriesOf(ctx context.Context, a *studio.Actor, id uuid.UUID) (*SeriesView, error) {
	var out *SeriesView
	err := studio.In(ctx, s.Kernel, a, func(tx seriesStore, _ *studio.Studio) (err error) {
		if out, err = s.view(ctx, tx, a, id); err != nil {
			return err
		}
		return a.MayClient(ctx, tx, "get-series", out.Client)
	})
	if err != nil {
		return nil, err
	}
	return out, nil
}

// ClientSeries lists a client's series, newest first; a single visit is none.
func (s *Service) ClientSeries(ctx context.Context, a *studio.Actor, client uuid.UUID) ([]SeriesView, error) {
	type store interface {
		seriesStore
		ClientSeries(ctx context.Context, client uuid.UUID) ([]studio.Series, error)
	}
	out := []SeriesView{}
	err := studio.In(ctx, s.Kernel, a, func(tx store, _ *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "list-series", client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		all, err := tx.ClientSeries(ctx, client)
		if err != nil {
			return err
		}
		for i := range all {
			if len(all[i].Items) < 2 {
				continue
			}
			v, err := s.view(ctx, tx, a, all[i].ID)
			if err != nil {
				return err
			}
			out = append(out, *v)
		}
		return nil
	})
	return out, err
}

// Hold is a series that somebody holds at the moment.
type Hold struct {
	Series     uuid.UUID `json:"series"`
	ClientName string    `json:"clientName"`
	Until      time.Time `json:"until"`
	Visits     int       `json:"visits"`
	Mine       bool      `json:"mine"`
}

// Holds lists what is held at the moment, the first to lapse first.
func (s *Service) Holds(ctx context.Context, a *studio.Actor) ([]Hold, error) {
	type store interface {
		seriesStore
		Holds(ctx context.Context, now time.Time) ([]studio.Series, error)
	}
	out := []Hold{}
	err := studio.In(ctx, s.Kernel, a, func(tx store, _ *studio.Studio) error {
		if err := a.May("list-holds"); err != nil {
			return err
		}
		all, err := tx.Holds(ctx, s.Now())
		if err != nil {
			return err
		}
		for i := range all {
			c, err := tx.Client(ctx, all[i].Client)
			if err != nil {
				return err
			}
			out = append(out, Hold{
				Series: all[i].ID, ClientName: c.Name, Until: *all[i].HeldUntil, Visits: len(all[i].Items),
				Mine: all[i].HeldBy != nil && *all[i].HeldBy == a.Account,
			})
		}
		return nil
	})
	return out, err
}

// view is a series as the actor may see it: what its review found and the home care are told to those
// who treat.
func (s *Service) view(ctx context.Context, tx seriesStore, a *studio.Actor, id uuid.UUID) (*SeriesView, error) {
	out, err := s.wholeView(ctx, tx, id)
	if err != nil || !a.NoHealth("get-series") {
		return out, err
	}
	out.HomeCare = ""
	if r := out.Review; r != nil {
		out.Review = &studio.SeriesReview{At: r.At, By: r.By, Decision: r.Decision}
	}
	return out, nil
}

// view shows a series inside a transaction.
func (s *Service) wholeView(ctx context.Context, tx seriesStore, id uuid.UUID) (*SeriesView, error) {
	sr, err := tx.Series(ctx, id)
	if err != nil {
		return nil, err
	}
	st, err := tx.Studio(ctx)
	if err != nil {
		return nil, err
	}
	out := &SeriesView{Series: *sr, PatchTests: []studio.Visit{}, TooEarly: []int{}}
	c, err := tx.Client(ctx, sr.Client)
	if err != nil {
		return nil, err
	}
	out.ClientName = c.Name
	names := map[uuid.UUID]string{}
	all, err := tx.Protocols(ctx, uuid.Nil)
	if err != nil {
		return nil, err
	}
	for i := range all {
		names[all[i].ID] = all[i].Body.Name
	}
	visits, err := tx.SeriesVisits(ctx, id)
	if err != nil {
		return nil, err
	}
	for i := range sr.Items {
		out.Treatments = append(out.Treatments, SeriesPlace{SeriesItem: sr.Items[i], Name: names[sr.Items[i].Protocol]})
	}
	counted := used(visits, st.Diary.Missed)
	for i := range visits {
		v := &visits[i]
		switch {
		case counted[v.ID] && v.Item >= 1 && v.Item <= len(out.Treatments) && out.Treatments[v.Item-1].Visit == nil:
			out.Treatments[v.Item-1].Visit = v
		case !v.State.TakesTime() && sr.State != studio.SeriesLapsed:
		case v.Kind == studio.ForReview:
			out.ReviewVisit = v
		case v.Kind == studio.ForPatchTest:
			out.PatchTests = append(out.PatchTests, v.Visit)
		case v.Item >= 1 && v.Item <= len(out.Treatments):
			out.Treatments[v.Item-1].Visit = v
		}
	}
	out.count(s.Now(), st.Zone())
	if sr.State == studio.SeriesRunning {
		out.ReviewFrom = out.reviewFrom(s.Now(), st.Zone())
	}
	return out, s.judgeSeries(ctx, tx, st, out)
}

// judgeSeries looks which treatments to come lie in a waiting period of the client's, as what is
// known of them is now.
func (s *Service) judgeSeries(ctx context.Context, tx seriesStore, st *studio.Studio, v *SeriesView) error {
	if v.State != studio.SeriesRunning && v.State != studio.SeriesPaused {
		return nil
	}
	expected, _, err := s.Checks.Expect(ctx, tx, st, v.Client, s.Today(st))
	if err != nil {
		return err
	}
	blocked, letter, err := s.Checks.Waits(ctx, tx, st, v.Client)
	if err != nil {
		return err
	}
	first := max(string(expected.NotBefore), letter)
	for i := range v.Treatments {
		x := v.Treatments[i].Visit
		if x == nil || x.State != studio.Booked && x.State != studio.Confirmed || x.StartsAt.Before(s.Now()) {
			continue
		}
		day := x.StartsAt.In(st.Zone()).Format(time.DateOnly)
		if day < first {
			v.NotBefore, v.TooEarly = first, append(v.TooEarly, v.Treatments[i].N)
			continue
		}
		for _, b := range blocked {
			if b[0] <= day && day <= b[1] {
				v.NotBefore, v.TooEarly = string(calendar.Day(b[1]).Plus(1)), append(v.TooEarly, v.Treatments[i].N)
				break
			}
		}
	}
	return nil
}

// count says how far a series has come, and how far behind it is.
func (v *SeriesView) count(now time.Time, zone *time.Location) {
	last := time.Time{}
	for i := range v.Treatments {
		t := &v.Treatments[i]
		if t.Visit == nil {
			if v.Due == 0 {
				v.Due = t.N
				v.late(t, last, now.In(zone))
			}
			continue
		}
		start := t.Visit.StartsAt.In(zone)
		if !last.IsZero() {
			t.Days = daysBetween(last, start)
		}
		if t.Visit.State.Given() || t.Visit.State == studio.InRoom {
			v.Given++
		} else if t.Visit.State == studio.NoShow {
			v.Used++
		} else if v.LateBy == 0 {
			v.late(t, last, start)
		}
		last = start
	}
}

// late notes by how many days a treatment comes after the latest day of its rhythm.
func (v *SeriesView) late(t *SeriesPlace, last, at time.Time) {
	if last.IsZero() || v.State != studio.SeriesRunning {
		return
	}
	if by := daysBetween(last, at) - t.Most; by > 0 {
		v.LateBy = by
	}
}
