package checks

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/substance"
	"softpalm/internal/studio"
	"softpalm/words"
)

// A private link opens the consultation until the appointment that it is for. Where there
// is none it lasts for LinkLength; it lasts for linkLeast at least, so that a client who
// comes in an hour can still fill it in, and for linkMost at most.
const (
	LinkLength = 72 * time.Hour
	linkLeast  = 2 * time.Hour
	linkMost   = 60 * 24 * time.Hour
)

// LinkView is what a private link opens: the questions and what was answered so
// far, and nothing else of the client or the studio.
type LinkView struct {
	StudioName string `json:"studioName"`
	// Policies are the studio's, for clients; empty where it has none.
	Policies  string                             `json:"policies,omitempty"`
	Questions []contraindication.ClientQuestion  `json:"questions"`
	Lists     []contraindication.List            `json:"lists"`
	Answers   map[string]contraindication.Answer `json:"answers"`
	History   studio.ClientHistory               `json:"history"`
	Concerns  []studio.Named                     `json:"concerns"`
	Today     string                             `json:"today"`
	// Sent says that the answers were sent in: the link has done its work.
	Sent bool `json:"sent"`
}

// NewLink is a private link as its maker is shown it. Who sees no health data is not shown
// the token: the link goes to the client, and SentTo says where.
type NewLink struct {
	Token  string
	Until  time.Time
	SentTo string
	// Mailed says that the mail server sends it; else the owner passes it on.
	Mailed bool
	// Message is the text to send it with; empty for who sees no health data.
	Message string
	// For is when the appointment begins until which it opens; nil where there is none.
	For *time.Time
}

// NewLink opens a consultation for a client to fill in by a private link. The client's
// links before it end. What was answered last time is there to be confirmed.
//
// send hands the message to the studio's gateway at once; the front desk always sends.
func (s *Service) NewLink(ctx context.Context, a *studio.Actor, client uuid.UUID, send bool) (*NewLink, error) {
	out := &NewLink{Token: studio.NewToken(), Until: s.Now().Add(LinkLength)}
	err := studio.In(ctx, s.Kernel, a, func(tx consultationStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "new-link", client); err != nil {
			return err
		}
		if err := s.addLink(ctx, tx, st, a, client, out, nil); err != nil {
			return err
		}
		if send || a.NoHealth("new-link") {
			if err := s.sendLink(ctx, tx, client, out); err != nil {
				return err
			}
		}
		if a.NoHealth("new-link") {
			out.Token, out.Message = "", ""
		}
		return s.Audit(ctx, tx, a, "send link", "client", client)
	})
	return out, err
}

// HandOverLink opens a consultation that a client fills in on a tablet: its link opens in
// the session of the tablet only.
func (s *Service) HandOverLink(
	ctx context.Context,
	within studio.Tx,
	st *studio.Studio,
	a *studio.Actor,
	session, client uuid.UUID,
) (token string, until time.Time, err error) {
	tx := studio.As[consultationStore](within)
	out := &NewLink{Token: studio.NewToken(), Until: s.Now().Add(LinkLength)}
	err = s.addLink(ctx, tx, st, a, client, out, &session)
	return out.Token, out.Until, err
}

// addLink adds a consultation with its link. Its answers are those of the current
// consultation, unless who asks for it may not see them.
func (s *Service) addLink(
	ctx context.Context,
	tx consultationStore,
	st *studio.Studio,
	a *studio.Actor,
	client uuid.UUID,
	link *NewLink,
	session *uuid.UUID,
) error {
	who, err := tx.Client(ctx, client)
	if err != nil {
		return err
	}
	list, err := tx.Consultations(ctx, client)
	if err != nil {
		return err
	}
	if err := tx.EndLinks(ctx, client, s.Now()); err != nil {
		return err
	}
	visit, err := s.linkUntil(ctx, tx, client, link)
	if err != nil {
		return err
	}
	c := &studio.Consultation{
		ID:          studio.NewID(),
		Client:      client,
		Visit:       visit,
		Answers:     map[string]contraindication.Answer{},
		PackVersion: st.Pack().Version,
		CreatedAt:   s.Now(),
		LinkUntil:   &link.Until,
		Session:     session,
	}
	if session == nil || !a.NoHealth("hand-over-tablet") {
		if was := studio.CurrentConsultation(list, s.Today(st)); was != nil {
			c.Answers, c.History = was.Answers, was.History
		}
		if c.History.SkinType == "" {
			c.History.SkinType, c.History.SkinStates = who.SkinType, who.SkinStates
		}
	}
	if c.History.BirthDate == "" {
		c.History.BirthDate = who.BirthDate
	}
	if err := tx.AddConsultation(ctx, c); err != nil {
		return err
	}
	link.Message = s.linkMessage(who, st, link)
	return tx.RegisterLink(ctx, studio.HashToken(link.Token), c.ID)
}

