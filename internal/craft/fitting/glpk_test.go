package fitting_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// choice is one way to dose a group of steps (or a round), worked out here anew
// from the handbook's formula for the integer programme.
type choice struct {
	centis  int
	penalty int // millionths
	eyes    [4]int
}

// programme is a plan's fit as an integer programme.
type programme struct {
	groups [][]choice
	fixed  float64 // seconds that no choice changes
	caps   [4]int
}

// model writes the fit of a plan as an integer programme: which doses are
// allowed (clock doses in 5 s grains), what each takes, and what it costs.
func model(p *protocol.Protocol, ctx *protocol.Context) programme {
	e := evaluation.Evaluate(p, ctx)
	var m programme
	grouped := map[string]int{}
	planned := 0.0
	for i := range p.Steps {
		s, r := &p.Steps[i], &e.Steps[i]
		if s.Round != "" {
			continue
		}
		if g, ok := grouped[s.MirrorOf]; ok && s.MirrorOf != "" {
			for k, c := range choices(s, r, p) {
				m.groups[g][k].centis += c.centis
				m.groups[g][k].penalty += c.penalty
				for z := range c.eyes {
					m.groups[g][k].eyes[z] += c.eyes[z]
				}
			}
			planned += float64(r.Seconds)
			continue
		}
		grouped[s.ID] = len(m.groups)
		m.groups = append(m.groups, choices(s, r, p))
		planned += float64(r.Seconds)
	}
	for ri := range p.Rounds {
		m.groups = append(m.groups, roundChoices(p, ctx, ri))
		planned += float64(m.groups[len(m.groups)-1][0].centis) / 100
	}
	m.fixed = e.Seconds - planned
	for z, limit := range [4]int{90, 90, 240, 240} {
		least := 0
		for _, g := range m.groups {
			low := math.MaxInt
			for _, c := range g {
				low = min(low, c.eyes[z])
			}
			least += low
		}
		m.caps[z] = max(100*limit+50, least)
	}
	return m
}

// seconds by the formula: sides x sets x reps x parts + sides x hold + (sides-1) x 3.
func seconds(s *protocol.Step, r *evaluation.Resolved, planned int) int {
	sides, rep := 1.0, stroke.RepSeconds(r.Parts)
	if r.Sides == stroke.InTurns {
		sides = 2
	}
	d, sets := r.Dose, float64(max(r.Dose.Sets, 1))
	var one float64
	switch d.Kind {
	case stroke.Reps:
		one = sets * float64(planned) * rep
	case stroke.Breaths:
		one = sets * float64(planned) * (d.In + d.Pause + d.Out)
	case stroke.Positions:
		one = float64(d.Places*planned*max(d.Senses, 1)) * d.Seconds
	default:
		one = sets * float64(planned)
	}
	return int(math.Round(sides*one + (sides-1)*3))
}

