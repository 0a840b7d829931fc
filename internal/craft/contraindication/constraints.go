package contraindication

import (
	"slices"
	"sort"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/substance"
)

// Constraints is everything the outcomes ask of a plan, merged: zones together,
// the lowest cap, every exclusion, each with the rule it comes from. The zero
// value asks nothing.
type Constraints struct {
	places    [3][anatomy.Slots]string
	excluded  []anatomy.ZoneSide
	caps      [anatomy.Slots]capped
	lighter   [anatomy.Slots]capped
	exclusion []exclusion
	tags      map[string]string
	forms     map[string]string
	allergies []Contraindication
	stock     map[string]float64 // mL to be had of each product; nil where it is not known
	waived    map[string]*Constraints
	noSkin    map[string]bool   // steps at which skin variants are left out
	firmer    string            // the rule that wishes a firmer hand
	products  map[string]string // excluded products
	instead   map[string]string // the product to take in place of one
	titles    map[string]Contraindication
	refit     string // the rule for which the plan is fitted whatever else happens
	reapply   string // the rule for which product goes on again where slip is thin
}

type capped struct {
	pressure int
	rule     string
}

// exclusion takes strokes away, in some zones where zones are named.
type exclusion struct {
	families []string
	intents  []string
	tools    []string
	strokes  []string
	zones    *[anatomy.Slots]bool
	rule     string
}

// Merge makes constraints of the outcomes of a result.
func Merge(outcomes []Contraindication) *Constraints {
	c := &Constraints{
		tags:     map[string]string{},
		forms:    map[string]string{},
		products: map[string]string{},
		instead:  map[string]string{},
		titles:   map[string]Contraindication{},
	}
	c.Explain(Nails, "Your long nails", "Long nails scratch where finger pads press. Use your knuckles today.")
	for i := range outcomes {
		o := &outcomes[i]
		if _, seen := c.titles[o.Rule]; !seen {
			c.titles[o.Rule] = *o
		}
		o.Kind.effect().limit(c, o)
	}
	sort.Slice(c.excluded, func(i, j int) bool {
		a, b := c.excluded[i], c.excluded[j]
		if a.Zone != b.Zone {
			return a.Zone.Index() < b.Zone.Index()
		}
		return a.Side < b.Side
	})
	return c
}

// lower puts a value on the zones of places, everywhere where there is none, if
// it goes further than what is there.
func (c *Constraints) lower(on *[anatomy.Slots]capped, now capped, places []ZoneSide, further func(now, was capped) bool) {
	put := func(at int) {
		if on[at].rule == "" || further(now, on[at]) {
			on[at] = now
		}
	}
	if len(places) == 0 {
		for at := range on {
			put(at)
		}
	}
	for _, pl := range places {
		if id, ok := anatomy.Lookup(pl.Zone); ok {
			put(id.Index())
		}
	}
}

func (c *Constraints) exclude(x exclusion, places []ZoneSide) {
	if len(places) > 0 {
		x.zones = new([anatomy.Slots]bool)
		for _, pl := range places {
			if id, ok := anatomy.Lookup(pl.Zone); ok {
				x.zones[id.Index()] = true
			}
		}
	}
	c.exclusion = append(c.exclusion, x)
}

// StrokeRule returns the rule that excludes a step worked with a kind of tool ("" by
// hand), by its family, intent, stroke or tool; "" where none does.
func (c *Constraints) StrokeRule(r *evaluation.Resolved, kind string) string {
	for i := range c.exclusion {
		x := &c.exclusion[i]
		if x.familyOf(r) == "" && !slices.Contains(x.intents, string(r.Intent)) &&
			(kind == "" || !slices.Contains(x.tools, kind)) &&
			!slices.Contains(x.strokes, r.StrokeKey) {
			continue
		}
		if x.zones == nil || slices.ContainsFunc(r.Path, func(at evaluation.Stop) bool { return x.zones[at.ZoneID().Index()] }) {
			return x.rule
		}
	}
	return ""
}

// familyOf is the first family of a step that is excluded; "" for none.
func (x *exclusion) familyOf(r *evaluation.Resolved) string {
	if slices.Contains(x.families, string(r.Family)) {
		return string(r.Family)
	}
	for _, f := range r.Further.AlsoFamilies {
		if slices.Contains(x.families, string(f)) {
			return string(f)
		}
	}
	return ""
}

