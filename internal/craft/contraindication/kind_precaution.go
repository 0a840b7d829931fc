package contraindication

import "softpalm/words"

// precaution tells the practitioner what to do or ask; it does not change the plan.
type precaution struct{}

func (precaution) headline() Headline { return OKToTreat }

func (precaution) canMatter(s *Scope, o *Outcome) bool {
	return len(o.Zones) == 0 || s.touchesZone(o.Zones, 0)
}

func (precaution) limit(*Constraints, *Contraindication) {}

func (precaution) override(*Outcome) override { return ignores }

func (precaution) faults(*Outcome, *Rule, func(string, words.Sentence)) {}
