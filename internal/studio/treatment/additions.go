package treatment

import (
	"context"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// longestAddition is how many characters an addition to a record has at most.
const longestAddition = 4000

// RecordField is a field of a record that an addition may correct, with what the record says.
type RecordField struct {
	Field string `json:"field"`
	// Name is that of the product for what was used of it; empty for the others.
	Name string `json:"name,omitempty"`
	Was  string `json:"was"`
}

// Fields of a record that may be corrected besides amounts.
const (
	noteField   = "note"
	saidField   = "said"
	adviceField = "advice"
	brokenField = "broken-off"
	usedField   = "used/"
	lotField    = "lot/"
)

// fieldsOf are the fields of a record, in its order.
func fieldsOf(r *studio.Record) []RecordField {
	broken := "no"
	if r.BrokenOff {
		broken = "yes"
	}
	out := []RecordField{}
	for i := range r.Uses {
		u := &r.Uses[i]
		var lots []string
		for k := range u.Lots {
			lots = append(lots, u.Lots[k].Number)
		}
		out = append(out,
			RecordField{usedField + u.Product, u.Name, u.Used.String() + " " + u.Unit},
			RecordField{lotField + u.Product, u.Name, strings.Join(lots, ", ")})
	}
	return append(out, RecordField{Field: noteField, Was: r.Note}, RecordField{Field: saidField, Was: r.Said},
		RecordField{Field: adviceField, Was: r.Advice}, RecordField{Field: brokenField, Was: broken})
}

// NewAddition is what is added to a locked record: a text, or what is right of a named field.
type NewAddition struct {
	Body  string `json:"body" maxLength:"4000"`
	Field string `json:"field,omitempty" maxLength:"80"`
	Right string `json:"right,omitempty" maxLength:"4000"`
}

func (n *NewAddition) check() error {
	n.Body, n.Right = strings.TrimSpace(n.Body), strings.TrimSpace(n.Right)
	tooLong := utf8.RuneCountInString(n.Body) > longestAddition || utf8.RuneCountInString(n.Right) > longestAddition
	switch {
	case n.Field != "" && n.Right == "":
		return studio.FaultAt("/right", words.EnterWhatIsRight())
	case n.Body == "" && n.Field == "" || tooLong:
		return studio.FaultAt("/body", words.AnAdditionHasUpToCharacters(longestAddition))
	}
	if n.Field == "" {
		n.Right = ""
	}
	return nil
}

// AddToRecord adds a dated text, or the correction of a field, to a record that was signed and locked. What was signed
// stays as it is; stock and costs change by stock movements only.
func (s *Service) AddToRecord(ctx context.Context, a *studio.Actor, visit uuid.UUID, n NewAddition) (*RecordView, error) {
	if err := a.May("add-to-record"); err != nil {
		return nil, err
	}
	if err := n.check(); err != nil {
		return nil, err
	}
	err := studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if err := a.MayVisit("add-to-record", &v.Visit); err != nil {
			return err
		}
		t, err := begun(ctx, tx, visit)
		if err != nil {
			return err
		}
		if t.FinishedAt == nil {
			return &studio.StateError{Code: "record-open", Sentence: words.ThisRecordIsStillOpenWriteInIt()}
		}
		added := studio.RecordAddition{ID: studio.NewID(), At: s.Now(), Author: a.Name, Body: n.Body, Field: n.Field, Right: n.Right}
		if n.Field != "" {
			fields := fieldsOf(&t.Record)
			i := slices.IndexFunc(fields, func(f RecordField) bool { return f.Field == n.Field })
			if i < 0 {
				return studio.FaultAt("/field", words.ChooseWhatIsCorrected())
			}
			added.Was = fields[i].Was
		}
		if err := tx.AddRecordAddition(ctx, visit, a.Account, added); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "add to", "record", visit)
	})
	if err != nil {
		return nil, err
	}
	return s.Record(ctx, a, visit)
}
