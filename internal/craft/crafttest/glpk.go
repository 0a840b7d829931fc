package crafttest

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

var objective = regexp.MustCompile(`Objective:\s+goal = (\S+)`)

// NeedGLPK skips a test where GLPK is not installed.
func NeedGLPK(t testing.TB) {
	if _, err := exec.LookPath("glpsol"); err != nil {
		t.Skip("glpsol is not installed; make test installs it (Debian's glpk-utils)")
	}
}

// GLPK solves an integer programme in the LP format, whose objective is called goal, with
// Debian's glpsol; ok is false where nothing satisfies it.
func GLPK(t testing.TB, dir, lp string) (value float64, ok bool) {
	t.Helper()
	in, out := filepath.Join(dir, "goal.lp"), filepath.Join(dir, "goal.out")
	require.NoError(t, os.WriteFile(in, []byte(lp), 0o600))
	log, err := exec.Command("glpsol", "--lp", in, "-o", out).CombinedOutput()
	require.NoError(t, err, string(log))
	text, err := os.ReadFile(out)
	require.NoError(t, err)
	if !strings.Contains(string(text), "INTEGER OPTIMAL") {
		return 0, false
	}
	value, err = strconv.ParseFloat(objective.FindStringSubmatch(string(text))[1], 64)
	require.NoError(t, err)
	return value, true
}
