package exchange_test

import (
	"os"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/exchange"
	"softpalm/internal/studio/house"
)

func demo(t testing.TB) (*house.Bundle, *protocol.Context) {
	t.Helper()
	data, err := os.ReadFile("../../demo/studio.json")
	require.NoError(t, err)
	b, err := exchange.ReadBundle(data)
	require.NoError(t, err)
	c := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade(), b.Strokes), Products: map[string]*slip.Product{}, Tools: map[string]protocol.Tool{}}
	for _, p := range b.Products {
		c.Products[p.Key] = &slip.Product{Key: p.Key, Name: p.Name, Form: p.Form, FullDose: p.FullDose, RangeMin: p.RangeMin, RangeMax: p.RangeMax, DropsPerML: p.DropsPerML, MLPerPump: p.MLPerPress, Density: p.Density, Tags: p.Tags, Unsuited: p.Unsuited}
	}
	for _, tl := range b.Tools {
		c.Tools[tl.Key] = tl
	}
	return b, c
}

// The menu of the demo is complete enough to sell: hands-on time lies within 15 s of its slot, and on no
// skin that a plan is sold for, with what is changed for it, anything stops or warns. What is noted is
// expected: kneading on fresh product, and a vibration that creeps.
func TestDemoProtocolsPassTheirChecks(t *testing.T) {
	b, ctx := demo(t)
	require.Len(t, b.Protocols, 12)
	for i := range b.Protocols {
		p := &b.Protocols[i]
		require.Empty(t, p.Validate(ctx, ""), p.Name)
		e := evaluation.Evaluate(p, ctx)
		for _, f := range e.Findings {
			expected := f.Code == evaluation.GlideSlick || f.Code == evaluation.SpeedSoothe
			assert.True(t, expected && f.Severity == evaluation.Note, "%s: %s %v %v", p.Name, f.ID, f.Severity, f.Values)
		}
		assert.LessOrEqual(t, e.Seconds, float64(e.SlotSeconds), p.Name)
		assert.GreaterOrEqual(t, e.Seconds, float64(e.SlotSeconds-evaluation.FitGrace), p.Name)
		for _, skin := range p.SkinTypes {
			q, c := p, *ctx
			c.SkinType = skin
			for _, v := range adjusting.VariantsForSkin(p, skin, nil) {
				q = adjusting.Vary(q, &v, &c).Protocol
			}
			for _, f := range evaluation.Evaluate(q, &c).Findings {
				assert.Equal(t, evaluation.Note, f.Severity, "%s on %s skin: %s %v", p.Name, skin, f.ID, f.Values)
			}
		}
	}
}

// Whatever the pre-treatment check says, a adjusted demo protocol works no excluded
// place, passes no cap and has no finding that stops; with nothing to do it is
// the same protocol.
func TestTailoringTheDemo(t *testing.T) {
	b, ctx := demo(t)
	pack := contraindication.Trade()
	for _, p := range b.Protocols {
		same := adjusting.Adjust(&p, ctx, contraindication.Merge(nil))
		assert.Equal(t, p, *same.Protocol)
		assert.Empty(t, same.Adjustments)
		for _, rule := range pack.Rules {
			answers := map[string]contraindication.Answer{rule.ID: {Yes: true, Day: "2026-11-23", Zones: []contraindication.ZoneSide{{Zone: "cheekbone", Side: "left"}, {Zone: "temple", Side: "both"}}}}
			res := pack.Evaluate(answers, contraindication.ClientProfile{}, "2026-11-24")
			c := contraindication.Merge(res.Outcomes)
			got := adjusting.Adjust(&p, ctx, c)
			for _, f := range got.Evaluation.Findings {
				if f.Severity == evaluation.Stopping {
					assert.True(t, got.Refused, "%s, %s: %s stands but is not refused", p.Name, rule.ID, f.ID)
				}
			}
			for _, r := range got.Evaluation.Steps {
				for _, o := range res.Outcomes {
					breaks(t, ctx, &r, o, p.Name+", "+rule.ID)
				}
			}
			if today := *ctx; len(got.Adjustments) > 0 {
				today.Excluded = c.Excluded()
				whole := evaluation.Evaluate(got.Protocol, &today)
				assert.True(t, reflect.DeepEqual(whole, got.Evaluation), "%s, %s: steps taken over are out of date", p.Name, rule.ID)
			}
			assert.LessOrEqual(t, got.Evaluation.Seconds, float64(got.Evaluation.SlotSeconds)+0.5, "%s, %s overruns", p.Name, rule.ID)
			for _, ch := range got.Adjustments {
				assert.True(t, ch.Kind == adjusting.Refitted || ch.Title != "" && ch.Why != "", "%s, %s: a change without a reason: %+v", p.Name, rule.ID, ch)
			}
		}
	}
}

