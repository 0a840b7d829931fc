package checks

import (
	"context"
	"maps"
	"slices"
	"strconv"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/reaction"
	"softpalm/internal/craft/slip"
	"softpalm/internal/studio"
)

// snapshotStore is what the checks know of clients.
type snapshotStore interface {
	studio.Tx
	// ReadClientFacts gathers what is known of some clients, in a fixed number of queries.
	ReadClientFacts(ctx context.Context, clients []uuid.UUID, today string) (map[uuid.UUID]*studio.ClientFacts, error)
	Products(ctx context.Context) ([]studio.Product, error)                          // by name
	VersionProducts(ctx context.Context, id uuid.UUID, number int) ([]string, error) // keys, each once
	// ClientChanges counts what has changed in the files of some clients; 0 where nothing has.
	ClientChanges(ctx context.Context, clients []uuid.UUID) (map[uuid.UUID]int64, error)
	// OpenLetters are the clients, of some, who wait for a doctor's answer.
	OpenLetters(ctx context.Context, clients []uuid.UUID) (map[uuid.UUID]bool, error)
}

// clientSnapshot is what is known of a client for judging a day.
type clientSnapshot struct {
	client              *studio.Client
	currentConsultation *studio.Consultation
	newestCheck         *studio.PreCheck // the newest
	letters             []contraindication.LetterConsent
	patches             []patch.PatchTest
	used                map[string]bool // products used in earlier treatments, by key
	bars                []reaction.Standing
	state               studio.ConsultationState
	consented           []studio.ConsentKind
}

func (s *Service) loadClientSnapshot(
	ctx context.Context,
	tx snapshotStore,
	st *studio.Studio,
	client uuid.UUID,
) (*clientSnapshot, error) {
	all, err := s.loadClientSnapshots(ctx, tx, st, []uuid.UUID{client})
	if err != nil {
		return nil, err
	}
	if all[client] == nil {
		return nil, studio.ErrNotFound
	}
	return all[client], nil
}

// loadClientSnapshots gathers it for several clients at once.
func (s *Service) loadClientSnapshots(
	ctx context.Context,
	tx snapshotStore,
	st *studio.Studio,
	clients []uuid.UUID,
) (map[uuid.UUID]*clientSnapshot, error) {
	known, err := tx.ReadClientFacts(ctx, clients, s.Today(st))
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID]*clientSnapshot{}
	for id, k := range known {
		t := &clientSnapshot{client: &k.Client, newestCheck: k.NewestCheck, used: map[string]bool{}, consented: k.Consented, bars: k.Bars}
		t.state = studio.NotAsked
		if c := k.Consultation; c != nil {
			t.state = studio.Renew
			if s.Today(st) < c.ValidUntil() {
				t.currentConsultation, t.state = c, studio.Current
			}
		}
		if k.SentIn != nil {
			t.state = studio.SentIn
		}
		for _, p := range k.PatchTests {
			t.patches = append(t.patches, p.PatchTest)
		}
		for _, key := range k.Used {
			t.used[key] = true
		}
		settled := map[string]bool{} // the newest answer to a rule counts, also a no
		for _, l := range k.Letters {
			for _, r := range l.Rules {
				if settled[r] {
					continue
				}
				settled[r] = true
				if l.Answer == "yes" {
					t.letters = append(t.letters, contraindication.LetterConsent{Rule: r, Until: calendar.Day(l.Until)})
				}
			}
		}
		out[id] = t
	}
	return out, nil
}

// history is the client history of the current consultation.
func (t *clientSnapshot) history() studio.ClientHistory {
	if t.currentConsultation == nil {
		return studio.ClientHistory{}
	}
	return t.currentConsultation.History
}

func (t *clientSnapshot) subject() contraindication.ClientProfile {
	about := t.history()
	return contraindication.ClientProfile{
		Born:       calendar.Day(t.client.BirthDate),
		SkinStates: t.client.SkinStates,
		Letters:    t.letters,
		Medicines:  about.Medicines,
		Allergies:  about.Allergies,
	}
}

// answersInForce are the answers with a day of their own that still run on a day.
func (t *clientSnapshot) answersInForce(pack *contraindication.Pack, day string) map[string]contraindication.Answer {
	var home, door map[string]contraindication.Answer
	if t.currentConsultation != nil {
		home = t.currentConsultation.Answers
	}
	if t.newestCheck != nil {
		door = t.newestCheck.Answers
	}
	return pack.AnswersInForce(home, door, t.consultationIsNewer(), calendar.Day(day))
}

// consultationIsNewer reports whether the consultation was reviewed after the newest check.
func (t *clientSnapshot) consultationIsNewer() bool {
	return t.currentConsultation != nil && t.newestCheck != nil && t.currentConsultation.ReviewedAt.After(t.newestCheck.At)
}

// ongoingPreferences are the answers without a day of the consultation to rules that the
// pre-treatment check asks too: preferences, and spots marked at home.
func (t *clientSnapshot) ongoingPreferences(pack *contraindication.Pack) map[string]contraindication.Answer {
	out := map[string]contraindication.Answer{}
	if t.currentConsultation == nil {
		return out
	}
	for _, r := range pack.Rules {
		if a := t.currentConsultation.Answers[r.ID]; r.Stage == contraindication.Both && a.Day == "" &&
			(a.Yes || a.Option != "") {
			out[r.ID] = a
		}
	}
	return out
}

