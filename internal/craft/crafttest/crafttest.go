// Package crafttest holds what the tests of the craft share: small studios, plans
// and the twelve fixture protocols.
package crafttest

import (
	"embed"
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// Studio is the trade's library with a shelf and tools, written for these tests.
func Studio() *protocol.Context {
	ctx := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade()), Products: map[string]*slip.Product{}, Tools: map[string]protocol.Tool{}}
	for _, p := range []slip.Product{
		{Key: "oil", Name: "Oil", Form: slip.Oil, FullDose: 4, RangeMin: 2, RangeMax: 5, DropsPerML: 30, Density: 0.92},
		{Key: "cream", Name: "Cream", Form: slip.MassageCream, FullDose: 4.5, RangeMin: 3, RangeMax: 6, MLPerPump: 1.5, Unsuited: []string{"acne-prone"}},
		{Key: "mist", Name: "Mist", Form: slip.Mist, FullDose: 1, RangeMin: 0.5, RangeMax: 2},
		{Key: "mask", Name: "Mask", Form: slip.Mask, FullDose: 8, RangeMax: 12},
		{Key: "acid", Name: "Acid serum", Form: slip.WaterySerum, FullDose: 3, RangeMax: 5, Tags: []string{"acid"}},
	} {
		ctx.Products[p.Key] = &p
	}
	for _, x := range []protocol.Tool{
		{Key: "stone-plate", Name: "Stone", Kind: "stone"}, {Key: "twin-ball", Name: "Twin-ball", Kind: "twin-ball-roller"},
		{Key: "cold-globes", Name: "Cold globes", Kind: "cold"}, {Key: "mitt", Name: "Mitt", Kind: "mitt", SingleUse: true},
		{Key: "warm-towel", Name: "Towel", Kind: "compress"}, {Key: "soft-cup", Name: "Cup", Kind: "cup"}, {Key: "cylinder", Name: "Cylinder", Kind: "cylinder-roller"},
	} {
		ctx.Tools[x.Key] = x
	}
	return ctx
}

func Oiled(s protocol.Step) protocol.Step {
	s.Use = &protocol.Use{Product: "oil", Amount: slip.Amount{Value: 3.5, Measure: slip.ML}}
	return s
}

func MustZone(t testing.TB, key string) anatomy.ID {
	id, ok := anatomy.Lookup(key)
	require.True(t, ok, key)
	return id
}

// Found is the finding of a code, on a step where one is given.
func Found(e *evaluation.Evaluation, code evaluation.Code, on string) *evaluation.Finding {
	for i := range e.Findings {
		f := &e.Findings[i]
		if f.Code == code && (on == "" || slices.Contains(f.Steps, on)) {
			return f
		}
	}
	return nil
}

func StrokesOf(p *protocol.Protocol, phase protocol.Phase) []string {
	var out []string
	for i := range p.Steps {
		if p.Steps[i].Phase == phase {
			out = append(out, p.Steps[i].Stroke)
		}
	}
	return out
}

// Fixture reads a protocol of testdata with the trade's library and the tools
// and products in its file.
func Fixture(t testing.TB, key string) (*protocol.Protocol, *protocol.Context) {
	t.Helper()
	return read(t, "testdata/protocols/"+key+".json")
}

// Said reads one of the plans that say what plans were once found to need and had no place for.
func Said(t testing.TB, key string) (*protocol.Protocol, *protocol.Context) {
	t.Helper()
	return read(t, "testdata/said/"+key+".json")
}

func read(t testing.TB, name string) (*protocol.Protocol, *protocol.Context) {
	t.Helper()
	data, err := fixtures.ReadFile(name)
	require.NoError(t, err)
	var file struct {
		Protocol protocol.Protocol
		Tools    []protocol.Tool
		Products []slip.Product
		Zones    []anatomy.OwnZone
	}
	require.NoError(t, json.Unmarshal(data, &file))
	ctx := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade()), Products: map[string]*slip.Product{}, Tools: map[string]protocol.Tool{}, Zones: anatomy.Own(file.Zones)}
	for i := range file.Products {
		ctx.Products[file.Products[i].Key] = &file.Products[i]
	}
	for _, x := range file.Tools {
		ctx.Tools[x.Key] = x
	}
	require.Empty(t, file.Protocol.Validate(ctx, ""))
	return &file.Protocol, ctx
}