func breaks(t *testing.T, ctx *protocol.Context, r *evaluation.Resolved, o contraindication.Contraindication, what string) {
	for _, pt := range r.Path {
		for _, pl := range o.Places {
			if pl.Zone != pt.Zone {
				continue
			}
			switch o.Kind {
			case contraindication.LeaveOut:
				free := pl.Side == "left" && r.Sides == stroke.RightOnly || pl.Side == "right" && r.Sides == stroke.LeftOnly
				assert.True(t, free, "%s: %s works %s", what, r.ID, pt.Zone)
			case contraindication.Cap:
				assert.LessOrEqual(t, pt.Pressure, o.Outcome.Pressure, "%s: %s on %s", what, r.ID, pt.Zone)
			}
		}
		if o.Kind == contraindication.Cap && len(o.Places) == 0 {
			assert.LessOrEqual(t, pt.Pressure, o.Outcome.Pressure, "%s: %s on %s", what, r.ID, pt.Zone)
		}
	}
	there := len(o.Places) == 0 || slices.ContainsFunc(r.Path, func(pt evaluation.Stop) bool {
		return slices.ContainsFunc(o.Places, func(pl contraindication.ZoneSide) bool { return pl.Zone == pt.Zone })
	})
	if o.Kind == contraindication.Exclude && there {
		assert.NotContains(t, o.Outcome.Families, string(r.Family), what)
		assert.NotContains(t, o.Outcome.Intents, string(r.Intent), what)
		if r.Tool != nil {
			assert.NotContains(t, o.Outcome.Tools, ctx.Tools[r.Tool.Key].Kind, what)
		}
	}
}

// An evaluation of what flows finds of drainage and slip what the whole one does, in the same order.
func TestWhatFlowsIsFoundAlike(t *testing.T) {
	bundle, ctx := demo(t)
	flows := func(e *evaluation.Evaluation) (ids []string) {
		for _, f := range e.Findings {
			if strings.HasPrefix(string(f.Code), "drainage-") || strings.HasPrefix(string(f.Code), "glide-") {
				ids = append(ids, f.ID)
			}
		}
		return ids
	}
	found := 0
	for i := range bundle.Protocols {
		p := bundle.Protocols[i].Clone()
		for len(p.Steps) > 1 { // with ever fewer steps at the beginning, ever more is wrong
			whole := evaluation.Evaluate(p, ctx)
			found += len(flows(whole))
			assert.Equal(t, flows(whole), flows(evaluation.EvaluateFlow(p, ctx, func(int) *evaluation.Resolved { return nil })), p.Key)
			p.Steps = p.Steps[1:]
		}
	}
	assert.Greater(t, found, 100, "or nothing was compared")
}

// The studio's file covers what the handbook asks of the demo.
func TestDemoIsWhole(t *testing.T) {
	b, _ := demo(t)
	assert.Len(t, b.Practitioners, 3)
	assert.Len(t, b.Rooms, 2)
	assert.Len(t, b.Products, 22)
	assert.Len(t, b.Tools, 9)
	assert.GreaterOrEqual(t, len(b.Clients), 30)
	assert.True(t, slices.ContainsFunc(b.Visits, func(v house.BundleVisit) bool { return v.Record != nil }))
}

// fullest is the demo's plan of most steps.
func fullest(of []protocol.Protocol) *protocol.Protocol {
	most := slices.MaxFunc(of, func(a, b protocol.Protocol) int { return len(a.Steps) - len(b.Steps) })
	return &most
}

func BenchmarkEvaluateFullestPlan(b *testing.B) {
	bundle, ctx := demo(b)
	p := fullest(bundle.Protocols)
	b.ReportAllocs()
	b.ReportMetric(float64(len(p.Steps)), "steps")
	for b.Loop() {
		evaluation.Evaluate(p, ctx)
	}
}

func BenchmarkFitFullestPlan(b *testing.B) {
	bundle, ctx := demo(b)
	p := fullest(bundle.Protocols)
	b.ReportAllocs()
	b.ReportMetric(float64(len(p.Steps)), "steps")
	for b.Loop() {
		fitting.Fit(p, ctx, (p.Minutes.HandsOn-10)*60)
	}
}

func BenchmarkTailorToTwelveFindings(b *testing.B) {
	bundle, ctx := demo(b)
	pack := contraindication.Trade()
	answers := map[string]contraindication.Answer{}
	for _, id := range []string{"sensitive", "rosacea", "jaw-joint", "migraine", "blood-thinners", "nut-allergy", "fragrance-allergy", "lash-extensions", "claustrophobia", "cold-urticaria", "bee-allergy"} {
		answers[id] = contraindication.Answer{Yes: true}
	}
	answers["sore-skin"] = contraindication.Answer{Yes: true, Zones: []contraindication.ZoneSide{{Zone: "temple", Side: "left"}}}
	c := contraindication.Merge(pack.Evaluate(answers, contraindication.ClientProfile{}, "2026-11-24").Outcomes)
	p := fullest(bundle.Protocols)
	b.ReportAllocs()
	b.ReportMetric(float64(len(p.Steps)), "steps")
	for b.Loop() {
		adjusting.Adjust(p, ctx, c)
	}
}
