package series

import (
	"cmp"
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
