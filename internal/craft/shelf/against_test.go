package shelf_test

import (
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"softpalm/internal/craft/shelf"
)

// Use against plan: the middle and the range of half of the records; "as planned" is counted and tells nothing
// (hinges of 1..7 are 2.5 and 5.5: Tukey, Exploratory Data Analysis, 1977; from memory).
func TestUseAgainstPlan(t *testing.T) {
	of := func(used ...string) (out []shelf.Dosed) {
		for _, u := range used {
			out = append(out, shelf.Dosed{Planned: *some("2"), Real: *some(u), How: shelf.Counted})
		}
		return out
	}
	got := shelf.Compare(of("2", "14", "4", "8", "6", "12", "10"))
	assert.Equal(t, []string{"4", "2.5", "5.5"}, []string{got.Median.String(), got.Low.String(), got.High.String()}, "ratios 1 to 7")
	got = shelf.Compare(append(of("3"), shelf.Dosed{Planned: *some("2"), Real: *some("2"), How: shelf.AsPlanned}))
	assert.Equal(t, []any{2, 1, "1.5", "1.5"}, []any{got.Records, got.Measured, got.Median.String(), got.High.String()})
	assert.Zero(t, shelf.Compare(nil).Measured)
}

// What is kept movement by movement agrees with the worth worked out from the whole history, whatever comes and goes.
func TestWorthIsKept(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var issues []shelf.Issue
		var layers []shelf.Layer
		left, average := decimal.Zero, decimal.Zero
		for range rapid.IntRange(1, 25).Draw(t, "movements") {
			if amount := decimal.New(rapid.Int64Range(1, 50_000).Draw(t, "amount"), -3); rapid.Bool().Draw(t, "in") {
				cost := decimal.New(rapid.Int64Range(0, 9_999).Draw(t, "cost"), -2)
				issues = append(issues, shelf.Issue{In: &amount, Cost: &cost})
				layers = append(layers, shelf.Layer{Cost: cost, Amount: amount, Left: amount, Minor: 2})
				left, average = left.Add(amount), average.Add(cost)
			} else if left.IsPositive() {
				amount = decimal.Min(amount, left)
				issues = append(issues, shelf.Issue{Out: &amount})
				average, left = average.Sub(shelf.AveragePart(average, amount, left)), left.Sub(amount)
			}
		}
		want, err := shelf.Value(issues)
		require.NoError(t, err)
		assert.True(t, want.Average.Equal(average), "%s, kept %s", want.Average, average)
		assert.True(t, want.FIFO.Equal(shelf.FirstOut(layers, left)), "%s, from the newest %s", want.FIFO, shelf.FirstOut(layers, left))
	})
}

// A movement may be dated back to the last closed stocktake of its lot and not before it (handbook, chapter 4,
// Movements); not before its pack came, and not ahead.
func TestDatingBack(t *testing.T) {
	for _, c := range []struct {
		day, counted string
		want         shelf.Refusal
	}{
		{"2026-11-20", "", ""},
		{"2026-11-10", "", ""},
		{"2026-11-09", "", shelf.BeforeReceived},
		{"2026-11-25", "", shelf.DayToCome},
		{"2026-11-18", "2026-11-18", ""},
		{"2026-11-17", "2026-11-18", shelf.BeforeCounted},
	} {
		d := shelf.DatedBack{Day: c.day, Today: "2026-11-24", Received: "2026-11-10", Counted: c.counted}
		assert.Equal(t, c.want, d.Refuse(), "%s, counted %q", c.day, c.counted)
	}
}

// What to mind about a blend (handbook, chapter 4, Mixing: face 0.5 to 1 %, with care at most 0.5 %, 0 drops).
func TestMindingABlend(t *testing.T) {
	for _, c := range []struct {
		carrier, percent, most string
		careful                bool
		want                   shelf.BlendMind
	}{
		{"30", "1", "", false, ""},
		{"30", "1", "", true, shelf.TooStrongForCare},
		{"30", "0.5", "", true, ""},
		{"30", "2", "", false, shelf.TooStrongForFace},
		{"2", "1", "", false, shelf.TooLittleCarrier},
		{"30", "1", "0.4", false, shelf.AtDermalMax},
	} {
		b := shelf.Blend{CarrierML: *some(c.carrier), Percent: *some(c.percent), DropsPerML: *some("20")}
		if c.most != "" {
			b.DermalMax = some(c.most)
		}
		drops, err := b.Drops()
		require.NoError(t, err)
		assert.Equal(t, c.want, b.Mind(c.careful, drops.Drops), "%s mL at %s %%", c.carrier, c.percent)
	}
}

// A 0.1 g kitchen scale on 20 drops is too coarse (handbook, chapter 4, Calibrating: 13.6 %).
func TestACoarseScale(t *testing.T) {
	for step, want := range map[string]bool{"0.1": true, "0.01": false} {
		c := shelf.Calibration{Readings: []decimal.Decimal{*some("0.60")}, Drops: 20, Step: *some(step), Density: *some("0.92")}
		got, err := c.Result()
		require.NoError(t, err)
		assert.Equal(t, want, got.Coarse(), "%s g: %s %%", step, got.ErrorPercent)
	}
}
