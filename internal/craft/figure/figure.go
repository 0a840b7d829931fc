// Package figure draws a step: how the hands move, as a still picture for screen and paper and as
// tracks for moving hands.
//
// # Concepts
//
// A [Drawing] is one step seen from one view, in picture centimetres: x to the right, y down, the
// same as the body's own drawing ([anatomy.DrawingOf]). It is made of marks ([Trace]) that any screen
// or paper can paint, and of tracks ([Track]) that say where each hand is through one repetition.
//
// Which of the 21 figures a step is follows from its data ([stroke.Motion]). The practitioner sits
// behind the head: hands reach from the crown down the face and turn little. No line crosses an eye,
// a lip, a nostril or the throat, unless the path itself names that zone.
package figure

import (
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/stroke"
)

// Tone names a colour that the one who paints chooses.
type Tone string

// The tones.
const (
	Ink   Tone = "ink"   // of the step's intent
	Paper Tone = "paper" // the ground
	Other Tone = "other" // of the other hand
	Text  Tone = "text"
	Tint  Tone = "tint" // a zone that is worked as a whole
)

// Trace is a path or a piece of text.
type Trace struct {
	// D is an SVG path of absolute M, L, C and Z.
	D    string `json:"d,omitempty"`
	Fill Tone   `json:"fill,omitempty" enum:"ink,paper,other,text,tint,"`
	Pen  Tone   `json:"pen,omitempty" enum:"ink,paper,other,text,tint,"`
	// Width of the pen in centimetres; Dash its pattern.
	Width float64   `json:"width,omitempty"`
	Dash  []float64 `json:"dash,omitempty"`
	// Fade is the opacity, 0 counting as 1.
	Fade float64 `json:"fade,omitempty"`
	// Text stands with its middle at At, upright, in letters of Size.
	Text string     `json:"text,omitempty"`
	At   [2]float64 `json:"at"`
	Size float64    `json:"size,omitempty"`
	// Side is set on marks of a side that is worked in turn with the other.
	Side string `json:"side,omitempty" enum:"left,right,"`
	// Still marks are left away while hands move: the hand where it begins.
	Still bool `json:"still,omitempty"`
	// Flash numbers marks that light up one after the other: taps, zones in order. 0 is none.
	Flash int `json:"flash,omitempty"`
}

// Key is where a hand is at a moment.
type Key struct {
	// T in seconds of the repetition.
	T float64 `json:"t"`
	X float64 `json:"x"`
	Y float64 `json:"y"`
	// Turn in degrees: 90 points to the feet.
	Turn float64 `json:"turn"`
	// Lift is 0 on the skin, 1 off it; Press is 0 to 1: a grip closes, a hold grows.
	Lift  float64 `json:"lift,omitempty"`
	Press float64 `json:"press,omitempty"`
}

// Track is the way of one hand through one repetition.
type Track struct {
	Side  string `json:"side" enum:"left,right,mid"`
	Other bool   `json:"other,omitempty"`
	Keys  []Key  `json:"keys"`
	// Trembles is set for vibration: 0.08 cm across, 8 times a second.
	Trembles bool `json:"trembles,omitempty"`
}

// Drawing is a step from one view.
type Drawing struct {
	View  anatomy.View `json:"view" enum:"front,left,right,back,mouth"`
	Marks []Trace      `json:"marks"`
	// Hand and OtherHand are the working hand, or its tool, and the other one: at the origin,
	// pointing along x.
	Hand      []Trace `json:"hand"`
	OtherHand []Trace `json:"otherHand"`
	// Scale of the hands: 1, smaller where the picture is of something small.
	Scale  float64 `json:"scale"`
	Tracks []Track `json:"tracks"`
	// Near is the square round the marks, as x, y, width and height; see [Near].
	Near [4]float64 `json:"near"`
	// Seconds of one repetition; Rate is how many flashes a second.
	Seconds float64 `json:"seconds"`
	Rate    float64 `json:"rate,omitempty"`
}

// Draw draws a step from a view. What cannot be seen from there is left out.
func Draw(r *evaluation.Resolved, view anatomy.View) Drawing {
	s := newSketch(r, view)
	if still := stills[r.Figure]; still != nil {
		still(s)
	}
	if len(s.ways) == 0 {
		s.unseen()
	}
	return s.drawing()
}

