package diary

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// TogetherQuestion asks for a time at which some clients come together.
type TogetherQuestion struct {
	Who  []TogetherGuest `json:"who" minItems:"2" maxItems:"6"`
	When string          `json:"when" maxLength:"200"`
	// Relax are limits that give way, as the finder names them.
	Relax []string `json:"relax,omitempty" maxItems:"3"`
}

// TogetherGuest is one of those who come together.
type TogetherGuest struct {
	Client   uuid.UUID   `json:"client" format:"uuid"`
	Protocol uuid.UUID   `json:"protocol" format:"uuid"`
	Also     []uuid.UUID `json:"also,omitempty" maxItems:"3"`
	With     string      `json:"with" maxLength:"120"`
}

// TogetherAnswer is what was understood, and the best time with at most two others that truly differ.
type TogetherAnswer struct {
	When []series.Heard `json:"when"`
	// With is what was understood of each, People the practitioners of whom it speaks.
	With   [][]series.Heard `json:"with"`
	People []string         `json:"people"`
	// Names are those who come, in the order in which they were named.
	Names  []string        `json:"names"`
	Offers []TogetherOffer `json:"offers"`
	// Patch are those of them who need a patch test first.
	Patch []string `json:"patch"`
	// Relax are the smallest sets of limits to relax where there is no time.
	Relax []RelaxedTogether `json:"relax"`
}

// RelaxedTogether is the best time once some limits give way.
type RelaxedTogether struct {
	Limits []RelaxedLimit `json:"limits"`
	TogetherOffer
}

// TogetherOffer is one time, with a visit for each.
type TogetherOffer struct {
	Cost   int            `json:"cost"`
	Terms  series.Terms   `json:"terms"`
	Visits []OfferedVisit `json:"visits"`
}

// asked is what one guest asks for.
func (q *TogetherQuestion) asked(i int) SeriesQuestion {
	g := &q.Who[i]
	return SeriesQuestion{
		Client: g.Client, What: []AskedProtocol{{Protocol: g.Protocol, Also: g.Also}},
		SeriesAsked: studio.SeriesAsked{Often: "once", When: q.When, With: g.With},
	}
}

// hearGuest reads what one guest asks for, with the limits that give way for all.
func (s *Service) hearGuest(ctx context.Context, tx askStore, st *studio.Studio, q *TogetherQuestion, i int) (*heard, error) {
	h, err := s.hear(ctx, tx, st, q.asked(i), nil)
	if err != nil {
		return nil, err
	}
	let, err := series.RelaxThose(&h.request, q.Relax)
	if err != nil {
		return nil, err
	}
	h.request = *let
	return h, nil
}

// hearAll reads what each guest asks for.
func (s *Service) hearAll(ctx context.Context, tx askStore, st *studio.Studio, q *TogetherQuestion) ([]*heard, error) {
	out := make([]*heard, 0, len(q.Who))
	for i := range q.Who {
		for k := range i {
			if q.Who[k].Client == q.Who[i].Client {
				return nil, studio.FaultAt("/who", words.ChooseTwoDifferentClients())
			}
		}
		h, err := s.hearGuest(ctx, tx, st, q, i)
		if err != nil {
			return nil, err
		}
		out = append(out, h)
	}
	return out, nil
}

