// Package exchange reads and writes the application's file formats. Every
// reader treats its input as hostile: size and depth are limited, unknown
// fields are refused, and each fault is reported with its place and reason.
package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"strings"
	"sync"

	"github.com/danielgtaylor/huma/v2"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
	"golang.org/x/text/language"
	"golang.org/x/text/message"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/problem"
	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
	"softpalm/internal/studio/protocols"
	"softpalm/words"
)

// Limits on what is read.
const (
	MaxBytes = 16 << 20
	MaxDepth = 24
)

// BundleSchema returns the JSON Schema of the studio file (docs/formats/studio.schema.json).
func BundleSchema() []byte {
	return schemaOf(reflect.TypeFor[house.Bundle](), "Soft Palm studio file")
}

// ProtocolSchema returns the JSON Schema of the protocol file (docs/formats/protocol.schema.json).
func ProtocolSchema() []byte {
	return schemaOf(reflect.TypeFor[protocols.ProtocolFile](), "Soft Palm protocol file")
}

// LibrarySchema returns the JSON Schema of the library file (docs/formats/library.schema.json).
func LibrarySchema() []byte {
	return schemaOf(reflect.TypeFor[protocols.LibraryFile](), "Soft Palm library file")
}

// PackSchema returns the JSON Schema of a rule pack (docs/formats/rule-pack.schema.json).
func PackSchema() []byte {
	return schemaOf(reflect.TypeFor[contraindication.Pack](), "Soft Palm rule pack")
}

func schemaOf(t reflect.Type, title string) []byte {
	reg := huma.NewMapRegistry("#/$defs/", huma.DefaultSchemaNamer)
	root := reg.Schema(t, true, "")
	listWords(reg.Map())
	out, err := json.MarshalIndent(map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema",
		"title":   title, "$ref": root.Ref, "$defs": reg.Map(),
	}, "", "  ")
	if err != nil {
		panic("exchange: a schema that cannot be written: " + err.Error())
	}
	return append(out, '\n')
}

// compiled schemas, each made when it is first asked for.
var (
	bundleSchema   = compiled("studio.schema.json", BundleSchema)
	protocolSchema = compiled("protocol.schema.json", ProtocolSchema)
	librarySchema  = compiled("library.schema.json", LibrarySchema)
)

func compiled(name string, text func() []byte) func() (*jsonschema.Schema, error) {
	return sync.OnceValues(func() (*jsonschema.Schema, error) {
		doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text()))
		if err != nil {
			return nil, err
		}
		c := jsonschema.NewCompiler()
		if err := c.AddResource(name, doc); err != nil {
			return nil, err
		}
		return c.Compile(name)
	})
}

// ReadBundle reads a studio file. Every fault is reported in a
// *studio.InputError: with its line where the text is not JSON, else with its
// JSON pointer. Whether the things in it fit together is judged on import.
func ReadBundle(data []byte) (*house.Bundle, error) { return read[house.Bundle](data, bundleSchema) }

// ReadProtocolFile reads a protocol file; faults as in [ReadBundle].
func ReadProtocolFile(data []byte) (*protocols.ProtocolFile, error) {
	return read[protocols.ProtocolFile](data, protocolSchema)
}

// ReadLibraryFile reads a library file; faults as in [ReadBundle].
func ReadLibraryFile(data []byte) (*protocols.LibraryFile, error) {
	return read[protocols.LibraryFile](data, librarySchema)
}

// FormatOf says which of the formats a file claims to be; empty where it cannot
// be told.
func FormatOf(data []byte) string {
	var head struct {
		Format string `json:"format"`
	}
	if json.Unmarshal(data, &head) != nil {
		return ""
	}
	return head.Format
}

