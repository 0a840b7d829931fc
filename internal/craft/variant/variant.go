// Package variant changes a protocol by rule for a skin type or state, so that
// one base serves every skin and an edit of the base reaches every variant.
//
// A variant's rules become the same constraints that a screening gives, so that
// paths, alternates, opening and way home are kept by the same means; see
// [screening.Tailor]. Nothing of a variant is stored: it is worked out anew from
// the base each time.
package variant

import (
	"math"

	"softpalm/internal/craft/film"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/screening"
	"softpalm/internal/craft/stroke"
)

// Standard lists the variants that ship with the application (handbook, variants
// by skin type; common practice). A protocol's own variant of the same key takes
// its place.
func Standard() []protocol.Variant {
	onCheeks := []string{"cheekbone", "under-cheekbone", "mid-cheek", "lower-cheek", "nasolabial", "nose-bridge", "nose-side"}
	families := func(f ...stroke.Family) []stroke.Family { return f }
	return []protocol.Variant{
		{Key: "sensitive", Name: "Sensitive", For: []string{"sensitive"}, Rules: []protocol.VariantRule{
			{Do: "lighter", By: 1, Why: "One level lighter throughout."},
			{Do: "leave-out", Families: families(stroke.Friction, stroke.Tapotement), Why: "No friction and no tapping on sensitive skin."},
			{Do: "swap-product", Tags: []string{"fragrance", "essential-oil"}, Why: "Fragrance-free."},
		}},
		{Key: "oily", Name: "Oily", For: []string{"oily"}, Rules: []protocol.VariantRule{
			{Do: "swap-product", Tags: []string{"clogging"}, Why: "A lighter product."},
			{Do: "amount", By: 85, Why: "Fewer drops: slip lasts longer on oily skin."},
		}},
		{Key: "dry", Name: "Dry", For: []string{"dry"}, Rules: []protocol.VariantRule{
			{Do: "amount", By: 110, Why: "More slip, and re-applied earlier."},
		}},
		{Key: "dehydrated", Name: "Dehydrated", For: []string{"dehydrated"}, Rules: []protocol.VariantRule{
			{Do: "amount", By: 110, Why: "The film is drunk up sooner."},
		}},
		{Key: "acne-prone", Name: "Acne-prone", For: []string{"acne-prone"}, Rules: []protocol.VariantRule{
			{Do: "leave-out", Families: families(stroke.ToolRoll, stroke.SkinRolling, stroke.Tapotement), Kinds: []string{"twin-ball-roller", "cylinder-roller", "mitt"}, Why: "No rolling, and no tapping on lesions."},
			{Do: "swap-product", Tags: []string{"clogging"}, Why: "A product that does not clog."},
		}},
		{Key: "rosacea", Name: "Rosacea and couperose", For: []string{"rosacea-prone", "couperose"}, Rules: []protocol.VariantRule{
			{Do: "leave-out", Families: families(stroke.Friction, stroke.Tapotement), Kinds: []string{"cold", "cup", "stone", "mitt"}, Zones: onCheeks, Why: "No ice, friction, cups or stones on cheeks and nose."},
			{Do: "cap", By: 1, Zones: onCheeks, Why: "A feather on cheeks and nose."},
		}},
		{Key: "mature", Name: "Mature", For: []string{"mature"}, Rules: []protocol.VariantRule{
			{Do: "slower", By: 120, Why: "Slower; hold the skin."},
		}},
		{Key: "pigmentation", Name: "Pigmentation-prone", For: []string{"pigmentation-prone"}, Rules: []protocol.VariantRule{
			{Do: "leave-out", Families: families(stroke.Friction), Kinds: []string{"cup", "mitt"}, Why: "Nothing that leaves redness."},
		}},
	}
}

// Of lists the variants of a protocol: its own, then the standard ones it does
// not replace.
func Of(p *protocol.Protocol) []protocol.Variant {
	out := append([]protocol.Variant{}, p.Variants...)
	for _, v := range Standard() {
		own := false
		for i := range p.Variants {
			own = own || p.Variants[i].Key == v.Key
		}
		if !own {
			out = append(out, v)
		}
	}
	return out
}

