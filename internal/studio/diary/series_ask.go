package diary

import (
	"context"
	"slices"
	"strconv"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// SeriesQuestion asks for the best series, in the words in which the desk hears them.
type SeriesQuestion struct {
	Client uuid.UUID       `json:"client" format:"uuid"`
	What   []AskedProtocol `json:"what" minItems:"1" maxItems:"12"`
	studio.SeriesAsked
	// Gaps are lines of the compiled rhythm that the desk changed.
	Gaps []studio.SeriesItem `json:"gaps,omitempty" maxItems:"60"`
	// Relax are limits that give way, as the finder names them.
	Relax []string `json:"relax,omitempty" maxItems:"3"`
	// Moved is a visit that was moved by hand; the others are laid again round it, as few of
	// Current changed as can be.
	Moved   *MovedVisit           `json:"moved,omitempty"`
	Current []series.CurrentVisit `json:"current,omitempty" maxItems:"60"`
}

// AskedProtocol is a protocol for some visits in a row.
type AskedProtocol struct {
	Protocol uuid.UUID `json:"protocol" format:"uuid"`
	// Visits is how many; 0 is as many as the rhythm says.
	Visits int `json:"visits,omitempty" minimum:"0" maximum:"60"`
	// Also are protocols that follow in the same visit.
	Also []uuid.UUID `json:"also,omitempty" maxItems:"3"`
}

// MovedVisit is a visit, from 1 on, put somewhere by hand. Start is wall time, 2006-01-02 15:04.
type MovedVisit struct {
	N int `json:"n" minimum:"1" maximum:"60"`
	series.Spot
}

// mostVisits is how many visits a series has at most.
const mostVisits = 60

// latestFirst is how many days after the wished day a series begins at the latest, where nothing
// else was said.
const latestFirst = 56

// patchSkill is the skill of making patch tests, asked where somebody of the studio has it.
const patchSkill = "patch tests"

// heard is a question with what was understood of it.
type heard struct {
	*asking
	question SeriesQuestion
	often    series.Often
	when     series.When
	with     []series.Heard
	items    []studio.SeriesItem
	patch    []studio.Named // products of the patch test
	// missed is how many appointments the client missed lately, depositAfter after how many a deposit
	// is asked for.
	missed, depositAfter int
	untried              map[string][]studio.Named // products that the client never had, by what is sold
}

// askStore is what a question about a series is answered from.
type askStore interface {
	finderStore
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error)
}

// hear reads a question and builds the finder's request.
func (s *Service) hear(ctx context.Context, tx askStore, st *studio.Studio, q SeriesQuestion, besides *uuid.UUID) (*heard, error) {
	if _, err := tx.Client(ctx, q.Client); err != nil {
		return nil, err
	}
	a, err := s.gather(ctx, tx, st, &q.Client, ofSeries(besides))
	if err != nil {
		return nil, err
	}
	past, err := tx.ClientVisits(ctx, q.Client)
	if err != nil {
		return nil, err
	}
	h := &heard{asking: a, question: q, missed: missedLately(past, s.Now()), depositAfter: st.Diary.DepositAfter, untried: map[string][]studio.Named{}}
	today := s.Today(st)
	h.often, h.when = series.ReadOften(q.Often), series.ReadWhen(q.When, today)
	if err := h.lay(today); err != nil {
		return nil, err
	}
	h.wish(today)
	expected, _, err := s.Checks.Expect(ctx, tx, st, q.Client, today)
	if err != nil {
		return nil, err
	}
	h.request.Client.NotBefore = max(string(expected.NotBefore), h.letter)
	if err := s.patchFirst(ctx, tx, st, h); err != nil {
		return nil, err
	}
	return h, h.relax()
}

// relax lets limits give way that the desk chose to relax.
func (h *heard) relax() error {
	let, err := series.Relax(&h.request, h.question.Relax)
	if err != nil {
		return studio.FaultAt("/relax", words.SearchAgain())
	}
	if len(let.Series.Items) < len(h.items) { // one visit fewer: the last that is not the glow visit
		i := len(h.items) - 1
		for i > 0 && h.items[i].Glow {
			i--
		}
		h.items = slices.Delete(h.items, i, i+1)
		for k := range h.items {
			h.items[k].N = k + 1
		}
	}
	h.request = *let
	return nil
}