func choices(s *protocol.Step, r *evaluation.Resolved, p *protocol.Protocol) []choice {
	least, most := r.Dose.Min, max(r.Dose.Max, r.Dose.Planned)
	if least == 0 {
		least = r.Dose.Planned
	}
	if r.Dose.Max == 0 && r.Dose.Min > 0 {
		most = r.Dose.Planned + r.Dose.Planned/2
	}
	grain := 1
	switch r.Dose.Kind {
	case stroke.Clock, stroke.Until, stroke.Free, stroke.Unknown:
		grain = 5
	}
	weight := s.Weight
	if weight == 0 {
		weight = 1
	}
	dosed := func(v int) choice {
		secs := seconds(s, r, v)
		c := choice{centis: 100 * secs, penalty: int(math.Round(1e6 * weight * math.Abs(float64(v-r.Dose.Planned)) / float64(r.Dose.Planned)))}
		if r.Relation == stroke.Slides {
			holds := 0.0
			for _, part := range r.Parts {
				if part.Kind == stroke.Hold {
					holds += part.Seconds
				}
			}
			share := 1.0
			if r.Dose.Kind == stroke.Reps {
				share = 1 - holds/stroke.RepSeconds(r.Parts)
			}
			each := float64(secs)
			if r.Sides == stroke.InTurns {
				each = (each - 3) / 2
			}
			load := int(math.Round(100 * each * share / float64(len(r.Path))))
			for _, pt := range r.Path {
				at := map[string]int{"under-eye": 0, "orbital-rim": 2}
				if z, ok := at[pt.Zone]; ok {
					if r.Sides != stroke.RightOnly {
						c.eyes[z] += load
					}
					if r.Sides != stroke.LeftOnly {
						c.eyes[z+1] += load
					}
				}
			}
		}
		return c
	}
	out := []choice{dosed(r.Dose.Planned)}
	for v := least; v <= most; v += grain {
		if v != r.Dose.Planned {
			out = append(out, dosed(v))
		}
	}
	if (most-least)%grain != 0 && most != r.Dose.Planned {
		out = append(out, dosed(most))
	}
	if s.Optional && s.Phase != "open" && s.Phase != "close" && r.Intent != stroke.Open {
		out = append(out, choice{penalty: int(math.Round(3e6 * weight))})
	}
	return out
}

// roundChoices reads what a number of rounds takes from a plan that has it.
func roundChoices(p *protocol.Protocol, ctx *protocol.Context, ri int) []choice {
	r := p.Rounds[ri]
	at := func(n int) float64 {
		q := p.Clone()
		q.Rounds[ri].Times = n
		return evaluation.Evaluate(q, ctx).Seconds
	}
	weight := 0.0
	for i := range p.Steps {
		if p.Steps[i].Round == r.ID {
			weight++
		}
	}
	one := func(n int) choice {
		return choice{centis: int(math.Round(100 * (at(n) - at(1)))), penalty: int(math.Round(1e6 * weight * math.Abs(float64(n-r.Times)) / float64(r.Times)))}
	}
	out := []choice{one(r.Times)}
	least := r.Min
	if least == 0 {
		least = r.Times
	}
	for n := least; n <= max(r.Max, r.Times); n++ {
		if n != r.Times {
			out = append(out, one(n))
		}
	}
	return out
}

// lp writes the programme in the LP format, with a goal and bounds on the total.
func (m *programme) lp(goal func(choice) int, maximise bool, lo, hi int) string {
	var b strings.Builder
	row := func(f func(choice) int) string {
		var terms []string
		for g := range m.groups {
			for k, c := range m.groups[g] {
				if n := f(c); n != 0 {
					terms = append(terms, fmt.Sprintf("%d x_%d_%d", n, g, k))
				}
			}
		}
		if len(terms) == 0 {
			return "0 x_0_0"
		}
		return strings.Join(terms, "\n + ")
	}
	b.WriteString(map[bool]string{true: "Maximize\n", false: "Minimize\n"}[maximise] + " goal: " + row(goal) + "\nSubject To\n")
	total := row(func(c choice) int { return c.centis })
	if lo > math.MinInt32 {
		fmt.Fprintf(&b, " lo: %s >= %d\n", total, lo)
	}
	if hi < math.MaxInt32 {
		fmt.Fprintf(&b, " hi: %s <= %d\n", total, hi)
	}
	for z := range m.caps {
		fmt.Fprintf(&b, " eye%d: %s <= %d\n", z, row(func(c choice) int { return c.eyes[z] }), m.caps[z])
	}
	for g := range m.groups {
		var terms []string
		for k := range m.groups[g] {
			terms = append(terms, fmt.Sprintf("x_%d_%d", g, k))
		}
		fmt.Fprintf(&b, " one%d: %s = 1\n", g, strings.Join(terms, " + "))
	}
	b.WriteString("Binary\n")
	for g := range m.groups {
		for k := range m.groups[g] {
			fmt.Fprintf(&b, " x_%d_%d\n", g, k)
		}
	}
	b.WriteString("End\n")
	return b.String()
}

