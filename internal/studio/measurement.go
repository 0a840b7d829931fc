package studio

import (
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/measuring"
)

// Moment is when in a day it was measured.
type Moment string

// The moments: before the first stroke, and after the last one.
const (
	Before Moment = "before"
	After  Moment = "after"
)

// ByGrade is the instrument of what is graded.
const ByGrade measuring.Instrument = "grade"

// Measurement is one or more readings of a measure on one side, in mm or degrees, or a grade.
type Measurement struct {
	ID         uuid.UUID            `json:"id"`
	Client     uuid.UUID            `json:"client"`
	Visit      *uuid.UUID           `json:"visit,omitempty"`
	Measure    string               `json:"measure"`
	Instrument measuring.Instrument `json:"instrument" enum:"caliper,tape,photo,grade"`
	Side       string               `json:"side" enum:"left,right,mid"`
	Moment     Moment               `json:"moment" enum:"before,after"`
	Readings   []float64            `json:"readings"`
	Account    uuid.UUID            `json:"-"`
	By         string               `json:"by"`
	At         time.Time            `json:"at"`
	// StruckAt is set where it was taken out, with the reason; it counts for nothing then.
	StruckAt     *time.Time `json:"struckAt,omitempty"`
	StruckReason string     `json:"struckReason,omitempty"`
}

// Mean of the readings.
func (m *Measurement) Mean() float64 {
	sum := 0.0
	for _, v := range m.Readings {
		sum += v
	}
	return sum / float64(len(m.Readings))
}

// Hope is what was hoped of a measure, since when it was stated.
type Hope struct {
	Measure string    `json:"measure"`
	Hope    string    `json:"hope" enum:"longer,shorter"`
	Since   time.Time `json:"since"`
}
