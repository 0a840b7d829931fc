package checks

import (
	"testing"
	"time"
	_ "time/tzdata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/studio"
)

// The pieces of a tool are counted, not the tool: the visit waits for the first
// that comes back, where all are out (handbook, chapter 4: two sets cannot serve
// four clients in a row).
func TestReadyIn(t *testing.T) {
	at := time.Date(2026, 11, 24, 14, 0, 0, 0, time.UTC)
	in := func(minutes ...int) (out []time.Time) {
		for _, m := range minutes {
			out = append(out, at.Add(time.Duration(m)*time.Minute))
		}
		return out
	}
	for _, c := range []struct {
		name   string
		pieces int
		ready  []time.Time
		want   float64
		busy   bool
	}{
		{"nothing out", 1, in(), 0, false},
		{"back already", 1, in(-5), 0, false},
		{"back this minute", 1, in(0), 0, false},
		{"the only one out", 1, in(20), 20, true},
		{"one of two out", 2, in(20), 0, false},
		{"both out, the first comes", 2, in(50, 20), 20, true},
		{"two sets after three clients", 2, in(10, 30, 90), 30, true},
		{"a tool without a number counts as one", 0, in(15), 15, true},
		{"back ones do not count", 2, in(-10, -1, 40), 0, false},
	} {
		got, busy := readyIn(map[string]protocol.Tool{"t": {Name: "T", Pieces: c.pieces}}, map[string][]time.Time{"t": c.ready}, at)["t"]
		assert.Equal(t, c.busy, busy, c.name)
		assert.InDelta(t, c.want, got, 1e-9, c.name)
	}
}

// A day begins at the studio's midnight, also where clocks change in that night.
func TestMidnight(t *testing.T) {
	st := &studio.Studio{TimeZone: "Europe/Lisbon"}
	for from, want := range map[string]string{
		"2026-11-24T00:30:00Z": "2026-11-24T00:00:00Z",
		"2026-07-24T23:30:00Z": "2026-07-24T23:00:00Z", // past midnight in summer
		"2026-10-25T12:00:00Z": "2026-10-24T23:00:00Z", // still summer time at midnight
		"2027-03-28T12:00:00Z": "2027-03-28T00:00:00Z",
	} {
		at, err := time.Parse(time.RFC3339, from)
		require.NoError(t, err)
		assert.Equal(t, want, st.Midnight(at).UTC().Format(time.RFC3339), from)
	}
}
