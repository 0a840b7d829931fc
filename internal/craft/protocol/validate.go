package protocol

import (
	"fmt"
	"slices"

	"softpalm/internal/craft/stroke"
	"softpalm/internal/problem"
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
	var ps []problem.Fault
	bad := func(path, format string, a ...any) {
		ps = append(ps, problem.Fault{Path: at + path, Message: fmt.Sprintf(format, a...)})
	}
	if p.Minutes.HandsOn > p.Minutes.Treatment {
		bad("/minutes/handsOn", "Hands-on time (%d min) is longer than the treatment time (%d min).", p.Minutes.HandsOn, p.Minutes.Treatment)
	}
	if p.DefaultDose.Kind == stroke.Inherited {
		bad("/defaultDose", "The protocol's default repetitions have nothing to inherit from.")
	} else {
		ps = append(ps, p.DefaultDose.Validate(at+"/defaultDose")...)
	}
	rounds := map[string]int{}
	for i, r := range p.Rounds {
		if _, twice := rounds[r.ID]; twice {
			bad(fmt.Sprintf("/rounds/%d/id", i), "The round %q appears twice.", r.ID)
		}
		if r.Times < 1 || r.Times > 20 {
			bad(fmt.Sprintf("/rounds/%d/times", i), "A round is worked 1 to 20 times.")
		}
		if r.Min > r.Times || r.Max != 0 && r.Max < r.Times || r.Max > 20 || r.Min < 0 {
			bad(fmt.Sprintf("/rounds/%d/min", i), "The least and most rounds must include the planned %d.", r.Times)
		}
		rounds[r.ID] = -2
	}
	sections := map[string]bool{}
	for i, sec := range p.Sections {
		if sec.ID == "" || sections[sec.ID] {
			bad(fmt.Sprintf("/sections/%d/id", i), "Every section needs its own id.")
		}
		sections[sec.ID] = true
		if d := sec.DefaultDose; d != nil && d.Kind == stroke.Inherited {
			bad(fmt.Sprintf("/sections/%d/defaultDose", i), "A section's default repetitions have nothing to inherit from.")
		} else if d != nil {
			ps = append(ps, d.Validate(fmt.Sprintf("%s/sections/%d/defaultDose", at, i))...)
		}
	}
	for i, c := range p.Cues {
		if c.Every < 15 {
			bad(fmt.Sprintf("/cues/%d/every", i), "A recurring cue comes every 15 seconds at most.")
		}
	}
	ps = append(ps, p.validateVariants(ctx, at)...)
	ids := map[string]bool{}
	for i := range p.Steps {
		s := &p.Steps[i]
		here := fmt.Sprintf("/steps/%d", i)
		if s.ID == "" || ids[s.ID] {
			bad(here+"/id", "Every step needs its own id; %q cannot be used.", s.ID)
		}
		ids[s.ID] = true
		st := ctx.Strokes[s.Stroke]
		if st == nil && !references {
			st = ctx.StrokeOf(s.Stroke)
		}
		if st == nil {
			bad(here+"/stroke", "The library has no stroke %q.", s.Stroke)
			continue
		}
		if !knownPhase(s.Phase) {
			bad(here+"/phase", "There is no phase %q.", s.Phase)
		}
		for j, pt := range s.Path {
			ps = append(ps, stroke.ValidateZone(pt.Zone, fmt.Sprintf("%s%s/path/%d/zone", at, here, j))...)
			if pt.Pressure != nil && (*pt.Pressure < 0 || *pt.Pressure > 5) {
				bad(fmt.Sprintf("%s/path/%d/pressure", here, j), "Pressure goes from 0 to 5.")
			}
		}
		if s.Pressure != nil && (*s.Pressure < 0 || *s.Pressure > 5) {
			bad(here+"/pressure", "Pressure goes from 0 to 5.")
		}
		if s.Dose != nil {
			ps = append(ps, s.Dose.Validate(at+here+"/dose")...)
		}
		d := st.Dose
		if s.Dose != nil {
			d = *s.Dose
		}
		if s.Section != "" && !sections[s.Section] {
			bad(here+"/section", "There is no section %q.", s.Section)
		}
		if d.Kind == stroke.Inherited {
			d = *p.InheritedDose(s.Section)
		}
		if d.CountsReps() && stroke.RepSeconds(s.Parts)+stroke.RepSeconds(st.Parts) <= 0 {
			bad(here+"/parts", "Counted repetitions need the seconds of one repetition.")
		}
		ps = append(ps, s.Anchor.Validate(at+here+"/anchor")...)
		ps = append(ps, stroke.ValidateParts(s.Parts, at+here+"/parts")...)
		if s.Last != nil {
			ps = append(ps, stroke.ValidateParts(s.Last.Parts, at+here+"/last/parts")...)
		}
		for j, f := range s.Fingers {
			if f.Zone != "" {
				ps = append(ps, stroke.ValidateZone(f.Zone, fmt.Sprintf("%s%s/fingers/%d/zone", at, here, j))...)
			}
		}
		ps = append(ps, stroke.ValidateGaps(s.Gaps, at+here+"/gaps")...)
		if s.Hand != "" && !slices.Contains(stroke.HandParts, s.Hand) {
			bad(here+"/hand", "There is no hand part %q.", s.Hand)
		}
		if references && s.Tool != nil && ctx.Tools[s.Tool.Key].Name == "" {
			bad(here+"/tool/key", "The studio has no tool %q.", s.Tool.Key)
		}
		if s.Use != nil {
			prod := ctx.ProductOf(s.Use)
			switch {
			case prod == nil && references:
				bad(here+"/use/product", "The shelf has no product %q.", s.Use.Product)
			case prod != nil && !s.Use.Amount.Measured(prod):
				bad(here+"/use/amount/measure", "%s has not been measured in %s. Weigh it first, or dose it in mL.", prod.Name, s.Use.Amount.Measure)
			}
		}
		if s.Round != "" {
			last, ok := rounds[s.Round]
			switch {
			case !ok:
				bad(here+"/round", "There is no round %q.", s.Round)
			case last != -2 && last != i-1:
				bad(here+"/round", "The steps of a round must follow each other.")
			}
			rounds[s.Round] = i
		}
	}
	return ps
}

func knownPhase(p Phase) bool { return slices.Contains(Phases, p) }
