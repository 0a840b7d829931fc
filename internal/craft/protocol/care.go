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
		if u := r.step.Use; u != nil && r.step.Departure == "" {
			prod := ctx.Products[u.Product]
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
	if ctx.LongNails {
		for _, a := range r.stroke.Alternates {
			if a.When == "long-nails" && r.Hand == r.stroke.Hand && r.Tool == nil {
				e.add(LongNails, Warning, CommonPractice, values{"hand": r.Hand}, []Fix{UseAlternate}, r.ID)
			}
		}
		if r.on("ear-opening") {
			e.add(LongNails, Warning, CommonPractice, values{"hand": r.Hand}, []Fix{LeaveStep}, r.ID)
		}
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
	mask := false
	if u := r.step.Use; u != nil {
		mask = ctx.Products[u.Product].Form == film.Mask
	}
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
		if u := r.step.Use; u != nil && ctx.Products[u.Product].Form == film.Mist {
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
		if busy := ctx.ReadyIn[r.Tool.Key]; busy*60 > v.Start && v.Pass == 1 {
			e.add(ToolBusy, Warning, CommonPractice, values{"tool": r.ToolName, "minutes": math.Ceil(busy - v.Start/60)}, []Fix{DropTool}, r.ID)
		}
		if tool.Porous && vi > 0 && e.Visits[vi-1].Tool != r.Tool.Key && e.usedBefore(vi, r.Tool.Key) && r.step.Departure == "" {
			e.add(PorousTwice, Warning, CommonPractice, values{"tool": r.ToolName}, []Fix{DropTool}, r.ID)
		}
	}
	if cold > ColdSeconds {
		e.add(ColdLong, Warning, CommonPractice, values{"minutes": math.Ceil(cold / 60), "most": ColdSeconds / 60}, []Fix{ShorterCold}, coldStep)
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

// tiring adds up the practitioner's thumb, pinch and knuckle work at 4 to 5: in
// one run without a pause, and over the day.
func (e *Evaluation) tiring(ctx *Context) {
	run, all := 0.0, 0.0
	for vi := range e.Visits {
		v := &e.Visits[vi]
		r := &e.Steps[v.Step]
		hard := 0
		for i := range r.Path {
			hard = max(hard, r.Path[i].Pressure)
		}
		if r.Tool != nil || hard < 4 || !stroke.Tires(r.Hand) {
			if len(r.Path) == 0 || v.End-v.Start >= 30 {
				run = 0
			}
			continue
		}
		run += v.End - v.Start
		all += v.End - v.Start
		if run > TiringSeconds {
			e.add(HandsTired, Note, StudioLimit, values{"minutes": round2(run / 60), "most": TiringSeconds / 60}, []Fix{ShakeOut}, r.ID)
			run = 0
		}
	}
	if day := ctx.HandsToday + all/60; all > 0 && day > TiringDayMinute {
		e.add(HandsDay, Note, StudioLimit, values{"minutes": math.Round(day), "most": TiringDayMinute}, nil)
	}
}

// habits judges what depends on the days and hours around the visit.
func (e *Evaluation) habits(p *Protocol, ctx *Context) {
	drains, exfoliates, rolls, deep := "", "", "", ""
	for i := range e.Steps {
		r := &e.Steps[i]
		hard := 0
		for k := range r.Path {
			hard = max(hard, r.Path[k].Pressure)
		}
		switch {
		case r.Intent == stroke.Drain:
			drains = r.ID
		case hard >= 5:
			deep = r.ID
		}
		if r.Tool != nil && ctx.Tools[r.Tool.Key].Roller() {
			rolls = r.ID
		}
		u := r.step.Use
		if r.kind(ctx) == "mitt" || u != nil && ctx.Products[u.Product].HasTag("exfoliant", "acid") {
			exfoliates = r.ID
		}
	}
	within := func(kind string, days int) (n int) {
		for _, ago := range ctx.DaysSince[kind] {
			if ago < days {
				n++
			}
		}
		return n
	}
	if n := within("exfoliation", 7); exfoliates != "" && n >= 1 {
		e.add(TooOften, Warning, CommonPractice, values{"what": "exfoliation", "times": n, "days": 7}, []Fix{LeaveStep}, exfoliates)
	}
	for what, step := range map[string]string{"roller": rolls, "deep": deep} {
		if n := within(what, 7); step != "" && n >= 3 {
			e.add(TooOften, Warning, CommonPractice, values{"what": what, "times": n, "days": 7}, []Fix{LeaveStep}, step)
		}
	}
	if drains != "" && ctx.ToBed > 0 && ctx.ToBed < 120 {
		e.add(LateDrain, Note, CommonPractice, values{"minutes": math.Round(ctx.ToBed)}, nil, drains)
	}
}
