package studio

import (
	"context"
	"errors"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/screening"
)

// LinkLength is how long a client's private link opens the consultation.
const LinkLength = 72 * time.Hour

// Consultation is what a client told, at the studio or by a private link. It
// counts once a practitioner has reviewed it, and never changes after that.
type Consultation struct {
	ID          uuid.UUID                   `json:"id"`
	Client      uuid.UUID                   `json:"client"`
	Answers     map[string]screening.Answer `json:"answers"`
	PackVersion string                      `json:"packVersion"`
	CreatedAt   time.Time                   `json:"createdAt"`
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
	return t.AddDate(0, screening.ConsultationMonths, 0).Format(time.DateOnly)
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
	StudioName string                      `json:"studioName"`
	Questions  []screening.Rule            `json:"questions"`
	Answers    map[string]screening.Answer `json:"answers"`
	Zones      []anatomy.Zone              `json:"zones"`
	Today      string                      `json:"today"`
	// Sent says that the answers were sent in: the link has done its work.
	Sent bool `json:"sent"`
}

// NewLink opens a consultation for a client to fill in by a private link, and
// returns the link's token. What was told last time is there to be confirmed.
func (s *Service) NewLink(ctx context.Context, a *Actor, client uuid.UUID) (token string, until time.Time, err error) {
	token, until = secret(), s.Now().Add(LinkLength)
	err = s.in(ctx, a, func(tx Tx, st *Studio) error {
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		list, err := tx.Consultations(ctx, client)
		if err != nil {
			return err
		}
		c := &Consultation{ID: newID(), Client: client, Answers: map[string]screening.Answer{}, PackVersion: st.Pack().Version, CreatedAt: s.Now(), LinkUntil: &until}
		if was := standing(list, s.today(st)); was != nil {
			c.Answers = was.Answers
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
	err := s.linked(ctx, token, from, func(_ Tx, st *Studio, c *Consultation) error {
		v = LinkView{StudioName: st.Name, Questions: st.Pack().Of(screening.Consultation), Answers: c.Answers, Zones: anatomy.Zones[:], Today: s.today(st)}
		if c.SentAt != nil {
			v.Sent, v.Questions, v.Answers = true, []screening.Rule{}, map[string]screening.Answer{}
		}
		return nil
	})
	return &v, err
}

// SaveLinked keeps what the client has answered so far; send sends it in, which
// needs every answer. A consultation sent in is not changed by the link again.
func (s *Service) SaveLinked(ctx context.Context, token, from string, answers map[string]screening.Answer, send bool) error {
	return s.linked(ctx, token, from, func(tx Tx, st *Studio, c *Consultation) error {
		if c.SentAt != nil {
			return nil // sent twice: it is there
		}
		c.Answers = only(st.Pack(), answers, screening.Consultation)
		if send {
			if ps := st.Pack().Check(c.Answers, screening.Day(s.today(st)), screening.Consultation); len(ps) > 0 {
				return &InputError{ps}
			}
			now := s.Now()
			c.SentAt = &now
		}
		return tx.SaveConsultation(ctx, c)
	})
}

// only keeps the answers to the rules of a stage.
func only(pack *screening.Pack, answers map[string]screening.Answer, stage screening.Stage) map[string]screening.Answer {
	out := map[string]screening.Answer{}
	for _, r := range pack.Of(stage) {
		if a, ok := answers[r.ID]; ok {
			out[r.ID] = a
		}
	}
	return out
}

// Review counts a consultation from now on, with the answers as the practitioner
// and the client went through them. A nil id is one made in the studio.
func (s *Service) Review(ctx context.Context, a *Actor, client uuid.UUID, id *uuid.UUID, answers map[string]screening.Answer) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	return s.in(ctx, a, func(tx Tx, st *Studio) error {
		if err := s.review(ctx, tx, st, a, client, id, answers); err != nil {
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
	again.ID, again.Account, again.At, again.PackVersion = newID(), a.Account, s.Now(), pack.Version
	if t.standing != nil {
		again.Answers = only(pack, again.Answers, screening.Door)
		maps.Copy(again.Answers, t.standing.Answers)
	}
	again.Result = pack.Evaluate(again.Answers, t.subject(), screening.Day(again.Day))
	return tx.AddScreening(ctx, &again)
}

func (s *Service) review(ctx context.Context, tx Tx, st *Studio, a *Actor, client uuid.UUID, id *uuid.UUID, answers map[string]screening.Answer) error {
	pack, now, today := st.Pack(), s.Now(), s.today(st)
	answers = only(pack, answers, screening.Consultation)
	if ps := pack.Check(answers, screening.Day(today), screening.Consultation); len(ps) > 0 {
		return &InputError{ps}
	}
	c := &Consultation{ID: newID(), Client: client, CreatedAt: now}
	if id != nil {
		was, err := tx.Consultation(ctx, *id)
		if err != nil {
			return err
		}
		if was.Client != client {
			return ErrNotFound
		}
		if was.ReviewedAt != nil {
			return ErrLocked
		}
		c = was
	}
	c.Answers, c.PackVersion, c.ReviewedAt, c.ReviewedBy, c.Day = answers, pack.Version, &now, &a.Account, today
	save := tx.SaveConsultation
	if id == nil {
		save = tx.AddConsultation
	}
	if err := save(ctx, c); err != nil {
		return err
	}
	return s.audit(ctx, tx, a, "review consultation", "client", client)
}

// told is what is known of a client for judging a day.
type told struct {
	client    *Client
	standing  *Consultation
	screening *Screening // the newest
	letters   []screening.Permission
}

func (s *Service) told(ctx context.Context, tx Tx, st *Studio, client uuid.UUID) (*told, error) {
	t := &told{}
	var err error
	if t.client, err = tx.Client(ctx, client); err != nil {
		return nil, err
	}
	list, err := tx.Consultations(ctx, client)
	if err != nil {
		return nil, err
	}
	t.standing = standing(list, s.today(st))
	checks, err := tx.Screenings(ctx, client)
	if err != nil {
		return nil, err
	}
	if len(checks) > 0 {
		t.screening = &checks[0]
	}
	letters, err := tx.Letters(ctx, client)
	if err != nil {
		return nil, err
	}
	slices.SortStableFunc(letters, func(a, b Letter) int { return answeredAt(b).Compare(answeredAt(a)) })
	settled := map[string]bool{} // the newest answer to a rule counts, also a no
	for _, l := range letters {
		for _, r := range l.Rules {
			if l.Answer == "" || settled[r] {
				continue
			}
			settled[r] = true
			if l.Answer == "yes" {
				t.letters = append(t.letters, screening.Permission{Rule: r, Until: screening.Day(l.Until)})
			}
		}
	}
	return t, nil
}

func answeredAt(l Letter) time.Time {
	if l.AnsweredAt == nil {
		return time.Time{}
	}
	return *l.AnsweredAt
}

func (t *told) subject() screening.Subject {
	return screening.Subject{Born: screening.Day(t.client.BirthDate), SkinStates: t.client.SkinStates, Letters: t.letters}
}

// on judges a day from what is known now: the consultation, and of the door
// checks what carries a day of its own (a treatment elsewhere, a fever); a cold
// sore of today says nothing about next month.
func (t *told) on(pack *screening.Pack, day string) screening.Result {
	answers := map[string]screening.Answer{}
	if t.standing != nil {
		maps.Copy(answers, t.standing.Answers)
	}
	if t.screening != nil {
		for _, r := range pack.Rules {
			if a, ok := t.screening.Answers[r.ID]; ok && r.Stage == screening.Door && a.Day != "" {
				answers[r.ID] = a
			}
		}
		if day == t.screening.Day {
			answers = t.screening.Answers
		}
	}
	return pack.Evaluate(answers, t.subject(), screening.Day(day))
}

// look fills in what is to be expected of visits still to come.
func (s *Service) look(ctx context.Context, tx Tx, st *Studio, a *Actor, visits []VisitLine) error {
	known := map[uuid.UUID]*told{}
	pack, today := st.Pack(), s.today(st)
	for i := range visits {
		v := &visits[i]
		day := v.StartsAt.In(st.Zone()).Format(time.DateOnly)
		if v.State == Booked || v.State == Confirmed || v.State == Arrived {
			if day >= today && v.Checked == "" {
				t := known[v.Client]
				if t == nil {
					var err error
					if t, err = s.told(ctx, tx, st, v.Client); err != nil {
						return err
					}
					known[v.Client] = t
				}
				if res := t.on(pack, day); res.Headline != screening.Go {
					v.Outlook, v.NotBefore = string(res.Headline), string(res.NotBefore)
				}
			}
		}
		if a.Role == FrontDesk {
			v.Checked, v.Outlook = deskWord(v.Checked), deskWord(v.Outlook)
		}
	}
	return nil
}

// Letter asks a client's doctor whether a planned treatment may be given.
type Letter struct {
	ID     uuid.UUID  `json:"id"`
	Client uuid.UUID  `json:"client"`
	Visit  *uuid.UUID `json:"visit,omitempty"`
	// Rules are those that ask for the letter.
	Rules     []string  `json:"rules"`
	Protocol  string    `json:"protocol"`
	Question  string    `json:"question"`
	WrittenAt time.Time `json:"writtenAt"`
	WrittenBy uuid.UUID `json:"-"`
	// Answer is empty until it came back, then yes or no; a yes holds through Until.
	Answer     string     `json:"answer" enum:"yes,no,"`
	Note       string     `json:"note"`
	Until      string     `json:"until,omitempty"`
	AnsweredAt *time.Time `json:"answeredAt,omitempty"`
}

// WriteLetter writes the letter that the newest door check asks for; the
// question is the practitioner's own.
func (s *Service) WriteLetter(ctx context.Context, a *Actor, client uuid.UUID, visit *uuid.UUID, question string) (*Letter, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	question = strings.TrimSpace(question)
	if question == "" || len(question) > 2000 {
		return nil, problem("/question", "Write the question to the doctor, at most 2000 characters.")
	}
	l := &Letter{ID: newID(), Client: client, Visit: visit, Question: question, WrittenAt: s.Now(), WrittenBy: a.Account, Rules: []string{}}
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		t, err := s.told(ctx, tx, st, client)
		if err != nil {
			return err
		}
		if t.screening != nil {
			for _, o := range t.screening.Result.Outcomes {
				if o.Kind == screening.Letter && !slices.Contains(l.Rules, o.Rule) {
					l.Rules = append(l.Rules, o.Rule)
				}
			}
		}
		if len(l.Rules) == 0 {
			return &StateError{"no-letter", "The last door check asks for no letter. Check at the door first."}
		}
		if visit != nil {
			v, err := tx.Visit(ctx, *visit)
			if err != nil {
				return err
			}
			l.Protocol = v.ProtocolName
		}
		if err := tx.AddLetter(ctx, l); err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "write letter", "client", client)
	})
	return l, err
}

// AnswerLetter records what the doctor answered, once. A yes holds through its
// last day, and the newest door check of today is judged again with it.
func (s *Service) AnswerLetter(ctx context.Context, a *Actor, id uuid.UUID, yes bool, until, note string) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	return s.in(ctx, a, func(tx Tx, st *Studio) error {
		l, err := tx.Letter(ctx, id)
		if err != nil {
			return err
		}
		if l.AnsweredAt != nil {
			return ErrLocked
		}
		today := s.today(st)
		if yes && (!screening.Day(until).Valid() || until < today) {
			return problem("/until", "Give the last day the doctor's answer holds, today or later.")
		}
		now := s.Now()
		l.AnsweredAt, l.Note, l.Answer = &now, strings.TrimSpace(note), "no"
		if yes {
			l.Answer, l.Until = "yes", until
		}
		if err := tx.AnswerLetter(ctx, l); err != nil {
			return err
		}
		if err := s.judgeAgain(ctx, tx, st, a, l.Client); err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "answer letter", "client", l.Client)
	})
}

