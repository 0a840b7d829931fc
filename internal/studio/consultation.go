package studio

import (
	"context"
	"errors"
	"maps"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/substance"
)

// LinkLength is how long a client's private link opens the consultation.
const LinkLength = 72 * time.Hour

// Consultation is what a client told, at the studio or by a private link. It
// counts once a practitioner has reviewed it, and never changes after that.
type Consultation struct {
	ID          uuid.UUID                          `json:"id"`
	Client      uuid.UUID                          `json:"client"`
	Answers     map[string]contraindication.Answer `json:"answers"`
	About       About                              `json:"about"`
	PackVersion string                             `json:"packVersion"`
	CreatedAt   time.Time                          `json:"createdAt"`
	// LinkUntil is when the private link ends; absent where there is none.
	LinkUntil *time.Time `json:"linkUntil,omitempty"`
	// SentAt is when the client sent the answers in.
	SentAt     *time.Time `json:"sentAt,omitempty"`
	ReviewedAt *time.Time `json:"reviewedAt,omitempty"`
	ReviewedBy *uuid.UUID `json:"-"`
	// Day is the studio's day of the review.
	Day string `json:"day,omitempty"`
}

// until is the last day the consultation holds.
func (c *Consultation) until() string {
	t, err := time.Parse(time.DateOnly, c.Day)
	if err != nil {
		return ""
	}
	return calendar.AddMonths(t, contraindication.ConsultationMonths).Format(time.DateOnly)
}

// standing returns the newest reviewed consultation, nil where there is none
// that holds on the day.
func standing(list []Consultation, today string) *Consultation {
	for i := range list {
		if list[i].ReviewedAt != nil {
			if today < list[i].until() {
				return &list[i]
			}
			return nil
		}
	}
	return nil
}

// LinkView is what a private link opens: the questions and what was answered so
// far, and nothing else of the client or the studio.
type LinkView struct {
	StudioName string                             `json:"studioName"`
	Questions  []contraindication.Rule            `json:"questions"`
	Lists      []contraindication.List            `json:"lists"`
	Answers    map[string]contraindication.Answer `json:"answers"`
	About      About                              `json:"about"`
	Concerns   []Named                            `json:"concerns"`
	Zones      []anatomy.Zone                     `json:"zones"`
	Today      string                             `json:"today"`
	// Sent says that the answers were sent in: the link has done its work.
	Sent bool `json:"sent"`
}

// Named is a key with what is read for it.
type Named struct {
	Key  string `json:"key"`
	Name string `json:"name"`
}

func concernNames() []Named {
	out := make([]Named, len(protocol.Concerns))
	for i, c := range protocol.Concerns {
		out[i] = Named{c.Key, c.Name}
	}
	return out
}

// asked is the pack with only what matters for the studio's published protocols
// and its shelf.
func (s *Service) asked(ctx context.Context, tx Tx, st *Studio) (*contraindication.Pack, error) {
	lib, err := readLibrary(ctx, tx)
	if err != nil {
		return nil, err
	}
	list, err := tx.Protocols(ctx, uuid.Nil)
	if err != nil {
		return nil, err
	}
	plans := make([]*protocol.Protocol, 0, len(list))
	for i := range list {
		if list[i].Version > 0 {
			plans = append(plans, &list[i].Body)
		}
	}
	if len(plans) == 0 {
		return st.Pack(), nil // nothing is known of the treatments yet
	}
	return st.Pack().For(contraindication.ScopeOf(plans, lib.context())), nil
}

// Questions is what to ask a client today.
type Questions struct {
	// Door are the door's rules; Missing those of the consultation that the standing
	// one does not answer (all of them where none stands).
	Door         []contraindication.Rule `json:"door"`
	Consultation []contraindication.Rule `json:"consultation"`
	Missing      []contraindication.Rule `json:"missing"`
	Lists        []contraindication.List `json:"lists"`
	// Carried are answers told before that still run; wishes stand as told.
	Carried map[string]contraindication.Answer `json:"carried"`
	// Standing are the answers of the standing consultation, About what was told with it.
	Standing map[string]contraindication.Answer `json:"standing"`
	About    About                              `json:"about"`
	// Since is the day of the last door check, HoldsUntil the day the consultation has
	// to be made again; empty where there is none.
	Since      string  `json:"since,omitempty"`
	HoldsUntil string  `json:"holdsUntil,omitempty"`
	Concerns   []Named `json:"concerns"`
}

// QuestionsFor returns what to ask a client today.
func (s *Service) QuestionsFor(ctx context.Context, a *Actor, client uuid.UUID) (*Questions, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	var q *Questions
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		t, err := s.told(ctx, tx, st, client)
		if err != nil {
			return err
		}
		asked, err := s.asked(ctx, tx, st)
		if err != nil {
			return err
		}
		q = t.questions(st, asked, s.today(st))
		return s.audit(ctx, tx, a, "look", "client", client)
	})
	return q, err
}

