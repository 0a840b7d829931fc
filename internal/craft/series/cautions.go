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
	Untried    CautionKind = "untried" // a product for the first time in the last 14 days before an event
	Redden     CautionKind = "redden"  // something that may redden within 24 hours of an event
	Gentle     CautionKind = "gentle"  // deep work after a pause of more than three times the ideal gap
	DeepOften  CautionKind = "deep"    // deep work for the fourth time in seven days
	MouthOften CautionKind = "mouth"   // work inside the mouth on two days running
	MittOften  CautionKind = "mitt"    // a scrub mitt again in less than a week
)

// Caution is one thing to look at.
type Caution struct {
	N    int         `json:"n"`
	Kind CautionKind `json:"kind" enum:"untried,redden,gentle,deep,mouth,mitt"`
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
	Work
	// Products are the keys of what it uses that the client never had.
	Products []string
}

// Work is what a treatment does that is not to be done too often, or not before an event.
type Work struct {
	Reddens bool // a step of it may leave redness
	Mouth   bool // a step of it works inside the mouth
	Mitt    bool // a step of it is done with a scrub mitt
}

// With is the work of two treatments of one visit.
func (w Work) With(o Work) Work {
	return Work{w.Reddens || o.Reddens, w.Mouth || o.Mouth, w.Mitt || o.Mitt}
}

const (
	untriedDays = 14 // before an event
	longPause   = 3  // times the ideal gap
	deepAWeek   = 3  // treatments of deep work in seven days at most
	mittDays    = 7  // from one scrub mitt to the next at least, as of all that exfoliates
)

// Cautions looks at a series: before an event, after a pause, and at what comes too often; event is
// empty where there is none. What is used for the first time two weeks before the event or earlier
// is tried by then.
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
		out = append(out, tooOften(visits[:i], v, day)...)
	}
	return out
}

// tooOften compares a visit with those before it (handbook, chapter 6, What is sold).
func tooOften(before []CautionVisit, v *CautionVisit, day int) (out []Caution) {
	deep, mouth, mitt := 1, false, false
	for i := range before {
		on, ok := dayOf(before[i].Day)
		if !ok {
			continue
		}
		if before[i].Deep && day-on < 7 {
			deep++
		}
		mouth = mouth || before[i].Mouth && day-on == 1
		mitt = mitt || before[i].Mitt && day-on < mittDays
	}
	if v.Deep && deep > deepAWeek {
		out = append(out, Caution{N: v.N, Kind: DeepOften})
	}
	if v.Mouth && mouth {
		out = append(out, Caution{N: v.N, Kind: MouthOften})
	}
	if v.Mitt && mitt {
		out = append(out, Caution{N: v.N, Kind: MittOften})
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

// WorkOf reads from the steps of a protocol what is not to be done too often.
func WorkOf(p *protocol.Protocol, ctx *protocol.Context) Work {
	var w Work
	e := evaluation.EvaluateTimeline(p, ctx)
	for i := range e.Steps {
		s := &e.Steps[i]
		w = w.With(Work{
			Reddens: s.Reddens(ctx),
			Mouth:   s.InMouth(),
			Mitt:    s.Tool != nil && ctx.Tools[s.Tool.Key].Kind == "mitt",
		})
	}
	return w
}