// solve is the handbook's objective by GLPK: within the window the least penalty;
// else the least shortfall, then the penalty; too long only where nothing is short enough.
func (m *programme) solve(t testing.TB, slot int) (missBy int, penalty float64) {
	dir := t.TempDir()
	time := func(c choice) int { return c.centis }
	cost := func(c choice) int { return c.penalty }
	hi := int(math.Floor((float64(slot) - m.fixed) * 100))
	lo := int(math.Ceil((float64(slot-15) - m.fixed) * 100))
	if v, ok := crafttest.GLPK(t, dir, m.lp(cost, false, lo, hi)); ok {
		return 0, v / 1e6
	}
	if v, ok := crafttest.GLPK(t, dir, m.lp(time, true, math.MinInt32, hi)); ok {
		total := int(math.Round(v))
		c, ok := crafttest.GLPK(t, dir, m.lp(cost, false, total, total))
		require.True(t, ok)
		return -int(math.Ceil(float64(lo-total)/100 - 1e-6)), c / 1e6
	}
	v, ok := crafttest.GLPK(t, dir, m.lp(time, false, math.MinInt32, math.MaxInt32))
	require.True(t, ok)
	total := int(math.Round(v))
	c, ok := crafttest.GLPK(t, dir, m.lp(cost, false, total, total))
	require.True(t, ok)
	return int(math.Ceil(float64(total-hi)/100 - 1e-6)), c / 1e6
}

// randomPlan is a plan of the trade's strokes with ranges, sides, mirrors, rounds,
// optional steps, weights and work round the eyes.
func randomPlan(r *rand.Rand, ctx *protocol.Context) *protocol.Protocol {
	keys := []string{"eye-circles", "eye-rim-drain", "stone-eye", "forehead-effleurage", "cheek-drain", "temple-press", "breathe-together", "twin-ball-lines", "stone-jaw", "scalp-circles", "crease-rub", "cheek-scoop", "skull-edge-pull", "eye-stops", "jaw-scissor", "neck-drain"}
	n := 4 + r.IntN(14)
	var steps []protocol.Step
	for range n {
		key := keys[r.IntN(len(keys))]
		d := ctx.Strokes[key].Dose
		d.Planned += r.IntN(3)
		d.Min = max(1, d.Planned-r.IntN(d.Planned))
		d.Max = d.Planned + r.IntN(2*d.Planned)
		if d.Kind == stroke.Clock || d.Open() {
			d.Min, d.Max = max(5, d.Planned-5*r.IntN(4)), d.Planned+5*r.IntN(6)
		}
		if d.Min > d.Planned {
			d.Min = d.Planned
		}
		d.Ceiling = 0
		s := protocol.Step{Stroke: key, Dose: &d, Weight: float64(r.IntN(4)), Optional: r.IntN(3) == 0}
		if key == "eye-circles" { // all of it under the eye, where a limit soon binds
			s.Path = crafttest.Zones("under-eye")
			d.Max += 12
		}
		steps = append(steps, s)
	}
	p := crafttest.Plan(10, steps...)
	if n > 6 && r.IntN(2) == 0 { // the second mirrors the first, on the other side
		p.Steps[0].Sides = stroke.LeftOnly
		m := p.Steps[0]
		m.ID, m.Sides, m.MirrorOf = "mirror", stroke.RightOnly, p.Steps[0].ID
		p.Steps[1] = m
	}
	if n > 8 && r.IntN(2) == 0 {
		p.Rounds = []protocol.Round{{ID: "r", Times: 2 + r.IntN(2), Min: 1, Max: 4 + r.IntN(2)}}
		for i := 4; i < 7; i++ {
			p.Steps[i] = protocol.Step{ID: p.Steps[i].ID, Stroke: []string{"point-mouth", "point-nose", "temple-press"}[i-4], Phase: "work", Round: "r"}
		}
	}
	return p
}

