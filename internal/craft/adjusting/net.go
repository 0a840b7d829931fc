package adjusting

// Net is what changes come to for the hands. Where several reasons change how much of a product a step takes, one after the
// other, it says once what is taken instead of what was published, in the place of the last of them; nothing where that is
// the same again.
func Net(list []Adjustment) []Adjustment {
	type dose struct{ step, product string }
	first, last := map[dose]string{}, map[dose]int{}
	for i := range list {
		if c := &list[i]; c.Kind == Dosed {
			at := dose{c.Step, c.Name}
			if _, before := first[at]; !before {
				first[at] = c.From
			}
			last[at] = i
		}
	}
	out := make([]Adjustment, 0, len(list))
	for i, c := range list {
		if c.Kind == Dosed {
			at := dose{c.Step, c.Name}
			c.From = first[at]
			if last[at] != i || c.From == c.To {
				continue
			}
		}
		out = append(out, c)
	}
	return out
}
