package protocol

import (
	"fmt"
	"slices"
	"strings"

	"softpalm/internal/craft/stroke"
	"softpalm/internal/problem"
	"softpalm/words"
)

// Validate reports every structural problem of the protocol: what must hold
// before it can be evaluated at all. The paths are JSON pointers below at.
func (p *Protocol) Validate(ctx *Context, at string) []problem.Fault {
	return p.validate(ctx, at, true)
}

// ValidateStructure is [Protocol.Validate] without asking whether the strokes,
// tools and products are still there: a draft stays open when one was removed.
func (p *Protocol) ValidateStructure(ctx *Context, at string) []problem.Fault {
	return p.validate(ctx, at, false)
}

func (p *Protocol) validate(ctx *Context, at string, references bool) []problem.Fault {
	v := &validation{
		p:          p,
		ctx:        ctx,
		at:         at,
		references: references,
		rounds:     map[string]int{},
		sections:   map[string]bool{},
		ids:        map[string]bool{},
	}
	if p.Minutes.HandsOn > p.Minutes.Treatment {
		v.bad("/minutes/handsOn", words.HandsOnTimeHandsOnMinLongerThan(p.Minutes.HandsOn, p.Minutes.Treatment))
	}
	if p.DefaultDose.Kind == stroke.Inherited {
		v.bad("/defaultDose", words.ProtocolsDefaultRepetitionsHaveNothingInheritFrom())
	} else {
		v.add(p.DefaultDose.Validate(at + "/defaultDose"))
	}
	v.validateRounds()
	v.validateSections()
	v.validateReferences()
	for i, c := range p.Cues {
		if c.Every != 0 && c.Every < 15 {
			v.bad(fmt.Sprintf("/cues/%d/every", i), words.RecurringCueComesEvery15SecondsAt())
		}
	}
	v.add(p.validateVariants(ctx, at))
	for i := range p.Steps {
		v.validateStep(i)
	}
	return v.faults
}

// validation gathers the faults of one protocol.
type validation struct {
	p          *Protocol
	ctx        *Context
	at         string
	references bool           // strokes, tools and products must exist too
	rounds     map[string]int // the last step seen of each round; notWorked before the first
	sections   map[string]bool
	ids        map[string]bool // ids of the steps seen
	faults     []problem.Fault
}

// notWorked marks a round of which no step was seen yet.
const notWorked = -2

func (v *validation) bad(path string, s words.Sentence) {
	v.faults = append(v.faults, problem.Fault{Path: v.at + path, Sentence: s})
}

func (v *validation) add(faults []problem.Fault) { v.faults = append(v.faults, faults...) }

func (v *validation) validateRounds() {
	for i, r := range v.p.Rounds {
		if _, twice := v.rounds[r.ID]; twice {
			v.bad(fmt.Sprintf("/rounds/%d/id", i), words.TheRoundIdAppearsTwice(r.ID))
		}
		if r.Times < 1 || r.Times > 20 {
			v.bad(fmt.Sprintf("/rounds/%d/times", i), words.RoundWorked120Times())
		}
		if r.Min > r.Times || r.Max != 0 && r.Max < r.Times || r.Max > 20 || r.Min < 0 {
			v.bad(fmt.Sprintf("/rounds/%d/min", i), words.LeastMostRoundsMustIncludePlannedTimes(r.Times))
		}
		v.rounds[r.ID] = notWorked
	}
}

func (v *validation) validateSections() {
	for i, sec := range v.p.Sections {
		if sec.ID == "" || v.sections[sec.ID] {
			v.bad(fmt.Sprintf("/sections/%d/id", i), words.EverySectionNeedsItsOwnId())
		}
		v.sections[sec.ID] = true
		if d := sec.DefaultDose; d != nil && d.Kind == stroke.Inherited {
			v.bad(fmt.Sprintf("/sections/%d/defaultDose", i), words.SectionsDefaultRepetitionsHaveNothingInheritFrom())
		} else if d != nil {
			v.add(d.Validate(fmt.Sprintf("%s/sections/%d/defaultDose", v.at, i)))
		}
	}
}

func (v *validation) validateStep(i int) {
	s, here := &v.p.Steps[i], fmt.Sprintf("/steps/%d", i)
	if s.ID == "" || v.ids[s.ID] {
		v.bad(here+"/id", words.EveryStepNeedsItsOwnIdId(s.ID))
	}
	v.ids[s.ID] = true
	st := v.ctx.Strokes[s.Stroke]
	if st == nil && !v.references {
		st = v.ctx.StrokeOf(s.Stroke)
	}
	if st == nil {
		v.bad(here+"/stroke", words.TheLibraryHasNoStrokeStroke(s.Stroke))
		return
	}
	if !knownPhase(s.Phase) {
		v.bad(here+"/phase", words.ThereIsNoPhasePhase(s.Phase))
	}
	v.validateTouch(s, here)
	v.validateTiming(s, st, here)
	v.validateThings(s, here)
	if s.Round != "" {
		last, ok := v.rounds[s.Round]
		switch {
		case !ok:
			v.bad(here+"/round", words.ThereIsNoRoundRound(s.Round))
		case last != notWorked && last != i-1:
			v.bad(here+"/round", words.StepsRoundMustFollowEachOther())
		}
		v.rounds[s.Round] = i
	}
}

