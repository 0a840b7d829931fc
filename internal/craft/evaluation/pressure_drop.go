package evaluation

import (
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// Lighter is a drop from one pressure level to another.
type Lighter struct {
	plain
	From int `json:"from"`
	To   int `json:"to"`
}

// announcements finds drops of two levels between neighbouring steps that the
// client is not warned of. Where somebody works on themselves there is nobody to tell, and what lies
// between two pieces of work (a look, a break, an exercise, resting hands, a new section) needs no
// word: nobody takes it for the same work done with less care (common practice).
func (e *Evaluation) announcements(p *protocol.Protocol) {
	if !p.OnClient() {
		return
	}
	prev, section := -1, ""
	for vi := range e.Occurrences {
		r := &e.Steps[e.Occurrences[vi].Step]
		if e.Occurrences[vi].Number > 1 || r.between() || r.Source.Section != section {
			prev, section = -1, r.Source.Section
		}
		if r.between() || e.Occurrences[vi].Number > 1 {
			continue
		}
		last := r.hardest()
		if prev >= 0 && prev-last >= 2 && !r.Source.Announce && r.Source.Departure == "" {
			e.add(PressureDrop, Note, CommonPractice, &Lighter{From: prev, To: last}, []Fix{AnnounceDrop}, r.ID)
		}
		prev = last
	}
}

// between reports whether a step is no work whose pressure is felt as more or less than before: it
// leaves the body, rests, looks, is done by the client, or has a pressure that was never stated.
func (r *Resolved) between() bool {
	switch {
	case len(r.Path) == 0, r.PressureUnsaid, r.Phase == "compare", r.Phase == "look-over", r.Intent == stroke.LookOver:
		return true
	}
	return r.Family == stroke.Exercise || r.Family == stroke.Rest || r.Family == stroke.Hygiene
}