// withConsultation joins answers given at the pre-treatment check to those of the consultation that only the
// consultation asks.
func (t *clientSnapshot) withConsultation(
	pack *contraindication.Pack,
	door map[string]contraindication.Answer,
) map[string]contraindication.Answer {
	out := maps.Clone(door)
	if t.currentConsultation != nil {
		for _, r := range pack.Rules {
			if a, ok := t.currentConsultation.Answers[r.ID]; ok && r.Stage == contraindication.Consultation {
				out[r.ID] = a
			}
		}
	}
	return out
}

// judgeDay judges a day from what is known now: the consultation, and of the check
// checks what carries a day of its own (a treatment elsewhere, a fever); a cold
// sore of today says nothing about next month.
func (t *clientSnapshot) judgeDay(pack *contraindication.Pack, day string) contraindication.Result {
	res, _ := t.judgedDay(pack, day)
	return res
}

// judgedDay is judgeDay with the answers that were judged.
func (t *clientSnapshot) judgedDay(
	pack *contraindication.Pack,
	day string,
) (contraindication.Result, map[string]contraindication.Answer) {
	answers := t.withConsultation(pack, t.answersInForce(pack, day))
	if t.newestCheck != nil && day == t.newestCheck.Day {
		answers = t.newestCheck.Answers
	} else {
		for id, a := range t.ongoingPreferences(pack) { // wishes stand; a sore spot told at home stands until the door asks
			if a.Option != "" || t.newestCheck == nil || t.consultationIsNewer() {
				answers[id] = a
			}
		}
	}
	return pack.Evaluate(answers, t.subject(), calendar.Day(day)), answers
}

// patchNeeds sorts out which of some products need a patch test, or showed a
// reaction, at a moment.
func (t *clientSnapshot) patchNeeds(products []*slip.Product, at time.Time) (untested, reacted []string) {
	var answers map[string]contraindication.Answer
	if t.currentConsultation != nil {
		answers = t.currentConsultation.Answers
	}
	return patch.PatchNeeds(products, patch.PatchSensitive(t.client.SkinStates, answers), t.used, t.patches, at)
}

// barred are what earlier reactions bar at a moment.
func (t *clientSnapshot) barred(at time.Time) []reaction.Standing {
	return reaction.StandingNow(t.bars, t.patches, at)
}

// needsTest lists which of some products need a patch test before they are used, at a moment: new ones, and those that
// a reaction barred until then.
func (t *clientSnapshot) needsTest(products []*slip.Product, at time.Time) []string {
	untested, _ := t.patchNeeds(products, at)
	for _, b := range t.barred(at) {
		in := slices.ContainsFunc(products, func(p *slip.Product) bool { return p.Key == b.Product })
		if in && b.Bar == reaction.BlockedUntilPatch && !slices.Contains(untested, b.Product) {
			untested = append(untested, b.Product)
		}
	}
	return untested
}

// unsigned lists the consents that every treatment needs and the client has not given.
func (t *clientSnapshot) unsigned() []studio.ConsentKind {
	if slices.Contains(t.consented, studio.ConsentTreatment) {
		return nil
	}
	return []studio.ConsentKind{studio.ConsentTreatment}
}

// planProducts remembers the shelf and the products of the protocol versions it
// was asked for. The zero value remembers nothing yet.
type planProducts struct {
	shelf []studio.Product
	known map[string][]*slip.Product
}

// of lists the products a visit's plan uses, by name; none for a patch test.
func (m *planProducts) of(ctx context.Context, tx snapshotStore, v *studio.VisitLine) ([]*slip.Product, error) {
	if v.Kind != studio.ForTreatment {
		return nil, nil
	}
	if len(v.Also) > 0 { // of all treatments of the visit
		return m.ofAll(ctx, tx, v)
	}
	version := v.Protocol.String() + "/" + strconv.Itoa(v.Version)
	if list, ok := m.known[version]; ok {
		return list, nil
	}
	var err error
	if m.known == nil {
		m.known = map[string][]*slip.Product{}
		if m.shelf, err = tx.Products(ctx); err != nil {
			return nil, err
		}
	}
	keys, err := tx.VersionProducts(ctx, v.Protocol, v.Version)
	if err != nil {
		return nil, err
	}
	list := []*slip.Product{}
	for k := range m.shelf {
		if slices.Contains(keys, m.shelf[k].Key) {
			list = append(list, &m.shelf[k].Product)
		}
	}
	m.known[version] = list
	return list, nil
}

// ofAll lists the products of a visit of several treatments, each once.
func (m *planProducts) ofAll(ctx context.Context, tx snapshotStore, v *studio.VisitLine) ([]*slip.Product, error) {
	var out []*slip.Product
	for _, part := range append([]studio.VisitPart{{Protocol: v.Protocol, Version: v.Version}}, v.Also...) {
		one := *v
		one.Protocol, one.Version, one.Also = part.Protocol, part.Version, nil
		list, err := m.of(ctx, tx, &one)
		if err != nil {
			return nil, err
		}
		for _, p := range list {
			if !slices.Contains(out, p) {
				out = append(out, p)
			}
		}
	}
	return out, nil
}
