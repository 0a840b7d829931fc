package protocol

import (
	"strings"

	"softpalm/internal/craft/stroke"
)

// Concern is what a client comes with and a plan answers (handbook, chapter 3;
// common practice). Zones are those that a plan which promises the concern must
// work; Intents those that serve it, best first.
type Concern struct {
	Key     string   `json:"key"`
	Name    string   `json:"name"`
	Zones   []string `json:"zones"`
	Muscles []string `json:"muscles"`
	// Also are zones that keep the promise as well, where a plan works them instead.
	Also       []string        `json:"also,omitempty"`
	Intents    []stroke.Intent `json:"intents"`
	Precaution string          `json:"caution"`
	// ReviewDays is after how many days of regular work the change is judged.
	ReviewDays int `json:"reviewDays"`
	// Claim is what practitioners say; it is unverified and never printed as an
	// effect.
	Claim string `json:"claim"`
}

// Concerns lists the concerns.
var Concerns = []Concern{
	concern("puffiness", "Puffiness", "orbital-rim mid-cheek", "", "drain soothe", "Refer new or one-sided swelling to a doctor.", "looks less puffy for some hours"),
	concern("dark-circles", "Dark circles", "orbital-rim inner-eye-corner", "", "drain soothe", "Feather-light only; never drag here.", "looks rested"),
	concern("frown-lines", "Frown lines", "glabella brow-base", "procerus, corrugator", "release lift", "Ask about injections.", "the frown softens"),
	concern("forehead-lines", "Forehead lines", "forehead-centre forehead", "frontalis", "lift release soothe", "Ask about injections.", "lines look softer"),
	concern("eye-lines", "Eye lines", "outer-eye-corner orbital-rim", "orbicularis oculi", "soothe release drain", "Take lenses out; hold the skin, never drag.", "lines look softer"),
	concern("neck-lines", "Neck lines", "front-neck side-neck", "platysma", "lift drain", "Keep off the throat; nothing on the front with thyroid disease.", "the neck looks smoother"),
	concern("low-brow", "Low or heavy brow", "brow forehead", "frontalis", "lift tone", "Ask about injections and tattooed brows.", "the brow feels lighter"),
	concern("drooping", "Drooping", "cheekbone jawline", "zygomaticus, masseter", "lift release", "Ask about threads and fillers.", "the face looks lifted for a while"),
	concern("small-eyes", "Small eyes", "brow orbital-rim", "levator palpebrae", "lift tone drain", "Lenses out.", "the eyes look more open"),
	concern("unequal-eyes", "Unequal eyes", "brow orbital-rim", "frontalis", "lift tone drain", "Refer a new difference to a doctor.", "the sides look more alike"),
	concern("screen-tired-eyes", "Screen-tired eyes", "temple brow-base orbital-rim", "temporalis", "soothe release drain", "Lenses out.", "the eyes feel rested"),
	concern("nasolabial-folds", "Nasolabial folds", "nasolabial mid-cheek", "levator labii", "lift release", "Ask about fillers.", "the fold looks softer"),
	concern("mouth-corners", "Mouth corners", "mouth-corner", "depressor anguli oris", "lift release tone", "Not over a cold sore.", "the corners look lighter"),
	concern("lips", "Thin or dry lips", "upper-lip lower-lip", "orbicularis oris", "release soothe tone", "Not over a cold sore.", "the lips look fuller for an hour"),
	concern("jowls", "Jowls", "jawline lower-cheek", "platysma, masseter", "lift release drain", "Ask about threads and fat-dissolving injections.", "the jawline looks more defined"),
	concern("double-chin", "Double chin", "under-chin under-jaw", "digastric", "drain lift tone", "Refer painful or hard nodes to a doctor.", "looks less full for some hours"),
	concern("clenching", "Clenching and jaw pain", "jaw-angle temple", "masseter, temporalis", "release soothe", "Stop above pain 3 out of 10; a recent lock needs a letter.", "the jaw feels looser"),
	concern("skull-edge", "Knots at the skull's edge", "skull-edge", "suboccipitals", "release soothe", "Not with a neck disc.", "the head feels lighter"),
	concern("shoulders", "Shoulders", "shoulder", "upper trapezius", "release soothe", "Light pressure at most in pregnancy.", "the shoulders drop"),
	concern("rounded-chest", "Rounded chest", "chest shoulder", "pectoralis", "release", "Ask before uncovering; keep off ports.", "standing straighter is easier"),
	concern("blocked-sinus", "Blocked sinus", "nose-side brow-base", "", "release drain", "Fever or green discharge: not today.", "breathing feels easier"),
	concern("heavy-head", "Heavy head", "temple scalp-side", "temporalis", "release soothe", "A sudden worst headache is an emergency.", "the head feels lighter"),
	concern("dull-skin", "Dull, dry, uneven skin", "mid-cheek forehead", "", "stimulate soothe drain", "Not on irritated skin.", "the skin looks fresh"),
	concern("stress-and-sleep", "Stress and sleep", "temple forehead", "", "soothe settle release", "Ask about covering the eyes.", "falls asleep more easily"),
	concern("event-tomorrow", "Event tomorrow", "mid-cheek orbital-rim", "", "drain soothe lift", "Nothing that may redden.", "looks fresh the next day"),
	concern("little-time", "Little time", "", "", "drain lift soothe", "", ""),
}

