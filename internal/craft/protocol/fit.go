package protocol

import (
	"cmp"
	"math"
	"slices"
	"sync"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

// Fitted is the outcome of [Fit].
type Fitted struct {
	Protocol *Protocol `json:"protocol"`
	// Penalty is the optimum of the objective; 0 where nothing had to change.
	Penalty float64 `json:"penalty"`
	// MissBy is how many seconds the best plan lies outside the window: positive
	// when it is too long, negative when too short, 0 when it fits.
	MissBy  int      `json:"missBy"`
	Changed []string `json:"changed"`
	Dropped []string `json:"dropped"`
	// Rounds whose number changed.
	Rounds []string `json:"rounds"`
	// InTheWay are steps that are already as short (or long) as they may be.
	InTheWay []string `json:"inTheWay"`
}

// option is one way to give a group of steps its dose, or a round its number.
type option struct {
	planned int
	dropped bool
	seconds int   // of whole seconds, for steps
	centis  int   // of hundredths, for rounds: their passes have transitions in them
	penalty int64 // in millionths
	eyes    eyeLoad
}

// cost orders options: penalty, then a change for a change. Groups are at most
// 200, so changes never outweigh a millionth of penalty.
func (o *option) cost(changed bool) int64 {
	c := o.penalty << 10
	if changed {
		c++
	}
	return c
}

// eyeLoad is sliding time in hundredths of a second on under-eye left and
// right, orbital rim left and right.
type eyeLoad [4]int32

func (a eyeLoad) plus(b eyeLoad) eyeLoad {
	for i := range a {
		a[i] += b[i]
	}
	return a
}

func (a eyeLoad) within(cap eyeLoad) bool {
	for i := range a {
		if a[i] > cap[i] {
			return false
		}
	}
	return true
}

// group is steps that share one choice: a step and those that mirror or
// alternate with it; or a round.
type group struct {
	steps   []int
	round   int // index into Rounds, -1 for steps
	options []option
}

// Fit chooses the dose of every step among its allowed values and drops optional
// steps, so that hands-on time lies within the slot and at most [FitGrace] below
// it, at the least sum of weight x |dose - planned| / planned (a dropped step
// costs three times its weight). Steps that mirror or alternate with each other
// share one choice; of a round only the number varies. Opening and closing are
// never dropped, and a dropped step keeps its transition, so the real plan never
// overruns. The sliding time round the eyes stays within its limits, or as near
// to them as the ranges allow.
//
// If the window cannot be reached the plan falls short by as little as it can;
// it is too long only where even the shortest is. The optimum is exact; ties go
// to the fewest changes, then to the earliest steps.
//
// Cost: a dynamic programme of steps x options x reachable seconds; rounds, and
// steps round the eyes where a limit binds, are enumerated by their distinct
// times.
func Fit(p *Protocol, ctx *Context, slotSeconds int) Fitted {
	return FitOf(p, ctx, outline(p, ctx), slotSeconds)
}

// FitOf is [Fit] for a protocol whose evaluation is at hand.
func FitOf(p *Protocol, ctx *Context, e *Evaluation, slotSeconds int) Fitted {
	f := fitting{p: p, e: e, pace: ctx.pace(), mem: scratches.Get().(*scratch)}
	f.group(ctx)
	fixed := e.Seconds
	for gi := range f.groups {
		o := &f.groups[gi].options[0] // the plan as it stands
		fixed -= float64(o.seconds) + float64(o.centis)/100
	}
	f.hi = float64(slotSeconds) - fixed
	f.lo = f.hi - FitGrace
	choice, miss := f.solve()
	out := f.result(choice, miss)
	scratches.Put(f.mem)
	return out
}

type fitting struct {
	p      *Protocol
	e      *Evaluation
	pace   float64
	groups []group
	lo, hi float64
	mem    *scratch
}

// scratch is memory kept between fits.
type scratch struct {
	rows    []int64
	options []option
	groups  []group
	indexes []int
}

var scratches = sync.Pool{New: func() any { return &scratch{rows: make([]int64, 16384)} }}

func (f *fitting) result(choice []int, miss int) Fitted {
	out := Fitted{Protocol: f.p.Clone(), MissBy: miss, Changed: []string{}, Dropped: []string{}, Rounds: []string{}, InTheWay: []string{}}
	drop := map[int]bool{}
	for gi := range f.groups {
		g := &f.groups[gi]
		o := &g.options[choice[gi]]
		out.Penalty += float64(o.penalty) / 1e6
		if g.round >= 0 {
			if r := &out.Protocol.Rounds[g.round]; o.planned != r.Times {
				least, most := r.bounds()
				r.Min, r.Max, r.Times = least, most, o.planned
				out.Rounds = append(out.Rounds, r.ID)
			}
			continue
		}
		for _, i := range g.steps {
			s, r := &out.Protocol.Steps[i], &f.e.Steps[i]
			switch {
			case o.dropped:
				out.Dropped = append(out.Dropped, s.ID)
				drop[i] = true
			case choice[gi] != 0:
				d := r.Dose.With(o.planned)
				s.Dose = &d
				out.Changed = append(out.Changed, s.ID)
			}
			if !o.dropped && (miss > 0 && o.planned == r.Least || miss < 0 && o.planned == r.Most) {
				out.InTheWay = append(out.InTheWay, s.ID)
			}
		}
	}
	if len(drop) > 0 {
		kept := out.Protocol.Steps[:0]
		for i := range out.Protocol.Steps {
			if !drop[i] {
				kept = append(kept, out.Protocol.Steps[i])
			}
		}
		out.Protocol.Steps = kept
	}
	return out
}

// group gathers the choices of the plan.
func (f *fitting) group(ctx *Context) {
	lead := make(map[string]int, len(f.p.Steps)) // step id to its group
	f.groups = slices.Grow(f.mem.groups[:0], len(f.p.Steps)+len(f.p.Rounds))
	f.mem.indexes = slices.Grow(f.mem.indexes[:0], len(f.p.Steps))[:len(f.p.Steps)]
	indexes := f.mem.indexes
	for i := range f.p.Steps {
		s, r := &f.p.Steps[i], &f.e.Steps[i]
		if s.Phase == "reset" || s.Round != "" {
			continue
		}
		with := s.MirrorOf
		if with == "" {
			with = s.AlternateOf
		}
		if g, ok := lead[with]; ok && with != "" && sameRange(&f.e.Steps[f.groups[g].steps[0]], r) {
			f.groups[g].steps = append(f.groups[g].steps, i)
			lead[s.ID] = g
			continue
		}
		lead[s.ID] = len(f.groups)
		indexes[i] = i
		f.groups = append(f.groups, group{steps: indexes[i : i+1 : i+1], round: -1})
	}
	total := 0
	for gi := range f.groups {
		r := &f.e.Steps[f.groups[gi].steps[0]]
		total += (r.Most-r.Least)/max(r.Grain, 1) + 4
	}
	f.mem.options = slices.Grow(f.mem.options[:0], total)
	store := f.mem.options
	for gi := range f.groups {
		g := &f.groups[gi]
		from := len(store)
		store = f.stepOptions(g, store)
		g.options = store[from:len(store):len(store)]
	}
	if len(f.p.Rounds) > 0 {
		f.roundGroups(ctx)
	}
	f.mem.groups = f.groups
}

func (f *fitting) stepOptions(g *group, store []option) []option {
	r := &f.e.Steps[g.steps[0]]
	store = append(store, f.dosed(g, r.Dose.Planned))
	if r.Dose.Planned > 0 {
		for v := r.Least; v <= r.Most; v += r.Grain {
			if v != r.Dose.Planned {
				store = append(store, f.dosed(g, v))
			}
		}
		if r.Most != r.Dose.Planned && (r.Most-r.Least)%r.Grain != 0 {
			store = append(store, f.dosed(g, r.Most))
		}
	}
	if droppable(f.e, g.steps) {
		weight := 0.0
		for _, i := range g.steps {
			weight += stepWeight(f.e.Steps[i].step)
		}
		store = append(store, option{dropped: true, penalty: int64(math.Round(3e6 * weight))})
	}
	return store
}

func (f *fitting) dosed(g *group, planned int) option {
	o := option{planned: planned}
	for _, i := range g.steps {
		r := &f.e.Steps[i]
		secs := int(math.Round(r.working(planned) * f.pace))
		o.seconds += secs
		if r.Dose.Planned > 0 && planned != r.Dose.Planned {
			o.penalty += int64(math.Round(1e6 * stepWeight(r.step) * math.Abs(float64(planned-r.Dose.Planned)) / float64(r.Dose.Planned)))
		}
		if sliding := r.slidingShare(); sliding > 0 && (r.on("under-eye") || r.on("orbital-rim")) {
			o.eyes = o.eyes.plus(f.eyesOf(r, planned, secs, sliding))
		}
	}
	return o
}

// eyesOf is the sliding time that a step spends round each eye.
func (f *fitting) eyesOf(r *Resolved, planned, secs int, sliding float64) (load eyeLoad) {
	c := *r
	d := r.Dose.With(planned)
	c.Dose = &d
	c.Working = r.working(planned)
	for _, ps := range c.appendPasses(nil, f.p, 0, float64(secs)) {
		share := int32(math.Round(100 * ps.Seconds * sliding / float64(len(r.Path))))
		for i := range r.Path {
			at := -1
			switch r.Path[i].Zone {
			case "under-eye":
				at = 0
			case "orbital-rim":
				at = 2
			default:
				continue
			}
			if ps.side != anatomy.Right {
				load[at] += share
			}
			if ps.side != anatomy.Left {
				load[at+1] += share
			}
		}
	}
	return load
}

// roundGroups adds a choice for the number of every round. What a further pass
// takes is read from a timeline in which every round is worked at least twice.
func (f *fitting) roundGroups(ctx *Context) {
	twice := f.p.Clone()
	for i := range twice.Rounds {
		twice.Rounds[i].Times = max(2, twice.Rounds[i].Times)
	}
	e := outline(twice, ctx)
	for ri, r := range f.p.Rounds {
		var ends [3]float64
		g := group{round: ri}
		var eyes eyeLoad
		weight := 0.0
		for vi := range e.Visits {
			v := &e.Visits[vi]
			res := &e.Steps[v.Step]
			if res.step.Round != r.ID {
				continue
			}
			if v.Pass <= 2 {
				ends[v.Pass] = v.End
			}
			if v.Pass == 1 {
				g.steps = append(g.steps, v.Step)
				weight += stepWeight(res.step)
				if sliding := res.slidingShare(); sliding > 0 {
					eyes = eyes.plus(f.eyesOf(res, res.Dose.Planned, res.Seconds, sliding))
				}
			}
		}
		if len(g.steps) == 0 {
			continue
		}
		pass := ends[2] - ends[1]
		add := func(times int) {
			o := option{planned: times, centis: int(math.Round(100 * pass * float64(times-1)))}
			o.penalty = int64(math.Round(1e6 * weight * math.Abs(float64(times-r.Times)) / float64(r.Times)))
			for i := range eyes {
				o.eyes[i] = eyes[i] * int32(times)
			}
			g.options = append(g.options, o)
		}
		add(r.Times)
		least, most := r.bounds()
		for n := least; n <= most; n++ {
			if n != r.Times {
				add(n)
			}
		}
		f.groups = append(f.groups, g)
	}
}

func sameRange(a, b *Resolved) bool {
	return a.Dose.Kind == b.Dose.Kind && a.Dose.Planned == b.Dose.Planned && a.Least == b.Least && a.Most == b.Most
}

func droppable(e *Evaluation, steps []int) bool {
	for _, i := range steps {
		r := &e.Steps[i]
		if !r.step.Optional || r.Phase == "open" || r.Phase == "close" || r.Intent == stroke.Open {
			return false
		}
	}
	return true
}

func stepWeight(s *Step) float64 {
	if s.Weight == 0 {
		return 1
	}
	return s.Weight
}

// solve returns the choice of each group and by how much the window is missed.
// It solves without the limits of the eyes first: where that optimum keeps them
// it is the answer.
func (f *fitting) solve() (choice []int, miss int) {
	least := eyeLoad{}
	for gi := range f.groups {
		low := f.groups[gi].options[0].eyes
		for _, o := range f.groups[gi].options {
			for i := range low {
				low[i] = min(low[i], o.eyes[i])
			}
		}
		least = least.plus(low)
	}
	limits := eyeLoad{}
	for i, zone := range [...]string{"under-eye", "under-eye", "orbital-rim", "orbital-rim"} {
		limits[i] = max(int32(100*EyeLimit(zone)+50), least[i])
	}
	apart := make([]bool, len(f.groups)) // enumerated instead of programmed
	for gi := range f.groups {
		apart[gi] = f.groups[gi].round >= 0
	}
	choice, miss = f.optimum(apart, nil)
	total := eyeLoad{}
	for gi := range f.groups {
		total = total.plus(f.groups[gi].options[choice[gi]].eyes)
	}
	if total.within(limits) {
		return choice, miss
	}
	for gi := range f.groups {
		for _, o := range f.groups[gi].options {
			apart[gi] = apart[gi] || o.eyes != eyeLoad{}
		}
	}
	return f.optimum(apart, &limits)
}

// combo is one way to choose for the groups that are enumerated.
type combo struct {
	centis int
	eyes   eyeLoad
	cost   int64
	choice []uint16
}

// combos enumerates the choices of the groups apart, one for each distinct time
// and load: the cheapest, the earliest changed among equals.
func (f *fitting) combos(apart []bool, limits *eyeLoad) []combo {
	type key struct {
		centis int
		eyes   eyeLoad
	}
	list := []combo{{}}
	for gi := range f.groups {
		if !apart[gi] {
			continue
		}
		g := &f.groups[gi]
		at := map[key]int{}
		var next []combo
		for _, c := range list {
			for k := range g.options {
				o := &g.options[k]
				n := combo{centis: c.centis + o.centis + 100*o.seconds, eyes: c.eyes.plus(o.eyes), cost: c.cost + o.cost(k != 0)}
				if limits != nil && !n.eyes.within(*limits) {
					continue
				}
				id := key{centis: n.centis}
				if limits != nil {
					id.eyes = n.eyes
				}
				i, seen := at[id]
				if seen && (next[i].cost < n.cost || next[i].cost == n.cost && !earlier(c.choice, uint16(k), next[i].choice)) {
					continue
				}
				n.choice = append(slices.Clone(c.choice), uint16(k))
				if seen {
					next[i] = n
				} else {
					at[id] = len(next)
					next = append(next, n)
				}
			}
		}
		list = next
	}
	return list
}

// earlier reports whether the choice a followed by k changes earlier groups than b.
func earlier(a []uint16, k uint16, b []uint16) bool {
	for i := range b {
		x := k
		if i < len(a) {
			x = a[i]
		}
		if (x != 0) != (b[i] != 0) {
			return x != 0
		}
	}
	return false
}

const unreachable = math.MaxInt64

// row holds the least cost of the groups from one on, for every whole number of
// seconds from from on that can still matter.
type row struct {
	from int
	cost []int64
}

func (r *row) at(w int) int64 {
	if w < r.from || w >= r.from+len(r.cost) {
		return unreachable
	}
	return r.cost[w-r.from]
}

// optimum solves for a set of enumerated groups.
func (f *fitting) optimum(apart []bool, limits *eyeLoad) (choice []int, miss int) {
	combos := f.combos(apart, limits)
	slices.SortStableFunc(combos, func(a, b combo) int { return cmp.Compare(a.centis, b.centis) })
	shortest, longest := combos[0].centis, combos[len(combos)-1].centis
	var programmed []int
	least, most := 0, 0
	for gi := range f.groups {
		if apart[gi] {
			continue
		}
		programmed = append(programmed, gi)
		lo, hi := f.groups[gi].bounds()
		least, most = least+lo, most+hi
	}
	// The window of the programmed groups, in whole seconds.
	from := int(math.Ceil(f.lo - float64(longest)/100 - 1e-9))
	to := int(math.Floor(f.hi - float64(shortest)/100 + 1e-9))
	best := f.bounded(programmed, combos, max(from, least), min(to, most))
	if best.cost == unreachable {
		// Nothing in the window: the longest below it, else the shortest above.
		best = f.pick(f.programme(programmed, least, min(to, most), unreachable), combos, math.Inf(-1))
		if best.cost == unreachable {
			best = f.shortest(programmed, combos)
		}
		total := float64(best.seconds) + float64(best.combo.centis)/100
		if total > f.hi {
			miss = int(math.Ceil(total - f.hi - 1e-9))
		} else {
			miss = -int(math.Ceil(f.lo - total - 1e-9))
		}
	}
	choice = make([]int, len(f.groups))
	n := 0
	for gi := range f.groups {
		if apart[gi] {
			choice[gi] = int(best.combo.choice[n])
			n++
		}
	}
	w := best.seconds
	for level, gi := range programmed {
		g := &f.groups[gi]
		// Changed options first: among equals the earliest steps change.
		for k := len(g.options) - 1; k >= 0; k-- {
			o := &g.options[k]
			rest := best.rows[level+1].at(w - o.seconds)
			if rest != unreachable && rest+o.cost(k != 0) == best.rows[level].at(w) {
				choice[gi] = k
				w -= o.seconds
				break
			}
		}
	}
	return choice, miss
}

// bounded solves within a bound on the cost, about what the change should cost
// at the best rates; what costs more is never followed, which leaves little to
// do when little has to change. Where the optimum does not lie below the bound
// it is solved without one.
func (f *fitting) bounded(programmed []int, combos []combo, from, to int) picked {
	bound := f.estimate(programmed, from, to) << 10
	best := f.pick(f.programme(programmed, from, to, bound), combos, f.lo)
	cheapest := int64(unreachable)
	for _, c := range combos {
		cheapest = min(cheapest, c.cost)
	}
	if best.cost != unreachable && best.cost-cheapest <= bound {
		return best
	}
	return f.pick(f.programme(programmed, from, to, unreachable), combos, f.lo)
}

// estimate is roughly the penalty of reaching the window, somewhat too high: the
// groups with the cheapest seconds give theirs first.
func (f *fitting) estimate(programmed []int, from, to int) int64 {
	planned := 0
	for _, gi := range programmed {
		planned += f.groups[gi].options[0].seconds
	}
	want := 0
	switch {
	case planned > to:
		want = to - planned
	case planned < from:
		want = from - planned
	}
	type offer struct {
		seconds int
		rate    float64 // penalty a second
	}
	offers := make([]offer, 0, len(programmed))
	for _, gi := range programmed {
		g := &f.groups[gi]
		best := offer{}
		for k := range g.options {
			o := &g.options[k]
			d := o.seconds - g.options[0].seconds
			if want < 0 {
				d = -d
			}
			if rate := float64(o.penalty) / float64(max(d, 1)); d > 0 && (best.seconds == 0 || rate <= best.rate+1e-9) {
				best = offer{d, rate}
			}
		}
		if best.seconds > 0 {
			offers = append(offers, best)
		}
	}
	slices.SortFunc(offers, func(a, b offer) int { return cmp.Compare(a.rate, b.rate) })
	left, sum := abs(want), 0.0
	for _, o := range offers {
		if left <= 0 {
			break
		}
		sum += o.rate * float64(min(o.seconds, left))
		left -= o.seconds
	}
	return int64(1.1*sum) + 1e5
}

func (g *group) bounds() (least, most int) {
	least, most = g.options[0].seconds, g.options[0].seconds
	for i := range g.options {
		least, most = min(least, g.options[i].seconds), max(most, g.options[i].seconds)
	}
	return least, most
}

// programme fills the rows for totals from from to to. States that cost more than
// the bound are left out. The rows are good until the next call.
func (f *fitting) programme(groups []int, from, to int, bound int64) []row {
	n := len(groups)
	if from > to {
		return nil
	}
	rows := make([]row, n+1)
	lo, hi := make([]int, n+1), make([]int, n+1) // bounds of the groups before
	for level, gi := range groups {
		l, h := f.groups[gi].bounds()
		lo[level+1], hi[level+1] = lo[level]+l, hi[level]+h
	}
	if hi[n] < from || lo[n] > to {
		return nil
	}
	rows[n] = row{0, []int64{0}}
	store := f.mem.rows
	for level := n - 1; level >= 0; level-- {
		g, after := &f.groups[groups[level]], &rows[level+1]
		least, most := lo[level+1]-lo[level], hi[level+1]-hi[level]
		// What this level can reach, and what the window can still use of it.
		a := max(after.from+least, from-hi[level])
		b := min(after.from+len(after.cost)-1+most, to-lo[level])
		if a > b {
			return nil
		}
		size := b - a + 1
		if len(store) < size {
			store = make([]int64, max(4096, size))
		}
		cost := store[:size:size]
		for i := range cost {
			cost[i] = unreachable
		}
		for k := range g.options {
			o := &g.options[k]
			c := o.cost(k != 0)
			if c > bound {
				continue
			}
			x := max(a, after.from+o.seconds)
			y := min(b+1, after.from+o.seconds+len(after.cost))
			if x >= y {
				continue
			}
			dst := cost[x-a : y-a]
			src := after.cost[x-o.seconds-after.from : y-o.seconds-after.from]
			for w, was := range src {
				if was <= bound-c && was+c < dst[w] {
					dst[w] = was + c
				}
			}
		}
		for len(cost) > 0 && cost[0] == unreachable {
			cost, a = cost[1:], a+1
		}
		for len(cost) > 0 && cost[len(cost)-1] == unreachable {
			cost = cost[:len(cost)-1]
		}
		if len(cost) == 0 {
			return nil
		}
		rows[level] = row{a, cost}
		store = store[size:]
	}
	return rows
}

type picked struct {
	rows    []row
	combo   combo
	seconds int
	cost    int64
}

// pick takes the cheapest total between lo and the top of the window; where lo is
// minus infinity the longest total, then the cheapest.
func (f *fitting) pick(rows []row, combos []combo, lo float64) picked {
	best := picked{rows: rows, cost: unreachable}
	if rows == nil {
		return best
	}
	longest := math.IsInf(lo, -1)
	top := math.Inf(-1)
	for _, c := range combos {
		add := float64(c.centis) / 100
		to := min(int(math.Floor(f.hi-add+1e-9)), rows[0].from+len(rows[0].cost)-1)
		from := rows[0].from
		if !longest {
			from = max(from, int(math.Ceil(lo-add-1e-9)))
		}
		for w := to; w >= from; w-- {
			r := rows[0].at(w)
			if r == unreachable {
				continue
			}
			cost, total := r+c.cost, float64(w)+add
			switch {
			case longest && (total > top+1e-9 || total > top-1e-9 && cost < best.cost):
				best.combo, best.seconds, best.cost, top = c, w, cost, total
			case !longest && (cost < best.cost || cost == best.cost && earlier(c.choice, 0, best.combo.choice)):
				best.combo, best.seconds, best.cost = c, w, cost
			}
			if longest {
				break
			}
		}
	}
	return best
}

// shortest is the answer where even the shortest plan is too long.
func (f *fitting) shortest(programmed []int, combos []combo) picked {
	least := 0
	for _, gi := range programmed {
		lo, _ := f.groups[gi].bounds()
		least += lo
	}
	rows := f.programme(programmed, least, least, unreachable)
	return picked{rows: rows, combo: combos[0], seconds: least, cost: rows[0].at(least)}
}
