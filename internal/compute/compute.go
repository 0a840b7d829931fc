// Package compute is a thin door to the pure functions of the craft: a topic reads questions
// as JSON and writes the answers, so that other programs can check and reuse the arithmetic.
package compute

import (
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"reflect"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/series"
)

// topic answers questions of one kind.
type topic struct {
	question, answer reflect.Type
	answers          func(raw json.RawMessage) any
}

// failure stands in the place of an answer to a question that makes no sense.
type failure struct {
	Error struct {
		Path    string `json:"path"`
		Message string `json:"message"`
	} `json:"error"`
}

func fail(path, message string) *failure {
	f := &failure{}
	f.Error.Path, f.Error.Message = path, message
	return f
}

// of makes a topic of a function of the craft.
func of[Q, A any](answer func(*Q) (A, error)) topic {
	return topic{reflect.TypeFor[Q](), reflect.TypeFor[A](), func(raw json.RawMessage) any {
		var q Q
		if err := json.Unmarshal(raw, &q); err != nil {
			return fail("", "The question could not be read: "+strings.TrimPrefix(err.Error(), "json: ")+".")
		}
		a, err := answer(&q)
		if err != nil {
			return fail("", "The question makes no sense: "+err.Error()+".")
		}
		return a
	}}
}

var topics = all(shelfTopics, roomTopics, moneyTopics, map[string]topic{
	"ill-day": of(series.LayDayAgain),
	"series":  of(series.Find),
})

func all(groups ...map[string]topic) map[string]topic {
	out := map[string]topic{}
	for _, g := range groups {
		maps.Copy(out, g)
	}
	return out
}

// Topics lists what can be asked, by name.
func Topics() []string { return slices.Sorted(maps.Keys(topics)) }

// Run reads the JSON list of questions of a topic and writes the JSON list of answers in the
// same order.
func Run(name string, in io.Reader, out io.Writer) error {
	t, ok := topics[name]
	if !ok {
		return fmt.Errorf("there is no topic %q; the topics are %s", name, strings.Join(Topics(), ", "))
	}
	var questions []json.RawMessage
	if err := json.NewDecoder(in).Decode(&questions); err != nil {
		return fmt.Errorf("the questions are no JSON list: %w", err)
	}
	answers := make([]any, len(questions))
	for i, q := range questions {
		answers[i] = t.answers(q)
	}
	return json.NewEncoder(out).Encode(answers)
}

// Schema writes the JSON Schema of a topic's question and answer.
func Schema(name string, out io.Writer) error {
	t, ok := topics[name]
	if !ok {
		return fmt.Errorf("there is no topic %q; the topics are %s", name, strings.Join(Topics(), ", "))
	}
	r := huma.NewMapRegistry("#/$defs/", huma.DefaultSchemaNamer)
	question, answer := r.Schema(t.question, true, "Question"), r.Schema(t.answer, true, "Answer")
	e := json.NewEncoder(out)
	e.SetIndent("", "  ")
	return e.Encode(map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema", "question": question, "answer": answer, "$defs": r.Map(),
	})
}
