package studio

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
)

// ConsentKind is what a consent is for; each is signed separately.
type ConsentKind string

// The kinds of consent.
const (
	ConsentTreatment ConsentKind = "treatment"
	ConsentPhotos    ConsentKind = "photos"
	ConsentMouth     ConsentKind = "mouth" // work inside the mouth
)

// ConsentText is what a client reads before signing.
type ConsentText struct {
	Kind    ConsentKind `json:"kind" enum:"treatment,photos,mouth"`
	Version string      `json:"version"`
	Title   string      `json:"title"`
	Body    string      `json:"body"`
}

// ConsentTexts are the texts in force. A text that changes gets a new version;
// what was signed keeps its own words.
var ConsentTexts = []ConsentText{
	{ConsentTreatment, "2026-11", "The treatment", "I was told what will be done, how long it takes and what it costs. I know that facial massage here is cosmetic and no medical treatment, that it can leave the skin red or tender for a while, and that I can stop it at any moment. What I said about my health is true as far as I know, and I will say so when it changes. I can withdraw this consent at any time."},
	{ConsentPhotos, "2026-11", "Photos for my file", "Photos of my face may be taken and kept in my file to compare before and after. They are shown to nobody outside the studio unless I agree to that in writing. I can withdraw this consent at any time; the photos are then removed."},
	{ConsentMouth, "2026-11", "Work inside the mouth", "The inside of my cheeks and lips may be massaged with gloved hands. I have no loose tooth, no wound and no infection in the mouth, and I will raise a hand when I want to stop. I can withdraw this consent at any time."},
}

// Consent is a consent as signed.
type Consent struct {
	ID       uuid.UUID   `json:"id"`
	Client   uuid.UUID   `json:"client"`
	Kind     ConsentKind `json:"kind" enum:"treatment,photos,mouth"`
	Version  string      `json:"version"`
	Body     string      `json:"body"`
	Signer   string      `json:"signer"`
	Guardian bool        `json:"guardian"`
	// Signature is the drawn lines, each x, y, x, y and so on, in a field of 600 by 200.
	Signature   [][]int    `json:"signature"`
	SignedAt    time.Time  `json:"signedAt"`
	Account     uuid.UUID  `json:"-"`
	WithdrawnAt *time.Time `json:"withdrawnAt,omitempty"`
}

// The field a signature is drawn in, and how much of a line makes one.
const (
	SignatureWidth   = 600
	SignatureHeight  = 200
	signaturePoints  = 8
	signatureMost    = 20000
	ofAge            = 18
	reasonCharacters = 5
)

// checkSignature refuses what is no drawn signature.
func checkSignature(lines [][]int) error {
	points := 0
	for _, line := range lines {
		if len(line)%2 != 0 {
			return faultAt("/signature", "The signature could not be read. Draw it again.")
		}
		for i, v := range line {
			if v < 0 || v > SignatureWidth || (i%2 == 1 && v > SignatureHeight) {
				return faultAt("/signature", "The signature could not be read. Draw it again.")
			}
		}
		points += len(line) / 2
	}
	if points < signaturePoints || points > signatureMost {
		return faultAt("/signature", "Sign in the field, with a finger, a pen or the mouse.")
	}
	return nil
}

// SignConsent keeps a consent to the text in force. A client under 18 needs a
// guardian's signature.
func (s *Service) SignConsent(ctx context.Context, a *Actor, client uuid.UUID, kind ConsentKind, signer string, guardian bool, signature [][]int) (*Consent, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	c := &Consent{ID: newID(), Client: client, Kind: kind, Signer: strings.TrimSpace(signer), Guardian: guardian, Signature: signature, SignedAt: s.Now(), Account: a.Account}
	for _, t := range ConsentTexts {
		if t.Kind == kind {
			c.Version, c.Body = t.Version, t.Body
		}
	}
	if c.Body == "" {
		return nil, faultAt("/kind", "There is no consent of that kind.")
	}
	if c.Signer == "" || len(c.Signer) > 120 {
		return nil, faultAt("/signer", "Write the name of who signs.")
	}
	if err := checkSignature(signature); err != nil {
		return nil, err
	}
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		who, err := tx.Client(ctx, client)
		if err != nil {
			return err
		}
		sub := contraindication.Subject{Born: calendar.Day(who.BirthDate)}
		if age := sub.Age(calendar.Day(s.today(st))); age >= 0 && age < ofAge {
			if !guardian {
				return faultAt("/guardian", "The client is under age: a guardian signs.")
			}
			if kind == ConsentMouth {
				return faultAt("/kind", "The client is under age: nothing is done inside the mouth.")
			}
		}
		if err := tx.AddConsent(ctx, c); err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "sign consent", "client", client)
	})
	return c, err
}

// WithdrawConsent ends a consent; from that moment it allows nothing.
func (s *Service) WithdrawConsent(ctx context.Context, a *Actor, id uuid.UUID) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	return s.in(ctx, a, func(tx Tx, _ *Studio) error {
		client, err := tx.WithdrawConsent(ctx, id, s.Now())
		if err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "withdraw consent", "client", client)
	})
}

// missingConsents lists the consents a plan needs and the client has not given.
func missingConsents(ctx context.Context, tx Tx, client uuid.UUID, plan *evaluation.Evaluation) ([]ConsentKind, error) {
	given, err := tx.Consents(ctx, client)
	if err != nil {
		return nil, err
	}
	out := []ConsentKind{}
	for _, kind := range consentsFor(plan) {
		have := false
		for _, c := range given {
			have = have || (c.Kind == kind && c.WithdrawnAt == nil)
		}
		if !have {
			out = append(out, kind)
		}
	}
	return out, nil
}

// consentsFor lists the consents a plan needs: for the treatment, and where it
// goes inside the mouth, for that.
func consentsFor(plan *evaluation.Evaluation) []ConsentKind {
	for i := range plan.Steps {
		for _, stop := range plan.Steps[i].Path {
			if id, ok := anatomy.Lookup(stop.Zone); ok && id.Zone().Region == anatomy.Mouth {
				return []ConsentKind{ConsentTreatment, ConsentMouth}
			}
		}
	}
	return []ConsentKind{ConsentTreatment}
}

// Overrule sets aside, for one treatment, what a rule asks, with the reason: in
// the whole plan, or at one step of it.
type Overrule struct {
	Rule   string `json:"rule" maxLength:"200"`
	Step   string `json:"step,omitempty" maxLength:"120"`
	Reason string `json:"reason" maxLength:"500"`
}

// checkOverrules refuses what may not be overruled, and overruling without a reason.
func checkOverrules(outcomes []contraindication.Applied, list []Overrule) error {
	for _, o := range list {
		if !contraindication.MayOverrule(outcomes, o.Rule) {
			return faultAt("/overrules", "What %q asks may not be overruled.", o.Rule)
		}
		if len(strings.TrimSpace(o.Reason)) < reasonCharacters {
			return faultAt("/overrules", "Say why it is overruled; the reason stays in the record.")
		}
	}
	return nil
}

// wholeRules are the rules overruled in the whole plan.
func wholeRules(list []Overrule) []string {
	out := []string{}
	for _, o := range list {
		if o.Step == "" {
			out = append(out, o.Rule)
		}
	}
	return out
}
