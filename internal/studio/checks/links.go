package checks

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/substance"
	"softpalm/internal/studio"
	"softpalm/words"
)

// LinkLength is how long a client's private link opens the consultation.
const LinkLength = 72 * time.Hour

// LinkView is what a private link opens: the questions and what was answered so
// far, and nothing else of the client or the studio.
type LinkView struct {
	StudioName string `json:"studioName"`
	// Policies are the studio's, for clients; empty where it has none.
	Policies  string                             `json:"policies,omitempty"`
	Questions []contraindication.Rule            `json:"questions"`
	Lists     []contraindication.List            `json:"lists"`
	Answers   map[string]contraindication.Answer `json:"answers"`
	History   studio.ClientHistory               `json:"history"`
	Concerns  []studio.Named                     `json:"concerns"`
	Zones     []anatomy.Zone                     `json:"zones"`
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
}

// NewLink opens a consultation for a client to fill in by a private link. The client's
// links before it end. What was answered last time is there to be confirmed.
func (s *Service) NewLink(ctx context.Context, a *studio.Actor, client uuid.UUID) (*NewLink, error) {
	out := &NewLink{Token: studio.NewToken(), Until: s.Now().Add(LinkLength)}
	err := studio.In(ctx, s.Kernel, a, func(tx consultationStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "new-link", client); err != nil {
			return err
		}
		if err := s.addLink(ctx, tx, st, a, client, out, nil); err != nil {
			return err
		}
		if a.NoHealth("new-link") {
			if err := s.sendLink(ctx, tx, st, client, out); err != nil {
				return err
			}
			out.Token = ""
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
	c := &studio.Consultation{
		ID:          studio.NewID(),
		Client:      client,
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
	return tx.RegisterLink(ctx, studio.HashToken(link.Token), c.ID)
}

// sendLink sends a link to its client.
func (s *Service) sendLink(
	ctx context.Context,
	tx consultationStore,
	st *studio.Studio,
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
	until := link.Until.In(st.Zone()).Format("2 January 2006, 15:04")
	body := words.MessageConsultation(who.Name, st.Name, s.Address+"/consultation#"+link.Token, until).Message
	link.Mailed, err = s.Messages.Send(ctx, tx, studio.Message{
		Kind:   studio.ConsultationMessage,
		To:     link.SentTo,
		Name:   who.Name,
		Body:   body,
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
			Questions:  asked.RulesAt(contraindication.Consultation),
			Lists:      asked.Lists,
			Answers:    c.Answers,
			History:    c.History,
			Concerns:   concernNames(),
			Zones:      anatomy.Zones[:],
			Today:      s.Today(st),
		}
		if c.SentAt != nil {
			v.Sent, v.Questions, v.History = true, []contraindication.Rule{}, studio.ClientHistory{}
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
		c.Answers, c.History = answersAt(st.Pack(), answers, contraindication.Consultation), about
		if send {
			sure, today := contraindication.UnsureAsNo(c.Answers), calendar.Day(s.Today(st))
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
