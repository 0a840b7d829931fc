package studio

import (
	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
)

// Wanted is what the practitioner asks of a visit's plan besides what the door
// check asks.
type Wanted struct {
	Overrules []Overrule `json:"overrules" maxItems:"200"`
	// Instead names, by the key of a product that may not be used, the one to take.
	Instead map[string]string `json:"instead,omitempty"`
	// AnySkin leaves out what the protocol itself changes for the client's skin.
	AnySkin bool `json:"anySkin,omitempty"`
	// Hands is the practitioner's own side.
	Hands adjusting.Hands `json:"hands,omitempty"`
}

// None reports whether nothing is asked.
func (w *Wanted) None() bool {
	return len(w.Overrules)+len(w.Instead) == 0 && !w.AnySkin && w.Hands == adjusting.Hands{}
}

// Plan is a visit's plan for today, and what it still needs.
type Plan struct {
	adjusting.Tailored
	Screening *Screening
	// Outcomes are those of the check, and of patch tests as they stand now.
	Outcomes []contraindication.Applied
	// Before is the plan as published, for the same skin, without today's cautions.
	Before *evaluation.Evaluation
	// Missing are the consents without which it cannot start.
	Missing []ConsentKind
	// Overrulable are the rules whose demands may be set aside with a reason, as a
	// whole; TakeBack the changes that may be taken back one by one.
	Overrulable []string
	TakeBack    []string
	// Stock is how many mL of each product may be used today, by key.
	Stock map[string]float64
	// ForSkin are the names of the protocol's variants for the client's skin, taken
	// or not.
	ForSkin []string
	// Minds are the things that practitioners see to on their own side.
	Minds []string
}
