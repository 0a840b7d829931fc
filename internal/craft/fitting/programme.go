package fitting

import (
	"cmp"
	"math"
	"slices"
)

// unreachable is a cost that no plan has; what is added to it stays far from the end of the numbers.
const unreachable = math.MaxInt64 / 4

// row holds the least cost of the groups from one on, for every whole number of
// seconds from from on that can still matter.
type row struct {
	from int
	cost []int64
}

func (r *row) at(w int) int64 {
	if w < r.from || w >= r.from+len(r.cost) {
		return unreachable
	}
	return r.cost[w-r.from]
}

// optimum solves for a set of enumerated groups.
func (f *fitting) optimum(apart []bool, limits *eyeLoad) (choice []int, miss int) {
	combos := f.combos(apart, limits)
	slices.SortStableFunc(combos, func(a, b combo) int { return cmp.Compare(a.centis, b.centis) })
	shortest, longest := combos[0].centis, combos[len(combos)-1].centis
	var programmed []int
	least, most := 0, 0
	for gi := range f.groups {
		if apart[gi] {
			continue
		}
		programmed = append(programmed, gi)
		g := &f.groups[gi]
		g.up, g.down = g.slope(1), g.slope(-1)
		lo, hi := g.bounds()
		least, most = least+lo, most+hi
	}
	// The window of the programmed groups, in whole seconds.
	from := int(math.Ceil(f.lo - float64(longest)/100 - 1e-9))
	to := int(math.Floor(f.hi - float64(shortest)/100 + 1e-9))
	best := f.pick(f.programme(programmed, max(from, least), min(to, most), f.within(programmed, combos)), combos, f.lo)
	if best.cost == unreachable {
		// Nothing in the window: the longest below it, else the shortest above.
		best = f.pick(f.programme(programmed, least, min(to, most), unreachable), combos, math.Inf(-1))
		if best.cost == unreachable {
			best = f.shortest(programmed, combos)
		}
		total := float64(best.seconds) + float64(best.combo.centis)/100
		if total > f.hi {
			miss = int(math.Ceil(total - f.hi - 1e-9))
		} else {
			miss = -int(math.Ceil(f.lo - total - 1e-9))
		}
	}
	choice = make([]int, len(f.groups))
	n := 0
	for gi := range f.groups {
		if apart[gi] {
			choice[gi] = int(best.combo.choice[n])
			n++
		}
	}
	w := best.seconds
	for level, gi := range programmed {
		g := &f.groups[gi]
		// Changed options first: among equals the earliest steps change.
		for k := len(g.options) - 1; k >= 0; k-- {
			o := &g.options[k]
			rest := best.rows[level+1].at(w - o.seconds)
			if rest != unreachable && rest+o.cost(k != 0) == best.rows[level].at(w) {
				choice[gi] = k
				w -= o.seconds
				break
			}
		}
	}
	return choice, miss
}

func (g *group) bounds() (least, most int) {
	least, most = g.options[0].seconds, g.options[0].seconds
	for i := range g.options {
		least, most = min(least, g.options[i].seconds), max(most, g.options[i].seconds)
	}
	return least, most
}

// within is the cost of a plan that fits, found by changing first what costs least for its seconds: the optimum costs no
// more. It is unreachable where such a plan is not found so simply.
func (f *fitting) within(groups []int, combos []combo) int64 {
	apart := slices.MinFunc(combos, func(a, b combo) int { return cmp.Compare(a.cost, b.cost) })
	from := int(math.Ceil(f.lo - float64(apart.centis)/100 - 1e-9))
	to := int(math.Floor(f.hi - float64(apart.centis)/100 + 1e-9))
	total := 0
	for _, gi := range groups {
		total += f.groups[gi].options[0].seconds
	}
	if total >= from && total <= to {
		return apart.cost
	}
	sign := 1
	if total > to {
		sign = -1
	}
	order := slices.Clone(groups)
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(f.groups[a].by(sign), f.groups[b].by(sign)) })
	cost := apart.cost
	for _, gi := range order {
		g := &f.groups[gi]
		far := 0 // the option that goes furthest, but not past the window; the cheapest of those within it
		for k := range g.options {
			there := total + g.options[k].seconds - g.options[0].seconds
			past := sign > 0 && there > to || sign < 0 && there < from
			moves := sign*(g.options[k].seconds-g.options[far].seconds) > 0
			in := there >= from && there <= to
			wasIn := far != 0 && total+g.options[far].seconds-g.options[0].seconds >= from && total+g.options[far].seconds-g.options[0].seconds <= to
			if !past && (!wasIn && moves || wasIn && in && g.options[k].penalty < g.options[far].penalty) {
				far = k
			}
		}
		if far == 0 {
			continue
		}
		total += g.options[far].seconds - g.options[0].seconds
		cost += g.options[far].cost(true)
		if total >= from && total <= to {
			return cost
		}
	}
	return unreachable
}

// slope is the least that a second more (1) or less (-1) costs in a group; without end where it has none.
func (g *group) slope(sign int) float64 {
	least := math.Inf(1)
	for k := 1; k < len(g.options); k++ {
		if by := sign * (g.options[k].seconds - g.options[0].seconds); by > 0 {
			least = min(least, float64(g.options[k].cost(true))/float64(by))
		}
	}
	return least
}

// by is that slope, once it was worked out.
func (g *group) by(sign int) float64 {
	if sign > 0 {
		return g.up
	}
	return g.down
}

