// Package problem carries the faults of a document: where each is and a sentence
// that says what is wrong and what to do. Every layer reports faults with it.
package problem

import "softpalm/words"

// Fault is one fault of a document: a JSON pointer to the place, and a sentence with
// its code and values saying what is wrong and what to do.
type Fault struct {
	Path string `json:"path"`
	words.Sentence
}