// Paper is what a paper about a client is made of.
type Paper struct {
	Studio  string
	Client  Client
	Pack    *screening.Pack
	Letter  *Letter
	Answers map[string]screening.Answer
	// Screening is the newest, nil where there is none.
	Screening *Screening
}

// LetterPaper returns what a letter prints.
func (s *Service) LetterPaper(ctx context.Context, a *Actor, id uuid.UUID) (*Paper, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	var out *Paper
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		l, err := tx.Letter(ctx, id)
		if err != nil {
			return err
		}
		out, err = s.paper(ctx, tx, st, a, l.Client)
		if err == nil {
			out.Letter = l
		}
		return err
	})
	return out, err
}

// SummaryPaper returns what a client's one-page summary prints.
func (s *Service) SummaryPaper(ctx context.Context, a *Actor, client uuid.UUID) (*Paper, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	var out *Paper
	err := s.in(ctx, a, func(tx Tx, st *Studio) (err error) {
		out, err = s.paper(ctx, tx, st, a, client)
		return err
	})
	return out, err
}

func (s *Service) paper(ctx context.Context, tx Tx, st *Studio, a *Actor, client uuid.UUID) (*Paper, error) {
	t, err := s.told(ctx, tx, st, client)
	if err != nil {
		return nil, err
	}
	p := &Paper{Studio: st.Name, Client: *t.client, Pack: st.Pack(), Screening: t.screening, Answers: map[string]screening.Answer{}}
	if t.standing != nil {
		p.Answers = t.standing.Answers
	}
	return p, s.audit(ctx, tx, a, "print", "client", client)
}

// AuditLine is a line of the audit log.
type AuditLine struct {
	At      time.Time `json:"at"`
	Account string    `json:"account"`
	Action  string    `json:"action"`
	Subject string    `json:"subject"`
	// Client is the client's name where the line is about one.
	Client string `json:"client,omitempty"`
}

// auditPage is how many lines of the log a page holds.
const auditPage = 200

// AuditLog returns the newest lines of the log before a moment; for the owner.
func (s *Service) AuditLog(ctx context.Context, a *Actor, before time.Time) (list []AuditLine, err error) {
	if err := a.may(Owner); err != nil {
		return nil, err
	}
	if before.IsZero() {
		before = s.Now().Add(time.Minute)
	}
	err = s.in(ctx, a, func(tx Tx, _ *Studio) error {
		list, err = tx.AuditLog(ctx, before, auditPage)
		return err
	})
	return list, err
}
