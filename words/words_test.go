package words_test

import (
	"encoding/json"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Everything that screens and papers name has its word.
func TestEveryNameHasItsWord(t *testing.T) {
	for _, p := range protocol.Phases {
		assert.NotEmpty(t, words.Phases[string(p)], p)
	}
	for _, s := range []stroke.Sides{stroke.Midline, stroke.BothAtOnce, stroke.InTurns, stroke.LeftOnly, stroke.RightOnly, stroke.FirstSide, stroke.SecondSide, stroke.Across} {
		assert.NotEmpty(t, words.Sides[string(s)], s)
	}
	for _, p := range []stroke.PressureProfile{stroke.Builds, stroke.Eases, stroke.LightBack, stroke.OwnWeight} {
		assert.NotEmpty(t, words.PressurePatterns[string(p)], p)
	}
	for _, h := range []contraindication.Headline{contraindication.OKToTreat, contraindication.OKWithAdjustments, contraindication.NeedsLetter, contraindication.NotBefore, contraindication.DoNotTreat, contraindication.UrgentHelp} {
		assert.NotEmpty(t, words.Headlines[string(h)], h)
	}
	for _, k := range []contraindication.Kind{contraindication.Urgent, contraindication.Stop, contraindication.Wait, contraindication.Letter, contraindication.LeaveOut, contraindication.Cap, contraindication.Exclude, contraindication.Precaution} {
		assert.NotEmpty(t, words.Kinds[string(k)], k)
	}
	for _, k := range []contraindication.Kind{contraindication.Lighter, contraindication.Firmer} {
		assert.NotEmpty(t, words.Preferences[string(k)], k)
	}
	for _, s := range []studio.VisitState{studio.Booked, studio.Confirmed, studio.Arrived, studio.InRoom, studio.Done, studio.Cancelled, studio.LateCancelled, studio.NoShow} {
		assert.NotEmpty(t, words.AppointmentStates[string(s)], s)
	}
	assert.Len(t, words.Pressures, 6, "0 to 5")
	assert.NotEmpty(t, words.PaperDisclaimer+words.PaperLetter+words.PaperSetUp)
}

// sources joins the files below a folder whose names match, without tests.
func sources(t *testing.T, folder, match string) map[string]string {
	t.Helper()
	out := map[string]string{}
	want := regexp.MustCompile(match)
	require.NoError(t, filepath.WalkDir(folder, func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !want.MatchString(path) || strings.Contains(path, "_test.") || strings.Contains(path, ".test.") || strings.Contains(path, "/catalogue") {
			return err
		}
		text, err := os.ReadFile(path)
		out[path] = string(text)
		return err
	}))
	return out
}

// No sentence outlives its use, and nothing is asked for that the source lacks: the
// compilers see to the second.
func TestEverySentenceIsUsed(t *testing.T) {
	raw, err := os.ReadFile("en.json")
	require.NoError(t, err)
	var source struct {
		Screens map[string]map[string]any `json:"screens"`
		Server  map[string]map[string]any `json:"server"`
	}
	require.NoError(t, json.Unmarshal(raw, &source))
	var screens, server strings.Builder
	for _, text := range sources(t, "../ui/src", `\.tsx?$`) {
		screens.WriteString(text)
	}
	for _, text := range sources(t, "../internal", `\.go$`) {
		server.WriteString(text)
	}
	for section, list := range source.Screens {
		for key := range list {
			assert.Regexp(t, `\.`+key+`\b`, screens.String(), "screens.%s.%s", section, key)
		}
	}
	for section, list := range source.Server {
		prefix := map[string]string{"papers": "Paper", "briefs": "Brief"}[section]
		for key := range list {
			name := prefix + strings.ToUpper(key[:1]) + key[1:]
			assert.Regexp(t, `words\.`+name+`\b`, server.String(), "server.%s.%s", section, key)
		}
	}
}

// Screens hold no text of their own: what a person reads between two tags or in a
// label is in en.json.
func TestNoTextStandsInTheScreens(t *testing.T) {
	between := regexp.MustCompile(`(?m)^\s*[A-Z][a-z]+( [a-z]+)+[.?:]?$|>[^<>{}=()]*[a-z]{3,}[^<>{}=()]*</`)
	label := regexp.MustCompile(`\b(label|title|aria-label|placeholder|hint|button)="[^"]*[a-z]{2,}[^"]*"`)
	for path, text := range sources(t, "../ui/src", `\.tsx$`) {
		assert.Empty(t, between.FindAllString(text, -1), path)
		for _, text := range label.FindAllString(text, -1) {
			assert.Regexp(t, `"(Delete|Space|Backspace)"`, text, path) // the name of a key, as it stands on the keyboard
		}
	}
}

func TestASentenceWithItsValues(t *testing.T) {
	s := words.ThereIsNoStrokeFamilyFamily("waving")
	assert.Equal(t, "There is no stroke family “waving”.", s.Error())
	assert.Equal(t, map[string]string{"family": "waving"}, s.Values)
	assert.Equal(t, "thereIsNoStrokeFamilyFamily", s.Code)
}

// neverClaimed are claims that no massage supports (handbook, chapter 7, Never claimed; common practice of advertising
// law).
var neverClaimed = regexp.MustCompile(`(?i)years younger|anti-?age?ing|toxins?\b|detox|\bcures?\b|\bheals?\b|lifts? the muscle|guaranteed|clinically|lasting result`)

// No sentence of the product, on screen or on paper, makes a claim of healing or of youth.
func TestNoSentenceMakesAClaim(t *testing.T) {
	source, err := os.ReadFile("en.json")
	require.NoError(t, err)
	assert.Empty(t, neverClaimed.FindAllString(string(source), -1))
}