// validateTouch checks where and how hard a step touches.
func (v *validation) validateTouch(s *Step, here string) {
	v.add(s.Further.Validate(v.at + here))
	v.add(stroke.ValidateAlternates(s.Alternates, s.Stroke, v.at+here))
	for j, c := range s.Clears {
		if !slices.Contains(Clearable, c) {
			v.bad(fmt.Sprintf("%s/clears/%d", here, j), words.NothingToClearCalled(c, strings.Join(Clearable, ", ")))
		}
	}
	for j, pt := range s.Path {
		if pt.Landmark != "" {
			v.add(stroke.ValidateZone(pt.Landmark, fmt.Sprintf("%s%s/path/%d/landmark", v.at, here, j)))
		}
		v.add(stroke.ValidatePlace(pt.Zone, fmt.Sprintf("%s%s/path/%d/zone", v.at, here, j)))
		if pt.Pressure != nil && (*pt.Pressure < 0 || *pt.Pressure > 5) {
			v.bad(fmt.Sprintf("%s/path/%d/pressure", here, j), words.PressureGoesFrom0To5())
		}
	}
	if s.Pressure != nil && (*s.Pressure < 0 || *s.Pressure > 5) {
		v.bad(here+"/pressure", words.PressureGoesFrom0To5())
	}
	v.add(s.Anchor.Validate(v.at + here + "/anchor"))
	for j, f := range s.Fingers {
		if f.Zone != "" {
			v.add(stroke.ValidateZone(f.Zone, fmt.Sprintf("%s%s/fingers/%d/zone", v.at, here, j)))
		}
		v.add(stroke.ValidateHand(f.Part, fmt.Sprintf("%s%s/fingers/%d/part", v.at, here, j)))
	}
	v.add(stroke.ValidateGaps(s.Gaps, v.at+here+"/gaps"))
	v.add(stroke.ValidateHand(s.Hand, v.at+here+"/hand"))
}

// validateTiming checks the repetitions of a step and the parts of one repetition.
func (v *validation) validateTiming(s *Step, st *stroke.Stroke, here string) {
	d := st.Dose
	if s.Dose != nil {
		v.add(s.Dose.Validate(v.at + here + "/dose"))
		d = *s.Dose
	}
	if s.Section != "" && !v.sections[s.Section] {
		v.bad(here+"/section", words.ThereIsNoSectionSection(s.Section))
	}
	if d.Kind == stroke.Inherited {
		d = *v.p.InheritedDose(s.Section)
	}
	if d.CountsReps() && stroke.RepSeconds(s.Parts)+stroke.RepSeconds(st.Parts) <= 0 {
		v.bad(here+"/parts", words.CountedRepetitionsNeedSecondsOneRepetition())
	}
	v.add(stroke.ValidateParts(s.Parts, v.at+here+"/parts"))
	if s.Last != nil {
		v.add(stroke.ValidateParts(s.Last.Parts, v.at+here+"/last/parts"))
	}
}

// validateThings checks the tool and the product of a step.
func (v *validation) validateThings(s *Step, here string) {
	if v.references && s.Tool != nil {
		switch tool := v.ctx.Tools[s.Tool.Key]; {
		case tool.Name == "":
			v.bad(here+"/tool/key", words.TheStudioHasNoToolTool(s.Tool.Key))
		case s.Tool.Part != "" && len(tool.Parts) > 0 && !slices.Contains(tool.Parts, s.Tool.Part):
			v.bad(here+"/tool/part", words.TheToolHasNoPart(tool.Name, s.Tool.Part, strings.Join(tool.Parts, ", ")))
		}
	}
	if s.Use == nil {
		return
	}
	prod := v.ctx.ProductOf(s.Use)
	switch {
	case prod == nil && v.references:
		v.bad(here+"/use/product", words.TheShelfHasNoProductProduct(s.Use.Product))
	case prod != nil && !s.Use.Amount.Measured(prod):
		v.bad(here+"/use/amount/measure", words.ProdHasNotBeenMeasuredInMeasure(prod.Name, s.Use.Amount.Measure))
	}
}

func knownPhase(p Phase) bool { return slices.Contains(Phases, p) }
