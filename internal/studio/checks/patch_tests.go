package checks

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"github.com/shopspring/decimal"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/series"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// patchStore keeps patch tests and their appointments.
type patchStore interface {
	snapshotStore
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	studio.StockStore
	PatchTest(ctx context.Context, id uuid.UUID) (*studio.PatchTest, error)
	PatchTests(ctx context.Context, client uuid.UUID) ([]studio.PatchTest, error) // newest first
	AddPatchTest(ctx context.Context, p *studio.PatchTest, product, account uuid.UUID) error
	AddReading(ctx context.Context, patch uuid.UUID, r patch.Reading, account uuid.UUID) error
	Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
	ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error)
	AddVisit(ctx context.Context, v *studio.Visit) error
	AddVisitChange(ctx context.Context, visit uuid.UUID, state studio.VisitState, account *uuid.UUID, at time.Time) error
	SetVisitState(ctx context.Context, id uuid.UUID, state studio.VisitState) error
}

// A patch-test visit takes ten minutes (handbook, chapter 6) and a short reset;
// it lies between two days and one day before the treatment.
const (
	patchMinutes      = 10 * time.Minute
	patchReset        = 5 * time.Minute
	patchBefore       = 48 * time.Hour
	patchBeforeLeast  = 24 * time.Hour
	patchOffers       = 24
	PatchMonthsUsual  = 6 // how long a negative test holds unless somebody says otherwise (from memory)
	patchPlacesLength = 80
)

// PatchTests lists a client's patch tests, newest first, with where each stands.
func (s *Service) PatchTests(ctx context.Context, within studio.Tx, client uuid.UUID) ([]studio.PatchTest, error) {
	tx := studio.As[patchStore](within)
	list, err := tx.PatchTests(ctx, client)
	for i := range list {
		p := &list[i]
		p.State, p.Until, p.Due = p.PatchTest.State(s.Now()), p.PatchTest.Until().Format(time.DateOnly), []int{}
		for _, h := range []int{24, 48} {
			if p.MayRead(h, s.Now()) {
				p.Due = append(p.Due, h)
			}
		}
	}
	return list, err
}

// NewPatchTest is a patch test that is being applied.
type NewPatchTest struct {
	Visit   *uuid.UUID `json:"visit,omitempty" format:"uuid"`
	Product string     `json:"product" maxLength:"60"`
	Lot     string     `json:"lot" maxLength:"60"`
	Place   string     `json:"place" maxLength:"200"`
	Months  int        `json:"months"`
	Note    string     `json:"note,omitempty" maxLength:"1000"`
}

// ApplyPatchTest records a patch test as applied now: of a product, from a lot
// that is still good, at a place.
func (s *Service) ApplyPatchTest(
	ctx context.Context,
	a *studio.Actor,
	client uuid.UUID,
	n NewPatchTest,
) (*studio.PatchTest, error) {
	if err := a.May("apply-patch-test"); err != nil {
		return nil, err
	}
	n.Place = strings.TrimSpace(n.Place)
	switch {
	case n.Place == "" || len(n.Place) > patchPlacesLength:
		return nil, studio.FaultAt("/place", words.SayWhereWasPutSuchAsInner())
	case n.Months < 1 || n.Months > 36:
		return nil, studio.FaultAt("/months", words.SayForHowManyMonthsNegativeTest())
	}
	p := &studio.PatchTest{
		ID:        studio.NewID(),
		Client:    client,
		Visit:     n.Visit,
		Lot:       n.Lot,
		Place:     n.Place,
		Note:      strings.TrimSpace(n.Note),
		PatchTest: patch.PatchTest{Product: n.Product, Applied: s.Now(), Months: n.Months, Readings: []patch.Reading{}},
	}
	err := studio.In(ctx, s.Kernel, a, func(tx patchStore, st *studio.Studio) error {
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		if err := a.MayClient(ctx, tx, "apply-patch-test", client); err != nil {
			return err
		}
		if n.Visit != nil {
			v, err := tx.Visit(ctx, *n.Visit)
			if err != nil {
				return err
			}
			if v.Client != client {
				return studio.FaultAt("/visit", words.ThatVisitBelongsToAnotherClient())
			}
		}
		products, err := tx.Products(ctx)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(products, func(p studio.Product) bool { return p.Key == n.Product })
		if i < 0 {
			return studio.FaultAt("/product", words.ChooseTheProductThatIsTested())
		}
		if err := tx.AddPatchTest(ctx, p, products[i].ID, a.Account); err != nil {
			return err
		}
		if err := s.takePatch(ctx, tx, st, a, n, &products[i], client); err != nil {
			return err
		}
		if n.Visit != nil {
			if err := s.closePatchVisit(ctx, tx, a, *n.Visit); err != nil {
				return err
			}
		}
		return s.Audit(ctx, tx, a, "apply patch test", "client", client)
	})
	return p, err
}

