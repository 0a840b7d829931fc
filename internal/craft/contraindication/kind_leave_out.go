package contraindication

import (
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/words"
)

// leaveOut keeps the hands off zones, and drainage out of the nodes that lie in them.
type leaveOut struct{}

func (leaveOut) headline() Headline { return OKWithAdjustments }

func (leaveOut) canMatter(s *Scope, o *Outcome) bool {
	if o.FromAnswer && len(o.Zones) == 0 {
		return true
	}
	return slices.ContainsFunc(o.places([]ZoneSide{{Side: "both"}}), func(pl ZoneSide) bool {
		id, ok := anatomy.Lookup(pl.Zone)
		return ok && (s.pressure[id.Index()] >= 0 || s.drained[id.Index()])
	})
}

func (leaveOut) limit(c *Constraints, o *Contraindication) {
	for _, pl := range o.Places {
		for _, p := range sides(pl) {
			if c.places[p.Side][p.Zone.Index()] == "" {
				c.places[p.Side][p.Zone.Index()] = o.Rule
				c.excluded = append(c.excluded, p)
			}
		}
	}
}

func (leaveOut) override(*Outcome) override { return refuses }

func (leaveOut) faults(o *Outcome, _ *Rule, bad func(at string, s words.Sentence)) {
	if !o.FromAnswer && len(o.Zones) == 0 {
		bad("/zones", words.ChooseTheZonesToAvoid())
	}
}
