package fitting

import (
	"cmp"
	"math"
	"slices"
)

const unreachable = math.MaxInt64

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
		lo, hi := f.groups[gi].bounds()
		least, most = least+lo, most+hi
	}
	// The window of the programmed groups, in whole seconds.
	from := int(math.Ceil(f.lo - float64(longest)/100 - 1e-9))
	to := int(math.Floor(f.hi - float64(shortest)/100 + 1e-9))
	best := f.pick(f.programme(programmed, max(from, least), min(to, most)), combos, f.lo)
	if best.cost == unreachable {
		// Nothing in the window: the longest below it, else the shortest above.
		best = f.pick(f.programme(programmed, least, min(to, most)), combos, math.Inf(-1))
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

// programme fills the rows for totals from from to to. The rows are good until the next
// call.
func (f *fitting) programme(groups []int, from, to int) []row {
	n := len(groups)
	if from > to {
		return nil
	}
	rows := make([]row, n+1)
	lo, hi := make([]int, n+1), make([]int, n+1) // bounds of the groups before
	for level, gi := range groups {
		l, h := f.groups[gi].bounds()
		lo[level+1], hi[level+1] = lo[level]+l, hi[level]+h
	}
	if hi[n] < from || lo[n] > to {
		return nil
	}
	rows[n] = row{0, []int64{0}}
	store := f.mem.rows
	for level := n - 1; level >= 0; level-- {
		g, after := &f.groups[groups[level]], &rows[level+1]
		least, most := lo[level+1]-lo[level], hi[level+1]-hi[level]
		// What this level can reach, and what the window can still use of it.
		a := max(after.from+least, from-hi[level])
		b := min(after.from+len(after.cost)-1+most, to-lo[level])
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
				if was != unreachable && was+c < dst[w] {
					dst[w] = was + c
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
	rows := f.programme(programmed, least, least)
	return picked{rows: rows, combo: combos[0], seconds: least, cost: rows[0].at(least)}
}
