package series

import (
	"encoding/binary"
	"math"
	"slices"
	"sort"
)

// stepsBetween is how many steps of the walk lie between two looks at the clock.
const stepsBetween = 4096

// apart is by how many minutes two starts on one day differ truly (handbook, chapter 6).
const apart = 120

// never is the cost of what cannot be.
const never = math.MaxInt32

// search finds the best series among the placements of a compiled request. It is exact: a
// table holds, for every placement of every item, the least that the rest can cost as far as
// neighbours go; the walk through it takes the first series, in the order of ties, whose
// cost is the bound, and raises the bound only to what was cut off.
type search struct {
	*studio
	w      points
	layers [][]placement
	days   []map[int][2]int
	// needs is how many treatments have to differ from each of the series found before.
	needs [2]int
	rest  [][][]int32 // by item, placement and how many differ so far
	path  []*placement
	only  *placement // the one patch test that is looked at, nil for any
	// reaches says that a limit reaches further than to the neighbour. failed is then the
	// least that the rest costs after what was tried in vain, by its memory.
	reaches   bool
	failed    map[string]int
	least     *int // what the best costs at least, nil before it is known
	quick     *quickLayer
	patchDays int // how many visits back a patch test may meet
	steps     int
}

func newSearch(s *studio) *search {
	x := &search{studio: s, w: weighed(s.q.Weights)}
	if p := s.q.Series.Patch; p != nil && p.Before > 1 {
		x.patchDays = 3 // 48 elapsed hours touch three days
	}
	x.reaches = s.q.Series.PerWeek > 1 || s.q.Series.Span > 0 || x.patchDays > 0 ||
		slices.ContainsFunc(s.q.Series.Items, func(it Item) bool { return len(it.Tools) > 0 })
	windows := s.windows()
	x.layers, x.days = make([][]placement, len(windows)), make([]map[int][2]int, len(windows))
	for k := range windows {
		x.layers[k] = slices.DeleteFunc(s.placements(k, windows[k]), func(p placement) bool { return !x.reached(k, &p) })
		x.days[k] = byDay(x.layers[k])
		if len(x.layers[k]) == 0 {
			break // nor can anything come after it
		}
	}
	return x
}

// reached reports whether a placement of item k may follow one that the item before can have.
func (x *search) reached(k int, p *placement) bool {
	if k == 0 || p.fixed {
		return true
	}
	item := &x.q.Series.Items[k]
	for day := p.day - item.Most; day <= p.day-max(item.Least, 1); day++ {
		at := x.days[k-1][day]
		for c := at[0]; c < at[1]; c++ {
			if x.follows(k, &x.layers[k-1][c], p) {
				return true
			}
		}
	}
	return false
}

// different is the best series of which enough treatments differ from those found before.
func (x *search) different(before [][]*placement) []*placement {
	n := len(x.layers)
	y := *x
	y.needs = [2]int{}
	for i, was := range before {
		y.needs[i] = (n + 1) / 2
		for k := range y.layers {
			for c := range y.layers[k] {
				p := &y.layers[k][c]
				p.differs[i] = p.day != was[k].day || p.person != was[k].person || distance(p.minutes, was[k].minutes) >= apart
			}
		}
	}
	return y.run()
}

// states is how many counts of differing treatments are told apart.
func (x *search) states() int { return (x.needs[0] + 1) * (x.needs[1] + 1) }

// after is the count once a placement is taken as well; more than is needed counts as enough.
func (x *search) after(state int, p *placement) int {
	a, b := state/(x.needs[1]+1), state%(x.needs[1]+1)
	if p.differs[0] {
		a = min(a+1, x.needs[0])
	}
	if p.differs[1] {
		b = min(b+1, x.needs[1])
	}
	return a*(x.needs[1]+1) + b
}

// table works out the least that the rest costs, from the last item back.
func (x *search) table() {
	n, states := len(x.layers), x.states()
	x.rest = make([][][]int32, n)
	for k := n - 1; k >= 0; k-- {
		x.rest[k] = make([][]int32, len(x.layers[k]))
		flat := make([]int32, len(x.layers[k])*states)
		if x.limit.pull() {
			return
		}
		x.quick = nil
		if k < n-1 {
			x.quick = x.quicken(k + 1)
		}
		for c := range x.layers[k] {
			row := flat[c*states : (c+1)*states]
			x.rest[k][c] = row
			for i := range row {
				row[i] = never
			}
			if k == n-1 {
				row[states-1] = 0
				continue
			}
			x.reach(k, &x.layers[k][c], row)
		}
	}
}

// reach fills in one row of the table from the placements that may follow.
func (x *search) reach(k int, a *placement, row []int32) {
	item := &x.q.Series.Items[k+1]
	first, last := a.day+max(item.Least, 1), a.day+item.Most
	for day := first; day <= last; day++ {
		at := x.days[k+1][day]
		gap := x.w.ofGap(item.Ideal, day-a.day)
		if x.quick.reach(row, a, day, gap, item.Rest, x.w.change) {
			continue
		}
		for c := at[0]; c < at[1]; c++ {
			if b := &x.layers[k+1][c]; x.follows(k+1, a, b) {
				x.take(row, b, gap+x.w.ofPair(a, b)+b.points, x.rest[k+1][c])
			}
		}
	}
	if fixed := x.layers[k+1]; len(fixed) == 1 && fixed[0].fixed {
		t := x.between(&x.w, k+1, a, &fixed[0])
		x.take(row, &fixed[0], t.sum()+fixed[0].points, x.rest[k+1][0])
	}
}

