package diary

import (
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
)

// SeriesAnswer is what was understood of a question, and the best series with its cost.
type SeriesAnswer struct {
	// Moment is when the diary stood like this.
	Moment time.Time      `json:"moment"`
	Often  []series.Heard `json:"often"`
	When   []series.Heard `json:"when"`
	With   []series.Heard `json:"with"`
	Items  []AnsweredItem `json:"items"`
	Status series.Status  `json:"status" enum:"optimal,none,stopped"`
	// Bound is what the best costs at least, where the search was stopped.
	Bound  *int            `json:"bound,omitempty"`
	Best   *SeriesOffer    `json:"best,omitempty"`
	Others []SeriesOffer   `json:"others"`
	Relax  []RelaxedSeries `json:"relax"`
	Alone  []RelaxedAlone  `json:"alone"`
	// OthersStopped says that time was over before all alternatives were found.
	OthersStopped bool `json:"othersStopped,omitempty"`
	// NotAllTried says that time was over before every set of limits was tried.
	NotAllTried bool           `json:"notAllTried,omitempty"`
	Ground      SeriesGround   `json:"ground"`
	Patch       []studio.Named `json:"patch"`
	// Missed is how many appointments the client missed in the last twelve months, Deposit that the
	// studio asks for one after so many.
	Missed  int  `json:"missed,omitempty"`
	Deposit bool `json:"deposit,omitempty"`
}

// AnsweredItem is one treatment of the series as it was laid out.
type AnsweredItem struct {
	studio.SeriesItem
	Name    string `json:"name"`
	Minutes int    `json:"minutes"`
	Price   string `json:"price"`
}

// SeriesOffer is one series with its cost in points, in all and by term.
type SeriesOffer struct {
	Cost int `json:"cost"`
	// More is how much more it costs than the best.
	More  int          `json:"more"`
	Terms series.Terms `json:"terms"`
	// Changed is how many visits changed besides the one that was moved.
	Changed     int              `json:"changed"`
	Visits      []OfferedVisit   `json:"visits"`
	Compromises []ToldCompromise `json:"compromises"`
	// Cautions are what somebody has to look at.
	Cautions []ToldCaution `json:"cautions"`
}

// ToldCaution is something to look at, with the names of the products it is about.
type ToldCaution struct {
	series.Caution
	Names []string `json:"names,omitempty"`
}

// OfferedVisit is one visit of a series that is offered. Wall is its start by the clock of the
// studio, 2006-01-02 15:04.
type OfferedVisit struct {
	Kind             string    `json:"kind" enum:"treatment,patch"`
	N                int       `json:"n"`
	Wall             string    `json:"wall"`
	Start            time.Time `json:"start"`
	End              time.Time `json:"end"`
	Practitioner     uuid.UUID `json:"practitioner"`
	PractitionerName string    `json:"practitionerName"`
	Room             uuid.UUID `json:"room"`
	RoomName         string    `json:"roomName"`
	ProtocolName     string    `json:"protocolName,omitempty"`
	// Changed says that it stood elsewhere before one was moved.
	Changed bool `json:"changed,omitempty"`
}

// ToldCompromise is a compromise with the names of those it concerns.
type ToldCompromise struct {
	series.Compromise
	// Limit is the limit that forbids the cheaper placement, Name whom or what it concerns, and
	// Day the day of that placement.
	Limit series.Limit `json:"limit,omitempty"`
	Name  string       `json:"name,omitempty"`
	Day   string       `json:"day,omitempty"`
}

// RelaxedSeries is the series that relaxing a smallest set of limits gives.
type RelaxedSeries struct {
	Limits []RelaxedLimit `json:"limits"`
	SeriesOffer
}

// RelaxedAlone is what relaxing one limit alone gives: its cost, none where it gives nothing.
type RelaxedAlone struct {
	RelaxedLimit
	Cost *int `json:"cost"`
}

// RelaxedLimit is a limit that gives way; Tool names the tool of which one more set is needed.
type RelaxedLimit struct {
	// Name is how the finder calls it, to ask again with it relaxed.
	Name  string `json:"name"`
	Limit string `json:"limit" enum:"client-times,practitioner,least-gap,most-gap,start,finish,fewer,overtime,one-more"`
	Tool  string `json:"tool,omitempty"`
}