// NamesStroke reports whether a rule excludes a stroke by its own key.
func (c *Constraints) NamesStroke(rule, key string) bool {
	return slices.ContainsFunc(c.exclusion, func(x exclusion) bool { return x.rule == rule && slices.Contains(x.strokes, key) })
}

// Bite is what of a step a rule takes away: a stroke family, an intent, a kind of tool, and
// the place where the rule is for some places only.
type Bite struct{ What, Zone string }

// StrokeBite says what of a step a rule excludes that [Constraints.StrokeRule] gave.
func (c *Constraints) StrokeBite(rule string, r *evaluation.Resolved, kind string) Bite {
	for i := range c.exclusion {
		x := &c.exclusion[i]
		if x.rule != rule {
			continue
		}
		var b Bite
		switch {
		case x.familyOf(r) != "":
			b.What = x.familyOf(r)
		case kind != "" && slices.Contains(x.tools, kind):
			b.What = kind
		case slices.Contains(x.intents, string(r.Intent)):
			b.What = string(r.Intent)
		case !slices.Contains(x.strokes, r.StrokeKey):
			continue
		}
		if x.zones == nil {
			return b
		}
		for k := range r.Path {
			if x.zones[r.Path[k].ZoneID().Index()] {
				b.Zone = r.Path[k].Zone
				return b
			}
		}
	}
	return Bite{}
}

// ProductBite says what of a product a rule excludes that [Constraints.ProductRule] gave: its
// form, a tag or what the client is allergic to.
func (c *Constraints) ProductBite(rule string, p *slip.Product) string {
	if c.forms[string(p.Form)] == rule {
		return string(p.Form)
	}
	for _, tag := range p.AllTags() {
		if c.tags[tag] == rule {
			return tag
		}
	}
	for i := range c.allergies {
		if c.allergies[i].Rule == rule {
			return c.allergies[i].Outcome.Allergy.Name
		}
	}
	return ""
}

// LeaveSkinOut leaves out at one step what variants ask for the client's skin.
func (c *Constraints) LeaveSkinOut(step string) {
	if c.noSkin == nil {
		c.noSkin = map[string]bool{}
	}
	c.noSkin[step] = true
}

// SkinLeftOut reports whether variants are left out at a step.
func (c *Constraints) SkinLeftOut(step string) bool { return c.noSkin[step] }

// RuleAt returns the rule that leaves a zone out on a side; "" where none does.
func (c *Constraints) RuleAt(side anatomy.Side, zone anatomy.ID) string {
	return c.places[side][zone.Index()]
}

// For returns the constraints that count for one step alone; nil where those of
// the whole plan do.
func (c *Constraints) For(step string) *Constraints { return c.waived[step] }

// FirmerRule, RefitRule and ReapplyRule name the rule that asks for a firmer hand,
// for fitting to the time, or for product before slip gets thin; "" where none
// does.
func (c *Constraints) FirmerRule() string  { return c.firmer }
func (c *Constraints) RefitRule() string   { return c.refit }
func (c *Constraints) ReapplyRule() string { return c.reapply }

// Explained returns the outcome that gives a rule its title and reason.
func (c *Constraints) Explained(rule string) (Contraindication, bool) {
	o, ok := c.titles[rule]
	return o, ok
}

// Lasts reports whether the shelf holds so much of a product, as far as that is
// known.
func (c *Constraints) Lasts(product string, mL float64) bool {
	return c.stock == nil || c.stock[product] >= mL
}

// Preferred is the product asked for in the place of one that may not be used.
func (c *Constraints) Preferred(of string) string { return c.instead[of] }

// ProductRule returns the rule that a product may not be used by, "" where there
// is none.
func (c *Constraints) ProductRule(p *slip.Product) string {
	rule, _ := c.ProductBar(p)
	return rule
}

