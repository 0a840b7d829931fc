package adjusting_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/craft/substance"
)

// place reports whether a step touches a place, on its path, under a finger, or
// under the anchoring hand.
func touches(r *evaluation.Resolved, zone string, side string) bool {
	if side == "left" && r.Sides == stroke.RightOnly || side == "right" && r.Sides == stroke.LeftOnly {
		return false
	}
	if slices.ContainsFunc(r.Path, func(s evaluation.Stop) bool { return s.Zone == zone }) || r.Anchor != nil && r.Anchor.Zone == zone {
		return true
	}
	return slices.ContainsFunc(r.Fingers, func(f stroke.Finger) bool { return f.Zone == zone })
}

// Whatever is asked: the result works no excluded place, passes no cap, uses no
// excluded stroke, tool or product, breaks no absolute limit that the plan kept,
// and never overruns; else it is refused. Every change has its reason (handbook,
// chapter 5, adjusting).
func TestTailoringKeepsEveryConstraint(t *testing.T) {
	ctx := crafttest.TradeStudio()
	var keys []string
	for _, st := range stroke.Trade() {
		if st.Intent != stroke.Cleanse && st.Key != "spread-passes" {
			keys = append(keys, st.Key)
		}
	}
	rapid.Check(t, func(t *rapid.T) {
		var work []protocol.Step
		for range rapid.IntRange(2, 14).Draw(t, "steps") {
			work = append(work, protocol.Step{Stroke: rapid.SampledFrom(keys).Draw(t, "stroke")})
		}
		p := crafttest.Treatment(30, work...)
		if len(p.Validate(ctx, "")) > 0 {
			return
		}
		base := evaluation.Evaluate(p, ctx)
		p.Minutes.HandsOn = int(base.Seconds)/60 + 1
		var outcomes []contraindication.Contraindication
		rule := func(o contraindication.Contraindication) {
			o.Rule, o.Title, o.Why = string(rune('A'+len(outcomes))), "a rule", "a reason"
			outcomes = append(outcomes, o)
		}
		zone := rapid.Custom(func(t *rapid.T) string { return anatomy.Zones[rapid.IntRange(0, anatomy.Count-1).Draw(t, "zone")].Key })
		for range rapid.IntRange(0, 3).Draw(t, "left out") {
			rule(contraindication.Contraindication{Kind: contraindication.LeaveOut, Places: []contraindication.ZoneSide{{Zone: zone.Draw(t, "out"), Side: rapid.SampledFrom([]string{"left", "right", "both"}).Draw(t, "side")}}})
		}
		for range rapid.IntRange(0, 2).Draw(t, "caps") {
			o := contraindication.Contraindication{Kind: contraindication.Cap, Outcome: contraindication.Outcome{Pressure: rapid.IntRange(0, 3).Draw(t, "cap")}}
			if rapid.Bool().Draw(t, "somewhere") {
				o.Places = []contraindication.ZoneSide{{Zone: zone.Draw(t, "capped"), Side: "both"}}
			}
			rule(o)
		}
		if rapid.Bool().Draw(t, "excludes") {
			rule(contraindication.Contraindication{Kind: contraindication.Exclude, Outcome: contraindication.Outcome{
				Families: []string{rapid.SampledFrom([]string{"friction", "tapotement", "static hold", "effleurage"}).Draw(t, "family")},
				Tools:    []string{rapid.SampledFrom([]string{"stone", "cold", "cup"}).Draw(t, "tool")}, Tags: []string{"nut-oil"}}})
		}
		c := contraindication.Merge(outcomes)
		got := adjusting.Adjust(p, ctx, c)
		if len(outcomes) == 0 {
			if len(got.Adjustments) > 0 || !protocol.Compare(p, got.Protocol).Same() {
				t.Fatalf("with nothing to do it changed %v", got.Adjustments)
			}
			return
		}
		had := map[string]bool{}
		for _, f := range base.Findings {
			had[f.ID] = true
		}
		for _, f := range got.Evaluation.Findings {
			if f.Severity == evaluation.Stopping && !had[f.ID] && !got.Refused {
				t.Fatalf("%s stands and is not refused: %v", f.ID, f.Values)
			}
		}
		for i := range got.Evaluation.Steps {
			r := &got.Evaluation.Steps[i]
			for _, o := range outcomes {
				for _, pl := range o.Places {
					if o.Kind == contraindication.LeaveOut && touches(r, pl.Zone, pl.Side) {
						t.Fatalf("%s works %v", r.ID, pl)
					}
				}
				for _, pt := range r.Path {
					on := len(o.Places) == 0 || o.Places[0].Zone == pt.Zone
					if o.Kind == contraindication.Cap && on && pt.Pressure > o.Outcome.Pressure {
						t.Fatalf("%s presses %d on %s, capped at %d", r.ID, pt.Pressure, pt.Zone, o.Outcome.Pressure)
					}
				}
				if o.Kind != contraindication.Exclude {
					continue
				}
				if slices.Contains(o.Outcome.Families, string(r.Family)) {
					t.Fatalf("%s is %s", r.ID, r.Family)
				}
				if r.Tool != nil && slices.Contains(o.Outcome.Tools, ctx.Tools[r.Tool.Key].Kind) {
					t.Fatalf("%s uses %s", r.ID, r.Tool.Key)
				}
				if u := got.Protocol.Steps[i].Use; u != nil && u.Product == "almond" {
					t.Fatalf("%s uses nut oil", r.ID)
				}
			}
		}
		if got.Evaluation.Seconds > float64(got.Evaluation.SlotSeconds)+0.5 && base.Seconds <= float64(p.Minutes.HandsOn*60)+0.5 && !got.Refused {
			t.Fatalf("overruns %+v: %.1f s in %d s", got.Adjustments, got.Evaluation.Seconds, got.Evaluation.SlotSeconds)
		}
		for _, ch := range got.Adjustments {
			if ch.Kind != adjusting.Refitted && (ch.Rule == "" || ch.Why == "") {
				t.Fatalf("a change without its reason: %+v", ch)
			}
		}
	})
}

