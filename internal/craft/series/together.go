package series

import (
	"errors"
	"slices"
	"sort"
)

// Together is one way in which some clients come at the same time: a visit for each, in the order in
// which they are named, with the cost of all.
type Together struct {
	Cost   int      `json:"cost"`
	Terms  Terms    `json:"terms"`
	Visits []Placed `json:"visits"`
}

// mostTogether is how many clients come at the same time at most.
const mostTogether = 6

// FindTogether answers how clients who come together are placed: the same start, each with another
// practitioner, in one room that holds them all or in rooms of their own, each under all their
// limits, the costs added (handbook, chapter 6, Everyday diary). The requests differ in the client and the one visit that each asks
// for; the studio is that of the first. The best comes first, then at most two that begin on another
// day or two hours away; none at all where there is none. Between equals the earlier decides, then
// the practitioner in the studio's order, the first named client first.
func FindTogether(requests []*Request) ([]Together, error) {
	g := &together{}
	for _, q := range requests {
		if len(q.Series.Items) != 1 || len(requests) > mostTogether {
			return nil, errors.New("who comes together asks for one visit each")
		}
		s, err := compile(q)
		if err != nil {
			return nil, err
		}
		g.clients = append(g.clients, s)
		byStart := map[int64][]placement{}
		for _, p := range s.placements(0, s.windows()[0]) {
			byStart[p.start] = append(byStart[p.start], p)
		}
		g.ways = append(g.ways, byStart)
	}
	return g.answer(), nil
}

// together looks for common starts.
type together struct {
	clients []*studio
	ways    []map[int64][]placement // of each client, by start
	chosen  []*placement
	rooms   []string
	best    *Together
}

// answer takes the best of every start, the cheapest first, and keeps those that truly differ.
func (g *together) answer() []Together {
	var all []Together
	var starts []int64
	for start := range g.ways[0] {
		starts = append(starts, start)
	}
	slices.Sort(starts)
	for _, start := range starts {
		g.best = nil
		g.place(start, 0, 0)
		if g.best != nil {
			all = append(all, *g.best)
		}
	}
	sort.SliceStable(all, func(a, b int) bool { return all[a].Cost < all[b].Cost })
	out := []Together{}
	for i := range all {
		if len(out) < 3 && !slices.ContainsFunc(out, func(o Together) bool { return alike(o.start(), all[i].start()) }) {
			out = append(out, all[i])
		}
	}
	return out
}

// start is when they all begin.
func (t *Together) start() string { return t.Visits[len(t.Visits)-1].Start }

// alike reports whether two starts lie on one day and less than two hours apart.
func alike(a, b string) bool {
	day, minutes, err := parseMoment(a)
	on, at, err2 := parseMoment(b)
	return err == nil && err2 == nil && day == on && distance(minutes, at) < apart
}

// place tries the practitioners of one client after the other at a start.
func (g *together) place(start int64, client, cost int) {
	if g.best != nil && cost >= g.best.Cost {
		return
	}
	if client == len(g.clients) {
		if g.house() {
			g.best = g.told(cost)
		}
		return
	}
	ways := g.ways[client][start]
	for i := range ways {
		p := &ways[i]
		if slices.ContainsFunc(g.chosen, func(o *placement) bool { return g.meets(o, p) }) {
			continue
		}
		g.chosen = append(g.chosen, p)
		g.place(start, client+1, cost+p.points)
		g.chosen = g.chosen[:len(g.chosen)-1]
	}
}

// meets reports whether two placements need the same hands: of the visits, or of their patch tests.
func (g *together) meets(a, b *placement) bool {
	if a.person == b.person {
		return true
	}
	return a.patch != nil && b.patch != nil && a.patch.start == b.patch.start && (a.patch.person == b.patch.person || a.patch.room == b.patch.room)
}

// house puts all into the first room that holds and serves them, or else gives each the first room
// that serves, so that all have a place; then it counts the tools.
func (g *together) house() bool {
	all := g.clients[0].rooms
	for i := range all {
		if all[i].Places < len(g.clients) {
			continue
		}
		serves := true
		for client := range g.clients {
			serves = serves && g.serves(client, &all[i])
		}
		if serves {
			g.rooms = slices.Repeat([]string{all[i].Key}, len(g.clients))
			return g.equipped()
		}
	}
	return g.spread(nil, map[string]int{})
}

// serves reports whether a room has what a client's visit needs, and is free for it.
func (g *together) serves(client int, r *RequestRoom) bool {
	s := g.clients[client]
	item, start := &s.q.Series.Items[0], g.chosen[client].start
	busy := piece{start - int64(item.Prepare), start + int64(item.Sold+item.Reset)}
	return s.serves(r, item.Equipment, busy)
}

// spread gives the next client the first room with a place left, and tries all in turn; used is the
// room of each client before, taken how many are in each.
func (g *together) spread(used []string, taken map[string]int) bool {
	if len(used) == len(g.clients) {
		g.rooms = used
		return g.equipped()
	}
	rooms := g.clients[len(used)].rooms
	for i := range rooms {
		r := &rooms[i]
		if taken[r.Key] >= max(r.Places, 1) || !g.serves(len(used), r) {
			continue
		}
		taken[r.Key]++
		if g.spread(append(slices.Clone(used), r.Key), taken) {
			return true
		}
		taken[r.Key]--
	}
	return false
}

// equipped reports whether the tools serve all at once.
func (g *together) equipped() bool {
	taken := map[string][]use{}
	for i, s := range g.clients {
		item := &s.q.Series.Items[0]
		from, end := g.chosen[i].start-int64(item.Prepare), g.chosen[i].start+int64(item.Sold)
		if !s.toolsServe(item.Tools, from, end, taken) {
			return false
		}
		for key, n := range item.Tools {
			taken[key] = append(taken[key], use{piece{from, end + s.out(key)}, n})
		}
	}
	return true
}

func (g *together) told(cost int) *Together {
	out := &Together{Cost: cost}
	for i, s := range g.clients {
		p := *g.chosen[i]
		p.room = g.rooms[i]
		x := &search{studio: s}
		out.Terms.add(&p.cost)
		if p.patch != nil {
			out.Terms.add(&p.patch.cost)
			out.Visits = append(out.Visits, x.placed("patch", i+1, p.patch))
		}
		out.Visits = append(out.Visits, x.placed("treatment", i+1, &p))
	}
	return out
}
