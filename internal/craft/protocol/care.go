package protocol

import (
	"math"
	"slices"

	"softpalm/internal/craft/film"
	"softpalm/internal/craft/stroke"
)

// This file judges what a plan asks of skin, tools and the practitioner's own
// hands: suitability, times that must be stated, hygiene, tired joints.

// unsuitable says what a skin type or state does not bear (handbook, variants
// by skin type; common practice). Nil zones mean everywhere.
type unsuitable struct {
	skin     string
	families []stroke.Family
	kinds    []string
	zones    []string
}

var cheeksAndNose = []string{"cheekbone", "under-cheekbone", "mid-cheek", "lower-cheek", "nasolabial", "nose-bridge", "nose-side"}

var unsuitables = []unsuitable{
	{"sensitive", []stroke.Family{stroke.Friction, stroke.Tapotement}, []string{"mitt"}, nil},
	{"acne-prone", []stroke.Family{stroke.ToolRoll, stroke.Tapotement, stroke.SkinRolling}, []string{"twin-ball-roller", "cylinder-roller", "mitt"}, nil},
	{"rosacea-prone", []stroke.Family{stroke.Friction, stroke.Tapotement}, []string{"stone", "cup", "cold", "compress", "mitt"}, cheeksAndNose},
	{"couperose", []stroke.Family{stroke.Friction, stroke.Tapotement}, []string{"stone", "cup", "cold", "compress", "mitt"}, cheeksAndNose},
	{"pigmentation-prone", []stroke.Family{stroke.Friction}, []string{"cup", "mitt"}, nil},
}

// bears reports whether a skin bears a stroke worked with a kind of tool ("" for
// the hand) somewhere; else it names the state that does not.
func (c *Context) bears(family stroke.Family, intent stroke.Intent, kind string, touches func(zones []string) bool) (skin string, ok bool) {
	for i := range unsuitables {
		u := &unsuitables[i]
		if !c.seen(u.skin) || u.zones != nil && !touches(u.zones) {
			continue
		}
		wipes := kind == "compress" && intent == stroke.Cleanse // lukewarm, and gone in a moment
		if slices.Contains(u.families, family) || kind != "" && !wipes && slices.Contains(u.kinds, kind) {
			return u.skin, false
		}
	}
	return "", true
}

func (r *Resolved) kind(ctx *Context) string {
	if r.Tool == nil {
		return ""
	}
	return ctx.Tools[r.Tool.Key].Kind
}

func (e *Evaluation) checkSuitability(r *Resolved, p *Protocol, ctx *Context) {
	kind := r.kind(ctx)
	if ctx.SkinType != "" || len(ctx.SkinStates) > 0 {
		touches := func(zones []string) bool {
			return slices.ContainsFunc(r.Path, func(s Stop) bool { return slices.Contains(zones, s.Zone) })
		}
		if skin, ok := ctx.bears(r.Family, r.Intent, kind, touches); !ok && r.step.Departure == "" {
			fixes := []Fix{LeaveStep}
			if len(r.stroke.Alternates) > 0 {
				fixes = []Fix{UseAlternate, LeaveStep}
			}
			e.add(Unsuited, Warning, CommonPractice, values{"skin": skin, "what": "stroke"}, fixes, r.ID)
		}
		if prod := ctx.product(r.step.Use); prod != nil && r.step.Departure == "" {
			for _, skin := range prod.Unsuited {
				if ctx.seen(skin) {
					e.add(Unsuited, Warning, CommonPractice, values{"skin": skin, "what": "product", "product": prod.Name}, nil, r.ID)
				}
			}
		}
	}
	if p.School.Redness == "avoided" && r.step.Departure == "" && (r.Family == stroke.Friction || r.Family == stroke.Tapotement || kind == "cup" || kind == "mitt") {
		e.add(Redness, Warning, SchoolRule, values{}, []Fix{LeaveStep, SayDeparture}, r.ID)
	}
	if ctx.LongNails && r.Scratches() {
		fix := LeaveStep
		if r.nailsWay() {
			fix = UseAlternate
		}
		e.add(LongNails, Warning, CommonPractice, values{"hand": r.Hand}, []Fix{fix}, r.ID)
	}
}

// Scratches reports whether long nails would scratch: the stroke names another
// way for them and is done with the bare hand as it stands, or it is done at the
// ear's opening, or in the mouth, where nails also tear gloves (handbook,
// chapters 1 and 2; the mouth from memory).
func (r *Resolved) Scratches() bool {
	return r.Tool == nil && (r.nailsWay() || r.on("ear-opening") || r.mouth())
}

