package protocol

import (
	"math"

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
	// InTheWay are steps that are already as short (or long) as they may be.
	InTheWay []string `json:"inTheWay"`
}

// option is one way to give a group of steps its dose.
type option struct {
	planned int
	dropped bool
	seconds int
	penalty int64 // in millionths
}

// group is steps that share one choice: a step and those that mirror it.
type group struct {
	steps   []int
	options []option
}

// Fit chooses the dose of every step among its allowed values, and drops
// optional steps, so that hands-on time lies within the slot and at most
// [FitGrace] below it, at the least sum of weight x |dose - planned| / planned (a
// dropped step costs three times its weight). Steps of a round keep their dose.
// Opening and closing are never dropped, and a dropped step keeps its
// transition, so the real plan never overruns. If the window cannot be reached
// the plan falls short by as little as it can; it is too long only where even
// the shortest is. The optimum is exact (dynamic programme
// over seconds); ties go to the fewest changes, then to the earliest steps.
//
// Cost: steps x options x seconds of the slot.
func Fit(p *Protocol, ctx *Context, slotSeconds int) Fitted {
	e := Evaluate(p, ctx)
	pace := ctx.Pace
	if pace == 0 {
		pace = 1
	}
	groups := fitGroups(p, e, pace)
	variable := 0
	for i := range groups {
		variable += groups[i].options[0].seconds // options[0] is the plan as it stands
	}
	fixed := e.Seconds - float64(variable)
	hi := int(math.Floor(float64(slotSeconds) - fixed + 1e-9))
	lo := int(math.Ceil(float64(slotSeconds-FitGrace) - fixed - 1e-9))

	most := 0
	for i := range groups {
		m := 0
		for _, o := range groups[i].options {
			m = max(m, o.seconds)
		}
		most += m
	}
	choice, total := solve(groups, most, lo, hi)

	out := Fitted{Protocol: p.Clone()}
	switch {
	case total > hi:
		out.MissBy = total - hi
	case total < lo:
		out.MissBy = total - lo
	}
	drop := map[int]bool{}
	for gi, g := range groups {
		o := g.options[choice[gi]]
		out.Penalty += float64(o.penalty) / 1e6
		for _, i := range g.steps {
			s := &out.Protocol.Steps[i]
			switch {
			case o.dropped:
				out.Dropped = append(out.Dropped, s.ID)
				drop[i] = true
			case choice[gi] != 0:
				d := e.Steps[i].Dose.With(o.planned)
				s.Dose = &d
				out.Changed = append(out.Changed, s.ID)
			}
			r := &e.Steps[i]
			if out.MissBy > 0 && !o.dropped && o.planned == r.Least || out.MissBy < 0 && o.planned == r.Most {
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

func fitGroups(p *Protocol, e *Evaluation, pace float64) []group {
	lead := map[string]int{} // step id to its group
	var groups []group
	for i := range p.Steps {
		s, r := &p.Steps[i], &e.Steps[i]
		if s.Phase == "reset" || s.Round != "" {
			continue
		}
		if g, ok := lead[s.MirrorOf]; ok && s.MirrorOf != "" && sameRange(&e.Steps[groups[g].steps[0]], r) {
			groups[g].steps = append(groups[g].steps, i)
			lead[s.ID] = g
			continue
		}
		lead[s.ID] = len(groups)
		groups = append(groups, group{steps: []int{i}})
	}
	for gi := range groups {
		g := &groups[gi]
		r := &e.Steps[g.steps[0]]
		g.add(e, r.Dose.Planned, pace)
		for v := r.Least; v <= r.Most; v += r.Grain {
			if v != r.Dose.Planned {
				g.add(e, v, pace)
			}
		}
		if r.Most != r.Dose.Planned && (r.Most-r.Least)%r.Grain != 0 {
			g.add(e, r.Most, pace)
		}
		if droppable(e, g.steps) {
			weight := 0.0
			for _, i := range g.steps {
				weight += stepWeight(e.Steps[i].step)
			}
			g.options = append(g.options, option{dropped: true, penalty: int64(math.Round(3e6 * weight))})
		}
	}
	return groups
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

func (g *group) add(e *Evaluation, planned int, pace float64) {
	o := option{planned: planned}
	for _, i := range g.steps {
		r := &e.Steps[i]
		o.seconds += int(math.Round(r.working(planned) * pace))
		if r.Dose.Planned > 0 {
			o.penalty += int64(math.Round(1e6 * stepWeight(r.step) * math.Abs(float64(planned-r.Dose.Planned)) / float64(r.Dose.Planned)))
		}
	}
	g.options = append(g.options, o)
}

// solve returns the choice for each group and the seconds they add up to. Among
// totals in [lo, hi] it takes the least penalty; if none can be reached, the
// largest total below, else the smallest above, then the least penalty.
func solve(groups []group, most, lo, hi int) (choice []int, total int) {
	const none = math.MaxInt64
	// The cost of an option: penalty, then one for a change. Groups are at most
	// 200, so a change never outweighs a millionth of penalty.
	cost := func(g *group, k int) int64 {
		c := g.options[k].penalty << 10
		if k != 0 {
			c++
		}
		return c
	}
	width := most + 1
	if hi >= 0 && hi < most {
		// Totals above the window matter only where even the least total lies there.
		least := 0
		for i := range groups {
			m := none
			for _, o := range groups[i].options {
				m = min(m, o.seconds)
			}
			least += m
		}
		width = max(hi, least) + 1
	}
	best := make([][]int64, len(groups)+1)
	store := make([]int64, (len(groups)+1)*width)
	for i := range store {
		store[i] = none
	}
	for i := range best {
		best[i] = store[i*width : (i+1)*width]
	}
	best[len(groups)][0] = 0
	for gi := len(groups) - 1; gi >= 0; gi-- {
		g, after, here := &groups[gi], best[gi+1], best[gi]
		for k, o := range g.options {
			c := cost(g, k)
			for w := o.seconds; w < width; w++ {
				if a := after[w-o.seconds]; a != none && a+c < here[w] {
					here[w] = a + c
				}
			}
		}
	}
	total, found := 0, false
	distance := func(w int) int {
		if w > hi {
			return most + 1 + w - hi // worse than any that falls short
		}
		return max(lo-w, 0)
	}
	for w := range width {
		if best[0][w] == none {
			continue
		}
		if !found || distance(w) < distance(total) || distance(w) == distance(total) && best[0][w] < best[0][total] {
			total, found = w, true
		}
	}
	choice = make([]int, len(groups))
	w := total
	for gi := range groups {
		g := &groups[gi]
		// Changed options first: among equals the earliest steps change.
		for k := len(g.options) - 1; k >= 0; k-- {
			o := g.options[k]
			if o.seconds <= w && best[gi+1][w-o.seconds] != none && best[gi+1][w-o.seconds]+cost(g, k) == best[gi][w] {
				choice[gi] = k
				w -= o.seconds
				break
			}
		}
	}
	return choice, total
}
