package fitting_test

import (
	"maps"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// Opening and closing are never dropped to save time, optional or not (handbook,
// chapter 3).
func TestOpeningAndClosingAreNeverDropped(t *testing.T) {
	optional := func(key string, phase protocol.Phase) protocol.Step {
		return protocol.Step{Stroke: key, Phase: phase, Optional: true}
	}
	p := crafttest.Plan(1, optional("pumps", "open"), optional("effleurage", "open"), optional("neck-open", "work"), optional("effleurage", "work"), optional("neck-glide", "close"), optional("effleurage", "close"))
	got := fitting.Fit(p, crafttest.SmallStudio(), 30)
	assert.Equal(t, []string{"effleurage#4"}, got.Dropped)
}

// The fitted plan's objective equals that of trying every combination.
func TestFitIsOptimal(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 4).Draw(t, "steps")
		var steps []protocol.Step
		for range n {
			d := stroke.Dose{Kind: stroke.Reps, Planned: rapid.IntRange(2, 5).Draw(t, "planned")}
			d.Min, d.Max = rapid.IntRange(1, d.Planned).Draw(t, "min"), d.Planned+rapid.IntRange(0, 3).Draw(t, "more")
			steps = append(steps, protocol.Step{Stroke: rapid.SampledFrom([]string{"effleurage", "face-drain", "neck-glide", "eye-stone"}).Draw(t, "stroke"), Dose: &d, Optional: rapid.Bool().Draw(t, "optional"), Weight: float64(rapid.IntRange(1, 3).Draw(t, "weight"))})
		}
		p := crafttest.Plan(1, steps...)
		slot := rapid.IntRange(5, 200).Draw(t, "slot")
		e := evaluation.Evaluate(p, crafttest.SmallStudio())
		got := fitting.Fit(p, crafttest.SmallStudio(), slot)
		wantMiss, want := exhaustive(p, e, slot)
		if abs := max(got.MissBy, -got.MissBy); abs != wantMiss {
			t.Fatalf("misses the window by %d, best possible %d", abs, wantMiss)
		}
		if math.Abs(got.Penalty-want) > 1e-5 {
			t.Fatalf("penalty %v, best possible %v", got.Penalty, want)
		}
		// A dropped step keeps its transition in the plan, so the real plan never overruns.
		if wantMiss == 0 {
			if s := evaluation.Evaluate(got.Protocol, crafttest.SmallStudio()).Seconds; s > float64(slot)+1e-6 {
				t.Fatalf("the fitted plan lasts %v s in a slot of %d s", s, slot)
			}
		}
	})
}

func exhaustive(p *protocol.Protocol, e *evaluation.Evaluation, slot int) (miss int, penalty float64) {
	fixed := e.Seconds
	for i := range e.Steps {
		fixed -= float64(e.Steps[i].Seconds)
	}
	lo, hi := int(math.Ceil(float64(slot-15)-fixed-1e-9)), int(math.Floor(float64(slot)-fixed+1e-9))
	miss, penalty = math.MaxInt, math.Inf(1)
	var try func(i, seconds int, cost float64)
	try = func(i, seconds int, cost float64) {
		if i == len(p.Steps) {
			d := max(lo-seconds, 0)
			if seconds > hi { // too long only where nothing shorter can be had
				d = 100_000 + seconds - hi
			}
			if d < miss || d == miss && cost < penalty-1e-9 {
				miss, penalty = d, cost
			}
			return
		}
		s, r := &p.Steps[i], &e.Steps[i]
		rep, sides, change := stroke.RepSeconds(r.Parts), 1.0, 0.0
		if r.Sides == stroke.InTurns {
			sides, change = 2, 3
		}
		for v := r.Least; v <= r.Most; v++ {
			try(i+1, seconds+int(math.Round(sides*float64(v)*rep+change)), cost+s.Weight*math.Abs(float64(v-s.Dose.Planned))/float64(s.Dose.Planned))
		}
		if s.Optional {
			try(i+1, seconds, cost+3*s.Weight)
		}
	}
	try(0, 0, 0)
	return miss % 100_000, penalty
}

// Ties go to the fewest changes, then to the earliest steps (handbook, fitting).
func TestFitTies(t *testing.T) {
	same := func() protocol.Step {
		return protocol.Step{Stroke: "face-drain", Dose: crafttest.Ptr(crafttest.Reps(4))}
	}
	p := crafttest.Plan(1, same(), same(), same())
	e := evaluation.Evaluate(p, crafttest.SmallStudio())
	got := fitting.Fit(p, crafttest.SmallStudio(), int(e.Seconds)-2) // one repetition of three seconds too long
	assert.Equal(t, []string{"face-drain#1"}, got.Changed)
	got = fitting.Fit(p, crafttest.SmallStudio(), int(math.Ceil(e.Seconds)))
	assert.Empty(t, got.Changed)
	assert.Zero(t, got.Penalty)
}

func BenchmarkFit60Steps(b *testing.B) {
	p, ctx := crafttest.Sixty(), crafttest.SmallStudio()
	slot := int(evaluation.Evaluate(p, ctx).Seconds) - 200
	b.ReportAllocs()
	for b.Loop() {
		fitting.Fit(p, ctx, slot)
	}
}

// A plan of 480 steps, eight times as long as any day has room for, with the strokes of the worked studio in turn.
func BenchmarkFit480Steps(b *testing.B) {
	ctx := crafttest.Studio()
	var steps []protocol.Step
	keys := slices.Sorted(maps.Keys(ctx.Strokes))
	for i := 0; len(steps) < 480; i++ {
		key := keys[i%len(keys)]
		d := ctx.Strokes[key].Dose
		if d.Kind != stroke.Reps {
			continue
		}
		d.Planned = 3 + i%4
		d.Min, d.Max = d.Planned-2, d.Planned+5
		steps = append(steps, protocol.Step{Stroke: key, Dose: &d})
	}
	p := crafttest.Plan(45, steps...)
	slot := int(evaluation.Evaluate(p, ctx).Seconds) - 1200
	b.ReportAllocs()
	for b.Loop() {
		fitting.Fit(p, ctx, slot)
	}
}
