package shelf

import (
	"cmp"
	"errors"
	"slices"
)

// ToolUse is when a tool is wanted, and when hands-on time ends; minutes of the day.
type ToolUse struct {
	ID    string `json:"id"`
	Start int    `json:"start"`
	End   int    `json:"end"`
}

// ToolSet is how many pieces there are, and how many minutes each takes to clean and to chill or warm.
type ToolSet struct {
	Pieces int       `json:"pieces"`
	Clean  int       `json:"clean"`
	Temper int       `json:"temper"`
	Uses   []ToolUse `json:"uses"`
}

// Served is the piece that serves a use and when it is ready again; or none, and when the first is.
type Served struct {
	ID         string `json:"id"`
	Piece      *int   `json:"piece"`
	ReadyAgain *int   `json:"readyAgain,omitempty"`
	FirstReady *int   `json:"firstReady,omitempty"`
}

// Serve gives each use, by start, the piece that has been ready longest, the lowest number at a tie
// (handbook, chapter 4: ready at = end of hands-on + clean + temper).
func (s *ToolSet) Serve() ([]Served, error) {
	if s.Pieces < 1 {
		return nil, errors.New("there must be at least one piece")
	}
	uses := slices.Clone(s.Uses)
	slices.SortStableFunc(uses, func(a, b ToolUse) int { return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(a.ID, b.ID)) })
	ready := make([]int, s.Pieces) // 0: ready since the day began
	out := make([]Served, len(uses))
	for i, u := range uses {
		best := 0
		for k := range ready {
			if ready[k] < ready[best] {
				best = k
			}
		}
		out[i].ID = u.ID
		first := ready[best]
		if first > u.Start {
			out[i].FirstReady = &first
			continue
		}
		piece, again := best+1, u.End+s.Clean+s.Temper
		ready[best] = again
		out[i].Piece, out[i].ReadyAgain = &piece, &again
	}
	return out, nil
}
