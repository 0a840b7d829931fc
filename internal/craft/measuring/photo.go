package measuring

import "math"

// How far two photos may differ and still stand beside each other (handbook, chapter 7, Photos).
const (
	mostSize  = 0.03 // of the distance between the pupils
	mostRoll  = 2    // degrees of the line of the pupils
	mostLight = 0.10 // of the grey patch
)

// PhotoMarks are the places marked on a photo, in pixels, and how light its grey patch is, 0 to 1.
type PhotoMarks struct {
	Pupils [2]Pixel `json:"pupils"`
	Grey   float64  `json:"grey"`
}

// Size is the distance between the pupils, in pixels of a picture so many pixels wide, as a share of its width.
func (m *PhotoMarks) Size(width int) float64 {
	return math.Hypot(m.Pupils[1].X-m.Pupils[0].X, m.Pupils[1].Y-m.Pupils[0].Y) / float64(width)
}

// Roll is how far the line of the pupils leans, in degrees.
func (m *PhotoMarks) Roll() float64 {
	return math.Atan2(m.Pupils[1].Y-m.Pupils[0].Y, m.Pupils[1].X-m.Pupils[0].X) * 180 / math.Pi
}

// Unlike is why two photos may not stand beside each other.
type Unlike string

// The reasons, in the order in which they are told.
const (
	UnlikeSize  Unlike = "size"
	UnlikeRoll  Unlike = "roll"
	UnlikeLight Unlike = "light"
)

// Compare lists why two photos of widths in pixels may not stand beside each other; none where they may.
func Compare(a, b *PhotoMarks, wide, broad int) []Unlike {
	out := []Unlike{}
	if first, second := a.Size(wide), b.Size(broad); math.Abs(first-second) > mostSize*first+allowance {
		out = append(out, UnlikeSize)
	}
	if math.Abs(a.Roll()-b.Roll()) > mostRoll+allowance {
		out = append(out, UnlikeRoll)
	}
	if math.Abs(a.Grey-b.Grey) > mostLight*a.Grey+allowance {
		out = append(out, UnlikeLight)
	}
	return out
}
