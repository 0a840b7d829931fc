package series

import (
	"reflect"
	"slices"
	"sort"
)

// placement is one way to place one treatment, with its patch test where it has one.
type placement struct {
	start        int64
	day, minutes int
	person       int // index of the practitioner
	room         string
	cost         Terms // of its own
	points       int   // the sum of them, relay included
	patch        *placement
	fixed        bool // it obeys no limit of its own
	differs      [2]bool
}

// before orders by start, then practitioner, patch tests first.
func (p *placement) before(o *placement) bool {
	if p.patch != nil && o.patch != nil {
		if p.patch.start != o.patch.start {
			return p.patch.start < o.patch.start
		}
		if p.patch.person != o.patch.person {
			return p.patch.person < o.patch.person
		}
	}
	if p.start != o.start {
		return p.start < o.start
	}
	return p.person < o.person
}

// lookOn is how many days are looked through where nothing says when a series begins.
const lookOn = 400

// windows are the days on which each item could be: from the gaps, forwards and back, and from
// the days that finish, event and screening leave.
func (s *studio) windows() [][2]int {
	items := s.q.Series.Items
	out := make([][2]int, len(items))
	for k := range items {
		switch {
		case items[k].Fixed != nil:
			d, _, _ := parseMoment(items[k].Fixed.Start)
			out[k] = [2]int{d, d}
			continue
		case k == 0:
			out[k] = s.beginning()
		default:
			out[k] = [2]int{out[k-1][0] + items[k].Least, out[k-1][1] + items[k].Most}
		}
		out[k][0], out[k][1] = s.allowed(&items[k], out[k])
	}
	for k := len(items) - 2; k >= 0; k-- {
		if next := &items[k+1]; next.Fixed == nil && items[k].Fixed == nil {
			out[k][0] = max(out[k][0], out[k+1][0]-next.Most)
			out[k][1] = min(out[k][1], out[k+1][1]-max(next.Least, 1))
		}
	}
	s.narrowWindows(out)
	return out
}

// narrowWindows keeps the days that lie close to the ideal series, where only those are looked at.
func (s *studio) narrowWindows(windows [][2]int) {
	if s.narrow == 0 {
		return
	}
	items, n := s.q.Series.Items, len(windows)
	sum := make([]int, n) // of the ideal gaps since the first visit
	for k := 1; k < n; k++ {
		sum[k] = sum[k-1] + items[k].Ideal
	}
	anchor := 0
	if s.q.countdown() {
		anchor = n - 1
	}
	for k := range windows {
		if items[k].Fixed == nil {
			windows[k][0] = max(windows[k][0], windows[anchor][0]+sum[k]-sum[anchor]-s.narrow)
			windows[k][1] = min(windows[k][1], windows[anchor][1]+sum[k]-sum[anchor]+s.narrow)
		}
	}
}

// beginning is between which days the first visit lies.
func (s *studio) beginning() [2]int {
	today, _ := s.of(s.now)
	out := [2]int{today, today + lookOn}
	if f := s.q.Series.First; f != nil {
		if d, err := parseDay(f.Earliest); err == nil {
			out[0] = d
		}
		if d, err := parseDay(f.Latest); err == nil {
			out[1] = d
		}
	}
	return out
}

// placements lists every placement of item k that obeys the limits which are its own, by day.
func (s *studio) placements(k int, window [2]int) []placement {
	item := &s.q.Series.Items[k]
	if item.Fixed != nil {
		return s.fixedPlacement(k, item)
	}
	var out []placement
	from, to := s.allowed(item, window)
	for day := from; day <= to; day++ {
		n := len(out)
		out = append(out, s.onDay(k, item, day)...)
		for i := n; i < len(out); i++ {
			s.relay(k, &out[i])
		}
		if t := s.q.Series.Patch; t != nil && t.Before == k+1 {
			tested := []placement{}
			for i := n; i < len(out); i++ {
				tested = append(tested, s.withPatch(k, out[i])...)
			}
			out = append(out[:n], tested...)
		}
	}
	return out
}

// kindDay is a day of a kind of visit: those that need the same have the same placements.
type kindDay struct{ kind, day int }

// kind is the first item, after the very first, that needs the same; gaps are no needs.
func (s *studio) kind(k int) int {
	needs := func(it Item) Item {
		return Item{Prepare: it.Prepare, Sold: it.Sold, Reset: it.Reset, Skills: it.Skills, Equipment: it.Equipment, Tools: it.Tools, Drain: it.Drain}
	}
	items := s.q.Series.Items
	for i := 1; i < k; i++ {
		if reflect.DeepEqual(needs(items[i]), needs(items[k])) {
			return i
		}
	}
	return k
}

