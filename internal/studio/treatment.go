package studio

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/craft/slip"
)

// RoomView is everything the room needs for a visit.
type RoomView struct {
	Visit      VisitLine
	Treatment  Treatment
	Evaluation *evaluation.Evaluation
	Screening  *Screening
	// Avoid are the zones left out today.
	Avoid []contraindication.Place
	// Mind are the things to do and ask.
	Mind []string
}

// Accepted is what the practitioner said yes to before a treatment: all the
// changes that only make it gentler in one go, and others by id. What the protocol
// itself says for the client's skin needs no yes.
type Accepted struct {
	Gentler bool     `json:"gentler"`
	Changes []string `json:"changes" maxItems:"400"`
}

func (a *Accepted) all(changes []adjusting.Change) bool {
	return !slices.ContainsFunc(changes, func(c adjusting.Change) bool {
		return !c.Skin && !(c.Gentler && a.Gentler) && !slices.Contains(a.Changes, c.ID)
	})
}

// StartTreatment begins the treatment of a visit with its tailored plan. It
// needs a door check of today that lets the client be treated, a yes to every
// change, and the consents the plan needs. What is overruled stays in the record
// with its reason. Starting twice changes nothing.
func (s *Service) StartTreatment(ctx context.Context, a *Actor, visit uuid.UUID, want Wanted, accepted Accepted) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if _, err := tx.Treatment(ctx, visit); err == nil || !errors.Is(err, ErrNotFound) {
			return err
		}
		if !v.State.takesTime() || v.State == Done {
			return &StateError{"visit-state", "A visit that is " + string(v.State) + " cannot be treated."}
		}
		t, err := s.planFor(ctx, tx, st, v, &want)
		if err != nil {
			return err
		}
		if want.Hands.Unwell {
			return &StateError{"not-your-hands", "With a cold sore or an infection of your own you do not treat. Let a colleague take the visit, or move it."}
		}
		sc := t.Screening
		if !sc.Result.Headline.Treatable() {
			return &StateError{"not-today", "The door check does not let this client be treated today."}
		}
		if t.Refused {
			return &StateError{"nothing-left", "With today's cautions nothing sensible is left of this protocol. Choose another one or another day."}
		}
		if err := checkOverrules(t.Outcomes, want.Overrules); err != nil {
			return err
		}
		if !accepted.all(t.Changes) {
			return &StateError{"not-accepted", "A change of the plan has not been accepted yet. Look through the changes again: they may have become others."}
		}
		if len(t.Missing) > 0 {
			return &StateError{"no-consent", "A consent is missing. Let the client read and sign it first."}
		}
		overrules := want.Overrules
		if overrules == nil {
			overrules = []Overrule{}
		}
		treatment := &Treatment{Visit: visit, Screening: &sc.ID, Plan: *t.Protocol, Changes: t.Changes, Overrules: overrules, Hands: want.Hands,
			Progress: Progress{Since: s.Now(), Skipped: []string{}}, Record: Record{Uses: []RecordUse{}}, StartedAt: s.Now()}
		if err := tx.AddTreatment(ctx, treatment); err != nil {
			return err
		}
		if err := tx.SetVisitState(ctx, visit, InRoom); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, visit, InRoom, &a.Account, s.Now()); err != nil {
			return err
		}
		for range overrules {
			if err := s.audit(ctx, tx, a, "overrule", "visit", visit); err != nil {
				return err
			}
		}
		return s.audit(ctx, tx, a, "treat", "client", v.Client)
	})
	if errors.Is(err, ErrExists) {
		return nil // begun by somebody else in the same moment
	}
	return err
}

// begun returns the treatment of a visit, or says that there is none yet.
func begun(ctx context.Context, tx Tx, visit uuid.UUID) (*Treatment, error) {
	t, err := tx.Treatment(ctx, visit)
	if errors.Is(err, ErrNotFound) {
		return nil, &StateError{"not-started", "This treatment has not been started yet."}
	}
	return t, err
}

