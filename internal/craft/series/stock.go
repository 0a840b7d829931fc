package series

import (
	"encoding/json"
	"fmt"
	"slices"
	"sort"
)

// piece is a time from an instant until before another, in minutes.
type piece struct{ from, to int64 }

func (p piece) overlaps(o piece) bool { return p.from < o.to && o.from < p.to }
func (p piece) holds(o piece) bool    { return p.from <= o.from && o.to <= p.to }

// studio is a request compiled for the search: what is open and free on which day.
type studio struct {
	*wall
	q        *Request
	now      int64
	grid     int
	lateFrom int
	weights  points
	bedtime  int // 0 where it is not known; after midnight counts on

	closed   [][2]int
	busy     map[string][]piece // practitioners', absences included
	rooms    []RequestRoom      // in the order in which they are taken
	roomBusy map[string][]piece
	taken    map[string][]use // tools
	away     []piece          // the client's absences
	blocked  [][2]int
	visits   map[int]bool // days on which the client has another visit
	own      []piece      // times of the client's other visits

	limit  *brake // of the search, nil for none
	narrow int    // by how many days a visit may lie beside the ideal series, 0 for any

	openDays map[int][]piece
	freeDays map[personDay][]piece
	placed   map[kindDay][]placement
	scratch  []placement // of the day that is looked through
}

type personDay struct {
	person string
	day    int
}

// use is a number of sets of a tool over a time.
type use struct {
	piece
	n int
}

func compile(q *Request) (*studio, error) {
	w, err := newWall(q.Zone)
	if err != nil {
		return nil, err
	}
	s := &studio{
		wall: w, q: q, grid: q.Grid, lateFrom: 18 * 60, weights: weighed(q.Weights),
		busy: map[string][]piece{}, roomBusy: map[string][]piece{}, taken: map[string][]use{}, visits: map[int]bool{},
		openDays: map[int][]piece{}, freeDays: map[personDay][]piece{}, placed: map[kindDay][]placement{},
	}
	if s.grid <= 0 {
		s.grid = 15
	}
	r := reader{w: w}
	s.now = r.moment(q.Now)
	if q.LateFrom != "" {
		s.lateFrom = r.hour(q.LateFrom)
	}
	if q.Client.Bedtime != "" {
		if s.bedtime = r.hour(q.Client.Bedtime); s.bedtime < dayMinutes/2 {
			s.bedtime += dayMinutes
		}
	}
	s.closed = r.ranges(q.Closures)
	s.blocked = r.ranges(q.Client.Blocked)
	s.away = r.pieces(q.Client.Absences)
	for i := range q.Practitioners {
		p := &q.Practitioners[i]
		s.busy[p.Key] = append(s.busy[p.Key], r.pieces(p.Absences)...)
	}
	s.rooms = slices.Clone(q.Rooms)
	sort.SliceStable(s.rooms, func(i, j int) bool { return len(s.rooms[i].Equipment) < len(s.rooms[j].Equipment) })
	for i := range s.rooms {
		s.roomBusy[s.rooms[i].Key] = append(s.roomBusy[s.rooms[i].Key], r.closures(s.rooms[i].Closed)...)
	}
	for i := range q.Bookings {
		s.book(&r, &q.Bookings[i])
	}
	return s, r.err
}

// book notes what a visit takes that is there already.
func (s *studio) book(r *reader, b *RequestBooking) {
	start := r.moment(b.Start)
	client := piece{start, start + int64(b.Sold)}
	busy := piece{start - int64(b.Prepare), client.to + int64(b.Reset)}
	if b.Practitioner != nil {
		s.busy[*b.Practitioner] = append(s.busy[*b.Practitioner], busy)
	}
	if b.Room != nil {
		s.roomBusy[*b.Room] = append(s.roomBusy[*b.Room], busy)
	}
	for key, n := range b.Tools {
		s.taken[key] = append(s.taken[key], use{piece{busy.from, client.to + s.out(key)}, n})
	}
	if b.Client == "this" {
		day, _ := s.of(start)
		s.visits[day] = true
		s.own = append(s.own, client)
	}
}

// out is how long a tool is out after the sold end.
func (s *studio) out(tool string) int64 {
	for i := range s.q.Tools {
		if s.q.Tools[i].Key == tool {
			return int64(s.q.Tools[i].Out)
		}
	}
	return 0
}

func (s *studio) sets(tool string) int {
	for i := range s.q.Tools {
		if s.q.Tools[i].Key == tool {
			return s.q.Tools[i].Sets
		}
	}
	return 0
}

// open are the pieces of a day in which the studio is open.
func (s *studio) open(day int) []piece {
	list, known := s.openDays[day]
	if !known {
		if !inRanges(s.closed, day) {
			list = s.resolved(day, s.q.Open[weekdayOf(day)], s.q.Overtime)
		}
		s.openDays[day] = list
	}
	return list
}

// resolved are pieces of wall time on a day as instants, edge by edge; the one that ends last
// may be longer.
func (s *studio) resolved(day int, list [][]string, longer int) []piece {
	out := make([]piece, 0, len(list))
	last, at := -1, -1
	for _, p := range list {
		if len(p) != 2 {
			continue
		}
		from, err1 := parseHour(p[0])
		to, err2 := parseHour(p[1])
		if err1 != nil || err2 != nil {
			continue
		}
		if to == 0 {
			to = dayMinutes
		}
		if to > last {
			last, at = to, len(out)
		}
		out = append(out, piece{int64(from), int64(to)})
	}
	if at >= 0 && longer > 0 {
		out[at].to = min(out[at].to+int64(longer), dayMinutes)
	}
	for i := range out {
		from, _ := s.at(day, int(out[i].from))
		to, _ := s.at(day, int(out[i].to))
		out[i] = piece{from, to}
	}
	return out
}

