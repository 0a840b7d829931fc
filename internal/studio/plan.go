package studio

import (
	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
)

// PlanOptions is what the practitioner asks of a visit's plan besides what the check
// check asks.
type PlanOptions struct {
	Overrides []Override `json:"overrules" maxItems:"200"`
	// Instead names, by the key of a product that may not be used, the one to take.
	Instead map[string]string `json:"instead,omitempty"`
	// SkipSkinVariants leaves out what the protocol itself changes for the client's skin.
	SkipSkinVariants bool `json:"anySkin,omitempty"`
	// SkinOffSteps are the steps at which it is left out.
	SkinOffSteps []string `json:"anySkinSteps,omitempty" maxItems:"200"`
	// OtherDay is the owner's reason to treat on another day than the appointment's.
	OtherDay string `json:"otherDay,omitempty" maxLength:"500"`
	// Practitioner is the practitioner's own side.
	Practitioner adjusting.PractitionerState `json:"hands,omitempty"`
	// HandsOn fits the plan to fewer minutes, as the client came late; 0 leaves it as it is.
	HandsOn int `json:"handsOn,omitempty" minimum:"0" maximum:"480"`
}

// FittedPlan is what fitting a plan to fewer minutes changed.
type FittedPlan struct {
	Minutes int `json:"minutes"`
	// Shorter is how many steps and rounds are shorter, LeftOut names those that are left out.
	Shorter int      `json:"shorter"`
	LeftOut []string `json:"leftOut"`
	// OverBy is by how many seconds it is still too long, 0 where it fits.
	OverBy int `json:"overBy"`
}

// None reports whether nothing is asked.
func (w *PlanOptions) None() bool {
	return len(w.Overrides)+len(w.Instead)+len(w.SkinOffSteps) == 0 && !w.SkipSkinVariants && w.HandsOn == 0 && w.Practitioner == adjusting.PractitionerState{}
}

// Plan is a visit's plan for today, and what it still needs.
type Plan struct {
	adjusting.AdjustedPlan
	PreCheck *PreCheck
	// Fitted is what a late client's plan lost, nil where it is whole.
	Fitted *FittedPlan
	// Outcomes are those of the check, and of patch tests as they stand now.
	Outcomes []contraindication.Contraindication
	// AsPublished is the plan as published, for the same skin, without today's cautions.
	AsPublished *evaluation.Evaluation
	// MissingConsents are the consents without which it cannot start.
	MissingConsents []ConsentKind
	// OverridableRules are the rules whose demands may be set aside with a reason, as a
	// whole; TakeBack the changes that may be taken back one by one.
	OverridableRules       []string
	OverridableAdjustments []string
	// Stock is how many mL of each product may be used today, by key.
	Stock map[string]float64
	// SkinVariants are the names of the protocol's variants for the client's skin, taken
	// or not.
	SkinVariants []string
	// SkinType and SkinStates of the client, Amounts and Demands of the plan: kept with
	// it when the treatment begins.
	SkinType   string
	SkinStates []string
	Amounts    []PlannedAmount
	Demands    Demands
	// PractitionerNotes are the things that practitioners see to on their own side.
	PractitionerNotes []string
	// ClientNotes are the notes of the client's file, with the steps they are about.
	ClientNotes []StepNote
	// Pace at which it is planned: the practitioner's own, 1 where nothing was learned.
	Pace Pace
	// ToRefit are its spells as a re-fit in the room looks at them.
	ToRefit []fitting.RefitStep
}
