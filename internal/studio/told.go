package studio

import (
	"context"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/slip"
)

// told is what is known of a client for judging a day.
type told struct {
	client    *Client
	standing  *Consultation
	screening *Screening // the newest
	letters   []contraindication.Permission
	patches   []patch.PatchTest
	used      map[string]bool // products used in earlier treatments, by key
}

func (s *Service) told(ctx context.Context, tx Tx, st *Studio, client uuid.UUID) (*told, error) {
	all, err := s.toldOf(ctx, tx, st, []uuid.UUID{client})
	if err != nil {
		return nil, err
	}
	if all[client] == nil {
		return nil, ErrNotFound
	}
	return all[client], nil
}

// toldOf gathers it for several clients at once.
func (s *Service) toldOf(ctx context.Context, tx Tx, st *Studio, clients []uuid.UUID) (map[uuid.UUID]*told, error) {
	known, err := tx.Known(ctx, clients)
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID]*told{}
	for id, k := range known {
		t := &told{client: &k.Client, screening: k.Screening, used: map[string]bool{}}
		if c := k.Consultation; c != nil && s.today(st) < c.until() {
			t.standing = c
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
					t.letters = append(t.letters, contraindication.Permission{Rule: r, Until: calendar.Day(l.Until)})
				}
			}
		}
		out[id] = t
	}
	return out, nil
}

// about is what the standing consultation tells besides its answers.
func (t *told) about() About {
	if t.standing == nil {
		return About{}
	}
	return t.standing.About
}

func (t *told) subject() contraindication.Subject {
	about := t.about()
	return contraindication.Subject{Born: calendar.Day(t.client.BirthDate), SkinStates: t.client.SkinStates, Letters: t.letters, Medicines: about.Medicines, Allergies: about.Allergies}
}

// carried are the answers with a day of their own that still run on a day.
func (t *told) carried(pack *contraindication.Pack, day string) map[string]contraindication.Answer {
	var home, door map[string]contraindication.Answer
	if t.standing != nil {
		home = t.standing.Answers
	}
	if t.screening != nil {
		door = t.screening.Answers
	}
	return pack.Carried(home, door, t.newer(), calendar.Day(day))
}

// newer reports whether the consultation was reviewed after the newest check.
func (t *told) newer() bool {
	return t.standing != nil && t.screening != nil && t.standing.ReviewedAt.After(t.screening.At)
}

// undated are the answers without a day of the consultation to rules that the
// door asks too: wishes, and spots marked at home.
func (t *told) undated(pack *contraindication.Pack) map[string]contraindication.Answer {
	out := map[string]contraindication.Answer{}
	if t.standing == nil {
		return out
	}
	for _, r := range pack.Rules {
		if a := t.standing.Answers[r.ID]; r.Stage == contraindication.Both && a.Day == "" && (a.Yes || a.Option != "") {
			out[r.ID] = a
		}
	}
	return out
}

// with joins answers given at the door to those of the consultation that only the
// consultation asks.
func (t *told) with(pack *contraindication.Pack, door map[string]contraindication.Answer) map[string]contraindication.Answer {
	out := maps.Clone(door)
	if t.standing != nil {
		for _, r := range pack.Rules {
			if a, ok := t.standing.Answers[r.ID]; ok && r.Stage == contraindication.Consultation {
				out[r.ID] = a
			}
		}
	}
	return out
}

// on judges a day from what is known now: the consultation, and of the door
// checks what carries a day of its own (a treatment elsewhere, a fever); a cold
// sore of today says nothing about next month.
func (t *told) on(pack *contraindication.Pack, day string) contraindication.Result {
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
	return pack.Evaluate(answers, t.subject(), calendar.Day(day))
}

// patchNeeds sorts out which of some products need a patch test, or showed a
// reaction, at a moment.
func (t *told) patchNeeds(products []*slip.Product, at time.Time) (untested, reacted []string) {
	var answers map[string]contraindication.Answer
	if t.standing != nil {
		answers = t.standing.Answers
	}
	return patch.PatchNeeds(products, patch.PatchSensitive(t.client.SkinStates, answers), t.used, t.patches, at)
}

// look fills in what is to be expected of visits still to come.
func (s *Service) look(ctx context.Context, tx Tx, st *Studio, a *Actor, visits []VisitLine) error {
	var clients []uuid.UUID
	for i := range visits {
		if !slices.Contains(clients, visits[i].Client) {
			clients = append(clients, visits[i].Client)
		}
	}
	known, err := s.toldOf(ctx, tx, st, clients)
	if err != nil {
		return err
	}
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
					continue // the client was erased meanwhile
				}
				if res := t.on(pack, day); res.Headline != contraindication.Go && v.Kind == ForTreatment {
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
