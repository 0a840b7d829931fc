// Package fitting brings a protocol to its hands-on time by changing repetitions
// within each step's range, provably with the least total change. [Fit] solves the
// integer programme exactly; the tests compare it with GLPK.
package fitting

import (
	"math"
	"slices"
	"sync"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// Fitted is the outcome of [Fit].
type Fitted struct {
	Protocol *protocol.Protocol `json:"protocol"`
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
	// up and down are the least that a second more or less costs.
	up, down float64
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
func Fit(p *protocol.Protocol, ctx *protocol.Context, slotSeconds int) Fitted {
	return FitOf(p, ctx, evaluation.EvaluateTimeline(p, ctx), slotSeconds)
}

// FitOf is [Fit] for a protocol that is already evaluated.
func FitOf(p *protocol.Protocol, ctx *protocol.Context, e *evaluation.Evaluation, slotSeconds int) Fitted {
	f := fitting{p: p, e: e, ctx: ctx, mem: scratches.Get().(*scratch)}
	f.group(ctx)
	fixed := e.Seconds
	for gi := range f.groups {
		o := &f.groups[gi].options[0] // the plan as it stands
		fixed -= float64(o.seconds) + float64(o.centis)/100
	}
	f.hi = float64(slotSeconds) - fixed
	f.lo = f.hi - evaluation.FitGrace
	choice, miss := f.solve()
	out := f.result(choice, miss)
	scratches.Put(f.mem)
	return out
}

type fitting struct {
	p      *protocol.Protocol
	e      *evaluation.Evaluation
	ctx    *protocol.Context
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
	eyes    []bool // of the group in hand, which of its steps work at the eye
}

var scratches = sync.Pool{New: func() any { return &scratch{rows: make([]int64, 16384)} }}

func (f *fitting) result(choice []int, miss int) Fitted {
	out := Fitted{
		Protocol: f.p.Clone(),
		MissBy:   miss,
		Changed:  []string{},
		Dropped:  []string{},
		Rounds:   []string{},
		InTheWay: []string{},
	}
	drop := map[int]bool{}
	for gi := range f.groups {
		g := &f.groups[gi]
		o := &g.options[choice[gi]]
		out.Penalty += float64(o.penalty) / 1e6
		if g.round >= 0 {
			if r := &out.Protocol.Rounds[g.round]; o.planned != r.Times {
				least, most := r.Bounds()
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
func (f *fitting) group(ctx *protocol.Context) {
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
	f.mem.eyes = f.mem.eyes[:0]
	for _, i := range g.steps {
		s := &f.e.Steps[i]
		f.mem.eyes = append(f.mem.eyes, s.OnEye("under-eye") || s.OnEye("orbital-rim"))
	}
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
			weight += stepWeight(f.e.Steps[i].Source)
		}
		store = append(store, option{dropped: true, penalty: int64(math.Round(3e6 * weight))})
	}
	return store
}

func (f *fitting) dosed(g *group, planned int) option {
	o := option{planned: planned}
	for k, i := range g.steps {
		r := &f.e.Steps[i]
		secs := int(math.Round(r.WorkingSeconds(planned) * r.Pace()))
		o.seconds += secs
		if r.Dose.Planned > 0 && planned != r.Dose.Planned {
			o.penalty += int64(
				math.Round(1e6 * stepWeight(r.Source) * math.Abs(float64(planned-r.Dose.Planned)) / float64(r.Dose.Planned)),
			)
		}
		if !f.mem.eyes[k] {
			continue
		}
		if sliding := r.SlidingShare(); sliding > 0 {
			o.eyes = o.eyes.plus(f.eyesOf(r, planned, secs, sliding))
		}
	}
	return o
}

// eyesOf is the sliding time that a step spends round each eye.
func (f *fitting) eyesOf(r *evaluation.Resolved, planned, secs int, sliding float64) (load eyeLoad) {
	c := *r
	d := r.Dose.With(planned)
	c.Dose = &d
	c.Working = r.WorkingSeconds(planned)
	for _, ps := range c.AppendSideRuns(nil, f.p, 0, float64(secs)) {
		share := int32(math.Round(100 * ps.Seconds * sliding / float64(len(r.Path))))
		for i := range r.Path {
			at := -1
			switch evaluation.EyeShare(r.Path[i].Zone) {
			case "under-eye":
				at = 0
			case "orbital-rim":
				at = 2
			default:
				continue
			}
			if ps.OnSide != anatomy.Right {
				load[at] += share
			}
			if ps.OnSide != anatomy.Left {
				load[at+1] += share
			}
		}
	}
	return load
}

// roundGroups adds a choice for the number of every round. What a further pass
// takes is read from a timeline in which every round is worked at least twice.
func (f *fitting) roundGroups(ctx *protocol.Context) {
	twice := f.p.Clone()
	for i := range twice.Rounds {
		twice.Rounds[i].Times = max(2, twice.Rounds[i].Times)
	}
	e := evaluation.EvaluateTimeline(twice, ctx)
	for ri, r := range f.p.Rounds {
		var ends [3]float64
		g := group{round: ri}
		var eyes eyeLoad
		weight := 0.0
		for vi := range e.Occurrences {
			v := &e.Occurrences[vi]
			res := &e.Steps[v.Step]
			if res.Source.Round != r.ID {
				continue
			}
			if v.Number <= 2 {
				ends[v.Number] = v.End
			}
			if v.Number == 1 {
				g.steps = append(g.steps, v.Step)
				weight += stepWeight(res.Source)
				if sliding := res.SlidingShare(); sliding > 0 {
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
		least, most := r.Bounds()
		for n := least; n <= most; n++ {
			if n != r.Times {
				add(n)
			}
		}
		f.groups = append(f.groups, g)
	}
}

func sameRange(a, b *evaluation.Resolved) bool {
	return a.Dose.Kind == b.Dose.Kind && a.Dose.Planned == b.Dose.Planned && a.Least == b.Least && a.Most == b.Most
}

func droppable(e *evaluation.Evaluation, steps []int) bool {
	for _, i := range steps {
		r := &e.Steps[i]
		if !r.Source.Optional || r.Phase == "open" || r.Phase == "close" || r.Intent == stroke.Open {
			return false
		}
	}
	return true
}

func stepWeight(s *protocol.Step) float64 {
	if s.Weight == 0 {
		return 1
	}
	return s.Weight
}
