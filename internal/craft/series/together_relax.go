package series

import (
	"slices"
	"sort"
)

// TogetherRelaxed is the best time for clients who come together once some limits give way.
type TogetherRelaxed struct {
	Relax []string `json:"relax"`
	Together
}

// RelaxTogether finds the smallest sets of limits whose relaxing gives a time for clients who come
// together, cheapest first; each limit gives way for all who have it. None where no three help.
func RelaxTogether(requests []*Request) ([]TogetherRelaxed, error) {
	names := togetherSwitches(requests)
	for size := 1; size <= min(mostSwitches, len(names)); size++ {
		var found []TogetherRelaxed
		for _, set := range subsets(len(names), size) {
			let := make([]string, size)
			for i, at := range set {
				let[i] = names[at]
			}
			copies := make([]*Request, len(requests))
			for i, q := range requests {
				var err error
				if copies[i], err = RelaxThose(q, let); err != nil {
					return nil, err
				}
			}
			ways, err := FindTogether(copies)
			if err != nil {
				return nil, err
			}
			if len(ways) > 0 {
				found = append(found, TogetherRelaxed{let, ways[0]})
			}
		}
		if len(found) > 0 {
			sort.SliceStable(found, func(i, j int) bool { return found[i].Cost < found[j].Cost })
			return found, nil
		}
	}
	return nil, nil
}

// RelaxThose is [Relax] with those of the names that the request has a switch for.
func RelaxThose(q *Request, names []string) (*Request, error) {
	have := Switches(q)
	return Relax(q, slices.DeleteFunc(slices.Clone(names), func(n string) bool { return !slices.Contains(have, n) }))
}

// togetherSwitches are the limits that can give way for one visit each, in the handbook's order: gaps
// and fewer visits are for series.
func togetherSwitches(requests []*Request) []string {
	order := []string{"client-times", "practitioner", "start", "finish", "overtime"}
	for i := range requests[0].Tools {
		order = append(order, "one-more-"+requests[0].Tools[i].Key)
	}
	return slices.DeleteFunc(order, func(name string) bool {
		return !slices.ContainsFunc(requests, func(q *Request) bool { return slices.Contains(Switches(q), name) })
	})
}
