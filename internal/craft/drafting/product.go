package drafting

import (
	"slices"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// slipForms in the order of preference.
var slipForms = []slip.Form{slip.Oil, slip.MassageCream, slip.MoistSerum, slip.Balm, slip.Milk, slip.DayCream}

func (d *drafting) slipProduct() *slip.Product {
	var best *slip.Product
	rank := 0
	for _, k := range slices.Sorted(slices.Values(d.q.Products)) {
		p := d.ctx.Products[k]
		if p == nil || !d.may(p) {
			continue
		}
		r := slices.Index(slipForms, p.Form)
		if r < 0 || p.Form == slip.Milk {
			continue
		}
		if d.ctx.SkinType == "oily" && p.Form == slip.MoistSerum {
			r = -1
		}
		if p.HasTag("essential-oil", "fragrance") {
			r += 10
		}
		if p.HasTag("nut-oil", "bee-product", "lanolin") {
			r += 3 // kept for clients who are known to bear it
		}
		if best == nil || r < rank {
			best, rank = p, r
		}
	}
	return best
}

// may reports whether a product suits the skin.
func (d *drafting) may(p *slip.Product) bool {
	if slices.ContainsFunc(p.Unsuited, d.ctx.HasSkin) {
		return false
	}
	if d.ctx.HasSkin("sensitive") && p.HasTag("fragrance", "essential-oil") {
		return false
	}
	return !d.ctx.HasSkin("acne-prone") || !p.HasTag("clogging")
}

func (d *drafting) productOf(form slip.Form) *slip.Product {
	for _, k := range slices.Sorted(slices.Values(d.q.Products)) {
		if p := d.ctx.Products[k]; p != nil && p.Form == form && d.may(p) {
			return p
		}
	}
	return nil
}

// amount doses a share of a full dose in the measure the hand uses.
func amount(p *slip.Product, share float64) slip.Amount {
	mL := p.FullDose * share
	switch {
	case p.DropsPerML > 0 && mL*p.DropsPerML <= slip.MostDrops:
		return slip.Amount{Value: max(1, float64(int(mL*p.DropsPerML+0.5))), Measure: slip.Drops}
	case p.MLPerPump > 0 && mL >= p.MLPerPump:
		return slip.Amount{Value: float64(int(2*mL/p.MLPerPump+0.5)) / 2, Measure: slip.Pumps}
	}
	return slip.Amount{Value: max(0.1, float64(int(mL*10+0.5))/10), Measure: slip.ML}
}

// leastShare of a full dose goes on eyes or jaw alone (review of the composer: a fifth).
const leastShare = 0.2

// richer is how much more dry and mature skin starts with; lighter how much less oily skin needs.
const (
	richer  = 1.15
	lighter = 0.8
)

// measure gives the spreading step the amount for the area that is slid over, and leads it there.
func (d *drafting) measure(p *protocol.Protocol) {
	i := slices.IndexFunc(p.Steps, func(s protocol.Step) bool { return s.Phase == "apply" && s.Use != nil })
	if i < 0 {
		return
	}
	bits := uint(0)
	e := evaluation.EvaluateTimeline(p, d.ctx)
	for k := range e.Steps {
		r := &e.Steps[k]
		if k != i && needsSlip(r.Glide) && slices.Contains([]protocol.Phase{"open", "work", "close"}, r.Phase) {
			bits |= r.Regions
		}
	}
	share := max(leastShare, slip.ShareOfAll(bits))
	if d.area != nil {
		share = leastShare
	}
	spread := d.ctx.Strokes[p.Steps[i].Stroke]
	for _, zone := range spread.Path {
		if id, ok := d.ctx.Zone(zone); ok && (d.area == nil && evaluation.RegionBit(id)&bits != 0 || slices.Contains(d.area, zone)) {
			p.Steps[i].Path = append(p.Steps[i].Path, protocol.PathPoint{Zone: zone})
		}
	}
	if n := len(p.Steps[i].Path); n == len(spread.Path) || n < 2 {
		p.Steps[i].Path = nil
	}
	switch {
	case d.ctx.HasSkin("dry") || d.ctx.HasSkin("mature"):
		share *= richer
	case d.ctx.SkinType == "oily":
		share *= lighter
	}
	if d.slip.RangeMax > 0 && d.slip.FullDose*share > d.slip.RangeMax {
		share = d.slip.RangeMax / d.slip.FullDose
	}
	p.Steps[i].Use.Amount = amount(d.slip, share)
}

func needsSlip(g stroke.Glide) bool {
	return g == stroke.SlideGlide || g == stroke.StoneGlide || g == stroke.KneadGlide
}

// topUps are as many portions as a draft is given within the work, beyond the strokes that are counted.
const topUps = 2

// secondPortion is what part of a full dose goes on when the first has worn off; less where the product's
// range bears less, down to leastPortion.
const (
	secondPortion = 0.45
	leastPortion  = 0.15
	portionStep   = 0.05
)

// topUp plans a second portion before the first stroke of the work that would run dry, ahead of tools in
// one block with it; it returns the plan as it is where nothing runs dry.
func (d *drafting) topUp(p *protocol.Protocol) *protocol.Protocol {
	if d.slip == nil || d.area != nil {
		return p
	}
	at := len(p.Steps)
	for _, f := range evaluation.Evaluate(p, d.ctx).Findings {
		if i := p.Index(first(f.Steps)); f.Code == evaluation.GlideThin && i >= 0 && p.Steps[i].Phase == "work" {
			at = min(at, i)
		}
	}
	if at == len(p.Steps) || d.ctx.Strokes["drop-spread"] == nil {
		return p
	}
	for at > 0 && d.ctx.Strokes[p.Steps[at].Stroke].Tool != nil && d.ctx.Strokes[p.Steps[at-1].Stroke].Tool != nil {
		at--
	}
	for share := secondPortion; share >= leastPortion; share -= portionStep {
		q := p.Clone()
		q.Steps = slices.Insert(q.Steps, at, protocol.Step{
			ID: "second", Stroke: "drop-spread", Phase: "work", Why: words.PaperWhyTopUp,
			Use: &protocol.Use{Product: d.slip.Key, Amount: amount(d.slip, share)},
		})
		if !d.tooMuch(q) {
			return q
		}
	}
	return p
}

// tooMuch reports whether the second portion brings more onto the skin than the product's range.
func (d *drafting) tooMuch(p *protocol.Protocol) bool {
	return slices.ContainsFunc(evaluation.Evaluate(p, d.ctx).Findings, func(f evaluation.Finding) bool {
		return f.Code == evaluation.AmountOver && slices.Contains(f.Steps, "second")
	})
}

func first(steps []string) string {
	if len(steps) == 0 {
		return ""
	}
	return steps[0]
}