// The fit's objective equals that of a general integer-programming solver (GLPK's
// glpsol, Debian) on 200 random plans and on the fixtures.
func TestFitEqualsGLPK(t *testing.T) {
	crafttest.NeedGLPK(t)
	ctx := crafttest.Studio()
	r := rand.New(rand.NewPCG(7, 11)) // always the same 200 plans
	binding, missed := 0, 0
	for i := range 200 {
		p := randomPlan(r, ctx)
		require.Empty(t, p.Validate(ctx, ""))
		slot := int(evaluation.Evaluate(p, ctx).Seconds * (0.55 + r.Float64()))
		m := model(p, ctx)
		miss, penalty := m.solve(t, slot)
		got := fitting.Fit(p, ctx, slot)
		require.Equal(t, miss, got.MissBy, "plan %d", i)
		require.InDelta(t, penalty, got.Penalty, 2e-6, "plan %d", i)
		if miss != 0 {
			missed++
		}
		if miss == 0 {
			assert.LessOrEqual(t, evaluation.Evaluate(got.Protocol, ctx).Seconds, float64(slot)+1e-6, "plan %d overruns", i)
			free := m
			free.caps = [4]int{1e6, 1e6, 1e6, 1e6}
			if _, other := free.solve(t, slot); other < penalty-1e-6 {
				binding++
			}
		}
	}
	assert.Less(t, missed, 150, "most plans must be fittable for the comparison to say much")
	assert.Positive(t, binding, "the limits round the eyes must bind somewhere")
	type planned struct {
		p   *protocol.Protocol
		ctx *protocol.Context
	}
	var cases []planned
	for _, key := range crafttest.FixtureKeys(t) {
		p, ctx := crafttest.Fixture(t, key)
		cases = append(cases, planned{p, ctx})
	}
	protocols, demo := crafttest.Demo(t)
	for i := range protocols {
		cases = append(cases, planned{&protocols[i], demo})
	}
	for _, c := range cases {
		p, ctx, key := c.p, c.ctx, c.p.Key
		m := model(p, ctx)
		for _, slot := range []int{p.Minutes.HandsOn * 60, p.Minutes.HandsOn*60 - 60, p.Minutes.HandsOn*60 + 45} {
			miss, penalty := m.solve(t, slot)
			got := fitting.Fit(p, ctx, slot)
			assert.Equal(t, miss, got.MissBy, "%s to %d s", key, slot)
			assert.InDelta(t, penalty, got.Penalty, 2e-6, "%s to %d s", key, slot)
		}
	}
}

// The fit against a glpsol process on the same plan of 60 steps with 8 options
// each; both in one run, so that their ratio stands whatever the machine does.
func BenchmarkFitAndGLPK(b *testing.B) {
	crafttest.NeedGLPK(b)
	ctx := crafttest.Studio()
	r := rand.New(rand.NewPCG(3, 5))
	var steps []protocol.Step
	for i := range 60 {
		key := []string{"forehead-effleurage", "cheek-drain", "jaw-scissor", "neck-drain", "cheek-scoop"}[i%5]
		d := ctx.Strokes[key].Dose
		d.Planned = 3 + r.IntN(3)
		d.Min, d.Max = d.Planned-2, d.Planned+5
		steps = append(steps, protocol.Step{Stroke: key, Dose: &d})
	}
	p := crafttest.Plan(45, steps...)
	slot := int(evaluation.Evaluate(p, ctx).Seconds) - 240
	m := model(p, ctx)
	hi := int(math.Floor((float64(slot) - m.fixed) * 100))
	lp := m.lp(func(c choice) int { return c.penalty }, false, hi-1500, hi)
	dir := b.TempDir()
	b.Run("fit", func(b *testing.B) {
		for b.Loop() {
			fitting.Fit(p, ctx, slot)
		}
	})
	b.Run("glpsol", func(b *testing.B) {
		for b.Loop() {
			crafttest.GLPK(b, dir, lp)
		}
	})
}
