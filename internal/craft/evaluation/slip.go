package evaluation

import (
	"github.com/shopspring/decimal"

	"math"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// SlipBelow is slip that falls below what the stroke needs, 0 to 100, and the product
// last used, by key.
type SlipBelow struct {
	plain
	Slip    float64      `json:"slip"`
	Least   float64      `json:"least"`
	Glide   stroke.Glide `json:"glide"`
	Product string       `json:"product,omitempty"`
}

// SlipAbove is more slip than the stroke takes, 0 to 100.
type SlipAbove struct {
	plain
	Slip float64 `json:"slip"`
	Most float64 `json:"most"`
}

// AmountAbove is more of a product, by name, than its usual amount; mL.
type AmountAbove struct {
	plain
	Product string  `json:"product"`
	ML      float64 `json:"ml"`
	Most    float64 `json:"most"`
}

// followSlip follows the product on the skin through the timeline and checks slip.
// What a step off the body takes is warmed between the palms and goes onto the
// skin with the next step that touches it.
func (e *Evaluation) followSlip(p *protocol.Protocol, ctx *protocol.Context) {
	var skin slip.Coat
	factor := slip.SkinFactor(ctx.SkinType, ctx.SkinStates)
	lastUsed := ""
	var inHand *slip.Product // taken in a step off the body, and not yet on the skin
	inHandML := 0.0
	dry := p.Method.Slip == "dry"
	for vi := range e.Occurrences {
		v := &e.Occurrences[vi]
		r := &e.Steps[v.Step]
		s := r.Source
		if s.Use != nil {
			if prod := ctx.Products[s.Use.Product]; prod != nil {
				mL, _ := s.Use.Amount.In(prod)
				side := anatomy.Mid
				if len(v.SideRuns) == 1 && v.SideRuns[0].OnSide != anatomy.Mid {
					side = v.SideRuns[0].OnSide
				}
				e.count(prod, mL)
				if len(r.Path) == 0 { // warmed between the palms
					inHand, inHandML = prod, mL
				} else {
					skin.Apply(v.Start, r.Regions, side, mL, prod.FullDose, prod.HalfLifeMinutes()*factor)
				}
				if prod.HalfLifeMinutes() > 0 {
					lastUsed = prod.Key
				}
			}
		}
		if inHand != nil && len(r.Path) > 0 {
			skin.Apply(v.Start, r.Regions, anatomy.Mid, inHandML, inHand.FullDose, inHand.HalfLifeMinutes()*factor)
			inHand = nil
		}
		need := slip.Need(r.Glide)
		v.NeedLeast, v.NeedMost = need.Least, need.Most
		v.SlipStart, v.SlipEnd = slipUnder(
			&skin,
			r,
			v.SideRuns[0].Start,
			v.SideRuns[0].OnSide,
		), slipUnder(
			&skin,
			r,
			v.End,
			v.SideRuns[len(v.SideRuns)-1].OnSide,
		)
		if len(r.Path) > 0 && r.Glide != stroke.AnyGlide && v.Number == 1 {
			if dry {
				e.checkDry(r)
			} else if e.checkGlide(r, v, &skin, lastUsed) {
				e.reapplyBefore(vi, lastUsed)
			}
		}
		switch s.Remove {
		case "blot":
			skin.Remove(r.Regions, slip.Blotted)
		case "wipe":
			skin.Remove(r.Regions, slip.Wiped)
		}
	}
	cost := decimal.Zero
	for i := range e.Products {
		pl := &e.Products[i]
		pl.measure(ctx.Products[pl.Product])
		if each, err := decimal.NewFromString(pl.Cost); err == nil {
			cost = cost.Add(each)
		} else {
			e.CostUnknown++
		}
		e.Cost = cost.StringFixed(2)
		if prod := ctx.Products[pl.Product]; prod.RangeMax > 0 && pl.ML > prod.RangeMax*1.0001 {
			e.add(
				AmountOver,
				Warning,
				CommonPractice,
				&AmountAbove{Product: prod.Name, ML: round2(pl.ML), Most: prod.RangeMax},
				[]Fix{LessProduct},
				e.lastUse(prod.Key),
			)
		}
	}
}

// slipUnder returns the slip that decides over the step's path: the least,
// where a sliding hand would stick first, or the most for a gripping stroke.
// Regions that carry no product (hair, mouth) do not count.
func slipUnder(f *slip.Coat, r *Resolved, at float64, side anatomy.Side) float64 {
	slip, seen := 0.0, false
	for i := range anatomy.Regions {
		if r.Regions&^(scalpBit|mouthBit)&(1<<i) == 0 {
			continue
		}
		s := f.Slip(at, i, side)
		if !seen || (r.Glide == stroke.GripGlide) == (s > slip) {
			slip = s
		}
		seen = true
	}
	return slip
}

// checkDry judges dry work: nothing may slide over delicate skin.
func (e *Evaluation) checkDry(r *Resolved) {
	if r.Relation != stroke.Slides || r.Glide != stroke.SlideGlide && r.Glide != stroke.StoneGlide || r.Source.Departure != "" {
		return
	}
	for i := range r.Path {
		if r.Path[i].id.Zone().Delicate {
			e.add(DryDrag, Warning, MethodRule, &AtZone{r.Path[i].Zone}, []Fix{LeaveZone, SayDeparture}, r.ID)
			return
		}
	}
}

// reapplyBefore notes the best moment to put product on again for a visit where
// slip is too thin: the last moment before it, within its phase, at which
// the hands leave the face anyway, else the visit itself.
func (e *Evaluation) reapplyBefore(vi int, product string) {
	thin := &e.Occurrences[vi]
	best := vi
	for k := vi; k > 0 && e.Steps[e.Occurrences[k].Step].Phase == e.Steps[thin.Step].Phase; k-- {
		if e.Occurrences[k].HandsLifted && thin.Start-e.Occurrences[k].Start < 240 {
			best = k
			break
		}
	}
	at := &e.Occurrences[best]
	e.Reapply = append(
		e.Reapply,
		Reapply{Step: e.Steps[at.Step].ID, At: at.Start, Thin: e.Steps[thin.Step].ID, ThinAt: thin.Start, Product: product},
	)
}

// checkGlide judges slip under a stroke and reports whether it is too thin.
func (e *Evaluation) checkGlide(r *Resolved, v *Occurrence, skin *slip.Coat, lastUsed string) (thin bool) {
	if r.Regions&^(scalpBit|mouthBit) == 0 {
		return false
	}
	low, high := min(v.SlipStart, v.SlipEnd), max(v.SlipStart, v.SlipEnd)
	if low >= v.NeedLeast && high <= v.NeedMost && (r.Glide != stroke.KneadGlide || high <= slip.Slippery) {
		return false
	}
	below := &SlipBelow{Slip: math.Round(low), Least: v.NeedLeast, Glide: r.Glide}
	switch {
	case low < v.NeedLeast && !skin.Stated():
		e.add(GlideUnknown, Note, Estimate, below, nil, r.ID)
	case low < v.NeedLeast:
		below.Product = lastUsed
		e.add(GlideThin, Warning, Estimate, below, []Fix{AddProduct}, r.ID)
		return lastUsed != ""
	case high > v.NeedMost:
		e.add(GlideWet, Warning, Estimate, &SlipAbove{Slip: math.Round(high), Most: v.NeedMost}, []Fix{Blot}, r.ID)
	case r.Glide == stroke.KneadGlide && high > slip.Slippery:
		e.add(GlideSlick, Note, Estimate, &SlipAbove{Slip: math.Round(high), Most: slip.Slippery}, []Fix{Blot}, r.ID)
	}
	return false
}