// linkUntil makes a link live until the client's next appointment, and returns it; nil where
// there is none.
func (s *Service) linkUntil(ctx context.Context, tx consultationStore, client uuid.UUID, link *NewLink) (*uuid.UUID, error) {
	visits, err := tx.ClientVisits(ctx, client)
	if err != nil {
		return nil, err
	}
	var next *studio.VisitLine
	for i := range visits { // newest first
		v := &visits[i]
		live := v.State == studio.Booked || v.State == studio.Confirmed || v.State == studio.Arrived
		if live && v.Kind == studio.ForTreatment && v.StartsAt.After(s.Now()) {
			next = v
		}
	}
	if next == nil {
		return nil, nil
	}
	link.For, link.Until = &next.StartsAt, LinkEnd(next.StartsAt, s.Now())
	return &next.ID, nil
}

// LinkEnd is when a link ends that was made, or whose appointment was moved, at a moment.
func LinkEnd(appointment, now time.Time) time.Time {
	until := appointment
	if least := now.Add(linkLeast); until.Before(least) {
		until = least
	}
	if most := now.Add(linkMost); until.After(most) {
		until = most
	}
	return until
}

// linkMessage is the text that a link is sent with.
func (s *Service) linkMessage(who *studio.Client, st *studio.Studio, link *NewLink) string {
	until := link.Until.In(st.Zone()).Format("2 January 2006, 15:04")
	return words.MessageConsultation(who.Name, st.Name, s.Address+"/consultation#"+link.Token, until).Message
}

// sendLink sends a link to its client.
func (s *Service) sendLink(
	ctx context.Context,
	tx consultationStore,
	client uuid.UUID,
	link *NewLink,
) error {
	who, err := tx.Client(ctx, client)
	if err != nil {
		return err
	}
	if link.SentTo = who.Email; link.SentTo == "" {
		link.SentTo = who.Phone
	}
	if link.SentTo == "" {
		return &studio.StateError{Code: "no-address", Sentence: words.AddAnEMailAddressOrTelephoneFirst()}
	}
	link.Mailed, err = s.Messages.Send(ctx, tx, studio.Message{
		Kind:   studio.ConsultationMessage,
		To:     link.SentTo,
		Name:   who.Name,
		Body:   link.Message,
		Until:  link.Until,
		Client: &client,
	})
	return err
}

// WithdrawLink ends a client's private links at once. What was sent in stays.
func (s *Service) WithdrawLink(ctx context.Context, a *studio.Actor, client uuid.UUID) error {
	return studio.In(ctx, s.Kernel, a, func(tx consultationStore, _ *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "withdraw-link", client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		if err := tx.EndLinks(ctx, client, s.Now()); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "withdraw link", "client", client)
	})
}

// ErrLink says that a private link opens nothing (any more).
var ErrLink = &studio.StateError{Code: "link-ended", Sentence: words.ThisLinkNotValidOrHasExpired()}

// wrongLink answers a token that opens nothing: guessing is slowed down. A token that is
// right is never refused for its neighbours' wrong ones.
func (s *Service) wrongLink(ctx context.Context, subject string, now time.Time) error {
	var wait time.Duration
	taken, err := s.Links.TakeAttempt(ctx, subject, now, now.Add(-studio.ThrottleWindow), func(n int, last time.Time) bool {
		wait = studio.ThrottleWait(n, studio.ThrottleTries, last, now)
		return wait == 0
	})
	if err == nil && !taken {
		return &studio.ThrottledError{Wait: wait}
	}
	if err != nil {
		return err
	}
	return ErrLink
}

// LinkCaller is who holds a private link: its token, where the request comes from, and the
// session of a tablet that was handed over.
type LinkCaller struct {
	Token   string
	From    string
	Session *uuid.UUID
}

// linked runs something with the consultation that a token opens.
func (s *Service) linked(
	ctx context.Context,
	by LinkCaller,
	fn func(tx consultationStore, st *studio.Studio, c *studio.Consultation) error,
) error {
	now := s.Now()
	studioID, id, err := s.Links.FindConsultation(ctx, studio.HashToken(by.Token))
	if errors.Is(err, studio.ErrNotFound) {
		return s.wrongLink(ctx, "link:"+studio.Digest(by.From), now)
	}
	if err != nil {
		return err
	}
	return studio.Within(ctx, s.Kernel, studioID, func(tx consultationStore) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		c, err := tx.Consultation(ctx, id)
		if err != nil {
			return err
		}
		here := c.Session == nil || by.Session != nil && *c.Session == *by.Session
		if c.LinkUntil == nil || !now.Before(*c.LinkUntil) || c.ReviewedAt != nil || !here {
			return ErrLink
		}
		return fn(tx, st, c)
	})
}

