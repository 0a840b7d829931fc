package remedy_test

import (
	"maps"
	"reflect"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/craft/stroke"
)

// touch is what a fix may do to a plan besides taking its finding away.
type touch struct {
	adds, removes, reorders bool
	// empties: a step of which nothing is left is taken out.
	empties bool
	// fields of the steps that the finding names, and only of those unless everywhere.
	fields     []string
	everywhere bool
}

// touches says what each fix may do: a practitioner presses it for one thing and must find
// the rest of the plan as it was (common practice).
var touches = map[evaluation.Fix]touch{
	evaluation.LowerPressure: {fields: []string{"Pressure", "Path", "Fingers"}},
	evaluation.TakeTurns:     {fields: []string{"Sides"}},
	evaluation.LeaveZone:     {fields: []string{"Path"}, empties: true},
	evaluation.DropTool:      {fields: []string{"Tool", "Hand"}},
	evaluation.ReversePath:   {fields: []string{"Path"}},
	evaluation.MoveBefore:    {reorders: true},
	evaluation.OpenFirst:     {adds: true},
	evaluation.OpenAll:       {adds: true},
	evaluation.CarryHome:     {adds: true},
	evaluation.AnnounceDrop:  {fields: []string{"Announce"}},
	evaluation.LeaveStep:     {removes: true},
	evaluation.SayDeparture:  {fields: []string{"Departure"}},
	evaluation.DropProduct:   {fields: []string{"Use"}},
	evaluation.AddPhase:      {adds: true},
	evaluation.StateTime:     {fields: []string{"Dose"}},
	evaluation.MistFirst:     {adds: true},
	evaluation.WorkZone:      {adds: true},
	evaluation.WashHands:     {adds: true},
	evaluation.ShakeOut:      {adds: true},
	evaluation.MirrorStep:    {adds: true},
	evaluation.AddProduct:    {adds: true},
	evaluation.LessProduct:   {fields: []string{"Use"}, everywhere: true}, // the plan as a whole takes too much
	evaluation.Smoother:      {reorders: true},
}

// A fix changes what it says and nothing else: the other steps are there as they were, in
// their order, and of the steps named only the stated fields differ.
func TestAFixChangesOnlyWhatItSays(t *testing.T) {
	done := map[evaluation.Fix]int{}
	keys := slices.Sorted(maps.Keys(stroke.ByKey(stroke.Trade())))
	rapid.Check(t, func(t *rapid.T) {
		pick := func(name string, of ...string) string { return rapid.SampledFrom(of).Draw(t, name) }
		ctx := crafttest.Studio()
		if s := pick("skin", "", "sensitive", "couperose", "dehydrated"); s != "" {
			ctx.SkinStates = []string{s}
		}
		var steps []protocol.Step
		for range rapid.IntRange(1, 10).Draw(t, "steps") {
			s := protocol.Step{Stroke: rapid.SampledFrom(keys).Draw(t, "stroke"), Phase: protocol.Phase(pick("phase", "open", "work", "work", "close"))}
			if rapid.IntRange(0, 3).Draw(t, "odd") == 0 {
				s.Pressure = crafttest.Ptr(rapid.IntRange(0, 5).Draw(t, "pressure"))
			}
			if rapid.IntRange(0, 4).Draw(t, "oily") == 0 {
				s = crafttest.Oiled(s)
			}
			steps = append(steps, s)
		}
		p := crafttest.Plan(rapid.IntRange(2, 20).Draw(t, "slot"), steps...)
		p.Setting, p.Concerns = pick("setting", "", "self"), []string{pick("concern", "jowls", "puffiness", "eye-lines")}
		p.Method = protocol.Method{Drainage: pick("drainage", "", "none", "only-close", "whole"), Eye: pick("eye", "", "outward", "in-below")}
		if len(p.Validate(ctx, "")) > 0 {
			return
		}
		e := evaluation.Evaluate(p, ctx)
		for i := range e.Findings {
			f := &e.Findings[i]
			for _, fix := range f.Fixes {
				may, known := touches[fix]
				q, err := remedy.ApplyTo(p, ctx, e, f.ID, fix)
				if err != nil || !known {
					continue
				}
				done[fix]++
				onlyThat(t, p, q, f, fix, may)
			}
		}
	})
	assert.Greater(t, len(done), 12, "the plans drawn offer most fixes: %v", done)
}

