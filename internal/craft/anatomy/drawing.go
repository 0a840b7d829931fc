package anatomy

import (
	_ "embed"
	"encoding/json"
	"sync"
)

//go:embed drawing.json
var drawingFile []byte

// Drawing is the line drawing of one view to which the landmarks are fitted, in
// centimetres with y running down: head, neck and shoulders, hair wrapped, of no
// particular sex or age. The right view is the left one mirrored.
type Drawing struct {
	// Box is x, y, width and height of the picture.
	Box    [4]float64 `json:"box"`
	Shapes []Shape    `json:"shapes"`
}

// Shape is a path (SVG, absolute M L C H V Z) of a drawing. Fill names a tone:
// skin, shade, cloth, line or paper; Line is the width of its contour; Fade its
// opacity, 0 counting as 1; Twice draws it mirrored as well.
type Shape struct {
	D     string  `json:"d"`
	Fill  string  `json:"fill,omitempty"`
	Line  float64 `json:"line,omitempty"`
	Fade  float64 `json:"fade,omitempty"`
	Twice bool    `json:"twice,omitempty"`
}

var drawings = sync.OnceValue(func() map[View]Drawing {
	m := map[View]Drawing{}
	if err := json.Unmarshal(drawingFile, &m); err != nil {
		panic("anatomy: the drawing is broken: " + err.Error())
	}
	return m
})

// DrawingOf returns the drawing of a view; that of the left for the right, which
// is its mirror image.
func DrawingOf(v View) Drawing {
	if v == RightView {
		v = LeftView
	}
	return drawings()[v]
}

// Project puts a place on the picture of a view, in centimetres with y running
// down; ok is false where the zone cannot be seen there.
func (p ZoneSide) Project(v View) (x, y float64, ok bool) {
	z := p.Zone.zone
	if !z.Seen(v) || v == LeftView && p.Side == Right || v == RightView && p.Side == Left {
		return 0, 0, false
	}
	at := p.At()
	switch v {
	case LeftView:
		return -at.Z, -at.Y, true
	case RightView:
		return at.Z, -at.Y, true
	case BackView:
		return -at.X, -at.Y, true
	case MouthView:
		x, y = middle(z.Mouth)
		if p.Side == Right {
			x = -x
		}
		return x, -y, true
	}
	return at.X, -at.Y, true
}

func middle(outline [][2]float64) (x, y float64) {
	for _, p := range outline {
		x, y = x+p[0]/float64(len(outline)), y+p[1]/float64(len(outline))
	}
	return x, y
}