func read[T any](data []byte, schema func() (*jsonschema.Schema, error)) (*T, error) {
	if len(data) > MaxBytes {
		return nil, fault("", words.TheFileIsLargerThanMaxBytesMB(MaxBytes>>20))
	}
	if len(bytes.TrimSpace(data)) == 0 {
		return nil, fault("", words.TheFileIsEmpty())
	}
	if err := depth(data); err != nil {
		return nil, err
	}
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		return nil, notJSON(data, err)
	}
	sch, err := schema()
	if err != nil {
		return nil, fmt.Errorf("exchange: compiling a schema: %w", err)
	}
	if err := sch.Validate(doc); err != nil {
		var ve *jsonschema.ValidationError
		if !errors.As(err, &ve) {
			return nil, fmt.Errorf("exchange: validating: %w", err)
		}
		var ps []problem.Fault
		leaves(ve, &ps)
		return nil, &studio.InputError{Problems: ps}
	}
	v := new(T)
	if err := json.Unmarshal(data, v); err != nil {
		return nil, notJSON(data, err)
	}
	return v, nil
}

// Write writes a file as it is read: two blanks a level, ending in a new line.
func Write(file any) ([]byte, error) {
	out, err := json.MarshalIndent(file, "", "  ")
	return append(out, '\n'), err
}

func fault(path string, s words.Sentence) error {
	return &studio.InputError{Problems: []problem.Fault{{Path: path, Sentence: s}}}
}

func notJSON(data []byte, err error) error {
	var syn *json.SyntaxError
	var typ *json.UnmarshalTypeError
	at := int64(-1)
	switch {
	case errors.As(err, &syn):
		at = syn.Offset
	case errors.As(err, &typ):
		at = typ.Offset
	case errors.Is(err, io.ErrUnexpectedEOF):
		at = int64(len(data))
	}
	if at < 0 {
		return fault("", words.TheFileIsNotJSONErr(err))
	}
	line := 1 + bytes.Count(data[:min(at, int64(len(data)))], []byte("\n"))
	return fault("", words.FileNotJSONFromLineLineOn(line, err))
}

// depth refuses documents nested deeper than any real one.
func depth(data []byte) error {
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.UseNumber()
	n := 0
	for {
		tok, err := dec.Token()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return notJSON(data, err)
		}
		switch tok {
		case json.Delim('{'), json.Delim('['):
			if n++; n > MaxDepth {
				return fault("", words.FileNestedMoreThanMaxDepthLevelsDeep(MaxDepth))
			}
		case json.Delim('}'), json.Delim(']'):
			n--
		}
	}
}

// maxFaults is how many faults of one file are reported at once.
const maxFaults = 50

var english = message.NewPrinter(language.English)

// leaves collects the faults at the ends of a validation error.
func leaves(e *jsonschema.ValidationError, into *[]problem.Fault) {
	if len(e.Causes) == 0 {
		if len(*into) < maxFaults {
			path := ""
			for _, p := range e.InstanceLocation {
				path += "/" + strings.NewReplacer("~", "~0", "/", "~1").Replace(p)
			}
			said := reason(e.ErrorKind)
			if unknown, ok := e.ErrorKind.(*kind.AdditionalProperties); ok && strings.HasSuffix(path, "/gaps") {
				said = stroke.NoSuchGap(unknown.Properties[0])
			}
			*into = append(*into, problem.Fault{Path: path, Sentence: said})
		}
		return
	}
	if _, ok := e.ErrorKind.(*kind.AnyOf); ok { // the first says what may stand there
		leaves(e.Causes[0], into)
		return
	}
	for _, c := range e.Causes {
		leaves(c, into)
	}
}

// reason says what is wrong with a place of the file, and what to do.
func reason(k jsonschema.ErrorKind) words.Sentence {
	switch k := k.(type) {
	case *kind.Required:
		return words.MissingHere(strings.Join(k.Missing, ", "))
	case *kind.AdditionalProperties:
		return words.NotKnownHere(strings.Join(k.Properties, ", "))
	case *kind.MinLength:
		return words.ThisMustNotBeEmpty()
	case *kind.MaxLength:
		return words.ThisIsLongerThanCharacters(k.Want)
	case *kind.Pattern:
		return words.NotWrittenAsThisFieldNeeds(k.Got, k.Want)
	}
	s := k.LocalizedString(english)
	return words.ASchemaFault(strings.ToUpper(s[:1]) + s[1:])
}
