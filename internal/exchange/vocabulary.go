package exchange

import (
	"maps"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// words of the trade that files may use; empty stands for a word that was left out, where a field may be left out.
var (
	zoneWords   = withEmpty(append(anatomyKeys(), slices.Sorted(maps.Keys(anatomy.Areas))...))
	partsOfHand = withEmpty(anyOf(stroke.HandParts))
	clearWords  = anyOf(protocol.Clearable)
)

func anatomyKeys() (out []string) {
	for i := range anatomy.Zones {
		out = append(out, anatomy.Zones[i].Key)
	}
	return out
}

func anyOf(list []string) []any {
	out := make([]any, len(list))
	for i, x := range list {
		out[i] = x
	}
	return out
}

func withEmpty[T any](list []T) []any {
	out := make([]any, 0, len(list)+1)
	for _, x := range list {
		out = append(out, x)
	}
	return append(out, "")
}

// placed are the fields of a stroke or step that name a zone, handed those that name a part of the hand,
// by the definition they belong to.
var (
	placed = map[string][]string{
		"Stroke": {"path", "towards", "actsOn"}, "Step": {"towards", "actsOn"}, "PathPoint": {"zone", "landmark"}, "Part": {"zone", "towards"},
		"Anchor": {"zone"}, "AnchorChange": {"zone"}, "HandContact": {"zone"}, "Finger": {"zone"}, "Rows": {"from", "to"},
		"Resistance": {"towards"}, "Score": {"zone"}, "VariantRule": {"zones"},
	}
	handed = map[string][]string{
		"Stroke": {"hand", "handChoice"}, "Step": {"hand", "handChoice"}, "Anchor": {"hand"}, "AnchorChange": {"hand"}, "HandContact": {"hand"},
		"Finger": {"part"}, "Alternate": {"hand"},
	}
)

// listWords writes the words that a plan may use into a schema: zones and areas, parts of the hand, what
// may be unknown and what a step may clear.
func listWords(defs map[string]*huma.Schema) {
	one := func(s *huma.Schema, words []any) { s.Enum = words }
	put := func(fields map[string][]string, words []any, apply func(*huma.Schema, []any)) {
		for def, names := range fields {
			for _, name := range names {
				s := fieldOf(defs, def, name)
				if s == nil {
					continue
				}
				if s.Items != nil {
					s = s.Items
				}
				apply(s, words)
			}
		}
	}
	// A zone is one of those built in, or one of the studio's own.
	put(placed, zoneWords, func(s *huma.Schema, words []any) {
		s.AnyOf = []*huma.Schema{{Enum: words}, {Pattern: "^" + anatomy.OwnPrefix}}
	})
	put(handed, partsOfHand, one)
	put(map[string][]string{"Step": {"clears"}}, clearWords, one)
	for _, def := range []string{"Stroke", "Step"} {
		if s := fieldOf(defs, def, "gaps"); s != nil {
			s.Properties, s.AdditionalProperties = map[string]*huma.Schema{}, false
			for _, property := range stroke.Properties {
				s.Properties[property] = &huma.Schema{Type: huma.TypeString}
			}
		}
	}
}

func fieldOf(defs map[string]*huma.Schema, def, name string) *huma.Schema {
	if s := defs[def]; s != nil {
		return s.Properties[name]
	}
	return nil
}
