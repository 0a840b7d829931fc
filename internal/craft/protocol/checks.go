package protocol

import (
	"math"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/film"
	"softpalm/internal/craft/stroke"
)

type values = map[string]any

func (e *Evaluation) add(code Code, sev Severity, basis Basis, vals values, fixes []Fix, steps ...string) {
	id := string(code)
	if len(steps) > 0 {
		id += ":" + steps[len(steps)-1]
	}
	if side, ok := vals["side"].(string); ok {
		id += ":" + side
	}
	for i := range e.Findings {
		if e.Findings[i].ID == id {
			return // one of a kind a step is enough
		}
	}
	if steps == nil {
		steps = []string{}
	}
	if fixes == nil {
		fixes = []Fix{}
	}
	e.Findings = append(e.Findings, Finding{id, code, sev, steps, vals, basis, fixes})
}

func (e *Evaluation) findings(p *Protocol, ctx *Context) {
	e.Findings = make([]Finding, 0, 8)
	for i := range e.Steps {
		e.checkPressure(&e.Steps[i], ctx)
		e.checkDirection(&e.Steps[i])
		e.checkSpeed(&e.Steps[i])
	}
	e.drainage(p)
	e.film(p, ctx)
	e.balance()
	e.fit()
	sortFindings(e.Findings)
}

// sortFindings puts the gravest first and keeps the order otherwise.
func sortFindings(fs []Finding) {
	for i := 1; i < len(fs); i++ {
		for j := i; j > 0 && fs[j].Severity.graver(fs[j-1].Severity); j-- {
			fs[j], fs[j-1] = fs[j-1], fs[j]
		}
	}
}

// still reports whether the pressure is a still press or an anchored stretch,
// which may go one higher on bone and muscle belly.
func (r *Resolved) still() bool {
	return r.Relation == stroke.Still || r.Relation == stroke.Carries && r.Anchor != nil
}

func (e *Evaluation) checkPressure(r *Resolved, ctx *Context) {
	reasoned := Warning
	if r.step.Departure != "" {
		reasoned = Note
	}
	judge := func(id anatomy.ID, zone string, pressure int, still bool) {
		z := id.Zone()
		ceiling := z.Ceiling
		if still {
			ceiling = z.StillCeiling
		}
		vals := values{"zone": zone, "pressure": pressure, "ceiling": ceiling}
		switch {
		case pressure <= ceiling:
		case z.Absolute:
			e.add(PressureAbsolute, Stopping, CommonPractice, vals, []Fix{LowerPressure, LeaveZone}, r.ID)
		default:
			e.add(PressureCeiling, reasoned, CommonPractice, vals, []Fix{LowerPressure, LeaveZone}, r.ID)
		}
	}
	for i := range r.Path {
		pt := &r.Path[i]
		judge(pt.id, pt.Zone, pt.Pressure, r.still())
		if pt.Zone == "throat" && r.Tool != nil {
			e.add(ToolOnThroat, Stopping, CommonPractice, values{"zone": pt.Zone}, []Fix{LeaveZone, DropTool}, r.ID)
		}
		if r.Sides == stroke.BothAtOnce && pt.Pressure > 1 && (pt.Zone == "front-neck" || pt.Zone == "side-neck") {
			e.add(PressureNeck, Stopping, CommonPractice, values{"zone": pt.Zone, "pressure": pt.Pressure}, []Fix{TakeTurns, LowerPressure}, r.ID)
		}
		if r.Intent == stroke.Drain && pt.Pressure > 2 {
			e.add(PressureDrain, Warning, CommonPractice, values{"zone": pt.Zone, "pressure": pt.Pressure, "ceiling": 2}, []Fix{LowerPressure}, r.ID)
		}
		for _, x := range ctx.Excluded {
			if x.Zone == pt.id && r.meets(x) {
				e.add(ExcludedZone, Stopping, CommonPractice, values{"zone": pt.Zone, "side": x.Side.String()}, []Fix{LeaveZone}, r.ID)
			}
		}
	}
	if r.Anchor != nil {
		if id, ok := anatomy.Lookup(r.Anchor.Zone); ok {
			judge(id, r.Anchor.Zone, r.Anchor.Pressure, true)
		}
	}
}

// meets reports whether the step's sides touch the place's side.
func (r *Resolved) meets(x anatomy.Place) bool {
	switch r.Sides {
	case stroke.LeftOnly:
		return x.Side != anatomy.Right
	case stroke.RightOnly:
		return x.Side != anatomy.Left
	}
	return true
}

