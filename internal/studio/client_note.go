package studio

import (
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/google/uuid"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/words"
)

// ClientNote is what a practitioner wants to remember of a client at a place or at a
// stroke: "left jaw is the tender one".
type ClientNote struct {
	ID uuid.UUID `json:"id"`
	PinnedNote
	Author string    `json:"author"`
	At     time.Time `json:"at"`
}

// PinnedNote is a note and where it is pinned: at a zone, on a side of it, or at a stroke.
type PinnedNote struct {
	Zone   string `json:"zone,omitempty" maxLength:"60"`
	Side   string `json:"side,omitempty" enum:"left,right,both,"`
	Stroke string `json:"stroke,omitempty" maxLength:"60"`
	Body   string `json:"body" maxLength:"300"`
}

// longestNote is how many characters a note has at most.
const longestNote = 300

// Tidy checks a note and brings it into the one way it is kept.
func (n *PinnedNote) Tidy() error {
	if n.Body = strings.TrimSpace(n.Body); n.Body == "" || utf8.RuneCountInString(n.Body) > longestNote {
		return FaultAt("/body", words.WriteTheNoteInUpToCharacters(longestNote))
	}
	if (n.Zone == "") == (n.Stroke == "") {
		return FaultAt("/zone", words.ChooseThePlaceOrTheStrokeOfTheNote())
	}
	if n.Stroke != "" {
		n.Side = ""
		return nil
	}
	id, ok := anatomy.Lookup(n.Zone)
	switch {
	case !ok:
		return FaultAt("/zone", words.ChooseThePlaceOrTheStrokeOfTheNote())
	case !id.Zone().Paired:
		n.Side = ""
	case n.Side == "":
		n.Side = "both"
	}
	return nil
}

// StepNote is a note at the steps of a plan that it is about.
type StepNote struct {
	PinnedNote
	Steps []string `json:"steps"`
}

// NotesAt lists the notes with the steps of a plan at which each has to be remembered:
// those that touch its zone on its side, or use its stroke. Notes without a step stay in
// the list.
func NotesAt(notes []ClientNote, e *evaluation.Evaluation) []StepNote {
	out := []StepNote{}
	for i := range notes {
		n := StepNote{PinnedNote: notes[i].PinnedNote, Steps: []string{}}
		for k := range e.Steps {
			if step := &e.Steps[k]; n.about(step) {
				n.Steps = append(n.Steps, step.ID)
			}
		}
		out = append(out, n)
	}
	return out
}

// about reports whether a note is about a step.
func (n *PinnedNote) about(step *evaluation.Resolved) bool {
	if n.Stroke != "" {
		return step.StrokeKey == n.Stroke
	}
	other := map[string]string{"left": "right", "right": "left"}[n.Side]
	return string(step.Sides) != other && slices.ContainsFunc(step.Path, func(at evaluation.Stop) bool {
		return at.Zone == n.Zone && (at.Side == "" || at.Side != other)
	})
}
