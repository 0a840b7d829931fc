package diary

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// soonBegins is how soon a freed time has to begin to be held only as long as at the desk
// (handbook, chapter 6).
const soonBegins = 4 * time.Hour

// waitingStore is what the waiting list is kept in.
type waitingStore interface {
	holdStore
	Waiters(ctx context.Context) ([]studio.Waiter, error)
	LockWaiter(ctx context.Context, id uuid.UUID) (*studio.Waiter, error)
	AddWaiter(ctx context.Context, w *studio.Waiter) error
	OfferWaiter(ctx context.Context, id uuid.UUID, offered *uuid.UUID) error
	EndWaiting(ctx context.Context, id uuid.UUID, at time.Time) error
	Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
}

// NewWaiter asks to put a client on the waiting list. ID is chosen by the caller.
type NewWaiter struct {
	ID       uuid.UUID `json:"id" format:"uuid"`
	Client   uuid.UUID `json:"client" format:"uuid"`
	Protocol uuid.UUID `json:"protocol" format:"uuid"`
	When     string    `json:"when" maxLength:"200"`
	With     string    `json:"with" maxLength:"120"`
	Notice   int       `json:"notice" minimum:"0" maximum:"20160"`
	Reason   string    `json:"reason" maxLength:"200"`
}

// WaitingLine is somebody on the waiting list, with names.
type WaitingLine struct {
	studio.Waiter
	ClientName   string `json:"clientName"`
	Phone        string `json:"phone"`
	ProtocolName string `json:"protocolName"`
	// LateDays is by how many days their series is behind its rhythm.
	LateDays int `json:"lateDays"`
	// OfferedUntil is until when a time is held for them.
	OfferedUntil *time.Time `json:"offeredUntil,omitempty"`
}

// Fit is somebody whom a freed time serves, in the order in which it is offered.
type Fit struct {
	WaitingLine
	Start            time.Time `json:"start"`
	Wall             string    `json:"wall"`
	Practitioner     uuid.UUID `json:"practitioner"`
	PractitionerName string    `json:"practitionerName"`
	Room             uuid.UUID `json:"room"`
}

// Wait puts a client on the waiting list; the same id twice does so once.
func (s *Service) Wait(ctx context.Context, a *studio.Actor, n NewWaiter) error {
	return studio.In(ctx, s.Kernel, a, func(tx waitingStore, _ *studio.Studio) error {
		if err := a.May("add-waiter"); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, n.Client); err != nil {
			return err
		}
		return tx.AddWaiter(ctx, &studio.Waiter{
			ID: n.ID, Client: n.Client, Protocol: n.Protocol, Asked: studio.SeriesAsked{When: n.When, With: n.With}, Notice: n.Notice,
			Reason: n.Reason, Since: s.Now(),
		})
	})
}

// StopWaiting takes a client off the waiting list.
func (s *Service) StopWaiting(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	return studio.In(ctx, s.Kernel, a, func(tx waitingStore, _ *studio.Studio) error {
		if err := a.May("remove-waiter"); err != nil {
			return err
		}
		return tx.EndWaiting(ctx, id, s.Now())
	})
}

// Waiting lists who waits, the longest first.
func (s *Service) Waiting(ctx context.Context, a *studio.Actor) ([]WaitingLine, error) {
	out := []WaitingLine{}
	err := studio.In(ctx, s.Kernel, a, func(tx waitingStore, st *studio.Studio) error {
		if err := a.May("list-waiting"); err != nil {
			return err
		}
		list, err := tx.Waiters(ctx)
		if err != nil {
			return err
		}
		names, err := protocolNames(ctx, tx)
		if err != nil {
			return err
		}
		for i := range list {
			line, err := s.waitingLine(ctx, tx, st, &list[i], names)
			if err != nil {
				return err
			}
			out = append(out, *line)
		}
		return nil
	})
	return out, err
}