// The order of craft/5: the first way that serves wins. Each case leaves only
// its own way open.
func TestTheFirstWayThatServesWins(t *testing.T) {
	ctx := crafttest.TradeStudio()
	left := func(zone, side string) contraindication.Contraindication {
		return contraindication.Contraindication{Rule: "r", Kind: contraindication.LeaveOut, Title: "t", Why: "w", Places: []contraindication.ZoneSide{{Zone: zone, Side: side}}}
	}
	cases := []struct {
		name  string
		step  protocol.Step
		asks  contraindication.Contraindication
		did   adjusting.AdjustmentKind
		holds func(*evaluation.Resolved) bool
	}{
		{"round the zone", protocol.Step{Stroke: "zigzag-flicks"}, left("lower-cheek", "both"), adjusting.Rerouted, func(r *evaluation.Resolved) bool { return len(r.Path) == 3 && r.StrokeKey == "zigzag-flicks" }},
		{"the free side whole", protocol.Step{Stroke: "cheek-scoop"}, left("nasolabial", "left"), adjusting.OtherSide, func(r *evaluation.Resolved) bool { return r.Sides == stroke.RightOnly && len(r.Path) == 3 }},
		{"lighter", protocol.Step{Stroke: "cheek-scoop"}, contraindication.Contraindication{Rule: "r", Kind: contraindication.Cap, Title: "t", Why: "w", Outcome: contraindication.Outcome{Pressure: 2}}, adjusting.Lowered, func(r *evaluation.Resolved) bool { return r.Path[0].Pressure == 2 }},
		{"another stroke of the same intent", protocol.Step{Stroke: "stone-jaw"}, contraindication.Contraindication{Rule: "r", Kind: contraindication.Exclude, Title: "t", Why: "w", Outcome: contraindication.Outcome{Tools: []string{"stone"}}}, adjusting.Swapped, func(r *evaluation.Resolved) bool { return r.Intent == stroke.Lift && r.Tool == nil }},
		{"left out", protocol.Step{Stroke: "ear-knead"}, contraindication.Contraindication{Rule: "r", Kind: contraindication.Exclude, Title: "t", Why: "w", Outcome: contraindication.Outcome{Intents: []string{"soothe"}}}, adjusting.Dropped, nil},
		{"another product", protocol.Step{Stroke: "jaw-scissor"}, contraindication.Contraindication{Rule: "r", Kind: contraindication.Exclude, Title: "t", Why: "w", Outcome: contraindication.Outcome{Tags: []string{"nut-oil"}}}, adjusting.Replaced, func(r *evaluation.Resolved) bool { return true }},
	}
	for _, c := range cases {
		p := crafttest.Treatment(12, c.step)
		got := adjusting.Adjust(p, ctx, contraindication.Merge([]contraindication.Contraindication{c.asks}))
		require.True(t, slices.ContainsFunc(got.Adjustments, func(ch adjusting.Adjustment) bool { return ch.Kind == c.did }), "%s: %+v", c.name, got.Adjustments)
		i := got.Protocol.Index(p.Steps[5].ID)
		if c.holds == nil {
			assert.Negative(t, i, c.name)
			continue
		}
		require.GreaterOrEqual(t, i, 0, c.name)
		assert.True(t, c.holds(&got.Evaluation.Steps[i]), "%s: %+v", c.name, got.Evaluation.Steps[i])
	}
}