// take lowers a row by what a placement and its own rest cost.
func (x *search) take(row []int32, b *placement, cost int, rest []int32) {
	if len(row) == 1 { // nothing has to differ
		if r := rest[0]; r < never {
			row[0] = min(row[0], r+int32(cost)) //nolint:gosec // a cost is far below the limit
		}
		return
	}
	for state := range row {
		if r := rest[x.after(state, b)]; r < never {
			row[state] = min(row[state], r+int32(cost)) //nolint:gosec // a cost is far below the limit
		}
	}
}

// walk goes on from item k in the order of ties, within a bound. Where it finds nothing, cut
// is the least that a series goes beyond the bound with, never where there is none at all.
func (x *search) walk(k, state, cost, bound int) (found bool, cut int) {
	if k == len(x.layers) {
		return x.spans(), never
	}
	if x.steps++; x.steps%stepsBetween == 0 && x.limit.pull() || x.limit != nil && x.limit.ended {
		return false, never
	}
	key := x.memory(k, state)
	if rest, known := x.failed[key]; known && cost+rest > bound {
		return false, min(cost+rest, never)
	}
	cut = never
	for _, c := range x.following(k) {
		to, here, ok := x.step(k, c, state, cost)
		if !ok {
			continue
		}
		if f := here + int(x.rest[k][c][to]); f > bound {
			cut = min(cut, f)
			continue
		}
		p := &x.layers[k][c]
		if !x.keeps(k, p) {
			continue
		}
		x.path = append(x.path, p)
		done, beyond := x.walk(k+1, to, here, bound)
		if done {
			return true, 0
		}
		x.path = x.path[:k]
		cut = min(cut, beyond)
	}
	if key != "" {
		x.failed[key] = cut - cost
		if cut == never {
			x.failed[key] = never
		}
	}
	return false, cut
}

// step is what a placement costs after the path so far, and the count of differing treatments
// with it; ok says that it may come and that something can follow.
func (x *search) step(k, c, state, cost int) (to, here int, ok bool) {
	p := &x.layers[k][c]
	if x.only != nil && p.patch != nil && (p.patch.start != x.only.start || p.patch.person != x.only.person) {
		return 0, 0, false
	}
	here = cost + p.points
	if k > 0 {
		if !x.follows(k, x.path[k-1], p) {
			return 0, 0, false
		}
		t := x.between(&x.w, k, x.path[k-1], p)
		here += t.sum()
	}
	to = x.after(state, p)
	return to, here, x.rest[k][c][to] < never
}

// memory tells apart all that the visits from item k on depend on of those before: what is
// known to fail after one way of laying them fails after every other with the same memory. It
// is empty where the table alone says it all.
func (x *search) memory(k, state int) string {
	if k < 2 || !x.reaches {
		return ""
	}
	last := x.path[k-1]
	b := make([]byte, 0, 64)
	add := func(n int64) { b = binary.AppendVarint(b, n) }
	add(int64(k))
	add(int64(state))
	add(last.start)
	add(int64(last.person))
	if x.q.Series.Span > 0 {
		add(int64(x.path[0].day))
	}
	for i := max(0, k-max(x.q.Series.PerWeek, x.patchDays)); i < k-1; i++ {
		add(int64(x.path[i].day))
	}
	for i := range x.path {
		item := &x.q.Series.Items[i]
		for key := range item.Tools {
			if x.path[i].start+int64(item.Sold)+x.out(key) > last.start-dayMinutes {
				add(-x.path[i].start)
				break
			}
		}
	}
	return string(b)
}

// following are the placements of item k that the gap allows, in the order of ties.
func (x *search) following(k int) []int {
	var out []int
	if k == 0 || len(x.layers[k]) == 1 {
		for c := range x.layers[k] {
			out = append(out, c)
		}
	} else {
		item := &x.q.Series.Items[k]
		for day := x.path[k-1].day + max(item.Least, 1); day <= x.path[k-1].day+item.Most; day++ {
			if at, any := x.days[k][day]; any {
				for c := at[0]; c < at[1]; c++ {
					out = append(out, c)
				}
			}
		}
	}
	if p := x.q.Series.Patch; p != nil && p.Before == k+1 {
		sort.SliceStable(out, func(i, j int) bool { return x.layers[k][out[i]].before(&x.layers[k][out[j]]) })
	}
	return out
}

// keeps reports whether a placement goes with those before it as far as more than neighbours
// are concerned: the week's count, a patch test's day, tools that are out for a night.
func (x *search) keeps(k int, p *placement) bool {
	if m := x.q.Series.PerWeek; m > 0 && k >= m && !p.fixed && p.day-x.path[k-m].day < 7 {
		return false
	}
	for i := range x.path {
		was := x.path[i]
		if p.patch != nil && p.patch.day == was.day || was.patch != nil && was.patch.day == p.day {
			return false
		}
	}
	item := &x.q.Series.Items[k]
	if len(item.Tools) == 0 || p.fixed {
		return true
	}
	own := map[string][]use{}
	for i := range x.path {
		was := &x.q.Series.Items[i]
		for key, n := range was.Tools {
			from, end := x.path[i].start-int64(was.Prepare), x.path[i].start+int64(was.Sold)
			own[key] = append(own[key], use{piece{from, end + x.out(key)}, n})
		}
	}
	return x.toolsServe(item.Tools, p.start-int64(item.Prepare), p.start+int64(item.Sold), own)
}

// spans reports whether the series is as long as a review asks.
func (x *search) spans() bool {
	n := len(x.path)
	return x.q.Series.Span == 0 || x.path[n-1].day-x.path[0].day >= x.q.Series.Span
}
