package contraindication

import (
	"slices"

	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/substance"
	"softpalm/words"
)

// exclude takes away stroke families, intents, kinds of tool, and products by form,
// by name or by what they contain.
type exclude struct{}

func (exclude) headline() Headline { return OKWithAdjustments }

func (exclude) canMatter(s *Scope, o *Outcome) bool {
	return anyOf(s.families, o.Families) || anyOf(s.intents, o.Intents) || anyOf(s.tools, o.Tools) || anyOf(s.forms, o.Forms) ||
		slices.ContainsFunc(o.Tags, func(t string) bool { return s.tags[substance.CanonicalTag(t)] }) ||
		slices.ContainsFunc(s.products, func(p *slip.Product) bool {
			return slices.Contains(o.Products, p.Key) || o.Allergy != nil && o.Allergy.In(p.Name, p.Ingredients, p.AllTags())
		})
}

func (exclude) limit(c *Constraints, o *Contraindication) {
	if len(o.Outcome.Families)+len(o.Outcome.Intents)+len(o.Outcome.Tools) > 0 {
		c.exclude(
			exclusion{families: o.Outcome.Families, intents: o.Outcome.Intents, tools: o.Outcome.Tools, rule: o.Rule},
			o.Places,
		)
	}
	// The first rule that takes something away stays its reason.
	first := func(of map[string]string, key string) {
		if of[key] == "" {
			of[key] = o.Rule
		}
	}
	for _, tag := range o.Outcome.Tags {
		first(c.tags, substance.CanonicalTag(tag))
	}
	for _, form := range o.Outcome.Forms {
		first(c.forms, form)
	}
	for _, product := range o.Outcome.Products {
		first(c.products, product)
	}
	if o.Outcome.Allergy != nil {
		c.allergies = append(c.allergies, *o)
	}
}

// Strokes and tools can be used after all, with a reason; what is on the skin of
// a client who reacts to it cannot.
func (exclude) override(o *Outcome) override {
	if len(o.Tags)+len(o.Products) == 0 && o.Allergy == nil {
		return allows
	}
	return refuses
}

func (exclude) faults(o *Outcome, _ *Rule, bad func(at string, s words.Sentence)) {
	if len(o.Families)+len(o.Intents)+len(o.Tools)+len(o.Tags)+len(o.Forms)+len(o.Products) == 0 {
		bad("", words.ChooseWhatNotToUse())
	}
}
