package treatment

import (
	"context"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/measuring"
	"softpalm/internal/craft/suggestion"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Proposal is something to do otherwise at the next visit, by rule, with what it is about; taken or refused, or open.
type Proposal struct {
	Code string `json:"code"`
	// Key is what it is about, for the answer: a place, a product with its minute, a step, a side. About says it by name.
	Key   string `json:"key"`
	About string `json:"about"`
	// Text says it in a sentence, Because what in the records it comes from.
	Text    string   `json:"text"`
	Because []string `json:"because"`
	// Taken is nil while it is open.
	Taken *bool `json:"taken,omitempty"`
}

// nextStore is what proposals are read from and kept in.
type nextStore interface {
	Store
	ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error) // newest first
	// GradedBefore is the room's log of the client's last treatment before a visit in which something was graded.
	GradedBefore(ctx context.Context, v *studio.Visit) ([]guide.Event, error)
	SaveAnswer(ctx context.Context, visit uuid.UUID, p *Proposal, account uuid.UUID, at time.Time) error
	// Answers are the proposals that were taken or refused, by code and what they are about.
	Answers(ctx context.Context, visit uuid.UUID) (map[string]bool, error)
	ClientNotes(ctx context.Context, client uuid.UUID) ([]studio.ClientNote, error)
	AddClientNote(ctx context.Context, client, account uuid.UUID, n *studio.ClientNote) error
}

const (
	// lookedBack is how many visits before this one the rules may look at.
	lookedBack   = 3
	visitsAtMost = 60
)

// account is how a treatment went by its room's log; nil where nothing was logged.
func (s *Service) account(ctx context.Context, tx Store, t *studio.Treatment) (*guide.Account, error) {
	events, err := tx.RoomEvents(ctx, t.Visit)
	return accountOf(t, events), err
}

// accountOf is how a treatment went by the events of its room; nil where nothing was logged.
func accountOf(t *studio.Treatment, events []guide.Event) *guide.Account {
	if len(events) == 0 || t.Evaluation == nil {
		return nil
	}
	return guide.AccountOf(t.Evaluation, &guide.Log{Arrived: events})
}

// proposals applies the rules to this treatment and those of the same client with the same protocol before it.
func (s *Service) proposals(ctx context.Context, within studio.Tx, st *studio.Studio, t *studio.Treatment, v *studio.VisitLine, now *guide.Account) ([]Proposal, error) {
	if now == nil {
		return []Proposal{}, nil
	}
	tx := studio.As[nextStore](within)
	zone := st.Zone()
	visits, err := tx.ClientVisits(ctx, v.Client)
	if err != nil {
		return nil, err
	}
	looked := []pastVisit{{day: v.StartsAt, Visit: visitOf(now, t, v), account: now}}
	for i := range visits[:min(len(visits), visitsAtMost)] {
		o := &visits[i]
		if o.ID == v.ID || o.Protocol != v.Protocol || !o.StartsAt.Before(v.StartsAt) || !o.State.Given() || len(looked) > lookedBack {
			continue
		}
		before, err := tx.Treatment(ctx, o.ID)
		if err != nil {
			continue // given without the guide
		}
		account, err := s.account(ctx, tx, before)
		if err != nil {
			return nil, err
		}
		if account != nil {
			looked = append(looked, pastVisit{day: o.StartsAt, Visit: visitOf(account, before, o), account: account})
		}
	}
	slices.Reverse(looked)
	past := suggestion.Past{}
	for i := range looked {
		past.Visits = append(past.Visits, looked[i].Visit)
	}
	if past.OpenReaction, err = openReaction(ctx, tx, v.Client); err != nil {
		return nil, err
	}
	if err := measured(ctx, tx, &past, v, visits); err != nil {
		return nil, err
	}
	found, err := past.Suggest()
	if err != nil {
		return nil, err
	}
	products, err := tx.Products(ctx)
	if err != nil {
		return nil, err
	}
	answered, err := tx.Answers(ctx, t.Visit)
	if err != nil {
		return nil, err
	}
	out := make([]Proposal, 0, len(found.List))
	for _, f := range found.List {
		p := Proposal{Code: f[0], Key: f[1], About: nameOf(t, products, f[0], f[1])}
		p.Text, p.Because = sayProposal(p.Code, p.About), because(&p, looked, &past, zone)
		if taken, ok := answered[f[0]+" "+f[1]]; ok {
			p.Taken = &taken
		}
		out = append(out, p)
	}
	return out, nil
}

