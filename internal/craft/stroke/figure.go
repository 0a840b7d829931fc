package stroke

import (
	"slices"
	"strings"
)

// Figure is how a stroke moves, in one word: what a colleague would copy from a picture. It follows from
// family, relation, path, direction, sense, hands and tool (common practice).
type Figure string

// The figures.
const (
	FigureGlide        Figure = "glide"
	FigureFeathering   Figure = "feathering"
	FigureCircle       Figure = "circle"  // on the spot, the skin carried
	FigureSpiral       Figure = "spiral"  // circles that travel
	FigureZigzag       Figure = "zigzag"  // across a path, along it
	FigureWhip         Figure = "whip"    // short and off the skin
	FigurePast         Figure = "past"    // hands or fingers past each other
	FigureFork         Figure = "fork"    // two fingers astride an edge
	FigureVibration    Figure = "vibrate" // trembling
	FigurePinches      Figure = "pinches"
	FigureKnead        Figure = "knead"
	FigureSkinRoll     Figure = "skin-roll"
	FigureTaps         Figure = "taps"
	FigurePump         Figure = "pump"
	FigureHold         Figure = "hold"
	FigureHandOverHand Figure = "hand-over-hand"
	FigureStretch      Figure = "stretch"
	FigureLoop         Figure = "loop" // ends where it began
	FigureRoll         Figure = "roll" // a tool rolls out and comes back
	FigureArea         Figure = "area" // over zones in turn, no line
	FigureClient       Figure = "client"
)

// Motion is what decides the figure of a stroke, or of a step that departs from its stroke.
type Motion struct {
	Family    Family
	Relation  Relation
	Places    int // on the path
	First     string
	Last      string
	Direction string
	Sense     string
	Hand      string
	Tool      *ToolPart
	Anchor    *Anchor
}

// Motion is what decides the stroke's figure.
func (s *Stroke) Motion() *Motion {
	m := Motion{
		Family: s.Family, Relation: s.Relation, Places: len(s.Path), Direction: s.Direction, Sense: s.CircleDirection,
		Hand: s.Hand, Tool: s.Tool, Anchor: s.Anchor,
	}
	if m.Places > 0 {
		m.First, m.Last = s.Path[0], s.Path[m.Places-1]
	}
	return &m
}

// byFamily is the figure of a family that is one by itself; "" for others.
func byFamily(f Family) Figure {
	switch f {
	case Exercise, "passive movement", "twist":
		return FigureClient
	case "feathering":
		return FigureFeathering
	case "flick/whip":
		return FigureWhip
	case "skin rolling":
		return FigureSkinRoll
	case Tapotement:
		return FigureTaps
	case "vibration":
		return FigureVibration
	case "stretch":
		return FigureStretch
	case ToolRoll:
		return FigureRoll
	case Rest, Hygiene:
		return FigureArea
	case ToolPress, "static hold":
		return FigureHold
	}
	return ""
}

// Figure is the figure of a motion.
func (m *Motion) Figure() Figure {
	if f := byFamily(m.Family); f != "" {
		return f
	}
	slides := m.Relation == Slides
	switch {
	case m.Places == 0 || m.Family == Application && !slides:
		return FigureArea
	case m.Family == Petrissage || m.Family == "pick-up":
		if strings.Contains(m.Hand, "pinch") {
			return FigurePinches
		}
		return FigureKnead
	case m.Family == "compression" && m.wipes():
		return FigureArea
	case m.Family == "compression" && m.Sense == "":
		return FigureHold
	case slides && m.Places > 2 && m.First == m.Last && m.Family != Application:
		return FigureLoop
	case m.Anchor != nil && m.Anchor.Role == "carries-on":
		return FigureHandOverHand
	}
	return m.line(slides)
}

// line is the figure of what travels a line, or stands on its places.
func (m *Motion) line(slides bool) Figure {
	across := m.Direction == "across" || m.Family == "scissor"
	switch {
	case across && m.Places <= 2 && (m.Family == "scissor" || m.Family == Friction):
		return FigurePast
	case m.Family == "scissor" || m.forked() && slides:
		return FigureFork
	case slides && m.Direction == "across":
		return FigureZigzag
	case m.Family == CleansingCircle || slides && m.Family == Friction:
		return FigureSpiral
	case !slides && m.Sense != "", m.Family == Friction:
		return FigureCircle
	case m.Family == "pump":
		return FigurePump
	case !slides && m.Family == "compression":
		return FigureHold
	}
	return FigureGlide
}

// forked reports whether two fingers, or a notch, stand astride an edge.
func (m *Motion) forked() bool {
	if m.Tool != nil {
		return strings.Contains(m.Tool.Part, "notch")
	}
	return slices.Contains([]string{"two-finger V", "thumb and index C", "L of thumb and index"}, m.Hand)
}

// wipes reports whether something is laid on, pressed and drawn off: towels, tissues.
func (m *Motion) wipes() bool { return m.Tool != nil || m.Relation == Slides || m.Places > 2 }
