package measuring

import (
	"math"
	"slices"
)

// Instrument is what a length is measured with.
type Instrument string

// The instruments, read to 0.1 mm, to 1 mm, and in degrees off a photo.
const (
	Caliper Instrument = "caliper"
	Tape    Instrument = "tape"
	Photo   Instrument = "photo"
)

// Measure is something that is measured or graded on a client (handbook, chapter 7, Look-over and measuring).
type Measure struct {
	Key string
	// Paired says that it is measured left and right.
	Paired bool
	// Instruments it is measured with; none for what is graded.
	Instruments []Instrument
	// Least and Most are the bounds of a reading, in mm or degrees, or of a grade.
	Least, Most float64
	// WeakerLonger says that the side with the larger value is the weaker one; WeakerShorter that it is the other.
	WeakerLonger, WeakerShorter bool
	// Step is from how much on a graded change is said.
	Step float64
}

// Measures are those that are offered, in their order.
var Measures = []Measure{
	{Key: "outer-eye-mouth", Paired: true, Instruments: []Instrument{Caliper, Tape}, Least: 30, Most: 120, WeakerLonger: true},
	{Key: "tragus-mouth", Paired: true, Instruments: []Instrument{Caliper, Tape}, Least: 60, Most: 180, WeakerLonger: true},
	{Key: "tragus-chin", Paired: true, Instruments: []Instrument{Tape, Caliper}, Least: 80, Most: 220, WeakerLonger: true},
	{Key: "brow-pupil", Paired: true, Instruments: []Instrument{Caliper, Tape}, Least: 5, Most: 50, WeakerShorter: true},
	{Key: "lid-opening", Paired: true, Instruments: []Instrument{Caliper}, Least: 1, Most: 20, WeakerShorter: true},
	{Key: "jaw-opening", Instruments: []Instrument{Caliper, Tape}, Least: 5, Most: 80},
	{Key: "mouth-tilt", Instruments: []Instrument{Photo}, Least: -45, Most: 45},
	{Key: "puffiness", Paired: true, Most: 4, WeakerLonger: true, Step: 1},
	{Key: "puffiness-jaw", Paired: true, Most: 4, WeakerLonger: true, Step: 1},
	{Key: "redness", Paired: true, Most: 4, WeakerLonger: true, Step: 1},
	{Key: "tension", Paired: true, Most: 4, WeakerLonger: true, Step: 1},
	{Key: "tenderness", Paired: true, Most: 10, WeakerLonger: true, Step: 2},
	{Key: "breathing-ease", Most: 10, Step: 2},
	{Key: "head-pressure", Most: 10, Step: 2},
}

// Find is a measure by its key; nil where there is none.
func Find(key string) *Measure {
	i := slices.IndexFunc(Measures, func(m Measure) bool { return m.Key == key })
	if i < 0 {
		return nil
	}
	return &Measures[i]
}

// Graded reports whether it is graded, and never measured.
func (m *Measure) Graded() bool { return len(m.Instruments) == 0 }

// Starting errors of measurement in mm, for the band of a chart until a practitioner's own are known (handbook,
// chapter 7, doubtful there).
const (
	startCaliper = 0.8
	startTape    = 1.5
	startJaw     = 1.8
	startPhoto   = 1 // degree; from memory
)

// StartingNoise is the error of measurement to draw a band with until the practitioner's own is known. Nothing is
// judged by it.
func (m *Measure) StartingNoise(with Instrument) float64 {
	switch {
	case m.Key == "jaw-opening":
		return startJaw
	case with == Tape:
		return startTape
	case with == Photo:
		return startPhoto
	}
	return startCaliper
}

// Weaker is the weaker side by a difference of left minus right; empty where the measure knows none.
func (m *Measure) Weaker(difference float64) string {
	switch {
	case difference == 0 || !m.WeakerLonger && !m.WeakerShorter:
		return ""
	case (difference > 0) == m.WeakerLonger:
		return "left"
	}
	return "right"
}

// Decimals with which a reading is said.
func (with Instrument) Decimals() int {
	if with == Tape {
		return 0
	}
	return 1
}

// MostApart is from what difference of two readings on a third is asked for, in mm or degrees: twice what the starting
// error explains (q x sqrt 2 x SEM).
func (m *Measure) MostApart(with Instrument) float64 {
	return normal * math.Sqrt2 * m.StartingNoise(with)
}

// Pixel is a place on a photo, x to the right and y down.
type Pixel struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Tilt is by how many degrees the line of the mouth corners leans against that of the pupils, clockwise on the picture
// (handbook, chapter 7).
func Tilt(pupils, mouth [2]Pixel) float64 {
	lean := func(line [2]Pixel) float64 { return math.Atan2(line[1].Y-line[0].Y, line[1].X-line[0].X) }
	degrees := (lean(mouth) - lean(pupils)) * 180 / math.Pi
	return math.Remainder(degrees, 360)
}

// Band is what a chart draws round the first mean: what a later mean of two readings must leave to show a change. It is
// drawn with the starting error until the practitioner's own is known.
func (m *Measure) Band(with Instrument, occasions [][]float64, readings int) (half float64, own bool) {
	sem, nu := Noise(occasions)
	if nu >= fewestFree {
		return quantile(nu) * sem * math.Sqrt(1/float64(readings)+1.0/2), true
	}
	return normal * m.StartingNoise(with) * math.Sqrt(1/float64(readings)+1.0/2), false
}
