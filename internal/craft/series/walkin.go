package series

// WalkIn is the studio at a request's moment, as somebody who walks in finds it.
type WalkIn struct{ s *studio }

// At reads a request for somebody who walks in at its moment.
func At(q *Request) (*WalkIn, error) {
	s, err := compile(q)
	if err != nil {
		return nil, err
	}
	return &WalkIn{s}, nil
}

// Free is for how many minutes each practitioner is free from now on, by key; 0 for who is busy, away or not at work.
func (w *WalkIn) Free() map[string]int {
	s := w.s
	day, _ := s.of(s.now)
	out := map[string]int{}
	for i := range s.q.Practitioners {
		p := &s.q.Practitioners[i]
		out[p.Key] = 0
		if free, ok := holding(s.free(p, day), piece{s.now, s.now + 1}); ok {
			out[p.Key] = int(free.to - s.now)
		}
	}
	return out
}

// AtOnce is where visit n, from 1 on, would be if it began as soon as the room is prepared, off the
// grid of starts; nil with the limit that forbids it where it cannot.
func (w *WalkIn) AtOnce(n int, practitioner string) (*Placed, *Reason, error) {
	s := w.s
	if n < 1 || n > len(s.q.Series.Items) {
		return nil, &Reason{Limit: Past}, nil
	}
	day, minutes := s.of(s.now + int64(s.q.Series.Items[n-1].Prepare))
	at := Spot{dayText(day) + " " + clockText(minutes), practitioner}
	why, err := s.why(n, at, nil)
	if err != nil || why != nil {
		return nil, why, err
	}
	p, err := s.spot(n-1, at)
	if err != nil {
		return nil, nil, err
	}
	return &Placed{Kind: "treatment", N: n, Start: at.Start, Practitioner: practitioner, Room: s.room(p.item.Equipment, p.busy)}, nil, nil
}
