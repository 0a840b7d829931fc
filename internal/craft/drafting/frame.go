package drafting

import (
	"slices"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/craft/stroke"
)

func (d *drafting) name() string {
	if len(d.concerns) == 0 {
		return "New protocol"
	}
	var names []string
	for _, c := range d.concerns {
		names = append(names, c.Name)
	}
	return strings.Join(names, ", ")
}

// opening lists opening strokes, nearest the heart first, for every node group
// that the drains of the plan run into.
func (d *drafting) opening(work []pick) []string {
	if d.q.Method.Opening == "feather-sweep" {
		return []string{"feather-sweep"}
	}
	need := map[anatomy.NodeGroup]bool{anatomy.Terminus: true, anatomy.DeepCervical: true}
	for _, c := range work {
		if c.st.Intent == stroke.Drain && len(c.st.Zones()) > 0 {
			last, _ := anatomy.Lookup(c.st.Zones()[len(c.st.Zones())-1])
			for _, g := range anatomy.NodesOf(last) {
				for ; g != ""; g = g.Next() {
					need[g] = true
				}
			}
		}
	}
	need[anatomy.Preauricular] = true // the closing sweep passes the ear
	var keys []string
	for _, g := range anatomy.NodeGroups {
		if !need[g] {
			continue
		}
		st := remedy.Opener(d.ctx, g)
		if dry := d.ctx.Strokes["side-neck-still"]; st != nil && dry != nil && g == anatomy.DeepCervical && d.unslidNeck() {
			st = dry
		}
		if st != nil && !slices.Contains(keys, st.Key) {
			keys = append(keys, st.Key)
		}
	}
	return keys
}

// unslidNeck reports whether neck and face are opened and closed without sliding: no product is there.
func (d *drafting) unslidNeck() bool { return d.slip == nil || d.area != nil }

// closing puts the drainage route: a sweep as the method has it, then, where it asks
// for that, the opening in reverse.
func (d *drafting) closing(put func(protocol.Phase, string), opened []string) {
	reversed := d.q.Method.Closing == "reverse" || d.q.Method.Closing == "" && d.q.Minutes >= longMinutes
	if underJaw := "under-jaw-circles"; !reversed && slices.Contains(opened, underJaw) { // what was drained there is not left
		put("close", underJaw)
	}
	switch {
	case d.unslidNeck():
		put("close", "still-neck-home")
	case d.q.Method.Closing == "chin-sweep":
		put("close", "jaw-drain")
		put("close", "lobe-to-hollow")
		put("close", "neck-drain")
	default:
		put("close", "feather-sweep")
		put("close", "lobe-to-hollow")
	}
	if reversed {
		for i := len(opened) - 1; i >= 0; i-- {
			if d.ctx.Strokes[opened[i]].Intent == stroke.Open {
				put("close", opened[i])
			}
		}
	}
}
