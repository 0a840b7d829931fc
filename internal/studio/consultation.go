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
	"softpalm/internal/craft/film"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/screening"
	"softpalm/internal/craft/substance"
)

// LinkLength is how long a client's private link opens the consultation.
const LinkLength = 72 * time.Hour

// Consultation is what a client told, at the studio or by a private link. It
// counts once a practitioner has reviewed it, and never changes after that.
type Consultation struct {
	ID          uuid.UUID                   `json:"id"`
	Client      uuid.UUID                   `json:"client"`
	Answers     map[string]screening.Answer `json:"answers"`
	About       About                       `json:"about"`
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
	Lists      []screening.List            `json:"lists"`
	Answers    map[string]screening.Answer `json:"answers"`
	About      About                       `json:"about"`
	Concerns   []Named                     `json:"concerns"`
	Zones      []anatomy.Zone              `json:"zones"`
	Today      string                      `json:"today"`
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
func (s *Service) asked(ctx context.Context, tx Tx, st *Studio) (*screening.Pack, error) {
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
	return st.Pack().For(screening.ScopeOf(plans, lib.context())), nil
}

// Questions is what to ask a client today.
type Questions struct {
	// Door are the door's rules; Missing those of the consultation that the standing
	// one does not answer (all of them where none stands).
	Door         []screening.Rule `json:"door"`
	Consultation []screening.Rule `json:"consultation"`
	Missing      []screening.Rule `json:"missing"`
	Lists        []screening.List `json:"lists"`
	// Carried are answers told before that still run; wishes stand as told.
	Carried map[string]screening.Answer `json:"carried"`
	// Standing are the answers of the standing consultation, About what was told with it.
	Standing map[string]screening.Answer `json:"standing"`
	About    About                       `json:"about"`
	// Since is the day of the last door check, HoldsUntil the day the consultation has
	// to be made again; empty where there is none.
	Since      string            `json:"since,omitempty"`
	HoldsUntil string            `json:"holdsUntil,omitempty"`
	Doubts     []screening.Doubt `json:"doubts"`
	Concerns   []Named           `json:"concerns"`
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

func (t *told) questions(st *Studio, asked *screening.Pack, today string) *Questions {
	q := &Questions{Door: asked.Of(screening.Door), Consultation: asked.Of(screening.Consultation), Missing: []screening.Rule{}, Lists: asked.Lists,
		Carried: map[string]screening.Answer{}, Standing: map[string]screening.Answer{}, Doubts: []screening.Doubt{}, Concerns: concernNames(), About: t.about()}
	if t.screening != nil {
		q.Since = t.screening.Day
	}
	if t.standing != nil {
		q.HoldsUntil, q.Standing = t.standing.until(), t.standing.Answers
		q.Doubts = append(q.Doubts, st.Pack().Doubts(t.standing.Answers, t.standing.About.Medicines)...)
	}
	q.Carried = t.carried(st.Pack(), today)
	if q.Since == today { // checked again: what was said this morning stands to be corrected
		q.Carried = only(st.Pack(), t.screening.Answers, screening.Door)
	}
	for _, r := range q.Consultation {
		if _, ok := q.Standing[r.ID]; !ok && r.Stage == screening.Consultation {
			q.Missing = append(q.Missing, r)
		}
	}
	for _, r := range q.Door {
		if a := q.Standing[r.ID]; r.Asks == screening.Choice && a.Option != "" && q.Since != today {
			q.Carried[r.ID] = a
		}
	}
	return q
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
		c := &Consultation{ID: newID(), Client: client, Answers: map[string]screening.Answer{}, PackVersion: st.Pack().Version, CreatedAt: s.Now(), LinkUntil: &until}
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
		v = LinkView{StudioName: st.Name, Questions: asked.Of(screening.Consultation), Lists: asked.Lists, Answers: c.Answers, About: c.About, Concerns: concernNames(), Zones: anatomy.Zones[:], Today: s.today(st)}
		if c.SentAt != nil {
			v.Sent, v.Questions, v.Answers, v.About = true, []screening.Rule{}, map[string]screening.Answer{}, About{}
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
// needs every answer. A consultation sent in is not changed by the link again.
func (s *Service) SaveLinked(ctx context.Context, token, from string, answers map[string]screening.Answer, about About, send bool) error {
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
		c.Answers, c.About = only(st.Pack(), answers, screening.Consultation), about
		if send {
			if ps := asked.Check(c.Answers, screening.Day(s.today(st)), screening.Consultation); len(ps) > 0 {
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

// Review counts a consultation that the client sent in from now on, with the
// answers as the practitioner and the client went through them.
func (s *Service) Review(ctx context.Context, a *Actor, client, id uuid.UUID, answers map[string]screening.Answer, about About) error {
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
		answers = only(st.Pack(), answers, screening.Consultation)
		if ps := asked.Check(answers, screening.Day(s.today(st)), screening.Consultation); len(ps) > 0 {
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
		again.Answers = t.with(pack, only(pack, again.Answers, screening.Door))
		maps.Copy(again.Answers, t.carried(pack, again.Day))
		if t.newer() {
			maps.Copy(again.Answers, t.undated(pack))
		}
	}
	again.Result = pack.Evaluate(again.Answers, t.subject(), screening.Day(again.Day))
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

// told is what is known of a client for judging a day.
type told struct {
	client    *Client
	standing  *Consultation
	screening *Screening // the newest
	letters   []screening.Permission
	patches   []screening.PatchTest
	used      map[string]bool // products used in earlier treatments, by key
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
	tests, err := tx.PatchTests(ctx, client)
	if err != nil {
		return nil, err
	}
	for _, p := range tests {
		t.patches = append(t.patches, p.PatchTest)
	}
	used, err := tx.UsedProducts(ctx, client)
	if err != nil {
		return nil, err
	}
	t.used = map[string]bool{}
	for _, key := range used {
		t.used[key] = true
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

// about is what the standing consultation tells besides its answers.
func (t *told) about() About {
	if t.standing == nil {
		return About{}
	}
	return t.standing.About
}

func (t *told) subject() screening.Subject {
	about := t.about()
	return screening.Subject{Born: screening.Day(t.client.BirthDate), SkinStates: t.client.SkinStates, Letters: t.letters, Medicines: about.Medicines, Allergies: about.Allergies}
}

// carried are the answers with a day of their own that still run on a day.
func (t *told) carried(pack *screening.Pack, day string) map[string]screening.Answer {
	var home, door map[string]screening.Answer
	if t.standing != nil {
		home = t.standing.Answers
	}
	if t.screening != nil {
		door = t.screening.Answers
	}
	return pack.Carried(home, door, t.newer(), screening.Day(day))
}

// newer reports whether the consultation was reviewed after the newest check.
func (t *told) newer() bool {
	return t.standing != nil && t.screening != nil && t.standing.ReviewedAt.After(t.screening.At)
}

// undated are the answers without a day of the consultation to rules that the
// door asks too: wishes, and spots marked at home.
func (t *told) undated(pack *screening.Pack) map[string]screening.Answer {
	out := map[string]screening.Answer{}
	if t.standing == nil {
		return out
	}
	for _, r := range pack.Rules {
		if a := t.standing.Answers[r.ID]; r.Stage == screening.Both && a.Day == "" && (a.Yes || a.Option != "") {
			out[r.ID] = a
		}
	}
	return out
}

// with joins answers given at the door to those of the consultation that only the
// consultation asks.
func (t *told) with(pack *screening.Pack, door map[string]screening.Answer) map[string]screening.Answer {
	out := maps.Clone(door)
	if t.standing != nil {
		for _, r := range pack.Rules {
			if a, ok := t.standing.Answers[r.ID]; ok && r.Stage == screening.Consultation {
				out[r.ID] = a
			}
		}
	}
	return out
}

// on judges a day from what is known now: the consultation, and of the door
// checks what carries a day of its own (a treatment elsewhere, a fever); a cold
// sore of today says nothing about next month.
func (t *told) on(pack *screening.Pack, day string) screening.Result {
	answers := t.with(pack, t.carried(pack, day))
	if t.screening != nil && day == t.screening.Day {
		answers = t.screening.Answers
	} else {
		for id, a := range t.undated(pack) { // wishes stand; a sore spot told at home stands until the door asks
			if a.Option != "" || t.screening == nil || t.newer() {
				answers[id] = a
			}
		}
	}
	return pack.Evaluate(answers, t.subject(), screening.Day(day))
}

// patchNeeds sorts out which of some products need a patch test, or showed a
// reaction, at a moment.
func (t *told) patchNeeds(products []*film.Product, at time.Time) (untested, reacted []string) {
	var answers map[string]screening.Answer
	if t.standing != nil {
		answers = t.standing.Answers
	}
	return screening.PatchNeeds(products, screening.PatchSensitive(t.client.SkinStates, answers), t.used, t.patches, at)
}

// look fills in what is to be expected of visits still to come.
func (s *Service) look(ctx context.Context, tx Tx, st *Studio, a *Actor, visits []VisitLine) error {
	known := map[uuid.UUID]*told{}
	plans := planProducts{}
	names := map[string]string{}
	pack, today := st.Pack(), s.today(st)
	for i := range visits {
		v := &visits[i]
		if v.Kind == ForPatchTest {
			if err := nameProducts(ctx, tx, names, v); err != nil {
				return err
			}
		}
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
				if res := t.on(pack, day); res.Headline != screening.Go && v.Kind == ForTreatment {
					v.Outlook, v.NotBefore = string(res.Headline), string(res.NotBefore)
				}
				products, err := plans.of(ctx, tx, v)
				if err != nil {
					return err
				}
				v.PatchFirst = nil
				untested, _ := t.patchNeeds(products, v.StartsAt)
				for _, p := range products {
					if slices.Contains(untested, p.Key) {
						v.PatchFirst = append(v.PatchFirst, p.Name)
					}
				}
			}
		}
		if a.Role == FrontDesk {
			v.Checked, v.Outlook = deskWord(v.Checked), deskWord(v.Outlook)
		}
	}
	return nil
}

// nameProducts tells what a patch-test visit is for. names are those known so far.
func nameProducts(ctx context.Context, tx Tx, names map[string]string, v *VisitLine) error {
	if len(names) == 0 {
		products, err := tx.Products(ctx)
		if err != nil {
			return err
		}
		for _, p := range products {
			names[p.Key] = p.Name
		}
	}
	list := make([]string, len(v.Products))
	for i, key := range v.Products {
		list[i] = names[key]
	}
	v.ProtocolName += ": " + strings.Join(list, ", ")
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
	// Scans are the answer as it came, on paper.
	Scans []Scan `json:"scans"`
}

// Scan is a doctor's answer as it came.
type Scan struct {
	ID   uuid.UUID `json:"id"`
	Type string    `json:"type" enum:"application/pdf,image/jpeg,image/png"`
	At   time.Time `json:"at"`
}

// ScanBytes is how large a scan may be.
const ScanBytes = 5 << 20

// scanType tells a PDF, a JPEG and a PNG file by how they begin; "" for others.
func scanType(data []byte) string {
	for _, k := range []struct{ begins, kind string }{{"%PDF-", "application/pdf"}, {"\xFF\xD8\xFF", "image/jpeg"}, {"\x89PNG\r\n\x1A\n", "image/png"}} {
		if strings.HasPrefix(string(data), k.begins) {
			return k.kind
		}
	}
	return ""
}

// AddScan keeps a doctor's answer as it came: a PDF or a picture, told by what is
// in the file and not by its name.
func (s *Service) AddScan(ctx context.Context, a *Actor, letter uuid.UUID, data []byte) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	scan := &Scan{ID: newID(), Type: scanType(data), At: s.Now()}
	switch {
	case len(data) == 0:
		return problem("", "The file is empty.")
	case len(data) > ScanBytes:
		return problem("", "The file is larger than 5 MB. Scan it again with fewer dots to the inch.")
	case scan.Type == "":
		return problem("", "A scan is a PDF, a JPEG or a PNG file.")
	}
	return s.in(ctx, a, func(tx Tx, _ *Studio) error {
		l, err := tx.Letter(ctx, letter)
		if err != nil {
			return err
		}
		if err := tx.AddScan(ctx, letter, scan, data, a.Account); err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "attach scan", "client", l.Client)
	})
}

// Scan returns a scan; the look is logged.
func (s *Service) Scan(ctx context.Context, a *Actor, id uuid.UUID) (kind string, data []byte, err error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return "", nil, err
	}
	err = s.in(ctx, a, func(tx Tx, _ *Studio) error {
		var client uuid.UUID
		if kind, data, client, err = tx.Scan(ctx, id); err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "look at scan", "client", client)
	})
	return kind, data, err
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
	l := &Letter{ID: newID(), Client: client, Visit: visit, Question: question, WrittenAt: s.Now(), WrittenBy: a.Account, Rules: []string{}, Scans: []Scan{}}
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
	About   About
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
		p.Answers, p.About = t.standing.Answers, t.standing.About
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