func protocolNames(ctx context.Context, tx finderStore) (map[uuid.UUID]string, error) {
	all, err := tx.Protocols(ctx, uuid.Nil)
	names := map[uuid.UUID]string{}
	for i := range all {
		names[all[i].ID] = all[i].Body.Name
	}
	return names, err
}

func (s *Service) waitingLine(
	ctx context.Context, tx waitingStore, st *studio.Studio, w *studio.Waiter, names map[uuid.UUID]string,
) (*WaitingLine, error) {
	c, err := tx.Client(ctx, w.Client)
	if err != nil {
		return nil, err
	}
	out := &WaitingLine{Waiter: *w, ClientName: c.Name, Phone: c.Phone, ProtocolName: names[w.Protocol]}
	if w.Series != nil {
		v, err := s.wholeView(ctx, tx, *w.Series)
		if err != nil {
			return nil, err
		}
		out.LateDays = v.LateBy
	}
	if w.Offered != nil {
		sr, err := tx.Series(ctx, *w.Offered)
		if err != nil {
			return nil, err
		}
		if sr.State == studio.SeriesOffered && sr.HeldUntil != nil && sr.HeldUntil.After(s.Now()) {
			out.OfferedUntil = sr.HeldUntil
		} else {
			out.Offered = nil
		}
	}
	return out, nil
}

// WhoFits lists whom the time of a visit that does not take place serves, in the order in which it
// is offered.
func (s *Service) WhoFits(ctx context.Context, a *studio.Actor, visit uuid.UUID) ([]Fit, error) {
	out := []Fit{}
	err := studio.In(ctx, s.Kernel, a, func(tx waitingStore, st *studio.Studio) error {
		if err := a.May("who-fits"); err != nil {
			return err
		}
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if v.State.TakesTime() || v.BusyUntil.Before(s.Now()) {
			return nil
		}
		lines, waiters, at, err := s.whoWaits(ctx, tx, st, v)
		if err != nil || len(waiters) == 0 {
			return err
		}
		freed := series.Freed{
			Practitioner: v.Practitioner.String(), From: v.BusyFrom.In(st.Zone()).Format(moment), To: v.BusyUntil.In(st.Zone()).Format(moment),
		}
		served, err := series.WhoComesFirst(freed, waiters)
		if err != nil {
			return err
		}
		for _, one := range served {
			start, err := at.at(one.Placed.Start)
			if err != nil {
				return err
			}
			out = append(out, Fit{
				WaitingLine: lines[one.Key], Start: start, Wall: one.Placed.Start, Practitioner: uuid.MustParse(one.Placed.Practitioner),
				PractitionerName: at.name(one.Placed.Practitioner), Room: uuid.MustParse(one.Placed.Room),
			})
		}
		return nil
	})
	return out, err
}

// whoWaits are those who could be offered the time of a visit: with notice enough, and nobody
// whose screening says to wait or not to treat.
func (s *Service) whoWaits(
	ctx context.Context, tx waitingStore, st *studio.Studio, v *studio.VisitLine,
) (map[string]WaitingLine, []series.Waiter, *asking, error) {
	list, err := tx.Waiters(ctx)
	if err != nil {
		return nil, nil, nil, err
	}
	names, err := protocolNames(ctx, tx)
	if err != nil {
		return nil, nil, nil, err
	}
	day := v.StartsAt.In(st.Zone()).Format(time.DateOnly)
	lines, waiters, at := map[string]WaitingLine{}, []series.Waiter{}, (*asking)(nil)
	for i := range list {
		w := &list[i]
		if v.StartsAt.Sub(s.Now()) < time.Duration(w.Notice)*time.Minute || w.Client == v.Client {
			continue
		}
		line, err := s.waitingLine(ctx, tx, st, w, names)
		if err != nil {
			return nil, nil, nil, err
		}
		expected, _, err := s.Checks.Expect(ctx, tx, st, w.Client, day)
		if err != nil {
			return nil, nil, nil, err
		}
		if h := expected.Headline; line.OfferedUntil != nil || h != contraindication.OKToTreat && h != contraindication.OKWithAdjustments {
			continue
		}
		h, err := s.hear(ctx, tx, st, waiterQuestion(w), nil)
		if err != nil {
			return nil, nil, nil, err
		}
		at = h.asking
		lines[w.ID.String()] = *line
		waiters = append(waiters, series.Waiter{
			Key: w.ID.String(), Displaced: w.Displaced, LateDays: line.LateDays, Since: w.Since.In(st.Zone()).Format(moment), Request: &h.request,
		})
	}
	return lines, waiters, at, nil
}

