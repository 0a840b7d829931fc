package protocol

import (
	"fmt"
	"slices"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// RefKind is what a key in a plan names.
type RefKind string

// The kinds of reference. RefStep names another step of the same plan.
const (
	RefStroke  RefKind = "stroke"
	RefTool    RefKind = "tool"
	RefProduct RefKind = "product"
	RefStep    RefKind = "step"
	RefZone    RefKind = "zone" // a zone or an area, built in or of the studio's own
)

// References calls visit with every key of the plan that names something else, zones too: in steps, their
// alternates, sections and variants. path is a JSON pointer below the plan. visit may change the key.
// The slices and pointers it reaches are the plan's own: see [Protocol.Renamed].
func (p *Protocol) References(visit func(kind RefKind, key *string, path string)) {
	to := func(kind RefKind, key *string, path string) {
		if *key != "" {
			visit(kind, key, path)
		}
	}
	for i := range p.Steps {
		s, at := &p.Steps[i], fmt.Sprintf("/steps/%d", i)
		to(RefStroke, &s.Stroke, at+"/stroke")
		if s.Tool != nil {
			to(RefTool, &s.Tool.Key, at+"/tool/key")
		}
		if s.Use != nil {
			to(RefProduct, &s.Use.Product, at+"/use/product")
			for k := range s.Use.Choices {
				to(RefProduct, &s.Use.Choices[k], fmt.Sprintf("%s/use/choices/%d", at, k))
			}
		}
		to(RefStep, &s.MirrorOf, at+"/mirrorOf")
		to(RefStep, &s.AlternateOf, at+"/alternateOf")
		alternateReferences(s.Alternates, at, to)
		s.places(func(key *string, path string) { to(RefZone, key, path) }, at)
	}
	for i := range p.Sections {
		for k := range p.Sections[i].Tools {
			to(RefTool, &p.Sections[i].Tools[k], fmt.Sprintf("/sections/%d/tools/%d", i, k))
		}
	}
	for i := range p.Variants {
		for k := range p.Variants[i].Rules {
			r, at := &p.Variants[i].Rules[k], fmt.Sprintf("/variants/%d/rules/%d", i, k)
			for z := range r.Zones {
				to(RefZone, &r.Zones[z], fmt.Sprintf("%s/zones/%d", at, z))
			}
			to(RefStroke, &r.Stroke, at+"/stroke")
			to(RefProduct, &r.Product, at+"/product")
			switch r.Do {
			case "replace", "leave-out":
				to(RefStroke, &r.With, at+"/with")
			case "swap-product":
				to(RefProduct, &r.With, at+"/with")
			}
		}
	}
	for i := range p.Aftercare {
		to(RefProduct, &p.Aftercare[i].Product, fmt.Sprintf("/aftercare/%d/product", i))
	}
}

// places calls visit with every zone that a step names.
func (s *Step) places(visit func(key *string, path string), at string) {
	for i := range s.Path {
		visit(&s.Path[i].Zone, fmt.Sprintf("%s/path/%d/zone", at, i))
		visit(&s.Path[i].Landmark, fmt.Sprintf("%s/path/%d/landmark", at, i))
	}
	stroke.FingerPlaces(s.Fingers, visit, at+"/fingers")
	stroke.PartPlaces(s.Parts, visit, at+"/parts")
	if s.Last != nil {
		stroke.PartPlaces(s.Last.Parts, visit, at+"/last/parts")
	}
	s.Anchor.Places(visit, at+"/anchor")
	s.Further.Places(visit, at)
}

func alternateReferences(list []stroke.Alternate, at string, to func(kind RefKind, key *string, path string)) {
	for k := range list {
		a, here := &list[k], fmt.Sprintf("%s/alternates/%d", at, k)
		to(RefStroke, &a.Stroke, here+"/stroke")
		if a.Tool != nil {
			to(RefTool, &a.Tool.Key, here+"/tool/key")
		}
	}
}

// Renamed is the plan with strokes under other keys, wherever it names them; p is not changed.
func (p *Protocol) Renamed(strokes map[string]string) *Protocol {
	q := *p
	q.Steps, q.Variants = slices.Clone(p.Steps), slices.Clone(p.Variants)
	for i := range q.Steps {
		q.Steps[i].Alternates = slices.Clone(q.Steps[i].Alternates)
	}
	for i := range q.Variants {
		q.Variants[i].Rules = slices.Clone(q.Variants[i].Rules)
	}
	q.References(func(kind RefKind, key *string, _ string) {
		if as := strokes[*key]; kind == RefStroke && as != "" {
			*key = as
		}
	})
	return &q
}

// saidOfSteps are the references of a step that [validation.validateStep] has looked at already.
var saidOfSteps = map[string]bool{"stroke": true, "tool/key": true, "use/product": true}

// validateReferences reports every key that names nothing, with its path. The stroke of a step and what
// it uses are reported with the step.
func (v *validation) validateReferences() {
	if !v.references {
		return
	}
	known := map[string]bool{} // said already, as are those of saidOfSteps
	for i, variant := range v.p.Variants {
		for k := range variant.Rules {
			known[fmt.Sprintf("/variants/%d/rules/%d/stroke", i, k)] = true
			known[fmt.Sprintf("/variants/%d/rules/%d/with", i, k)] = variant.Rules[k].Do == "replace"
		}
	}
	v.p.References(func(kind RefKind, key *string, path string) {
		if step, ok := strings.CutPrefix(path, "/steps/"); ok {
			if _, field, _ := strings.Cut(step, "/"); saidOfSteps[field] {
				return
			}
		}
		if known[path] {
			return
		}
		switch kind {
		case RefStroke:
			if v.ctx.Strokes[*key] == nil {
				v.bad(path, words.TheLibraryHasNoStrokeStroke(*key))
			}
		case RefTool:
			if v.ctx.Tools[*key].Name == "" {
				v.bad(path, words.TheStudioHasNoToolTool(*key))
			}
		case RefProduct:
			if v.ctx.Products[*key] == nil {
				v.bad(path, words.TheShelfHasNoProductProduct(*key))
			}
		case RefZone:
			if _, ok := v.ctx.Zones[*key]; !ok && anatomy.IsOwn(*key) {
				v.bad(path, words.TheStudioHasNoZone(*key))
			}
		case RefStep:
			if v.p.Index(*key) < 0 {
				v.bad(path, words.ThereIsNoStepStep(*key))
			}
		}
	})
	for i, c := range v.p.Concerns {
		if ConcernOf(c) == nil {
			v.bad(fmt.Sprintf("/concerns/%d", i), words.ThereIsNoConcern(c))
		}
	}
	v.validateSkins()
}

// validateSkins reports skin types and states that do not exist.
func (v *validation) validateSkins() {
	check := func(list []string, at string) {
		for i, skin := range list {
			if !slices.Contains(Skins, skin) {
				v.bad(fmt.Sprintf("%s/%d", at, i), words.ThereIsNoSkin(skin, strings.Join(Skins, ", ")))
			}
		}
	}
	check(v.p.SkinTypes, "/skinTypes")
	check(v.p.Unsuited, "/unsuited")
	for i := range v.p.Variants {
		check(v.p.Variants[i].For, fmt.Sprintf("/variants/%d/for", i))
	}
	for i := range v.p.Steps {
		if u := v.p.Steps[i].Use; u != nil {
			check(u.For, fmt.Sprintf("/steps/%d/use/for", i))
		}
	}
}
