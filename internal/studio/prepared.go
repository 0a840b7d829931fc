package studio

import (
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
)

// PreparedPlan is today's plan of a visit, worked out once and stored with the
// treatment when it begins. The room guide and the record read it and never work it
// out again: a stroke that is removed meanwhile, another skin type or a new rule
// changes nothing of what was begun. Stored as JSON; its keys stay.
type PreparedPlan struct {
	// Protocol is the plan itself, as adjusted for the client today.
	Protocol    protocol.Protocol      `json:"protocol"`
	Adjustments []adjusting.Adjustment `json:"adjustments"`
	Overrides   []Override             `json:"overrides"`
	// OtherDay is the owner's reason to treat on another day than the appointment's.
	OtherDay     string                      `json:"otherDay,omitempty"`
	Practitioner adjusting.PractitionerState `json:"practitioner"` // as the practitioner said
	// SkinType and SkinStates of the client at the time.
	SkinType   string   `json:"skinType,omitempty"`
	SkinStates []string `json:"skinStates,omitempty"`
	Headline   string   `json:"headline,omitempty"`
	// Avoid are the zones left out, Precautions what to do and to ask.
	Avoid       []contraindication.ZoneSide `json:"avoid"`
	Precautions []string                    `json:"precautions"`
	// Evaluation is nil for a treatment begun before plans were prepared.
	Evaluation *evaluation.Evaluation `json:"evaluation,omitempty"`
	// Amounts are what the plan takes of each product, in the unit of the shelf.
	Amounts []PlannedAmount `json:"amounts"`
	Demands Demands         `json:"demands"`
	// ClientNotes are the notes of the client's file, with the steps they are about.
	ClientNotes []StepNote `json:"clientNotes,omitempty"`
	// ToRefit are its spells as a re-fit in the room looks at them; none for a treatment begun before.
	ToRefit []fitting.RefitStep `json:"toRefit,omitempty"`
}

// PlannedAmount is what a plan takes of one product, in the unit of the shelf.
type PlannedAmount struct {
	Product string          `json:"product"`
	Name    string          `json:"name"`
	Unit    string          `json:"unit"`
	Planned decimal.Decimal `json:"planned"`
}

// Demands are what a plan asks of the practitioner's hands and the client's skin,
// for judging what comes after it.
type Demands struct {
	// TiringMinutes are minutes of thumb, pinch and knuckle work at 4 to 5.
	TiringMinutes float64 `json:"tiringMinutes"`
	// SkinIntensive are the kinds of work that the skin does not want too often.
	SkinIntensive []string `json:"skinIntensive"`
	Tools         []string `json:"tools"`
}

// DemandsOf reads the demands of a plan off its evaluation.
func DemandsOf(e *evaluation.Evaluation, cx *protocol.Context) Demands {
	d := Demands{TiringMinutes: e.Tiring() / 60, SkinIntensive: []string{}, Tools: e.Tools}
	for kind := range e.SkinIntensiveSteps(cx) {
		d.SkinIntensive = append(d.SkinIntensive, kind)
	}
	return d
}

// AmountsOf lists what a plan takes of each product on the shelf, disposables last: so many every
// appointment, and more for some protocols.
func AmountsOf(e *evaluation.Evaluation, protocolKey string, products []Product) []PlannedAmount {
	out := []PlannedAmount{}
	for _, pl := range e.Products {
		for i := range products {
			if p := &products[i]; p.Key == pl.Product {
				out = append(out, PlannedAmount{Product: p.Key, Name: p.Name, Unit: p.Unit, Planned: InUnit(p, pl.ML)})
			}
		}
	}
	for i := range products {
		if p := &products[i]; p.Unit == Pieces && p.PerVisit+p.PerProtocol[protocolKey] > 0 {
			pieces := decimal.NewFromInt(int64(p.PerVisit + p.PerProtocol[protocolKey]))
			out = append(out, PlannedAmount{Product: p.Key, Name: p.Name, Unit: p.Unit, Planned: pieces})
		}
	}
	return out
}

// Prepared is the plan as it is stored when the treatment begins.
func (p *Plan) Prepared(w *PlanOptions) PreparedPlan {
	out := PreparedPlan{
		Protocol:     *p.Protocol,
		Adjustments:  p.Adjustments,
		Overrides:    w.Overrides,
		OtherDay:     w.OtherDay,
		Practitioner: w.Practitioner,
		SkinType:     p.SkinType,
		SkinStates:   p.SkinStates,
		Headline:     string(p.PreCheck.Result.Headline),
		Avoid:        []contraindication.ZoneSide{},
		Precautions:  []string{},
		Evaluation:   p.Evaluation,
		Amounts:      p.Amounts,
		Demands:      p.Demands,
		ClientNotes:  p.ClientNotes,
		ToRefit:      p.ToRefit,
	}
	if out.Overrides == nil {
		out.Overrides = []Override{}
	}
	for _, o := range contraindication.WithoutOverridden(p.Outcomes, WholeRules(w.Overrides)) {
		if o.Kind == contraindication.LeaveOut {
			out.Avoid = append(out.Avoid, o.Places...)
		}
		if o.Outcome.Instruction != "" {
			out.Precautions = append(out.Precautions, o.Outcome.Instruction)
		}
	}
	out.Precautions = append(out.Precautions, p.PractitionerNotes...)
	return out
}