// The right jaw nodes are left out: what drains into them is led on to the nodes
// before the ear on that side, the left stays as it was (handbook, chapter 5:
// another way or not at all; the ways are the routes of chapter 1).
func TestDrainageIsLedAnotherWay(t *testing.T) {
	ctx := crafttest.TradeStudio()
	asks := contraindication.Contraindication{Rule: "r", Kind: contraindication.LeaveOut, Title: "Nodes", Why: "w", Places: []contraindication.ZoneSide{{Zone: "under-jaw", Side: "right"}}}
	p := crafttest.Treatment(12, protocol.Step{Stroke: "forehead-drain"}, protocol.Step{Stroke: "cheek-drain", Path: []protocol.PathPoint{{Zone: "nose-side"}, {Zone: "mid-cheek"}, {Zone: "under-jaw"}}}, protocol.Step{Stroke: "cheek-scoop"}, protocol.Step{Stroke: "forehead-effleurage"})
	got := adjusting.Adjust(p, ctx, contraindication.Merge([]contraindication.Contraindication{asks}))
	require.False(t, got.Refused, "%+v", got.Adjustments)
	led := false
	for _, r := range got.Evaluation.Steps {
		for _, pt := range r.Path {
			if r.Sides != stroke.LeftOnly {
				assert.NotEqual(t, "under-jaw", pt.Zone, r.Name)
			}
		}
		if r.StrokeKey == "cheek-drain" && r.Sides == stroke.RightOnly {
			led = true
			last, _ := anatomy.Lookup(r.Path[len(r.Path)-1].Zone)
			assert.Equal(t, anatomy.Preauricular, last.Zone().Node, "%+v", r.Path)
		}
	}
	assert.True(t, led, "%+v", got.Adjustments)
	for _, f := range got.Evaluation.Findings {
		assert.NotEqual(t, evaluation.Stopping, f.Severity, f.ID)
	}
}

