package drafting

// core are the strokes that a teacher expects for a concern, the most telling first (common practice;
// review of the composer). Two or three that the skin bears are in every draft.
var core = map[string][]string{
	"puffiness":         {"cheek-drain", "eye-rim-drain", "under-jaw-drain", "forehead-drain"},
	"dark-circles":      {"eye-rim-drain", "still-eye-drain", "rim-vibration"},
	"frown-lines":       {"brow-cross", "point-brow", "forehead-palms", "brow-pinch"},
	"forehead-lines":    {"forehead-palms", "thumb-crossing", "forehead-fascia"},
	"eye-lines":         {"eye-circles", "rim-vibration", "crows-stretch"},
	"neck-lines":        {"neck-palms-up", "neck-drain", "under-jaw-drain"},
	"low-brow":          {"brow-scoop", "forehead-palms", "temple-shake"},
	"drooping":          {"jaw-sweep", "cheek-scoop", "neck-palms-up", "brow-scoop", "forehead-palms"},
	"small-eyes":        {"brow-scoop", "eye-rim-drain", "forehead-palms"},
	"unequal-eyes":      {"brow-scoop", "eye-rim-drain", "forehead-palms"},
	"screen-tired-eyes": {"temple-press", "point-brow", "eye-circles", "eye-rim-drain"},
	"nasolabial-folds":  {"cheek-scoop", "fold-scoop", "cheek-knuckles"},
	"mouth-corners":     {"corner-lift", "chin-knead", "point-mouth"},
	"lips":              {"mouth-ring", "mouth-scissor", "lip-stretch"},
	"jowls":             {"jaw-sweep", "cheek-palms", "jaw-drain", "skin-roll"},
	"double-chin":       {"under-jaw-drain", "under-chin-palms", "chin-drain"},
	"clenching":         {"masseter-knuckle", "temple-push", "masseter-stretch", "under-bone-drag", "skull-edge-pull"},
	"skull-edge":        {"skull-edge-pull", "nape-knead", "head-traction"},
	"shoulders":         {"shoulder-knead", "nape-knead", "neck-stretch"},
	"rounded-chest":     {"chest-knuckles", "decollete-sweep", "chest-stretch"},
	"blocked-sinus":     {"sinus-nose", "sinus-brow", "nose-drain", "sinus-cheek"},
	"heavy-head":        {"temple-push", "scalp-circles", "temple-rake"},
	"dull-skin":         {"cheek-drain", "circular-friction", "forehead-effleurage"},
	"stress-and-sleep":  {"temple-press", "forehead-effleurage", "rolling-fan"},
	"event-tomorrow":    {"cheek-drain", "opening-book", "eye-rim-drain"},
}

// unslid drains without sliding, where the skin should not be slid over.
var unslid = map[string]string{
	"cheek-drain": "still-cheek-drain", "eye-rim-drain": "still-eye-drain", "forehead-drain": "still-forehead-drain",
	"under-jaw-drain": "still-chin-drain", "chin-drain": "still-chin-drain", "nose-drain": "still-cheek-drain", "neck-drain": "still-neck-home",
}

// big are the slow strokes over chest, shoulders and neck with which hands arrive; calm those with
// which they leave again (common practice).
var (
	big  = []string{"decollete-sweep", "shoulder-knead", "nape-knead", "head-traction", "neck-stretch"}
	calm = []string{"forehead-effleurage", "rolling-fan", "palm-tremble", "point-temple", "forehead-across"}
)

// gentle are the skins that no friction, scissor, scoop, cup, stone or roller touches on cheeks, chin
// and nose (review of the composer).
var gentle = []string{"acne-prone", "rosacea-prone", "couperose", "sensitive"}

// unslidSkins are not slid over there at all, save for taking product on and off.
var unslidSkins = []string{"acne-prone", "rosacea-prone", "couperose"}

var cheeksChinNose = []string{
	"cheekbone", "under-cheekbone", "mid-cheek", "lower-cheek", "nasolabial", "nose-bridge", "nose-side", "chin",
}

// ungripped are concerns for which skin is never gripped dry.
var ungripped = []string{
	"puffiness", "dark-circles", "eye-lines", "small-eyes", "unequal-eyes", "screen-tired-eyes", "event-tomorrow",
}

// eyesOnly and jawOnly are concerns for which, in half an hour, product goes on that area alone.
var (
	eyesOnly = []string{"dark-circles", "eye-lines", "small-eyes", "unequal-eyes", "screen-tired-eyes"}
	jawOnly  = []string{"clenching", "mouth-corners", "lips"}
)
