package evaluation

import "softpalm/internal/craft/protocol"

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
			e.add(Promise, Warning, CommonPractice, values{"concern": key, "zones": missing}, []Fix{WorkZone})
		}
	}
}

func (e *Evaluation) worksZone(zone string) bool {
	for i := range e.Steps {
		r := &e.Steps[i]
		if (r.Phase == "work" || r.Phase == "exercises" || r.Phase == "open" || r.Phase == "close" || r.Phase == "prepare") && r.OnZone(zone) {
			return true
		}
	}
	return false
}
