package series

import (
	"cmp"
	"slices"
	"sort"
)

// brake ends a search whose time is over. Its zero value never does.
type brake struct {
	over  func() bool
	ended bool
}

// pull asks whether the time is over; once it is, it stays so.
func (b *brake) pull() bool {
	if b != nil && !b.ended && b.over != nil && b.over() {
		b.ended = true
	}
	return b != nil && b.ended
}

// Find answers a request: the best series, two truly different alternatives, or the smallest
// sets of limits to relax. An error says what of the request makes no sense.
func Find(q *Request) (*Answer, error) { return FindWithin(q, nil) }

// FindWithin is [Find] that ends when over says that its time has come: with the status stopped and
// what the best series costs at least, as far as that is known.
func FindWithin(q *Request, over func() bool) (*Answer, error) {
	limit := &brake{over: over}
	out, err := q.narrowed(limit, func(s *studio) *Answer {
		best := newSearch(s)
		path := best.run()
		if limit.ended {
			return &Answer{Status: Stopped, Bound: best.least}
		}
		if path == nil {
			return nil
		}
		out := best.answer(path)
		before := [][]*placement{path}
		for range 2 {
			other := best.different(before)
			if limit.ended {
				out.OthersStopped = true // the best is proved; the alternatives are not
				break
			}
			if other == nil {
				out.Alternatives = append(out.Alternatives, Answer{Status: None})
				break
			}
			out.Alternatives = append(out.Alternatives, *best.answer(other))
			before = append(before, other)
		}
		return out
	})
	if err != nil || out != nil {
		return out, err
	}
	return &Answer{Status: None, Relaxations: relax(q, limit)}, nil
}

// narrowFirst is by how many days a series may lie beside the ideal one at first.
const narrowFirst = 6

// narrowed searches among the series that lie close to the ideal one, and among others only where
// one of them could cost less. Each day by which the first visit comes after the wished one costs
// points, and so does each day by which a visit is off the sum of the ideal gaps, counted from the
// first visit, or from the glow visit on the day before an event. What it answers is what a search
// over all of them would.
func (q *Request) narrowed(limit *brake, search func(*studio) *Answer) (*Answer, error) {
	compiled := func(days int) (*studio, error) {
		asked := q
		if f := q.Series.First; days > 0 && f != nil && f.Ideal != "" {
			asked = q.clone()
			asked.Series.First.Latest = earlierDay(f.Latest, max(f.Ideal, f.Earliest), days)
		}
		s, err := compile(asked)
		if err != nil {
			return nil, err
		}
		s.limit, s.narrow = limit, days
		return s, nil
	}
	perDay := q.perDay()
	for days := narrowFirst; perDay > 0 && days < lookOn; {
		s, err := compiled(days)
		if err != nil {
			return nil, err
		}
		out, bound := search(s), perDay*(days+1)
		if limit.pull() {
			return out.provedBelow(bound), nil
		}
		if out != nil && out.costs() < bound {
			return out, nil
		}
		if days *= 4; out != nil && out.costs() < never {
			days = out.costs() / perDay // as wide as it has to be, and no wider
		}
	}
	s, err := compiled(0)
	if err != nil {
		return nil, err
	}
	return search(s), nil
}

// perDay is the least that a day beside the ideal series costs, 0 where nothing says what is ideal.
func (q *Request) perDay() int {
	w, items := weighed(q.Weights), q.Series.Items
	least := never
	for k := 1; k < len(items); k++ {
		least = min(least, w.gapPoints(items[k].Ideal))
	}
	switch f := q.Series.First; {
	case len(items) == 0:
		return 0
	case q.countdown():
	case f == nil || f.Ideal == "" || items[0].Fixed != nil:
		return 0
	default:
		ideal, err1 := parseDay(f.Ideal)
		earliest, err2 := parseDay(f.Earliest)
		if err1 != nil || err2 == nil && earliest > ideal {
			return 0 // a day later than the earliest is then no day beside the ideal
		}
		least = min(least, w.start)
	}
	if least == never {
		return 0
	}
	return least
}

// countdown reports whether the last visit is the glow visit on the day before an event.
func (q *Request) countdown() bool {
	n := len(q.Series.Items)
	return n > 0 && q.Series.Event != nil && q.Series.Items[n-1].Glow && q.Series.Items[n-1].Fixed == nil
}

// earlierDay is a day some days after another, or the one that is there where that is earlier.
func earlierDay(there, from string, days int) string {
	d, err := parseDay(from)
	if err != nil {
		return there
	}
	if to := dayText(d + days); there == "" || to < there {
		return to
	}
	return there
}