// unseen names the zones of a step that no picture shows: hands, belly, a studio's own.
func (s *sketch) unseen() {
	var names []string
	for i := range s.r.Path {
		id, ok := anatomy.Lookup(s.r.Path[i].Zone)
		name := s.r.Path[i].Zone
		if ok {
			name = id.Zone().Name
		}
		if ok && id.Zone().Region != anatomy.AddOn || slices.Contains(names, name) {
			continue // it is only turned away in this view
		}
		names = append(names, name)
	}
	box := anatomy.DrawingOf(s.view).Box
	for i, name := range names {
		s.over = append(s.over, Trace{Text: name, At: [2]float64{0, box[1] + box[3] - 2 - 1.8*float64(len(names)-1-i)}, Size: 1.5, Fill: Text})
	}
}

// drawing gathers what was sketched.
func (s *sketch) drawing() Drawing {
	d := Drawing{View: s.view, Marks: []Trace{}, Hand: s.workingHand(), OtherHand: []Trace{}, Tracks: s.tracks(), Scale: s.u, Seconds: s.rep(), Rate: s.rate}
	d.Marks = append(append(append(d.Marks, s.under...), s.lines...), s.over...)
	if s.r.Figure == stroke.FigureClient {
		d.Hand = s.clientHand()
	}
	if s.r.Anchor != nil {
		d.OtherHand = glyph(handGlyph(s.r.Anchor.Hand), Other)
	}
	for i := range d.Marks {
		d.Marks[i].round()
	}
	if s.view != "" {
		d.Near = Near(&d)
	}
	return d
}

// stills are the figures as they are drawn; what has none is not drawn.
var stills = map[stroke.Figure]func(*sketch){
	stroke.FigureGlide:        (*sketch).glide,
	stroke.FigureFeathering:   (*sketch).feathering,
	stroke.FigureCircle:       (*sketch).circles,
	stroke.FigureSpiral:       (*sketch).spiral,
	stroke.FigureZigzag:       (*sketch).zigzag,
	stroke.FigureWhip:         (*sketch).whip,
	stroke.FigurePast:         (*sketch).past,
	stroke.FigureFork:         (*sketch).fork,
	stroke.FigureVibration:    (*sketch).vibration,
	stroke.FigurePinches:      (*sketch).pinches,
	stroke.FigureKnead:        (*sketch).knead,
	stroke.FigureSkinRoll:     (*sketch).skinRoll,
	stroke.FigureTaps:         (*sketch).taps,
	stroke.FigurePump:         (*sketch).pump,
	stroke.FigureHold:         (*sketch).hold,
	stroke.FigureHandOverHand: (*sketch).handOverHand,
	stroke.FigureStretch:      (*sketch).stretch,
	stroke.FigureLoop:         (*sketch).loop,
	stroke.FigureRoll:         (*sketch).roll,
	stroke.FigureArea:         (*sketch).area,
	stroke.FigureClient:       (*sketch).client,
}

// closest is the least of the body that a picture shows, in centimetres.
const closest = 11.0

// Near is the square round a drawing's marks, as x, y, width and height: what a small picture shows.
func Near(d *Drawing) [4]float64 {
	whole := anatomy.DrawingOf(d.View).Box
	if d.View == anatomy.RightView {
		whole[0] = -(whole[0] + whole[2])
	}
	if len(d.Marks) == 0 || d.View == anatomy.MouthView {
		return whole
	}
	low, high := pt{1e9, 1e9}, pt{-1e9, -1e9}
	for i := range d.Marks {
		a, b := d.Marks[i].bounds()
		low, high = pt{min(low.x, a.x), min(low.y, a.y)}, pt{max(high.x, b.x), max(high.y, b.y)}
	}
	size := min(max(closest, high.x-low.x+2, high.y-low.y+2), whole[2])
	c := between(low, high, 0.5)
	return [4]float64{
		hundredth(max(whole[0], min(whole[0]+whole[2]-size, c.x-size/2))),
		hundredth(max(whole[1], min(whole[1]+whole[3]-size, c.y-size/2))),
		hundredth(size), hundredth(size),
	}
}

// bounds are the corners of the box round a mark.
func (m *Trace) bounds() (low, high pt) {
	if m.Text != "" {
		return pt{m.At[0] - m.Size, m.At[1] - m.Size}, pt{m.At[0] + m.Size, m.At[1] + m.Size}
	}
	low, high = pt{1e9, 1e9}, pt{-1e9, -1e9}
	for _, p := range points(m.D) {
		low, high = pt{min(low.x, p.x), min(low.y, p.y)}, pt{max(high.x, p.x), max(high.y, p.y)}
	}
	return low, high
}