func concern(key, name, zones, muscles, intents, caution, claim string) Concern {
	c := Concern{Key: key, Name: name, Zones: list(zones, " "), Muscles: list(muscles, ", "), Precaution: caution, ReviewDays: 14, Claim: claim}
	for _, in := range list(intents, " ") {
		c.Intents = append(c.Intents, stroke.Intent(in))
	}
	return c
}

func list(s, sep string) []string {
	if s == "" {
		return []string{}
	}
	return strings.Split(s, sep)
}

// alsoServe are the zones of a concern's group beside those that a plan is drafted for: neighbours, the
// other side of the same muscle, the nodes that drain it (common practice).
var alsoServe = map[string]string{
	"puffiness":         "under-eye upper-orbital-rim inner-eye-corner outer-eye-corner cheekbone front-of-ear",
	"dark-circles":      "under-eye upper-orbital-rim outer-eye-corner",
	"frown-lines":       "brow forehead-centre upper-orbital-rim",
	"forehead-lines":    "hairline brow glabella",
	"eye-lines":         "temple under-eye upper-orbital-rim",
	"neck-lines":        "under-jaw under-chin collarbone back-neck",
	"low-brow":          "forehead-centre hairline brow-base upper-orbital-rim temple",
	"drooping":          "mid-cheek nasolabial jaw-angle under-cheekbone",
	"small-eyes":        "upper-orbital-rim brow-base upper-eyelid lower-eyelid forehead",
	"unequal-eyes":      "upper-orbital-rim brow-base upper-eyelid forehead",
	"screen-tired-eyes": "upper-orbital-rim brow inner-eye-corner outer-eye-corner upper-eyelid",
	"nasolabial-folds":  "cheekbone mouth-corner upper-lip nose-side mouth-cheek",
	"mouth-corners":     "chin lower-cheek jawline nasolabial",
	"lips":              "lip-centre-upper lip-centre-lower mouth-corner",
	"jowls":             "chin jaw-angle mouth-corner under-jaw",
	"double-chin":       "chin jawline front-neck below-ear",
	"clenching":         "under-cheekbone lower-cheek front-of-ear scalp-side mouth-cheek mouth-upper mouth-lower",
	"skull-edge":        "occiput back-neck nape",
	"shoulders":         "back-neck upper-back collarbone",
	"rounded-chest":     "below-collarbone breastbone collarbone",
	"blocked-sinus":     "nose-bridge inner-eye-corner under-cheekbone glabella mid-cheek",
	"heavy-head":        "skull-edge crown occiput forehead",
	"dull-skin":         "cheekbone lower-cheek chin forehead-centre",
	"stress-and-sleep":  "forehead-centre shoulder scalp-side skull-edge back-neck",
	"event-tomorrow":    "cheekbone jawline forehead under-eye",
}

func init() {
	for i := range Concerns {
		Concerns[i].Also = list(alsoServe[Concerns[i].Key], " ")
	}
}

// ConcernOf returns the concern of that key, or nil for one of the studio's own.
func ConcernOf(key string) *Concern {
	for i := range Concerns {
		if Concerns[i].Key == key {
			return &Concerns[i]
		}
	}
	return nil
}
