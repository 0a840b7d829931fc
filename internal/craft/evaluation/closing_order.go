package evaluation

import (
	"slices"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// Order is how many steps the opening has and how many of the closing there are, or the sweep home that
// the closing lacks.
type Order struct {
	plain
	Want  int    `json:"want,omitempty"`
	Have  int    `json:"have,omitempty"`
	Sweep string `json:"sweep,omitempty" enum:"chin-sweep,forehead-sweep,"`
}

// closingOrder compares the closing with what the method asks of it: the opening in reverse, or a sweep
// home from chin or forehead. A method that asks for none is not compared.
func (e *Evaluation) closingOrder(p *protocol.Protocol) {
	if p.Method.Closing == "" || !p.Method.Closes() || !p.OneFlow() {
		return
	}
	if p.Method.Closing != "reverse" {
		if !e.sweepsHome(p.Method.Closing) {
			e.add(ClosingOther, Note, MethodRule, &Order{Sweep: p.Method.Closing}, nil)
		}
		return
	}
	if !p.Method.Opens() {
		return
	}
	var opening, closing []string
	differs := []string{}
	for i := range e.Steps {
		r := &e.Steps[i]
		if r.Intent != stroke.Open {
			continue
		}
		if r.Phase == "close" {
			closing = append(closing, r.Stroke.Key)
			differs = append(differs, r.ID)
		} else if r.Phase == "open" {
			opening = append([]string{r.Stroke.Key}, opening...)
		}
	}
	if len(opening) == 0 || slices.Equal(opening, closing) {
		return
	}
	e.add(ClosingOther, Note, MethodRule, &Order{Want: len(opening), Have: len(closing)}, []Fix{ReverseOpen}, differs...)
}

// sweepsHome reports whether the closing has the sweep that a school closes with: from the chin, or from
// the forehead, to the end of the route, in one stroke or in several of which each takes on where the one
// before ended.
func (e *Evaluation) sweepsHome(from string) bool {
	starts := []string{"chin", "under-chin", "jawline", "lip-centre-lower", "under-jaw"}
	if from == "forehead-sweep" {
		starts = []string{"forehead-centre", "forehead", "hairline", "glabella"}
	}
	at := "" // where the sweep has come to
	for i := range e.Steps {
		r := &e.Steps[i]
		if r.Phase != "close" || r.Intent != stroke.Drain || len(r.Path) == 0 {
			continue
		}
		if !slices.Contains(starts, r.Path[0].Zone) && (at == "" || !r.OnZone(at)) {
			continue
		}
		if r.arrives() >= 0 {
			return true
		}
		at = r.Path[len(r.Path)-1].Zone
	}
	return false
}
