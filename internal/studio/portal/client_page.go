package portal

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// pageLength is how long the address of a client's page is good for; each new message renews it.
const pageLength = 120 * 24 * time.Hour

// ErrPage says that the address of a client's page opens nothing (any more).
var ErrPage = &studio.StateError{Code: "link-ended", Sentence: words.ThisLinkNotValidOrHasExpired()}

// Pages finds whose page a token opens, before the studio is known.
type Pages interface {
	FindClientPage(ctx context.Context, tokenHash []byte) (studioID, client uuid.UUID, until time.Time, err error)
}

// Diary is what this room asks of the diary: what a client may do with appointments of their own.
type Diary interface {
	ConfirmOwn(ctx context.Context, tx studio.Tx, st *studio.Studio, client, visit uuid.UUID) error
	CancelOwn(ctx context.Context, tx studio.Tx, st *studio.Studio, client, visit uuid.UUID) error
	AskToMove(ctx context.Context, tx studio.Tx, st *studio.Studio, client, visit uuid.UUID, text string) error
	TakeOffer(ctx context.Context, st *studio.Studio, client, series uuid.UUID) error
	// Shifts are when a practitioner works between two moments, as rules.
	Shifts(ctx context.Context, tx studio.Tx, st *studio.Studio, practitioner uuid.UUID, from, to time.Time) ([]series.ShiftRule, error)
	LeaveOffer(ctx context.Context, st *studio.Studio, client, series uuid.UUID) error
}

// pageStore is what a client's page is read from.
type pageStore interface {
	studio.Tx
	RenewClientPage(ctx context.Context, tokenHash []byte, client uuid.UUID, until, at time.Time) error
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error)
	ClientSeries(ctx context.Context, client uuid.UUID) ([]studio.Series, error)
	SeriesVisits(ctx context.Context, id uuid.UUID) ([]studio.VisitLine, error)
	SetMessages(ctx context.Context, client uuid.UUID, none bool) error
}

// OwnAppointments is a client's page: nothing of it tells of health or of what is treated.
type OwnAppointments struct {
	StudioName    string           `json:"studioName"`
	StudioAddress string           `json:"studioAddress"`
	TimeZone      string           `json:"timeZone"`
	Name          string           `json:"name"`
	Appointments  []OwnAppointment `json:"appointments"`
	Offers        []OwnOffer       `json:"offers"`
	// NoMessages says that the client wants no messages.
	NoMessages bool `json:"noMessages"`
}

// OwnAppointment is one appointment as its client sees it.
type OwnAppointment struct {
	ID           uuid.UUID         `json:"id"`
	Start        time.Time         `json:"start"`
	End          time.Time         `json:"end"`
	Practitioner string            `json:"practitioner"`
	State        studio.VisitState `json:"state"`
	FreeUntil    time.Time         `json:"freeUntil"`
	// Free says that cancelling is still free.
	Free bool `json:"free"`
}

// OwnOffer is a time that is held for the client: from the waiting list, for example.
type OwnOffer struct {
	Series uuid.UUID        `json:"series"`
	Until  time.Time        `json:"until"`
	Visits []OwnAppointment `json:"visits"`
}

// PageAddress is the address of a client's page and to whom it was sent, empty where it is to be
// passed on by hand.
type PageAddress struct {
	Address string `json:"address"`
	SentTo  string `json:"sentTo,omitempty"`
	Message string `json:"message"`
}

// NewClientPage makes the address of a client's page anew; send hands it to the studio's gateway.
func (s *Service) NewClientPage(ctx context.Context, a *studio.Actor, client uuid.UUID, send bool) (*PageAddress, error) {
	token := studio.NewToken()
	out := &PageAddress{Address: s.Address + "/appointments#" + token}
	err := studio.In(ctx, s.Kernel, a, func(tx pageStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "new-client-page", client); err != nil {
			return err
		}
		c, err := tx.Client(ctx, client)
		if err != nil {
			return err
		}
		until := s.Now().Add(pageLength)
		if err := tx.RenewClientPage(ctx, studio.HashToken(token), client, until, s.Now()); err != nil {
			return err
		}
		out.Message = words.MessageAppointments(c.Name, st.Name, out.Address).Message
		if send {
			if out.SentTo = c.Email; out.SentTo == "" {
				out.SentTo = c.Phone
			}
			if out.SentTo == "" {
				return &studio.StateError{Code: "no-address", Sentence: words.AddAnEMailAddressOrTelephoneFirst()}
			}
			if _, err := s.Send(ctx, tx, studio.Message{
				Kind: studio.AppointmentsMessage, To: out.SentTo, Name: c.Name, Body: out.Message, Until: until, Client: &client,
			}); err != nil {
				return err
			}
		}
		return s.Audit(ctx, tx, a, "send page", "client", client)
	})
	return out, err
}

// onPage runs something with the client whose page a token opens.
func (s *Service) onPage(ctx context.Context, token string, fn func(tx pageStore, st *studio.Studio, client uuid.UUID) error) error {
	in, client, until, err := s.Pages.FindClientPage(ctx, studio.HashToken(token))
	if err != nil || !s.Now().Before(until) {
		return ErrPage
	}
	return studio.Within(ctx, s.Kernel, in, func(tx pageStore) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		return fn(tx, st, client)
	})
}