// takePatch takes what a patch test uses, a drop, from the lot that was named: a recall finds its client by it.
func (s *Service) takePatch(
	ctx context.Context, tx patchStore, st *studio.Studio, a *studio.Actor, n NewPatchTest, p *studio.Product, client uuid.UUID,
) error {
	stock, err := studio.HoldStock(ctx, tx, []uuid.UUID{p.ID}, s.Today(st), &a.Account, s.Now())
	if err != nil {
		return err
	}
	i := slices.IndexFunc(stock.Packs, func(q studio.Pack) bool { return q.Lot == n.Lot && q.Usable(s.Today(st)) })
	if i < 0 {
		return studio.FaultAt("/lot", words.ChooseLotThisProductThatOnShelf())
	}
	q := &stock.Packs[i]
	drop := decimal.NewFromFloat(patchAmount)
	if p.DropsPerML > 0 && p.Unit == "mL" {
		drop = decimal.NewFromInt(1).DivRound(decimal.NewFromFloat(p.DropsPerML), 3)
	}
	m := studio.Movement{
		Pack: q.ID, Kind: shelf.PatchTest, Amount: decimal.Min(drop, q.Left).Neg(), Visit: n.Visit, Client: &client, Sure: true,
	}
	_, err = stock.Move(ctx, m, "")
	return studio.Refused("/lot", err)
}

// patchAmount is about what a patch test takes, in mL or g, where a product has no dropper (common practice).
const patchAmount = 0.05

// closePatchVisit ends a patch-test visit once all its products were applied.
func (s *Service) closePatchVisit(ctx context.Context, tx patchStore, a *studio.Actor, visit uuid.UUID) error {
	v, err := tx.Visit(ctx, visit)
	if err != nil || v.Kind != studio.ForPatchTest || v.State == studio.Done {
		return err
	}
	tests, err := tx.PatchTests(ctx, v.Client)
	if err != nil {
		return err
	}
	for _, key := range v.Products {
		if !slices.ContainsFunc(
			tests,
			func(p studio.PatchTest) bool { return p.Visit != nil && *p.Visit == visit && p.Product == key },
		) {
			return nil
		}
	}
	if err := tx.SetVisitState(ctx, visit, studio.Done); err != nil {
		return err
	}
	return tx.AddVisitChange(ctx, visit, studio.Done, &a.Account, s.Now())
}

// ReadPatchTest records how the skin answered after 24 or 48 hours, once each: the first time on the
// skin, the second time also from the client's picture (handbook, chapter 6, hard limit 13).
func (s *Service) ReadPatchTest(ctx context.Context, a *studio.Actor, id uuid.UUID, r patch.Reading) error {
	if err := a.May("read-patch-test"); err != nil {
		return err
	}
	if !slices.Contains(patch.PatchGrades, r.Grade) {
		return studio.FaultAt("/grade", words.ChooseHowTheSkinReacted())
	}
	if r.FromPicture && r.Hours != 48 {
		return studio.FaultAt("/fromPicture", words.TheFirstReadingIsMadeOnTheSkin())
	}
	return studio.In(ctx, s.Kernel, a, func(tx patchStore, _ *studio.Studio) error {
		p, err := tx.PatchTest(ctx, id)
		if err != nil {
			return err
		}
		if err := a.MayClient(ctx, tx, "read-patch-test", p.Client); err != nil {
			return err
		}
		if !p.MayRead(r.Hours, s.Now()) {
			return studio.FaultAt("/hours", words.TooEarlyForThisReadingOrWas())
		}
		r.At = s.Now()
		if err := tx.AddReading(ctx, id, r, a.Account); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "read patch test", "client", p.Client)
	})
}

// PatchOffer is what a visit needs a patch test of, and when that could be.
type PatchOffer struct {
	Products []studio.Named `json:"products"`
	// Times of ten minutes from two days to one day before the visit.
	Times []studio.FreeTime `json:"times"`
	// Booked is a patch-test visit of all of them that stands already.
	Booked *studio.VisitLine `json:"booked,omitempty"`
}

// PatchOfferFor returns what a visit still to come needs a patch test of, with
// free times for it.
func (s *Service) PatchOfferFor(ctx context.Context, a *studio.Actor, visit uuid.UUID) (*PatchOffer, error) {
	out := &PatchOffer{Products: []studio.Named{}, Times: []studio.FreeTime{}}
	err := studio.In(ctx, s.Kernel, a, func(tx patchStore, st *studio.Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if err := a.MayVisit("patch-offer", &v.Visit); err != nil {
			return err
		}
		if out.Products, err = s.NeedsPatch(ctx, tx, st, v); err != nil || len(out.Products) == 0 {
			return err
		}
		others, err := tx.ClientVisits(ctx, v.Client)
		if err != nil {
			return err
		}
		for i := range others {
			o := &others[i]
			if o.Kind == studio.ForPatchTest &&
				(o.State == studio.Booked || o.State == studio.Confirmed || o.State == studio.Arrived) &&
				o.StartsAt.Before(v.StartsAt) &&
				!slices.ContainsFunc(out.Products, func(n studio.Named) bool { return !slices.Contains(o.Products, n.Key) }) {
				out.Booked = o
				return nil
			}
		}
		from, to := v.StartsAt.Add(-patchBefore), v.StartsAt.Add(-patchBeforeLeast)
		free, err := s.Diary.FreeTimesIn(
			ctx,
			tx,
			st,
			studio.FreeQuery{
				Client: &v.Client,
				Length: patchMinutes,
				Reset:  patchReset,
				From:   from.In(st.Zone()).Format(time.DateOnly),
				Days:   3,
			},
		)
		if err != nil {
			return err
		}
		seen := map[time.Time]bool{}
		for _, f := range free { // one for each time, with the practitioner of the treatment where there is one
			if f.Start.Before(from) || f.Start.After(to) {
				continue
			}
			if seen[f.Start] {
				if f.Practitioner == v.Practitioner {
					i := slices.IndexFunc(out.Times, func(o studio.FreeTime) bool { return o.Start.Equal(f.Start) })
					out.Times[i] = f
				}
				continue
			}
			seen[f.Start] = true
			out.Times = append(out.Times, f)
		}
		out.Times = nearest(out.Times, to, patchOffers)
		return nil
	})
	return out, err
}

