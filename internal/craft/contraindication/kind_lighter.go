package contraindication

import "softpalm/words"

// lighter is one level less pressure everywhere, as the client prefers.
type lighter struct{ preference }

func (lighter) limit(c *Constraints, o *Contraindication) { c.Lighter(1, nil, o.Rule) }

// preference is what the client's preferences share: they matter whatever is
// treated, and the practitioner can decide against them.
type preference struct{}

func (preference) headline() Headline                                   { return OKWithAdjustments }
func (preference) canMatter(*Scope, *Outcome) bool                      { return true }
func (preference) override(*Outcome) override                           { return allows }
func (preference) faults(*Outcome, *Rule, func(string, words.Sentence)) {}
