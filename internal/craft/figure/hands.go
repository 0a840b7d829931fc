package figure

import (
	"math"
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

// piece is a part of a hand or a tool at the origin, pointing along x.
type piece struct {
	d    string
	open bool // a line, not filled
}

func pad(x, y, rx, ry float64) piece { return piece{d: ellipse(pt{x, y}, rx, ry)} }

// pads are n finger pads side by side, across the way they point, the fingers behind them.
func pads(n int, size float64) []piece {
	var out []piece
	for i := range n {
		y := (float64(i) - float64(n-1)/2) * 0.66 * size
		out = append(out, pad(0, y, 0.52*size, 0.3*size),
			piece{poly([]pt{{-0.5 * size, y - 0.26*size}, {-1.5 * size, y - 0.22*size}}, false) + poly([]pt{{-0.5 * size, y + 0.26*size}, {-1.5 * size, y + 0.22*size}}, false), true})
	}
	return out
}

const (
	palm     = "M-1.3 -0.75C-0.9 -1.05 -0.2 -1.05 0.3 -1L1.35 -0.95C1.65 -0.9 1.65 -0.55 1.35 -0.5L1.55 -0.42C1.85 -0.35 1.85 0 1.55 0.02L1.5 0.08C1.8 0.15 1.75 0.5 1.45 0.5L1.2 0.56C1.45 0.62 1.4 0.95 1.1 0.95L0.2 0.98C-0.4 1.02 -0.9 1 -1.3 0.75C-1.55 0.4 -1.55 -0.4 -1.3 -0.75Z"
	thumbOut = "M-0.6 -0.95C-0.5 -1.35 -0.1 -1.65 0.25 -1.5C0.45 -1.35 0.25 -1.1 0 -1Z"
	knuckle  = "M-1.1 -0.35L0.2 -0.35C0.8 -0.35 0.8 0.45 0.2 0.45L-0.2 0.45L-0.2 0.1L-1.1 0.1Z"
	vee      = "M-1.2 -0.35L-0.6 0L-1.2 0.35M-0.6 0L0.9 -0.75C1.25 -0.85 1.35 -0.45 1.05 -0.3L0 0L1.05 0.3C1.35 0.45 1.25 0.85 0.9 0.75Z"
	heel     = "M-0.2 -0.9C0.5 -0.9 0.75 -0.5 0.75 0C0.75 0.5 0.5 0.9 -0.2 0.9L-1.5 0.75L-1.5 -0.75Z"
	handEdge = "M-1.5 -0.3L1.2 -0.35C1.6 -0.3 1.6 0.3 1.2 0.3L-1.5 0.35Z"
	stone    = "M0.5 -1.5C1 -0.6 1 0.6 0.5 1.5C0 1.9 -0.9 1.7 -1.2 1.1C-0.6 0.7 -0.6 -0.7 -1.2 -1.1C-0.9 -1.7 0 -1.9 0.5 -1.5Z"
	notch    = "M0.5 -1.5L0.75 -0.5C0.2 -0.4 0.2 0.4 0.75 0.5L0.5 1.5C0 1.9 -0.9 1.7 -1.2 1.1C-0.9 0.5 -0.9 -0.5 -1.2 -1.1C-0.9 -1.7 0 -1.9 0.5 -1.5Z"
	cylinder = "M-0.42 -1C-0.42 -1.2 0.42 -1.2 0.42 -1L0.42 1C0.42 1.2 -0.42 1.2 -0.42 1Z"
	cloth    = "M-1.1 -1C-0.5 -0.85 0.4 -1.15 1.1 -1C0.95 -0.4 1.2 0.4 1.1 1C0.5 1.15 -0.4 0.85 -1.1 1C-1.2 0.4 -0.95 -0.4 -1.1 -1Z"
	brush    = "M1.1 -0.55C1.3 -0.2 1.3 0.2 1.1 0.55L0.1 0.35L0.1 -0.35Z"
)

func line(points ...float64) piece {
	var p []pt
	for i := 0; i+1 < len(points); i += 2 {
		p = append(p, pt{points[i], points[i+1]})
	}
	return piece{poly(p, false), true}
}

// handGlyph is how a hand part looks on the skin.
func handGlyph(hand string) []piece {
	switch hand {
	case "index", "ring finger", "middle finger":
		return pads(1, 1)
	case "middle over index":
		return []piece{pad(0, 0, 0.6, 0.36), pad(-0.25, -0.14, 0.5, 0.27), line(-0.6, -0.3, -1.5, -0.26), line(-0.6, 0.3, -1.5, 0.26)}
	case "index + middle", "middle + ring":
		return pads(2, 1)
	case "thumb":
		return []piece{pad(0, 0, 0.72, 0.46), line(-0.7, -0.34, -1.6, -0.42), line(-0.7, 0.34, -1.6, 0.42)}
	case "thumb + index pinch", "thumb and index C", "L of thumb and index", "finger over thumb":
		return []piece{pad(0, -0.62, 0.5, 0.28), pad(0, 0.62, 0.58, 0.34), line(-0.4, -0.8, -1.5, -0.35), line(-0.5, 0.8, -1.5, 0.35)}
	case "two fingers + thumb":
		return []piece{pad(0, 0.66, 0.58, 0.34), pad(0.1, -0.42, 0.5, 0.26), pad(-0.1, -0.98, 0.5, 0.26), line(-0.5, 0.85, -1.6, 0.35), line(-0.55, -1.1, -1.6, -0.45)}
	case "knuckle of one finger", "bent index hook":
		return []piece{{d: knuckle}}
	case "fist knuckles":
		out := []piece{{d: "M-0.4 -1.35L-1.5 -1.15L-1.5 1.15L-0.4 1.35Z"}}
		for _, y := range []float64{-1.02, -0.34, 0.34, 1.02} {
			out = append(out, pad(-0.1, y, 0.42, 0.32))
		}
		return out
	case "flat palm", "cupped palm", "backs of fingers", "whole hand":
		return []piece{{d: palm}, {d: thumbOut}}
	case "interlaced hands", "joined palms":
		return []piece{pad(-0.2, -0.32, 1.4, 0.6), pad(-0.2, 0.32, 1.4, 0.6)}
	case "heel of hand":
		return []piece{{d: heel}}
	case "edge of hand":
		return []piece{{d: handEdge}}
	case "two-finger V", "web of hand":
		return []piece{{d: vee}}
	case "all fingers":
		return pads(4, 0.9)
	}
	return pads(3, 1)
}

// toolGlyph is how a tool looks: its working edge in front, its handle behind.
func toolGlyph(kind, part string) []piece {
	handle := line(-0.4, 0, -2.3, 0)
	switch kind {
	case "stone":
		if part == "U-notch" || part == "heart notch" || part == "notch" {
			return []piece{{d: notch}}
		}
		if part == "short edge" {
			return []piece{{d: moved(stone, pt{-0.9, 0}, 90, 0.85)}, line(0.42, -0.7, 0.42, 0.7)}
		}
		return []piece{{d: stone}, line(0.72, -1.1, 0.98, 0, 0.72, 1.1)}
	case "twin-ball-roller":
		return []piece{pad(0.2, -0.72, 0.6, 0.6), pad(0.2, 0.72, 0.6, 0.6), line(-0.2, -0.4, -0.9, 0, -0.2, 0.4), line(-0.9, 0, -2.5, 0)}
	case "single-ball-roller":
		return []piece{pad(0.1, 0, 0.7, 0.7), line(-0.6, 0, -2.3, 0)}
	case "cylinder-roller":
		return []piece{{d: cylinder}, handle}
	case "cold":
		return []piece{pad(0, 0, 0.8, 0.8), line(0, -0.45, 0, 0.45), line(-0.39, -0.22, 0.39, 0.22), line(-0.39, 0.22, 0.39, -0.22), line(-0.8, 0, -2.2, 0)}
	case "cup":
		return []piece{pad(0, 0, 0.85, 0.85), {ellipse(pt{}, 0.45, 0.45), true}}
	case "brush":
		return []piece{{d: brush}, line(0.1, 0, -2.2, 0)}
	case "spatula":
		return []piece{{d: handEdge}}
	}
	return []piece{{d: cloth}, line(-0.8, -0.45, 0.8, -0.5), line(-0.85, 0.1, 0.85, 0.05)}
}

// glyph makes marks of pieces in a tone.
func glyph(pieces []piece, tone Tone) []Trace {
	out := make([]Trace, len(pieces))
	for i, p := range pieces {
		out[i] = Trace{D: p.d, Fill: Paper, Pen: tone, Width: 0.12}
		if p.open {
			out[i].Fill = ""
		}
	}
	return out
}

// workingHand is what touches the skin: the tool, else the hand part.
func (s *sketch) workingHand() []Trace {
	if s.r.Tool != nil {
		return glyph(toolGlyph(s.r.ToolKind, s.r.Tool.Part), Ink)
	}
	if s.r.Hand == "" {
		return []Trace{}
	}
	return glyph(handGlyph(s.r.Hand), Ink)
}

// mostTurn is how far a hand turns from the feet towards its path, in degrees.
const mostTurn = 60

// single pads, and what is held by its edge, may turn with the path.
var turning = []string{"index", "ring finger", "middle finger", "middle over index", "index + middle", "middle + ring", "thumb", "thumb + index pinch"}

// turn is how a hand lies while it moves in a direction, in degrees: fingers to the feet, from the
// crown, turned no further than a wrist does; in the mouth they come in from the corner.
func (s *sketch) turn(dir pt) float64 {
	if s.r.Figure == stroke.FigureClient {
		return dir.angle() * 180 / math.Pi
	}
	if s.view == anatomy.MouthView {
		if s.now != nil && s.now.side == anatomy.Right {
			return 0
		}
		return 180
	}
	off := dir.angle()*180/math.Pi - 90
	for off > 90 { // drawn back towards the crown it still points to the feet
		off -= 180
	}
	for off < -90 {
		off += 180
	}
	flip := 0.0
	if s.r.Tool != nil {
		if s.r.Tool.Handle == "down" {
			flip = 180
		}
		if s.r.ToolKind == "stone" { // its edge lies across the path
			return 90 + off
		}
	} else if slices.Contains(turning, s.r.Hand) {
		return 90 + off
	}
	return 90 + math.Max(-mostTurn, math.Min(mostTurn, off)) + flip
}