// A wish for a firmer hand raises the work by one level, never over a zone's
// ceiling, never over a caution's cap, never of what drains (handbook, chapters 1
// and 5); a lighter one lowers it. Either may be taken back for one step alone.
func TestWishesForTheHand(t *testing.T) {
	ctx := crafttest.TradeStudio()
	wish := func(k contraindication.Kind) contraindication.Contraindication {
		return contraindication.Contraindication{Rule: "wish", Kind: k, Title: "Wish", Why: "w", Outcome: contraindication.Outcome{Kind: k}}
	}
	p := crafttest.Treatment(12, protocol.Step{Stroke: "cheek-drain"}, protocol.Step{Stroke: "cheek-scoop"}, protocol.Step{Stroke: "jaw-scissor"}, protocol.Step{Stroke: "forehead-effleurage"})
	base := evaluation.Evaluate(p, ctx)
	now := func(c *contraindication.Constraints) map[string][]int {
		got := adjusting.Adjust(p, ctx, c)
		require.False(t, got.Refused)
		out := map[string][]int{}
		for i := range got.Evaluation.Steps {
			r := &got.Evaluation.Steps[i]
			for _, pt := range r.Path {
				out[r.ID] = append(out[r.ID], pt.Pressure)
				id, _ := anatomy.Lookup(pt.Zone)
				if r.Phase == "work" {
					assert.LessOrEqual(t, pt.Pressure, max(id.Zone().Ceiling, r.Pressure), pt.Zone)
				}
			}
		}
		return out
	}
	was := now(contraindication.Merge(nil))
	firm := now(contraindication.Merge([]contraindication.Contraindication{wish(contraindication.Firmer)}))
	raised := 0
	for _, r := range base.Steps {
		for k := range r.Path {
			assert.LessOrEqual(t, firm[r.ID][k], was[r.ID][k]+1)
			assert.GreaterOrEqual(t, firm[r.ID][k], was[r.ID][k])
			raised += firm[r.ID][k] - was[r.ID][k]
		}
		if r.Intent == stroke.Drain || r.Intent == stroke.Open {
			assert.Equal(t, was[r.ID], firm[r.ID], "%s drains", r.Name)
		}
	}
	assert.Positive(t, raised)
	capped := now(contraindication.Merge([]contraindication.Contraindication{wish(contraindication.Firmer), {Rule: "cap", Kind: contraindication.Cap, Title: "t", Why: "w", Outcome: contraindication.Outcome{Pressure: 2}}}))
	for id, list := range capped {
		for _, pressure := range list {
			assert.LessOrEqual(t, pressure, 2, id)
		}
	}
	light := now(contraindication.Merge([]contraindication.Contraindication{wish(contraindication.Lighter)}))
	scoop := p.Steps[6].ID
	assert.Equal(t, was[scoop][0]-1, light[scoop][0])
	c := contraindication.Merge([]contraindication.Contraindication{wish(contraindication.Lighter)})
	c.Waive(scoop, contraindication.Merge(nil))
	but := now(c)
	assert.Equal(t, was[scoop], but[scoop], "taken back here")
	assert.Equal(t, light[p.Steps[7].ID], but[p.Steps[7].ID], "and nowhere else")
}

// What a product holds is found by INCI name, by another name for it and by
// group; its place is taken only by what is allowed and lasts (handbook, chapters
// 4 and 5).
func TestAllergiesAgainstTheShelf(t *testing.T) {
	ctx := crafttest.TradeStudio()
	for _, pr := range []slip.Product{
		{Key: "sun", Name: "Seed oil", Form: slip.Oil, FullDose: 4, RangeMin: 2, RangeMax: 5, DropsPerML: 30, Ingredients: []string{"Helianthus Annuus (Sunflower) Seed Oil", "Tocopherol"}},
		{Key: "walnut", Name: "Cold pressed", Form: slip.Oil, FullDose: 4, RangeMin: 2, RangeMax: 5, DropsPerML: 30, Ingredients: []string{"Juglans Regia Seed Oil"}},
	} {
		ctx.Products[pr.Key] = &pr
	}
	delete(ctx.Products, "oil")
	ctx.Products["almond"].Ingredients = []string{"Prunus Amygdalus Dulcis (Sweet Almond) Oil"}
	for key, form := range map[string]slip.Form{"milk": slip.Milk, "mist": slip.Mist, "gel": slip.WaterySerum} { // nothing to massage with
		ctx.Products[key] = &slip.Product{Key: key, Name: key, Form: form, FullDose: 4, RangeMin: 2, RangeMax: 5}
	}
	p := crafttest.Treatment(12, protocol.Step{Stroke: "jaw-scissor"}, protocol.Step{Stroke: "cheek-scoop"})
	used := func(stock map[string]float64, allergies ...substance.Allergy) string {
		res := contraindication.Trade().Evaluate(nil, contraindication.ClientProfile{Allergies: allergies}, crafttest.Today)
		c := contraindication.Merge(res.Outcomes)
		c.OnShelf(stock)
		u := adjusting.Adjust(p, ctx, c).Protocol.Steps[0].Use
		if u == nil {
			return "none"
		}
		return u.Product
	}
	nuts := substance.Allergy{Kind: "group", Key: "nut-oil", Name: "Nuts"}
	almond := substance.Allergy{Kind: "ingredient", Key: "sweet almond oil", Name: "Almond"}
	assert.Equal(t, "almond", used(nil))
	assert.Equal(t, "sun", used(nil, almond), "nearest by half-life, then by key")
	assert.Equal(t, "walnut", used(map[string]float64{"walnut": 50, "sun": 0.5}, almond), "too little of the other")
	assert.Equal(t, "sun", used(map[string]float64{"walnut": 50, "sun": 50}, nuts), "walnut is one by its ingredient")
	assert.Equal(t, "none", used(map[string]float64{"walnut": 50}, nuts))
	assert.Equal(t, "almond", used(nil, substance.Allergy{Kind: "words", Key: "papaya juice", Name: "papaya juice"}))
	assert.Equal(t, "walnut", used(nil, almond, substance.Allergy{Kind: "words", Key: "sunflower", Name: "sunflower"}))
}

