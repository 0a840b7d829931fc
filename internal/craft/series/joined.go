package series

import "slices"

// Joined is one visit in which treatments follow each other, with nothing between them but the change
// of hand or tool: lengths add up, prepare of the first and reset of the last count, what they need is
// the union, the stricter rest counts (handbook, chapter 6, Everyday diary). The gap is that of the
// first.
func Joined(parts ...Item) Item {
	out := parts[0]
	out.Skills, out.Equipment = slices.Clone(out.Skills), slices.Clone(out.Equipment)
	tools := map[string]int{}
	for i := range parts {
		p := &parts[i]
		for key, n := range p.Tools {
			tools[key] = max(tools[key], n) // on one client the same set serves again
		}
		if i == 0 {
			continue
		}
		out.Sold += p.Sold
		out.Reset = p.Reset
		out.Rest = max(out.Rest, p.Rest)
		out.Drain, out.Deep, out.Glow = out.Drain || p.Drain, out.Deep || p.Deep, out.Glow || p.Glow
		out.Skills, out.Equipment = union(out.Skills, p.Skills), union(out.Equipment, p.Equipment)
		out.NotBefore = max(out.NotBefore, p.NotBefore)
	}
	if len(tools) > 0 {
		out.Tools = tools
	}
	return out
}

// With are the marks of treatments in one visit: each holds that one of them has.
func (m Marks) With(o Marks) Marks {
	return Marks{Draining: m.Draining || o.Draining, Deep: m.Deep || o.Deep, Glow: m.Glow || o.Glow}
}

func union(a, b []string) []string {
	for _, x := range b {
		if !slices.Contains(a, x) {
			a = append(a, x)
		}
	}
	return a
}
