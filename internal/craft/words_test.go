package craft_test

import (
	"encoding/json"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"strconv"
	"testing"

	"softpalm/internal/craft/evaluation"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every fix has its words on the screen, and every finding its payload; of each payload
// the type check of the screens asks a sentence.
func TestEveryFindingHasItsWords(t *testing.T) {
	catalogue, err := os.ReadFile("../../words/en.json")
	require.NoError(t, err)
	var names struct {
		Screens struct {
			Names struct {
				Fixes map[string]string `json:"fixes"`
			} `json:"names"`
		} `json:"screens"`
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
			assert.NotEmpty(t, names.Screens.Names.Fixes[value], "Fix %s", value)
		} else {
			assert.Contains(t, evaluation.Payloads, evaluation.Code(value))
		}
		n++
		return true
	})
	assert.Greater(t, n, 60)
}
