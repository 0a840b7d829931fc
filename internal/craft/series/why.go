package series

import (
	"fmt"
	"slices"
)

// Limit names what forbids a placement, in the order of the handbook's list of hard limits
// (chapter 6).
type Limit string

// The limits.
const (
	WholeDay    Limit = "closure"      // 1: the studio is closed on the day
	Opening     Limit = "hours"        // 1: outside the opening hours
	NoShift     Limit = "shift"        // 2, 3: the practitioner does not work then
	PersonTaken Limit = "booked"       // 2: the practitioner has another booking
	PersonAway  Limit = "absent"       // 2: the practitioner is away
	NoSkill     Limit = "skill"        // 4: the practitioner lacks a skill or a valid licence
	NoEquipment Limit = "equipment"    // 5: no room has what is asked for
	RoomsTaken  Limit = "room"         // 5: every room that serves is taken or closed
	ToolsOut    Limit = "tool"         // 6: not enough sets are ready
	ClientHours Limit = "client-hours" // 7: outside the client's possible hours
	ClientAway  Limit = "client-away"  // 7: the client is away
	ClientVisit Limit = "client-visit" // 7: the client has another visit on the day
	OtherPerson Limit = "must"         // 8: another practitioner is wanted
	TooEarly    Limit = "before-first" // 9
	TooLate     Limit = "after-latest" // 9
	Finished    Limit = "after-finish" // 9
	GapTooShort Limit = "least-gap"    // 10
	GapTooLong  Limit = "most-gap"     // 10
	NoRest      Limit = "rest"         // 10
	FullWeek    Limit = "week"         // 10
	TooClose    Limit = "span"         // 10
	Waiting     Limit = "waiting"      // 11: a screening asks to wait
	Blocked     Limit = "blocked"      // 11: a planned procedure blocks the day
	EventDays   Limit = "event"        // 12
	NoPatchTest Limit = "patch"        // 13: no time for the patch test
	Guardian    Limit = "guardian"     // 14
	Past        Limit = "past"         // 15
	Skipped     Limit = "skipped"      // 15: the clocks leave the time out
)

// Reason is the first limit, in order, that forbids a placement, and whom or what it
// concerns: the practitioner, room, tool, skill or day.
type Reason struct {
	Limit Limit  `json:"limit" enum:"closure,hours,shift,booked,absent,skill,equipment,room,tool,client-hours,client-away,client-visit,must,before-first,after-latest,after-finish,least-gap,most-gap,rest,week,span,waiting,blocked,event,patch,guardian,past,skipped"`
	Key   string `json:"key,omitempty"`
}

// Spot is a time and a practitioner at which a visit could be. Start is wall time,
// 2006-01-02 15:04.
type Spot struct {
	Start        string `json:"start" maxLength:"16"`
	Practitioner string `json:"practitioner" maxLength:"60"`
}

// Why is the first limit that forbids visit n, from 1 on, at a spot; nil where none does.
// beside are the series' other treatments by number, as far as they stand.
func Why(q *Request, n int, at Spot, beside map[int]Spot) (*Reason, error) {
	s, err := compile(q)
	if err != nil {
		return nil, err
	}
	return s.why(n, at, beside)
}

func (s *studio) why(n int, at Spot, beside map[int]Spot) (*Reason, error) {
	if n < 1 || n > len(s.q.Series.Items) {
		return nil, fmt.Errorf("there is no visit %d", n)
	}
	p, err := s.spot(n-1, at)
	if err != nil {
		return nil, err
	}
	others := map[int]spotted{}
	for k, o := range beside {
		if k >= 1 && k <= len(s.q.Series.Items) && k != n {
			if others[k-1], err = s.spot(k-1, o); err != nil {
				return nil, err
			}
		}
	}
	for _, limit := range []func(p *spotted, others map[int]spotted) *Reason{
		s.whyStudio, s.whyPerson, s.whyRoom, s.whyTools, s.whyClient, s.whyDays, s.whyRhythm, s.whyScreening, s.whyEvent, s.whyRest,
	} {
		if r := limit(&p, others); r != nil {
			return r, nil
		}
	}
	return nil, nil
}

// spotted is a spot as instants.
type spotted struct {
	k            int
	item         *Item
	day, minutes int
	start        int64
	skipped      bool
	who          *RequestPractitioner
	client, busy piece
}

