package evaluation

import (
	"reflect"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// Order is how many node groups the opening works and how many the closing does.
type Order struct {
	plain
	Want int `json:"want"`
	Have int `json:"have"`
}

// closingOrder compares the closing with the opening in reverse, where the
// method asks for that.
func (e *Evaluation) closingOrder(p *protocol.Protocol) {
	if p.Method.Closing != "reverse" || !p.Method.Closes() || !p.Method.Opens() {
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
	if len(opening) == 0 || reflect.DeepEqual(opening, closing) {
		return
	}
	e.add(ClosingOther, Note, MethodRule, &Order{Want: len(opening), Have: len(closing)}, []Fix{ReverseOpen}, differs...)
}
