package evaluation

// TravelPoint is where the hands are at a moment: seconds from the start, and cm above the chin.
type TravelPoint struct {
	At     float64 `json:"at"`
	Height float64 `json:"height"`
}

// Travel is the way of the hands over a plan, from each step's first place to its last; steps off the
// body, and zones of which no place is known, are left out.
func (e *Evaluation) Travel() []TravelPoint {
	out := make([]TravelPoint, 0, 2*len(e.Occurrences))
	for i := range e.Occurrences {
		v := &e.Occurrences[i]
		path := e.Steps[v.Step].Path
		if len(path) == 0 || !path[0].id.Placed() || !path[len(path)-1].id.Placed() {
			continue
		}
		out = append(out, TravelPoint{v.Start, path[0].Height}, TravelPoint{v.End, path[len(path)-1].Height})
	}
	return out
}