// provedBelow is what is proved of an answer to a narrowed search that was stopped, where anything
// else costs at least a bound: the best if it costs less, and the alternatives that do.
func (a *Answer) provedBelow(bound int) *Answer {
	switch {
	case a == nil || a.Cost == nil && a.Bound == nil:
		return &Answer{Status: Stopped}
	case a.Cost == nil:
		least := min(*a.Bound, bound)
		return &Answer{Status: Stopped, Bound: &least}
	case *a.Cost >= bound:
		return &Answer{Status: Stopped, Bound: &bound}
	}
	for i := range a.Alternatives {
		if alt := &a.Alternatives[i]; alt.Status != Optimal || *alt.Cost >= bound {
			a.Alternatives, a.OthersStopped = a.Alternatives[:i], true
			break
		}
	}
	return a
}

// costs is the most that the answer and its alternatives cost, never where one is missing.
func (a *Answer) costs() int {
	if a.Cost == nil {
		return never
	}
	most := *a.Cost
	for i := range a.Alternatives {
		if a.Alternatives[i].Status != Optimal {
			return never
		}
		most = max(most, *a.Alternatives[i].Cost)
	}
	return most
}

// run returns the best series, nil where there is none.
func (x *search) run() []*placement {
	if len(x.layers) == 0 {
		return nil
	}
	x.table()
	if x.limit.pull() {
		return nil
	}
	x.failed = map[string]int{}
	bound := never
	for c := range x.layers[0] {
		p := &x.layers[0][c]
		if r := int(x.rest[0][c][x.after(0, p)]); r < never {
			bound = min(bound, p.points+r)
		}
	}
	x.least = nil
	for bound < never && !x.limit.pull() {
		least := bound
		x.least = &least
		x.path = make([]*placement, 0, len(x.layers))
		found, cut := x.walk(0, 0, 0, bound)
		if found {
			return x.firstInTime(slices.Clone(x.path), bound)
		}
		bound = cut
	}
	return nil
}

// crossing is the longest gap, in days, at which the patch test for a treatment may come
// before the treatment ahead of it: the order of ties is then not that of the walk.
const crossing = 2

// firstInTime is, of the series of a cost, the one that wins the tie: items compare in order
// of time, patch tests included.
func (x *search) firstInTime(best []*placement, cost int) []*placement {
	t := x.q.Series.Patch
	if t == nil || t.Before < 2 || t.Before > len(x.layers) || x.q.Series.Items[t.Before-1].Least > crossing {
		return best
	}
	tried := map[[2]int64]bool{}
	for c := range x.layers[t.Before-1] {
		patch := x.layers[t.Before-1][c].patch
		if patch == nil || tried[[2]int64{patch.start, int64(patch.person)}] {
			continue
		}
		tried[[2]int64{patch.start, int64(patch.person)}] = true
		x.only, x.path, x.failed = patch, x.path[:0], map[string]int{}
		if found, _ := x.walk(0, 0, 0, cost); found && slices.CompareFunc(inTime(x.path), inTime(best), earlier) < 0 {
			best = slices.Clone(x.path)
		}
	}
	x.only = nil
	return best
}

// inTime lists everything that a series places, in order of start.
func inTime(path []*placement) []*placement {
	var out []*placement
	for _, p := range path {
		if p.patch != nil {
			out = append(out, p.patch)
		}
		out = append(out, p)
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].start < out[j].start })
	return out
}

func earlier(a, b *placement) int {
	return cmp.Or(cmp.Compare(a.start, b.start), cmp.Compare(a.person, b.person))
}

// answer tells a series with its cost by term.
func (x *search) answer(path []*placement) *Answer {
	out := &Answer{Status: Optimal, Terms: &Terms{}}
	for k, p := range path {
		if k > 0 {
			t := x.between(&x.w, k, path[k-1], p)
			out.Terms.add(&t)
		}
		out.Terms.add(&p.cost)
		if p.patch != nil {
			out.Terms.add(&p.patch.cost)
			out.Visits = append(out.Visits, x.placed("patch", x.q.Series.Patch.Before, p.patch))
		}
		out.Visits = append(out.Visits, x.placed("treatment", k+1, p))
	}
	sort.SliceStable(out.Visits, func(i, j int) bool { return out.Visits[i].Start < out.Visits[j].Start })
	sum := out.Terms.sum()
	out.Cost = &sum
	return out
}

func (x *search) placed(kind string, n int, p *placement) Placed {
	return Placed{
		Kind: kind, N: n, Start: dayText(p.day) + " " + clockText(p.minutes),
		Practitioner: x.q.Practitioners[p.person].Key, Room: p.room,
	}
}
