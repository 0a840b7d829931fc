package contraindication

import (
	"sort"

	"softpalm/internal/craft/calendar"
)

// Judged is a pre-treatment check of a day.
type Judged struct {
	Day    calendar.Day
	Result Result
}

// Span is a time through which a rule applied to a client.
type Span struct {
	Rule  string `json:"rule"`
	Title string `json:"title"`
	// Kind is the strictest outcome of the rule within the span.
	Kind Kind         `json:"kind"`
	From calendar.Day `json:"from"`
	// Until is the first day without it; empty while it is not known to have ended.
	Until calendar.Day `json:"until,omitempty"`
}

// History says which rules applied when, from a client's pre-treatment checks: from the
// check that found one until its waiting time is over or, where it has none,
// until the first later check that did not find it. Spans come by their first
// day, then as the pack orders its rules. What a check of the same day said
// before is replaced by the later one.
func History(checks []Judged) []Span {
	sorted := append([]Judged{}, checks...)
	sort.SliceStable(sorted, func(i, j int) bool { return sorted[i].Day < sorted[j].Day })
	var out []Span
	open := map[string]int{} // rule to its open span
	for n, c := range sorted {
		if n+1 < len(sorted) && sorted[n+1].Day == c.Day {
			continue
		}
		now := map[string]bool{}
		for _, o := range c.Result.Outcomes {
			i, known := open[o.Rule]
			switch {
			case !known, out[i].Until != "" && out[i].Until < c.Day:
				out = append(out, Span{o.Rule, o.Title, o.Kind, c.Day, o.Until})
				open[o.Rule] = len(out) - 1
			case !now[o.Rule]: // found again by this check
				if rank[o.Kind.headline()] > rank[out[i].Kind.headline()] {
					out[i].Kind = o.Kind
				}
				out[i].Until = o.Until
			default: // another outcome of the same rule: the longest counts
				if o.Until == "" || (out[i].Until != "" && o.Until > out[i].Until) {
					out[i].Until = o.Until
				}
			}
			now[o.Rule] = true
		}
		for rule, i := range open {
			if !now[rule] {
				if out[i].Until == "" || out[i].Until > c.Day {
					out[i].Until = c.Day
				}
				delete(open, rule)
			}
		}
	}
	return out
}