// SeriesGround is what the picture of a series stands on: days on which nothing can be.
type SeriesGround struct {
	Event     string `json:"event,omitempty"`
	EventName string `json:"eventName,omitempty"`
	FinishBy  string `json:"finishBy,omitempty"`
	NotBefore string `json:"notBefore,omitempty"`
	// Away are the client's absences and the studio's closures, first and last day.
	Away [][]string `json:"away"`
}

// answer asks the finder and tells what it found.
func (h *heard) answer(now time.Time) (*SeriesAnswer, error) {
	begun := time.Now()
	found, err := series.FindWithin(&h.request, func() bool { return time.Since(begun) > searchAtMost })
	if err != nil {
		return nil, err
	}
	out := &SeriesAnswer{
		Moment: now, Often: orEmpty(h.often.Heard), When: orEmpty(h.when.Heard), With: orEmpty(h.with), Status: found.Status,
		Others: []SeriesOffer{}, Relax: []RelaxedSeries{}, Alone: []RelaxedAlone{}, Patch: orEmpty(h.patch), Ground: h.ground(),
		Missed: h.missed, Deposit: h.missed >= h.depositAfter && h.missed > 0,
	}
	for i := range h.items {
		o := h.sold(h.items[i].Protocol, h.items[i].Also)
		out.Items = append(out.Items, AnsweredItem{h.items[i], o.Body.Name, o.Body.Minutes.Treatment, o.Body.Price.Amount})
	}
	out.Bound, out.OthersStopped = found.Bound, found.OthersStopped
	if found.Status == series.Optimal {
		if out.Best, err = h.tellOffer(found, *found.Cost, &h.request); err != nil {
			return nil, err
		}
		for i := range found.Alternatives {
			if alt := &found.Alternatives[i]; alt.Status == series.Optimal {
				o, err := h.tellOffer(alt, *found.Cost, &h.request)
				if err != nil {
					return nil, err
				}
				out.Others = append(out.Others, *o)
			}
		}
		return out, nil
	}
	if found.Status == series.None {
		return out, h.tellRelaxed(found.Relaxations, out)
	}
	return out, nil
}

// searchAtMost is how long the desk waits for an answer.
const searchAtMost = 4 * time.Second

