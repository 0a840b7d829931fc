package series

import (
	"fmt"
	"slices"
	"sort"
)

// relaxMinutes and relaxDays are how far a switch lets a limit go.
const (
	overtimeMinutes = 30
	moreGapDays     = 7
	laterDays       = 14
	mostSwitches    = 3
)

// limit is a limit that can be relaxed; it changes a request of its own.
type limit struct {
	name string
	let  func(q *Request)
}

// limits are the switches that a request has, in the handbook's order.
func limits(q *Request) []limit {
	out := []limit{{"client-times", func(q *Request) { q.Client.Possible = nil }}}
	if want := q.Series.Practitioner; want != nil && want.How == "must" {
		out = append(out, limit{"practitioner", func(q *Request) { q.Series.Practitioner.How = "prefer" }})
	}
	out = append(out,
		limit{"least-gap", func(q *Request) {
			for i := range q.Series.Items {
				if it := &q.Series.Items[i]; it.Least > 1 {
					it.Least--
				}
			}
		}},
		limit{"most-gap", func(q *Request) {
			for i := range q.Series.Items {
				q.Series.Items[i].Most += moreGapDays
			}
		}},
		limit{"start", func(q *Request) {
			if f := q.Series.First; f != nil && f.Latest != "" {
				f.Latest = later(f.Latest)
			}
		}},
	)
	if q.Series.FinishBy != "" {
		out = append(out, limit{"finish", func(q *Request) { q.Series.FinishBy = later(q.Series.FinishBy) }})
	}
	out = append(out, limit{"fewer", fewer}, limit{"overtime", func(q *Request) { q.Overtime += overtimeMinutes }})
	var tools []string
	for i := range q.Series.Items {
		for key := range q.Series.Items[i].Tools {
			if !slices.Contains(tools, key) {
				tools = append(tools, key)
			}
		}
	}
	slices.Sort(tools)
	for i := range q.Tools { // in the studio's order
		if key := q.Tools[i].Key; slices.Contains(tools, key) {
			out = append(out, limit{"one-more-" + key, func(q *Request) { q.Tools[i].Sets++ }})
		}
	}
	return out
}

func later(day string) string {
	d, err := parseDay(day)
	if err != nil {
		return day
	}
	return dayText(d + laterDays)
}

// fewer leaves out the last treatment that is not the glow visit, and its patch test.
func fewer(q *Request) {
	for i := len(q.Series.Items) - 1; i >= 0; i-- {
		if q.Series.Items[i].Glow {
			continue
		}
		q.Series.Items = slices.Delete(q.Series.Items, i, i+1)
		if p := q.Series.Patch; p != nil {
			switch {
			case p.Before == i+1:
				q.Series.Patch = nil
			case p.Before > i+1:
				p.Before--
			}
		}
		return
	}
}

// relax finds the smallest sets of limits whose relaxing gives a series.
func relax(q *Request, limit *brake) *Relaxations {
	list := limits(q)
	out := &Relaxations{Sets: []Relaxed{}, Alone: map[string]*int{}}
	if !helps(q, list, limit) {
		out.Stopped = limit.pull()
		for _, l := range list {
			out.Alone[l.name] = nil
		}
		return out
	}
	for size := 1; size <= min(mostSwitches, len(list)); size++ {
		var found []Relaxed
		for _, set := range subsets(len(list), size) {
			names := make([]string, size)
			for i, at := range set {
				names[i] = list[at].name
			}
			if limit.pull() {
				out.Stopped = true
				return out
			}
			a := relaxed(q, list, set, limit)
			if size == 1 {
				out.Alone[names[0]] = nil
				if a != nil {
					out.Alone[names[0]] = a.Cost
				}
			}
			if a != nil {
				found = append(found, Relaxed{Relax: names, Cost: *a.Cost, Visits: a.Visits})
			}
		}
		if len(found) > 0 {
			sort.SliceStable(found, func(i, j int) bool { return found[i].Cost < found[j].Cost })
			out.Size, out.Sets = size, found
			return out
		}
	}
	return out
}

// helps reports whether any set of limits gives a series, three or more of them: a limit that is
// let go takes nothing away, so that where all of them together give none, no set does. One visit
// fewer is asked both ways, as it changes what follows it.
func helps(q *Request, list []limit, b *brake) bool {
	var all []int
	fewerAt := -1
	for i := range list {
		if list[i].name == "fewer" {
			fewerAt = i
			continue
		}
		all = append(all, i)
	}
	return relaxed(q, list, all, b) != nil || fewerAt >= 0 && relaxed(q, list, append(all, fewerAt), b) != nil
}

// relaxed is the best series with some limits relaxed, nil where there is none.
func relaxed(q *Request, list []limit, set []int, b *brake) *Answer {
	copied := q.clone()
	for _, at := range set {
		list[at].let(copied)
	}
	if len(copied.Series.Items) == 0 {
		return nil
	}
	out, err := copied.narrowed(b, func(s *studio) *Answer {
		x := newSearch(s)
		if path := x.run(); path != nil {
			return x.answer(path)
		}
		return nil
	})
	if err != nil || b.pull() {
		return nil // where the time is over, what was found is not known to be the best
	}
	return out
}

// clone is a copy of what relaxing changes; the rest is shared.
func (q *Request) clone() *Request {
	c := *q
	c.Tools, c.Series.Items = slices.Clone(q.Tools), slices.Clone(q.Series.Items)
	if q.Series.Practitioner != nil {
		want := *q.Series.Practitioner
		c.Series.Practitioner = &want
	}
	if q.Series.First != nil {
		first := *q.Series.First
		c.Series.First = &first
	}
	if q.Series.Patch != nil {
		patch := *q.Series.Patch
		c.Series.Patch = &patch
	}
	return &c
}

// Relax is a request with some of its [Switches] let go; a name that it has no switch for is an
// error.
func Relax(q *Request, names []string) (*Request, error) {
	copied := q.clone()
	for _, name := range names {
		list := limits(copied)
		i := slices.IndexFunc(list, func(l limit) bool { return l.name == name })
		if i < 0 {
			return nil, fmt.Errorf("there is no limit %q to relax", name)
		}
		list[i].let(copied)
	}
	return copied, nil
}

// subsets lists the sets of some of the first n numbers, in order.
func subsets(n, size int) [][]int {
	if size == 0 {
		return [][]int{{}}
	}
	var out [][]int
	for first := 0; first < n; first++ {
		for _, rest := range subsets(n-first-1, size-1) {
			set := []int{first}
			for _, r := range rest {
				set = append(set, first+1+r)
			}
			out = append(out, set)
		}
	}
	return out
}

// Switches lists the limits of a request that can be relaxed, in the handbook's order.
func Switches(q *Request) []string {
	list := limits(q)
	out := make([]string, len(list))
	for i := range list {
		out[i] = list[i].name
	}
	return out
}
