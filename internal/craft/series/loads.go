package series

// DayLoad is how full a day is. People are in the studio's order.
type DayLoad struct {
	Day    string       `json:"day"`
	Open   bool         `json:"open"`
	People []PersonLoad `json:"people"`
}

// PersonLoad is a practitioner's day: the minutes they work while the studio is open, those that are taken, and by the wall
// clock (15:04, from and to) the pieces they work and the free ones too short for anything on sale.
type PersonLoad struct {
	Key     string      `json:"key"`
	Works   int         `json:"works"`
	Taken   int         `json:"taken"`
	Pieces  [][2]string `json:"pieces"`
	Slivers [][2]string `json:"slivers"`
}

// Loads says how full some days are, from one on.
func Loads(q *Request, from string, days int) ([]DayLoad, error) {
	s, err := compile(q)
	if err != nil {
		return nil, err
	}
	first, err := parseDay(from)
	if err != nil {
		return nil, err
	}
	absences := make([][]piece, len(q.Practitioners))
	r := reader{w: s.wall}
	for i := range q.Practitioners {
		absences[i] = r.pieces(q.Practitioners[i].Absences)
	}
	out := make([]DayLoad, 0, days)
	for day := first; day < first+days; day++ {
		d := DayLoad{Day: dayText(day), Open: len(s.open(day)) > 0, People: []PersonLoad{}}
		for i := range q.Practitioners {
			p := &q.Practitioners[i]
			load := PersonLoad{Key: p.Key, Pieces: [][2]string{}, Slivers: [][2]string{}}
			if d.Open {
				open := s.open(day)
				works := within(without(s.resolved(day, shiftOn(p.Shifts, day), 0), absences[i]), open)
				free := within(s.free(p, day), open)
				load.Works, load.Taken = length(works), length(works)-length(free)
				load.Pieces = s.told(works)
				load.Slivers = s.told(s.slivers(free))
			}
			d.People = append(d.People, load)
		}
		out = append(out, d)
	}
	return out, nil
}

// slivers are the free pieces that nothing on sale fits in.
func (s *studio) slivers(free []piece) []piece {
	var out []piece
	for _, p := range free {
		if p.to-p.from < int64(s.q.Shortest) {
			out = append(out, p)
		}
	}
	return out
}

// within are the pieces of a list that lie in those of another.
func within(list, other []piece) []piece { return without(list, without(list, other)) }

func length(list []piece) int {
	sum := int64(0)
	for _, p := range list {
		sum += p.to - p.from
	}
	return int(sum)
}

// told are pieces of a day by the wall clock.
func (s *studio) told(list []piece) [][2]string {
	out := make([][2]string, 0, len(list))
	for _, p := range list {
		_, from := s.of(p.from)
		_, to := s.of(p.to)
		if to == 0 {
			to = dayMinutes
		}
		out = append(out, [2]string{clockText(from), clockText(to)})
	}
	return out
}