// free are the times of a practitioner's shifts on a day that nothing takes.
func (s *studio) free(p *RequestPractitioner, day int) []piece {
	key := personDay{p.Key, day}
	list, known := s.freeDays[key]
	if !known {
		list = without(s.resolved(day, shiftOn(p.Shifts, day), s.q.Overtime), s.busy[p.Key])
		s.freeDays[key] = list
	}
	return list
}

// shiftOn are the pieces that a roster has for a day.
func shiftOn(list []ShiftEntry, day int) [][]string {
	if i := ruling(list, day); i >= 0 {
		return list[i].Days[weekdayOf(day)]
	}
	return nil
}

// covers reports whether a line of a roster names a day.
func covers(e *ShiftEntry, day int) bool {
	from, err := parseDay(e.From)
	if _, named := e.Days[weekdayOf(day)]; err != nil || !named || day < from {
		return false
	}
	if to, err := parseDay(e.To); e.To != "" && (err != nil || day > to) {
		return false
	}
	weeks := mondayOf(day) - mondayOf(from)
	return weeks/7%max(e.Every, 1) == 0
}

// mondayOf is the Monday of a day's week; 1970-01-01 was a Thursday.
func mondayOf(day int) int { return day - ((day+3)%7+7)%7 }

// without takes times out of pieces.
func without(list, busy []piece) []piece {
	for _, b := range busy {
		if !slices.ContainsFunc(list, b.overlaps) {
			continue
		}
		var rest []piece
		for _, p := range list {
			if !p.overlaps(b) {
				rest = append(rest, p)
				continue
			}
			if p.from < b.from {
				rest = append(rest, piece{p.from, b.from})
			}
			if b.to < p.to {
				rest = append(rest, piece{b.to, p.to})
			}
		}
		list = rest
	}
	return list
}

// room is the first that serves with the equipment; "" where none is free.
func (s *studio) room(equipment []string, busy piece) string {
	for i := range s.rooms {
		if r := &s.rooms[i]; s.serves(r, equipment, busy) {
			return r.Key
		}
	}
	return ""
}

// serves reports whether a room has the equipment and is free.
func (s *studio) serves(r *RequestRoom, equipment []string, busy piece) bool {
	return hasAll(r.Equipment, equipment) && !slices.ContainsFunc(s.roomBusy[r.Key], busy.overlaps)
}

// toolsServe reports whether the sets of every tool are there through a time, besides what
// other visits take.
func (s *studio) toolsServe(tools map[string]int, from, soldEnd int64, besides map[string][]use) bool {
	for key, n := range tools {
		window := piece{from, soldEnd + s.out(key)}
		var over []use
		for _, list := range [][]use{s.taken[key], besides[key]} {
			for _, u := range list {
				if u.overlaps(window) {
					over = append(over, u)
				}
			}
		}
		sets := s.sets(key)
		if n > sets {
			return false
		}
		for _, at := range over { // the most are taken where one begins, or where the window does
			for _, instant := range []int64{max(at.from, window.from)} {
				sum := n
				for _, u := range over {
					if u.from <= instant && instant < u.to {
						sum += u.n
					}
				}
				if sum > sets {
					return false
				}
			}
		}
	}
	return true
}

// during reports whether a time lies in one piece of a week's hours; nil is any time.
func (s *studio) during(week WeekPieces, day int, client piece) bool {
	if week == nil {
		return true
	}
	return slices.ContainsFunc(s.resolved(day, week[weekdayOf(day)], 0), func(p piece) bool { return p.holds(client) })
}

func inRanges(ranges [][2]int, day int) bool {
	return slices.ContainsFunc(ranges, func(r [2]int) bool { return r[0] <= day && day <= r[1] })
}

// reader reads wall times and keeps the first that is none.
type reader struct {
	w   *wall
	err error
}

func (r *reader) fail(err error) {
	if r.err == nil {
		r.err = err
	}
}

func (r *reader) moment(s string) int64 {
	day, minutes, err := parseMoment(s)
	if err != nil {
		r.fail(err)
		return 0
	}
	at, _ := r.w.at(day, minutes)
	return at
}

func (r *reader) hour(s string) int {
	m, err := parseHour(s)
	if err != nil {
		r.fail(err)
	}
	return m
}

func (r *reader) ranges(list [][]string) [][2]int {
	out := make([][2]int, 0, len(list))
	for _, p := range list {
		if len(p) != 2 {
			r.fail(fmt.Errorf("a range has two days"))
			continue
		}
		from, err := parseDay(p[0])
		if err != nil {
			r.fail(err)
		}
		to, err := parseDay(p[1])
		if err != nil {
			r.fail(err)
		}
		out = append(out, [2]int{from, to})
	}
	return out
}

func (r *reader) pieces(list [][]string) []piece {
	out := make([]piece, 0, len(list))
	for _, p := range list {
		if len(p) != 2 {
			r.fail(fmt.Errorf("an absence has two moments"))
			continue
		}
		out = append(out, piece{r.moment(p[0]), r.moment(p[1])})
	}
	return out
}

// closures reads when a room is closed: true for always, or moments from and to.
func (r *reader) closures(raw json.RawMessage) []piece {
	if len(raw) == 0 {
		return nil
	}
	var always bool
	if json.Unmarshal(raw, &always) == nil {
		if always {
			return []piece{{-1 << 40, 1 << 40}}
		}
		return nil
	}
	var list [][]string
	if err := json.Unmarshal(raw, &list); err != nil {
		r.fail(fmt.Errorf("closed is true, or pairs of moments"))
		return nil
	}
	return r.pieces(list)
}
