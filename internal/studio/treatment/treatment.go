package treatment

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/guide"
	"softpalm/internal/studio"
	"softpalm/words"
)

// RoomView is everything the room needs for a visit.
type RoomView struct {
	Visit     studio.VisitLine
	Treatment studio.Treatment
	// Changes are what today's plan does otherwise than the published one, each amount once.
	Changes []adjusting.Adjustment
	// Heard is what the room's log comes to.
	Heard *RoomHeard
	// LastGrades are those of the client's treatment before, by measure and side.
	LastGrades map[string]float64
	// HandsOff is when hands are to be off the client.
	HandsOff time.Time
	// Emergency is what to do in an emergency, Address where the studio is.
	Emergency string
	Address   string
}

// AcceptedAdjustments is what the practitioner said yes to before a treatment: all the
// changes that only make it gentler in one go, and others by id. What the protocol
// itself says for the client's skin needs no yes.
type AcceptedAdjustments struct {
	Gentler     bool     `json:"gentler"`
	Adjustments []string `json:"changes" maxItems:"400"`
}

func (a *AcceptedAdjustments) all(changes []adjusting.Adjustment) bool {
	return !slices.ContainsFunc(changes, func(c adjusting.Adjustment) bool {
		return !c.Skin && !(c.Gentler && a.Gentler) && !slices.Contains(a.Adjustments, c.ID)
	})
}

// StartTreatment begins the treatment of a visit with its adjusted plan. It
// needs a pre-treatment check of today that lets the client be treated, a yes to every
// change, and the consents the plan needs. What is overridden stays in the record
// with its reason. Starting twice changes nothing.
func (s *Service) StartTreatment(
	ctx context.Context,
	a *studio.Actor,
	visit uuid.UUID,
	want studio.PlanOptions,
	accepted AcceptedAdjustments,
) error {
	if err := a.May("start-treatment"); err != nil {
		return err
	}
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		v, err := tx.LockVisit(ctx, visit)
		if err != nil {
			return err
		}
		if err := a.MayVisit("start-treatment", &v.Visit); err != nil {
			return err
		}
		if len(want.Overrides) > 0 {
			if err := a.May("override-rule"); err != nil {
				return err
			}
		}
		if _, err := tx.Treatment(ctx, visit); err == nil || !errors.Is(err, studio.ErrNotFound) {
			return err
		}
		if !v.State.TakesTime() || v.State.Given() {
			return &studio.StateError{Code: "visit-state", Sentence: words.ThisAppointmentStateSoCantTreated(v.State.Word())}
		}
		if err := s.onItsDay(st, a, &v.Visit, &want); err != nil {
			return err
		}
		t, err := s.Checks.Prepare(ctx, tx, st, v, &want)
		if err != nil {
			return err
		}
		if err := mayStart(t, &want, &accepted); err != nil {
			return err
		}
		if err := s.Diary.Divide(ctx, tx, a, &v.Visit); err != nil {
			return err
		}
		treatment := &studio.Treatment{
			Visit:        visit,
			PreCheck:     &t.PreCheck.ID,
			PreparedPlan: t.Prepared(&want),
			Progress: studio.Progress{
				Since:   s.Now(),
				Skipped: []string{},
			},
			Record:    studio.Record{Uses: []studio.RecordUse{}},
			StartedAt: s.Now(),
		}
		treatment.Progress.Total, treatment.Progress.HandsOff = treatment.Evaluation.Seconds, handsOff(treatment, &v.Visit)
		if err := tx.AddTreatment(ctx, treatment); err != nil {
			return err
		}
		if err := tx.SetVisitState(ctx, visit, studio.InRoom); err != nil {
			return err
		}
		if err := s.Shelf.UseTools(ctx, tx, st, a, visit, t.Demands.Tools); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, visit, studio.InRoom, &a.Account, s.Now()); err != nil {
			return err
		}
		return s.auditStart(ctx, tx, a, &v.Visit, &want)
	})
	if errors.Is(err, studio.ErrExists) {
		return nil // begun by somebody else in the same moment
	}
	return err
}

