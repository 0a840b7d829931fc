package studio

import (
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/pace"
	"softpalm/internal/craft/shelf"
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
	// Until is where the present spell ends, Total where the plan does, in seconds of the plan; HandsOff is when hands are
	// to be off. The desk's strip sees by them how late a treatment is.
	Until    float64   `json:"until,omitempty"`
	Total    float64   `json:"total,omitempty"`
	HandsOff time.Time `json:"handsOff,omitzero"`
}

// LateMinutes are the whole minutes by which a treatment is late, below zero early, at a moment.
func (p *Progress) LateMinutes(now time.Time) int {
	if p.HandsOff.IsZero() {
		return 0
	}
	position := p.Position
	if p.Running {
		position = max(position, min(p.Until, position+now.Sub(p.Since).Seconds()))
	}
	return guide.WholeMinutes(now.Sub(p.HandsOff).Seconds() + p.Total - position)
}

// RecordUse is what was used of one product.
type RecordUse struct {
	Product string          `json:"product"`
	Name    string          `json:"name,omitempty"`
	Planned decimal.Decimal `json:"planned"`
	Used    decimal.Decimal `json:"real"`
	// Reading is how it was measured.
	shelf.Reading
	// ByHand is the planned amount as a hand takes it.
	ByHand *slip.HandAmount `json:"byHand,omitempty"`
	Unit   string           `json:"unit,omitempty"`
	// Pack is the one really in the hand; nil where the proposed one was not looked at.
	Pack *uuid.UUID `json:"pack,omitempty"`
	// Short is what to do where the pack in the hand, or the shelf, shows less than was used: take the rest
	// from the next pack, or set this one right by a count first.
	Short string `json:"short,omitempty" enum:"next,count"`
	// Override is why a pack that may not be used was used.
	Override string `json:"override,omitempty" maxLength:"300"`
	// Slid is how long it slid, where the practitioner says so.
	Slid *SlidFor `json:"slid,omitempty"`
	// Lots the amount is (or was) taken from.
	Lots []RecordLot `json:"lots,omitempty"`
}

// SlidFor is how long an application slid: more had to be added at a minute, it still slid then, or it was
// dry before.
type SlidFor struct {
	Kind   string          `json:"kind" enum:"at,beyond,before"`
	Minute decimal.Decimal `json:"minute"`
	// Slip just after the application and Need of the stroke, where the room knows them; 0 where it does not.
	Slip float64 `json:"-"`
	Need float64 `json:"-"`
}

// Pace is how fast a practitioner works: 1.00 is as planned. Strokes are those whose own pace was learned.
type Pace struct {
	Pace       float64             `json:"pace"`
	Treatments int                 `json:"treatments"`
	Strokes    map[string]pace.Own `json:"strokes"`
}

// RecordLot is an amount from one pack of a lot.
type RecordLot struct {
	Number string          `json:"number"`
	Pack   int             `json:"packNumber,omitempty"`
	ID     *uuid.UUID      `json:"pack,omitempty"`
	Amount decimal.Decimal `json:"amount"`
	Cost   decimal.Decimal `json:"cost"`
	UseBy  string          `json:"goodUntil"`
	// Opens says that a sealed pack was opened by it; Sure is false where nobody looked at the lot.
	Opens bool `json:"opens,omitempty"`
	Sure  bool `json:"sure,omitempty"`
}

// Record is what was written about a treatment.
type Record struct {
	Note string `json:"note"`
	// Said is what the client said, Advice what was recommended and given for home.
	Said   string      `json:"said,omitempty"`
	Advice string      `json:"advice,omitempty"`
	Uses   []RecordUse `json:"uses"`
	// BrokenOff says that the treatment was stopped before its end.
	BrokenOff bool `json:"brokenOff,omitempty"`
	// Revision counts the changes of a record that is still open.
	Revision int `json:"revision"`
}

// Same reports whether two records say the same: their notes, and how much was used of what, from which
// pack and how it was measured.
func (r *Record) Same(as *Record) bool {
	used := map[string]*RecordUse{}
	for i := range r.Uses {
		used[r.Uses[i].Product] = &r.Uses[i]
	}
	for i := range as.Uses {
		u := &as.Uses[i]
		was := used[u.Product]
		if was == nil || !was.Used.Equal(u.Used) || was.How != u.How || was.Measure != u.Measure || !same(was.Count, u.Count) ||
			!same(was.Before, u.Before) || !same(was.After, u.After) || was.Short != u.Short || was.Override != u.Override ||
			(was.Pack == nil) != (u.Pack == nil) || was.Pack != nil && *was.Pack != *u.Pack {
			return false
		}
	}
	return r.Note == as.Note && r.Said == as.Said && r.Advice == as.Advice && len(r.Uses) == len(as.Uses)
}

func same(a, b *decimal.Decimal) bool {
	if a == nil || b == nil {
		return a == b
	}
	return a.Equal(*b)
}

// RecordAddition is what somebody added to a record after it was locked.
type RecordAddition struct {
	ID     uuid.UUID `json:"id"`
	At     time.Time `json:"at"`
	Author string    `json:"author"`
	Body   string    `json:"body"`
	// Field is what it corrects, empty where it only adds; Was is what the record says there, Right what is right.
	Field string `json:"field,omitempty"`
	Was   string `json:"was,omitempty"`
	Right string `json:"right,omitempty"`
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
	// NeedsSecond says that a trainee signed it, Second who signed it besides.
	NeedsSecond bool
	Second      *SecondSignature
	// Signed is what was signed, as canonical JSON, with its SHA-256; empty for records locked before.
	Signed, SignedSum string
}

// SecondSignature is the signature of somebody else under a trainee's record.
type SecondSignature struct {
	Account uuid.UUID `json:"-"`
	By      string    `json:"by"`
	At      time.Time `json:"at"`
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
