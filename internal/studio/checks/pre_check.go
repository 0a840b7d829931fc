package checks

import (
	"context"
	"errors"
	"maps"
	"slices"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/problem"
	"softpalm/internal/studio"
	"softpalm/words"
)

// checkStore is what a pre-treatment check is made of.
type checkStore interface {
	consultationStore
	checkReader
	Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
}

// consulted is the consultation that answers given at the pre-treatment check make: a whole new
// one (renewed), the standing one with the answers it lacked, or nil where only
// the pre-treatment questions were answered and nothing was missing.
func (t *clientSnapshot) consulted(
	q *Questions,
	answers map[string]contraindication.Answer,
	about *studio.ClientHistory,
	today calendar.Day,
) (c *studio.Consultation, renewed bool, faults []problem.Fault) {
	given, own := map[string]contraindication.Answer{}, map[string]contraindication.Answer{} // own: what the door would not ask
	for _, r := range q.Consultation {
		if a, ok := answers[r.ID]; ok {
			given[r.ID] = a
			if r.Stage == contraindication.Consultation {
				own[r.ID] = a
			}
		}
	}
	all, missing := &contraindication.Pack{Rules: q.Consultation}, &contraindication.Pack{Rules: q.Missing}
	c = &studio.Consultation{ID: studio.NewID(), Client: t.client.ID, Answers: given, History: t.history()}
	if about != nil {
		c.History = *about
	}
	onlyMissing := t.currentConsultation != nil && about == nil
	for id := range own {
		onlyMissing = onlyMissing && slices.ContainsFunc(q.Missing, func(r contraindication.Rule) bool { return r.ID == id })
	}
	if !onlyMissing {
		return c, true, all.Check(given, today, contraindication.Consultation)
	}
	if faults = missing.Check(given, today, contraindication.Consultation); len(own) == 0 {
		return nil, false, faults
	}
	c.Answers = maps.Clone(t.currentConsultation.Answers)
	maps.Copy(c.Answers, own)
	return c, false, faults
}

// SavePreCheck judges the answers of a pre-treatment check, together with what the consultation
// tells, and keeps them as they are today. Where there is no current consultation, or where
// answers to its questions (or what goes with them) are sent, all of them are
// needed, and count as a consultation made in the studio; questions that the
// standing one was never asked are asked in passing. A check may be for a visit,
// or on its own. together are the rules that were answered no in one go, by somebody who
// says to have asked each.
func (s *Service) SavePreCheck(
	ctx context.Context,
	a *studio.Actor,
	client uuid.UUID,
	visit *uuid.UUID,
	answers map[string]contraindication.Answer,
	about *studio.ClientHistory,
	together []string,
) (*studio.PreCheck, error) {
	if err := a.May("save-pre-check"); err != nil {
		return nil, err
	}
	var out *studio.PreCheck
	err := studio.In(ctx, s.Kernel, a, func(tx checkStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "save-pre-check", client); err != nil {
			return err
		}
		known, err := s.loadClientSnapshot(ctx, tx, st, client)
		if err != nil {
			return err
		}
		if visit != nil {
			v, err := tx.Visit(ctx, *visit)
			if err != nil {
				return err
			}
			if v.Client != client {
				return studio.FaultAt("/visit", words.ThisAppointmentBelongsToAnotherClient())
			}
		}
		asked, err := s.asked(ctx, tx, st)
		if err != nil {
			return err
		}
		pack, day := st.Pack(), calendar.Day(s.Today(st))
		q := known.questions(st, asked, string(day))
		answers = contraindication.Dated(answers, day)
		home, renewed, faults := known.consulted(q, answers, about, day)
		door := &contraindication.Pack{Rules: q.PreCheck}
		for _, f := range door.Check(answers, day, contraindication.PreTreatment) {
			if !slices.ContainsFunc(faults, func(x problem.Fault) bool { return x.Path == f.Path }) {
				faults = append(faults, f)
			}
		}
		if len(faults) > 0 {
			return &studio.InputError{Problems: faults}
		}
		if home != nil {
			since := string(day)
			if !renewed {
				since = known.currentConsultation.Day
			}
			if err := s.review(ctx, tx, st, a, home, since, tx.AddConsultation); err != nil {
				return err
			}
			if known, err = s.loadClientSnapshot(ctx, tx, st, client); err != nil {
				return err
			}
		}
		for _, r := range asked.RulesAt(contraindication.PreTreatment) { // gone through an hour ago
			if _, ok := answers[r.ID]; !ok && known.reviewedToday(&r, string(day)) {
				answers[r.ID] = known.currentConsultation.Answers[r.ID]
			}
		}
		out = known.judge(pack, answersAt(pack, answers, contraindication.PreTreatment), day)
		out.Visit, out.Account, out.At = visit, a.Account, s.Now()
		out.Together = answeredNo(answers, together)
		if err := tx.AddPreCheck(ctx, out); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "screen", "client", client)
	})
	return out, err
}

