package craft_test

import (
	"encoding/json"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every finding and every fix has its words on the screen.
func TestEveryFindingHasItsWords(t *testing.T) {
	sentences, err := os.ReadFile("../../ui/src/words/en.ts")
	require.NoError(t, err)
	catalogue, err := os.ReadFile("../../words/en.json")
	require.NoError(t, err)
	var names struct {
		Fixes map[string]string `json:"fixes"`
	}
	require.NoError(t, json.Unmarshal(catalogue, &names))
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
		if kind.Name == "Fix" {
			assert.NotEmpty(t, names.Fixes[value], "Fix %s", value)
		} else {
			assert.Contains(t, string(sentences), `case "`+value+`":`, "Code %s", value)
		}
		n++
		return true
	})
	assert.Greater(t, n, 60)
}
