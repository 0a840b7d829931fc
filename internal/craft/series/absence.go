package series

import (
	"cmp"
	"errors"
	"math"
	"slices"
)

// The points of a visit that is laid again (handbook, chapter 6).
const (
	otherPerson  = 10
	wantedPerson = 20 // on top, where the client wanted no other
	quarterMoved = 2
	otherDay     = 40
	dayMoved     = 4
	notPlaced    = 100
	otherRoom    = 3
)

// option is one way to lay a visit again; person -1 is that it finds no place.
type option struct {
	start        int64
	day, minutes int
	person       int
	points       int
	priced       float64 // the points with the prices of what it takes
	busy         piece
	beside       bool // in the room of somebody who stays, with whom the client came
}

// relaying is the search for the new day.
type relaying struct {
	*studio
	d       *DayRequest
	laid    []int       // the visits laid again, in the order in which they began
	options [][]option  // of each of them, in the order of ties
	cheap   [][]*option // the same by what they cost with the prices
	// returned is what the prices give back whatever is taken: a bound less this holds.
	returned float64
	stay     []seat // what takes a room besides

	chosen []*option // by position in laid
	forced []*option // the only way that may be chosen, nil for any
	limit  int       // what a day has to cost less than
	first  bool      // the first day found is enough
	kept   []*option // the last day found
}

// LayDayAgain finds the least sum of points over all ways to lay the day again; among equals
// the one whose visits, in their old order, come earliest. Every client of the absent
// practitioner is called in any case.
func LayDayAgain(d *DayRequest) (*DayAnswer, error) {
	x, err := newRelaying(d)
	if err != nil {
		return nil, err
	}
	if x.greedy(); x.kept == nil {
		return nil, errors.New("the rooms do not hold the visits that stay")
	}
	x.setPrices(x.limit)
	x.descend(0, 0)
	best := x.limit
	x.first = true
	for i := range x.laid {
		for o := range x.options[i] {
			x.forced[i], x.limit = &x.options[i][o], best+1
			if x.descend(0, 0) {
				break
			}
		}
	}
	return x.answer(best), nil
}

func newRelaying(d *DayRequest) (*relaying, error) {
	q := &Request{Zone: d.Zone, Now: d.Now, Grid: d.Grid, Open: d.Open, Closures: d.Closures, Rooms: d.Rooms, Tools: d.Tools, Bookings: slices.Clone(d.Bookings)}
	away := []string{d.Absent.From, d.Absent.To}
	for _, p := range d.Practitioners {
		if p.Key == d.Absent.Who {
			p.Absences = append(slices.Clone(p.Absences), away)
		}
		q.Practitioners = append(q.Practitioners, p)
	}
	w, err := newWall(d.Zone)
	if err != nil {
		return nil, err
	}
	r := reader{w: w}
	absent := piece{r.moment(d.Absent.From), r.moment(d.Absent.To)}
	x := &relaying{d: d}
	starts := make([]int64, len(d.Visits))
	for i := range d.Visits {
		v := &d.Visits[i]
		starts[i] = r.moment(v.Start)
		busy := v.busy(starts[i])
		if v.Practitioner == d.Absent.Who && !v.Arrived && busy.overlaps(absent) {
			x.laid = append(x.laid, i)
			continue
		}
		q.Bookings = append(q.Bookings, RequestBooking{Practitioner: &v.Practitioner, Start: v.Start, Prepare: v.Prepare, Sold: v.Sold, Reset: v.Reset, Tools: v.Tools})
		x.seat(v, busy)
	}
	if r.err != nil {
		return nil, r.err
	}
	if x.studio, err = compile(q); err != nil {
		return nil, err
	}
	slices.SortStableFunc(x.laid, func(a, b int) int { return cmp.Compare(starts[a], starts[b]) })
	for _, i := range x.laid {
		list, err := x.waysFor(&d.Visits[i], starts[i])
		if err != nil {
			return nil, err
		}
		x.options = append(x.options, list)
	}
	for i := range x.options {
		var list []*option
		for o := range x.options[i] {
			list = append(list, &x.options[i][o])
		}
		slices.SortStableFunc(list, func(a, b *option) int { return cmp.Compare(a.points, b.points) })
		x.cheap = append(x.cheap, list)
	}
	x.forget()
	x.chosen, x.forced = make([]*option, len(x.laid)), make([]*option, len(x.laid))
	return x, nil
}