// checkDirection judges which way a step runs by its intent: a lift up and out,
// a neck drain down, any drain towards its node.
func (e *Evaluation) checkDirection(r *Resolved) {
	if len(r.Path) < 2 || r.step.Departure != "" {
		return
	}
	first, last := &r.Path[0], &r.Path[len(r.Path)-1]
	switch r.Intent {
	case stroke.Lift:
		a, b := first.id.Zone().Centre, last.id.Zone().Centre
		if b.Y < a.Y-1 && b.Y-a.Y < -0.5*math.Abs(b.X-a.X) {
			e.add(LiftDown, Warning, CommonPractice, values{"from": first.Zone, "to": last.Zone}, []Fix{ReversePath}, r.ID)
		}
	case stroke.Drain:
		neck := true
		for i := range r.Path {
			g := r.Path[i].id.Zone().Region
			neck = neck && (g == anatomy.Neck || g == anatomy.Chest)
		}
		if neck && last.Height > first.Height+1 {
			e.add(NeckUp, Warning, CommonPractice, values{"from": first.Zone, "to": last.Zone}, []Fix{ReversePath}, r.ID)
			return
		}
		for i := 1; i < len(r.Path); i++ {
			if anatomy.WayOf(r.Path[i-1].id, r.Path[i].id) == anatomy.Backward {
				r.away = true
				e.add(DrainAway, Warning, Anatomy, values{"from": r.Path[i-1].Zone, "to": r.Path[i].Zone}, []Fix{ReversePath}, r.ID)
				return
			}
		}
	}
}

func (e *Evaluation) checkSpeed(r *Resolved) {
	if r.Speed == 0 || r.Relation != stroke.Slides {
		return
	}
	if r.Speed > 30 {
		for i := range r.Path {
			if r.Path[i].id.Zone().Delicate {
				e.add(SpeedDrag, Warning, CommonPractice, values{"zone": r.Path[i].Zone, "speed": math.Round(r.Speed)}, nil, r.ID)
				return
			}
		}
	}
	if r.Intent == stroke.Soothe && (r.Speed < 1 || r.Speed > 10) {
		e.add(SpeedSoothe, Note, TouchStudy, values{"speed": math.Round(10*r.Speed) / 10}, nil, r.ID)
	}
}

// sidesWorked calls f with each side a pass works: both sides for a pass that
// works both or the midline.
func (v *Pass) sidesWorked(f func(anatomy.Side)) {
	if v.side == anatomy.Mid {
		f(anatomy.Left)
		f(anatomy.Right)
		return
	}
	f(v.side)
}

// drainage follows tokens over the lymph graph, per side. A node group is open
// once an opening step has worked it after everything downstream of it. A drain
// step picks up at every zone of its path and sets down at the last; at the end
// every token must be home.
func (e *Evaluation) drainage(p *Protocol) {
	school := p.School
	if school.drainage() == "none" {
		return
	}
	groups := len(anatomy.NodeGroups)
	var open [3][8]bool
	tokens := [3][]string{} // per side and zone: the step that set lymph down there
	for s := range tokens {
		tokens[s] = make([]string, len(anatomy.Zones))
	}
	opening, closing, drained := false, false, false
	for i := range e.Steps {
		opening = opening || e.Steps[i].Intent == stroke.Open
	}
	for vi := range e.Visits {
		v := &e.Visits[vi]
		r := &e.Steps[v.Step]
		if r.Intent != stroke.Open && r.Intent != stroke.Drain || len(r.Path) == 0 {
			continue
		}
		last := r.Path[len(r.Path)-1].id
		for pi := range v.Passes {
			v.Passes[pi].sidesWorked(func(side anatomy.Side) {
				if r.Intent == stroke.Open {
					for rank := range groups {
						g := anatomy.NodeGroups[rank]
						if open[side][rank] || !r.touches(g) {
							continue
						}
						next := g.Next()
						if next != "" && !open[side][next.Rank()] && school.checksOrder() {
							e.add(DrainOrder, Warning, CommonPractice, values{"node": string(g), "needs": string(next), "side": side.String()}, e.openFixes(p, r, next, vi), r.ID)
						}
						open[side][rank] = true
						e.Opened = append(e.Opened, Opened{g, side.String(), r.ID, v.Start})
					}
				} else {
					if opening && school.checksOrder() && !r.away {
						if g, ok := closedAhead(last, &open[side]); ok {
							e.add(DrainClosed, Warning, CommonPractice, values{"node": string(g), "to": last.Zone().Key, "side": side.String()}, e.openFixes(p, r, g, vi), r.ID)
						}
					}
					drained = true
				}
				moved := r.Intent == stroke.Drain
				for i := range r.Path {
					moved = moved || tokens[side][r.Path[i].id] != ""
				}
				if moved {
					for i := range r.Path {
						tokens[side][r.Path[i].id] = ""
					}
					if !last.Zone().Node.Home() {
						tokens[side][last] = r.ID
					} else {
						closing = true
					}
				}
			})
		}
	}
	e.checkSchool(p, opening, closing, drained)
	for _, side := range []anatomy.Side{anatomy.Left, anatomy.Right} {
		for z, step := range tokens[side] {
			if step != "" && school.closes() {
				e.add(DrainLeft, Warning, CommonPractice, values{"zone": anatomy.Zones[z].Key, "side": side.String()}, []Fix{CarryHome}, step)
			}
		}
	}
	e.mergeSides()
}

