// Package demo holds the demo studio as a file. Its products, tools, strokes and protocols
// are what a new studio may begin with.
package demo

import _ "embed"

// Studio is the demo studio (docs/formats/studio.schema.json).
//
//go:embed studio.json
var Studio []byte
