package evaluation

// Lighter is a drop from one pressure level to another.
type Lighter struct {
	plain
	From int `json:"from"`
	To   int `json:"to"`
}

// announcements finds drops of two levels between neighbouring steps that the
// client is not warned of.
func (e *Evaluation) announcements() {
	prev := -1
	for vi := range e.Occurrences {
		r := &e.Steps[e.Occurrences[vi].Step]
		if len(r.Path) == 0 || e.Occurrences[vi].Number > 1 {
			prev = -1
			continue
		}
		last := 0
		for i := range r.Path {
			last = max(last, r.Path[i].Pressure)
		}
		if prev >= 0 && prev-last >= 2 && !r.Source.Announce {
			e.add(PressureDrop, Note, CommonPractice, &Lighter{From: prev, To: last}, []Fix{AnnounceDrop}, r.ID)
		}
		prev = last
	}
}