func (t *told) questions(st *Studio, asked *contraindication.Pack, today string) *Questions {
	q := &Questions{Door: asked.Of(contraindication.Door), Consultation: asked.Of(contraindication.Consultation), Missing: []contraindication.Rule{}, Lists: asked.Lists,
		Carried: map[string]contraindication.Answer{}, Standing: map[string]contraindication.Answer{}, Concerns: concernNames(), About: t.about()}
	if t.screening != nil {
		q.Since = t.screening.Day
	}
	if t.standing != nil {
		q.HoldsUntil, q.Standing = t.standing.until(), t.standing.Answers
	}
	q.Carried = t.carried(st.Pack(), today)
	if t.screening == nil || t.newer() { // a sore spot marked at home stands until the door asks
		for id, a := range t.undated(st.Pack()) {
			q.Carried[id] = a
		}
	}
	if q.Since == today { // checked again: what was said this morning stands to be corrected
		q.Carried = only(st.Pack(), t.screening.Answers, contraindication.Door)
	}
	for _, r := range q.Consultation {
		if _, ok := q.Standing[r.ID]; !ok && r.Stage == contraindication.Consultation {
			q.Missing = append(q.Missing, r)
		}
	}
	for _, r := range q.Door {
		if a := q.Standing[r.ID]; r.Asks == contraindication.Choice && a.Option != "" && q.Since != today {
			q.Carried[r.ID] = a
		}
	}
	return q
}

// Doubts lists the rules that some medicines answer, or make worth asking about.
func (s *Service) Doubts(ctx context.Context, a *Actor, medicines []string) (list []contraindication.Doubt, err error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	err = s.in(ctx, a, func(_ Tx, st *Studio) error {
		list = st.Pack().Doubts(nil, medicines)
		return nil
	})
	return list, err
}

// NewLink opens a consultation for a client to fill in by a private link, and
// returns the link's token. What was told last time is there to be confirmed.
func (s *Service) NewLink(ctx context.Context, a *Actor, client uuid.UUID) (token string, until time.Time, err error) {
	token, until = secret(), s.Now().Add(LinkLength)
	err = s.in(ctx, a, func(tx Tx, st *Studio) error {
		who, err := tx.Client(ctx, client)
		if err != nil {
			return err
		}
		list, err := tx.Consultations(ctx, client)
		if err != nil {
			return err
		}
		c := &Consultation{ID: newID(), Client: client, Answers: map[string]contraindication.Answer{}, PackVersion: st.Pack().Version, CreatedAt: s.Now(), LinkUntil: &until}
		if was := standing(list, s.today(st)); was != nil {
			c.Answers, c.About = was.Answers, was.About
		}
		if c.About.BirthDate == "" {
			c.About.BirthDate = who.BirthDate
		}
		if c.About.SkinType == "" {
			c.About.SkinType, c.About.SkinStates = who.SkinType, who.SkinStates
		}
		if err := tx.AddConsultation(ctx, c); err != nil {
			return err
		}
		if err := tx.RegisterLink(ctx, hashToken(token), c.ID); err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "send link", "client", client)
	})
	return token, until, err
}

// ErrLink says that a private link opens nothing (any more).
var ErrLink = &StateError{"link-ended", "This link does not open a consultation, or its time is over. Ask the studio for a new one."}

// linked runs something with the consultation that a token opens. from tells
// where the request comes from: guessing is throttled.
func (s *Service) linked(ctx context.Context, token, from string, fn func(tx Tx, st *Studio, c *Consultation) error) error {
	now, subject := s.Now(), "link:"+digest(from)
	n, err := s.Store.CountAttempts(ctx, subject, now.Add(-ThrottleWindow))
	if err != nil {
		return err
	}
	if n >= ThrottleTries {
		return ErrThrottled
	}
	studioID, id, err := s.Store.FindConsultation(ctx, hashToken(token))
	if errors.Is(err, ErrNotFound) {
		if err := s.Store.AddAttempt(ctx, subject, now); err != nil {
			return err
		}
		return ErrLink
	}
	if err != nil {
		return err
	}
	return s.Store.InStudio(ctx, studioID, func(tx Tx) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		c, err := tx.Consultation(ctx, id)
		if err != nil {
			return err
		}
		if c.LinkUntil == nil || now.After(*c.LinkUntil) || c.ReviewedAt != nil {
			return ErrLink
		}
		return fn(tx, st, c)
	})
}

// Linked returns what a private link opens.
func (s *Service) Linked(ctx context.Context, token, from string) (*LinkView, error) {
	var v LinkView
	err := s.linked(ctx, token, from, func(tx Tx, st *Studio, c *Consultation) error {
		asked, err := s.asked(ctx, tx, st)
		if err != nil {
			return err
		}
		v = LinkView{StudioName: st.Name, Questions: asked.Of(contraindication.Consultation), Lists: asked.Lists, Answers: c.Answers, About: c.About, Concerns: concernNames(), Zones: anatomy.Zones[:], Today: s.today(st)}
		if c.SentAt != nil {
			v.Sent, v.Questions, v.Answers, v.About = true, []contraindication.Rule{}, map[string]contraindication.Answer{}, About{}
		}
		return nil
	})
	return &v, err
}