// answeredNo keeps, of rules said to be answered no together, those that were.
func answeredNo(answers map[string]contraindication.Answer, rules []string) []string {
	out := []string{}
	for _, r := range rules {
		if a, ok := answers[r]; ok && !a.Yes && a.Option == "" && len(a.Grades) == 0 && !slices.Contains(out, r) {
			out = append(out, r)
		}
	}
	return out
}

// noPreCheck says that there is none where that is what an error means.
func noPreCheck(err error) error {
	if errors.Is(err, studio.ErrNotFound) {
		return &studio.StateError{Code: "no-door-check", Sentence: words.ThereNoCheckForTodayYetDo()}
	}
	return err
}

// checkReader reads a client's checks.
type checkReader interface {
	// PreCheckOn returns the newest of a day.
	PreCheckOn(ctx context.Context, client uuid.UUID, day string) (*studio.PreCheck, error)
}

// todaysPreCheck returns the client's newest pre-treatment check of the day, whichever
// visit it was made for: a cold sore found before the second visit counts for the
// first as well. A check is valid on its day only.
func todaysPreCheck(ctx context.Context, tx checkReader, client uuid.UUID, today string) (*studio.PreCheck, error) {
	return tx.PreCheckOn(ctx, client, today)
}

// judge makes a check of the answers given at the pre-treatment check, together with what the
// consultation tells, on a day.
func (t *clientSnapshot) judge(
	pack *contraindication.Pack,
	door map[string]contraindication.Answer,
	day calendar.Day,
) *studio.PreCheck {
	answers := t.withConsultation(pack, door)
	return &studio.PreCheck{
		ID:          studio.NewID(),
		Client:      t.client.ID,
		Day:         string(day),
		Answers:     answers,
		History:     t.history(),
		PackVersion: pack.Version,
		Result:      pack.Evaluate(answers, t.subject(), day),
	}
}

// JudgePreCheck judges a check that was made elsewhere, on its day, with what is known
// of the client. It is not kept.
func (s *Service) JudgePreCheck(
	ctx context.Context,
	within studio.Tx,
	st *studio.Studio,
	client uuid.UUID,
	day calendar.Day,
	door map[string]contraindication.Answer,
) (*studio.PreCheck, error) {
	tx := studio.As[checkStore](within)
	t, err := s.loadClientSnapshot(ctx, tx, st, client)
	if err != nil {
		return nil, err
	}
	return t.judge(st.Pack(), door, day), nil
}

// Expect judges a day from what is known of a client now, and returns the newest
// check beside it, nil where there is none.
func (s *Service) Expect(
	ctx context.Context,
	within studio.Tx,
	st *studio.Studio,
	client uuid.UUID,
	day string,
) (contraindication.Result, *studio.PreCheck, error) {
	tx := studio.As[checkStore](within)
	t, err := s.loadClientSnapshot(ctx, tx, st, client)
	if err != nil {
		return contraindication.Result{}, nil, err
	}
	return t.judgeDay(st.Pack(), day), t.newestCheck, nil
}
