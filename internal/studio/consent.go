package studio

import (
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
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
	OfAge            = 18
	reasonCharacters = 5
)

// CheckSignature refuses what is no drawn signature.
func CheckSignature(lines [][]int) error {
	points := 0
	for _, line := range lines {
		if len(line)%2 != 0 {
			return FaultAt("/signature", "The signature could not be read. Draw it again.")
		}
		for i, v := range line {
			if v < 0 || v > SignatureWidth || (i%2 == 1 && v > SignatureHeight) {
				return FaultAt("/signature", "The signature could not be read. Draw it again.")
			}
		}
		points += len(line) / 2
	}
	if points < signaturePoints || points > signatureMost {
		return FaultAt("/signature", "Sign in the field, with a finger, a pen or the mouse.")
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

// CheckOverrides refuses what may not be overruled, and overruling without a reason.
func CheckOverrides(outcomes []contraindication.Contraindication, list []Override) error {
	for _, o := range list {
		if !contraindication.MayOverride(outcomes, o.Rule) {
			return FaultAt("/overrules", "What %q asks may not be overruled.", o.Rule)
		}
		if len(strings.TrimSpace(o.Reason)) < reasonCharacters {
			return FaultAt("/overrules", "Say why it is overruled; the reason stays in the record.")
		}
	}
	return nil
}

// WholeRules are the rules overruled in the whole plan.
func WholeRules(list []Override) []string {
	out := []string{}
	for _, o := range list {
		if o.Step == "" {
			out = append(out, o.Rule)
		}
	}
	return out
}
