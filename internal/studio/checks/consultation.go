package checks

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
	"softpalm/internal/studio"
	"softpalm/words"
)

// judgeStore keeps a check that is judged again.
type judgeStore interface {
	snapshotStore
	AddPreCheck(ctx context.Context, s *studio.PreCheck) error
}

// consultationStore is what consultations are made of.
type consultationStore interface {
	judgeStore
	studio.LibraryStore
	Protocols(ctx context.Context, account uuid.UUID) ([]studio.ProtocolLine, error)
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	UpdateClient(ctx context.Context, c *studio.Client) error
	Consultation(ctx context.Context, id uuid.UUID) (*studio.Consultation, error)       // locked until the end of the transaction
	Consultations(ctx context.Context, client uuid.UUID) ([]studio.Consultation, error) // reviewed ones first, newest first
	AddConsultation(ctx context.Context, c *studio.Consultation) error
	SaveConsultation(ctx context.Context, c *studio.Consultation) error
	RegisterLink(ctx context.Context, tokenHash []byte, consultation uuid.UUID) error
}

// LinkLength is how long a client's private link opens the consultation.
const LinkLength = 72 * time.Hour

// LinkView is what a private link opens: the questions and what was answered so
// far, and nothing else of the client or the studio.
type LinkView struct {
	StudioName string                             `json:"studioName"`
	Questions  []contraindication.Rule            `json:"questions"`
	Lists      []contraindication.List            `json:"lists"`
	Answers    map[string]contraindication.Answer `json:"answers"`
	History    studio.ClientHistory               `json:"history"`
	Concerns   []studio.Named                     `json:"concerns"`
	Zones      []anatomy.Zone                     `json:"zones"`
	Today      string                             `json:"today"`
	// Sent says that the answers were sent in: the link has done its work.
	Sent bool `json:"sent"`
}

func concernNames() []studio.Named {
	out := make([]studio.Named, len(protocol.Concerns))
	for i, c := range protocol.Concerns {
		out[i] = studio.Named{Key: c.Key, Name: c.Name}
	}
	return out
}

// asked is the pack with only what matters for the studio's published protocols
// and its shelf.
func (s *Service) asked(ctx context.Context, tx consultationStore, st *studio.Studio) (*contraindication.Pack, error) {
	lib, err := studio.ReadLibrary(ctx, tx)
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
	return st.Pack().AskedIn(contraindication.ScopeOf(plans, lib.Context())), nil
}

// Questions is what to ask a client today.
type Questions struct {
	// PreCheck are the rules asked before every treatment; Missing those of the consultation that the standing
	// one does not answer (all of them where none stands).
	PreCheck     []contraindication.Rule `json:"door"`
	Consultation []contraindication.Rule `json:"consultation"`
	Missing      []contraindication.Rule `json:"missing"`
	Lists        []contraindication.List `json:"lists"`
	// InForce are earlier answers that still apply; preferences stay as they were.
	InForce map[string]contraindication.Answer `json:"carried"`
	// Current are the answers of the current consultation, History the client history with it.
	Current map[string]contraindication.Answer `json:"standing"`
	History studio.ClientHistory               `json:"history"`
	// Since is the day of the last pre-treatment check, ValidUntil the day the consultation has
	// to be made again; empty where there is none.
	Since      string         `json:"since,omitempty"`
	ValidUntil string         `json:"validUntil,omitempty"`
	Concerns   []studio.Named `json:"concerns"`
}

// QuestionsFor returns what to ask a client today.
func (s *Service) QuestionsFor(ctx context.Context, a *studio.Actor, client uuid.UUID) (*Questions, error) {
	if err := a.May(studio.Owner, studio.Practitioner); err != nil {
		return nil, err
	}
	var q *Questions
	err := studio.In(ctx, s.Kernel, a, func(tx consultationStore, st *studio.Studio) error {
		t, err := s.loadClientSnapshot(ctx, tx, st, client)
		if err != nil {
			return err
		}
		asked, err := s.asked(ctx, tx, st)
		if err != nil {
			return err
		}
		q = t.questions(st, asked, s.Today(st))
		return s.Audit(ctx, tx, a, "look", "client", client)
	})
	return q, err
}

