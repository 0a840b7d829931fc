package contraindication

import "reflect"

// PackChange is how one rule differs between two packs.
type PackChange struct {
	Rule  string `json:"rule"`
	Title string `json:"title"`
	Kind  string `json:"kind" enum:"added,removed,changed"`
	// Loosens says that less is asked for than before.
	Loosens bool `json:"loosens"`
}

// Changes lists how another pack differs from this one: its rules in their order, then
// those that it lacks. Words of a rule that ask for the same count as a change too.
func (p *Pack) Changes(to *Pack) []PackChange {
	out := []PackChange{}
	was := map[string]*Rule{}
	for i := range p.Rules {
		was[p.Rules[i].ID] = &p.Rules[i]
	}
	for i := range to.Rules {
		now := &to.Rules[i]
		before := was[now.ID]
		delete(was, now.ID)
		switch {
		case before == nil:
			out = append(out, PackChange{Rule: now.ID, Title: now.Title, Kind: "added"})
		case !reflect.DeepEqual(before, now):
			out = append(out, PackChange{Rule: now.ID, Title: now.Title, Kind: "changed", Loosens: Loosens(before, now)})
		}
	}
	for i := range p.Rules {
		if r := &p.Rules[i]; was[r.ID] != nil {
			out = append(out, PackChange{Rule: r.ID, Title: r.Title, Kind: "removed", Loosens: true})
		}
	}
	return out
}