func (s *studio) spot(k int, at Spot) (spotted, error) {
	day, minutes, err := parseMoment(at.Start)
	if err != nil {
		return spotted{}, err
	}
	i := slices.IndexFunc(s.q.Practitioners, func(p RequestPractitioner) bool { return p.Key == at.Practitioner })
	if i < 0 {
		return spotted{}, fmt.Errorf("there is no practitioner %q", at.Practitioner)
	}
	p := spotted{k: k, item: &s.q.Series.Items[k], day: day, minutes: minutes, who: &s.q.Practitioners[i]}
	p.start, p.skipped = s.at(day, minutes)
	p.client = piece{p.start, p.start + int64(p.item.Sold)}
	p.busy = piece{p.start - int64(p.item.Prepare), p.client.to + int64(p.item.Reset)}
	return p, nil
}

func (s *studio) whyStudio(p *spotted, _ map[int]spotted) *Reason {
	switch {
	case inRanges(s.closed, p.day):
		return &Reason{WholeDay, dayText(p.day)}
	case !slices.ContainsFunc(s.open(p.day), func(o piece) bool { return o.holds(p.client) }):
		return &Reason{Limit: Opening}
	}
	return nil
}

func (s *studio) whyPerson(p *spotted, _ map[int]spotted) *Reason {
	shift := s.resolved(p.day, shiftOn(p.who.Shifts, p.day), s.q.Overtime)
	r := reader{w: s.wall}
	switch {
	case !slices.ContainsFunc(shift, func(o piece) bool { return o.holds(p.busy) }):
		return &Reason{NoShift, p.who.Key}
	case slices.ContainsFunc(r.pieces(p.who.Absences), p.busy.overlaps):
		return &Reason{PersonAway, p.who.Key}
	case slices.ContainsFunc(s.busy[p.who.Key], p.busy.overlaps):
		return &Reason{PersonTaken, p.who.Key}
	}
	for _, skill := range p.item.Skills {
		if !hasSkill(p.who, skill, p.day) {
			return &Reason{NoSkill, skill}
		}
	}
	return nil
}

func (s *studio) whyRoom(p *spotted, _ map[int]spotted) *Reason {
	if s.room(p.item.Equipment, p.busy) != "" {
		return nil
	}
	for i := range s.rooms {
		if hasAll(s.rooms[i].Equipment, p.item.Equipment) {
			return &Reason{RoomsTaken, s.rooms[i].Key}
		}
	}
	return &Reason{Limit: NoEquipment}
}

func (s *studio) whyTools(p *spotted, others map[int]spotted) *Reason {
	own := map[string][]use{}
	for _, o := range others {
		for key, n := range o.item.Tools {
			own[key] = append(own[key], use{piece{o.busy.from, o.client.to + s.out(key)}, n})
		}
	}
	for _, t := range s.q.Tools { // in the studio's order
		if n := p.item.Tools[t.Key]; n > 0 && !s.toolsServe(map[string]int{t.Key: n}, p.busy.from, p.client.to, own) {
			return &Reason{ToolsOut, t.Key}
		}
	}
	return nil
}

func (s *studio) whyClient(p *spotted, _ map[int]spotted) *Reason {
	want := s.q.Series.Practitioner
	switch {
	case !s.during(s.q.Client.Possible, p.day, p.client):
		return &Reason{Limit: ClientHours}
	case slices.ContainsFunc(s.away, p.client.overlaps):
		return &Reason{ClientAway, dayText(p.day)}
	case s.visits[p.day]:
		return &Reason{ClientVisit, dayText(p.day)}
	case want != nil && want.How == "must" && want.Who != p.who.Key:
		return &Reason{OtherPerson, want.Who}
	}
	return nil
}

func (s *studio) whyDays(p *spotted, _ map[int]spotted) *Reason {
	if f := s.q.Series.First; f != nil && p.k == 0 {
		if d, err := parseDay(f.Earliest); err == nil && p.day < d {
			return &Reason{TooEarly, f.Earliest}
		}
		if d, err := parseDay(f.Latest); err == nil && p.day > d {
			return &Reason{TooLate, f.Latest}
		}
	}
	if d, err := parseDay(s.q.Series.FinishBy); err == nil && p.day > d {
		return &Reason{Finished, s.q.Series.FinishBy}
	}
	return nil
}

