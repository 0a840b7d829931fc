package money

import "encoding/json"

// plainEvent is an event without its own way of reading JSON.
type plainEvent Event

// UnmarshalJSON reads an event; its lines are lines on a receipt, and indexes of lines on a credit.
func (e *Event) UnmarshalJSON(raw []byte) error {
	var lines struct {
		Lines json.RawMessage `json:"lines"`
	}
	if err := json.Unmarshal(raw, (*plainEvent)(e)); err != nil {
		return err
	}
	if err := json.Unmarshal(raw, &lines); err != nil || lines.Lines == nil {
		return err
	}
	if e.Kind == Credited {
		return json.Unmarshal(lines.Lines, &e.Indexes)
	}
	return json.Unmarshal(lines.Lines, &e.Lines)
}
