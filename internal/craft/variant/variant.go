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
	"slices"
	"strconv"
	"strings"

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
			{Do: "amount", By: 110, Why: "More slip."},
			{Do: "re-apply", Why: "Dry skin drinks the film up: product goes on again in time."},
		}},
		{Key: "dehydrated", Name: "Dehydrated", For: []string{"dehydrated"}, Rules: []protocol.VariantRule{
			{Do: "amount", By: 110, Why: "The film is drunk up sooner."},
			{Do: "re-apply", Why: "Product goes on again before the film gets thin."},
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

// ForSkin lists the variants of a protocol that are meant for a skin.
func ForSkin(p *protocol.Protocol, skinType string, states []string) []protocol.Variant {
	return slices.DeleteFunc(Of(p), func(v protocol.Variant) bool {
		return !slices.ContainsFunc(v.For, func(skin string) bool { return skin == skinType || slices.Contains(states, skin) })
	})
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
	return Tailor(p, &inner, screening.Merge(nil), []protocol.Variant{*v}, math.MaxInt)
}

// Tailor is [screening.Tailor] with variants that the protocol has for the
// client's skin, and constraints that were asked for besides; no longer than some
// minutes of hands-on time. What the variants alone bring is marked as the skin's
// and stands behind the rest.
func Tailor(p *protocol.Protocol, ctx *protocol.Context, c *screening.Constraints, variants []protocol.Variant, minutes int) screening.Tailored {
	q := p.Clone()
	direct := change(q, ctx, c, variants, minutes)
	Constrain(c, variants)
	out := screening.Tailor(q, ctx, c)
	// What follows from the changes together is the skin's only where nothing else
	// asked for one.
	other := slices.IndexFunc(out.Changes, func(ch screening.Change) bool { return ch.Rule != "" && !ofVariant(ch.Rule) })
	for i := range out.Changes {
		ch := &out.Changes[i]
		switch {
		case !follows(ch):
			ch.Skin = ofVariant(ch.Rule)
		case other < 0:
			ch.Skin = len(variants) > 0
		case ofVariant(ch.Rule):
			asked := &out.Changes[other]
			ch.Rule, ch.Title, ch.Why = asked.Rule, asked.Title, asked.Why
		}
	}
	out.Changes = append(out.Changes, direct...)
	slices.SortStableFunc(out.Changes, func(a, b screening.Change) int {
		switch {
		case a.Skin == b.Skin:
			return 0
		case b.Skin:
			return -1
		}
		return 1
	})
	screening.Number(out.Changes)
	return out
}

const (
	prefix  = "variant/"
	reapply = "re-apply"
)

func ruleID(v *protocol.Variant, r *protocol.VariantRule) string {
	return prefix + v.Key + "/" + r.Do
}

// follows reports whether a change was asked for by no rule itself, but makes the
// plan whole again or lets it fit its time.
func follows(ch *screening.Change) bool {
	switch ch.Did {
	case screening.NoTime, screening.NoWayHome, screening.Refitted:
		return true
	case screening.Restored:
		return !strings.HasSuffix(ch.Rule, "/"+reapply)
	}
	return false
}

func ofVariant(rule string) bool { return strings.HasPrefix(rule, prefix) }

// Constrain puts what variants ask of strokes, pressures and products into
// constraints.
func Constrain(c *screening.Constraints, variants []protocol.Variant) {
	for i := range variants {
		v := &variants[i]
		for k := range v.Rules {
			r := &v.Rules[k]
			id := ruleID(v, r)
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
			case reapply:
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

// change does what variants ask of a plan directly, and tells each change.
func change(q *protocol.Protocol, ctx *protocol.Context, c *screening.Constraints, variants []protocol.Variant, minutes int) []screening.Change {
	var out []screening.Change
	for i := range variants {
		v := &variants[i]
		for k := range v.Rules {
			r := &v.Rules[k]
			tell := func(ch screening.Change) {
				ch.Rule, ch.Title, ch.Why, ch.Skin = ruleID(v, r), v.Name, r.Why, true
				out = append(out, ch)
			}
			switch r.Do {
			case "replace":
				for i := range q.Steps {
					if s := &q.Steps[i]; s.Stroke == r.Stroke && ctx.Strokes[r.With] != nil {
						name := ctx.Strokes[s.Stroke].Name
						*s = protocol.StandIn(s, ctx.Strokes[r.With])
						tell(screening.Change{Step: s.ID, Name: name, Did: screening.Swapped, From: name, To: ctx.Strokes[r.With].Name})
					}
				}
			case "amount":
				for i := range q.Steps {
					s := &q.Steps[i]
					if s.Use == nil || !film.Massages(ctx.Products[s.Use.Product].Form) {
						continue
					}
					more := *s.Use
					if more.Amount = dosed(s.Use.Amount, float64(r.By)/100, ctx.Products[s.Use.Product]); more.Amount == s.Use.Amount {
						continue
					}
					tell(screening.Change{Step: s.ID, Name: ctx.Products[more.Product].Name, Did: screening.Dosed, From: said(s.Use.Amount), To: said(more.Amount)})
					s.Use = &more
				}
			case "slower":
				slower(q, ctx, float64(r.By)/100)
				c.Refit(ruleID(v, r))
				tell(screening.Change{Did: screening.Slowed, To: strconv.Itoa(r.By), Gentler: r.By > 100})
			case "hands-on":
				if r.By > minutes {
					continue
				}
				q.Minutes.Sold += r.By - q.Minutes.HandsOn
				q.Minutes.HandsOn = r.By
				c.Refit(ruleID(v, r))
			}
		}
	}
	return out
}

func said(a film.Amount) string {
	return strconv.FormatFloat(a.Value, 'f', -1, 64) + " " + string(a.Measure)
}

// dosed scales an amount, in whole drops and half presses, never above the
// studio's range.
func dosed(a film.Amount, by float64, p *film.Product) film.Amount {
	grain := a.Measure.Smallest()
	was := a.Value
	a.Value = math.Round(max(grain, math.Round(a.Value*by/grain)*grain)*100) / 100
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
