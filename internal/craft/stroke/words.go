package stroke

// Family is a kind of movement.
type Family string

// The families of strokes (common practice).
const (
	Effleurage      Family = "effleurage"
	Flick           Family = "flick/whip"
	Stripping       Family = "stripping"
	Twist           Family = "twist"
	PassiveMovement Family = "passive movement"
	Petrissage      Family = "petrissage"
	Friction        Family = "friction"
	Tapotement      Family = "tapotement"
	Vibration       Family = "vibration"
	StaticHold      Family = "static hold"
	Pump            Family = "pump"
	Stretch         Family = "stretch"
	Scissor         Family = "scissor"
	Compression     Family = "compression"
	Feathering      Family = "feathering"
	SkinRolling     Family = "skin rolling"
	PickUp          Family = "pick-up"
	WiggleFamily    Family = "wiggle"
	Exercise        Family = "client exercise"
	ToolGlide       Family = "tool glide"
	ToolRoll        Family = "tool roll"
	ToolPress       Family = "tool press"
	Application     Family = "application"
	CleansingCircle Family = "cleansing circle"
	Rest            Family = "rest"
	Hygiene         Family = "hygiene"
)

// Families lists the families of strokes.
var Families = []Family{
	Effleurage,
	Flick,
	Stripping,
	Twist,
	PassiveMovement,
	Petrissage,
	Friction,
	Tapotement,
	Vibration,
	StaticHold,
	Pump,
	Stretch,
	Scissor,
	Compression,
	Feathering,
	SkinRolling,
	PickUp,
	WiggleFamily,
	Exercise,
	ToolGlide,
	ToolRoll,
	ToolPress,
	Application,
	CleansingCircle,
	Rest,
	Hygiene,
}

// Intents lists what strokes are for.
var Intents = []Intent{Settle, Cleanse, Spread, Open, Drain, Lift, Release, Tone, Soothe, Stimulate, LookOver, Finish}

// HandParts lists the parts of the hand that work.
var HandParts = []string{
	"finger pads",
	"index",
	"middle over index",
	"index + middle",
	"ring finger",
	"all fingers",
	"thumb",
	"thumb + index pinch",
	"two fingers + thumb",
	"knuckle of one finger",
	"bent index hook",
	"fist knuckles",
	"flat palm",
	"cupped palm",
	"backs of fingers",
	"interlaced hands",
	"thumb and index C",
	"heel of hand",
	"edge of hand",
	"web of hand",
	"two-finger V",
	"L of thumb and index",
	"joined palms",
	"middle finger",
	"middle + ring",
	"finger over thumb",
	"fanned fingers",
	"pads of both hands",
	"whole hand",
	"behind the jaw",
}

// Tires reports whether the hand part tires the practitioner's own joints when
// it works at 4 to 5: thumb, pinch and knuckles.
func Tires(hand string) bool {
	switch hand {
	case "thumb", "thumb + index pinch", "two fingers + thumb", "knuckle of one finger", "fist knuckles", "bent index hook":
		return true
	}
	return false
}