func onlyThat(t *rapid.T, p, q *protocol.Protocol, f *evaluation.Finding, fix evaluation.Fix, may touch) {
	was, now := ids(p), ids(q)
	kept := slices.DeleteFunc(slices.Clone(now), func(id string) bool { return !slices.Contains(was, id) })
	switch {
	case may.adds && (len(now) < len(was) || !slices.Equal(kept, was)):
		t.Fatalf("%s for %s: %v became %v", fix, f.ID, was, now)
	case may.removes && (len(now) >= len(was) || !slices.Equal(kept, now)):
		t.Fatalf("%s for %s: %v became %v", fix, f.ID, was, now)
	case may.reorders && !slices.Equal(slices.Sorted(slices.Values(was)), slices.Sorted(slices.Values(now))):
		t.Fatalf("%s for %s: %v became %v", fix, f.ID, was, now)
	case may.empties && len(now) == len(was)-1 && slices.Equal(kept, now):
	case !may.adds && !may.removes && !may.reorders && !slices.Equal(was, now):
		t.Fatalf("%s for %s: %v became %v", fix, f.ID, was, now)
	}
	for i := range p.Steps {
		j := q.Index(p.Steps[i].ID)
		if j < 0 {
			continue
		}
		for _, field := range different(&p.Steps[i], &q.Steps[j]) {
			if may.reorders && field == "Phase" {
				continue
			}
			if !slices.Contains(may.fields, field) || !may.everywhere && !slices.Contains(f.Steps, p.Steps[i].ID) {
				t.Fatalf("%s for %s changes %s of %s", fix, f.ID, field, p.Steps[i].ID)
			}
		}
	}
}

func ids(p *protocol.Protocol) (out []string) {
	for i := range p.Steps {
		out = append(out, p.Steps[i].ID)
	}
	return out
}

// different names the fields in which two steps differ.
func different(a, b *protocol.Step) (out []string) {
	va, vb := reflect.ValueOf(*a), reflect.ValueOf(*b)
	for i := range va.NumField() {
		if !reflect.DeepEqual(va.Field(i).Interface(), vb.Field(i).Interface()) {
			out = append(out, va.Type().Field(i).Name)
		}
	}
	return out
}

// The opening stroke for a group of nodes is the one that touches least of what lies
// upstream, then the shortest, then the first by key; checked against all of the library's
// opening strokes, put in that order another way.
func TestTheOpenerOfEveryGroup(t *testing.T) {
	all := stroke.ByKey(stroke.Trade())
	rapid.Check(t, func(t *rapid.T) {
		ctx := &protocol.Context{Strokes: map[string]*stroke.Stroke{}}
		for _, k := range slices.Sorted(maps.Keys(all)) {
			if all[k].Intent == stroke.Open && rapid.IntRange(0, 2).Draw(t, k) > 0 {
				ctx.Strokes[k] = all[k]
			}
		}
		for _, g := range anatomy.NodeGroups {
			type rank struct {
				upstream, length int
				key              string
			}
			var order []rank
			for k, st := range ctx.Strokes {
				touches, upstream := false, 0
				for _, z := range st.Path {
					id, ok := anatomy.Lookup(z)
					if !ok {
						continue
					}
					if n := id.Zone().Node; n != "" {
						touches = touches || n == g
						if slices.Index(anatomy.NodeGroups[:], n) > slices.Index(anatomy.NodeGroups[:], g) {
							upstream++
						}
					}
				}
				if touches && st.Tool == nil {
					order = append(order, rank{upstream, len(st.Path), k})
				}
			}
			slices.SortFunc(order, func(a, b rank) int {
				if a.upstream != b.upstream {
					return a.upstream - b.upstream
				}
				if a.length != b.length {
					return a.length - b.length
				}
				if a.key < b.key {
					return -1
				}
				return 1
			})
			got := remedy.Opener(ctx, g)
			if len(order) == 0 {
				if got != nil {
					t.Fatalf("%s: %s opens what nothing opens", g, got.Key)
				}
				continue
			}
			if got == nil || got.Key != order[0].key {
				t.Fatalf("%s: %v, want %s", g, got, order[0].key)
			}
		}
	})
}