// seat notes that a visit which stays takes a room. Those who share one keep it, and take it as one.
func (x *relaying) seat(v *DayVisit, busy piece) {
	if v.Shares != "" {
		for i := range x.stay {
			if s := &x.stay[i]; s.shares == v.Shares && s.room == v.Room {
				s.busy = piece{min(s.busy.from, busy.from), max(s.busy.to, busy.to)}
				return
			}
		}
	}
	x.stay = append(x.stay, seat{busy, v.Equipment, v.Room, v.Arrived || v.Shares != "", otherRoom, v.ID, v.Shares})
}

// forget leaves out the visits of days that nothing is laid to: their rooms stay as they are.
func (x *relaying) forget() {
	days := map[int]bool{}
	for _, list := range x.options {
		for i := range list {
			days[list[i].day] = true
		}
	}
	x.stay = slices.DeleteFunc(x.stay, func(s seat) bool {
		from, _ := x.of(s.busy.from)
		to, _ := x.of(s.busy.to)
		return !days[from] && !days[to]
	})
}

func (v *DayVisit) busy(start int64) piece {
	return piece{start - int64(v.Prepare), start + int64(v.Sold+v.Reset)}
}

// waysFor lists every way to lay a visit again as far as it alone is concerned.
func (x *relaying) waysFor(v *DayVisit, was int64) ([]option, error) {
	wasDay, wasMinutes := x.of(was)
	days := []int{wasDay}
	for _, text := range v.Days {
		day, err := parseDay(text)
		if err != nil {
			return nil, err
		}
		if !slices.Contains(days, day) {
			days = append(days, day)
		}
	}
	slices.Sort(days)
	var out []option
	for _, day := range days {
		for _, minutes := range x.starts(day, wasDay, wasMinutes) {
			start, skipped := x.at(day, minutes)
			if skipped || start < x.now {
				continue
			}
			for person := range x.q.Practitioners {
				if o, ok := x.way(v, day, minutes, start, person); ok {
					o.beside = start == was && v.Shares != "" && slices.ContainsFunc(x.stay, func(s seat) bool { return s.shares == v.Shares && s.room == v.Room })
					o.points += movedPoints(day-wasDay, minutes-wasMinutes)
					out = append(out, o)
				}
			}
		}
	}
	return append(out, option{person: -1, points: notPlaced}), nil
}

// starts are the minutes of a day at which a visit may begin: the grid, and where it stood.
func (x *relaying) starts(day, wasDay, wasMinutes int) []int {
	var out []int
	for minutes := 0; minutes < dayMinutes; minutes += x.grid {
		out = append(out, minutes)
	}
	if day == wasDay && !slices.Contains(out, wasMinutes) {
		out = append(out, wasMinutes)
		slices.Sort(out)
	}
	return out
}

func movedPoints(days, minutes int) int {
	if days != 0 {
		return otherDay + dayMoved*distance(days, 0)
	}
	return quarterMoved * started(distance(minutes, 0))
}

// way is a way to lay a visit again where every limit of its own is kept.
func (x *relaying) way(v *DayVisit, day, minutes int, start int64, person int) (option, bool) {
	who := &x.q.Practitioners[person]
	client, busy := piece{start, start + int64(v.Sold)}, v.busy(start)
	if !x.clientCan(day, client) || !x.during(v.Possible, day, client) || !skilled(who, v.Skills, day) {
		return option{}, false
	}
	if _, free := holding(x.free(who, day), busy); !free || !x.toolsServe(v.Tools, busy.from, client.to, nil) {
		return option{}, false
	}
	o := option{start: start, day: day, minutes: minutes, person: person, busy: busy}
	if who.Key != v.Practitioner {
		o.points = otherPerson
		if v.Must {
			o.points += wantedPerson
		}
	}
	return o, true
}

