package shelf

import (
	"slices"
	"time"
)

// PieceState is how a piece of a tool stands.
type PieceState string

// The states of a piece (handbook, chapter 4, Tools and hygiene).
const (
	PieceReady   PieceState = "ready"
	PieceInUse   PieceState = "in use"
	PieceToClean PieceState = "to clean"
	PieceInBath  PieceState = "in the bath"
	PieceDrying  PieceState = "drying"
	PieceChill   PieceState = "chilling"
	PieceAway    PieceState = "put away"
	PieceRetired PieceState = "retired"
)

// pieceMoves are the ways from one state to the next; a retired piece stays so.
var pieceMoves = map[PieceState][]PieceState{
	PieceReady:   {PieceInUse, PieceChill, PieceAway, PieceToClean, PieceRetired},
	PieceInUse:   {PieceToClean, PieceRetired},
	PieceToClean: {PieceInBath, PieceDrying, PieceRetired},
	PieceInBath:  {PieceDrying, PieceToClean, PieceRetired},
	PieceDrying:  {PieceReady, PieceChill, PieceAway, PieceToClean, PieceRetired},
	PieceChill:   {PieceReady, PieceInUse, PieceAway, PieceToClean, PieceRetired},
	PieceAway:    {PieceReady, PieceChill, PieceToClean, PieceRetired},
}

// NextStates are the states that a piece in a state may come to.
func (s PieceState) NextStates() []PieceState { return pieceMoves[s] }

// Bath is a disinfectant made up for use.
type Bath struct {
	// MadeAt and GoodUntil by the label; Contact is how long a piece stays in it.
	MadeAt, GoodUntil time.Time
	Contact           time.Duration
}

// Good reports whether the bath may be used at a moment.
func (b *Bath) Good(at time.Time) bool { return !at.Before(b.MadeAt) && at.Before(b.GoodUntil) }

// Piece is a piece of a tool as its log tells it.
type Piece struct {
	State PieceState
	Since time.Time
	// Bath it lies in, and that it was put into.
	Bath *Bath
}

// ContactEnds is when a piece in the bath has lain there long enough.
func (p *Piece) ContactEnds() time.Time {
	if p.State != PieceInBath || p.Bath == nil {
		return p.Since
	}
	return p.Since.Add(p.Bath.Contact)
}

// Move brings a piece to a state at a moment. A piece that leaves the bath too early, or lay in one past
// its time, was not disinfected: it is to clean again. Moved is false where there is no such way.
func (p *Piece) Move(to PieceState, at time.Time) (state PieceState, moved bool) {
	if !slices.Contains(pieceMoves[p.State], to) {
		return p.State, false
	}
	if p.State == PieceInBath && to == PieceDrying && (p.Bath == nil || at.Before(p.ContactEnds()) || !p.Bath.Good(p.Since)) {
		return PieceToClean, true
	}
	return to, true
}

// ReadyAt is when a piece can be used again: by its log, and by what is still to be done with it. Clean is
// how long cleaning takes altogether, temper how long it is chilled or warmed; busyUntil is when hands-on
// time ends for a piece in use. A retired piece is never ready: the zero time.
func (p *Piece) ReadyAt(now, busyUntil time.Time, clean, temper time.Duration) time.Time {
	latest := func(a, b time.Time) time.Time {
		if a.Before(b) {
			return b
		}
		return a
	}
	switch p.State {
	case PieceRetired:
		return time.Time{}
	case PieceInUse:
		return latest(busyUntil, now).Add(clean + temper)
	case PieceToClean:
		return now.Add(clean + temper)
	case PieceInBath:
		return latest(p.Since.Add(clean), latest(p.ContactEnds(), now)).Add(temper)
	case PieceDrying:
		return latest(p.Since, now).Add(temper)
	case PieceChill:
		return latest(p.Since.Add(temper), now)
	case PieceAway:
		if temper > 0 {
			return now.Add(temper)
		}
	}
	return now
}

// LinenWanted is how many pieces of linen a studio wants: what the most visits between two washes take, and
// a fifth more (common practice).
func LinenWanted(perVisit, mostVisits int) int {
	return (perVisit*mostVisits*12 + 9) / 10
}