// auditStart writes down who began the treatment, and each rule that was overruled for it.
func (s *Service) auditStart(ctx context.Context, tx Store, a *studio.Actor, v *studio.Visit, want *studio.PlanOptions) error {
	overruled := len(want.Overrides)
	if want.OtherDay != "" {
		overruled++
	}
	for range overruled {
		if err := s.Audit(ctx, tx, a, "overrule", "visit", v.ID); err != nil {
			return err
		}
	}
	return s.Audit(ctx, tx, a, "treat", "client", v.Client)
}

// mayStart refuses to begin with a plan that today's check, its overrides, changes not
// accepted or missing consents stand against.
func mayStart(t *studio.Plan, want *studio.PlanOptions, accepted *AcceptedAdjustments) error {
	if want.Practitioner.Unwell {
		return &studio.StateError{Code: "not-your-hands", Sentence: words.DoNotTreatWhileYouHaveThis()}
	}
	if !t.PreCheck.Result.Headline.Treatable() {
		return &studio.StateError{Code: "not-today", Sentence: words.TodaysCheckSaysDoNotTreatThis()}
	}
	if t.Refused {
		return &studio.StateError{Code: "nothing-left", Sentence: words.TooMuchThisProtocolHasLeftOut()}
	}
	if err := studio.CheckOverrides(t.Outcomes, want.Overrides); err != nil {
		return err
	}
	if !accepted.all(t.Adjustments) {
		return &studio.StateError{Code: "not-accepted", Sentence: words.SomeAdjustmentsNotAcceptedYetTheyMay()}
	}
	if len(t.MissingConsents) > 0 {
		return &studio.StateError{Code: "no-consent", Sentence: words.ConsentMissingAskClientReadSignFirst()}
	}
	return nil
}

// onItsDay refuses to treat on another day than the appointment's, except for an owner who
// gives a reason. A reason that is not needed is not kept.
func (s *Service) onItsDay(st *studio.Studio, a *studio.Actor, v *studio.Visit, want *studio.PlanOptions) error {
	want.OtherDay = strings.TrimSpace(want.OtherDay)
	day := v.StartsAt.In(st.Zone()).Format(time.DateOnly)
	if day == s.Today(st) {
		want.OtherDay = ""
		return nil
	}
	if want.OtherDay == "" {
		return &studio.StateError{Code: "other-day", Sentence: words.ThisAppointmentIsOnAnotherDay(day)}
	}
	if err := a.May("treat-other-day"); err != nil {
		return err
	}
	return studio.CheckReason("/otherDay", want.OtherDay)
}

// begun returns the treatment of a visit, or says that there is none yet.
func begun(ctx context.Context, tx Store, visit uuid.UUID) (*studio.Treatment, error) {
	t, err := tx.Treatment(ctx, visit)
	if errors.Is(err, studio.ErrNotFound) {
		return nil, &studio.StateError{Code: "not-started", Sentence: words.ThisTreatmentHasNotBeenStartedYet()}
	}
	return t, err
}

// visitFor returns a visit, if the actor may carry out an operation on it.
func visitFor(ctx context.Context, tx Store, a *studio.Actor, operation string, id uuid.UUID) (*studio.VisitLine, error) {
	v, err := tx.Visit(ctx, id)
	if err != nil {
		return nil, err
	}
	return v, a.MayVisit(operation, &v.Visit)
}

