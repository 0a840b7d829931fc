package series

// Term names a part of the cost.
type Term string

// The terms of the cost that a compromise comes from.
const (
	ForStart  Term = "start"
	ForGap    Term = "gap"
	ForChange Term = "change"
	ForPrefer Term = "prefer"
	ForTime   Term = "time"
	ForRather Term = "rather"
	ForLate   Term = "late"
	ForSliver Term = "sliver"
)

// Compromise is one way in which a visit is not as it was wished for, and the limit that
// forbids the cheaper placement, where one does.
type Compromise struct {
	Visit int  `json:"visit"` // 0 for the patch test
	Term  Term `json:"term" enum:"start,gap,change,prefer,time,rather,late,sliver"`
	// By is days for start and gap, later ones positive; minutes by the wall clock for time,
	// late and sliver.
	By     int     `json:"by,omitempty"`
	Points int     `json:"points"`
	Reason *Reason `json:"reason,omitempty"`
	// At is the cheaper placement that was asked for.
	At *Spot `json:"at,omitempty"`
}

// Compromises lists what a series costs visit by visit, in the order of the visits, and why.
// Past and fixed visits are left out; weekdays go with the gap.
func Compromises(q *Request, visits []Placed) ([]Compromise, error) {
	s, err := compile(q)
	if err != nil {
		return nil, err
	}
	t := teller{studio: s, w: weighed(q.Weights), beside: map[int]Spot{}}
	for _, v := range visits {
		if v.Kind == "treatment" {
			t.beside[v.N] = Spot{v.Start, v.Practitioner}
		}
	}
	for n := 1; n <= len(q.Series.Items); n++ {
		at, stands := t.beside[n]
		if !stands || q.Series.Items[n-1].Fixed != nil {
			continue
		}
		p, err := s.spot(n-1, at)
		if err != nil {
			return nil, err
		}
		t.own(&p)
		if before, stands := t.beside[n-1]; stands {
			was, err := s.spot(n-2, before)
			if err != nil {
				return nil, err
			}
			t.between(&was, &p)
		}
		t.edges(&p)
	}
	return t.out, nil
}

// teller gathers compromises.
type teller struct {
	*studio
	w      points
	beside map[int]Spot
	out    []Compromise
}

// say adds a compromise with the reason why the cheaper placement cannot be.
func (t *teller) say(p *spotted, term Term, by, points int, cheaper *Spot) {
	c := Compromise{Visit: p.k + 1, Term: term, By: by, Points: points}
	if cheaper != nil {
		var asked map[int]Spot
		if t.beside[p.k].Start != "" { // the visits after it would follow it
			asked = map[int]Spot{p.k: t.beside[p.k]}
		}
		if r, err := t.why(p.k+1, *cheaper, asked); err == nil && r != nil {
			c.Reason, c.At = r, cheaper
		}
	}
	t.out = append(t.out, c)
}

func spotAt(day, minutes int, who string) *Spot {
	return &Spot{dayText(day) + " " + clockText(minutes), who}
}

// own tells the terms that a visit has alone.
func (t *teller) own(p *spotted) {
	placed, ok := t.place(p.k, p.item, p.day, p.minutes, p.start, t.index(p.who))
	if !ok {
		return
	}
	if n := placed.cost.Start; n > 0 {
		wished, _ := parseDay(t.q.Series.First.Ideal)
		t.say(p, ForStart, p.day-wished, n, spotAt(wished, p.minutes, p.who.Key))
	}
	if n := placed.cost.Prefer; n > 0 {
		t.say(p, ForPrefer, 0, n, spotAt(p.day, p.minutes, t.q.Series.Practitioner.Who))
	}
}

// between tells the terms of a visit and the one before.
func (t *teller) between(was, p *spotted) {
	gap := p.day - was.day
	if n := t.w.ofGap(p.item.Ideal, gap); n > 0 && gap != p.item.Ideal {
		t.say(p, ForGap, gap-p.item.Ideal, n, spotAt(was.day+p.item.Ideal, p.minutes, p.who.Key))
	}
	if p.who != was.who && t.w.change > 0 {
		t.say(p, ForChange, 0, t.w.change, spotAt(p.day, p.minutes, was.who.Key))
	}
	if n := t.w.time * min(distance(p.minutes, was.minutes)/quarter, timeAtMost); n > 0 {
		t.say(p, ForTime, p.minutes-was.minutes, n, spotAt(p.day, was.minutes, p.who.Key))
	}
}

// edges tells what a visit costs by the hours round it.
func (t *teller) edges(p *spotted) {
	placed, ok := t.place(p.k, p.item, p.day, p.minutes, p.start, t.index(p.who))
	if !ok {
		return
	}
	if n := placed.cost.Rather; n > 0 {
		t.say(p, ForRather, 0, n, nil)
	}
	if n := placed.cost.Late; n > 0 {
		t.say(p, ForLate, t.lateBy(p.item, p.day, p.client.to), n, nil)
	}
	if n := placed.cost.Sliver; n > 0 {
		free, _ := holding(t.free(p.who, p.day), p.busy)
		unused := 0
		for _, left := range []int64{p.busy.from - free.from, free.to - p.busy.to} {
			if left > 0 && left < int64(t.q.Shortest) {
				unused += int(left)
			}
		}
		t.say(p, ForSliver, unused, n, nil)
	}
}

func (t *teller) index(who *RequestPractitioner) int {
	for i := range t.q.Practitioners {
		if &t.q.Practitioners[i] == who {
			return i
		}
	}
	return -1
}