// openReaction is the grade of a client's worst reaction that is still open, 0 where there is none.
func openReaction(ctx context.Context, tx studio.Tx, client uuid.UUID) (grade int, err error) {
	list, err := studio.As[reactionStore](tx).Reactions(ctx, client)
	for i := range list {
		if list[i].ClosedAt == nil {
			grade = max(grade, list[i].Grade)
		}
	}
	return grade, err
}

// measured says what the rules ask of a client's measurements: whether there is any, how long ago the last one was, and
// which side is the weaker one.
func measured(ctx context.Context, within studio.Tx, past *suggestion.Past, v *studio.VisitLine, visits []studio.VisitLine) error {
	tx := studio.As[measureStore](within)
	all, err := tx.Measurements(ctx, v.Client)
	if err != nil {
		return err
	}
	all = slices.DeleteFunc(counting(all), func(m studio.Measurement) bool { return m.Instrument == studio.ByGrade || m.At.After(v.BusyUntil) })
	if past.Baseline = len(all) > 0; !past.Baseline {
		return nil
	}
	last := all[len(all)-1].At
	past.DaysSinceMeasured = int(v.StartsAt.Sub(last) / (24 * time.Hour))
	for i := range visits {
		if o := &visits[i]; o.State.Given() && o.StartsAt.After(last) && !o.StartsAt.After(v.StartsAt) {
			past.VisitsSinceMeasured++
		}
	}
	for i := range measuring.Measures {
		m := &measuring.Measures[i]
		for _, with := range m.Instruments {
			of := slices.DeleteFunc(slices.Clone(all), func(x studio.Measurement) bool { return x.Measure != m.Key || x.Instrument != with })
			if len(of) == 0 || past.AsymmetryReal != "" {
				continue
			}
			look := &looking{measure: m, with: with, zone: time.UTC, of: of}
			if look.noise, err = tx.Occasions(ctx, of[len(of)-1].Account, m.Key, with); err != nil {
				return err
			}
			if _, past.AsymmetryReal, _, err = look.asymmetry(); err != nil {
				return err
			}
		}
	}
	return nil
}

// visitOf is a treatment as the rules look at it.
func visitOf(a *guide.Account, t *studio.Treatment, of *studio.VisitLine) suggestion.Visit {
	v := suggestion.Visit{Planned: a.Planned, Real: a.Real, Less: a.Less, Quiet: a.Quiet}
	v.ExpectedRedness = t.Protocol.Method.ExpectedRedness()
	v.LateMinutes = guide.StartedLate(t.StartedAt.Sub(of.StartsAt).Seconds())
	for _, m := range a.Marks {
		switch m.Kind {
		case guide.Tender:
			v.Tender = append(v.Tender, [2]string{m.Zone, m.Side})
		case guide.Product:
			v.Added = append(v.Added, suggestion.Added{Product: m.Product, Minute: int(math.Round(m.Minute))})
		}
	}
	for key, grade := range a.Grades {
		if strings.HasPrefix(key, "redness/") {
			v.Redness = max(v.Redness, int(grade))
		}
	}
	for i := range a.Spells {
		sp := &a.Spells[i]
		step, _, _ := strings.Cut(sp.Spell, "/")
		if sp.Skipped && !slices.Contains(v.Skipped, step) {
			v.Skipped = append(v.Skipped, step)
		}
		if sp.Stayed > 0 && !slices.Contains(v.Stayed, step) {
			v.Stayed = append(v.Stayed, step)
		}
	}
	return v
}

