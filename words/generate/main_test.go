package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The server's catalogue is the one that en.json gives today; the screens' modules
// are made anew at every build.
func TestTheServersCatalogueIsFresh(t *testing.T) {
	source, err := os.ReadFile("../en.json")
	require.NoError(t, err)
	dir := t.TempDir()
	require.NoError(t, generate(source, filepath.Join(dir, "catalogue.go"), filepath.Join(dir, "ts")))
	want, err := os.ReadFile(filepath.Join(dir, "catalogue.go"))
	require.NoError(t, err)
	have, err := os.ReadFile("../catalogue.go")
	require.NoError(t, err)
	assert.Equal(t, string(want), string(have), "run go generate ./words")
}

const small = `{
	"shared": {"sides": {"left": "left side"}, "levels": ["none", "some"]},
	"screens": {"shelf": {
		"save": "Save",
		"left": "{count} {count, plural, one {pump} other {pumps}} left of {name}",
		"quoted": "a \u0060tick\u0060 and ${x}",
		"kinds": {"b": "second first", "a": "first second"}
	}},
	"server": {
		"problems": {"noSuchTool": "There is no {type} “{key}”.", "empty": "Enter a name."},
		"papers": {"pages": "{page} of {pages}", "title": "Set-up list"}
	}
}`

func TestBothCataloguesOfASmallSource(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, generate([]byte(small), filepath.Join(dir, "c.go"), filepath.Join(dir, "ts")))
	code, err := os.ReadFile(filepath.Join(dir, "c.go"))
	require.NoError(t, err)
	for _, want := range []string{
		`var Sides = map[string]string{`,
		`var Levels = []string{"none", "some"}`,
		`func NoSuchTool(type_, key any) Sentence {`,
		`Code: "noSuchTool", Message: "There is no " + text(type_) + " “" + text(key) + "”.", Values: map[string]string{"type": text(type_), "key": text(key)}`,
		`func Empty() Sentence {`,
		`const PaperTitle = "Set-up list"`,
		`return text(page) + " of " + text(pages)`,
	} {
		assert.Contains(t, string(code), want)
	}
	module, err := os.ReadFile(filepath.Join(dir, "ts", "shelf.ts"))
	require.NoError(t, err)
	for _, want := range []string{
		`export const save = "Save";`,
		"export const left = (v: { count: Value; name: Value }) => `${v.count ?? \"\"} ${Number(v.count) === 1 ? `pump` : `pumps`} left of ${v.name ?? \"\"}`;",
		"a \\`tick\\` and $${v.x ?? \"\"}",
	} {
		assert.Contains(t, string(module), want)
	}
	assert.Less(t, strings.Index(string(module), "second first"), strings.Index(string(module), "first second"), "choices keep their order")
}

func TestASourceThatCannotBeReadChangesNothing(t *testing.T) {
	dir := t.TempDir()
	file := filepath.Join(dir, "c.go")
	assert.Error(t, generate([]byte(`{"shared": {"a": "x",}}`), file, filepath.Join(dir, "ts")))
	assert.NoFileExists(t, file)
}
