package evaluation

import (
	"math"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

// Slid is how many seconds the hands slide over a zone on one side, and the most.
type Slid struct {
	AtZone
	OnSide
	Seconds float64 `json:"seconds"`
	Most    float64 `json:"most"`
}

func (s *Slid) apart() string { return s.Side }

// Sliding seconds a treatment may spend on each eye (handbook, chapter 3: a
// studio's defaults). Holds, cold rest and masks do not count.
const (
	UnderEyeSeconds   = 90.0
	OrbitalRimSeconds = 240.0
)

// EyeLimit is the sliding seconds allowed on a zone per eye; 0 for no limit. The rim above the eye
// shares the limit of the rim below; see [EyeShare].
func EyeLimit(zone string) float64 {
	switch EyeShare(zone) {
	case "under-eye":
		return UnderEyeSeconds
	case "orbital-rim":
		return OrbitalRimSeconds
	}
	return 0
}

// EyeShare is the zone whose limit a zone at the eye is counted against, "" for none.
func EyeShare(zone string) string {
	switch zone {
	case "under-eye":
		return zone
	case "orbital-rim", "upper-orbital-rim":
		return "orbital-rim"
	}
	return ""
}

// EyeSliding is the sliding seconds counted against the limit of a zone on one side.
func (e *Evaluation) EyeSliding(share, side string) (seconds float64) {
	for i := range e.Loads {
		if l := &e.Loads[i]; l.Side == side && EyeShare(l.Zone) == share {
			seconds += l.Sliding
		}
	}
	return seconds
}

// SlidingShare is the part of the step's time in which hands or tools slide.
func (r *Resolved) SlidingShare() float64 {
	if r.Relation != stroke.Slides {
		return 0
	}
	if r.rep > 0 && r.Dose.CountsReps() {
		return 1 - holdSeconds(r.Parts)/r.rep
	}
	return 1
}

func holdSeconds(parts []stroke.Part) float64 {
	sum := 0.0
	for i := range parts {
		if parts[i].Kind == stroke.Hold || parts[i].Kind == stroke.Swap {
			sum += parts[i].Seconds * float64(max(parts[i].Count, 1))
		}
	}
	return sum
}

// load adds up what each zone gets on each side and judges the eyes.
func (e *Evaluation) load() {
	var at [3][anatomy.Slots]Load
	for vi := range e.Occurrences {
		v := &e.Occurrences[vi]
		r := &e.Steps[v.Step]
		if len(r.Path) == 0 {
			continue
		}
		sliding := r.SlidingShare()
		for pi := range v.SideRuns {
			ps := &v.SideRuns[pi]
			secs := ps.Seconds / float64(len(r.Path))
			for i := range r.Path {
				id := r.Path[i].id
				on := func(side anatomy.Side) {
					l := &at[side][id.Index()]
					l.Zone = r.Path[i].Zone
					l.Seconds += secs
					l.Sliding += secs * sliding
					l.Load += secs / 60 * float64(r.Path[i].Pressure)
				}
				switch {
				case !id.Zone().Paired:
					on(anatomy.Mid)
				case r.Path[i].Side != "":
					on(r.Path[i].side)
				case ps.OnSide == anatomy.Mid:
					on(anatomy.Left)
					on(anatomy.Right)
				default:
					on(ps.OnSide)
				}
			}
		}
	}
	n := 0
	for side := range at {
		for id := range at[side] {
			if at[side][id].Seconds > 0 {
				n++
			}
		}
	}
	e.Loads = make([]Load, 0, n)
	for id := range at[0] {
		for side := range at {
			l := at[side][id]
			if l.Seconds == 0 {
				continue
			}
			l.Side = anatomy.Side(side).String()
			e.Loads = append(e.Loads, l)
		}
	}
	for _, zone := range []string{"under-eye", "orbital-rim"} {
		for _, side := range []anatomy.Side{anatomy.Left, anatomy.Right} {
			if s := e.EyeSliding(zone, side.String()); s > EyeLimit(zone)+0.5 {
				e.eyeLoad(zone, side.String(), s)
			}
		}
	}
	e.mergeSides()
}

func (e *Evaluation) eyeLoad(zone, side string, seconds float64) {
	step := ""
	for i := range e.Steps {
		if e.Steps[i].OnEye(zone) && e.Steps[i].SlidingShare() > 0 {
			step = e.Steps[i].ID
		}
	}
	e.add(
		EyeLoad,
		Warning,
		StudioLimit,
		&Slid{AtZone{zone}, OnSide{side}, math.Round(seconds), EyeLimit(zone)},
		[]Fix{LessLoad},
		step,
	)
}
