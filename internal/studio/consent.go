package studio

import (
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/words"
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

// StandardConsentTexts are the texts of a studio that has none of its own. A text that
// changes gets a new version; what was signed keeps its own words.
var StandardConsentTexts = []ConsentText{
	{
		ConsentTreatment,
		"2026-11.2",
		"The treatment",
		"I have been told what the treatment involves, how long it takes and what it costs. I understand that it is cosmetic, not medical; that my skin may be red or tender for a while; and that I can stop it at any time. My answers about my health are true as far as I know, and I will tell you if anything changes. I can withdraw this consent at any time.",
	},
	{
		ConsentPhotos,
		"2026-11.2",
		"Photos for my file",
		"You may take photos of my face and store them in my file to compare before and after. Nobody outside the studio sees them unless I agree in writing. I can withdraw this consent at any time; the photos are then deleted.",
	},
	{
		ConsentMouth,
		"2026-11.2",
		"Work inside the mouth",
		"You may massage the inside of my cheeks and lips with gloved hands. I have no loose tooth, no wound and no infection in my mouth. I will raise a hand when I want to stop. I can withdraw this consent at any time.",
	},
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
	OfAge            = 18
	reasonCharacters = 5
)

// CheckSignature refuses what is no drawn signature.
func CheckSignature(lines [][]int) error {
	points := 0
	for _, line := range lines {
		if len(line)%2 != 0 {
			return FaultAt("/signature", words.SignatureCouldNotReadDrawAgain())
		}
		for i, v := range line {
			if v < 0 || v > SignatureWidth || (i%2 == 1 && v > SignatureHeight) {
				return FaultAt("/signature", words.SignatureCouldNotReadDrawAgain())
			}
		}
		points += len(line) / 2
	}
	if points < signaturePoints || points > signatureMost {
		return FaultAt("/signature", words.SignInFieldWithFingerPenOr())
	}
	return nil
}

// Override sets aside, for one treatment, what a rule asks, with the reason: in
// the whole plan, or at one step of it.
type Override struct {
	Rule   string `json:"rule" maxLength:"200"`
	Step   string `json:"step,omitempty" maxLength:"120"`
	Reason string `json:"reason" maxLength:"500"`
}

// CheckOverrides refuses what may not be overridden, and overriding without a reason.
func CheckOverrides(outcomes []contraindication.Contraindication, list []Override) error {
	for _, o := range list {
		if !contraindication.MayOverride(outcomes, o.Rule) {
			return FaultAt("/overrules", words.YouCannotOverrideRule(o.Rule))
		}
		if err := CheckReason("/overrules", o.Reason); err != nil {
			return err
		}
	}
	return nil
}

// CheckReason refuses a reason that says nothing.
func CheckReason(path, reason string) error {
	if len(strings.TrimSpace(reason)) < reasonCharacters {
		return FaultAt(path, words.GiveReasonForOverrideSavedInRecord())
	}
	return nil
}

// WholeRules are the rules overridden in the whole plan.
func WholeRules(list []Override) []string {
	out := []string{}
	for _, o := range list {
		if o.Step == "" {
			out = append(out, o.Rule)
		}
	}
	return out
}