// Room returns what the room needs.
func (s *Service) Room(ctx context.Context, a *studio.Actor, visit uuid.UUID) (*RoomView, error) {
	if err := a.May("get-room"); err != nil {
		return nil, err
	}
	var out RoomView
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		var v *studio.VisitLine
		var t *studio.Treatment
		out = RoomView{Emergency: st.EmergencyText(), Address: st.Address}
		if err := tx.Gather(
			studio.Changed(ctx, tx),
			func() (err error) {
				v, err = visitFor(ctx, tx, a, "get-room", visit)
				return err
			},
			func() (err error) {
				t, err = begun(ctx, tx, visit)
				return err
			},
			func() (err error) {
				out.Heard, err = s.heard(ctx, tx, visit)
				return err
			},
		); err != nil {
			return err
		}
		if err := tx.Gather(
			func() error { return prepareLate(ctx, tx, t, v) },
			func() (err error) {
				out.LastGrades, err = s.lastGrades(ctx, tx, v)
				return err
			},
		); err != nil {
			return err
		}
		out.Visit, out.Treatment = *v, *t
		out.HandsOff = handsOff(t, &v.Visit)
		out.Changes = adjusting.Net(t.Adjustments)
		return s.Audit(ctx, tx, a, "look", "client", v.Client)
	})
	return &out, err
}

// RecordView is a record with what the plan took and where it comes from.
type RecordView struct {
	Visit     studio.VisitLine
	Treatment studio.Treatment
	Record    studio.Record
	// Skipped names the steps that were left out in the room.
	Skipped []string
	// Choices are, product by product, what a record still open may say.
	Choices   []UseChoices
	Additions []studio.RecordAddition
	// Reactions and Incidents of this visit.
	Reactions []studio.Reaction
	Incidents []studio.Incident
	// Pieces are the tools that were used, with the number of the piece.
	Pieces []UsedPiece
	// Measurements and Photos of this visit, the pictures left out.
	Measurements []studio.Measurement
	Photos       []studio.Photo
	// Account is how the treatment went by the room's log; nil where nothing was logged.
	Account *guide.Account
	// Signature of a locked record; nil while it is open, and for records locked before.
	Signature *Signature
	// Correctable are the fields of a locked record that an addition may correct.
	Correctable []RecordField
	// Next are proposals for the next visit.
	Next     []Proposal
	Cost     decimal.Decimal
	Currency string
}

// Record returns the record of a visit's treatment: as written, or proposed
// from the plan with lots first to expire first.
func (s *Service) Record(ctx context.Context, a *studio.Actor, visit uuid.UUID) (*RecordView, error) {
	if err := a.May("get-record"); err != nil {
		return nil, err
	}
	var out RecordView
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		v, t, err := out.read(ctx, tx, a, visit)
		if err != nil {
			return err
		}
		out.Record, out.Skipped, out.Currency = t.Record, t.SkippedSteps(), st.Currency
		if out.Next, err = s.proposals(ctx, tx, st, t, v, out.Account); err != nil {
			return err
		}
		if t.FinishedAt != nil {
			if t.Cost != nil {
				out.Cost = *t.Cost
			}
			if out.Signature, err = signatureOf(ctx, tx, t); err != nil {
				return err
			}
			out.Correctable = fieldsOf(&t.Record)
			return s.Audit(ctx, tx, a, "look", "record", visit)
		}
		if err := prepareLate(ctx, tx, t, v); err != nil {
			return err
		}
		return s.propose(ctx, tx, st, t, v, &out)
	})
	return &out, err
}

// read reads a treatment, and what belongs to its record.
func (r *RecordView) read(ctx context.Context, tx Store, a *studio.Actor, visit uuid.UUID) (v *studio.VisitLine, t *studio.Treatment, err error) {
	var events []guide.Event
	err = tx.Gather(
		studio.Changed(ctx, tx),
		func() (err error) {
			if v, err = visitFor(ctx, tx, a, "get-record", visit); err != nil {
				return err
			}
			return r.addMeasured(ctx, tx, v)
		},
		func() (err error) {
			t, err = begun(ctx, tx, visit)
			return err
		},
		studio.ReadOf(ctx, &r.Additions, tx.RecordAdditions, visit),
		studio.ReadOf(ctx, &r.Pieces, tx.PiecesUsed, visit),
		studio.ReadOf(ctx, &r.Reactions, studio.As[reactionStore](tx).ReactionsTo, visit),
		studio.ReadOf(ctx, &r.Incidents, studio.As[incidentStore](tx).Incidents, visit),
		studio.ReadOf(ctx, &events, tx.RoomEvents, visit),
	)
	if err != nil {
		return nil, nil, err
	}
	r.Visit, r.Treatment, r.Account = *v, *t, accountOf(t, events)
	return v, t, nil
}

