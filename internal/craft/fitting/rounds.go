package fitting

import (
	"slices"

	"softpalm/internal/craft/evaluation"
)

// solve returns the choice of each group and by how much the window is missed.
// It solves without the limits of the eyes first: where that optimum keeps them
// it is the answer.
func (f *fitting) solve() (choice []int, miss int) {
	least := eyeLoad{}
	for gi := range f.groups {
		low := f.groups[gi].options[0].eyes
		for _, o := range f.groups[gi].options {
			for i := range low {
				low[i] = min(low[i], o.eyes[i])
			}
		}
		least = least.plus(low)
	}
	limits := eyeLoad{}
	for i, zone := range [...]string{"under-eye", "under-eye", "orbital-rim", "orbital-rim"} {
		limits[i] = max(int32(100*evaluation.EyeLimit(zone)+50), least[i])
	}
	apart := make([]bool, len(f.groups)) // enumerated instead of programmed
	for gi := range f.groups {
		apart[gi] = f.groups[gi].round >= 0
	}
	choice, miss = f.optimum(apart, nil)
	total := eyeLoad{}
	for gi := range f.groups {
		total = total.plus(f.groups[gi].options[choice[gi]].eyes)
	}
	if total.within(limits) {
		return choice, miss
	}
	for gi := range f.groups {
		for _, o := range f.groups[gi].options {
			apart[gi] = apart[gi] || o.eyes != eyeLoad{}
		}
	}
	return f.optimum(apart, &limits)
}

// combo is one way to choose for the groups that are enumerated.
type combo struct {
	centis int
	eyes   eyeLoad
	cost   int64
	choice []uint16
}

// combos enumerates the choices of the groups apart, one for each distinct time
// and load: the cheapest, the earliest changed among equals.
func (f *fitting) combos(apart []bool, limits *eyeLoad) []combo {
	type key struct {
		centis int
		eyes   eyeLoad
	}
	list := []combo{{}}
	for gi := range f.groups {
		if !apart[gi] {
			continue
		}
		g := &f.groups[gi]
		at := map[key]int{}
		var next []combo
		for _, c := range list {
			for k := range g.options {
				o := &g.options[k]
				n := combo{centis: c.centis + o.centis + 100*o.seconds, eyes: c.eyes.plus(o.eyes), cost: c.cost + o.cost(k != 0)}
				if limits != nil && !n.eyes.within(*limits) {
					continue
				}
				id := key{centis: n.centis}
				if limits != nil {
					id.eyes = n.eyes
				}
				i, seen := at[id]
				if seen && (next[i].cost < n.cost || next[i].cost == n.cost && !earlier(c.choice, uint16(k), next[i].choice)) {
					continue
				}
				n.choice = append(slices.Clone(c.choice), uint16(k))
				if seen {
					next[i] = n
				} else {
					at[id] = len(next)
					next = append(next, n)
				}
			}
		}
		list = next
	}
	return list
}

// earlier reports whether the choice a followed by k changes earlier groups than b.
func earlier(a []uint16, k uint16, b []uint16) bool {
	for i := range b {
		x := k
		if i < len(a) {
			x = a[i]
		}
		if (x != 0) != (b[i] != 0) {
			return x != 0
		}
	}
	return false
}