func FixtureKeys(t testing.TB) []string {
	t.Helper()
	files, err := fixtures.ReadDir("testdata/protocols")
	require.NoError(t, err)
	keys := make([]string, len(files))
	for i, f := range files {
		keys[i] = strings.TrimSuffix(f.Name(), ".json")
	}
	return keys
}

func Reps(n int) stroke.Dose               { return stroke.Dose{Kind: stroke.Reps, Planned: n, Min: 1, Max: 2 * n} }
func Clock(s int) stroke.Dose              { return stroke.Dose{Kind: stroke.Clock, Planned: s} }
func Move(s float64) stroke.Part           { return stroke.Part{Kind: stroke.Move, Seconds: s} }
func Hold(s float64) stroke.Part           { return stroke.Part{Kind: stroke.Hold, Seconds: s} }
func Ptr[T any](v T) *T                    { return &v }
func Parts(p ...stroke.Part) []stroke.Part { return p }

//go:embed testdata
var fixtures embed.FS

// Library is a small set of strokes of the trade, written for these tests.
var Library = func() map[string]*stroke.Stroke {
	m := map[string]*stroke.Stroke{}
	for _, s := range []stroke.Stroke{
		{Key: "breathe", Manner: stroke.Manner{Intent: stroke.Settle}, Sides: stroke.Midline, Dose: stroke.Dose{Kind: stroke.Breaths, Planned: 3, In: 4, Out: 6}},
		{Key: "effleurage", Manner: stroke.Manner{Intent: stroke.Soothe}, Pressure: 2, Relation: stroke.Slides, Glide: stroke.SlideGlide, Path: []string{"forehead-centre", "temple"}, Sides: stroke.BothAtOnce, Dose: Reps(3), Parts: Parts(Move(3))},
		{Key: "eye-stone", Manner: stroke.Manner{Intent: stroke.Drain}, Pressure: 1, Relation: stroke.Slides, Glide: stroke.StoneGlide, Tool: &stroke.ToolPart{Key: "stone", Part: "long curve"}, Path: []string{"orbital-rim", "temple"}, Sides: stroke.InTurns, Dose: Reps(3), Parts: Parts(Move(4), Hold(5))},
		{Key: "twin-balls", Manner: stroke.Manner{Intent: stroke.Lift}, Pressure: 2, Relation: stroke.Slides, Glide: stroke.GripGlide, Tool: &stroke.ToolPart{Key: "roller"}, Path: []string{"chin", "ear-lobe"}, Sides: stroke.InTurns, Dose: stroke.Dose{Kind: stroke.Reps, Planned: 3, Sets: 3}, Parts: Parts(Move(1), stroke.Part{Kind: stroke.Back, Seconds: 1})},
		{Key: "pumps", Manner: stroke.Manner{Intent: stroke.Open}, Pressure: 1, Relation: stroke.Carries, Path: []string{"collarbone-hollow"}, Sides: stroke.BothAtOnce, Dose: stroke.Dose{Kind: stroke.Breaths, Planned: 3, In: 4, Out: 7, Pulses: 7}},
		{Key: "neck-open", Manner: stroke.Manner{Intent: stroke.Open}, Pressure: 1, Relation: stroke.Slides, Path: []string{"side-neck"}, Sides: stroke.BothAtOnce, Dose: Reps(3), Parts: Parts(Move(2))},
		{Key: "ear-open", Manner: stroke.Manner{Intent: stroke.Open}, Pressure: 1, Relation: stroke.Carries, Path: []string{"front-of-ear"}, Sides: stroke.BothAtOnce, Dose: Reps(3), Parts: Parts(Move(2))},
		{Key: "crease", Manner: stroke.Manner{Intent: stroke.Release}, Pressure: 3, Relation: stroke.Carries, Path: []string{"nasolabial"}, Sides: stroke.InTurns, Dose: Clock(30)},
		{Key: "face-drain", Manner: stroke.Manner{Intent: stroke.Drain}, Pressure: 1, Relation: stroke.Slides, Path: []string{"mid-cheek", "cheekbone", "front-of-ear"}, Sides: stroke.BothAtOnce, Dose: Reps(3), Parts: Parts(Move(3))},
		{Key: "neck-glide", Manner: stroke.Manner{Intent: stroke.Drain}, Pressure: 1, Relation: stroke.Slides, Path: []string{"front-of-ear", "below-ear", "side-neck", "collarbone-hollow"}, Sides: stroke.BothAtOnce, Dose: Reps(3), Parts: Parts(Move(4))},
		{Key: "spread", Manner: stroke.Manner{Intent: stroke.Spread}, Pressure: 1, Relation: stroke.Slides, Path: []string{"side-neck", "chin", "mid-cheek", "forehead", "temple"}, Sides: stroke.BothAtOnce, Dose: Reps(2), Parts: Parts(Move(5))},
		{Key: "lift", Manner: stroke.Manner{Intent: stroke.Lift}, Pressure: 3, Relation: stroke.Slides, Glide: stroke.SlideGlide, Path: []string{"jawline", "cheekbone"}, Sides: stroke.LeftOnly, Dose: Reps(6), Parts: Parts(Move(3))},
		{Key: "press", Manner: stroke.Manner{Intent: stroke.Release}, Pressure: 3, Relation: stroke.Still, Path: []string{"temple"}, Sides: stroke.BothAtOnce, Dose: stroke.Dose{Kind: stroke.Until, Planned: 20, Min: 10, Max: 40, Sign: "it lets go"}},
		{Key: "look", Manner: stroke.Manner{Intent: stroke.Tone}, Sides: stroke.Midline, Path: []string{"upper-eyelid"}, Dose: stroke.Dose{Kind: stroke.Positions, Planned: 3, Places: 4, Seconds: 3}},
		{Key: "wipe", Manner: stroke.Manner{Intent: stroke.Cleanse}, Pressure: 1, Relation: stroke.Still, Path: []string{"mid-cheek"}, Sides: stroke.BothAtOnce, Dose: Clock(20)},
	} {
		s.Name, s.Family = s.Key, stroke.Effleurage
		m[s.Key] = &s
	}
	return m
}()