// UsedPiece is a piece of a tool that a treatment used.
type UsedPiece struct {
	Tool   string `json:"tool"`
	Number int    `json:"number"`
}

// addMeasured adds what was measured and photographed at the visit.
func (r *RecordView) addMeasured(ctx context.Context, within studio.Tx, v *studio.VisitLine) error {
	tx := studio.As[photoStore](within)
	here := func(visit *uuid.UUID) bool { return visit != nil && *visit == v.ID }
	return within.Gather(
		func() error {
			measured, err := tx.Measurements(ctx, v.Client)
			r.Measurements = slices.DeleteFunc(measured, func(m studio.Measurement) bool { return !here(m.Visit) })
			return err
		},
		func() error {
			photos, err := tx.Photos(ctx, v.Client)
			r.Photos = slices.DeleteFunc(photos, func(p studio.Photo) bool { return !here(p.Visit) })
			return err
		},
	)
}

// prepareLate works out the plan of a treatment that was begun before plans were
// prepared, from the studio as it is now. It is not stored.
func prepareLate(ctx context.Context, tx Store, t *studio.Treatment, v *studio.VisitLine) error {
	if t.Evaluation != nil {
		return nil
	}
	lib, err := studio.ReadLibrary(ctx, tx)
	if err != nil {
		return err
	}
	c, err := tx.Client(ctx, v.Client)
	if err != nil {
		return err
	}
	cx := lib.Context()
	cx.SkinType, cx.SkinStates, cx.LongNails = c.SkinType, c.SkinStates, t.Practitioner.LongNails
	if len(t.Protocol.ValidateStructure(cx, "")) > 0 {
		return &studio.StateError{Code: "protocol-outdated", Sentence: words.PlanThisAppointmentUsesStrokeToolOr()}
	}
	late := studio.Plan{SkinType: c.SkinType, SkinStates: c.SkinStates, PreCheck: &studio.PreCheck{}}
	if t.PreCheck != nil {
		if late.PreCheck, err = tx.PreCheck(ctx, *t.PreCheck); err != nil {
			return err
		}
		late.Outcomes = late.PreCheck.Result.Outcomes
	}
	cx.Excluded = contraindication.Merge(contraindication.WithoutOverridden(late.Outcomes, studio.WholeRules(t.Overrides))).
		Excluded()
	late.Protocol, late.Adjustments = &t.Protocol, t.Adjustments
	late.Evaluation = evaluation.EvaluateWithSetUp(&t.Protocol, cx)
	late.Amounts, late.Demands = studio.AmountsOf(late.Evaluation, t.Protocol.Key, lib.Products), studio.DemandsOf(late.Evaluation, cx)
	late.PractitionerNotes = t.Practitioner.PractitionerNotes(late.Evaluation)
	t.PreparedPlan = late.Prepared(&studio.PlanOptions{
		Overrides:    t.Overrides,
		OtherDay:     t.OtherDay,
		Practitioner: t.Practitioner,
	})
	return nil
}

// SaveRecord keeps what is written so far, at the revision that it was written on. The same
// once more is kept as it is; something else is a *studio.ChangedError.
func (s *Service) SaveRecord(ctx context.Context, a *studio.Actor, visit uuid.UUID, r studio.Record) error {
	if err := a.May("save-record"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		t, err := prepared(ctx, tx, a, "save-record", visit)
		if err != nil {
			return err
		}
		if _, err := settle(ctx, tx, &r, t); err != nil {
			return err
		}
		if r.Revision == t.Record.Revision {
			r.Revision++
			return tx.SaveRecord(ctx, visit, r)
		}
		return changedMeanwhile(t, &r)
	})
}

