package series

import (
	"cmp"
	"slices"
)

// seat is a visit that needs a room.
type seat struct {
	busy      piece
	equipment []string
	room      string // its own, "" where any serves at no cost
	keeps     bool   // nobody moves it
	points    int    // what another room costs
	id        string
	shares    string // the same for those who share their room
}

// seating is one way to seat the visits up to some moment: until when each room is taken, at
// what cost, and the room of the last visit.
type seating struct {
	until []int64
	cost  int
	room  int
	of    *seat
	prev  *seating
}

// seated gives every visit a room so that as few as can be of those that stay change theirs.
// The cost is never where the rooms do not hold them all.
func (x *relaying) seated() (last *seating, cost int) {
	list := slices.Clone(x.stay)
	for i, o := range x.chosen {
		if o != nil && o.person >= 0 && !o.beside {
			v := &x.d.Visits[x.laid[i]]
			list = append(list, seat{busy: o.busy, equipment: v.Equipment, id: v.ID})
		}
	}
	slices.SortStableFunc(list, func(a, b seat) int { return cmp.Compare(a.busy.from, b.busy.from) })
	states := []*seating{{until: slices.Repeat([]int64{-never * dayMinutes}, len(x.rooms))}}
	for i := range list {
		var after []*seating
		for _, s := range states {
			for room := range x.rooms {
				if points, ok := x.takes(&list[i], room, s.until[room]); ok {
					n := &seating{slices.Clone(s.until), s.cost + points, room, &list[i], s}
					n.until[room] = list[i].busy.to
					after = keepCheaper(after, n)
				}
			}
		}
		if len(after) == 0 {
			return nil, never
		}
		states = after
	}
	last = slices.MinFunc(states, func(a, b *seating) int { return cmp.Compare(a.cost, b.cost) })
	return last, last.cost
}

// takes reports whether a room serves a visit, and the points of that.
func (x *relaying) takes(v *seat, room int, until int64) (points int, ok bool) {
	r := &x.rooms[room]
	own := v.room == r.Key
	switch {
	case until > v.busy.from, v.keeps && !own:
		return 0, false
	case own:
		return 0, true
	case !hasAll(r.Equipment, v.equipment), slices.ContainsFunc(x.roomBusy[r.Key], v.busy.overlaps):
		return 0, false
	}
	return v.points, true
}

// keepCheaper adds a seating, or puts it in the place of one that leaves the rooms the same
// at a higher cost.
func keepCheaper(list []*seating, n *seating) []*seating {
	for i, s := range list {
		if slices.Equal(s.until, n.until) {
			if n.cost < s.cost {
				list[i] = n
			}
			return list
		}
	}
	return append(list, n)
}