func (e *Evaluation) checkSchool(p *Protocol, opening, closing, drained bool) {
	if !drained {
		return
	}
	if p.School.opens() && !opening {
		e.add(NoOpening, Warning, SchoolRule, values{}, []Fix{OpenAll})
	}
	if p.School.closes() && !closing {
		e.add(NoClosing, Warning, SchoolRule, values{}, []Fix{CarryHome})
	}
}

// mergeSides joins findings that say the same of left and of right into one
// without a side, so that a both-sided fault is told once.
func (e *Evaluation) mergeSides() {
	out := e.Findings[:0]
	for _, f := range e.Findings {
		joined := false
		for i := range out {
			g := &out[i]
			if g.Code == f.Code && len(g.Steps) > 0 && len(f.Steps) > 0 && g.Steps[0] == f.Steps[0] && f.Values["side"] != g.Values["side"] && g.Values["side"] != nil && f.Values["node"] == g.Values["node"] && f.Values["zone"] == g.Values["zone"] {
				delete(g.Values, "side")
				g.ID = string(g.Code) + ":" + g.Steps[0]
				joined = true
				break
			}
		}
		if !joined {
			out = append(out, f)
		}
	}
	e.Findings = out
}

// touches reports whether the step's path works a zone of the node group.
func (r *Resolved) touches(g anatomy.NodeGroup) bool {
	for i := range r.Path {
		if r.Path[i].id.Zone().Node == g {
			return true
		}
	}
	return false
}

// closedAhead returns the node group that a drain ending in a zone flows into,
// when none of those it may flow into is open.
func closedAhead(last anatomy.ID, open *[8]bool) (anatomy.NodeGroup, bool) {
	groups := anatomy.NodesOf(last)
	for _, g := range groups {
		if open[g.Rank()] {
			return "", false
		}
	}
	if len(groups) == 0 {
		return "", false
	}
	return groups[0], true
}

// openFixes offers to bring forward a later step that opens the group, else to
// add an opening stroke.
func (e *Evaluation) openFixes(p *Protocol, r *Resolved, g anatomy.NodeGroup, from int) []Fix {
	for i := from + 1; i < len(e.Visits); i++ {
		if s := &e.Steps[e.Visits[i].Step]; s.Intent == stroke.Open && s.touches(g) && s.step.Round == "" && s.Phase == r.Phase {
			return []Fix{MoveBefore, OpenFirst}
		}
	}
	return []Fix{OpenFirst}
}

// film follows the product on the skin through the visits and judges glide.
func (e *Evaluation) film(p *Protocol, ctx *Context) {
	var skin film.Film
	factor := film.SkinFactor(ctx.SkinType, ctx.SkinStates)
	lastUsed := ""
	for vi := range e.Visits {
		v := &e.Visits[vi]
		r := &e.Steps[v.Step]
		s := r.step
		if s.Use != nil {
			if prod := ctx.Products[s.Use.Product]; prod != nil {
				mL, _ := s.Use.Amount.In(prod)
				side := anatomy.Mid
				if len(v.Passes) == 1 && v.Passes[0].side != anatomy.Mid {
					side = v.Passes[0].side
				}
				bits := r.regions
				if len(r.Path) == 0 {
					bits = 0
				}
				skin.Apply(v.Start, bits, side, mL, prod.FullDose, prod.HalfLifeMinutes()*factor)
				e.count(prod, mL)
				if prod.HalfLifeMinutes() > 0 {
					lastUsed = prod.Key
				}
			}
		}
		need := film.Need(r.Glide)
		v.NeedLeast, v.NeedMost = need.Least, need.Most
		v.SlipStart, v.SlipEnd = slipUnder(&skin, r, v.Passes[0].Start, v.Passes[0].side), slipUnder(&skin, r, v.End, v.Passes[len(v.Passes)-1].side)
		if len(r.Path) > 0 && r.Glide != stroke.AnyGlide && v.Pass == 1 {
			e.checkGlide(r, v, &skin, lastUsed)
		}
		switch s.Remove {
		case "blot":
			skin.Remove(r.regions, film.Blotted)
		case "wipe":
			skin.Remove(r.regions, film.Wiped)
		}
	}
	for i := range e.Products {
		pl := &e.Products[i]
		if prod := ctx.Products[pl.Product]; prod.RangeMax > 0 && pl.ML > prod.RangeMax*1.0001 {
			e.add(AmountOver, Warning, CommonPractice, values{"product": prod.Name, "ml": round2(pl.ML), "most": prod.RangeMax}, []Fix{LessProduct}, e.lastUse(prod.Key))
		}
	}
}