// changedMeanwhile is the answer to a record that was written on another revision than the
// one that is there: none where both say the same, as when an answer was lost on its way.
func changedMeanwhile(t *studio.Treatment, r *studio.Record) error {
	if t.FinishedAt != nil {
		return studio.ErrLocked
	}
	if r.Revision == t.Record.Revision || t.Record.Same(r) {
		return nil
	}
	return &studio.ChangedError{Other: &t.Record}
}

// prepared returns the treatment of a visit with its plan, for an operation, and holds both
// until the transaction ends.
func prepared(ctx context.Context, tx Store, a *studio.Actor, operation string, visit uuid.UUID) (*studio.Treatment, error) {
	v, err := tx.LockVisit(ctx, visit)
	if err != nil {
		return nil, err
	}
	if err := a.MayVisit(operation, &v.Visit); err != nil {
		return nil, err
	}
	t, err := begun(ctx, tx, visit)
	if err != nil {
		return nil, err
	}
	return t, prepareLate(ctx, tx, t, v)
}

// SignAndLock closes the record: products leave the shelf lot by lot, the cost is
// worked out, and nothing in it can be changed afterwards. Finishing twice with
// the same visit answers ErrLocked.
func (s *Service) SignAndLock(ctx context.Context, a *studio.Actor, visit uuid.UUID, r studio.Record) (*RecordView, error) {
	if err := a.May("finish-treatment"); err != nil {
		return nil, err
	}
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		t, err := prepared(ctx, tx, a, "finish-treatment", visit)
		if err != nil {
			return err
		}
		products, err := settle(ctx, tx, &r, t)
		if err != nil {
			return err
		}
		if err := changedMeanwhile(t, &r); err != nil {
			return err
		}
		if err := complete(&r, products); err != nil {
			return err
		}
		r.Revision = t.Record.Revision + 1
		at := s.Now()
		t.Record, t.FinishedAt, t.FinishedBy = r, &at, &a.Account
		t.NeedsSecond = a.Role == studio.Trainee
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if err := s.TakeFromShelf(ctx, tx, t, &v.Visit, s.Today(st), &a.Account, at); err != nil {
			return err
		}
		account, err := s.account(ctx, tx, t)
		if err != nil {
			return err
		}
		if err := sign(ctx, tx, t, v, account); err != nil {
			return err
		}
		if err := s.CloseVisit(ctx, tx, t, &a.Account, at); err != nil {
			return err
		}
		if err := s.learnFromRoom(ctx, tx, t, &v.Visit, at); err != nil {
			return err
		}
		if err := s.lotsKnown(ctx, tx, st, a, visit); err != nil {
			return err
		}
		if err := s.Shelf.ReturnTools(ctx, tx, a, visit); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "close", "record", visit)
	})
	if err != nil {
		return nil, err
	}
	return s.Record(ctx, a, visit)
}

// CloseVisit closes a treatment and the visit it was given at.
func (s *Service) CloseVisit(ctx context.Context, within studio.Tx, t *studio.Treatment, by *uuid.UUID, at time.Time) error {
	tx := studio.As[Store](within)
	if err := tx.FinishTreatment(ctx, t); errors.Is(err, studio.ErrNotFound) {
		return studio.ErrLocked // somebody closed it a moment ago
	} else if err != nil {
		return err
	}
	state := studio.Done
	if t.Record.BrokenOff {
		state = studio.BrokenOff
	}
	if err := tx.SetVisitState(ctx, t.Visit, state); err != nil {
		return err
	}
	if err := tx.EndVisit(ctx, t.Visit, at); err != nil {
		return err
	}
	if err := tx.AddVisitChange(ctx, t.Visit, state, by, at); err != nil {
		return err
	}
	v, err := tx.Visit(ctx, t.Visit)
	if err != nil {
		return err
	}
	return s.Books.EarnShare(ctx, tx, &v.Visit, by, at)
}