// ProductBar returns the rule that a product may not be used by, "" where there is none, and what of the
// product it is about: what the client is allergic to, a tag, the form or the product's own name.
func (c *Constraints) ProductBar(p *slip.Product) (rule, about string) {
	if p == nil {
		return "", ""
	}
	if rule := c.products[p.Key]; rule != "" {
		return rule, p.Name
	}
	if rule := c.forms[string(p.Form)]; rule != "" {
		return rule, strings.ReplaceAll(string(p.Form), "-", " ")
	}
	if len(c.tags)+len(c.allergies) == 0 {
		return "", ""
	}
	carried := p.AllTags()
	for _, tag := range carried {
		if rule := c.tags[tag]; rule != "" {
			return rule, strings.ReplaceAll(tag, "-", " ")
		}
	}
	for i := range c.allergies {
		if a := c.allergies[i].Outcome.Allergy; a.In(p.Name, p.Ingredients, carried) {
			return c.allergies[i].Rule, a.Name
		}
	}
	return "", ""
}

// OnShelf says how many mL there are of each product, so that none takes
// another's place that would not last; a product that is not named is not there.
func (c *Constraints) OnShelf(mL map[string]float64) { c.stock = mL }

// Prefer asks for a product in the place of one that may not be used.
func (c *Constraints) Prefer(of, take string) { c.instead[of] = take }

// Waive makes other constraints count for one step. They must leave out the same
// places.
func (c *Constraints) Waive(step string, without *Constraints) {
	if c.waived == nil {
		c.waived = map[string]*Constraints{}
	}
	without.stock, without.instead = c.stock, c.instead
	c.waived[step] = without
}

// Explain names a rule of the caller's own, for the reasons that changes give.
func (c *Constraints) Explain(rule, title, why string) {
	c.titles[rule] = Contraindication{Rule: rule, Title: title, Why: why}
}

// Refit asks for the plan to be fitted to its slot even where no step changes.
func (c *Constraints) Refit(rule string) { c.refit = rule }

// Reapply asks for product to go on again where slip gets too thin, also where
// it did before.
func (c *Constraints) Reapply(rule string) { c.reapply = rule }

// Lighter asks for a pressure some levels lower in the zones, everywhere where
// none are named.
func (c *Constraints) Lighter(levels int, zones []string, rule string) {
	c.lower(&c.lighter, capped{levels, rule}, named(zones), func(now, was capped) bool { return now.pressure > was.pressure })
}

// Cap asks for a pressure of at most so much in the zones.
func (c *Constraints) Cap(pressure int, zones []string, rule string) {
	c.lower(&c.caps, capped{pressure, rule}, named(zones), func(now, was capped) bool { return now.pressure < was.pressure })
}

// ExcludeStrokes takes strokes away by family, kind of tool or key, in the zones.
func (c *Constraints) ExcludeStrokes(families, tools, strokes, zones []string, rule string) {
	c.exclude(exclusion{families: families, tools: tools, strokes: strokes, rule: rule}, named(zones))
}

// ExcludeProduct takes a product away, or all with a tag; the one named instead
// is taken where it can be. A rule that took it away before stays the reason.
func (c *Constraints) ExcludeProduct(product, tag, instead, rule string) {
	if tag = substance.CanonicalTag(tag); tag != "" && c.tags[tag] == "" {
		c.tags[tag] = rule
	}
	if product != "" && c.products[product] == "" {
		c.products[product] = rule
	}
	if product != "" && c.instead[product] == "" {
		c.instead[product] = instead
	}
}

func named(zones []string) []ZoneSide {
	out := make([]ZoneSide, len(zones))
	for i, z := range zones {
		out[i].Zone = z
	}
	return out
}

// Excluded lists the places that may not be worked, in a fixed order. It is
// shared: do not change it.
func (c *Constraints) Excluded() []anatomy.ZoneSide { return c.excluded }

// Limit returns the pressure allowed on a zone where a stroke asks for wanted,
// and the rule that lowers it; "" where nothing does.
func (c *Constraints) Limit(id anatomy.ID, wanted int) (int, string) {
	rule := ""
	if l := c.lighter[id.Index()]; l.rule != "" && wanted > 1 { // a feather stays a feather
		wanted, rule = max(wanted-l.pressure, 1), l.rule
	}
	if at := c.caps[id.Index()]; at.rule != "" && wanted > at.pressure {
		wanted, rule = at.pressure, at.rule
	}
	return wanted, rule
}

// Nails is the rule under which a plan is changed for the practitioner's nails.
const Nails = "long-nails"