// Room returns what the room needs.
func (s *Service) Room(ctx context.Context, a *Actor, visit uuid.UUID) (*RoomView, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	var out RoomView
	err := s.in(ctx, a, func(tx Tx, _ *Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		t, err := begun(ctx, tx, visit)
		if err != nil {
			return err
		}
		out = RoomView{Visit: *v, Treatment: *t, Avoid: []contraindication.Place{}, Mind: []string{}}
		lib, err := readLibrary(ctx, tx)
		if err != nil {
			return err
		}
		c, err := tx.Client(ctx, v.Client)
		if err != nil {
			return err
		}
		cx := lib.context()
		cx.SkinType, cx.SkinStates = c.SkinType, c.SkinStates
		if t.Screening != nil {
			list, err := tx.Screenings(ctx, v.Client)
			if err != nil {
				return err
			}
			for i := range list {
				if list[i].ID == *t.Screening {
					out.Screening = &list[i]
				}
			}
		}
		if out.Screening != nil {
			outcomes := contraindication.Overruled(out.Screening.Result.Outcomes, wholeRules(t.Overrules))
			cx.Excluded = contraindication.Merge(outcomes).Excluded()
			for _, o := range outcomes {
				if o.Kind == contraindication.LeaveOut {
					out.Avoid = append(out.Avoid, o.Places...)
				}
				if o.Outcome.Does != "" {
					out.Mind = append(out.Mind, o.Outcome.Does)
				}
			}
		}
		if ps := t.Plan.Validate(cx, ""); len(ps) > 0 {
			return &StateError{"protocol-outdated", "The plan of this visit uses a stroke, tool or product that is no longer there."}
		}
		cx.LongNails = t.Hands.LongNails
		out.Evaluation = evaluation.EvaluateWhole(&t.Plan, cx)
		out.Mind = append(out.Mind, t.Hands.Minds(out.Evaluation)...)
		return s.audit(ctx, tx, a, "look", "client", v.Client)
	})
	return &out, err
}

// SaveProgress keeps where the room is in the plan.
func (s *Service) SaveProgress(ctx context.Context, a *Actor, visit uuid.UUID, p Progress) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	if p.Skipped == nil {
		p.Skipped = []string{}
	}
	return s.in(ctx, a, func(tx Tx, _ *Studio) error { return tx.SaveProgress(ctx, visit, p) })
}

// RecordView is a record with what the plan took and where it comes from.
type RecordView struct {
	Visit     VisitLine
	Treatment Treatment
	Record    Record
	Cost      decimal.Decimal
	Currency  string
}

// Record returns the record of a visit's treatment: as written, or proposed
// from the plan with lots first to expire first.
func (s *Service) Record(ctx context.Context, a *Actor, visit uuid.UUID) (*RecordView, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	var out RecordView
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		t, err := begun(ctx, tx, visit)
		if err != nil {
			return err
		}
		out = RecordView{Visit: *v, Treatment: *t, Record: t.Record, Currency: st.Currency}
		if t.FinishedAt != nil {
			if t.Cost != nil {
				out.Cost = *t.Cost
			}
			return s.audit(ctx, tx, a, "look", "record", visit)
		}
		lib, err := readLibrary(ctx, tx)
		if err != nil {
			return err
		}
		lots, err := tx.Lots(ctx)
		if err != nil {
			return err
		}
		written := map[string]decimal.Decimal{}
		for _, u := range t.Record.Uses {
			written[u.Product] = u.Real
		}
		out.Record.Uses = []RecordUse{}
		for _, pl := range evaluation.Evaluate(&t.Plan, lib.context()).Products {
			for i := range lib.Products {
				if p := &lib.Products[i]; p.Key == pl.Product {
					u := RecordUse{Product: p.Key, Name: p.Name, Unit: p.Unit, Planned: inUnit(p, pl.ML)}
					u.Real = u.Planned
					if w, ok := written[p.Key]; ok {
						u.Real = w
					}
					taken, _ := shelf.Take(lotsOf(lots, p.ID), u.Real, s.today(st)) // what is short is told on finishing
					u.Lots = recordLots(taken)
					out.Cost = out.Cost.Add(shelf.Cost(taken))
					out.Record.Uses = append(out.Record.Uses, u)
				}
			}
		}
		return nil
	})
	return &out, err
}

func inUnit(p *Product, mL float64) decimal.Decimal {
	return decimal.NewFromFloat(mL * p.PerML(slip.Measure(p.Unit))).Round(2)
}

func lotsOf(lots []Lot, product uuid.UUID) []*shelf.Lot {
	var out []*shelf.Lot
	for i := range lots {
		if lots[i].Product == product {
			out = append(out, &lots[i].Lot)
		}
	}
	return out
}

func recordLots(taken []shelf.Taken) []RecordLot {
	out := []RecordLot{}
	for _, t := range taken {
		out = append(out, RecordLot{Number: t.Lot.Number, Amount: t.Amount, Cost: t.Amount.Mul(t.Lot.UnitCost).Round(2), Good: t.Lot.GoodUntil()})
	}
	return out
}

