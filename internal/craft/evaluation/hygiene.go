package evaluation

import (
	"math"
	"slices"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// ToolInUse is a tool, by name, and how many minutes it takes until it is ready.
type ToolInUse struct {
	plain
	Tool    string  `json:"tool"`
	Minutes float64 `json:"minutes,omitempty"`
}

// Touched is what the hands touched before.
type Touched struct {
	plain
	After HandHygiene `json:"after"`
}

// hygiene follows hands, gloves and tools through the visits.
func (e *Evaluation) hygiene(p *protocol.Protocol, ctx *protocol.Context) {
	cold, misted, coldStep := 0.0, false, ""
	hair := false // the hands come from the hair or the opening of the ear
	for vi := range e.Occurrences {
		v := &e.Occurrences[vi]
		r := &e.Steps[v.Step]
		if prod := ctx.ProductOf(r.Source.Use); prod != nil && prod.Form == slip.Mist {
			misted = true
		}
		if r.Tool != nil && ctx.Tools[r.Tool.Key].Cold() {
			cold += v.End - v.Start
			coldStep = r.ID
			if !misted && ctx.HasSkin("dehydrated") {
				e.add(ColdDry, Note, CommonPractice, &Nothing{}, []Fix{MistFirst}, r.ID)
			}
		}
		if p.OnClient() {
			e.mouthHygiene(v, r)
		}
		hair = e.hairToEyes(r, hair)
		if r.Tool == nil {
			continue
		}
		tool := ctx.Tools[r.Tool.Key]
		if tool.SingleUse && vi > 0 && e.Occurrences[vi-1].Tool != r.Tool.Key && e.usedBefore(vi, r.Tool.Key) &&
			r.Source.Departure == "" {
			e.add(PorousTwice, Warning, CommonPractice, &ToolInUse{Tool: r.ToolName}, []Fix{DropTool}, r.ID)
		}
	}
	for _, key := range e.Tools {
		if minutes := ctx.ReadyIn[key]; minutes > 0 {
			e.toolReady(key, minutes)
		}
	}
	if cold > ColdSeconds {
		e.add(
			ColdLong,
			Warning,
			CommonPractice,
			&TooLong{Minutes: math.Ceil(cold / 60), Most: ColdSeconds / 60},
			[]Fix{ShorterCold},
			coldStep,
		)
	}
}

// toolReady finds, once for a tool, the steps that want it before it is ready.
func (e *Evaluation) toolReady(key string, minutes float64) {
	var steps []string
	first, name := 0.0, ""
	for vi := range e.Occurrences {
		v := &e.Occurrences[vi]
		r := &e.Steps[v.Step]
		if v.Tool != key || v.Start >= minutes*60 || slices.Contains(steps, r.ID) {
			continue
		}
		if len(steps) == 0 {
			first, name = v.Start/60, r.ToolName
		}
		steps = append(steps, r.ID)
	}
	if len(steps) > 0 {
		e.add(
			ToolBusy,
			Warning,
			CommonPractice,
			&ToolInUse{Tool: name, Minutes: math.Ceil(minutes - first)},
			[]Fix{DropTool},
			steps...)
	}
}

func (e *Evaluation) usedBefore(vi int, tool string) bool {
	for k := range vi {
		if e.Occurrences[k].Tool == tool {
			return true
		}
	}
	return false
}

func (e *Evaluation) mouthHygiene(v *Occurrence, r *Resolved) {
	switch {
	case r.InMouth() && r.Source.Gloves == "none":
		e.add(NoGloves, Stopping, CommonPractice, &Nothing{}, []Fix{WearGloves}, r.ID)
	case r.InMouth() && v.Hands != CleanHands && v.Hands != MouthHands:
		e.add(NotWashed, Stopping, CommonPractice, &Touched{After: v.Hands}, []Fix{WashHands}, r.ID)
	case !r.InMouth() && v.Gloves && len(r.Path) > 0:
		e.add(GlovesKept, Stopping, CommonPractice, &Nothing{}, []Fix{WearGloves}, r.ID)
	}
}

// hairToEyes finds bare hands that come from the hair or the opening of the ear to the eyes, once until
// they are washed; it returns whether they still come from there. Palms that only cover the eyes do not
// touch them.
func (e *Evaluation) hairToEyes(r *Resolved, hair bool) bool {
	switch zone := r.eye(); {
	case r.Family == stroke.Hygiene:
		return false
	case r.Tool != nil || len(r.Path) == 0:
		return hair
	case hair && zone != "" && r.Family != stroke.Rest:
		e.add(HairToEyes, Warning, CommonPractice, &AtZone{zone}, []Fix{WashHands}, r.ID)
		return false
	}
	return hair || r.OnZone("scalp-side") || r.OnZone("crown") || r.OnZone("ear-opening")
}

// eye is the first place at the eye itself that the bare hand touches; brows are not.
func (r *Resolved) eye() string {
	for i := range r.Path {
		if zone := r.Path[i].Zone; EyeZone(zone) && zone != "brow" && zone != "brow-base" {
			return zone
		}
	}
	return ""
}