// SearchLinked looks for what a client is allergic to, or takes, among the names
// that are known.
func (s *Service) SearchLinked(ctx context.Context, token, from, kind, text string) (hits []substance.Hit, err error) {
	err = s.linked(ctx, token, from, func(Tx, *Studio, *Consultation) error {
		hits = Substances(kind, text)
		return nil
	})
	return hits, err
}

// Substances looks for allergens or, with the kind "medicine", medicines.
func Substances(kind, text string) []substance.Hit {
	if kind == "medicine" {
		return substance.Medicines(text)
	}
	return substance.Allergens(text)
}

// SaveLinked keeps what the client has answered so far; send sends it in, which
// needs every answer, though it may be that the client is not sure. A consultation sent in is not changed by the link again.
func (s *Service) SaveLinked(ctx context.Context, token, from string, answers map[string]contraindication.Answer, about About, send bool) error {
	return s.linked(ctx, token, from, func(tx Tx, st *Studio, c *Consultation) error {
		if c.SentAt != nil {
			return nil // sent twice: it is there
		}
		if err := about.check(s.today(st)); err != nil {
			return err
		}
		asked, err := s.asked(ctx, tx, st)
		if err != nil {
			return err
		}
		c.Answers, c.About = only(st.Pack(), answers, contraindication.Consultation), about
		if send {
			if ps := asked.Check(contraindication.Told(c.Answers), calendar.Day(s.today(st)), contraindication.Consultation); len(ps) > 0 {
				return &InputError{ps}
			}
			now := s.Now()
			c.SentAt = &now
		}
		return tx.SaveConsultation(ctx, c)
	})
}

// only keeps the answers to the rules of a stage.
func only(pack *contraindication.Pack, answers map[string]contraindication.Answer, stage contraindication.Stage) map[string]contraindication.Answer {
	out := map[string]contraindication.Answer{}
	for _, r := range pack.Of(stage) {
		if a, ok := answers[r.ID]; ok {
			out[r.ID] = a
		}
	}
	return out
}

// Review counts a consultation that the client sent in from now on, with the
// answers as the practitioner and the client went through them.
func (s *Service) Review(ctx context.Context, a *Actor, client, id uuid.UUID, answers map[string]contraindication.Answer, about About) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	return s.in(ctx, a, func(tx Tx, st *Studio) error {
		c, err := tx.Consultation(ctx, id)
		if err != nil {
			return err
		}
		if c.Client != client {
			return ErrNotFound
		}
		if c.ReviewedAt != nil {
			return ErrLocked
		}
		asked, err := s.asked(ctx, tx, st)
		if err != nil {
			return err
		}
		answers = only(st.Pack(), answers, contraindication.Consultation)
		if ps := asked.Check(answers, calendar.Day(s.today(st)), contraindication.Consultation); len(ps) > 0 {
			return &InputError{ps}
		}
		c.Answers, c.About = answers, about
		if err := s.review(ctx, tx, st, a, c, s.today(st), tx.SaveConsultation); err != nil {
			return err
		}
		return s.judgeAgain(ctx, tx, st, a, client)
	})
}

// judgeAgain judges today's door check, if there is one, again with what is known
// now; the check before stays as it was. Nothing told after the door may be
// passed over in the room.
func (s *Service) judgeAgain(ctx context.Context, tx Tx, st *Studio, a *Actor, client uuid.UUID) error {
	t, err := s.told(ctx, tx, st, client)
	if err != nil || t.screening == nil || t.screening.Day != s.today(st) {
		return err
	}
	pack, again := st.Pack(), *t.screening
	again.ID, again.Account, again.At, again.PackVersion, again.About = newID(), a.Account, s.Now(), pack.Version, t.about()
	if t.standing != nil {
		again.Answers = t.with(pack, only(pack, again.Answers, contraindication.Door))
		maps.Copy(again.Answers, t.carried(pack, again.Day))
		if t.newer() {
			maps.Copy(again.Answers, t.undated(pack))
		}
	}
	again.Result = pack.Evaluate(again.Answers, t.subject(), calendar.Day(again.Day))
	return tx.AddScreening(ctx, &again)
}

// review counts a consultation from a day on, and brings what it tells of birth
// date and skin onto the client's file.
func (s *Service) review(ctx context.Context, tx Tx, st *Studio, a *Actor, c *Consultation, day string, save func(context.Context, *Consultation) error) error {
	if err := c.About.check(s.today(st)); err != nil {
		return err
	}
	now := s.Now()
	c.PackVersion, c.ReviewedAt, c.ReviewedBy, c.Day = st.Pack().Version, &now, &a.Account, day
	if err := save(ctx, c); err != nil {
		return err
	}
	who, err := tx.Client(ctx, c.Client)
	if err != nil {
		return err
	}
	if c.About.ontoClient(who) {
		if err := tx.UpdateClient(ctx, who); err != nil {
			return err
		}
	}
	return s.audit(ctx, tx, a, "review consultation", "client", c.Client)
}