// lay turns protocols and rhythm into the items of the series.
func (h *heard) lay(today string) error {
	total := 0
	for i := range h.question.What {
		total += max(h.question.What[i].Visits, 1)
	}
	if h.often.Visits > 0 {
		total = h.often.Visits
	}
	dates := h.standing(today)
	if h.often.Standing != nil {
		total = len(dates)
		if n := len(h.question.Gaps); n > 0 { // as it was laid before
			total, dates = n, nil
		}
	}
	if total > mostVisits {
		return studio.FaultAt("/often", words.ASeriesHasAtMost60Visits())
	}
	var offers []*offer
	for i, w := range h.question.What {
		o := h.sold(w.Protocol, w.Also)
		if o == nil {
			return studio.FaultAt("/what/"+strconv.Itoa(i)+"/protocol", words.ThisProtocolIsNotPublishedYet())
		}
		n := max(w.Visits, 1)
		if i == len(h.question.What)-1 {
			n = max(n, total-len(offers))
		}
		for range min(n, total-len(offers)) {
			offers = append(offers, o)
		}
	}
	marks := make([]series.Marks, len(offers))
	for i, o := range offers {
		marks[i] = o.marks
	}
	if last := len(marks) - 1; h.when.Event != nil && !marks[last].Deep {
		marks[last].Glow = true // the visit before the event; deep work ends earlier, and there is none then
	}
	rhythm := h.often.Rhythm
	if rhythm.How == "" {
		rhythm = series.Rhythm{How: series.EveryDays, Number: 7}
	}
	gaps, perWeek := rhythm.Compile(marks)
	q := &h.request.Series
	q.PerWeek, q.Event = perWeek, h.when.Event
	if h.question.Review && len(offers) > 1 {
		q.Span = series.ReviewLeast
	}
	for k := 1; k < len(dates) && k < len(gaps); k++ {
		gaps[k] = h.often.Standing.Gap(dates[k-1], dates[k])
	}
	for k, o := range offers {
		it := studio.SeriesItem{N: k + 1, Protocol: o.ID, Also: o.following(), Gap: gaps[k], Marks: marks[k]}
		if k > 0 {
			it.Rest = marks[k].Rest()
		}
		for i := range h.question.Gaps {
			if g := &h.question.Gaps[i]; g.N == it.N {
				it.Marks = g.Marks
				if k > 0 {
					it.Gap, it.Rest = g.Gap, g.Rest
				}
			}
		}
		h.items = append(h.items, it)
		q.Items = append(q.Items, o.item(&it))
	}
	return h.moved()
}

// standing are the days on which a booking without an end is laid at first: those of its weekday of
// the month, or as many as its rhythm gives. What was said of the first visit stands.
func (h *heard) standing(today string) []string {
	s := h.often.Standing
	if s == nil {
		return nil
	}
	from, err := time.Parse(time.DateOnly, today)
	if err != nil {
		return nil
	}
	if f := h.when.First; f != nil && f.Earliest > today {
		if from, err = time.Parse(time.DateOnly, f.Earliest); err != nil {
			return nil
		}
	}
	through := from.AddDate(0, 0, series.StandingAhead).Format(time.DateOnly)
	if s.Nth > 0 {
		days := s.Days(from.AddDate(0, 0, -1).Format(time.DateOnly), through)
		if len(days) > 0 {
			h.when.First = &series.FirstVisit{Earliest: days[0], Ideal: days[0]}
		}
		return days
	}
	every := max(h.often.Rhythm.Number, 1)
	if h.often.Rhythm.How != series.EveryDays {
		every = 7
	}
	var days []string
	for d := 0; d <= series.StandingAhead; d += every {
		days = append(days, from.AddDate(0, 0, d).Format(time.DateOnly))
	}
	return days
}

// moved fixes the visit that was moved by hand.
func (h *heard) moved() error {
	m := h.question.Moved
	if m == nil {
		return nil
	}
	q := &h.request
	if m.N > len(q.Series.Items) {
		return studio.FaultAt("/moved/n", words.ThereIsNoSuchVisit())
	}
	q.Series.Items[m.N-1].Fixed = &series.Fixed{Start: m.Start, Practitioner: m.Practitioner}
	q.Relay = &series.Relay{Moved: m.N, Current: h.question.Current}
	return nil
}

