package exchange_test

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/stroke"
	"softpalm/internal/exchange"
	"softpalm/internal/studio"
	"softpalm/internal/studio/protocols"
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
		{"a pressure out of range", `{"format":"softpalm-studio","version":1,"strokes":[{"key":"a","name":"A","family":"effleurage","intent":"lift","pressure":6,"sides":"mid","dose":{"kind":"clock","planned":5}}]}`, "/strokes/0/pressure", "5"},
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
	data, err := os.ReadFile("../craft/contraindication/trade-pack.json")
	require.NoError(t, err)
	pack, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	require.NoError(t, err)
	assert.NoError(t, schema.Validate(pack))
}

// Every fixture is read, written and read again without loss, and fits its
// published schema; what the file writes is what it was read from, value by value.
func TestProtocolFilesRoundTrip(t *testing.T) {
	files, err := filepath.Glob("../craft/crafttest/testdata/protocols/*.json")
	require.NoError(t, err)
	said, err := filepath.Glob("../craft/crafttest/testdata/said/*.json")
	require.NoError(t, err)
	files = append(files, said...)
	require.Len(t, files, 24)
	for _, name := range files {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		f, err := exchange.ReadProtocolFile(data)
		require.NoError(t, err, name)
		out, err := exchange.Write(f)
		require.NoError(t, err)
		again, err := exchange.ReadProtocolFile(out)
		require.NoError(t, err)
		assert.Equal(t, f, again, name)
		var was, now any
		require.NoError(t, json.Unmarshal(data, &was))
		require.NoError(t, json.Unmarshal(out, &now))
		assert.Equal(t, was, now, name)
	}
	library := &protocols.LibraryFile{Format: "soft-palm-library", Version: 1, Strokes: stroke.Trade()}
	out, err := exchange.Write(library)
	require.NoError(t, err)
	again, err := exchange.ReadLibraryFile(out)
	require.NoError(t, err)
	assert.Equal(t, library, again, "the whole trade library")
}

// Unknown fields are refused with path and reason, whatever the file.
func TestProtocolFileRefusesWhatItDoesNotKnow(t *testing.T) {
	data, err := os.ReadFile("../craft/crafttest/testdata/protocols/two-minute-oil.json")
	require.NoError(t, err)
	for _, c := range []struct{ was, now, path, says string }{
		{`"summary"`, `"colour": "red", "summary"`, "/protocol", "colour"},
		{`"kind": "clock", "planned": 10`, `"kind": "clock", "planned": 10, "often": true`, "/protocol/steps/0/dose", "often"},
		{`"measure": "drops"`, `"measure": "spoons"`, "/protocol/steps/0/use/amount/measure", "drops"},
		{`"version": 1`, `"version": 2`, "/version", ""},
		{`{"id": "s01"`, `{"id": "s01", "hand": "elbow"`, "/protocol/steps/0/hand", "ring finger"},
		{`{"id": "s01"`, `{"id": "s01", "path": [{"zone": "elbow"}]`, "/protocol/steps/0/path/0/zone", "whole-face"},
		{`{"id": "s01"`, `{"id": "s01", "gaps": {"colour": "?"}`, "/protocol/steps/0/gaps", "firstSide"},
	} {
		_, err := exchange.ReadProtocolFile([]byte(strings.Replace(string(data), c.was, c.now, 1)))
		var in *studio.InputError
		if assert.ErrorAs(t, err, &in, c.path) {
			assert.Equal(t, c.path, in.Problems[0].Path)
			assert.Contains(t, in.Problems[0].Message, c.says)
		}
	}
	assert.Equal(t, "soft-palm-protocol", exchange.FormatOf(data))
	assert.Empty(t, exchange.FormatOf([]byte("[1]")))
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

// The same for protocol and library files; what is read can be written and read.
func FuzzReadProtocolFile(f *testing.F) {
	data, err := os.ReadFile("../craft/crafttest/testdata/protocols/two-minute-oil.json")
	require.NoError(f, err)
	f.Add(data)
	f.Add([]byte(`{"format":"soft-palm-library","version":1,"strokes":[]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		if p, err := exchange.ReadProtocolFile(data); err == nil {
			out, err := exchange.Write(p)
			if err != nil {
				t.Fatal(err)
			}
			if _, err := exchange.ReadProtocolFile(out); err != nil {
				t.Fatalf("what was read cannot be read again: %v", err)
			}
		}
		_, _ = exchange.ReadLibraryFile(data)
		exchange.FormatOf(data)
	})
}
