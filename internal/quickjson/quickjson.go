// Package quickjson writes answers and reads kept documents as JSON. It does what encoding/json does, at a third of its time
// (docs/performance.md); a test holds the two against each other.
package quickjson

import (
	"io"

	"github.com/goccy/go-json"
)

// Write writes a value as [encoding/json.Encoder] does when it leaves the signs of HTML as they are.
func Write(to io.Writer, value any) error {
	enc := json.NewEncoder(to)
	enc.SetEscapeHTML(false)
	return enc.Encode(value)
}

// Read reads a document into a value as [encoding/json.Unmarshal] does.
func Read(data []byte, into any) error { return json.Unmarshal(data, into) }
