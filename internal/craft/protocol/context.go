package protocol

import (
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// Context is everything a protocol is judged against besides itself.
type Context struct {
	Strokes  map[string]*stroke.Stroke
	Products map[string]*slip.Product
	Tools    map[string]Tool
	// Zones are those of the studio's own, by key.
	Zones      map[string]anatomy.ID
	SkinType   string
	SkinStates []string
	// Pace scales working seconds to the practitioner's own; 0 counts as 1. StrokePace stands in for it for strokes
	// whose own pace was learned.
	Pace       float64
	StrokePace map[string]float64
	// Excluded zones may not be worked today.
	Excluded []anatomy.ZoneSide
	// LongNails of the practitioner today.
	LongNails bool
	// HandsToday is how many minutes of thumb, pinch and knuckle work at 4 to 5
	// the practitioner has done already today.
	HandsToday float64
	// ReadyIn is how many minutes from the start a tool is still being cleaned or
	// chilled, by key.
	ReadyIn map[string]float64
	// DaysSince lists how many days ago the client last had an "exfoliation", a
	// "roller" and "deep" work, at home or here.
	DaysSince map[string][]int
	// Habits is how much of what is planned of a product the practitioner usually takes, by its key, as the
	// records teach; no entry where they teach nothing.
	Habits map[string]float64
	// ToBed is how many minutes after the end the client usually goes to bed; 0
	// where it is not known.
	ToBed float64
}

// StrokeOf returns the stroke of that key. One that the library no longer has is
// named by its key and takes no time.
func (c *Context) StrokeOf(key string) *stroke.Stroke {
	if st := c.Strokes[key]; st != nil {
		return st
	}
	return &stroke.Stroke{
		Key: key, Gone: true, Manner: stroke.Manner{Name: key, Family: stroke.Rest},
		Relation: stroke.Still,
		Sides:    stroke.Midline,
		Dose:     stroke.Dose{Kind: stroke.Clock},
		Parts:    []stroke.Part{{Kind: stroke.Hold, Seconds: 1}},
	}
}

// Zone returns the zone of that key, built in or of the studio's own.
func (c *Context) Zone(key string) (anatomy.ID, bool) {
	if anatomy.IsOwn(key) {
		id, ok := c.Zones[key]
		return id, ok
	}
	return anatomy.Lookup(key)
}

// ZoneOf returns the zone of that key. One that the studio no longer has is named by its key.
func (c *Context) ZoneOf(key string) anatomy.ID {
	if id, ok := c.Zone(key); ok {
		return id
	}
	return anatomy.Missing(key)
}

// ProductOf returns the product that a step uses; nil where it uses none, one that the shelf
// no longer has, or one for other skins than the client's.
func (c *Context) ProductOf(u *Use) *slip.Product {
	if u == nil || !c.suits(u) {
		return nil
	}
	return c.Products[u.Product]
}

// suits reports whether a product is for the client's skin. Where the skin is not known it is planned for.
func (c *Context) suits(u *Use) bool {
	if len(u.For) == 0 || c.SkinType == "" && len(c.SkinStates) == 0 {
		return true
	}
	return slices.ContainsFunc(u.For, c.HasSkin)
}

// HasSkin reports whether the client's skin carries a type or state.
func (c *Context) HasSkin(skin string) bool {
	return c.SkinType == skin || slices.Contains(c.SkinStates, skin)
}

// PaceOf scales working seconds of a stroke to the practitioner's own.
func (c *Context) PaceOf(stroke string) float64 {
	if own, ok := c.StrokePace[stroke]; ok && own > 0 {
		return own
	}
	if c.Pace == 0 {
		return 1
	}
	return c.Pace
}
