package treatment

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/reaction"
	"softpalm/internal/studio"
	"softpalm/words"
)

// FollowUpAnswer is what was said when a reaction was asked about again.
type FollowUpAnswer struct {
	Now reaction.Now `json:"now" enum:"better,same,worse,gone,not-reached"`
	// Grade at this time; it counts for what follows where it is worse than before. Nil where nobody was reached.
	Grade *int   `json:"grade,omitempty" minimum:"0" maximum:"4"`
	Note  string `json:"note" maxLength:"2000"`
	// Doctor says that the client was handed to a doctor: the reaction is closed.
	Doctor bool `json:"doctor,omitempty"`
}

// Hours after which it is asked again: where nobody was reached, and where it is not over after the last time.
const (
	tryAgainHours = 24
	stillOpen     = 168
)

func (f *FollowUpAnswer) check() error {
	f.Note = strings.TrimSpace(f.Note)
	reached := f.Now != reaction.NotReached
	switch {
	case !slices.Contains([]reaction.Now{reaction.Better, reaction.Same, reaction.Worse, reaction.Gone, reaction.NotReached}, f.Now):
		return studio.FaultAt("/now", words.ChooseHowItIsNow())
	case reached && f.Now != reaction.Gone && f.Grade == nil:
		return studio.FaultAt("/grade", words.ChooseAGrade())
	case !reached && f.Doctor:
		return studio.FaultAt("/doctor", words.NobodyWasReachedSoStaysOpen())
	}
	if !reached || f.Now == reaction.Gone {
		f.Grade = nil
	}
	return nil
}

// AnswerFollowUp keeps what was said when a reaction was asked about again. A worse grade counts anew for products,
// lots and times to ask; gone, or handed to a doctor, closes it. The same follow-up once more changes nothing.
func (s *Service) AnswerFollowUp(ctx context.Context, a *studio.Actor, id uuid.UUID, n int, f FollowUpAnswer) (*ReactionView, error) {
	if err := a.May("answer-follow-up"); err != nil {
		return nil, err
	}
	if err := f.check(); err != nil {
		return nil, err
	}
	var out *ReactionView
	err := s.onReaction(ctx, a, "answer-follow-up", id, &out, func(tx reactionStore, st *studio.Studio, r *studio.Reaction) error {
		i := slices.IndexFunc(r.FollowUp, func(u studio.FollowUp) bool { return u.N == n })
		if i < 0 {
			return studio.ErrNotFound
		}
		if r.FollowUp[i].DoneAt != nil {
			return nil
		}
		now := s.Now()
		u := &r.FollowUp[i]
		u.DoneAt, u.Now, u.Grade, u.Note = &now, f.Now, f.Grade, f.Note
		if err := tx.SaveFollowUp(ctx, id, u, a.Account); err != nil {
			return err
		}
		if err := s.Audit(ctx, tx, a, "follow up reaction", "client", r.Client); err != nil {
			return err
		}
		if f.Now == reaction.Gone || f.Doctor {
			outcome := reaction.Settled
			if f.Doctor {
				outcome = reaction.Doctor
			}
			return s.close(ctx, tx, a, r, outcome, f.Note)
		}
		if f.Grade != nil && *f.Grade > r.Grade {
			return s.worse(ctx, tx, st, a, r, *f.Grade)
		}
		return askOn(ctx, tx, st, r, f.Now, now)
	})
	return out, err
}

// worse raises the grade of a reaction: what follows is worked out anew, counted from now.
func (s *Service) worse(ctx context.Context, tx reactionStore, st *studio.Studio, a *studio.Actor, r *studio.Reaction, grade int) error {
	r.Grade = grade
	if err := tx.SaveReaction(ctx, r, a.Account); err != nil {
		return err
	}
	if err := s.follow(ctx, tx, st, a, r); err != nil {
		return err
	}
	return tx.PlanFollowUps(ctx, r.ID, dueTimes(s.Now().In(st.Zone()), grade))
}

