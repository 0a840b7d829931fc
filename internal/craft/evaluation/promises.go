package evaluation

import (
	"slices"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// Unworked is a concern the protocol is listed for, and its zones that nothing works.
type Unworked struct {
	plain
	Concern string   `json:"concern"`
	Zones   []string `json:"zones"`
}

func (u *Unworked) apart() string { return u.Concern }

// promises looks for promised concerns of whose zones no step works any: any of the group will do, as
// schools differ on which. An excerpt promises for the whole that it is taken from.
func (e *Evaluation) promises(p *protocol.Protocol) {
	if p.Excerpt {
		return
	}
	for _, key := range p.Concerns {
		c := protocol.ConcernOf(key)
		if c == nil || len(c.Zones) == 0 || e.worksAny(slices.Concat(c.Zones, c.Also)) {
			continue
		}
		e.add(Promise, Warning, CommonPractice, &Unworked{Concern: key, Zones: c.Zones}, []Fix{WorkZone})
	}
}

// worksAny reports whether some step works one of the zones: along its path, or under single fingers and
// the other hand.
func (e *Evaluation) worksAny(zones []string) bool {
	for i := range e.Steps {
		r := &e.Steps[i]
		switch r.Phase {
		case "work", "exercises", "open", "close", "prepare":
		default:
			continue
		}
		if r.Intent == stroke.Spread || r.Intent == stroke.Cleanse {
			continue // to spread product there is not to work there
		}
		if r.unsaid("path") {
			return true // a place that was never stated may be the one
		}
		for _, zone := range r.Further.ActsOn {
			if contains(zones, zone) {
				return true
			}
		}
		for zone := range r.Presses {
			if contains(zones, zone) {
				return true
			}
		}
	}
	return false
}
