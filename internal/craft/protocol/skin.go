package protocol

import (
	"slices"

	"softpalm/internal/craft/stroke"
)

// Skins are the skin types and states that a plan may speak of (handbook, chapter 3).
var Skins = []string{
	"dry", "normal", "combination", "oily",
	"sensitive", "dehydrated", "mature", "acne-prone", "rosacea-prone", "couperose", "pigmentation-prone",
}

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
	{
		"acne-prone",
		[]stroke.Family{stroke.ToolRoll, stroke.Tapotement, stroke.SkinRolling},
		[]string{"twin-ball-roller", "cylinder-roller", "mitt"},
		nil,
	},
	{
		"rosacea-prone",
		[]stroke.Family{stroke.Friction, stroke.Tapotement},
		[]string{"stone", "cup", "cold", "compress", "mitt"},
		cheeksAndNose,
	},
	{
		"couperose",
		[]stroke.Family{stroke.Friction, stroke.Tapotement},
		[]string{"stone", "cup", "cold", "compress", "mitt"},
		cheeksAndNose,
	},
	{"pigmentation-prone", []stroke.Family{stroke.Friction}, []string{"cup", "mitt"}, nil},
}

// Bears reports whether a skin tolerates a stroke worked with a kind of tool ("" for
// the hand) somewhere; else it names the state that does not. Families are all that the stroke
// belongs to.
func (c *Context) Bears(
	families []stroke.Family,
	intent stroke.Intent,
	kind string,
	touches func(zones []string) bool,
) (skin string, ok bool) {
	for i := range unsuitables {
		u := &unsuitables[i]
		if !c.HasSkin(u.skin) || u.zones != nil && !touches(u.zones) {
			continue
		}
		wipes := kind == "compress" && intent == stroke.Cleanse // lukewarm, and gone in a moment
		rubs := slices.ContainsFunc(families, func(f stroke.Family) bool { return slices.Contains(u.families, f) })
		if rubs || kind != "" && !wipes && slices.Contains(u.kinds, kind) {
			return u.skin, false
		}
	}
	return "", true
}