func waiterQuestion(w *studio.Waiter) SeriesQuestion {
	asked := w.Asked
	asked.Often = "once"
	return SeriesQuestion{Client: w.Client, What: []AskedProtocol{{Protocol: w.Protocol}}, SeriesAsked: asked}
}

// OfferTime holds a freed time for somebody on the waiting list: half an hour, ten minutes where
// it begins within four. One is asked at a time, as the hold takes the time.
func (s *Service) OfferTime(ctx context.Context, a *studio.Actor, waiter, id uuid.UUID, at series.Spot) (*SeriesView, error) {
	var out *SeriesView
	err := studio.In(ctx, s.Kernel, a, func(tx waitingStore, st *studio.Studio) error {
		if err := a.May("offer-time"); err != nil {
			return err
		}
		if err := tx.LockDiary(ctx); err != nil {
			return err
		}
		now := s.Now()
		if err := tx.LapseHolds(ctx, now); err != nil {
			return err
		}
		w, err := tx.LockWaiter(ctx, waiter)
		if err != nil {
			return err
		}
		h, err := s.hear(ctx, tx, st, waiterQuestion(w), nil)
		if err != nil {
			return err
		}
		placed, err := h.at1(at)
		if err != nil {
			return err
		}
		start, err := h.at(at.Start)
		if err != nil {
			return studio.FaultAt("/start", words.EnterDateAsYearMonthDayFor())
		}
		until := now.Add(st.HoldByLink())
		if start.Sub(now) < soonBegins {
			until = now.Add(st.Hold())
		}
		sr := &studio.Series{
			ID: id, Client: w.Client, State: studio.SeriesOffered, Asked: h.question.SeriesAsked, HeldUntil: &until, Renewed: true,
			CreatedAt: now, Items: h.items,
		}
		if err := tx.AddSeries(ctx, sr); err != nil {
			return err
		}
		if err := s.addVisits(ctx, tx, a, h, sr, placed, studio.Held); err != nil {
			return err
		}
		if err := tx.OfferWaiter(ctx, w.ID, &id); err != nil {
			return err
		}
		visits, err := tx.SeriesVisits(ctx, id)
		if err != nil {
			return err
		}
		if _, err := s.Messages.Offer(ctx, tx, st, w.Client, visits, until); err != nil {
			return err
		}
		out, err = s.view(ctx, tx, a, id)
		return err
	})
	return out, err
}

// at1 places the one visit of a question at a spot, with its patch test where it needs one.
func (h *heard) at1(at series.Spot) ([]series.Placed, error) {
	why, err := series.Why(&h.request, 1, at, nil)
	if err != nil {
		return nil, studio.FaultAt("/start", words.ThereIsNoSuchVisit())
	}
	if why != nil {
		return nil, &SeriesTakenError{Visit: 1, Limit: why.Limit, Name: h.name(why.Key)}
	}
	fixed := h.request
	fixed.Series.Items = []series.Item{h.request.Series.Items[0]}
	fixed.Series.Items[0].Fixed = &series.Fixed{Start: at.Start, Practitioner: at.Practitioner}
	found, err := series.Find(&fixed)
	if err != nil || found.Status != series.Optimal {
		return nil, &SeriesTakenError{Visit: 1, Limit: series.NoPatchTest}
	}
	return h.check(found.Visits)
}