// reach says what the groups before a level can do at the least cost: their seconds as planned, and what a second more or
// less of them costs.
type reach struct {
	planned  int
	up, down float64
}

// least is what the groups before must cost at least for a total that lies in a window, when the groups from there on take
// w seconds.
func (r *reach) least(w, from, to int) float64 {
	switch total := w + r.planned; {
	case total > to:
		return float64(total-to) * r.down
	case total < from:
		return float64(from-total) * r.up
	}
	return 0
}

// seconds is how many whole seconds a cost buys at most.
func seconds(cost int64, slope float64) int {
	if slope <= 0 {
		return math.MaxInt32
	}
	return int(min(float64(cost)/(slope*(1-1e-6)), math.MaxInt32))
}

// programme fills the rows for totals from from to to, as far as they can lead to a plan that costs no more than most.
// The rows are good until the next call.
func (f *fitting) programme(groups []int, from, to int, most int64) []row {
	n := len(groups)
	if from > to {
		return nil
	}
	rows := make([]row, n+1)
	lo, hi := make([]int, n+1), make([]int, n+1) // bounds of the groups before
	before := make([]reach, n+1)
	before[0] = reach{0, math.Inf(1), math.Inf(1)}
	for level, gi := range groups {
		g, was := &f.groups[gi], &before[level]
		l, h := g.bounds()
		lo[level+1], hi[level+1] = lo[level]+l, hi[level]+h
		before[level+1] = reach{was.planned + g.options[0].seconds, min(was.up, g.up), min(was.down, g.down)}
	}
	if hi[n] < from || lo[n] > to {
		return nil
	}
	rows[n] = row{0, []int64{0}}
	store := f.mem.rows
	for level := n - 1; level >= 0; level-- {
		g, after := &f.groups[groups[level]], &rows[level+1]
		least, furthest := lo[level+1]-lo[level], hi[level+1]-hi[level]
		// What this level can reach, and what the window can still use of it.
		a := max(after.from+least, from-hi[level])
		b := min(after.from+len(after.cost)-1+furthest, to-lo[level])
		if most != unreachable { // further away the groups before alone would cost more
			is := &before[level]
			a = max(a, from-is.planned-seconds(most, is.up))
			b = min(b, to-is.planned+seconds(most, is.down))
		}
		if a > b {
			return nil
		}
		size := b - a + 1
		if len(store) < size {
			store = make([]int64, max(4096, size))
		}
		cost := store[:size:size]
		for i := range cost {
			cost[i] = unreachable
		}
		for k := range g.options {
			o := &g.options[k]
			c := o.cost(k != 0)
			x := max(a, after.from+o.seconds)
			y := min(b+1, after.from+o.seconds+len(after.cost))
			if x >= y {
				continue
			}
			dst := cost[x-a : y-a]
			src := after.cost[x-o.seconds-after.from : y-o.seconds-after.from]
			for w, was := range src {
				dst[w] = min(dst[w], was+c)
			}
		}
		if most != unreachable {
			for i, c := range cost { // a part in a million for the rounding of a cost by the second
				if c != unreachable && float64(c)+(1-1e-6)*before[level].least(a+i, from, to) > float64(most) {
					cost[i] = unreachable
				}
			}
		}
		for len(cost) > 0 && cost[0] == unreachable {
			cost, a = cost[1:], a+1
		}
		for len(cost) > 0 && cost[len(cost)-1] == unreachable {
			cost = cost[:len(cost)-1]
		}
		if len(cost) == 0 {
			return nil
		}
		rows[level] = row{a, cost}
		store = store[size:]
	}
	return rows
}

type picked struct {
	rows    []row
	combo   combo
	seconds int
	cost    int64
}

// pick takes the cheapest total between lo and the top of the window; where lo is
// minus infinity the longest total, then the cheapest.
func (f *fitting) pick(rows []row, combos []combo, lo float64) picked {
	best := picked{rows: rows, cost: unreachable}
	if rows == nil {
		return best
	}
	longest := math.IsInf(lo, -1)
	top := math.Inf(-1)
	for _, c := range combos {
		add := float64(c.centis) / 100
		to := min(int(math.Floor(f.hi-add+1e-9)), rows[0].from+len(rows[0].cost)-1)
		from := rows[0].from
		if !longest {
			from = max(from, int(math.Ceil(lo-add-1e-9)))
		}
		for w := to; w >= from; w-- {
			r := rows[0].at(w)
			if r == unreachable {
				continue
			}
			cost, total := r+c.cost, float64(w)+add
			switch {
			case longest && (total > top+1e-9 || total > top-1e-9 && cost < best.cost):
				best.combo, best.seconds, best.cost, top = c, w, cost, total
			case !longest && (cost < best.cost || cost == best.cost && earlier(c.choice, 0, best.combo.choice)):
				best.combo, best.seconds, best.cost = c, w, cost
			}
			if longest {
				break
			}
		}
	}
	return best
}

// shortest is the answer where even the shortest plan is too long.
func (f *fitting) shortest(programmed []int, combos []combo) picked {
	least := 0
	for _, gi := range programmed {
		lo, _ := f.groups[gi].bounds()
		least += lo
	}
	rows := f.programme(programmed, least, least, unreachable)
	return picked{rows: rows, combo: combos[0], seconds: least, cost: rows[0].at(least)}
}
