package guide_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/guide"
)

func at(x float64) *float64 { return &x }

// A welcome of five minutes is part of the appointment (handbook, chapter 7, Lateness).
func TestStartedLate(t *testing.T) {
	for after, want := range map[float64]int{-120: 0, 0: 0, 300: 0, 359: 0, 360: 1, 420: 2, 899: 9} {
		assert.Equal(t, want, guide.StartedLate(after), "%v seconds after the booked start", after)
	}
}

// The handbook's worked lateness (chapter 7): start 10:00, welcome 5, hands-on 35; at 10:17:17 on plan second 300.
func TestTheWorkedLateness(t *testing.T) {
	p := guide.Place{StartsAt: 36000, Welcome: 300, HandsOn: 2100, Total: 2100, Now: 37037, Position: 300, Boundary: at(312)}
	got := p.Lateness()
	assert.Equal(t, []any{38400.0, 437.0, 8, true, "7 min late"}, []any{got.HandsOff, got.Late, got.Minutes, got.Offer, got.Words})
	require.NotNil(t, got.Slot)
	assert.InDelta(t, 1308, *got.Slot, 1e-9)
}

// When a re-fit is offered, and again after it was declined; what is said (chapter 7, Late, early, over).
func TestOffers(t *testing.T) {
	for _, c := range []struct {
		late     float64
		declined *float64
		offer    bool
		words    string
	}{
		{0, nil, false, ""},
		{59, nil, false, ""},
		{60, nil, false, "1 min late"},
		{89, nil, false, "1 min late"},
		{90, nil, true, "1 min late"},
		{-59, nil, false, ""},
		{-179, nil, false, "2 min early"},
		{-180, nil, true, "3 min early"},
		{120, at(90), false, "2 min late"},
		{150, at(90), true, "2 min late"},
		{-200, at(90), true, "3 min early"},
		{-230, at(-190), false, "3 min early"},
		{-250, at(-190), true, "4 min early"},
	} {
		p := guide.Place{StartsAt: 0, HandsOn: 1000, Total: 1000, Now: c.late, DeclinedAt: c.declined}
		got := p.Lateness()
		assert.Equal(t, c.offer, got.Offer, "%+v", c)
		assert.Equal(t, c.words, got.Words, "%+v", c)
		assert.Nil(t, got.Slot)
	}
	door := guide.Place{StartsAt: 0, Welcome: 300, HandsOn: 1000, Total: 1000, Now: 120, DoorOpen: true}
	assert.InDelta(t, 120, door.Lateness().Late, 1e-9, "the welcome is still to come")
}

// The handbook's worked observations, and the cases that give none (chapter 7, Half-life of a product).
func TestWhatTheRoomTeachesOfSlip(t *testing.T) {
	oil := guide.Applied{Minute: 6, Product: "calm-oil", Regions: []string{"upper", "middle", "lower"}, Planned: true, Slip: 100}
	more := guide.Applied{Minute: 29, Product: "calm-oil", Regions: []string{"middle"}, Slip: 77.85, Region: "middle", Need: at(35)}
	slides := []guide.SlidEnd{{End: 20, Region: "upper", Need: at(35)}, {End: 29, Region: "middle", Need: at(35)}, {End: 38, Region: "middle", Need: at(35)}, {End: 39, Region: "neck", Need: at(35)}}
	observe := func(s guide.Slippings) []guide.SlipObservation {
		got, err := s.Observe()
		require.NoError(t, err)
		return got.Observations
	}
	assert.Equal(t, []guide.SlipObservation{
		{Product: "calm-oil", Kind: "at", Minutes: 23, Slip: 100, Need: 35},
		{Product: "calm-oil", Kind: "beyond", Minutes: 9, Slip: 77.85, Need: 35},
	}, observe(guide.Slippings{End: 40, Applications: []guide.Applied{oil, more}, Sliding: slides}))

	serum := guide.Applied{Minute: 2, Product: "serum", Regions: []string{"middle"}, Planned: true, Slip: 90}
	got := observe(guide.Slippings{End: 40, Applications: []guide.Applied{serum, oil}, Sliding: slides})
	assert.Empty(t, got, "the serum is covered before anything slid on it, and the oil lies on the serum")
	wiped := guide.Slippings{End: 40, Applications: []guide.Applied{serum, oil}, Sliding: slides, Removals: []guide.Removed{{Minute: 6, Regions: []string{"middle"}}}}
	got = observe(wiped)
	require.Len(t, got, 1, "wiped off in the minute of the oil, before it")
	assert.Equal(t, []any{"calm-oil", "beyond", 32.0}, []any{got[0].Product, got[0].Kind, got[0].Minutes})
	wiped.Removals[0].Blot = true
	assert.Empty(t, observe(wiped), "a blot leaves it")
	oil.Slip = 35
	assert.Empty(t, observe(guide.Slippings{End: 40, Applications: []guide.Applied{oil}, Sliding: slides}), "no slip above the need")
}

// Minutes are shown whole and towards zero, nothing below one (handbook, chapter 7).
func TestWholeMinutes(t *testing.T) {
	for late, want := range map[float64]int{437: 7, 59: 0, 60: 1, -59: 0, -125: -2} {
		assert.Equal(t, want, guide.WholeMinutes(late), late)
	}
}
