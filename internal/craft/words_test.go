package craft_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"regexp"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every finding and every fix has its words on the screen.
func TestEveryFindingHasItsWords(t *testing.T) {
	words, err := os.ReadFile("../../ui/src/words/en.ts")
	require.NoError(t, err)
	f, err := parser.ParseFile(token.NewFileSet(), "evaluation/finding.go", nil, 0)
	require.NoError(t, err)
	n := 0
	ast.Inspect(f, func(node ast.Node) bool {
		spec, ok := node.(*ast.ValueSpec)
		if !ok || len(spec.Values) != 1 {
			return true
		}
		kind, _ := spec.Type.(*ast.Ident)
		lit, _ := spec.Values[0].(*ast.BasicLit)
		if kind == nil || lit == nil || kind.Name != "Code" && kind.Name != "Fix" {
			return true
		}
		value, _ := strconv.Unquote(lit.Value)
		want := `case "` + regexp.QuoteMeta(value) + `":`
		if kind.Name == "Fix" {
			want = `(?m)^\s+"?` + regexp.QuoteMeta(value) + `"?: "`
		}
		assert.Regexp(t, want, string(words), "%s %s", kind.Name, value)
		n++
		return true
	})
	assert.Greater(t, n, 60)
}
