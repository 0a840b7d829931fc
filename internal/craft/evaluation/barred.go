package evaluation

import "softpalm/internal/craft/anatomy"

// BarredNodes says which node groups nothing may flow through, side by side.
type BarredNodes [3][8]bool

// Barred works out which node groups are out of reach when some places may not
// be worked: a group whose entry zone ([anatomy.NodeGroup.EntryZone]) is excluded, and
// every group that empties into one.
func Barred(excluded []anatomy.ZoneSide) BarredNodes {
	var b BarredNodes
	if len(excluded) == 0 {
		return b
	}
	for _, x := range excluded {
		if g := x.Zone.Zone().Node; g != "" && g.EntryZone() == x.Zone.Zone().Key {
			for _, side := range [...]anatomy.Side{anatomy.Left, anatomy.Right} {
				if x.Side == side || x.Side == anatomy.Mid {
					b[side][g.Rank()] = true
				}
			}
		}
	}
	for range len(anatomy.NodeGroups) {
		for rank, g := range anatomy.NodeGroups {
			if next := g.Next(); next != "" {
				for side := range b {
					b[side][rank] = b[side][rank] || b[side][next.Rank()]
				}
			}
		}
	}
	return b
}

// All reports whether every node group that a zone empties into on a side is
// barred.
func (b *BarredNodes) All(zone anatomy.ID, side anatomy.Side) bool {
	if *b == (BarredNodes{}) {
		return false
	}
	groups := anatomy.NodesOf(zone)
	for _, g := range groups {
		if !b[side][g.Rank()] {
			return false
		}
	}
	return len(groups) > 0
}