// FindTogether answers when clients can come together: the same start, other hands, one room for all
// or rooms of their own, each under all their limits.
func (s *Service) FindTogether(ctx context.Context, a *studio.Actor, q TogetherQuestion) (*TogetherAnswer, error) {
	if err := a.May("find-together"); err != nil {
		return nil, err
	}
	var all []*heard
	out := &TogetherAnswer{Names: []string{}, Offers: []TogetherOffer{}, Patch: []string{}, Relax: []RelaxedTogether{}, With: [][]series.Heard{}, People: []string{}}
	err := studio.In(ctx, s.Kernel, a, func(tx askStore, st *studio.Studio) (err error) {
		if all, err = s.hearAll(ctx, tx, st, &q); err != nil {
			return err
		}
		for i := range q.Who {
			c, err := tx.Client(ctx, q.Who[i].Client)
			if err != nil {
				return err
			}
			out.Names = append(out.Names, c.Name)
			if len(all[i].patch) > 0 {
				out.Patch = append(out.Patch, c.Name)
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	out.When = orEmpty(all[0].when.Heard)
	for _, h := range all {
		out.With = append(out.With, orEmpty(h.with))
	}
	for i := range all[0].people {
		out.People = append(out.People, all[0].people[i].Name)
	}
	return out, answerTogether(all, out)
}

// answerTogether adds the best times, or what would have to give way where there is none.
func answerTogether(all []*heard, out *TogetherAnswer) error {
	requests := make([]*series.Request, len(all))
	for i, h := range all {
		requests[i] = &h.request
	}
	found, err := series.FindTogether(requests)
	if err != nil {
		return err
	}
	for i := range found {
		offer, err := tellTogether(all, &found[i])
		if err != nil {
			return err
		}
		out.Offers = append(out.Offers, *offer)
	}
	if len(found) > 0 {
		return nil
	}
	relaxed, err := series.RelaxTogether(requests)
	if err != nil {
		return err
	}
	for i := range relaxed {
		offer, err := tellTogether(all, &relaxed[i].Together)
		if err != nil {
			return err
		}
		one := RelaxedTogether{TogetherOffer: *offer}
		for _, name := range relaxed[i].Relax {
			one.Limits = append(one.Limits, all[0].limit(name))
		}
		out.Relax = append(out.Relax, one)
	}
	return nil
}

// tellTogether tells one time with names.
func tellTogether(all []*heard, f *series.Together) (*TogetherOffer, error) {
	out := &TogetherOffer{Cost: f.Cost, Terms: f.Terms}
	for _, p := range f.Visits {
		guest := p.N - 1
		one := p
		one.N = 1
		told, err := all[guest].told([]series.Placed{one})
		if err != nil {
			return nil, err
		}
		told[0].N = p.N
		out.Visits = append(out.Visits, told[0])
	}
	return out, nil
}

// NewTogether asks to book a time that was offered. ID is chosen by the caller. The numbers of the
// visits are those of the guests.
type NewTogether struct {
	ID uuid.UUID `json:"id" format:"uuid"`
	TogetherQuestion
	Visits []series.Placed `json:"visits" minItems:"2" maxItems:"12"`
}

// togetherStore is what clients who come together are booked in.
type togetherStore interface {
	holdStore
	Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
	TogetherVisits(ctx context.Context, id uuid.UUID) ([]studio.VisitLine, error)
}

// BookTogether books all who come together, or none. Where a time is taken meanwhile it answers a
// *SeriesTakenError.
func (s *Service) BookTogether(ctx context.Context, a *studio.Actor, n NewTogether) ([]studio.VisitLine, error) {
	var out []studio.VisitLine
	err := studio.In(ctx, s.Kernel, a, func(tx togetherStore, st *studio.Studio) error {
		if err := a.May("book-together"); err != nil {
			return err
		}
		if err := tx.LockDiary(ctx); err != nil {
			return err
		}
		if err := tx.LapseHolds(ctx, s.Now()); err != nil {
			return err
		}
		var err error
		if out, err = tx.TogetherVisits(ctx, n.ID); err != nil || len(out) > 0 { // sent twice
			return err
		}
		for i := range n.Who {
			if err := s.bookGuest(ctx, tx, st, a, &n, i); err != nil {
				return err
			}
		}
		out, err = tx.TogetherVisits(ctx, n.ID)
		return err
	})
	return out, err
}

// bookGuest books one of those who come together; those before stand in the diary by then, so that
// hands, rooms and tools are counted for all.
func (s *Service) bookGuest(ctx context.Context, tx togetherStore, st *studio.Studio, a *studio.Actor, n *NewTogether, guest int) error {
	h, err := s.hearGuest(ctx, tx, st, &n.TogetherQuestion, guest)
	if err != nil {
		return err
	}
	var mine []series.Placed
	for _, p := range n.Visits {
		if p.N == guest+1 {
			p.N = 1
			mine = append(mine, p)
		}
	}
	h.onlyRooms(mine)
	h.besides(n.ID)
	placed, err := h.check(mine)
	if err != nil {
		return err
	}
	sr := &studio.Series{
		ID: studio.NewID(), Client: n.Who[guest].Client, State: studio.SeriesRunning, Asked: h.question.SeriesAsked, CreatedAt: s.Now(), Items: h.items,
	}
	if err := tx.AddSeries(ctx, sr); err != nil {
		return err
	}
	for i := range placed {
		v, err := h.visit(sr, &placed[i])
		if err != nil {
			return err
		}
		v.State, v.CreatedAt = studio.Booked, s.Now()
		if v.Kind == studio.ForTreatment {
			v.Together = &n.ID
			if h.places(v.Room) > 1 {
				v.SharesRoom = &n.ID
			}
		}
		if err := tx.AddVisit(ctx, v); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, v.ID, studio.Booked, &a.Account, s.Now()); err != nil {
			return err
		}
	}
	if err := s.tellSeries(ctx, tx, st, sr.ID); err != nil {
		return err
	}
	return s.Audit(ctx, tx, a, "book", "series", sr.ID)
}

// onlyRooms leaves the rooms that were offered: the first that serves one guest may be another's only
// one.
func (h *heard) onlyRooms(visits []series.Placed) {
	h.request.Rooms = slices.DeleteFunc(h.request.Rooms, func(r series.RequestRoom) bool {
		return !slices.ContainsFunc(visits, func(p series.Placed) bool { return p.Room == r.Key })
	})
}

// besides lets a guest into a room with those of a group who are booked already, as far as it holds
// one more.
func (h *heard) besides(group uuid.UUID) {
	in := map[uuid.UUID]int{}
	for i := range h.busy {
		if b := &h.busy[i]; b.Shares != nil && *b.Shares == group {
			in[b.Room]++
		}
	}
	for i := range h.busy {
		b := &h.busy[i]
		if b.Shares == nil || *b.Shares != group || in[b.Room] >= h.places(b.Room) {
			continue
		}
		line := h.booking(b, nil)
		for k := range h.request.Bookings {
			if r := &h.request.Bookings[k]; r.Start == line.Start && r.Practitioner != nil && *r.Practitioner == *line.Practitioner {
				r.Room = nil
			}
		}
	}
}

// places is how many clients who come together a room holds.
func (a *asking) places(room uuid.UUID) int {
	for i := range a.rooms {
		if a.rooms[i].ID == room {
			return a.rooms[i].Places
		}
	}
	return 1
}

// askTheOthers puts those who were to come with somebody who cancelled on the list of calls: their
// appointments stand until they say.
func (s *Service) askTheOthers(ctx context.Context, within studio.Tx, v *studio.Visit, name string) error {
	if v.Together == nil {
		return nil
	}
	type store interface {
		TogetherVisits(ctx context.Context, id uuid.UUID) ([]studio.VisitLine, error)
		AddCall(ctx context.Context, c *studio.Call) error
		studio.Tx
	}
	tx := studio.As[store](within)
	all, err := tx.TogetherVisits(ctx, *v.Together)
	if err != nil {
		return err
	}
	for i := range all {
		o := &all[i]
		if o.ID == v.ID || o.State != studio.Booked && o.State != studio.Confirmed {
			continue
		}
		if err := tx.AddCall(ctx, &studio.Call{
			ID: studio.NewID(), Visit: o.ID, Client: o.Client, WasAt: o.StartsAt, WasWith: o.Practitioner, AskFirst: true,
			Reason: words.WasToComeWith(name).Message, At: s.Now(),
		}); err != nil {
			return err
		}
	}
	return nil
}