// wish adds what the client said of time and hands.
func (h *heard) wish(today string) {
	c, q := &h.request.Client, &h.request.Series
	if h.when.Possible != nil {
		c.Possible = h.when.Possible
	}
	if h.when.Likes != nil {
		c.Likes = h.when.Likes
	}
	c.Absences = append(c.Absences, h.when.Absences...)
	q.FinishBy = h.when.FinishBy
	q.First = h.when.First
	switch {
	case q.Event != nil:
		q.First = h.beforeEvent(today)
	case q.First == nil:
		q.First = &series.FirstVisit{Earliest: today, Ideal: today}
	}
	if q.First.Latest == "" && q.Event == nil {
		if d, err := time.Parse(time.DateOnly, q.First.Ideal); err == nil {
			q.First.Latest = d.AddDate(0, 0, latestFirst).Format(time.DateOnly)
		}
	}
	names := make([]string, len(h.people))
	for i := range h.people {
		names[i] = h.people[i].Name
	}
	q.Practitioner, h.with = series.ReadWith(h.question.With, names)
	if w := q.Practitioner; w != nil && w.Who != "" {
		if i, err := strconv.Atoi(w.Who); err == nil {
			w.Who = h.people[i].ID.String()
		}
	}
}

// beforeEvent is when a series that is counted back from an event may begin. Where the last visit is
// the glow visit its day says all; without one the ideal gaps counted back from the last day on
// which deep work may be say when the series begins at best.
func (h *heard) beforeEvent(today string) *series.FirstVisit {
	f := &series.FirstVisit{Earliest: today}
	if said := h.when.First; said != nil {
		f.Earliest, f.Latest = said.Earliest, said.Latest
	}
	items := h.request.Series.Items
	if items[len(items)-1].Glow {
		return f
	}
	if d, err := time.Parse(time.DateOnly, h.request.Series.Event.Date); err == nil {
		before := lastDeepDay
		for _, it := range items {
			before += it.Ideal
		}
		f.Ideal = max(d.AddDate(0, 0, -before).Format(time.DateOnly), f.Earliest)
	}
	return f
}

// lastDeepDay is how many days before an event the last deep visit lies (handbook, chapter 6).
const lastDeepDay = 3

// patchFirst asks whether a product of the series needs a patch test, and places it before the
// first visit that uses one.
func (s *Service) patchFirst(ctx context.Context, tx askStore, st *studio.Studio, h *heard) error {
	seen := []string{}
	for k := range h.items {
		o := h.sold(h.items[k].Protocol, h.items[k].Also)
		if slices.Contains(seen, o.Body.Name) {
			continue
		}
		seen = append(seen, o.Body.Name)
		v := &studio.VisitLine{Visit: studio.Visit{
			Client: h.question.Client, Protocol: o.ID, Version: o.Version, Also: o.also, Kind: studio.ForTreatment, State: studio.Booked,
			StartsAt: s.Now().AddDate(0, 0, 2),
		}}
		products, err := s.Checks.NeedsPatch(ctx, tx, st, v)
		if err != nil {
			return err
		}
		if h.request.Series.Event != nil {
			if h.untried[o.Body.Name], err = s.Checks.Untried(ctx, tx, st, v); err != nil {
				return err
			}
		}
		if len(products) > 0 && h.request.Series.Patch == nil {
			h.request.Series.Patch = &series.Patch{Before: k + 1, Skills: h.patchSkills()}
		}
		for _, p := range products {
			if !slices.Contains(h.patch, p) {
				h.patch = append(h.patch, p)
			}
		}
	}
	return nil
}

func (a *asking) patchSkills() []string {
	for i := range a.request.Practitioners {
		if slices.Contains(a.request.Practitioners[i].Skills, patchSkill) {
			return []string{patchSkill}
		}
	}
	return nil
}

// FindSeries answers a question with the best series, the alternatives, or what would have to
// give way.
func (s *Service) FindSeries(ctx context.Context, a *studio.Actor, q SeriesQuestion) (*SeriesAnswer, error) {
	if err := a.May("find-series"); err != nil {
		return nil, err
	}
	var h *heard
	err := studio.In(ctx, s.Kernel, a, func(tx askStore, st *studio.Studio) (err error) {
		h, err = s.hear(ctx, tx, st, q, nil)
		return err
	})
	if err != nil {
		return nil, err
	}
	return h.answer(s.Now())
}

// SeriesSpot is a visit of a series put somewhere, with the others as they stand.
type SeriesSpot struct {
	SeriesQuestion
	At MovedVisit `json:"at"`
}