// A product is left out by what its tag means, however the studio wrote it, and by
// what the tag implies: an essential oil is fragrance, an acid exfoliates.
func TestTagsAsTheStudioWroteThem(t *testing.T) {
	barred := func(yes string, tags ...string) string {
		res := contraindication.Trade().Evaluate(map[string]contraindication.Answer{yes: {Yes: true, Day: crafttest.Today}}, contraindication.ClientProfile{}, crafttest.Today)
		return contraindication.Merge(res.Outcomes).ProductRule(&slip.Product{Key: "p", Name: "p", Form: slip.Oil, Tags: tags})
	}
	for _, c := range []struct {
		yes  string
		tags []string
		bars bool
	}{
		{"nut-allergy", []string{"Nut oil"}, true},
		{"nut-allergy", []string{"nuts"}, true},
		{"nut-allergy", []string{"nutritious"}, false},
		{"fragrance-allergy", []string{"Perfume"}, true},
		{"fragrance-allergy", []string{"Essential oils"}, true},
		{"isotretinoin", []string{"Exfoliating"}, true},
		{"isotretinoin", []string{"AHA"}, true},
		{"isotretinoin", []string{"Retinol"}, true},
		{"isotretinoin", []string{"clogging"}, false},
		{"diabetes", []string{"acid"}, true},
		{"acne-inflamed", []string{"comedogenic"}, true},
		{"bee-allergy", []string{"Honey"}, true},
		{"lanolin-allergy", []string{"wool wax"}, true},
		{"latex-allergy", []string{"natural rubber"}, true},
	} {
		want := ""
		if c.bars {
			want = c.yes
		}
		assert.Equal(t, want, barred(c.yes, c.tags...), "%s, a product tagged %v", c.yes, c.tags)
	}
	for _, r := range contraindication.Trade().Rules {
		for _, o := range r.Outcomes {
			for _, tag := range o.Tags {
				assert.True(t, slices.ContainsFunc(substance.KnownTags(), func(k substance.Tag) bool { return k.Tag == tag }), "%s leaves out %q: a tag that the shelf offers", r.ID, tag)
			}
		}
	}
}

// Drainage near a treated side goes another way or not at all: with the right
// hollow left out nothing drains towards it, and the left is worked whole.
func TestDrainageKeepsOffABarredSide(t *testing.T) {
	ctx := crafttest.TradeStudio()
	p := crafttest.Treatment(12, protocol.Step{Stroke: "cheek-drain"}, protocol.Step{Stroke: "forehead-drain"}, protocol.Step{Stroke: "cheek-scoop"}, protocol.Step{Stroke: "forehead-effleurage"}, protocol.Step{Stroke: "jaw-scissor"})
	lid := contraindication.Contraindication{Rule: "lid", Kind: contraindication.LeaveOut, Title: "Lashes", Why: "w", Places: []contraindication.ZoneSide{{Zone: "upper-eyelid", Side: "both"}}}
	asks := contraindication.Contraindication{Rule: "r", Kind: contraindication.LeaveOut, Title: "Port", Why: "w", Places: []contraindication.ZoneSide{{Zone: "collarbone-hollow", Side: "right"}, {Zone: "collarbone", Side: "right"}, {Zone: "chest", Side: "right"}}}
	got := adjusting.Adjust(p, ctx, contraindication.Merge([]contraindication.Contraindication{lid, asks}))
	require.False(t, got.Refused, "%+v", got.Adjustments)
	for _, ch := range got.Adjustments {
		if ch.Kind == adjusting.OtherSide || ch.Kind == adjusting.RouteBlocked {
			assert.Equal(t, "Port", ch.Title, "%s is put down to what closes its way home", ch.Name)
		}
	}
	for _, r := range got.Evaluation.Steps {
		if r.Intent == stroke.Drain {
			assert.Equal(t, stroke.LeftOnly, r.Sides, r.Name)
		}
	}
	for _, f := range got.Evaluation.Findings {
		assert.NotEqual(t, evaluation.Stopping, f.Severity, f.ID)
	}
}