// greedy lays one visit after the other where it costs least at the moment: a first limit.
func (x *relaying) greedy() {
	x.limit = never
	sum := 0
	for i := range x.laid {
		for _, o := range x.left(i) {
			x.chosen[i] = o
			if _, rooms := x.seated(); rooms < never {
				break
			}
		}
		sum += x.chosen[i].points
	}
	if _, rooms := x.seated(); rooms < never {
		x.kept, x.limit = slices.Clone(x.chosen), sum+rooms
	}
	clear(x.chosen)
}

// descend lays the visits that are left, the one with the least choice first, for less than
// the limit. sum and priced are what those laid cost, without and with the prices. Every day
// found lowers the limit; done reports that the first was enough.
func (x *relaying) descend(sum int, priced float64) (done bool) {
	_, rooms := x.seated()
	if rooms >= never {
		return false
	}
	next, rest, ways := -1, 0.0, []*option(nil)
	for i := range x.laid {
		if x.chosen[i] != nil {
			continue
		}
		left := x.left(i)
		if len(left) == 0 {
			return false
		}
		rest += left[0].priced
		if next < 0 || len(left) < len(ways) {
			next, ways = i, left
		}
	}
	if next < 0 {
		if sum+rooms >= x.limit {
			return false
		}
		x.kept, x.limit = slices.Clone(x.chosen), sum+rooms
		return x.first
	}
	for _, o := range ways {
		least := priced + rest - ways[0].priced + o.priced - x.returned
		if rooms+int(math.Ceil(least-1e-6)) >= x.limit {
			break
		}
		x.chosen[next] = o
		done = x.descend(sum+o.points, priced+o.priced)
		if x.chosen[next] = nil; done {
			return true
		}
	}
	return false
}

// left are the ways of a visit that go with those chosen so far, the cheapest first.
func (x *relaying) left(i int) []*option {
	taken := map[string][]use{}
	for k, c := range x.chosen {
		if c != nil && c.person >= 0 {
			v := &x.d.Visits[x.laid[k]]
			for key, n := range v.Tools {
				taken[key] = append(taken[key], use{piece{c.busy.from, c.start + int64(v.Sold) + x.out(key)}, n})
			}
		}
	}
	v := &x.d.Visits[x.laid[i]]
	var out []*option
	for _, o := range x.cheap[i] {
		if f := x.forced[i]; f != nil && f != o {
			continue
		}
		clash := func(c *option) bool { return c != nil && c.person == o.person && c.busy.overlaps(o.busy) }
		if o.person < 0 || !slices.ContainsFunc(x.chosen, clash) && x.toolsServe(v.Tools, o.busy.from, o.start+int64(v.Sold), taken) {
			out = append(out, o)
		}
	}
	return out
}

// answer tells the day that was found.
func (x *relaying) answer(points int) *DayAnswer {
	x.chosen = x.kept
	out := &DayAnswer{Points: points, Calls: []Call{}}
	rooms := map[string]string{}
	last, _ := x.seated()
	for ; last.of != nil; last = last.prev {
		key := x.rooms[last.room].Key
		rooms[last.of.id] = key
		if last.of.room != "" && last.of.room != key {
			out.Rooms = append(out.Rooms, RoomChange{last.of.id, key})
		}
	}
	slices.Reverse(out.Rooms)
	for i, o := range x.kept {
		v := &x.d.Visits[x.laid[i]]
		call := Call{ID: v.ID}
		if o.person >= 0 {
			start, who, room := dayText(o.day)+" "+clockText(o.minutes), x.q.Practitioners[o.person].Key, rooms[v.ID]
			if o.beside {
				room = v.Room
			}
			call.Start, call.Practitioner, call.Room = &start, &who, &room
			call.AskFirst = v.Must && who != v.Practitioner
		}
		out.Calls = append(out.Calls, call)
	}
	return out
}
