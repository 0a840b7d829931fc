package studio

import (
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/slip"
)

// Progress is where the room is within the plan.
type Progress struct {
	// Position in seconds of the plan at Since; it grows while Running.
	Position float64   `json:"position" minimum:"0" maximum:"86400"`
	Running  bool      `json:"running"`
	Since    time.Time `json:"since"`
	// Skipped are the steps left out in the room.
	Skipped []string `json:"skipped" maxItems:"200"`
}

// RecordUse is what was used of one product.
type RecordUse struct {
	Product string          `json:"product"`
	Name    string          `json:"name,omitempty"`
	Planned decimal.Decimal `json:"planned"`
	Used    decimal.Decimal `json:"real"`
	// ByHand is the planned amount as a hand takes it.
	ByHand *slip.HandAmount `json:"byHand,omitempty"`
	Unit   string           `json:"unit,omitempty"`
	// Lots the amount is (or was) taken from.
	Lots []RecordLot `json:"lots,omitempty"`
}

// RecordLot is an amount from one lot.
type RecordLot struct {
	Number string          `json:"number"`
	Amount decimal.Decimal `json:"amount"`
	Cost   decimal.Decimal `json:"cost"`
	UseBy  string          `json:"goodUntil"`
}

// Record is what was written about a treatment.
type Record struct {
	Note string      `json:"note"`
	Uses []RecordUse `json:"uses"`
	// BrokenOff says that the treatment was stopped before its end.
	BrokenOff bool `json:"brokenOff,omitempty"`
	// Revision counts the changes of a record that is still open.
	Revision int `json:"revision"`
}

// Same reports whether two records say the same: their notes, and how much was used of what.
func (r *Record) Same(as *Record) bool {
	used := map[string]decimal.Decimal{}
	for _, u := range r.Uses {
		used[u.Product] = u.Used
	}
	for _, u := range as.Uses {
		if was, ok := used[u.Product]; !ok || !was.Equal(u.Used) {
			return false
		}
	}
	return r.Note == as.Note && len(r.Uses) == len(as.Uses)
}

// RecordAddition is what somebody added to a record after it was locked.
type RecordAddition struct {
	ID     uuid.UUID `json:"id"`
	At     time.Time `json:"at"`
	Author string    `json:"author"`
	Body   string    `json:"body"`
}

// Treatment is a treatment as it is given and recorded.
type Treatment struct {
	Visit    uuid.UUID
	PreCheck *uuid.UUID
	PreparedPlan
	Progress   Progress
	Record     Record
	Cost       *decimal.Decimal
	StartedAt  time.Time
	FinishedAt *time.Time
	FinishedBy *uuid.UUID
}

// SkippedSteps names the steps that were left out in the room, in the order of the plan.
func (t *Treatment) SkippedSteps() []string {
	out := []string{}
	if t.Evaluation == nil {
		return out
	}
	for i := range t.Evaluation.Steps {
		step := &t.Evaluation.Steps[i]
		for _, id := range t.Progress.Skipped {
			if step.ID == id {
				out = append(out, step.Name)
			}
		}
	}
	return out
}
