package guide_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"softpalm/internal/craft/guide"
)

// A log of two tablets: the first leads, the second takes over (handbook, chapter 7, Event log).
func handedOver() []guide.Event {
	return []guide.Event{
		{ID: "a1", Device: "A", Seq: 1, N: 1, At: 0, Kind: guide.Start},
		{ID: "a2", Device: "A", Seq: 2, N: 2, At: 1000, Kind: guide.Begin, Spell: "one/1", By: "auto"},
		{ID: "a3", Device: "A", Seq: 3, N: 3, At: 21000, Kind: guide.Begin, Spell: "two/1", By: "pedal"},
		{ID: "a4", Device: "A", Seq: 4, N: 4, At: 30000, Kind: guide.Pause},
		{ID: "a5", Device: "A", Seq: 5, N: 5, At: 90000, Kind: guide.Resume},
		{ID: "b1", Device: "B", Seq: 1, N: 6, At: 91000, Kind: guide.Stay, Spell: "two/1", Add: 3},
		{ID: "b2", Device: "B", Seq: 2, N: 7, At: 92000, Kind: guide.Tender, Zone: "temple", Side: "left"},
		{ID: "b3", Device: "B", Seq: 3, N: 8, At: 93000, Kind: guide.Lead},
		{ID: "a6", Device: "A", Seq: 6, N: 9, At: 94000, Kind: guide.Begin, Spell: "three/1"},
		{ID: "b4", Device: "B", Seq: 4, N: 10, At: 100000, Kind: guide.Skip, Step: "brow"},
		{ID: "b5", Device: "B", Seq: 5, N: 11, At: 101000, Kind: guide.Undo, Of: "b4"},
		{ID: "b6", Device: "B", Seq: 6, N: 12, At: 110000, Kind: guide.Stop},
	}
}

func TestATreatmentIsHandedOver(t *testing.T) {
	l := guide.Log{Arrived: handedOver(), Leads: map[string]float64{"one/1": 2, "two/1": 1}}
	s := l.Merge()
	assert.Equal(t, "B", s.Leader)
	assert.Equal(t, []string{"a6", "b1"}, s.Aside, "a stay before it led, a step after it did")
	assert.Equal(t, map[string]float64{"one/1": 18, "two/1": 28}, s.Real, "20 s less a lead of 2; 9 s and 20 s less 1")
	assert.Equal(t, []string{"two/1"}, s.PausedSpells)
	assert.True(t, s.Stopped)
	assert.False(t, s.Running)
	assert.Empty(t, s.Skipped, "undone")
	assert.Len(t, s.Marks, 1, "a mark counts from every tablet")
	assert.Empty(t, s.Estimated, "it stands still")
	assert.Equal(t, 12, s.Counted)
}

// A spell that nothing ended is estimated: it ends with the leader's last event.
func TestALastSpellIsEstimated(t *testing.T) {
	l := guide.Log{Arrived: append(handedOver(), guide.Event{ID: "b7", Device: "B", Seq: 7, N: 13, At: 120000, Kind: guide.GoOn},
		guide.Event{ID: "b8", Device: "B", Seq: 8, N: 14, At: 135000, Kind: guide.Note})}
	s := l.Merge()
	assert.Equal(t, []string{"two/1"}, s.Estimated)
	assert.InDelta(t, 9+20+15, s.Real["two/1"], 1e-9)
}

// Gaps are told, the smaller id of one number counts, the other is a fault, and what comes twice is counted once.
func TestGapsFaultsAndRepeats(t *testing.T) {
	all := handedOver()
	arrived := append(all[:3:3], all[4], all[0], guide.Event{ID: "a0", Device: "A", Seq: 2, N: 2, At: 500, Kind: guide.Begin, Spell: "zero/1"})
	l := guide.Log{Arrived: arrived}
	s := l.Merge()
	assert.Equal(t, map[string][]int{"A": {4}}, s.Missing)
	assert.Equal(t, []string{"a2"}, s.Faults)
	assert.Equal(t, 1, s.Duplicates)
	assert.Contains(t, s.Real, "zero/1")
	assert.NotContains(t, s.Real, "one/1")
}

// Any order of arrival and any repetition gives the same state.
func TestAnyOrderOfArrival(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		kinds := []guide.Kind{
			guide.Start, guide.Begin, guide.Begin, guide.Pause, guide.Resume, guide.Skip, guide.Stay, guide.Stop, guide.GoOn, guide.Finish,
			guide.Lead, guide.Less, guide.Tender, guide.Product, guide.Tick, guide.Grade, guide.Undo, guide.Refit, guide.Quiet,
		}
		seq := map[string]int{}
		var events []guide.Event
		for i := range rapid.IntRange(1, 30).Draw(t, "events") {
			device := rapid.SampledFrom([]string{"A", "B"}).Draw(t, "device")
			seq[device]++
			e := guide.Event{
				ID: fmt.Sprintf("e%02d", i), Device: device, Seq: seq[device], N: rapid.IntRange(1, 20).Draw(t, "n"), At: float64(1000 * i),
				Kind: rapid.SampledFrom(kinds).Draw(t, "kind"), Spell: rapid.SampledFrom([]string{"x/1", "y/1"}).Draw(t, "spell"), Step: "x",
				Add: 1, Item: "towel", On: rapid.Bool().Draw(t, "on"), Of: fmt.Sprintf("e%02d", rapid.IntRange(0, 29).Draw(t, "of")),
			}
			events = append(events, e)
		}
		want := (&guide.Log{Arrived: events}).Merge()
		again := append([]guide.Event{}, events...)
		for range rapid.IntRange(0, 5).Draw(t, "repeats") {
			again = append(again, rapid.SampledFrom(events).Draw(t, "again"))
		}
		rng := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		rng.Shuffle(len(again), func(i, j int) { again[i], again[j] = again[j], again[i] })
		got := (&guide.Log{Arrived: again}).Merge()
		assert.Equal(t, len(again)-len(events), got.Duplicates)
		got.Duplicates = want.Duplicates
		assert.Equal(t, want, got)
	})
}

// Where the guide stands: into the present spell as far as it ran, and from when on it runs.
func TestStanding(t *testing.T) {
	l := guide.Log{Arrived: handedOver()}
	s := l.Standing()
	assert.InDelta(t, 29, s.Into, 1e-9, "9 s before the pause, 20 s up to Stop")
	assert.Nil(t, s.Since)
	assert.Equal(t, []any{12, map[string]int{"A": 6, "B": 6}}, []any{s.N, s.Seq})
	l.Arrived = append(l.Arrived, guide.Event{ID: "b8", Device: "B", Seq: 8, N: 13, At: 120000, Kind: guide.GoOn})
	s = l.Standing()
	assert.InDelta(t, 120000, *s.Since, 1e-9)
	assert.Equal(t, 6, s.Seq["B"], "the seventh is still to come")
}