// nameOf says by name what a proposal is about.
func nameOf(t *studio.Treatment, products []studio.Product, code, key string) string {
	switch code {
	case "lighter-here", "ask-here":
		zone, side, _ := strings.Cut(key, "/")
		name := zone
		if id, ok := anatomy.Lookup(zone); ok {
			name = strings.ToLower(id.Zone().Name)
		}
		if side == "left" || side == "right" {
			return side + " " + name
		}
		return name
	case "product-again", "other-form":
		product, minute, timed := strings.Cut(key, "@")
		minute = strings.TrimPrefix(minute, "-") // in the very first minute there is none before
		for i := range products {
			if products[i].Key == product {
				product = products[i].Name
			}
		}
		if timed {
			return words.ProductAtMinute(product, minute).Message
		}
		return product
	case "leave-step", "longer-dose":
		for i := range t.Evaluation.Steps {
			if t.Evaluation.Steps[i].ID == key {
				return t.Evaluation.Steps[i].Name
			}
		}
	}
	return key
}

// AnswerProposal takes a proposal into the next visit, or refuses it. What is about a place or a stroke becomes a note
// in the client's file, which the next plan and the guide show where it counts.
func (s *Service) AnswerProposal(ctx context.Context, a *studio.Actor, visit uuid.UUID, code, key string, taken bool) (*RecordView, error) {
	if err := a.May("answer-proposal"); err != nil {
		return nil, err
	}
	err := studio.In(ctx, s.Kernel, a, func(tx nextStore, st *studio.Studio) error {
		t, err := prepared(ctx, tx, a, "answer-proposal", visit)
		if err != nil {
			return err
		}
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		account, err := s.account(ctx, tx, t)
		if err != nil {
			return err
		}
		list, err := s.proposals(ctx, tx, st, t, v, account)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(list, func(p Proposal) bool { return p.Code == code && p.Key == key })
		if i < 0 {
			return studio.ErrNotFound
		}
		if list[i].Taken != nil && *list[i].Taken == taken {
			return nil // a repeat changes nothing
		}
		list[i].Taken = &taken
		if err := tx.SaveAnswer(ctx, visit, &list[i], a.Account, s.Now()); err != nil {
			return err
		}
		if note := noteOf(t, &list[i], s.Now()); taken && note != nil {
			note.ID, note.Author, note.At = studio.NewID(), a.Name, s.Now()
			return tx.AddClientNote(ctx, v.Client, a.Account, note)
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return s.Record(ctx, a, visit)
}

// noteOf is the note that a proposal becomes; nil where it is about no place and no stroke.
func noteOf(t *studio.Treatment, p *Proposal, at time.Time) *studio.ClientNote {
	day := at.Format("2 January 2006")
	var n studio.ClientNote
	switch p.Code {
	case "lighter-here":
		n.Body = words.NoteLighterHere(day).Message
	case "ask-here":
		n.Body = words.NoteAskHere(day).Message
	case "leave-step":
		n.Body = words.NoteLeaveStep(day).Message
	case "longer-dose":
		n.Body = words.NoteLongerDose(day).Message
	default:
		return nil
	}
	if p.Code == "lighter-here" || p.Code == "ask-here" {
		zone, side, _ := strings.Cut(p.Key, "/")
		n.Zone, n.Side = zone, side
		if n.Tidy() != nil {
			return nil
		}
		return &n
	}
	for i := range t.Evaluation.Steps {
		if t.Evaluation.Steps[i].ID == p.Key {
			n.Stroke = t.Evaluation.Steps[i].StrokeKey
			return &n
		}
	}
	return nil
}

// lastGrades are what was graded in the room the last time, by measure and side; empty where nothing was.
func (s *Service) lastGrades(ctx context.Context, within studio.Tx, v *studio.VisitLine) (map[string]float64, error) {
	events, err := studio.As[nextStore](within).GradedBefore(ctx, &v.Visit)
	if err != nil {
		return nil, err
	}
	out := map[string]float64{}
	l := guide.Log{Arrived: events}
	for key, grade := range l.Merge().Grades {
		measure, rest, _ := strings.Cut(key, "/")
		side, _, _ := strings.Cut(rest, "/")
		out[measure+"/"+side] = grade
	}
	return out, nil
}