// onDay lists the placements of an item on a day, without the points of a re-lay.
func (s *studio) onDay(k int, item *Item, day int) []placement {
	key := kindDay{s.kind(k), day}
	list, known := s.placed[key]
	if known || s.blockedDay(day) || len(s.open(day)) == 0 {
		return list
	}
	list = s.scratch[:0]
	for minutes := 0; minutes < dayMinutes; minutes += s.grid {
		start, skipped := s.at(day, minutes)
		if skipped || start < s.now {
			continue
		}
		here, ok := s.slot(item, day, start)
		if !ok {
			continue
		}
		for person := range s.q.Practitioners {
			if p, ok := s.with(&here, k, item, day, minutes, start, person); ok {
				list = append(list, p)
			}
		}
	}
	s.scratch, list = list, slices.Clone(list)
	s.placed[key] = list
	return list
}

// allowed narrows a window to the days that finish, event and screening leave.
func (s *studio) allowed(item *Item, window [2]int) (from, to int) {
	from, to = window[0], window[1]
	for _, d := range []string{item.NotBefore, s.q.Client.NotBefore} {
		if day, err := parseDay(d); err == nil {
			from = max(from, day)
		}
	}
	if day, err := parseDay(s.q.Series.FinishBy); err == nil {
		to = min(to, day)
	}
	if e := s.q.Series.Event; e != nil {
		if day, err := parseDay(e.Date); err == nil {
			to = min(to, day-1)
			deep := e.DeepDays
			if deep == 0 {
				deep = 3
			}
			if item.Deep {
				to = min(to, day-deep)
			}
			if item.Glow {
				from = max(from, day-1)
			}
		}
	}
	return from, to
}

func (s *studio) blockedDay(day int) bool { return inRanges(s.blocked, day) || s.visits[day] }

// place is a placement of a treatment where every limit of its own is kept.
func (s *studio) place(k int, item *Item, day, minutes int, start int64, person int) (placement, bool) {
	here, ok := s.slot(item, day, start)
	if !ok {
		return placement{}, false
	}
	return s.with(&here, k, item, day, minutes, start, person)
}

// slot is a time at which the client can be treated, whoever works then.
type slot struct {
	client, busy piece
	room         string
}

// slot is the time of a treatment that begins at a moment, where client, studio, tools and a room allow it.
func (s *studio) slot(item *Item, day int, start int64) (here slot, ok bool) {
	here.client = piece{start, start + int64(item.Sold)}
	here.busy = piece{start - int64(item.Prepare), here.client.to + int64(item.Reset)}
	if !s.clientCan(day, here.client) || !s.toolsServe(item.Tools, here.busy.from, here.client.to, nil) {
		return here, false
	}
	here.room = s.room(item.Equipment, here.busy)
	return here, here.room != ""
}

// with is a placement in a slot with a practitioner who may, can and is there.
func (s *studio) with(here *slot, k int, item *Item, day, minutes int, start int64, person int) (placement, bool) {
	who := &s.q.Practitioners[person]
	if want := s.q.Series.Practitioner; want != nil && want.How == "must" && want.Who != who.Key || !skilled(who, item.Skills, day) {
		return placement{}, false
	}
	free, ok := holding(s.free(who, day), here.busy)
	if !ok {
		return placement{}, false
	}
	p := placement{start: start, day: day, minutes: minutes, person: person, room: here.room}
	s.costOf(k, item, &p, here.client, here.busy, &free)
	return p, true
}

// clientCan reports whether studio and client are there for a time.
func (s *studio) clientCan(day int, client piece) bool {
	return slices.ContainsFunc(s.open(day), func(p piece) bool { return p.holds(client) }) && s.clientThere(day, client)
}

// clientThere reports whether the client is there for a time.
func (s *studio) clientThere(day int, client piece) bool {
	return s.during(s.q.Client.Possible, day, client) && s.during(s.q.Client.Guardian, day, client) &&
		!slices.ContainsFunc(s.away, client.overlaps)
}

// skilled reports whether a practitioner has every skill on a day.
func skilled(who *RequestPractitioner, skills []string, day int) bool {
	return !slices.ContainsFunc(skills, func(skill string) bool { return !hasSkill(who, skill, day) })
}

func hasSkill(who *RequestPractitioner, skill string, day int) bool {
	if !slices.Contains(who.Skills, skill) {
		return false
	}
	last, err := parseDay(who.Until[skill])
	return err != nil || day <= last
}