// nailsWay reports whether the stroke names another way for long nails, which the
// step does not take yet.
func (r *Resolved) nailsWay() bool {
	return r.Hand == r.stroke.Hand && slices.ContainsFunc(r.stroke.Alternates, func(a stroke.Alternate) bool { return a.When == "long-nails" })
}

// checkThere finds steps whose stroke or product was removed since.
func (e *Evaluation) checkThere(r *Resolved, ctx *Context) {
	if ctx.Strokes[r.step.Stroke] == nil {
		e.add(StrokeMissing, Stopping, StudioLibrary, values{"stroke": r.step.Stroke}, []Fix{LeaveStep}, r.ID)
	}
	if u := r.step.Use; u != nil && ctx.product(u) == nil {
		e.add(ProductMissing, Stopping, StudioLibrary, values{"product": u.Product}, []Fix{DropProduct}, r.ID)
	}
}

// checkGaps shows what was never said; it is judged at the stroke's default.
func (e *Evaluation) checkGaps(r *Resolved) {
	if len(r.step.Gaps) == 0 && len(r.stroke.Gaps) == 0 {
		return
	}
	for _, property := range stroke.Properties {
		said, ok := r.step.Gaps[property]
		if !ok {
			said, ok = r.stroke.Gaps[property]
		}
		if ok {
			e.add(NotSaid, Note, CommonPractice, values{"property": property, "said": said}, nil, r.ID)
		}
	}
}

// checkTimed asks for the time of masks and cold.
func (e *Evaluation) checkTimed(r *Resolved, p *Protocol, ctx *Context) {
	prod := ctx.product(r.step.Use)
	mask := prod != nil && prod.Form == film.Mask
	cold := r.Tool != nil && ctx.Tools[r.Tool.Key].Cold()
	if (mask || cold) && r.Dose.Open() {
		e.add(NoTime, Warning, CommonPractice, values{"mask": mask}, []Fix{StateTime}, r.ID)
	}
	if cold && r.Relation == stroke.Still && r.Family == stroke.ToolPress && (r.on("under-eye") || r.on("lower-eyelid") || r.on("orbital-rim")) {
		e.add(ColdStill, Warning, CommonPractice, values{}, []Fix{LeaveStep}, r.ID)
	}
}

// Limits of cold and of the practitioner's joints. The first is the handbook's,
// chapter 4; the others are starting values of a studio.
const (
	ColdSeconds     = 600.0
	TiringSeconds   = 300.0
	TiringDayMinute = 60.0
)

// hygiene follows hands, gloves and tools through the visits.
func (e *Evaluation) hygiene(p *Protocol, ctx *Context) {
	cold, misted, coldStep := 0.0, false, ""
	for vi := range e.Visits {
		v := &e.Visits[vi]
		r := &e.Steps[v.Step]
		if prod := ctx.product(r.step.Use); prod != nil && prod.Form == film.Mist {
			misted = true
		}
		if r.Tool != nil && ctx.Tools[r.Tool.Key].Cold() {
			cold += v.End - v.Start
			coldStep = r.ID
			if !misted && ctx.seen("dehydrated") {
				e.add(ColdDry, Note, CommonPractice, values{}, []Fix{MistFirst}, r.ID)
			}
		}
		if p.OnClient() {
			e.mouthHygiene(v, r)
		}
		if r.Tool == nil {
			continue
		}
		tool := ctx.Tools[r.Tool.Key]
		if tool.Porous && vi > 0 && e.Visits[vi-1].Tool != r.Tool.Key && e.usedBefore(vi, r.Tool.Key) && r.step.Departure == "" {
			e.add(PorousTwice, Warning, CommonPractice, values{"tool": r.ToolName}, []Fix{DropTool}, r.ID)
		}
	}
	for _, key := range e.Tools {
		e.toolReady(key, ctx.ReadyIn[key])
	}
	if cold > ColdSeconds {
		e.add(ColdLong, Warning, CommonPractice, values{"minutes": math.Ceil(cold / 60), "most": ColdSeconds / 60}, []Fix{ShorterCold}, coldStep)
	}
}

// toolReady finds, once for a tool, the steps that want it before it is ready.
func (e *Evaluation) toolReady(key string, minutes float64) {
	var steps []string
	first := 0.0
	for vi := range e.Visits {
		v := &e.Visits[vi]
		r := &e.Steps[v.Step]
		if v.Tool != key || v.Start >= minutes*60 || slices.Contains(steps, r.ID) {
			continue
		}
		if len(steps) == 0 {
			first = v.Start / 60
		}
		steps = append(steps, r.ID)
	}
	if len(steps) > 0 {
		at := slices.IndexFunc(e.Steps, func(r Resolved) bool { return r.ID == steps[0] })
		e.add(ToolBusy, Warning, CommonPractice, values{"tool": e.Steps[at].ToolName, "minutes": math.Ceil(minutes - first)}, []Fix{DropTool}, steps...)
	}
}