// nearest keeps the n times that lie nearest to a moment, in their order.
func nearest(list []studio.FreeTime, to time.Time, n int) []studio.FreeTime {
	if len(list) <= n {
		return list
	}
	return series.Nearest(list, func(f studio.FreeTime) time.Time { return f.Start }, to, n)
}

// NeedsPatch lists the products of a visit's plan that need a patch test before it. The visit
// may be one that is not booked yet.
func (s *Service) NeedsPatch(ctx context.Context, within studio.Tx, st *studio.Studio, v *studio.VisitLine) ([]studio.Named, error) {
	tx := studio.As[patchStore](within)
	var plans planProducts
	products, err := plans.of(ctx, tx, v)
	if err != nil {
		return nil, err
	}
	t, err := s.loadClientSnapshot(ctx, tx, st, v.Client)
	if err != nil {
		return nil, err
	}
	untested := t.needsTest(products, v.StartsAt)
	out := []studio.Named{}
	for _, p := range products {
		if slices.Contains(untested, p.Key) {
			out = append(out, studio.Named{Key: p.Key, Name: p.Name})
		}
	}
	return out, nil
}

// Untried lists the products of a visit's plan that its client never had here, by name.
func (s *Service) Untried(ctx context.Context, within studio.Tx, st *studio.Studio, v *studio.VisitLine) ([]studio.Named, error) {
	tx := studio.As[patchStore](within)
	var plans planProducts
	products, err := plans.of(ctx, tx, v)
	if err != nil {
		return nil, err
	}
	t, err := s.loadClientSnapshot(ctx, tx, st, v.Client)
	if err != nil {
		return nil, err
	}
	out := []studio.Named{}
	for _, p := range products {
		if !t.used[p.Key] {
			out = append(out, studio.Named{Key: p.Key, Name: p.Name})
		}
	}
	return out, nil
}

// BookPatchTest books the ten minutes for everything that a visit needs a patch
// test of. The same id twice books once.
func (s *Service) BookPatchTest(
	ctx context.Context,
	a *studio.Actor,
	visit uuid.UUID,
	n studio.NewVisit,
) (*studio.VisitLine, error) {
	var out *studio.VisitLine
	err := studio.In(ctx, s.Kernel, a, func(tx patchStore, st *studio.Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if err := a.MayVisit("book-patch-test", &v.Visit); err != nil {
			return err
		}
		n.Client = v.Client
		if p, err := tx.Visit(ctx, n.ID); err == nil {
			out = p // sent twice
			return n.Repeats(&p.Visit)
		} else if !errors.Is(err, studio.ErrNotFound) {
			return err
		}
		if n.Start.After(v.StartsAt.Add(-patchBeforeLeast)) || n.Start.Before(s.Now().Add(-5*time.Minute)) {
			return studio.FaultAt("/start", words.PatchTestAppliedAtLeast24Hours())
		}
		needed, err := s.NeedsPatch(ctx, tx, st, v)
		if err != nil {
			return err
		}
		if len(needed) == 0 {
			return &studio.StateError{Code: "no-patch-test", Sentence: words.ThisVisitNeedsNoPatchTestAny()}
		}
		p := &studio.Visit{
			ID:           n.ID,
			Client:       v.Client,
			Practitioner: n.Practitioner,
			Room:         n.Room,
			Kind:         studio.ForPatchTest,
			StartsAt:     n.Start,
			EndsAt:       n.Start.Add(patchMinutes),
			BusyUntil:    n.Start.Add(patchMinutes + patchReset),
			State:        studio.Booked,
			CreatedAt:    s.Now(),
		}
		for _, k := range needed {
			p.Products = append(p.Products, k.Key)
		}
		if err := tx.AddVisit(ctx, p); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, p.ID, studio.Booked, &a.Account, s.Now()); err != nil {
			return err
		}
		booked := studio.Notice{Kind: studio.BookingMessage, Client: p.Client, Visits: []uuid.UUID{p.ID}}
		if err := s.Messages.Tell(ctx, tx, st, booked); err != nil {
			return err
		}
		out, err = tx.Visit(ctx, p.ID)
		return err
	})
	return out, err
}
