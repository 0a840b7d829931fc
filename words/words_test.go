package words_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Everything that screens and papers name has its word.
func TestEveryNameHasItsWord(t *testing.T) {
	w := words.English
	for _, p := range protocol.Phases {
		assert.NotEmpty(t, w.Phases[string(p)], p)
	}
	for _, s := range []stroke.Sides{stroke.Midline, stroke.BothAtOnce, stroke.InTurns, stroke.LeftOnly, stroke.RightOnly, stroke.FirstSide, stroke.SecondSide, stroke.Across} {
		assert.NotEmpty(t, w.Sides[string(s)], s)
	}
	for _, p := range []stroke.PressureProfile{stroke.Builds, stroke.Eases, stroke.LightBack, stroke.OwnWeight} {
		assert.NotEmpty(t, w.PressurePatterns[string(p)], p)
	}
	for _, h := range []contraindication.Headline{contraindication.OKToTreat, contraindication.OKWithAdjustments, contraindication.NeedsLetter, contraindication.NotBefore, contraindication.DoNotTreat, contraindication.UrgentHelp} {
		assert.NotEmpty(t, w.Headlines[string(h)], h)
	}
	for _, k := range []contraindication.Kind{contraindication.Urgent, contraindication.Stop, contraindication.Wait, contraindication.Letter, contraindication.LeaveOut, contraindication.Cap, contraindication.Exclude, contraindication.Precaution} {
		assert.NotEmpty(t, w.Kinds[string(k)], k)
	}
	for _, k := range []contraindication.Kind{contraindication.Lighter, contraindication.Firmer} {
		assert.NotEmpty(t, w.Preferences[string(k)], k)
	}
	for _, s := range []studio.VisitState{studio.Booked, studio.Confirmed, studio.Arrived, studio.InRoom, studio.Done, studio.Cancelled, studio.LateCancelled, studio.NoShow} {
		assert.NotEmpty(t, w.AppointmentStates[string(s)], s)
	}
	assert.Len(t, w.Pressures, 6, "0 to 5")
	assert.NotEmpty(t, w.PaperDisclaimer+w.Papers.Letter+w.Papers.SetUp)
}
