// Package adjusting changes a published protocol for one client on one day, and
// gives the reason for each change ([Adjust]). Limits come from contraindications,
// from skin variants and from the practitioner's own hands; all are settled
// together, so that path, alternatives, drainage, slip and time hold for the result.
// An adjusted plan is never stored in the protocol: it is worked out from the
// published version.
package adjusting

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// Vary makes a variant of a protocol. It is judged for the skin it is meant for.
// The protocol is not changed. Refused says that the variant leaves nothing
// sensible.
func Vary(p *protocol.Protocol, v *protocol.Variant, ctx *protocol.Context) AdjustedPlan {
	inner := *ctx
	for _, skin := range v.For {
		switch skin {
		case "dry", "normal", "combination", "oily":
			inner.SkinType = skin
		default:
			inner.SkinStates = append(append([]string{}, inner.SkinStates...), skin)
		}
	}
	return AdjustForSkin(p, &inner, contraindication.Merge(nil), []protocol.Variant{*v}, math.MaxInt)
}

// AdjustForSkin is [Adjust] with variants that the protocol has for the
// client's skin, and constraints that were asked for besides; no longer than some
// minutes of hands-on time. What the variants alone bring is marked as the skin's
// and stands behind the rest.
func AdjustForSkin(
	p *protocol.Protocol,
	ctx *protocol.Context,
	c *contraindication.Constraints,
	variants []protocol.Variant,
	minutes int,
) AdjustedPlan {
	q := p.Clone()
	direct := applyVariants(q, ctx, c, variants, minutes)
	ConstrainByVariants(c, variants)
	out := Adjust(q, ctx, c)
	// What follows from the changes together is the skin's only where nothing else
	// asked for one.
	other := slices.IndexFunc(out.Adjustments, func(ch Adjustment) bool { return ch.Rule != "" && !isVariantRule(ch.Rule) })
	for i := range out.Adjustments {
		ch := &out.Adjustments[i]
		switch {
		case !isConsequence(ch):
			ch.Skin = isVariantRule(ch.Rule)
		case other < 0:
			ch.Skin = len(variants) > 0
		case isVariantRule(ch.Rule):
			asked := &out.Adjustments[other]
			ch.Rule, ch.Title, ch.Why = asked.Rule, asked.Title, asked.Why
		}
	}
	out.Adjustments = append(out.Adjustments, direct...)
	slices.SortStableFunc(out.Adjustments, func(a, b Adjustment) int {
		switch {
		case a.Skin == b.Skin:
			return 0
		case b.Skin:
			return -1
		}
		return 1
	})
	Number(out.Adjustments)
	return out
}

const (
	variantPrefix = "variant/"
	reapplyRule   = "re-apply"
)

func variantRuleID(v *protocol.Variant, r *protocol.VariantRule) string {
	return variantPrefix + v.Key + "/" + r.Do
}

// isConsequence reports whether a change was asked for by no rule itself, but makes the
// plan whole again or lets it fit its time.
func isConsequence(ch *Adjustment) bool {
	switch ch.Kind {
	case NoTime, RouteBlocked, Refitted:
		return true
	case Restored:
		return !strings.HasSuffix(ch.Rule, "/"+reapplyRule)
	}
	return false
}

func isVariantRule(rule string) bool { return strings.HasPrefix(rule, variantPrefix) }

// ConstrainByVariants puts what variants ask of strokes, pressures and products into
// constraints.
func ConstrainByVariants(c *contraindication.Constraints, variants []protocol.Variant) {
	for i := range variants {
		v := &variants[i]
		for k := range v.Rules {
			r := &v.Rules[k]
			id := variantRuleID(v, r)
			c.Explain(id, v.Name, r.Why)
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
			case reapplyRule:
				c.Reapply(id)
			case "swap-product":
				for _, tag := range r.Tags {
					c.ExcludeProduct("", tag, "", id)
				}
				if r.Product != "" {
					c.ExcludeProduct(r.Product, "", r.With, id)
				}
			}
		}
	}
}

