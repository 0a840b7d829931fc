package internal_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// craftOrder is the written order of the craft's packages: each imports only those
// before it. What stands behind "rest" may import all of them and not each other.
var craftOrder = []string{"anatomy", "calendar", "substance", "stroke", "slip", "protocol", "evaluation", "fitting", "remedy", "drafting", "contraindication", "adjusting", "patch", "pace", "guide", "shelf", "rest"}

// imports lists what each file below a folder of internal imports, tests left out.
func imports(t *testing.T, folder string, visit func(file, path string)) {
	t.Helper()
	files := 0
	err := filepath.WalkDir(folder, func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || strings.Contains(path, "crafttest") {
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
			visit(filepath.ToSlash(path), name)
		}
		return nil
	})
	require.NoError(t, err)
	assert.Positive(t, files, folder)
}

// Imports point one way: httpapi and exchange to studio, studio to craft, and
// craft to the standard library and a decimal type; craft never asks the clock.
func TestImportsPointOneWay(t *testing.T) {
	forbidden := map[string][]string{
		"problem":  {"softpalm/internal"},
		"craft":    {"softpalm/internal/studio", "softpalm/internal/rooms", "softpalm/internal/postgres", "softpalm/internal/httpapi", "softpalm/internal/exchange", "net/http", "database/sql", "log/slog", "os"},
		"studio":   {"softpalm/internal/rooms", "softpalm/internal/postgres", "softpalm/internal/httpapi", "softpalm/internal/exchange", "softpalm/internal/mail", "net/http", "database/sql"},
		"exchange": {"softpalm/internal/rooms", "softpalm/internal/postgres", "softpalm/internal/httpapi", "net/http", "database/sql"},
		"mail":     {"softpalm/internal/rooms", "softpalm/internal/postgres", "softpalm/internal/httpapi", "softpalm/internal/exchange", "net/http", "database/sql"},
		"httpapi":  {"softpalm/internal/postgres", "softpalm/internal/exchange", "softpalm/internal/mail", "database/sql"},
		"postgres": {"softpalm/internal/rooms", "softpalm/internal/httpapi", "softpalm/internal/exchange", "net/http"},
	}
	for layer, never := range forbidden {
		imports(t, layer, func(file, name string) {
			for _, n := range never {
				assert.False(t, name == n || strings.HasPrefix(name, n+"/"), "%s imports %s", file, name)
			}
			if layer == "craft" && strings.Contains(strings.Split(name, "/")[0], ".") {
				assert.Equal(t, "github.com/shopspring/decimal", name, file)
			}
		})
	}
}

// Within the craft imports follow the written order.
func TestCraftFollowsItsOrder(t *testing.T) {
	place := func(pkg string) int {
		if i := slices.Index(craftOrder, pkg); i >= 0 {
			return i
		}
		return slices.Index(craftOrder, "rest")
	}
	imports(t, "craft", func(file, name string) {
		of, ok := strings.CutPrefix(name, "softpalm/internal/craft/")
		if !ok {
			return
		}
		pkg := strings.Split(strings.TrimPrefix(file, "craft/"), "/")[0]
		assert.Less(t, place(of), place(pkg), "%s imports %s, which does not stand before %s", file, of, pkg)
	})
}

// The rooms of the studio know the kernel and the craft, and nothing of each other:
// what one needs of another it asks for by an interface of its own.
func TestRoomsDoNotKnowEachOther(t *testing.T) {
	imports(t, "studio", func(file, name string) {
		of, ok := strings.CutPrefix(name, "softpalm/internal/studio")
		if !ok {
			return
		}
		if strings.Count(file, "/") == 1 {
			assert.Fail(t, "the kernel knows no room", "%s imports %s", file, name)
		}
		assert.Empty(t, of, "%s imports the room %s", file, of)
	})
}

var tsImport = regexp.MustCompile(`(?:from|import) "(\.[^"]+)"`)

// In the screens a room uses of another only what its index offers; the kit, the
// pictures and the words know no room.
func TestScreensKeepToTheirRooms(t *testing.T) {
	rooms := []string{"protocols", "clients", "checks", "diary", "treatment", "shelf", "house"}
	files := 0
	err := filepath.WalkDir("../ui/src", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".ts") && !strings.HasSuffix(path, ".tsx") {
			return err
		}
		files++
		text, err := os.ReadFile(path)
		if err != nil {
			return err
		}
		mine := strings.Split(strings.TrimPrefix(filepath.ToSlash(path), "../ui/src/"), "/")[0]
		for _, m := range tsImport.FindAllStringSubmatch(string(text), -1) {
			of := strings.TrimPrefix(filepath.ToSlash(filepath.Join(filepath.Dir(path), m[1])), "../ui/src/")
			room, inside, _ := strings.Cut(of, "/")
			if mine == "app" || room == mine || !slices.Contains(rooms, room) {
				continue
			}
			assert.Contains(t, rooms, mine, "%s knows the room %s", path, room)
			assert.Empty(t, inside, "%s imports %s past the room's index", path, of)
		}
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, files, 50)
}