// Linked returns what a private link opens.
func (s *Service) Linked(ctx context.Context, by LinkCaller) (*LinkView, error) {
	var v LinkView
	err := s.linked(ctx, by, func(tx consultationStore, st *studio.Studio, c *studio.Consultation) error {
		asked, err := s.asked(ctx, tx, st)
		if err != nil {
			return err
		}
		if err := s.Audit(ctx, tx, &studio.Actor{Studio: st.ID}, "open link", "client", c.Client); err != nil {
			return err
		}
		v = LinkView{
			StudioName: st.Name,
			Policies:   st.Texts.Policies,
			Questions:  asked.ClientQuestions(),
			Lists:      asked.Lists,
			Answers:    c.Answers,
			History:    c.History,
			Concerns:   concernNames(),
			Today:      s.Today(st),
		}
		if c.SentAt != nil {
			v.Sent, v.Questions, v.History = true, []contraindication.ClientQuestion{}, studio.ClientHistory{}
			v.Answers = map[string]contraindication.Answer{}
		}
		return nil
	})
	return &v, err
}

// SearchLinked looks for what a client is allergic to, or takes, among the names
// that are known.
func (s *Service) SearchLinked(ctx context.Context, by LinkCaller, kind, text string) (hits []substance.Hit, err error) {
	err = s.linked(ctx, by, func(consultationStore, *studio.Studio, *studio.Consultation) error {
		hits = Substances(kind, text)
		return nil
	})
	return hits, err
}

// SaveLinked keeps what the client has answered so far; send sends it in, which
// needs every answer, though it may be that the client is not sure. A consultation sent in is not changed by the link again.
func (s *Service) SaveLinked(
	ctx context.Context,
	by LinkCaller,
	answers map[string]contraindication.Answer,
	about studio.ClientHistory,
	send bool,
) error {
	return s.linked(ctx, by, func(tx consultationStore, st *studio.Studio, c *studio.Consultation) error {
		if c.SentAt != nil {
			return nil // sent twice: it is there
		}
		if err := about.Check(s.Today(st)); err != nil {
			return err
		}
		asked, err := s.asked(ctx, tx, st)
		if err != nil {
			return err
		}
		today := calendar.Day(s.Today(st))
		answers = contraindication.Dated(answers, today)
		c.Answers, c.History = answersAt(st.Pack(), answers, contraindication.Consultation), about
		if send {
			sure := contraindication.UnsureAsNo(c.Answers)
			if ps := asked.Check(sure, today, contraindication.Consultation); len(ps) > 0 {
				return &studio.InputError{Problems: ps}
			}
			now := s.Now()
			c.SentAt = &now
			if err := s.Audit(ctx, tx, &studio.Actor{Studio: st.ID}, "send answers", "client", c.Client); err != nil {
				return err
			}
		}
		return tx.SaveConsultation(ctx, c)
	})
}

// linkStore moves the end of private links.
type linkStore interface {
	studio.Tx
	MoveLinks(ctx context.Context, visit uuid.UUID, until, now time.Time) error
}

// MoveLinks lets the private links that open until an appointment end with it, when it was
// moved.
func (s *Service) MoveLinks(ctx context.Context, within studio.Tx, visit uuid.UUID, start time.Time) error {
	return studio.As[linkStore](within).MoveLinks(ctx, visit, LinkEnd(start, s.Now()), s.Now())
}

// InviteConsultation opens a consultation for a client to fill in where there is none that holds
// and none is open already, and answers its address; empty where none is needed.
func (s *Service) InviteConsultation(ctx context.Context, within studio.Tx, st *studio.Studio, client uuid.UUID) (string, error) {
	tx := studio.As[consultationStore](within)
	list, err := tx.Consultations(ctx, client)
	if err != nil || studio.CurrentConsultation(list, s.Today(st)) != nil {
		return "", err
	}
	for i := range list {
		if c := &list[i]; c.SentAt != nil && c.ReviewedAt == nil || c.LinkUntil != nil && c.LinkUntil.After(s.Now()) {
			return "", nil
		}
	}
	link := &NewLink{Token: studio.NewToken(), Until: s.Now().Add(LinkLength)}
	if err := s.addLink(ctx, tx, st, nil, client, link, nil); err != nil {
		return "", err
	}
	return s.Address + "/consultation#" + link.Token, nil
}
