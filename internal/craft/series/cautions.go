package series

import (
	"slices"
	"time"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
)

// CautionKind is what of a series somebody has to look at: no limit of the finder, which knows times
// and not what is done (handbook, chapters 5 and 6).
type CautionKind string

// The kinds of caution.
const (
	Untried CautionKind = "untried" // a product for the first time in the last 14 days before an event
	Redden  CautionKind = "redden"  // something that may redden within 24 hours of an event
	Gentle  CautionKind = "gentle"  // deep work after a pause of more than three times the ideal gap
)

// Caution is one thing to look at.
type Caution struct {
	N    int         `json:"n"`
	Kind CautionKind `json:"kind" enum:"untried,redden,gentle"`
	// Products are those that are used for the first time, by key.
	Products []string `json:"products,omitempty"`
}

// CautionVisit is a treatment of a series as cautions see it.
type CautionVisit struct {
	N   int
	Day string
	// Ideal is the ideal gap from the treatment before, in days.
	Ideal int
	Deep  bool
	// Reddens says that a step of it may leave redness.
	Reddens bool
	// Products are the keys of what it uses that the client never had.
	Products []string
}

const (
	untriedDays = 14 // before an event
	longPause   = 3  // times the ideal gap
)

// Cautions looks at a series before an event, and after a pause; event is empty where there is none.
// What is used for the first time two weeks before the event or earlier is tried by then.
func Cautions(visits []CautionVisit, event string) []Caution {
	var out []Caution
	end, dated := dayOf(event)
	var tried []string
	for i := range visits {
		v := &visits[i]
		day, ok := dayOf(v.Day)
		if !ok {
			continue
		}
		late := dated && end-day < untriedDays && day < end
		var first []string
		for _, p := range v.Products {
			switch {
			case slices.Contains(tried, p):
			case late:
				first = append(first, p)
			default:
				tried = append(tried, p)
			}
		}
		if len(first) > 0 {
			out = append(out, Caution{v.N, Untried, first})
		}
		if dated && end-day == 1 && v.Reddens {
			out = append(out, Caution{N: v.N, Kind: Redden})
		}
		if before, ok := dayBefore(visits, i); ok && v.Deep && v.Ideal > 0 && day-before > longPause*v.Ideal {
			out = append(out, Caution{N: v.N, Kind: Gentle})
		}
	}
	return out
}

func dayBefore(visits []CautionVisit, i int) (int, bool) {
	if i == 0 {
		return 0, false
	}
	return dayOf(visits[i-1].Day)
}

func dayOf(text string) (int, bool) {
	t, err := time.Parse(time.DateOnly, text)
	return daysOf(t.Date()), err == nil
}

// Reddens reports whether a step of a protocol may leave redness.
func Reddens(p *protocol.Protocol, ctx *protocol.Context) bool {
	e := evaluation.EvaluateTimeline(p, ctx)
	return slices.ContainsFunc(e.Steps, func(r evaluation.Resolved) bool { return r.Reddens(ctx) })
}