func hasAll(have, want []string) bool {
	return !slices.ContainsFunc(want, func(w string) bool { return !slices.Contains(have, w) })
}

// holding is the piece that holds a time.
func holding(list []piece, t piece) (piece, bool) {
	i := slices.IndexFunc(list, func(p piece) bool { return p.holds(t) })
	if i < 0 {
		return piece{}, false
	}
	return list[i], true
}

// fixedPlacement is where an item stands that is not moved. Before now it obeys no limit;
// later ones obey all but the grid.
func (s *studio) fixedPlacement(k int, item *Item) []placement {
	day, minutes, err := parseMoment(item.Fixed.Start)
	person := slices.IndexFunc(s.q.Practitioners, func(p RequestPractitioner) bool { return p.Key == item.Fixed.Practitioner })
	if err != nil || person < 0 {
		return nil
	}
	start, _ := s.at(day, minutes)
	if start >= s.now {
		p, ok := s.place(k, item, day, minutes, start, person)
		window := [2]int{day, day}
		if k == 0 {
			window = s.beginning()
		}
		from, to := s.allowed(item, window)
		if !ok || s.blockedDay(day) || day < from || day > to {
			return nil
		}
		if item.Fixed.Room != "" {
			p.room = item.Fixed.Room
		}
		s.relay(k, &p)
		return s.withPatch(k, p)
	}
	p := placement{start: start, day: day, minutes: minutes, person: person, room: item.Fixed.Room, fixed: true}
	client := piece{start, start + int64(item.Sold)}
	busy := piece{start - int64(item.Prepare), client.to + int64(item.Reset)}
	var free *piece
	if f, ok := holding(s.free(&s.q.Practitioners[person], day), busy); ok {
		free = &f
	}
	s.costOf(k, item, &p, client, busy, free)
	s.relay(k, &p)
	return []placement{p}
}

// The usual times of a patch test, in minutes, and before its treatment, in elapsed hours.
const (
	patchSold  = 10
	patchReset = 5
	patchFrom  = 24
	patchTo    = 48
)

// withPatch is a placement with the best patch test on each day that has one; itself where
// the item needs none.
func (s *studio) withPatch(k int, p placement) []placement {
	t := s.q.Series.Patch
	if t == nil || t.Before != k+1 {
		return []placement{p}
	}
	item := &Item{Sold: or(t.Sold, patchSold), Reset: or(t.Reset, patchReset), Skills: t.Skills}
	latest, earliest := p.start-int64(or(t.From, patchFrom))*60, p.start-int64(or(t.To, patchTo))*60
	first, _ := s.of(earliest)
	last, _ := s.of(latest)
	var out []placement
	for day := first; day <= last; day++ {
		if day == p.day || s.blockedDay(day) || len(s.open(day)) == 0 {
			continue
		}
		if best := s.bestPatch(item, day, earliest, latest); best != nil {
			with := p
			with.patch = best
			with.points += best.points
			out = append(out, with)
		}
	}
	return out
}

// bestPatch is the cheapest patch test on a day, the earliest where several are.
func (s *studio) bestPatch(item *Item, day int, earliest, latest int64) *placement {
	var best *placement
	for minutes := 0; minutes < dayMinutes; minutes += s.grid {
		start, skipped := s.at(day, minutes)
		if skipped || start < s.now || start < earliest || start > latest {
			continue
		}
		client := piece{start, start + int64(item.Sold)}
		busy := piece{start, client.to + int64(item.Reset)}
		if !s.clientCan(day, client) {
			continue
		}
		for person := range s.q.Practitioners {
			who := &s.q.Practitioners[person]
			free, ok := holding(s.free(who, day), busy)
			if !ok || !skilled(who, item.Skills, day) {
				continue
			}
			room := s.room(nil, busy)
			if room == "" {
				continue
			}
			p := placement{start: start, day: day, minutes: minutes, person: person, room: room}
			s.costOf(-1, item, &p, client, busy, &free)
			if best == nil || p.points < best.points {
				best = &p
			}
		}
	}
	return best
}

func or(n, usual int) int {
	if n == 0 {
		return usual
	}
	return n
}

// byDay sorts placements into the order of ties, day by day, and says where each day begins.
func byDay(list []placement) map[int][2]int {
	sort.SliceStable(list, func(i, j int) bool {
		if list[i].day != list[j].day {
			return list[i].day < list[j].day
		}
		return list[i].before(&list[j])
	})
	days := map[int][2]int{}
	for i := range list {
		d := days[list[i].day]
		if d[1] == 0 {
			d[0] = i
		}
		d[1] = i + 1
		days[list[i].day] = d
	}
	return days
}