func (e *Evaluation) usedBefore(vi int, tool string) bool {
	for k := range vi {
		if e.Visits[k].Tool == tool {
			return true
		}
	}
	return false
}

func (e *Evaluation) mouthHygiene(v *Visit, r *Resolved) {
	switch {
	case r.mouth() && r.step.Gloves == "none":
		e.add(NoGloves, Stopping, CommonPractice, values{}, []Fix{WearGloves}, r.ID)
	case r.mouth() && v.Hands != CleanHands && v.Hands != MouthHands:
		e.add(NotWashed, Stopping, CommonPractice, values{"after": string(v.Hands)}, []Fix{WashHands}, r.ID)
	case !r.mouth() && v.Gloves && len(r.Path) > 0:
		e.add(GlovesKept, Stopping, CommonPractice, values{}, []Fix{WearGloves}, r.ID)
	}
}

// Tiring is how many seconds a plan asks of the practitioner's thumb, pinch and
// knuckle at 4 to 5.
func (e *Evaluation) Tiring() float64 {
	all := 0.0
	for vi := range e.Visits {
		if v := &e.Visits[vi]; e.tires(v) {
			all += v.End - v.Start
		}
	}
	return all
}

func (e *Evaluation) tires(v *Visit) bool {
	r := &e.Steps[v.Step]
	return r.Tool == nil && r.hardest() >= 4 && stroke.Tires(r.Hand)
}

// hardest is the most pressure on the path.
func (r *Resolved) hardest() int {
	hard := 0
	for i := range r.Path {
		hard = max(hard, r.Path[i].Pressure)
	}
	return hard
}

// tiring judges the tiring work: in one run without a pause, and over the day.
func (e *Evaluation) tiring(ctx *Context) {
	run := 0.0
	for vi := range e.Visits {
		v := &e.Visits[vi]
		r := &e.Steps[v.Step]
		if !e.tires(v) {
			if len(r.Path) == 0 || v.End-v.Start >= 30 {
				run = 0
			}
			continue
		}
		run += v.End - v.Start
		if run > TiringSeconds {
			e.add(HandsTired, Note, StudioLimit, values{"minutes": round2(run / 60), "most": TiringSeconds / 60}, []Fix{ShakeOut}, r.ID)
			run = 0
		}
	}
	all := e.Tiring()
	if day := ctx.HandsToday + all/60; all > 0 && day > TiringDayMinute {
		e.add(HandsDay, Note, StudioLimit, values{"minutes": math.Round(day), "most": TiringDayMinute}, nil)
	}
}

// Work that the skin does not want too often; see [Context.DaysSince].
const (
	Exfoliation = "exfoliation"
	RollerWork  = "roller"
	DeepWork    = "deep"
)

// SpareSkin tells which kinds of work that the skin does not want too often a
// plan has, each with the last step that does it.
func (e *Evaluation) SpareSkin(ctx *Context) map[string]string {
	found := map[string]string{}
	for i := range e.Steps {
		r := &e.Steps[i]
		if r.Intent != stroke.Drain && r.hardest() >= 5 {
			found[DeepWork] = r.ID
		}
		if r.Tool != nil && ctx.Tools[r.Tool.Key].Roller() {
			found[RollerWork] = r.ID
		}
		prod := ctx.product(r.step.Use)
		if r.kind(ctx) == "mitt" || prod != nil && prod.HasTag("exfoliant", "acid") {
			found[Exfoliation] = r.ID
		}
	}
	return found
}

// habits judges what depends on the days and hours around the visit.
func (e *Evaluation) habits(ctx *Context) {
	if ctx.ToBed > 0 && ctx.ToBed < 120 {
		for i := len(e.Steps) - 1; i >= 0; i-- {
			if e.Steps[i].Intent == stroke.Drain {
				e.add(LateDrain, Note, CommonPractice, values{"minutes": math.Round(ctx.ToBed)}, nil, e.Steps[i].ID)
				break
			}
		}
	}
	if len(ctx.DaysSince) == 0 {
		return
	}
	found := e.SpareSkin(ctx)
	for _, kind := range []struct {
		what string
		most int // times in seven days before this one
	}{{Exfoliation, 0}, {RollerWork, 2}, {DeepWork, 2}} {
		n := 0
		for _, ago := range ctx.DaysSince[kind.what] {
			if ago < 7 {
				n++
			}
		}
		if found[kind.what] != "" && n > kind.most {
			e.add(TooOften, Warning, CommonPractice, values{"what": kind.what, "times": n, "days": 7}, []Fix{LeaveStep}, found[kind.what])
		}
	}
}
