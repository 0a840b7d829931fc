package figure

import (
	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/stroke"
)

// Sample is what a figure looks like by itself, for a legend: on a line of six centimetres, or at a place.
type Sample struct {
	Figure  stroke.Figure `json:"figure"`
	Drawing Drawing       `json:"drawing"`
}

// SampleBox is the part of a sample's plane that a legend shows: x, y, width and height.
var SampleBox = [4]float64{-5, -2.5, 10, 5}

// Figures lists the figures in the order of a legend: what slides, what stays, what grips, the rest.
var Figures = []stroke.Figure{
	stroke.FigureGlide, stroke.FigureHandOverHand, stroke.FigureLoop, stroke.FigureFeathering, stroke.FigureSpiral,
	stroke.FigureZigzag, stroke.FigureFork, stroke.FigureWhip, stroke.FigurePast, stroke.FigureVibration,
	stroke.FigureCircle, stroke.FigurePump, stroke.FigureHold, stroke.FigureStretch, stroke.FigurePinches,
	stroke.FigureKnead, stroke.FigureSkinRoll, stroke.FigureTaps, stroke.FigureRoll, stroke.FigureArea, stroke.FigureClient,
}

// onThePlace are the figures shown at one place.
var onThePlace = map[stroke.Figure]bool{
	stroke.FigureHold: true, stroke.FigureKnead: true, stroke.FigureClient: true, stroke.FigurePast: true,
}

// Legend draws a sample of every figure.
func Legend() []Sample {
	out := make([]Sample, len(Figures))
	for i, f := range Figures {
		out[i] = Sample{f, sample(f)}
	}
	return out
}

func sample(f stroke.Figure) Drawing {
	r := &evaluation.Resolved{
		Figure: f, Manner: &stroke.Manner{Intent: stroke.Lift, Hand: "index + middle"}, Sides: "mid", Pressure: 2, View: anatomy.FrontView,
		Dose:  &stroke.Dose{Kind: stroke.Clock, Planned: 5},
		Parts: []stroke.Part{{Kind: stroke.Pulse, Seconds: 1, Count: 5}},
	}
	id, _ := anatomy.Lookup("chest") // any zone: a legend shows no face
	w := &way{side: anatomy.Mid}
	from, to := pt{-3, 0.4}, pt{3, -0.4}
	switch {
	case onThePlace[f]:
		w.stops = []stop{{pt{0, 0}, 0, id, 2}}
	case f == stroke.FigureTaps || f == stroke.FigureArea:
		w.stops = []stop{{pt{-1.3, 0}, 0, id, 2}, {pt{1.3, 0}, 1, id, 2}}
	case f == stroke.FigureCircle || f == stroke.FigurePump:
		w.stops = []stop{{pt{-1.6, 0}, 0, id, 2}, {pt{1.6, 0}, 1, id, 2}}
	case f == stroke.FigureLoop:
		w.stops = []stop{{pt{-2, 0}, 0, id, 2}, {pt{0, -1.3}, 1, id, 2}, {pt{2, 0}, 2, id, 2}, {pt{0, 1.3}, 3, id, 2}, {pt{-2, 0}, 4, id, 2}}
	case f == stroke.FigureRoll: // a tool is long
		w.stops = []stop{{pt{-2.2, 0.4}, 0, id, 2}, {pt{3, -0.4}, 1, id, 2}}
	case f == stroke.FigureStretch: // its head stands beyond its end
		w.stops = []stop{{pt{-2.6, 0.4}, 0, id, 2}, {pt{1, 0}, 1, id, 2}}
	default:
		w.stops = []stop{{from, 0, id, 2}, {between(from, to, 0.5), 1, id, 2}, {to, 2, id, 2}}
	}
	if f == stroke.FigureRoll {
		r.Tool, r.ToolKind = &stroke.ToolPart{Key: "roller"}, "cylinder-roller"
	}
	s := &sketch{r: r, view: "", u: 1, ways: []*way{w}, written: map[string]bool{}}
	w.lead("")
	if f == stroke.FigureArea { // two fields in order instead of zones
		s.rate = 0.7
		for n, x := range []float64{-2.1, 0.3} {
			s.mark(&s.under, Trace{D: poly([]pt{{x, -0.9}, {x + 1.8, -0.9}, {x + 1.8, 0.9}, {x, 0.9}}, true), Fill: Tint, Pen: Ink, Width: 0.07, Flash: n + 1})
			s.write(pt{x + 0.9, 0}, string(rune('1'+n)), 0.7, false)
		}
	} else {
		stills[f](s)
	}
	return s.drawing()
}