func SmallStudio() *protocol.Context {
	return &protocol.Context{
		Strokes:  Library,
		Products: map[string]*slip.Product{"oil": {Key: "oil", Name: "Oil", Form: slip.Oil, FullDose: 4, RangeMin: 2, RangeMax: 5, DropsPerML: 30}, "serum": {Key: "serum", Name: "Serum", Form: slip.WaterySerum, FullDose: 3, RangeMax: 6}},
		Tools:    map[string]protocol.Tool{"stone": {Name: "Stone", Kind: "stone"}, "roller": {Name: "Roller", Kind: "twin-ball-roller"}},
	}
}

// Plan makes a protocol of steps, one a stroke, ids being "stroke" or "stroke#n".
func Plan(slotMinutes int, steps ...protocol.Step) *protocol.Protocol {
	p := &protocol.Protocol{Key: "t", Name: "T", Setting: "self", Minutes: protocol.Minutes{Treatment: slotMinutes + 10, HandsOn: slotMinutes, Reset: 10}, DefaultDose: Reps(3)}
	for i, s := range steps {
		if s.ID == "" {
			s.ID = fmt.Sprintf("%s#%d", s.Stroke, i+1)
		}
		if s.Phase == "" {
			s.Phase = "work"
		}
		p.Steps = append(p.Steps, s)
	}
	return p
}

func Do(key string) protocol.Step { return protocol.Step{Stroke: key} }

func Codes(e *evaluation.Evaluation) []string {
	out := []string{}
	for _, f := range e.Findings {
		out = append(out, f.ID)
	}
	return out
}

func Valid(t testing.TB, p *protocol.Protocol) {
	t.Helper()
	require.Empty(t, p.Validate(SmallStudio(), ""))
}

func Mark(t testing.TB, key string) anatomy.Point {
	id, ok := anatomy.Lookup(key)
	require.True(t, ok)
	return id.Zone().Centre
}

func Zones(keys ...string) []protocol.PathPoint {
	out := []protocol.PathPoint{}
	for _, k := range keys {
		out = append(out, protocol.PathPoint{Zone: k})
	}
	return out
}

func Oil(drops float64) *protocol.Use {
	return &protocol.Use{Product: "oil", Amount: slip.Amount{Value: drops, Measure: slip.Drops}}
}