func orEmpty[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// tellOffer tells one series; best is the cost of the best.
func (h *heard) tellOffer(a *series.Answer, best int, q *series.Request) (*SeriesOffer, error) {
	out := &SeriesOffer{Cost: *a.Cost, More: *a.Cost - best, Compromises: []ToldCompromise{}}
	if a.Terms != nil {
		out.Terms = *a.Terms
		out.Changed = a.Terms.Relay / relayed
		out.Cost -= a.Terms.Relay
	}
	var err error
	if out.Visits, err = h.told(a.Visits); err != nil {
		return nil, err
	}
	list, err := series.Compromises(q, a.Visits)
	if err != nil {
		return nil, err
	}
	for _, c := range list {
		t := ToldCompromise{Compromise: c}
		if c.Reason != nil {
			t.Limit, t.Name = c.Reason.Limit, h.name(c.Reason.Key)
			t.Day = c.At.Start[:len(time.DateOnly)]
		}
		out.Compromises = append(out.Compromises, t)
	}
	out.Cautions = h.cautions(a.Visits)
	return out, nil
}

// cautions are what to look at in a series: before an event, after a pause, and what comes too often.
func (h *heard) cautions(list []series.Placed) []ToldCaution {
	event := ""
	if h.request.Series.Event != nil {
		event = h.request.Series.Event.Date
	}
	var visits []series.CautionVisit
	names := map[string]string{}
	for _, p := range list {
		if p.Kind != "treatment" {
			continue
		}
		it := &h.items[p.N-1]
		o := h.sold(it.Protocol, it.Also)
		v := series.CautionVisit{N: p.N, Day: p.Start[:len(time.DateOnly)], Ideal: it.Ideal, Deep: it.Deep, Work: o.work}
		for _, x := range h.untried[o.Body.Name] {
			v.Products, names[x.Key] = append(v.Products, x.Key), x.Name
		}
		visits = append(visits, v)
	}
	out := []ToldCaution{}
	for _, c := range series.Cautions(visits, event) {
		t := ToldCaution{Caution: c}
		for _, key := range c.Products {
			t.Names = append(t.Names, names[key])
		}
		out = append(out, t)
	}
	return out
}

// relayed is what each visit costs that changes besides the one that was moved.
const relayed = 10000

// told names what the finder placed.
func (h *heard) told(list []series.Placed) ([]OfferedVisit, error) {
	out := make([]OfferedVisit, 0, len(list))
	for _, p := range list {
		start, err := h.at(p.Start)
		if err != nil {
			return nil, err
		}
		v := OfferedVisit{
			Kind: p.Kind, N: p.N, Wall: p.Start, Start: start, End: start.Add(patchSold),
			PractitionerName: h.name(p.Practitioner), RoomName: h.name(p.Room),
		}
		if v.Practitioner, err = uuid.Parse(p.Practitioner); err != nil {
			return nil, err
		}
		if v.Room, err = uuid.Parse(p.Room); err != nil {
			return nil, err
		}
		if p.Kind == "treatment" {
			o := h.sold(h.items[p.N-1].Protocol, h.items[p.N-1].Also)
			v.ProtocolName = o.Body.Name
			v.End = start.Add(time.Duration(o.Body.Minutes.Treatment) * time.Minute)
			v.Changed = h.differs(&p)
		}
		out = append(out, v)
	}
	return out, nil
}

// differs reports whether a visit stood elsewhere before one was moved.
func (h *heard) differs(p *series.Placed) bool {
	c := h.question.Current
	return h.question.Moved != nil && p.N <= len(c) && (c[p.N-1].Start != p.Start || c[p.N-1].Practitioner != p.Practitioner)
}

// The time that a patch test takes (handbook, chapter 6).
const (
	patchSold  = 10 * time.Minute
	patchReset = 5 * time.Minute
)

// tellRelaxed tells what gives way where there is no series.
func (h *heard) tellRelaxed(r *series.Relaxations, out *SeriesAnswer) error {
	for _, set := range r.Sets {
		told, err := h.told(set.Visits)
		if err != nil {
			return err
		}
		one := RelaxedSeries{SeriesOffer: SeriesOffer{Cost: set.Cost, Visits: told, Compromises: []ToldCompromise{}}}
		for _, name := range set.Relax {
			one.Limits = append(one.Limits, h.limit(name))
		}
		out.Relax = append(out.Relax, one)
	}
	out.NotAllTried = r.Stopped
	for _, name := range series.Switches(&h.request) {
		out.Alone = append(out.Alone, RelaxedAlone{h.limit(name), r.Alone[name]})
	}
	return nil
}

// limit names a switch of the finder.
func (h *heard) limit(name string) RelaxedLimit {
	const more = "one-more-"
	if len(name) > len(more) && name[:len(more)] == more {
		return RelaxedLimit{name, "one-more", h.name(name[len(more):])}
	}
	return RelaxedLimit{Name: name, Limit: name}
}

// ground are the days on which nothing can be.
func (h *heard) ground() SeriesGround {
	g := SeriesGround{FinishBy: h.when.FinishBy, NotBefore: h.request.Client.NotBefore, EventName: h.when.EventName, Away: [][]string{}}
	if e := h.request.Series.Event; e != nil {
		g.Event = e.Date
	}
	g.Away = append(g.Away, h.request.Closures...)
	for _, x := range h.request.Client.Absences {
		g.Away = append(g.Away, []string{x[0][:len(time.DateOnly)], lastDay(x[1])})
	}
	return g
}

// lastDay is the day on which an absence until a moment ends; midnight belongs to the day before.
func lastDay(until string) string {
	if d, err := time.Parse(time.DateOnly, until); err == nil {
		return d.AddDate(0, 0, -1).Format(time.DateOnly)
	}
	return until[:len(time.DateOnly)]
}