// WhyNot is the limit that forbids a visit at a spot; Limit is empty where none does.
type WhyNot struct {
	Limit series.Limit `json:"limit,omitempty"`
	// Name is who or what the limit concerns: a practitioner, room or tool; or a day.
	Name string `json:"name,omitempty"`
}

// WhyNotThere says which limit forbids a visit of a series at a spot.
func (s *Service) WhyNotThere(ctx context.Context, a *studio.Actor, q SeriesSpot) (*WhyNot, error) {
	if err := a.May("why-not"); err != nil {
		return nil, err
	}
	out := &WhyNot{}
	err := studio.In(ctx, s.Kernel, a, func(tx askStore, st *studio.Studio) error {
		h, err := s.hear(ctx, tx, st, q.SeriesQuestion, nil)
		if err != nil {
			return err
		}
		why, err := series.Why(&h.request, q.At.N, q.At.Spot, h.beside())
		if err != nil {
			return studio.FaultAt("/at", words.ThereIsNoSuchVisit())
		}
		if why != nil {
			out.Limit, out.Name = why.Limit, h.name(why.Key)
		}
		return nil
	})
	return out, err
}

// EarlierDay is why a visit is not on a day before its own; Limit is empty where it could be, at a
// higher cost of the whole.
type EarlierDay struct {
	Day string `json:"day"`
	WhyNot
}

// mostEarlier is how many days before a visit are looked at.
const mostEarlier = 7

// WhyNotEarlier says, day by day back from where a visit stands, which limit forbids it there at
// the same hour and with the same hands.
func (s *Service) WhyNotEarlier(ctx context.Context, a *studio.Actor, q SeriesSpot) ([]EarlierDay, error) {
	if err := a.May("why-not-earlier"); err != nil {
		return nil, err
	}
	out := []EarlierDay{}
	err := studio.In(ctx, s.Kernel, a, func(tx askStore, st *studio.Studio) error {
		h, err := s.hear(ctx, tx, st, q.SeriesQuestion, nil)
		if err != nil {
			return err
		}
		at, err := h.at(q.At.Start)
		if err != nil {
			return studio.FaultAt("/at/start", words.EnterDateAsYearMonthDayFor())
		}
		for n := 1; n <= mostEarlier; n++ {
			day := at.AddDate(0, 0, -n)
			if day.Format(time.DateOnly) < s.Today(st) {
				break
			}
			spot := series.Spot{Start: day.Format("2006-01-02 15:04"), Practitioner: q.At.Practitioner}
			before := map[int]series.Spot{}
			if was, stands := h.beside()[q.At.N-1]; stands {
				before[q.At.N-1] = was
			}
			why, err := series.Why(&h.request, q.At.N, spot, before)
			if err != nil {
				return studio.FaultAt("/at", words.ThereIsNoSuchVisit())
			}
			e := EarlierDay{Day: day.Format(time.DateOnly)}
			if why != nil {
				e.WhyNot = WhyNot{why.Limit, h.name(why.Key)}
			}
			out = append(out, e)
		}
		return nil
	})
	return out, err
}

// beside are the visits as they stand, by number.
func (h *heard) beside() map[int]series.Spot {
	out := map[int]series.Spot{}
	for i, c := range h.question.Current {
		out[i+1] = series.Spot{Start: c.Start, Practitioner: c.Practitioner}
	}
	return out
}

// SeriesTimes lists the times at which a visit of a series could be, two weeks round where it
// stands; the gaps to the others are left to the finder, which lays them again.
func (s *Service) SeriesTimes(ctx context.Context, a *studio.Actor, q SeriesSpot) ([]OfferedVisit, error) {
	if err := a.May("series-times"); err != nil {
		return nil, err
	}
	var out []OfferedVisit
	err := studio.In(ctx, s.Kernel, a, func(tx askStore, st *studio.Studio) error {
		h, err := s.hear(ctx, tx, st, q.SeriesQuestion, nil)
		if err != nil {
			return err
		}
		at, err := h.at(q.At.Start)
		if err != nil {
			return studio.FaultAt("/at/start", words.EnterDateAsYearMonthDayFor())
		}
		list, err := series.Times(&h.request, q.At.N, at.AddDate(0, 0, -timesRound).Format(time.DateOnly), at.AddDate(0, 0, timesRound).Format(time.DateOnly))
		if err != nil {
			return studio.FaultAt("/at", words.ThereIsNoSuchVisit())
		}
		out, err = h.told(list)
		return err
	})
	return out, err
}

// timesRound is how many days before and after a visit its free times are looked for.
const timesRound = 14
