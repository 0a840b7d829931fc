package adjusting

import (
	"slices"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
)

// PractitionerState is what practitioners say of themselves before a treatment (handbook,
// chapter 5, the practitioner's side; common practice). The zero value has
// nothing to say: nails are short, no glove allergy, nothing contagious.
type PractitionerState struct {
	// LongNails today: strokes are done with knuckles where they can be.
	LongNails bool `json:"longNails,omitempty"`
	// GloveAllergy is an allergy to the studio's gloves.
	GloveAllergy bool `json:"gloveAllergy,omitempty"`
	// Unwell is a cold sore or infection of their own: they do not treat.
	Unwell bool `json:"unwell,omitempty"`
}

// PractitionerNotes are the things that practitioners see to on their own side.
func (h PractitionerState) PractitionerNotes(e *evaluation.Evaluation) []string {
	if h.GloveAllergy && slices.ContainsFunc(e.Occurrences, func(v evaluation.Occurrence) bool { return v.Gloves }) {
		return []string{"Use gloves of a material you tolerate. Without them, no work inside the mouth."}
	}
	return nil
}

// nails does a step with what the stroke names for long nails. It returns false
// where nails would scratch and there is no such way.
func (t *adjuster) nails(i int, r *evaluation.Resolved) bool {
	if !r.Scratches() {
		return true
	}
	s := &t.q.Steps[i]
	for _, a := range t.ctx.Strokes[s.Stroke].Alternates {
		if a.When != contraindication.Nails || a.LeaveOut {
			continue
		}
		was := *s
		to := a.Hand
		switch {
		case a.Hand != "":
			s.Hand, s.Tool = a.Hand, nil
		case a.Tool != nil && t.ctx.Tools[a.Tool.Key].Name != "":
			s.Tool = a.Tool
		case t.ctx.Strokes[a.Stroke] != nil:
			*s, to = protocol.SubstituteStroke(s, t.ctx.Strokes[a.Stroke]), t.ctx.Strokes[a.Stroke].Name
		default:
			continue
		}
		now := evaluation.Resolve(t.q, i, t.ctx)
		if t.bars(now) != "" || now.Scratches() {
			*s = was
			continue
		}
		did, from := OtherHand, r.Hand
		if a.Hand == "" && a.Tool == nil {
			did, from = Swapped, r.Name
		}
		t.note(s.ID, r.Name, did, contraindication.Nails, Adjustment{From: from, To: to})
		return true
	}
	return false
}
