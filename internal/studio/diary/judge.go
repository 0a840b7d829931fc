package diary

import (
	"context"
	"slices"
	"time"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// judgeBooking refuses a single visit at a time that a limit of the finder forbids. It takes the
// diary until the transaction ends, so that what is free stays free, tools included. A time that
// was taken while it waited is refused at once: everybody else waits behind this visit.
func (s *Service) judgeBooking(ctx context.Context, tx Store, st *studio.Studio, v *studio.Visit) error {
	if err := tx.LockDiary(ctx); err != nil {
		return err
	}
	if err := tx.LapseHolds(ctx, s.Now()); err != nil {
		return err
	}
	if c := series.ClosedOn(st.Closures, v.StartsAt.In(st.Zone()).Format(time.DateOnly)); c != nil {
		return studio.FaultAt("/start", words.StudioIsClosedUntilReason(c.To, c.Reason))
	}
	if what, err := tx.Overlap(ctx, v); err != nil {
		return err
	} else if what != "" {
		return &studio.TakenError{What: what}
	}
	a, err := s.gather(ctx, studio.As[finderStore](tx), st, &v.Client, ofVisit(v.ID))
	if err != nil {
		return err
	}
	q := &a.request
	if now := s.Now().Add(-lateEntry); v.StartsAt.After(now) {
		q.Now = min(q.Now, v.StartsAt.In(a.zone).Format(moment)) // a client at the door is booked a minute late
	}
	i := slices.IndexFunc(q.Rooms, func(r series.RequestRoom) bool { return r.Key == v.Room.String() })
	if i < 0 {
		return studio.ErrNotFound
	}
	q.Rooms = q.Rooms[i : i+1]
	item := series.Item{
		Prepare: minutes(v.StartsAt.Sub(v.BusyFrom)), Sold: minutes(v.EndsAt.Sub(v.StartsAt)), Reset: minutes(v.BusyUntil.Sub(v.EndsAt)),
	}
	if o := a.sold(v.Protocol, after(v)); v.Kind == studio.ForTreatment && o != nil {
		v.Tools = o.tools
		item.Tools, item.Skills, item.Equipment = o.tools, o.Body.Skills, o.Body.Equipment
	}
	q.Series.Items = []series.Item{item}
	expected, _, err := s.Checks.Expect(ctx, tx, st, v.Client, v.StartsAt.In(a.zone).Format(time.DateOnly))
	if err != nil {
		return err
	}
	if first := string(expected.NotBefore); v.Kind == studio.ForTreatment && v.StartsAt.In(a.zone).Format(time.DateOnly) < first {
		return &studio.StateError{Code: "before-waiting-ends", Sentence: words.ThisClientHasWaitingPeriodFirstDay(first)}
	}
	if v.Kind == studio.ForTreatment && v.StartsAt.In(a.zone).Format(time.DateOnly) < a.letter {
		return &studio.StateError{Code: "before-letter", Sentence: words.ADoctorsAnswerIsAwaitedUntil(a.letter)}
	}
	if !slices.ContainsFunc(a.people, func(p studio.Person) bool { return p.ID == v.Practitioner }) {
		return studio.FaultAt("/practitioner", words.ChooseAPractitionerOfTheStudio())
	}
	why, err := series.Why(q, 1, series.Spot{Start: v.StartsAt.In(a.zone).Format(moment), Practitioner: v.Practitioner.String()}, nil)
	if err != nil || why == nil {
		return err
	}
	return a.refusal(why, st)
}

// lateEntry is how long after its start a visit can still be booked.
const lateEntry = 5 * time.Minute

// refusal is a limit as what the desk is told of a single visit.
func (a *asking) refusal(why *series.Reason, st *studio.Studio) error {
	name := a.name(why.Key)
	at := func(s words.Sentence) error { return studio.FaultAt("/start", s) }
	switch why.Limit {
	case series.WholeDay:
		if c := series.ClosedOn(st.Closures, why.Key); c != nil {
			return at(words.StudioIsClosedUntilReason(c.To, c.Reason))
		}
	case series.NoShift:
		return at(words.PersonDoesNotWorkAtThisTime(name))
	case series.PersonAway:
		return at(words.PersonIsAwayAtThisTime(name))
	case series.PersonTaken:
		return &studio.TakenError{What: "practitioner"}
	case series.RoomsTaken:
		return &studio.TakenError{What: "room"}
	case series.NoEquipment:
		return studio.FaultAt("/room", words.ThisRoomLacksWhatTheProtocolNeeds())
	case series.NoSkill:
		return studio.FaultAt("/practitioner", words.ThisProtocolAsksForSkill(name))
	case series.ToolsOut:
		return at(words.NoSetOfToolIsReadyThen(name))
	case series.ClientVisit:
		return at(words.ThisClientHasAnotherAppointmentThatDay())
	case series.ClientHours, series.ClientAway, series.Guardian:
		return at(words.ThisClientCannotComeThen())
	case series.Blocked:
		return at(words.AProcedureElsewhereIsPlannedThen())
	case series.Past:
		return at(words.ThisTimeHasPassedChooseLaterOne())
	}
	return at(words.StudioClosedAtThisTimeChooseTime())
}