func (t *clientSnapshot) questions(st *studio.Studio, asked *contraindication.Pack, today string) *Questions {
	q := &Questions{
		PreCheck:     asked.RulesAt(contraindication.PreTreatment),
		Consultation: asked.RulesAt(contraindication.Consultation),
		Missing:      []contraindication.Rule{},
		Lists:        asked.Lists,
		InForce:      map[string]contraindication.Answer{},
		Current:      map[string]contraindication.Answer{},
		Concerns:     concernNames(),
		History:      t.history(),
	}
	if t.newestCheck != nil {
		q.Since = t.newestCheck.Day
	}
	if t.currentConsultation != nil {
		q.ValidUntil, q.Current = t.currentConsultation.ValidUntil(), t.currentConsultation.Answers
	}
	q.InForce = t.answersInForce(st.Pack(), today)
	if t.newestCheck == nil || t.consultationIsNewer() { // a sore spot marked at home stands until the door asks
		for id, a := range t.ongoingPreferences(st.Pack()) {
			q.InForce[id] = a
		}
	}
	if q.Since == today { // checked again: what was said this morning stands to be corrected
		q.InForce = answersAt(st.Pack(), t.newestCheck.Answers, contraindication.PreTreatment)
	}
	for _, r := range q.Consultation {
		if _, ok := q.Current[r.ID]; !ok && r.Stage == contraindication.Consultation {
			q.Missing = append(q.Missing, r)
		}
	}
	for _, r := range q.PreCheck {
		if a := q.Current[r.ID]; r.AnswerType == contraindication.Choice && a.Option != "" && q.Since != today {
			q.InForce[r.ID] = a
		}
	}
	return q
}

// MedicineConflicts lists the rules that some medicines answer, or make worth asking about.
func (s *Service) MedicineConflicts(
	ctx context.Context,
	a *studio.Actor,
	medicines []string,
) (list []contraindication.MedicineConflict, err error) {
	if err := a.May(studio.Owner, studio.Practitioner); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(_ consultationStore, st *studio.Studio) error {
		list = st.Pack().MedicineConflicts(nil, medicines)
		return nil
	})
	return list, err
}

// NewLink opens a consultation for a client to fill in by a private link, and
// returns the link's token. What was answered last time is there to be confirmed.
func (s *Service) NewLink(ctx context.Context, a *studio.Actor, client uuid.UUID) (token string, until time.Time, err error) {
	token, until = studio.NewToken(), s.Now().Add(LinkLength)
	err = studio.In(ctx, s.Kernel, a, func(tx consultationStore, st *studio.Studio) error {
		who, err := tx.Client(ctx, client)
		if err != nil {
			return err
		}
		list, err := tx.Consultations(ctx, client)
		if err != nil {
			return err
		}
		c := &studio.Consultation{
			ID:          studio.NewID(),
			Client:      client,
			Answers:     map[string]contraindication.Answer{},
			PackVersion: st.Pack().Version,
			CreatedAt:   s.Now(),
			LinkUntil:   &until,
		}
		if was := studio.CurrentConsultation(list, s.Today(st)); was != nil {
			c.Answers, c.History = was.Answers, was.History
		}
		if c.History.BirthDate == "" {
			c.History.BirthDate = who.BirthDate
		}
		if c.History.SkinType == "" {
			c.History.SkinType, c.History.SkinStates = who.SkinType, who.SkinStates
		}
		if err := tx.AddConsultation(ctx, c); err != nil {
			return err
		}
		if err := tx.RegisterLink(ctx, studio.HashToken(token), c.ID); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "send link", "client", client)
	})
	return token, until, err
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

// linked runs something with the consultation that a token opens. from says
// where the request comes from.
func (s *Service) linked(
	ctx context.Context,
	token, from string,
	fn func(tx consultationStore, st *studio.Studio, c *studio.Consultation) error,
) error {
	now := s.Now()
	studioID, id, err := s.Links.FindConsultation(ctx, studio.HashToken(token))
	if errors.Is(err, studio.ErrNotFound) {
		return s.wrongLink(ctx, "link:"+studio.Digest(from), now)
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
		if c.LinkUntil == nil || now.After(*c.LinkUntil) || c.ReviewedAt != nil {
			return ErrLink
		}
		return fn(tx, st, c)
	})
}