// OpenAppointments is the page of a client: what is to come, and what is held for them.
func (s *Service) OpenAppointments(ctx context.Context, token string) (*OwnAppointments, error) {
	out := &OwnAppointments{Appointments: []OwnAppointment{}, Offers: []OwnOffer{}}
	err := s.onPage(ctx, token, func(tx pageStore, st *studio.Studio, client uuid.UUID) error {
		c, err := tx.Client(ctx, client)
		if err != nil {
			return ErrPage
		}
		out.StudioName, out.StudioAddress, out.TimeZone, out.Name = st.Name, st.Address, st.Zone().String(), c.Name
		out.NoMessages = c.NoMessages
		visits, err := tx.ClientVisits(ctx, client) // newest first
		if err != nil {
			return err
		}
		for i := len(visits) - 1; i >= 0; i-- {
			v := &visits[i]
			if v.EndsAt.After(s.Now()) && (v.State == studio.Booked || v.State == studio.Confirmed || v.State == studio.Arrived) {
				out.Appointments = append(out.Appointments, s.own(st, v))
			}
		}
		all, err := tx.ClientSeries(ctx, client)
		if err != nil {
			return err
		}
		for i := range all {
			if err := s.offer(ctx, tx, st, &all[i], out); err != nil {
				return err
			}
		}
		return nil
	})
	return out, err
}

// OwnCalendar is a client's own appointments to come, or one of them, as a calendar; alarm adds a
// reminder three hours before.
func (s *Service) OwnCalendar(ctx context.Context, token string, one *uuid.UUID, alarm bool) (*Calendar, error) {
	out := &Calendar{Now: s.Now()}
	err := s.onPage(ctx, token, func(within pageStore, st *studio.Studio, client uuid.UUID) error {
		out.Name, out.Zone = st.Name, st.Zone().String()
		visits, err := studio.As[calendarStore](within).CalendarVisits(ctx, nil, &client, s.Now(), s.Now())
		if err != nil {
			return err
		}
		for i := range visits {
			if v := &visits[i]; one == nil || v.ID == *one {
				e := eventOf(v, st, true)
				e.Alarm = alarm
				out.Events = append(out.Events, e)
			}
		}
		if one != nil && len(out.Events) == 0 {
			return studio.ErrNotFound
		}
		return nil
	})
	return out, err
}

func (s *Service) own(st *studio.Studio, v *studio.VisitLine) OwnAppointment {
	until := st.FreeUntil(&v.Visit)
	return OwnAppointment{v.ID, v.StartsAt, v.EndsAt, v.PractitionerName, v.State, until, s.Now().Before(until)}
}

// offer adds a series that is held for the client.
func (s *Service) offer(ctx context.Context, tx pageStore, st *studio.Studio, sr *studio.Series, out *OwnAppointments) error {
	if sr.State != studio.SeriesOffered || sr.HeldUntil == nil || !sr.HeldUntil.After(s.Now()) {
		return nil
	}
	visits, err := tx.SeriesVisits(ctx, sr.ID)
	if err != nil {
		return err
	}
	o := OwnOffer{Series: sr.ID, Until: *sr.HeldUntil, Visits: []OwnAppointment{}}
	for i := range visits {
		if visits[i].State == studio.Held {
			o.Visits = append(o.Visits, s.own(st, &visits[i]))
		}
	}
	out.Offers = append(out.Offers, o)
	return nil
}

// OwnAct is what a client does with an appointment or an offer of their own.
type OwnAct string

// What a client can do.
const (
	ActConfirm OwnAct = "confirm"
	ActCancel  OwnAct = "cancel"
	ActMove    OwnAct = "ask-to-move"
	ActTake    OwnAct = "take"
	ActLeave   OwnAct = "leave"
	ActStop    OwnAct = "stop-messages"
	ActResume  OwnAct = "send-messages"
)

// Act carries out what a client asks on their page; text goes with a wish to move.
func (s *Service) Act(ctx context.Context, token string, act OwnAct, id uuid.UUID, text string) (*OwnAppointments, error) {
	var st *studio.Studio
	var client uuid.UUID
	err := s.onPage(ctx, token, func(tx pageStore, in *studio.Studio, whose uuid.UUID) error {
		st, client = in, whose
		switch act {
		case ActConfirm:
			return s.Diary.ConfirmOwn(ctx, tx, st, client, id)
		case ActCancel:
			return s.Diary.CancelOwn(ctx, tx, st, client, id)
		case ActMove:
			return s.Diary.AskToMove(ctx, tx, st, client, id, text)
		case ActStop, ActResume:
			return tx.SetMessages(ctx, client, act == ActStop)
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	switch act {
	case ActTake:
		err = s.Diary.TakeOffer(ctx, st, client, id)
	case ActLeave:
		err = s.Diary.LeaveOffer(ctx, st, client, id)
	}
	if err != nil {
		return nil, err
	}
	return s.OpenAppointments(ctx, token)
}