// whyRhythm asks gaps and rest of the neighbours, and the count of seven days.
func (s *studio) whyRhythm(p *spotted, others map[int]spotted) *Reason {
	for _, pair := range [][2]int{{p.k - 1, p.k}, {p.k, p.k + 1}} {
		a, before := others[pair[0]], *p
		if pair[0] == p.k {
			a, before = *p, others[pair[1]]
		}
		if a.item == nil || before.item == nil {
			continue
		}
		gap := before.day - a.day
		switch {
		case gap < max(before.item.Least, 1):
			return &Reason{Limit: GapTooShort}
		case gap > before.item.Most:
			return &Reason{Limit: GapTooLong}
		case dayMinutes*gap+before.minutes-a.minutes < 60*before.item.Rest:
			return &Reason{Limit: NoRest}
		}
	}
	for _, o := range others {
		if distance(o.k, p.k) > 1 && (o.day == p.day || (o.k < p.k) != (o.day < p.day)) {
			return &Reason{Limit: GapTooShort}
		}
		if m := s.q.Series.PerWeek; m > 0 && distance(o.k, p.k) == m && distance(o.day, p.day) < daysOfAWeek {
			return &Reason{Limit: FullWeek}
		}
	}
	last := len(s.q.Series.Items) - 1
	if o, stands := others[last-p.k]; stands && last > 0 && (p.k == 0 || p.k == last) && distance(o.day, p.day) < s.q.Series.Span {
		return &Reason{Limit: TooClose}
	}
	return nil
}

func (s *studio) whyScreening(p *spotted, _ map[int]spotted) *Reason {
	for _, first := range []string{p.item.NotBefore, s.q.Client.NotBefore} {
		if d, err := parseDay(first); err == nil && p.day < d {
			return &Reason{Waiting, first}
		}
	}
	if inRanges(s.blocked, p.day) {
		return &Reason{Blocked, dayText(p.day)}
	}
	return nil
}

func (s *studio) whyEvent(p *spotted, _ map[int]spotted) *Reason {
	if e := s.q.Series.Event; e != nil {
		bare := *p.item
		bare.NotBefore = ""
		const far = 1 << 30
		keep := *s.q
		without := *s
		without.q = &keep
		keep.Client.NotBefore, keep.Series.FinishBy = "", ""
		if from, to := without.allowed(&bare, [2]int{-far, far}); p.day < from || p.day > to {
			return &Reason{EventDays, e.Date}
		}
	}
	return nil
}

func (s *studio) whyRest(p *spotted, _ map[int]spotted) *Reason {
	if t := s.q.Series.Patch; t != nil && t.Before == p.k+1 {
		if len(s.withPatch(p.k, placement{start: p.start, day: p.day, minutes: p.minutes})) == 0 {
			return &Reason{Limit: NoPatchTest}
		}
	}
	switch {
	case !s.during(s.q.Client.Guardian, p.day, p.client):
		return &Reason{Limit: Guardian}
	case p.skipped:
		return &Reason{Limit: Skipped}
	case p.start < s.now:
		return &Reason{Limit: Past}
	}
	return nil
}

// Times lists, in the order of ties, every placement of visit n, from 1 on, between two days
// that obeys the limits of its own; those of the rhythm are left to [Why].
func Times(q *Request, n int, from, to string) ([]Placed, error) {
	s, err := compile(q)
	if err != nil {
		return nil, err
	}
	if n < 1 || n > len(q.Series.Items) {
		return nil, fmt.Errorf("there is no visit %d", n)
	}
	first, err := parseDay(from)
	if err != nil {
		return nil, err
	}
	last, err := parseDay(to)
	if err != nil {
		return nil, err
	}
	list := s.placements(n-1, [2]int{first, last})
	byDay(list)
	x := &search{studio: s}
	out := make([]Placed, 0, len(list))
	for i := range list {
		if i > 0 && list[i].start == list[i-1].start { // many begin together: their moment is written once
			p := out[len(out)-1]
			if p.Practitioner, p.Room = x.q.Practitioners[list[i].person].Key, list[i].room; p != out[len(out)-1] {
				out = append(out, p)
			}
			continue
		}
		out = append(out, x.placed("treatment", n, &list[i]))
	}
	return out, nil
}

// Comes returns a function that reports whether the client can come at a start, in minutes since 1970, for so many minutes.
// The times of a client are those that [Times] lists for one who can always come, and at which this is so. Of the request it
// reads the zone, the client and the client's own bookings.
func Comes(q *Request, sold int) (func(start int64) bool, error) {
	s, err := compile(q)
	if err != nil {
		return nil, err
	}
	earliest, err := parseDay(q.Client.NotBefore)
	if err != nil {
		earliest = 0 // any day
	}
	return func(start int64) bool {
		day, _ := s.of(start)
		return day >= earliest && !s.blockedDay(day) && s.clientThere(day, piece{start, start + int64(sold)})
	}, nil
}
