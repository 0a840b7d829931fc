// Package words is the English catalogue of the server: the sentences of its problems
// and papers, and the names they share with the screens. en.json is the one source;
// catalogue.go and the modules of the screens are generated from it.
package words

//go:generate sh -c "cd .. && go run ./words/generate"

import "fmt"

// Sentence is one sentence with its code in the catalogue and the values in it, so
// that a program can tell sentences apart without reading them.
type Sentence struct {
	Code    string            `json:"code" doc:"Name of the sentence in the catalogue"`
	Message string            `json:"message"`
	Values  map[string]string `json:"values,omitempty" doc:"What is filled into the sentence, by name"`
}

// Error makes a sentence an error: a refusal that says what to do.
func (s Sentence) Error() string { return s.Message }

// text is a value as it stands in a sentence.
func text(v any) string { return fmt.Sprint(v) }

// count chooses between the words for one and for any other number.
func count(n any, one, other string) string {
	if text(n) == "1" {
		return one
	}
	return other
}
