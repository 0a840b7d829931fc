package stroke

import "fmt"

// Places calls visit with the key of every zone and area that the stroke names. path is a JSON pointer
// below at. visit may change the key.
func (s *Stroke) Places(visit func(key *string, path string), at string) {
	for i := range s.Path {
		visit(&s.Path[i], fmt.Sprintf("%s/path/%d", at, i))
	}
	FingerPlaces(s.Fingers, visit, at+"/fingers")
	PartPlaces(s.Parts, visit, at+"/parts")
	s.Last.places(visit, at+"/last")
	s.Anchor.Places(visit, at+"/anchor")
	s.Further.Places(visit, at)
}

// FingerPlaces is [Stroke.Places] for single fingers.
func FingerPlaces(list []Finger, visit func(key *string, path string), at string) {
	for i := range list {
		named(&list[i].Zone, visit, fmt.Sprintf("%s/%d/zone", at, i))
	}
}

// PartPlaces is [Stroke.Places] for the parts of a repetition.
func PartPlaces(list []Part, visit func(key *string, path string), at string) {
	for i := range list {
		named(&list[i].Zone, visit, fmt.Sprintf("%s/%d/zone", at, i))
		named(&list[i].Towards, visit, fmt.Sprintf("%s/%d/towards", at, i))
	}
}

func (l *Last) places(visit func(key *string, path string), at string) {
	if l != nil {
		PartPlaces(l.Parts, visit, at+"/parts")
	}
}

// Places is [Stroke.Places] for an anchor; a nil one names none.
func (a *Anchor) Places(visit func(key *string, path string), at string) {
	if a == nil {
		return
	}
	named(&a.Zone, visit, at+"/zone")
	if a.Second != nil {
		named(&a.Second.Zone, visit, at+"/second/zone")
	}
	for i := range a.Then {
		named(&a.Then[i].Zone, visit, fmt.Sprintf("%s/changes/%d/zone", at, i))
	}
}

// Places is [Stroke.Places] for what a stroke or step says besides its movement.
func (f *Further) Places(visit func(key *string, path string), at string) {
	named(&f.Towards, visit, at+"/towards")
	for i := range f.ActsOn {
		visit(&f.ActsOn[i], fmt.Sprintf("%s/actsOn/%d", at, i))
	}
	if f.Rows != nil {
		named(&f.Rows.From, visit, at+"/rows/from")
		named(&f.Rows.To, visit, at+"/rows/to")
	}
	if f.Resistance != nil {
		named(&f.Resistance.Towards, visit, at+"/resistance/towards")
	}
	if f.Score != nil {
		named(&f.Score.Zone, visit, at+"/score/zone")
	}
}

func named(key *string, visit func(key *string, path string), path string) {
	if *key != "" {
		visit(key, path)
	}
}