func Sixty() *protocol.Protocol {
	keys := []string{"breathe", "pumps", "neck-open", "ear-open", "spread", "effleurage", "eye-stone", "face-drain", "press", "neck-glide"}
	var steps []protocol.Step
	for i := range 60 {
		s := Do(keys[i%len(keys)])
		if s.Stroke == "spread" {
			s.Use = Oil(10)
		}
		steps = append(steps, s)
	}
	return Plan(45, steps...)
}

func RulesOf(p *contraindication.Pack) map[string]bool {
	out := map[string]bool{}
	for _, r := range p.Rules {
		out[r.ID] = true
	}
	return out
}

const Today = calendar.Day("2026-11-24")

func Yes(day calendar.Day, zones ...contraindication.ZoneSide) contraindication.Answer {
	return contraindication.Answer{Yes: true, Day: day, Zones: zones}
}

func TradeStudio() *protocol.Context {
	ctx := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade()), Products: map[string]*slip.Product{}, Tools: map[string]protocol.Tool{}}
	for _, p := range []slip.Product{
		{Key: "oil", Name: "Oil", Form: slip.Oil, FullDose: 4, RangeMin: 2, RangeMax: 5, DropsPerML: 30},
		{Key: "almond", Name: "Almond oil", Form: slip.Oil, FullDose: 4, RangeMin: 2, RangeMax: 5, DropsPerML: 30, Tags: []string{"nut-oil"}},
	} {
		ctx.Products[p.Key] = &p
	}
	for _, x := range []protocol.Tool{{Key: "stone-plate", Name: "Stone", Kind: "stone"}, {Key: "twin-ball", Name: "Twin-ball", Kind: "twin-ball-roller"}, {Key: "cold-globes", Name: "Globes", Kind: "cold"}, {Key: "warm-towel", Name: "Towel", Kind: "compress"}, {Key: "soft-cup", Name: "Cup", Kind: "cup"}, {Key: "mitt", Name: "Mitt", Kind: "mitt"}, {Key: "cylinder", Name: "Cylinder", Kind: "cylinder-roller"}} {
		ctx.Tools[x.Key] = x
	}
	return ctx
}

// Treatment opens, works with the given strokes and closes.
func Treatment(minutes int, work ...protocol.Step) *protocol.Protocol {
	p := &protocol.Protocol{Key: "t", Name: "T", Setting: "self", Minutes: protocol.Minutes{Treatment: minutes + 10, HandsOn: minutes}, DefaultDose: stroke.Dose{Kind: stroke.Reps, Planned: 3}}
	add := func(phase protocol.Phase, s protocol.Step) {
		s.ID, s.Phase = string(rune('a'+len(p.Steps)))+"-"+s.Stroke, phase
		p.Steps = append(p.Steps, s)
	}
	add("apply", protocol.Step{Stroke: "spread-passes", Use: &protocol.Use{Product: "almond", Amount: slip.Amount{Value: 110, Measure: slip.Drops}}})
	for _, k := range []string{"collarbone-pumps", "neck-side-open", "ear-fork", "under-jaw-circles"} {
		add("open", protocol.Step{Stroke: k})
	}
	for _, s := range work {
		add("work", s)
	}
	for _, k := range []string{"feather-sweep", "lobe-to-hollow"} {
		add("close", protocol.Step{Stroke: k})
	}
	return p
}

func LeaveOut(places ...contraindication.ZoneSide) contraindication.Contraindication {
	return contraindication.Contraindication{Rule: "r", Kind: contraindication.LeaveOut, Title: "T", Why: "w", Places: places}
}

// Demo reads the demo studio's protocols with its shelf.
func Demo(t testing.TB) ([]protocol.Protocol, *protocol.Context) {
	t.Helper()
	data, err := os.ReadFile("../../../demo/studio.json")
	require.NoError(t, err)
	var file struct {
		Protocols []protocol.Protocol
		Strokes   []stroke.Stroke
		Tools     []protocol.Tool
		Products  []slip.Product
	}
	require.NoError(t, json.Unmarshal(data, &file))
	ctx := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade(), file.Strokes), Products: map[string]*slip.Product{}, Tools: map[string]protocol.Tool{}}
	for i := range file.Products {
		ctx.Products[file.Products[i].Key] = &file.Products[i]
	}
	for _, x := range file.Tools {
		ctx.Tools[x.Key] = x
	}
	return file.Protocols, ctx
}
