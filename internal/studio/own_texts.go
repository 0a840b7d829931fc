package studio

import (
	"slices"
	"strings"

	"softpalm/words"
)

// OwnTexts are what a studio says in its own words. Where one is empty or missing, the
// standard text is used.
type OwnTexts struct {
	Emergency string `json:"emergency,omitempty"`
	Policies  string `json:"policies,omitempty"`
	// Consents are the texts that clients sign in the place of the standard ones.
	Consents []ConsentText `json:"consents,omitempty"`
	// TypedSignatures says that a consent may be signed by typing one's name: not every law
	// takes that for a signature.
	TypedSignatures bool `json:"typedSignatures,omitempty"`
}

// EmergencyText is what the treatment room shows in an emergency.
func (s *Studio) EmergencyText() string {
	if s.Texts.Emergency != "" {
		return s.Texts.Emergency
	}
	return words.StandardEmergencyText().Message
}

// ConsentTexts are the texts that the studio's clients sign.
func (s *Studio) ConsentTexts() []ConsentText {
	out := slices.Clone(StandardConsentTexts)
	for i := range out {
		for _, own := range s.Texts.Consents {
			if own.Kind == out[i].Kind {
				out[i].Body, out[i].Version = own.Body, own.Version
			}
		}
	}
	return out
}

// SetEmergencyText takes a text for emergencies; none, or the standard one, is the standard one.
func (s *Studio) SetEmergencyText(text string) {
	if text = strings.TrimSpace(text); text == words.StandardEmergencyText().Message {
		text = ""
	}
	s.Texts.Emergency = text
}

// SetConsentText takes a text that clients sign from now on. A changed text gets the
// version; none, or the standard text, is the standard one.
func (s *Studio) SetConsentText(kind ConsentKind, body, version string) {
	body = strings.TrimSpace(body)
	for _, now := range s.ConsentTexts() {
		if now.Kind == kind && now.Body == body {
			return
		}
	}
	s.Texts.Consents = slices.DeleteFunc(s.Texts.Consents, func(t ConsentText) bool { return t.Kind == kind })
	for _, standard := range StandardConsentTexts {
		if standard.Kind == kind && body != "" && body != standard.Body {
			s.Texts.Consents = append(s.Texts.Consents, ConsentText{Kind: kind, Version: version, Body: body})
		}
	}
}
