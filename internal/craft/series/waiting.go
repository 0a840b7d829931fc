package series

import (
	"cmp"
	"slices"
)

// Freed is a time of a practitioner that opened: the busy time of a visit has to lie in it.
// Moments are wall time, 2006-01-02 15:04.
type Freed struct {
	Practitioner string `json:"practitioner"`
	From         string `json:"from"`
	To           string `json:"to"`
}

// Waiter is somebody who waits for one visit, the first item of Request.
type Waiter struct {
	Key string `json:"key"`
	// Displaced says that the studio took away the time they had; LateDays is by how many days
	// their series is behind its rhythm; Since is when they began to wait, 2006-01-02T15:04.
	Displaced bool     `json:"displaced,omitempty"`
	LateDays  int      `json:"lateDays,omitempty"`
	Since     string   `json:"since"`
	Request   *Request `json:"request"`
}

// Served is a waiter whom a freed time serves, with the best place in it.
type Served struct {
	Key    string `json:"key"`
	Placed Placed `json:"placed"`
	Sliver int    `json:"sliver"` // points of the pieces left unused
}

// WhoComesFirst lists those whom a freed time serves under all limits, in the order in which it
// is offered: displaced by the studio; series behind its rhythm, most days first; least sliver
// left; waiting longest (handbook, chapter 6, Everyday diary).
func WhoComesFirst(freed Freed, waiters []Waiter) ([]Served, error) {
	type one struct {
		Served
		*Waiter
	}
	var fit []one
	for i := range waiters {
		w := &waiters[i]
		s, err := compile(w.Request)
		if err != nil {
			return nil, err
		}
		if best := s.within(freed); best != nil {
			x := &search{studio: s}
			fit = append(fit, one{Served{w.Key, x.placed("treatment", 1, best), best.cost.Sliver}, w})
		}
	}
	slices.SortStableFunc(fit, func(a, b one) int {
		first := 0
		if a.Displaced != b.Displaced {
			first = 1
			if a.Displaced {
				first = -1
			}
		}
		return cmp.Or(first, cmp.Compare(b.LateDays, a.LateDays), cmp.Compare(a.Sliver, b.Sliver), cmp.Compare(a.Since, b.Since), cmp.Compare(a.Waiter.Key, b.Waiter.Key))
	})
	out := make([]Served, len(fit))
	for i := range fit {
		out[i] = fit[i].Served
	}
	return out, nil
}

// within is the place of the first item in a freed time that leaves the least unused, the
// earliest of equals; nil where none obeys every limit.
func (s *studio) within(freed Freed) *placement {
	r := reader{w: s.wall}
	open := piece{r.moment(freed.From), r.moment(freed.To)}
	if r.err != nil {
		return nil
	}
	item := &s.q.Series.Items[0]
	first, _ := s.of(open.from)
	last, _ := s.of(open.to)
	begins := s.beginning()
	list := s.placements(0, [2]int{max(first, begins[0]), min(last, begins[1])})
	byDay(list)
	var best *placement
	for i := range list {
		p := &list[i]
		busy := piece{p.start - int64(item.Prepare), p.start + int64(item.Sold+item.Reset)}
		if s.q.Practitioners[p.person].Key == freed.Practitioner && open.holds(busy) && (best == nil || p.cost.Sliver < best.cost.Sliver) {
			best = p
		}
	}
	return best
}