func (e *Evaluation) lastUse(product string) string {
	for i := len(e.Steps) - 1; i >= 0; i-- {
		if u := e.Steps[i].step.Use; u != nil && u.Product == product {
			return e.Steps[i].ID
		}
	}
	return ""
}

func (e *Evaluation) count(prod *film.Product, mL float64) {
	for i := range e.Products {
		if e.Products[i].Product == prod.Key {
			e.Products[i].ML += mL
			return
		}
	}
	e.Products = append(e.Products, Planned{prod.Key, prod.Name, mL})
}

// slipUnder returns the slip that decides over the step's path: the least,
// where a sliding hand would stick first, or the most for a gripping stroke.
// Regions that carry no product (hair, mouth) do not count.
func slipUnder(f *film.Film, r *Resolved, at float64, side anatomy.Side) float64 {
	slip, seen := 0.0, false
	for i, reg := range anatomy.Regions {
		if r.regions&(1<<i) == 0 || reg == anatomy.Scalp || reg == anatomy.Mouth {
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

func (e *Evaluation) checkGlide(r *Resolved, v *Visit, skin *film.Film, lastUsed string) {
	if r.regions&^(1<<film.RegionIndex(anatomy.Scalp)|1<<film.RegionIndex(anatomy.Mouth)) == 0 {
		return
	}
	low, high := min(v.SlipStart, v.SlipEnd), max(v.SlipStart, v.SlipEnd)
	vals := values{"slip": math.Round(low), "least": v.NeedLeast, "glide": string(r.Glide)}
	switch {
	case low < v.NeedLeast && !skin.Stated():
		e.add(GlideUnknown, Note, Estimate, vals, nil, r.ID)
	case low < v.NeedLeast:
		vals["product"] = lastUsed
		e.add(GlideThin, Warning, Estimate, vals, []Fix{AddProduct}, r.ID)
	case high > v.NeedMost:
		e.add(GlideWet, Warning, Estimate, values{"slip": math.Round(high), "most": v.NeedMost}, []Fix{Blot}, r.ID)
	case r.Glide == stroke.KneadGlide && high > film.Slippery:
		e.add(GlideSlick, Note, Estimate, values{"slip": math.Round(high), "most": film.Slippery}, []Fix{Blot}, r.ID)
	}
}

// balance compares the seconds given to left and right; work on the midline or
// both sides at once counts for neither.
func (e *Evaluation) balance() {
	stated := false
	var steps []string
	for vi := range e.Visits {
		v := &e.Visits[vi]
		r := &e.Steps[v.Step]
		if r.step.Emphasis != nil || r.step.Departure != "" && r.Sides != stroke.InTurns {
			stated = true
		}
		for i := range v.Passes {
			switch v.Passes[i].side {
			case anatomy.Left:
				e.LeftSeconds += v.Passes[i].Seconds
			case anatomy.Right:
				e.RightSeconds += v.Passes[i].Seconds
			default:
				continue
			}
			if r.Sides != stroke.InTurns && !contains(steps, r.ID) {
				steps = append(steps, r.ID)
			}
		}
	}
	most := max(e.LeftSeconds, e.RightSeconds)
	if most == 0 || stated || (most-min(e.LeftSeconds, e.RightSeconds))/most <= 0.10 {
		return
	}
	var fixes []Fix
	if len(steps) > 0 {
		fixes = []Fix{MirrorStep}
	}
	e.add(SidesUnequal, Warning, CommonPractice, values{"left": math.Round(e.LeftSeconds), "right": math.Round(e.RightSeconds)}, fixes, steps...)
}

// FitGrace is how many seconds short of its slot a plan may stay.
const FitGrace = 15

func (e *Evaluation) fit() {
	over := e.Seconds - float64(e.SlotSeconds)
	vals := values{"seconds": math.Round(math.Abs(over)), "slot": e.SlotSeconds}
	switch {
	case over > 0.5:
		e.add(FitOver, Warning, Plan, vals, []Fix{FitSlot})
	case over < -FitGrace-0.5 && len(e.Steps) > 0:
		e.add(FitUnder, Note, Plan, vals, []Fix{FitSlot})
	}
}

func round2(x float64) float64 { return math.Round(x*100) / 100 }
