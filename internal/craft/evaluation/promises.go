package evaluation

import "softpalm/internal/craft/protocol"

// Unworked is a concern the protocol is listed for, and its zones that nothing works.
type Unworked struct {
	plain
	Concern string   `json:"concern"`
	Zones   []string `json:"zones"`
}

func (u *Unworked) apart() string { return u.Concern }

// promises looks for zones of the promised concerns that no step works.
func (e *Evaluation) promises(p *protocol.Protocol) {
	for _, key := range p.Concerns {
		c := protocol.ConcernOf(key)
		if c == nil {
			continue
		}
		var missing []string
		for _, zone := range c.Zones {
			if !e.worksZone(zone) {
				missing = append(missing, zone)
			}
		}
		if len(missing) > 0 {
			e.add(Promise, Warning, CommonPractice, &Unworked{Concern: key, Zones: missing}, []Fix{WorkZone})
		}
	}
}

func (e *Evaluation) worksZone(zone string) bool {
	for i := range e.Steps {
		r := &e.Steps[i]
		if (r.Phase == "work" || r.Phase == "exercises" || r.Phase == "open" || r.Phase == "close" || r.Phase == "prepare") &&
			r.OnZone(zone) {
			return true
		}
	}
	return false
}
