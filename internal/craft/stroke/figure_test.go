package stroke_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/stroke"
)

// The figure of strokes that a teacher would name without thinking (common practice; the handbook's review
// of the strokes, section 4, names the figures).
func TestFiguresOfStrokes(t *testing.T) {
	library := stroke.ByKey(stroke.Trade())
	for figure, keys := range map[stroke.Figure][]string{
		stroke.FigureGlide:        {"forehead-drain", "cheek-drain", "neck-drain", "jaw-sweep", "stone-cheek", "cheek-knuckles", "decollete-sweep"},
		stroke.FigureFeathering:   {"feathering"},
		stroke.FigureCircle:       {"behind-ear-circles", "under-jaw-circles", "ear-front-circles", "scalp-circles"},
		stroke.FigureSpiral:       {"circular-friction", "cleansing-circles", "nose-side-circles", "neck-circles", "chest-knuckles"},
		stroke.FigureZigzag:       {"zigzag-friction"},
		stroke.FigureWhip:         {"zigzag-flicks", "fold-scoop"},
		stroke.FigurePast:         {"brow-cross", "thumb-crossing", "masseter-cross", "nose-scissor"},
		stroke.FigureFork:         {"jaw-drain", "jaw-scissor", "mouth-scissor", "stone-jaw"},
		stroke.FigureVibration:    {"rim-vibration", "temple-shake", "palm-tremble"},
		stroke.FigurePinches:      {"brow-pinch", "chin-pinch-lift", "quick-pinches"},
		stroke.FigureKnead:        {"shoulder-knead", "cheek-knead", "hand-knead"},
		stroke.FigureSkinRoll:     {"skin-roll"},
		stroke.FigureTaps:         {"piano-tapping", "cheek-tapping", "chin-whisk"},
		stroke.FigurePump:         {"collarbone-pumps", "hollow-press", "still-cheek-drain"},
		stroke.FigureHold:         {"temple-press", "point-brow", "brow-walk", "skull-edge-pull", "cold-rest"},
		stroke.FigureHandOverHand: {"forehead-palms", "cheek-palms", "spread-passes"},
		stroke.FigureStretch:      {"masseter-stretch", "crows-stretch", "neck-stretch"},
		stroke.FigureLoop:         {"eye-circles", "eye-glide-firm"},
		stroke.FigureRoll:         {"twin-ball-lines", "cylinder-cheek", "cold-globes-eye"},
		stroke.FigureArea:         {"look-over", "mist-veil", "towel-wipe", "warm-compress", "blot", "mask-rest", "palms-over-eyes", "serum-press"},
		stroke.FigureClient:       {"o-to-smile", "jaw-rock", "jaw-twist"},
	} {
		for _, key := range keys {
			if assert.NotNil(t, library[key], key) {
				assert.Equal(t, figure, library[key].Motion().Figure(), key)
			}
		}
	}
}
