package shelf_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/shelf"
)

// Disinfection counts only for the label's contact time, in a bath within its hours (handbook, chapter 4).
func TestABathCounts(t *testing.T) {
	nine := time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	bath := &shelf.Bath{MadeAt: nine.Add(-time.Hour), GoodUntil: nine.Add(8 * time.Hour), Contact: 10 * time.Minute}
	in := shelf.Piece{State: shelf.PieceInBath, Since: nine, Bath: bath}
	assert.Equal(t, nine.Add(10*time.Minute), in.ContactEnds())
	for _, c := range []struct {
		name string
		of   shelf.Piece
		to   shelf.PieceState
		at   time.Time
		want shelf.PieceState
		ok   bool
	}{
		{"long enough", in, shelf.PieceDrying, nine.Add(10 * time.Minute), shelf.PieceDrying, true},
		{"taken out early", in, shelf.PieceDrying, nine.Add(9 * time.Minute), shelf.PieceToClean, true},
		{"in a bath past its time", shelf.Piece{State: shelf.PieceInBath, Since: nine.Add(9 * time.Hour), Bath: bath}, shelf.PieceDrying, nine.Add(10 * time.Hour), shelf.PieceToClean, true},
		{"in no bath that is known", shelf.Piece{State: shelf.PieceInBath, Since: nine}, shelf.PieceDrying, nine.Add(time.Hour), shelf.PieceToClean, true},
		{"straight from use to ready", shelf.Piece{State: shelf.PieceInUse}, shelf.PieceReady, nine, shelf.PieceInUse, false},
		{"retired for good", shelf.Piece{State: shelf.PieceRetired}, shelf.PieceReady, nine, shelf.PieceRetired, false},
		{"dry and chilled", shelf.Piece{State: shelf.PieceDrying}, shelf.PieceChill, nine, shelf.PieceChill, true},
	} {
		got, ok := c.of.Move(c.to, c.at)
		assert.Equal(t, []any{c.want, c.ok}, []any{got, ok}, c.name)
	}
}

// Ready at = end of hands-on + clean + temper, and sooner by what the log says is done (handbook, chapter 4;
// a 30-minute clean and a 2-hour chill).
func TestAPieceIsReady(t *testing.T) {
	now := time.Date(2026, 11, 24, 12, 0, 0, 0, time.UTC)
	clean, chill := 30*time.Minute, 2*time.Hour
	bath := &shelf.Bath{MadeAt: now.Add(-time.Hour), GoodUntil: now.Add(time.Hour), Contact: 10 * time.Minute}
	for _, c := range []struct {
		of   shelf.Piece
		want time.Time
	}{
		{shelf.Piece{State: shelf.PieceReady}, now},
		{shelf.Piece{State: shelf.PieceInUse}, now.Add(15*time.Minute + clean + chill)},
		{shelf.Piece{State: shelf.PieceToClean}, now.Add(clean + chill)},
		{shelf.Piece{State: shelf.PieceInBath, Since: now.Add(-20 * time.Minute), Bath: bath}, now.Add(10*time.Minute + chill)},
		{shelf.Piece{State: shelf.PieceDrying, Since: now.Add(-5 * time.Minute)}, now.Add(chill)},
		{shelf.Piece{State: shelf.PieceChill, Since: now.Add(-90 * time.Minute)}, now.Add(30 * time.Minute)},
		{shelf.Piece{State: shelf.PieceChill, Since: now.Add(-3 * time.Hour)}, now},
		{shelf.Piece{State: shelf.PieceAway}, now.Add(chill)},
		{shelf.Piece{State: shelf.PieceRetired}, time.Time{}},
	} {
		assert.Equal(t, c.want, c.of.ReadyAt(now, now.Add(15*time.Minute), clean, chill), c.of.State)
	}
	assert.Equal(t, now, (&shelf.Piece{State: shelf.PieceAway}).ReadyAt(now, now, clean, 0))
}

// Pieces per visit x the most visits between two washes x 1.2, rounded up (common practice).
func TestLinenWanted(t *testing.T) {
	assert.Equal(t, 22, shelf.LinenWanted(3, 6), "3 x 6 x 1.2 = 21.6")
	assert.Equal(t, 12, shelf.LinenWanted(1, 10))
	assert.Equal(t, 0, shelf.LinenWanted(0, 10))
}
