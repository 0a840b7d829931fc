package adjusting

import (
	"cmp"
	"slices"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
)

// ruleOnProduct is [Constraints.ProductRule], worked out once for each product.
func (t *adjuster) ruleOnProduct(p *slip.Product) string {
	if p == nil {
		return ""
	}
	rule, known := t.byProduct[p.Key]
	if !known {
		rule = t.c.ProductRule(p)
		t.byProduct[p.Key] = rule
	}
	return rule
}

// product swaps a product that carries an excluded tag for the one on the shelf
// nearest in half-life that carries none and can be dosed alike, or takes it out.
func (t *adjuster) product(s *protocol.Step, name string) {
	was := t.ctx.Products[s.Use.Product]
	rule := t.ruleOnProduct(was)
	if rule == "" {
		return
	}
	mL, _ := s.Use.Amount.In(was)
	others := t.serving(was, mL)
	if len(others) == 0 {
		s.Use = nil
		t.note(s.ID, name, Replaced, rule, Adjustment{From: was.Name, What: t.c.ProductBite(rule, was)})
		return
	}
	best := others[0]
	amount := slip.Amount{Value: float64(int(mL*best.FullDose/was.FullDose*100+0.5)) / 100, Measure: slip.ML}
	if _, ok := s.Use.Amount.In(best); ok && best.FullDose == was.FullDose && best.DropsPerML == was.DropsPerML {
		amount = s.Use.Amount
	}
	s.Use = &protocol.Use{Product: best.Key, Amount: amount}
	ch := Adjustment{From: was.Name, To: best.Name, What: t.c.ProductBite(rule, was)}
	for _, p := range others {
		ch.Others = append(ch.Others, p.Key)
	}
	t.note(s.ID, name, Replaced, rule, ch)
}

// serving lists the products that could take the place of one: allowed, suited to
// the skin, of the same form or both to massage with, with enough on the shelf where that is known; the one
// asked for first, then the nearest in half-life, then by key.
func (t *adjuster) serving(was *slip.Product, mL float64) []*slip.Product {
	var out []*slip.Product
	gap := map[string]float64{}
	for k, p := range t.ctx.Products {
		if t.ruleOnProduct(p) != "" ||
			slices.ContainsFunc(
				p.Unsuited,
				func(u string) bool { return u == t.ctx.SkinType || slices.Contains(t.ctx.SkinStates, u) },
			) {
			continue
		}
		if p.Form != was.Form && !(slip.Massages(p.Form) && slip.Massages(was.Form)) {
			continue
		}
		if !t.c.Lasts(k, mL*p.FullDose/was.FullDose) {
			continue
		}
		gap[k] = max(p.HalfLifeMinutes()-was.HalfLifeMinutes(), was.HalfLifeMinutes()-p.HalfLifeMinutes())
		if t.c.Preferred(was.Key) == k {
			gap[k] = -1
		}
		out = append(out, p)
	}
	slices.SortFunc(out, func(a, b *slip.Product) int {
		if d := cmp.Compare(gap[a.Key], gap[b.Key]); d != 0 {
			return d
		}
		return cmp.Compare(a.Key, b.Key)
	})
	return out
}
