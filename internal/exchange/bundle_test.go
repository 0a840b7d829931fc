package exchange_test

import (
	"bytes"
	"os"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/exchange"
	"softpalm/internal/studio"
)

// A broken file is told by line or place, with the reason.
func TestReadBundleTellsPlaceAndReason(t *testing.T) {
	deep := strings.Repeat("[", exchange.MaxDepth+1)
	for _, c := range []struct{ name, text, path, says string }{
		{"empty", "  ", "", "empty"},
		{"cut off", "{\n\"format\":\n\"softpalm-studio\",\n", "", "from line"},
		{"not JSON", "rooms: 1", "", "from line 1"},
		{"nested without end", deep, "", "levels deep"},
		{"another format", `{"format":"x","version":1}`, "/format", ""},
		{"an unknown field", `{"format":"softpalm-studio","version":1,"rooms":[{"key":"a","name":"A","colour":"red"}]}`, "/rooms/0", "colour"},
		{"a missing field", `{"format":"softpalm-studio","version":1,"rooms":[{"key":"a"}]}`, "/rooms/0", "name"},
		{"a pressure out of range", `{"format":"softpalm-studio","version":1,"strokes":[{"key":"a","name":"A","family":"f","intent":"lift","pressure":6,"sides":"mid","dose":{"kind":"clock","planned":5}}]}`, "/strokes/0/pressure", "5"},
	} {
		_, err := exchange.ReadBundle([]byte(c.text))
		var in *studio.InputError
		if assert.ErrorAs(t, err, &in, c.name) {
			assert.Equal(t, c.path, in.Problems[0].Path, c.name)
			assert.Contains(t, in.Problems[0].Message, c.says, c.name)
		}
	}
}

// The shipped rule pack fits its published schema, judged by a validator of
// another author (JSON Schema 2020-12).
func TestTheRulePackFitsItsSchema(t *testing.T) {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(exchange.PackSchema()))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("pack", doc))
	schema, err := c.Compile("pack")
	require.NoError(t, err)
	data, err := os.ReadFile("../craft/screening/trade-pack.json")
	require.NoError(t, err)
	pack, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	require.NoError(t, err)
	assert.NoError(t, schema.Validate(pack))
}

// Whatever is read, the reader answers or refuses; it never panics.
func FuzzReadBundle(f *testing.F) {
	data, err := os.ReadFile("../../demo/studio.json")
	require.NoError(f, err)
	f.Add(data[:2000])
	f.Add([]byte(`{"format":"softpalm-studio","version":1,"rooms":[{"key":"a","name":"A"}]}`))
	f.Add([]byte(`[[[{"a":`))
	f.Fuzz(func(t *testing.T, data []byte) {
		if b, err := exchange.ReadBundle(data); err == nil && b.Format != "softpalm-studio" {
			t.Fatalf("read a bundle of format %q", b.Format)
		}
	})
}
