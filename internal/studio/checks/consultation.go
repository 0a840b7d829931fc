package checks

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/substance"
	"softpalm/internal/studio"
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
	// EndLinks ends the private links of a client through which nothing was sent in.
	EndLinks(ctx context.Context, client uuid.UUID, at time.Time) error
	ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error) // newest first
	RegisterLink(ctx context.Context, tokenHash []byte, consultation uuid.UUID) error
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
	key, from := fmt.Sprintf("what is asked by settings %d", st.Changes), []studio.Area{studio.InCatalog, studio.InPlans}
	return studio.Keep(ctx, tx, key, from, func() (*contraindication.Pack, error) { return askedOf(ctx, tx, st) })
}

func askedOf(ctx context.Context, tx consultationStore, st *studio.Studio) (*contraindication.Pack, error) {
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
	// Spoken are the questions that sum up the groups of the check; empty where no consultation
	// is current.
	Spoken []contraindication.List `json:"spoken"`
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
	if err := a.May("get-questions"); err != nil {
		return nil, err
	}
	var q *Questions
	err := studio.In(ctx, s.Kernel, a, func(tx consultationStore, st *studio.Studio) error {
		var t *clientSnapshot
		if err := tx.Gather(
			studio.Changed(ctx, tx),
			func() error { return a.MayClient(ctx, tx, "get-questions", client) },
			func() (err error) {
				t, err = s.loadClientSnapshot(ctx, tx, st, client)
				return err
			},
		); err != nil {
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

// reviewedToday reports whether a rule that the check asks too was gone through with the
// client today, at the consultation: it is not asked again within the day.
func (t *clientSnapshot) reviewedToday(r *contraindication.Rule, today string) bool {
	if t.currentConsultation == nil || t.currentConsultation.Day != today || r.Stage != contraindication.Both {
		return false
	}
	if t.newestCheck != nil && t.newestCheck.Day == today {
		return false // what was said at a check since is there to be corrected
	}
	_, answered := t.currentConsultation.Answers[r.ID]
	return answered
}

func (t *clientSnapshot) questions(st *studio.Studio, asked *contraindication.Pack, today string) *Questions {
	q := &Questions{
		PreCheck:     asked.RulesAt(contraindication.PreTreatment),
		Consultation: asked.RulesAt(contraindication.Consultation),
		Missing:      []contraindication.Rule{},
		Lists:        asked.Lists,
		Spoken:       []contraindication.List{},
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
		q.Spoken = append(q.Spoken, asked.Spoken...)
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
	q.PreCheck = slices.DeleteFunc(q.PreCheck, func(r contraindication.Rule) bool { return t.reviewedToday(&r, today) })
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
	if err := a.May("find-medicine-conflicts"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(_ consultationStore, st *studio.Studio) error {
		list = st.Pack().MedicineConflicts(nil, medicines)
		return nil
	})
	return list, err
}

// Substances looks for allergens or, with the kind "medicine", medicines.
func Substances(kind, text string) []substance.Hit {
	if kind == "medicine" {
		return substance.Medicines(text)
	}
	return substance.Allergens(text)
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
	if err := a.May("review-consultation"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx consultationStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "review-consultation", client); err != nil {
			return err
		}
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
		answers = contraindication.Dated(answers, calendar.Day(s.Today(st)))
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