// askOn adds a time to ask where none is left, or none soon enough because nobody was reached.
func askOn(ctx context.Context, tx reactionStore, st *studio.Studio, r *studio.Reaction, said reaction.Now, now time.Time) error {
	local := now.In(st.Zone())
	after := func(hours int) time.Time { return onDay(local, reaction.After(local.Hour()*60+local.Minute(), hours)) }
	var due []time.Time
	for i := range r.FollowUp {
		if u := &r.FollowUp[i]; u.DoneAt == nil {
			due = append(due, u.DueAt)
		}
	}
	switch {
	case said == reaction.NotReached && (len(due) == 0 || due[0].After(after(tryAgainHours))):
		due = append([]time.Time{after(tryAgainHours)}, due...)
	case len(due) == 0:
		due = []time.Time{after(stillOpen)}
	default:
		return nil
	}
	return tx.PlanFollowUps(ctx, r.ID, due)
}

// CloseReaction closes a reaction: settled, handed to a doctor, or written down by mistake. What a mistake barred is
// free again; lots that were set aside stay so until somebody lets them be used.
func (s *Service) CloseReaction(ctx context.Context, a *studio.Actor, id uuid.UUID, outcome reaction.Outcome, note string) (*ReactionView, error) {
	if err := a.May("close-reaction"); err != nil {
		return nil, err
	}
	note = strings.TrimSpace(note)
	if outcome == reaction.Mistake && note == "" {
		return nil, studio.FaultAt("/note", words.SayWhyItWasNoReaction())
	}
	var out *ReactionView
	err := s.onReaction(ctx, a, "close-reaction", id, &out, func(tx reactionStore, st *studio.Studio, r *studio.Reaction) error {
		if r.ClosedAt != nil && r.Outcome == outcome {
			return nil
		}
		if err := s.close(ctx, tx, a, r, outcome, note); err != nil {
			return err
		}
		if outcome == reaction.Mistake {
			return s.follow(ctx, tx, st, a, r)
		}
		return nil
	})
	return out, err
}

func (s *Service) close(ctx context.Context, tx reactionStore, a *studio.Actor, r *studio.Reaction, outcome reaction.Outcome, note string) error {
	now := s.Now()
	r.Outcome, r.ClosedAt, r.Note = outcome, &now, note
	if err := tx.SaveReaction(ctx, r, a.Account); err != nil {
		return err
	}
	if err := s.Audit(ctx, tx, a, "close reaction", "client", r.Client); err != nil {
		return err
	}
	return tx.PlanFollowUps(ctx, r.ID, nil)
}

// onReaction holds a reaction while something is done to it, and returns what it is then.
func (s *Service) onReaction(
	ctx context.Context, a *studio.Actor, operation string, id uuid.UUID, out **ReactionView,
	do func(tx reactionStore, st *studio.Studio, r *studio.Reaction) error,
) error {
	return studio.In(ctx, s.Kernel, a, func(tx reactionStore, st *studio.Studio) error {
		r, err := tx.LockReaction(ctx, id)
		if err != nil {
			return err
		}
		if err := a.MayClient(ctx, tx, operation, r.Client); err != nil {
			return err
		}
		if err := do(tx, st, r); err != nil {
			return err
		}
		if r, err = tx.LockReaction(ctx, id); err != nil {
			return err
		}
		*out, err = s.reactionView(ctx, tx, st, r)
		return err
	})
}

// ReactionReport returns a reaction to be printed for a supplier or an authority, without other clients.
func (s *Service) ReactionReport(ctx context.Context, a *studio.Actor, id uuid.UUID) (*ReactionReport, error) {
	if err := a.May("print-reaction"); err != nil {
		return nil, err
	}
	out := &ReactionReport{}
	var view *ReactionView
	err := s.onReaction(ctx, a, "print-reaction", id, &view, func(tx reactionStore, _ *studio.Studio, r *studio.Reaction) error {
		c, err := tx.Client(ctx, r.Client)
		if err != nil {
			return err
		}
		out.Initials, out.Born = initials(c.Name), c.BirthDate[:min(4, len(c.BirthDate))]
		return s.Audit(ctx, tx, a, "print reaction", "client", r.Client)
	})
	if err != nil {
		return nil, err
	}
	view.Others, view.ClientName = nil, ""
	out.ReactionView = *view
	return out, nil
}

// ReactionReport is a reaction as others may read it: the client by initials and year of birth.
type ReactionReport struct {
	ReactionView
	Initials, Born string
}

// initials are the first letters of a name's words.
func initials(name string) string {
	var out []string
	for _, word := range strings.Fields(name) {
		for _, letter := range word {
			out = append(out, string(letter)+".")
			break
		}
	}
	return strings.Join(out, " ")
}
