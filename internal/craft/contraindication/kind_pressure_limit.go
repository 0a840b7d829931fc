package contraindication

import "softpalm/words"

// pressureLimit allows no more than a pressure, in some zones or everywhere.
type pressureLimit struct{}

func (pressureLimit) headline() Headline { return OKWithAdjustments }

func (pressureLimit) canMatter(s *Scope, o *Outcome) bool {
	if o.FromAnswer || len(o.Zones) == 0 {
		return s.touchesAny(o.Pressure + 1)
	}
	return s.touchesZone(o.Zones, o.Pressure+1)
}

func (pressureLimit) limit(c *Constraints, o *Contraindication) {
	c.lower(
		&c.caps,
		capped{o.Outcome.Pressure, o.Rule},
		o.Places,
		func(now, was capped) bool { return now.pressure < was.pressure },
	)
}

func (pressureLimit) override(*Outcome) override { return allows }

func (pressureLimit) faults(*Outcome, *Rule, func(string, words.Sentence)) {}
