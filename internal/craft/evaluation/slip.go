package evaluation

import (
	"math"
	"math/bits"

	"github.com/shopspring/decimal"

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

// film is the product on skin and palms as the plan is followed.
type film struct {
	skin     slip.Coat
	factor   float64 // of the skin, on the half-lives
	method   string
	lastUsed string
	palms    []palm
	// reached are the regions that the palms have spread to so far, parts the share of the skin that they
	// spread to altogether.
	reached uint
	parts   float64
	// unsaid says that some product or amount on the skin was never stated, asked that it was asked for.
	unsaid, asked bool
}

// palm is product warmed between the palms, and not on the skin yet.
type palm struct {
	of *slip.Product
	mL float64
}

// followSlip follows the product on the skin through the timeline and checks slip.
func (e *Evaluation) followSlip(p *protocol.Protocol, ctx *protocol.Context) {
	f := film{factor: slip.SkinFactor(ctx.SkinType, ctx.SkinStates), method: p.Method.Slip}
	for vi := range e.Occurrences {
		v := &e.Occurrences[vi]
		r := &e.Steps[v.Step]
		before := 0.0
		if r.Source.Use != nil || len(f.palms) > 0 {
			before = slipUnder(&f.skin, r, v.Start, v.SideRuns[0].OnSide)
		}
		if e.putOn(&f, vi, ctx) {
			was := before // of its own, so that only these are kept
			v.SlipBefore = &was
		}
		if r.Relation == stroke.Slides {
			f.skin.CarryOn(v.Start, r.Regions)
		}
		need := slip.NeedUnder(r.Glide, f.method)
		v.NeedLeast, v.NeedMost = need.Least, need.Most
		last := len(v.SideRuns) - 1
		v.SlipStart = slipUnder(&f.skin, r, v.SideRuns[0].Start, v.SideRuns[0].OnSide)
		v.SlipEnd = slipUnder(&f.skin, r, v.End, v.SideRuns[last].OnSide)
		if len(r.Path) > 0 && r.Glide != stroke.AnyGlide && v.Number == 1 {
			if f.method == "dry" {
				e.checkDry(r)
			} else if e.checkGlide(r, v, &f) {
				e.reapplyBefore(vi, f.lastUsed)
			}
		}
		switch r.Source.Remove {
		case "blot":
			f.skin.Remove(r.Regions, slip.Blotted)
		case "wipe":
			f.skin.Remove(r.Regions, slip.Wiped)
		}
	}
	e.amounts(ctx)
}

// putOn puts the product of a visit onto the skin, or between the palms where the hands do not touch
// it; what is between the palms goes on in parts. It reports whether any came onto the skin.
func (e *Evaluation) putOn(f *film, vi int, ctx *protocol.Context) (onSkin bool) {
	v := &e.Occurrences[vi]
	r := &e.Steps[v.Step]
	s := r.Source
	_, amount := s.Gaps["amount"]
	_, product := s.Gaps["product"]
	f.unsaid = f.unsaid || amount || product
	if prod := ctx.ProductOf(s.Use); prod != nil {
		mL, measured := s.Use.Amount.In(prod)
		f.unsaid = f.unsaid || !measured
		e.count(prod, mL, s.Use.Optional)
		if prod.HalfLifeMinutes() > 0 {
			f.lastUsed = prod.Key
		}
		if len(r.Path) == 0 {
			f.palms = append(f.palms, palm{prod, mL})
			return false
		}
		side := anatomy.Mid
		if len(v.SideRuns) == 1 && v.SideRuns[0].OnSide != anatomy.Mid {
			side = v.SideRuns[0].OnSide
		}
		f.skin.ApplyProduct(v.Start, r.Regions, side, mL, prod, f.factor)
		onSkin = true
	}
	if len(f.palms) == 0 || !r.spreads() {
		return onSkin
	}
	if f.parts == 0 {
		f.parts = e.spreadOver(vi)
	}
	fresh := r.Regions &^ f.reached
	for _, in := range f.palms {
		f.skin.ApplyProduct(v.Start, fresh, anatomy.Mid, in.mL*slip.ShareOfAll(fresh)/f.parts, in.of, f.factor)
	}
	if f.reached |= r.Regions; !e.spreadsOn(vi, f.reached) {
		f.palms, f.reached, f.parts = nil, 0, 0
	}
	return true
}

// spreads reports whether a step lays product from the palms onto the skin: the bare hand slides.
func (r *Resolved) spreads() bool {
	return r.Relation == stroke.Slides && r.Tool == nil && slip.ShareOfAll(r.Regions) > 0
}

// spreadsOn reports whether the visit after another goes on spreading: it slides on to skin that was
// not reached before.
func (e *Evaluation) spreadsOn(vi int, reached uint) bool {
	if vi+1 >= len(e.Occurrences) {
		return false
	}
	next := &e.Steps[e.Occurrences[vi+1].Step]
	return next.spreads() && next.Source.Use == nil && slip.ShareOfAll(next.Regions&^reached) > 0
}

// spreadOver is the share of the skin that the strokes from a visit on spread the palms' product to.
func (e *Evaluation) spreadOver(vi int) float64 {
	reached := e.Steps[e.Occurrences[vi].Step].Regions
	for ; e.spreadsOn(vi, reached); vi++ {
		reached |= e.Steps[e.Occurrences[vi+1].Step].Regions
	}
	return slip.ShareOfAll(reached)
}

// amounts adds up what is used of each product, with its cost, and judges it against its usual range.
func (e *Evaluation) amounts(ctx *protocol.Context) {
	cost := decimal.Zero
	for i := range e.Products {
		pl := &e.Products[i]
		prod := ctx.Products[pl.Product]
		if each, known := pl.measure(prod); known {
			cost = cost.Add(each)
		} else {
			e.CostUnknown++
		}
		pl.usually(ctx.Habits[pl.Product])
		if prod.RangeMax > 0 && pl.ML > prod.RangeMax*1.0001 {
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
	if len(e.Products) > 0 {
		e.Cost = cost.StringFixed(2)
	}
}

// slipUnder returns the slip that decides over the step's path: the least,
// where a sliding hand would stick first, or the most for a gripping stroke.
// Regions that carry no product (hair, mouth) do not count. The hollow below the ear belongs to neck
// and face: where a step works nothing else the better of the two decides.
func slipUnder(f *slip.Coat, r *Resolved, at float64, side anatomy.Side) float64 {
	if r.Regions == 0 {
		return 0
	}
	if r.belowEarOnly {
		return max(f.Slip(at, slip.RegionIndex(anatomy.Neck), side), f.Slip(at, slip.RegionIndex(anatomy.SideFace), side))
	}
	slip, seen := 0.0, false
	for left := r.Regions &^ (scalpBit | mouthBit); left != 0; left &= left - 1 {
		s := f.Slip(at, bits.TrailingZeros(left), side)
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
func (e *Evaluation) checkGlide(r *Resolved, v *Occurrence, f *film) (thin bool) {
	if r.Regions&^(scalpBit|mouthBit) == 0 {
		return false
	}
	low, high := min(v.SlipStart, v.SlipEnd), max(v.SlipStart, v.SlipEnd)
	if low >= v.NeedLeast && high <= v.NeedMost && (r.Glide != stroke.KneadGlide || high <= slip.Slippery) {
		return false
	}
	below := &SlipBelow{Slip: math.Round(low), Least: v.NeedLeast, Glide: r.Glide}
	switch {
	case f.unsaid || low < v.NeedLeast && !f.skin.Stated():
		if !f.asked { // one question for the whole plan
			e.add(GlideUnknown, Note, Estimate, below, nil, r.ID)
		}
		f.asked = true
	case low < v.NeedLeast:
		below.Product = f.lastUsed
		e.add(GlideThin, Warning, Estimate, below, []Fix{AddProduct}, r.ID)
		return f.lastUsed != ""
	case high > v.NeedMost:
		e.add(GlideWet, Warning, Estimate, &SlipAbove{Slip: math.Round(high), Most: v.NeedMost}, []Fix{Blot}, r.ID)
	case r.Glide == stroke.KneadGlide && high > slip.Slippery:
		e.add(GlideSlick, Note, Estimate, &SlipAbove{Slip: math.Round(high), Most: slip.Slippery}, []Fix{Blot}, r.ID)
	}
	return false
}
