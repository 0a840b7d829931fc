package drafting

import (
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// suits reports whether a stroke may be in the work at all.
func (d *drafting) suits(st *stroke.Stroke) bool {
	return d.isWork(st) && d.hasTool(st) && onTheFace(st) && d.methodAllows(st) && d.skinAllows(st) && d.areaAllows(st)
}

// isWork tells work from opening, closing and what frames it.
func (d *drafting) isWork(st *stroke.Stroke) bool {
	if d.barred[st.Key] || slices.Contains(bookends, st.Key) {
		return false
	}
	switch st.Intent {
	case stroke.Drain, stroke.Lift, stroke.Release, stroke.Soothe, stroke.Stimulate:
		return len(st.Zones()) > 0
	case stroke.Tone:
		return d.q.Exercises
	}
	return false
}

// bookends open and close a plan; they are not work.
var bookends = []string{"feather-sweep", "lobe-to-hollow", "chest-open", "chest-drain", "windpipe-glide"}

func (d *drafting) kindOf(st *stroke.Stroke) string {
	if st.Tool == nil {
		return ""
	}
	return d.ctx.Tools[st.Tool.Key].Kind
}

func (d *drafting) hasTool(st *stroke.Stroke) bool {
	return st.Tool == nil || slices.Contains(d.q.Tools, st.Tool.Key) && d.ctx.Tools[st.Tool.Key].Name != ""
}

// onTheFace leaves out work inside the mouth, which needs its own consent, add-ons, and what is
// reserved for them.
func onTheFace(st *stroke.Stroke) bool {
	for _, z := range st.Zones() {
		id, ok := anatomy.Lookup(z)
		if !ok || id.Zone().Region == anatomy.Mouth || id.Zone().Region == anatomy.AddOn {
			return false
		}
	}
	return true
}

// methodAllows asks the method: drainage, redness, dry work.
func (d *drafting) methodAllows(st *stroke.Stroke) bool {
	switch d.q.Method.DrainageOrUsual() {
	case "none":
		if st.Intent == stroke.Drain {
			return false
		}
	case "whole":
		if st.Intent != stroke.Drain {
			return false
		}
	}
	kind := d.kindOf(st)
	if !d.redden && (has(st, stroke.Friction, stroke.Tapotement, "skin rolling", "flick/whip") || kind == "cup" || kind == "mitt") {
		return false
	}
	if st.Glide == stroke.GripGlide && (!d.grips || st.Tool != nil) { // a roller would need a block of its own
		return false
	}
	dry := d.q.Method.Slip == "dry"
	return !dry || st.Glide != stroke.StoneGlide && (st.Relation != stroke.Slides || !touches(st, delicate...))
}

// skinAllows asks the skin, and for gentle skins the family and the glide.
func (d *drafting) skinAllows(st *stroke.Stroke) bool {
	kind := d.kindOf(st)
	if _, ok := d.ctx.Bears(st.AllFamilies(), st.Intent, kind, func(zones []string) bool { return touches(st, zones...) }); !ok {
		return false
	}
	if !d.gentle || st.Intent == stroke.Tone || !touches(st, cheeksChinNose...) {
		return true
	}
	if has(st, stroke.Friction, "scissor", stroke.Tapotement, "flick/whip", "skin rolling", "pick-up", "twist") || kind != "" && kind != "cold" {
		return false
	}
	slides := st.Relation == stroke.Slides
	if slides && (st.Intent == stroke.Drain || st.Pressure >= 3 || has(st, "stripping")) {
		return false
	}
	return !slides || !slices.ContainsFunc(unslidSkins, d.ctx.HasSkin)
}

// areaAllows keeps sliding to the area that product goes on.
func (d *drafting) areaAllows(st *stroke.Stroke) bool {
	if d.area == nil || !needsSlip(st.Glide) {
		return true
	}
	return !slices.ContainsFunc(st.Zones(), func(z string) bool { return !slices.Contains(d.area, z) })
}

func has(st *stroke.Stroke, families ...stroke.Family) bool {
	return slices.ContainsFunc(st.AllFamilies(), func(f stroke.Family) bool { return slices.Contains(families, f) })
}

func touches(st *stroke.Stroke, zones ...string) bool {
	return slices.ContainsFunc(st.Zones(), func(z string) bool { return slices.Contains(zones, z) })
}

var delicate = func() (keys []string) {
	for i := range anatomy.Zones {
		if anatomy.Zones[i].Delicate {
			keys = append(keys, anatomy.Zones[i].Key)
		}
	}
	return keys
}()

// serves is how a stroke serves a concern: 2 its zones with its intents, 1 the zones beside them with its
// intents or its zones with another, 0 not at all.
func serves(st *stroke.Stroke, c *protocol.Concern) int {
	intent := slices.Contains(c.Intents, st.Intent)
	switch {
	case touches(st, c.Zones...) && intent:
		return 2
	case touches(st, c.Zones...) || touches(st, c.Also...) && intent:
		return 1
	}
	return 0
}

// onConcern reports whether a stroke works a concern's zones with its intents.
func (d *drafting) onConcern(st *stroke.Stroke) bool {
	return slices.ContainsFunc(d.concerns, func(c *protocol.Concern) bool { return serves(st, c) == 2 })
}

// area of the eyes and of the jaw, where product goes on nothing else.
var (
	eyeArea = []string{
		"upper-orbital-rim", "orbital-rim", "inner-eye-corner", "outer-eye-corner", "under-eye", "brow", "brow-base", "glabella",
		"temple", "forehead", "forehead-centre", "hairline", "front-of-ear",
	}
	jawArea = []string{
		"chin", "jawline", "jaw-angle", "lower-cheek", "mouth-corner", "upper-lip", "lower-lip", "lip-centre-upper", "lip-centre-lower",
		"mid-cheek", "under-cheekbone", "cheekbone", "nose-side", "nasolabial", "ear-lobe", "front-of-ear",
	}
)

// smallArea is the area of a short treatment of eyes or jaw alone; nil where the whole face is worked.
func (d *drafting) smallArea() []string {
	if d.q.Minutes > 30 || len(d.concerns) == 0 {
		return nil
	}
	all := func(of []string) bool {
		return !slices.ContainsFunc(d.concerns, func(c *protocol.Concern) bool { return !slices.Contains(of, c.Key) })
	}
	switch {
	case all(eyesOnly):
		return eyeArea
	case all(jawOnly):
		return jawArea
	}
	return nil
}
