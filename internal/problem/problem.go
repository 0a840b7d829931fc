// Package problem carries the faults of a document: where each is and a sentence
// that says what is wrong and what to do. Every layer reports faults with it.
package problem

// Fault is one fault of a document: a JSON pointer to the place and a
// sentence saying what is wrong and what to do.
type Fault struct {
	Path    string `json:"path"`
	Message string `json:"message"`
}
