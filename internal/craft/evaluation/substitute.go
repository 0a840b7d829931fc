package evaluation

import (
	"slices"

	"softpalm/internal/craft/stroke"
)

// Substitutes reports whether a stroke of the library may take the place of a
// step's own: it has the same intent and works some of the same zones. Work by
// hand is never replaced by a tool, which would have to be asked about and laid
// out.
func Substitutes(alt *stroke.Stroke, r *Resolved) bool {
	return alt.Intent == r.Intent && (alt.Tool == nil || r.Tool != nil) && alt.Key != r.StrokeKey &&
		(alt.Glide != stroke.GripGlide || r.Glide == stroke.GripGlide) &&
		SharedZones(alt, r) > 0
}

// SharedZones counts the zones of a stroke's path that a step works.
func SharedZones(alt *stroke.Stroke, r *Resolved) int {
	shared := 0
	for _, z := range alt.Zones() {
		if slices.ContainsFunc(r.Path, func(pt Stop) bool { return pt.Zone == z }) {
			shared++
		}
	}
	return shared
}