// applyVariants does what variants ask of a plan directly, and reports each change.
func applyVariants(
	q *protocol.Protocol,
	ctx *protocol.Context,
	c *contraindication.Constraints,
	variants []protocol.Variant,
	minutes int,
) []Adjustment {
	var out []Adjustment
	for i := range variants {
		v := &variants[i]
		for k := range v.Rules {
			r := &v.Rules[k]
			tell := func(ch Adjustment) {
				ch.Rule, ch.Title, ch.Why, ch.Skin = variantRuleID(v, r), v.Name, r.Why, true
				out = append(out, ch)
			}
			switch r.Do {
			case "replace":
				for i := range q.Steps {
					if s := &q.Steps[i]; s.Stroke == r.Stroke && ctx.Strokes[r.With] != nil && !c.SkinLeftOut(s.ID) {
						name := ctx.Strokes[s.Stroke].Name
						*s = protocol.SubstituteStroke(s, ctx.Strokes[r.With])
						tell(Adjustment{Step: s.ID, Name: name, Kind: Swapped, From: name, To: ctx.Strokes[r.With].Name})
					}
				}
			case "amount":
				scaleAmounts(q, ctx, c, float64(r.By)/100, tell)
			case "slower":
				slowDown(q, ctx, c, float64(r.By)/100)
				c.Refit(variantRuleID(v, r))
				tell(Adjustment{Kind: Slowed, To: strconv.Itoa(r.By), Gentler: r.By > 100})
			case "hands-on":
				if r.By > minutes {
					continue
				}
				q.Minutes.Treatment += r.By - q.Minutes.HandsOn
				q.Minutes.HandsOn = r.By
				c.Refit(variantRuleID(v, r))
			}
		}
	}
	return out
}

// scaleAmounts scales what a plan takes of each product to massage with, portion by portion; more is
// given only as far as all portions together stay within the product's range.
func scaleAmounts(q *protocol.Protocol, ctx *protocol.Context, c *contraindication.Constraints, by float64, tell func(Adjustment)) {
	total := map[string]float64{} // mL
	for i := range q.Steps {
		if u := q.Steps[i].Use; u != nil && ctx.Products[u.Product] != nil {
			mL, _ := u.Amount.In(ctx.Products[u.Product])
			total[u.Product] += mL
		}
	}
	for i := range q.Steps {
		s := &q.Steps[i]
		if c.SkinLeftOut(s.ID) || s.Use == nil || !slip.Massages(ctx.Products[s.Use.Product].Form) {
			continue
		}
		prod, more := ctx.Products[s.Use.Product], *s.Use
		more.Amount = scaleAmount(s.Use.Amount, by, prod)
		was, _ := s.Use.Amount.In(prod)
		now, _ := more.Amount.In(prod)
		together := total[prod.Key] + now - was
		if more.Amount == s.Use.Amount || now > was && prod.RangeMax > 0 && together > prod.RangeMax {
			continue
		}
		total[prod.Key] = together
		tell(Adjustment{Step: s.ID, Name: prod.Name, Kind: Dosed, From: amountText(s.Use.Amount), To: amountText(more.Amount)})
		s.Use = &more
	}
}

func amountText(a slip.Amount) string {
	return strconv.FormatFloat(a.Value, 'f', -1, 64) + " " + string(a.Measure)
}

// scaleAmount scales an amount, in whole drops and half presses, never above the
// studio's range.
func scaleAmount(a slip.Amount, by float64, p *slip.Product) slip.Amount {
	grain := a.Measure.Smallest()
	was := a.Value
	a.Value = math.Round(max(grain, math.Round(a.Value*by/grain)*grain)*100) / 100
	if mL, ok := a.In(p); ok && p.RangeMax > 0 && mL > p.RangeMax {
		a.Value = was
	}
	return a
}

// slowDown stretches the moving parts of every sliding stroke; the number of
// repetitions is left to the fit.
func slowDown(q *protocol.Protocol, ctx *protocol.Context, c *contraindication.Constraints, by float64) {
	for i := range q.Steps {
		if c.SkinLeftOut(q.Steps[i].ID) {
			continue
		}
		r := evaluation.Resolve(q, i, ctx)
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
