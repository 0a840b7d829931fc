package series

// quickLayer says, of the placements of one item, what the rest costs at the least by day,
// practitioner and the minute at which the treatment before began: the only thing two neighbours
// share besides is how far apart the two hours are, so that one sweep over the quarter hours of a
// day (a distance transform) takes the place of comparing every pair.
type quickLayer struct {
	states, people int
	days           map[int]*quickDay
}

// quickDay holds one day: least is the cost by state, practitioner and quarter hour, from later
// ones only where the two treatments have to be as many whole days apart as their rest asks.
type quickDay struct {
	any, later []int32
}

const quarters = dayMinutes / quarter

// at is where the cost of a state, a practitioner and a quarter hour stands.
func (q *quickLayer) at(state, person, slot int) int {
	return (state*q.people+person)*quarters + slot
}

// worthQuick reports whether preparing the layer of item k costs less than comparing every pair: it
// does not where diaries are full, and few placements are left.
func (x *search) worthQuick(k int) bool {
	days, item := len(x.days[k]), &x.q.Series.Items[k]
	if days == 0 {
		return false
	}
	before, people := len(x.layers[k-1]), len(x.q.Practitioners)
	meets := before * (item.Most - item.Least + 1)
	return 2*(days*people*2*quarters+meets*people) < meets*(len(x.layers[k])/days)
}

// quicken prepares the layer of item k; nil where it is not worth it, where its placements are not
// on the quarter hours, or depend on more than the treatment before.
func (x *search) quicken(k int) *quickLayer {
	if !x.worthQuick(k) {
		return nil
	}
	for c := range x.layers[k] {
		if p := &x.layers[k][c]; p.patch != nil || p.fixed || p.minutes%quarter != 0 {
			return nil
		}
	}
	q := &quickLayer{x.states(), len(x.q.Practitioners), map[int]*quickDay{}}
	for day, at := range x.days[k] {
		d := &quickDay{make([]int32, q.states*q.people*quarters), make([]int32, q.states*q.people*quarters)}
		for i := range d.any {
			d.any[i] = never
		}
		for c := at[0]; c < at[1]; c++ {
			p := &x.layers[k][c]
			for state := range q.states {
				if r := x.rest[k][c][x.after(state, p)]; r < never {
					i := q.at(state, p.person, p.minutes/quarter)
					d.any[i] = min(d.any[i], r+int32(p.points)) //nolint:gosec // a cost is far below the limit
				}
			}
		}
		copy(d.later, d.any)
		step := int32(x.w.time) //nolint:gosec // a weight is at most 1000
		for i := 0; i < len(d.any); i += quarters {
			sweep(d.any[i:i+quarters], d.later[i:i+quarters], step)
		}
		q.days[day] = d
	}
	return q
}

// sweep turns the cost by quarter hour into the least cost as seen from each quarter hour: a step of
// points for each quarter between, timeAtMost of them at most. later counts only what comes at the
// same hour or after.
func sweep(all, later []int32, step int32) {
	least := int32(never)
	for i := len(later) - 1; i >= 0; i-- { // what comes after
		least = min(least, later[i])
		if least < never {
			later[i] = min(later[i], least+timeAtMost*step)
		}
		if i+1 < len(later) && later[i+1] < never {
			later[i] = min(later[i], later[i+1]+step)
		}
	}
	least = never
	for i := range all { // what comes before
		least = min(least, all[i])
		if least < never {
			all[i] = min(all[i], least+timeAtMost*step)
		}
		if i > 0 && all[i-1] < never {
			all[i] = min(all[i], all[i-1]+step)
		}
	}
	for i := range all {
		all[i] = min(all[i], later[i])
	}
}

// reach lowers a row by what the day's placements and their own rest cost after a; false where the
// pairs have to be compared one by one.
func (q *quickLayer) reach(row []int32, a *placement, day, gap, rest, change int) bool {
	if q == nil || a.minutes%quarter != 0 || a.fixed {
		return false
	}
	d := q.days[day]
	if d == nil {
		return true
	}
	from := d.any
	switch spare := dayMinutes*(day-a.day) - 60*rest; {
	case spare <= -dayMinutes:
		return true // too soon at any hour
	case spare == 0:
		from = d.later
	case spare < dayMinutes:
		return false
	}
	slot := a.minutes / quarter
	for state := range row {
		for person := range q.people {
			if r := from[q.at(state, person, slot)]; r < never {
				cost := r + int32(gap) //nolint:gosec // a cost is far below the limit
				if person != a.person {
					cost += int32(change) //nolint:gosec // a weight is at most 1000
				}
				row[state] = min(row[state], cost)
			}
		}
	}
	return true
}
