package craft_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Imports point one way: httpapi and exchange to studio, studio to craft, and
// craft to the standard library and a decimal type; craft never asks the clock.
func TestImportsPointOneWay(t *testing.T) {
	forbidden := map[string][]string{
		"craft":  {"softpalm/internal/studio", "softpalm/internal/postgres", "softpalm/internal/httpapi", "softpalm/internal/exchange", "net/http", "database/sql", "log/slog", "os"},
		"studio": {"softpalm/internal/postgres", "softpalm/internal/httpapi", "softpalm/internal/exchange", "net/http", "database/sql"},
	}
	for layer, never := range forbidden {
		files := 0
		err := filepath.WalkDir("../"+layer, func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			files++
			f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
			if err != nil {
				return err
			}
			for _, im := range f.Imports {
				name, err := strconv.Unquote(im.Path.Value)
				if err != nil {
					return err
				}
				assert.NotContains(t, never, name, "%s imports %s", path, name)
				if layer == "craft" && strings.Contains(strings.Split(name, "/")[0], ".") {
					assert.Equal(t, "github.com/shopspring/decimal", name, path)
				}
			}
			return nil
		})
		require.NoError(t, err)
		assert.Positive(t, files, layer)
	}
}