// Vary makes a variant of a protocol. It is judged for the skin it is meant for.
// The protocol is not changed. Refused says that the variant leaves nothing
// sensible.
func Vary(p *protocol.Protocol, v *protocol.Variant, ctx *protocol.Context) screening.Tailored {
	inner := *ctx
	for _, skin := range v.For {
		switch skin {
		case "dry", "normal", "combination", "oily":
			inner.SkinType = skin
		default:
			inner.SkinStates = append(append([]string{}, inner.SkinStates...), skin)
		}
	}
	q := p.Clone()
	c := screening.Merge(nil)
	for _, r := range v.Rules {
		c.Explain(ruleID(v, &r), v.Name, r.Why)
		apply(q, &inner, v, &r, c)
	}
	return screening.Tailor(q, &inner, c)
}

func ruleID(v *protocol.Variant, r *protocol.VariantRule) string {
	return "variant/" + v.Key + "/" + r.Do
}

// apply does what a rule asks: directly on the plan, or as a constraint for the
// tailoring that follows.
func apply(q *protocol.Protocol, ctx *protocol.Context, v *protocol.Variant, r *protocol.VariantRule, c *screening.Constraints) {
	id := ruleID(v, r)
	switch r.Do {
	case "lighter":
		c.Lighter(max(r.By, 1), r.Zones, id)
	case "cap":
		c.Cap(r.By, r.Zones, id)
	case "leave-out":
		families := make([]string, len(r.Families))
		for i, f := range r.Families {
			families[i] = string(f)
		}
		var strokes []string
		if r.Stroke != "" {
			strokes = []string{r.Stroke}
		}
		c.ExcludeStrokes(families, r.Kinds, strokes, r.Zones, id)
	case "swap-product":
		for _, tag := range r.Tags {
			c.ExcludeProduct("", tag, "", id)
		}
		if r.Product != "" {
			c.ExcludeProduct(r.Product, "", r.With, id)
		}
	case "replace":
		for i := range q.Steps {
			if s := &q.Steps[i]; s.Stroke == r.Stroke && ctx.Strokes[r.With] != nil {
				*s = protocol.StandIn(s, ctx.Strokes[r.With])
			}
		}
	case "amount":
		for i := range q.Steps {
			if u := q.Steps[i].Use; u != nil && ctx.Products[u.Product].HalfLifeMinutes() > 0 {
				more := *u
				more.Amount = dosed(u.Amount, float64(r.By)/100, ctx.Products[u.Product])
				q.Steps[i].Use = &more
			}
		}
	case "slower":
		slower(q, ctx, float64(r.By)/100)
		c.Refit(id)
	case "hands-on":
		q.Minutes.Sold += r.By - q.Minutes.HandsOn
		q.Minutes.HandsOn = r.By
		c.Refit(id)
	}
}

// dosed scales an amount, in whole drops and half presses, never above the
// studio's range.
func dosed(a film.Amount, by float64, p *film.Product) film.Amount {
	grain := map[film.Measure]float64{film.Drops: 1, film.Presses: 0.5, film.Gram: 0.1, film.ML: 0.1}[a.Measure]
	was := a.Value
	a.Value = max(grain, math.Round(a.Value*by/grain)*grain)
	if mL, ok := a.In(p); ok && p.RangeMax > 0 && mL > p.RangeMax {
		a.Value = was
	}
	return a
}

// slower stretches the moving parts of every sliding stroke; the number of
// repetitions is left to the fit.
func slower(q *protocol.Protocol, ctx *protocol.Context, by float64) {
	for i := range q.Steps {
		r := protocol.Resolve(q, i, ctx)
		if r.Relation != stroke.Slides || !r.Dose.CountsReps() || len(r.Parts) == 0 {
			continue
		}
		parts := append([]stroke.Part{}, r.Parts...)
		for k := range parts {
			if parts[k].Kind == stroke.Move {
				parts[k].Seconds = math.Round(parts[k].Seconds*by*10) / 10
			}
		}
		q.Steps[i].Parts, q.Steps[i].Last = parts, r.Last
	}
}
