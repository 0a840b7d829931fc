package internal_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// wholeLabel is the length below which a retired text counts only as a whole label:
// "Mind" is retired on a button, not inside a sentence.
const wholeLabel = 14

var (
	spaces    = regexp.MustCompile(`\s+`)
	readable  = regexp.MustCompile(`\.(go|ts|tsx|json)$`)
	unwritten = regexp.MustCompile(`_test\.go$|openapi\.json$|schema\.d\.ts$|/testdata/`)
)

// oneLine joins broken lines and straightens apostrophes, so that a sentence is
// found however the source is wrapped.
func oneLine(s string) string {
	return spaces.ReplaceAllString(strings.ReplaceAll(s, "’", "'"), " ")
}

// No sentence that the language review retired comes back, on screen, on paper, in
// an error or in the standard rules and strokes (the project's language review of
// 26 November 2026; testdata/retired-words.txt lists them).
func TestRetiredWordsStayRetired(t *testing.T) {
	list, err := os.ReadFile("testdata/retired-words.txt")
	require.NoError(t, err)
	retired := strings.Split(strings.TrimSpace(string(list)), "\n")
	require.Greater(t, len(retired), 300)
	labels := map[string]*regexp.Regexp{}
	for _, r := range retired {
		if len(r) < wholeLabel {
			labels[r] = regexp.MustCompile("[\"'`>] ?" + regexp.QuoteMeta(r) + " ?[\"'`<{]")
		}
	}
	files := 0
	for _, root := range []string{".", "../ui/src", "../words", "../demo"} {
		require.NoError(t, filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !readable.MatchString(path) || unwritten.MatchString(path) {
				return err
			}
			data, err := os.ReadFile(path)
			if err != nil {
				return err
			}
			files++
			text := oneLine(string(data))
			for _, r := range retired {
				if strings.Contains(text, r) && (labels[r] == nil || labels[r].MatchString(text)) {
					t.Errorf("%s still says %q", path, r)
				}
			}
			return nil
		}))
	}
	assert.Greater(t, files, 200)
}