// Linked returns what a private link opens.
func (s *Service) Linked(ctx context.Context, token, from string) (*LinkView, error) {
	var v LinkView
	err := s.linked(ctx, token, from, func(tx consultationStore, st *studio.Studio, c *studio.Consultation) error {
		asked, err := s.asked(ctx, tx, st)
		if err != nil {
			return err
		}
		v = LinkView{
			StudioName: st.Name,
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
func (s *Service) SearchLinked(ctx context.Context, token, from, kind, text string) (hits []substance.Hit, err error) {
	err = s.linked(ctx, token, from, func(consultationStore, *studio.Studio, *studio.Consultation) error {
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
func (s *Service) SaveLinked(
	ctx context.Context,
	token, from string,
	answers map[string]contraindication.Answer,
	about studio.ClientHistory,
	send bool,
) error {
	return s.linked(ctx, token, from, func(tx consultationStore, st *studio.Studio, c *studio.Consultation) error {
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
		}
		return tx.SaveConsultation(ctx, c)
	})
}

// answersAt keeps the answers to the rules of a stage.
func answersAt(
	pack *contraindication.Pack,
	answers map[string]contraindication.Answer,
	stage contraindication.Stage,
) map[string]contraindication.Answer {
	out := map[string]contraindication.Answer{}
	for _, r := range pack.RulesAt(stage) {
		if a, ok := answers[r.ID]; ok {
			out[r.ID] = a
		}
	}
	return out
}

// Review counts a consultation that the client sent in from now on, with the
// answers as the practitioner and the client went through them.
func (s *Service) Review(
	ctx context.Context,
	a *studio.Actor,
	client, id uuid.UUID,
	answers map[string]contraindication.Answer,
	about studio.ClientHistory,
) error {
	if err := a.May(studio.Owner, studio.Practitioner); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx consultationStore, st *studio.Studio) error {
		c, err := tx.Consultation(ctx, id)
		if err != nil {
			return err
		}
		if c.Client != client {
			return studio.ErrNotFound
		}
		if c.ReviewedAt != nil {
			return studio.ErrLocked
		}
		asked, err := s.asked(ctx, tx, st)
		if err != nil {
			return err
		}
		answers = answersAt(st.Pack(), answers, contraindication.Consultation)
		if ps := asked.Check(answers, calendar.Day(s.Today(st)), contraindication.Consultation); len(ps) > 0 {
			return &studio.InputError{Problems: ps}
		}
		c.Answers, c.History = answers, about
		if err := s.review(ctx, tx, st, a, c, s.Today(st), tx.SaveConsultation); err != nil {
			return err
		}
		return s.JudgeAgain(ctx, tx, st, a, client)
	})
}

// JudgeAgain judges today's pre-treatment check, if there is one, again with what is known
// now; the check before stays as it was. Nothing said after the check may be
// passed over in the room.
func (s *Service) JudgeAgain(ctx context.Context, within studio.Tx, st *studio.Studio, a *studio.Actor, client uuid.UUID) error {
	tx := studio.As[consultationStore](within)
	t, err := s.loadClientSnapshot(ctx, tx, st, client)
	if err != nil || t.newestCheck == nil || t.newestCheck.Day != s.Today(st) {
		return err
	}
	pack, again := st.Pack(), *t.newestCheck
	again.ID, again.Account, again.At = studio.NewID(), a.Account, s.Now()
	again.PackVersion, again.History = pack.Version, t.history()
	if t.currentConsultation != nil {
		again.Answers = t.withConsultation(pack, answersAt(pack, again.Answers, contraindication.PreTreatment))
		maps.Copy(again.Answers, t.answersInForce(pack, again.Day))
		if t.consultationIsNewer() {
			maps.Copy(again.Answers, t.ongoingPreferences(pack))
		}
	}
	again.Result = pack.Evaluate(again.Answers, t.subject(), calendar.Day(again.Day))
	return tx.AddPreCheck(ctx, &again)
}

// review counts a consultation from a day on, and applies what it says of birth
// date and skin onto the client's file.
func (s *Service) review(
	ctx context.Context,
	tx consultationStore,
	st *studio.Studio,
	a *studio.Actor,
	c *studio.Consultation,
	day string,
	save func(context.Context, *studio.Consultation) error,
) error {
	if err := c.History.Check(s.Today(st)); err != nil {
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
	if c.History.ApplyTo(who) {
		if err := tx.UpdateClient(ctx, who); err != nil {
			return err
		}
	}
	return s.Audit(ctx, tx, a, "review consultation", "client", c.Client)
}