// SaveRecord keeps what is written so far.
func (s *Service) SaveRecord(ctx context.Context, a *Actor, visit uuid.UUID, r Record) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	if err := checkRecord(&r); err != nil {
		return err
	}
	return s.in(ctx, a, func(tx Tx, _ *Studio) error { return tx.SaveRecord(ctx, visit, r) })
}

func checkRecord(r *Record) error {
	if len(r.Note) > 8000 {
		return faultAt("/note", "The note is longer than 8000 characters. Shorten it.")
	}
	for i, u := range r.Uses {
		if u.Real.IsNegative() || u.Real.GreaterThan(decimal.NewFromInt(1000)) {
			return faultAt(fmt.Sprintf("/uses/%d/real", i), "What was used lies between 0 and 1000.")
		}
	}
	return nil
}

// Finish closes the record: products leave the shelf lot by lot, the cost is
// worked out, and nothing in it can be changed afterwards. Finishing twice with
// the same visit answers ErrLocked.
func (s *Service) Finish(ctx context.Context, a *Actor, visit uuid.UUID, r Record) (*RecordView, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	if err := checkRecord(&r); err != nil {
		return nil, err
	}
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		t, err := begun(ctx, tx, visit)
		if err != nil {
			return err
		}
		if t.FinishedAt != nil {
			return ErrLocked
		}
		at := s.Now()
		t.Record, t.FinishedAt, t.FinishedBy = r, &at, &a.Account
		if err := s.takeFromShelf(ctx, tx, t, s.today(st), &a.Account, at); err != nil {
			return err
		}
		if err := s.closeVisit(ctx, tx, t, &a.Account, at); err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "close", "record", v.ID)
	})
	if err != nil {
		return nil, err
	}
	return s.Record(ctx, a, visit)
}

func (s *Service) closeVisit(ctx context.Context, tx Tx, t *Treatment, by *uuid.UUID, at time.Time) error {
	if err := tx.FinishTreatment(ctx, t); errors.Is(err, ErrNotFound) {
		return ErrLocked // somebody closed it a moment ago
	} else if err != nil {
		return err
	}
	if err := tx.SetVisitState(ctx, t.Visit, Done); err != nil {
		return err
	}
	return tx.AddVisitChange(ctx, t.Visit, Done, by, at)
}

// takeFromShelf takes a record's products off the shelf, first to expire first
// out, and fills in lots and cost.
func (s *Service) takeFromShelf(ctx context.Context, tx Tx, t *Treatment, today string, by *uuid.UUID, at time.Time) error {
	products, err := tx.Products(ctx)
	if err != nil {
		return err
	}
	byKey := map[string]*Product{}
	for i := range products {
		byKey[products[i].Key] = &products[i]
	}
	var ids []uuid.UUID
	for i, u := range t.Record.Uses {
		p := byKey[u.Product]
		if p == nil {
			return faultAt(fmt.Sprintf("/uses/%d/product", i), "There is no product %q on the shelf.", u.Product)
		}
		ids = append(ids, p.ID)
	}
	if err := tx.LockLots(ctx, ids); err != nil {
		return err
	}
	lots, err := tx.Lots(ctx)
	if err != nil {
		return err
	}
	total := decimal.Zero
	for i := range t.Record.Uses {
		u := &t.Record.Uses[i]
		p := byKey[u.Product]
		u.Name, u.Unit, u.Lots = p.Name, p.Unit, []RecordLot{}
		if !u.Real.IsPositive() {
			continue
		}
		taken, err := shelf.Take(lotsOf(lots, p.ID), u.Real, today)
		var short *shelf.ShortError
		if errors.As(err, &short) {
			return faultAt(fmt.Sprintf("/uses/%d/real", i), "The good lots of %s hold %s %s, not %s. Receive a lot on the shelf first, or correct the amount.", p.Name, short.Have, p.Unit, short.Asked)
		}
		for k, tk := range taken {
			m := &Movement{ID: newID(), Lot: uuid.MustParse(tk.Lot.ID), Kind: shelf.Treatment, Amount: tk.Amount.Neg(), Visit: &t.Visit, Account: by, At: at}
			if k == 0 {
				m.Planned = &u.Planned
			}
			if err := tx.AddMovement(ctx, m); err != nil {
				return err
			}
		}
		u.Lots = recordLots(taken)
		total = total.Add(shelf.Cost(taken))
	}
	t.Cost = &total
	return nil
}
