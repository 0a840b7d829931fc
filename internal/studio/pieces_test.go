package studio

import (
	"testing"
	"time"
	_ "time/tzdata"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/protocol"
)

func lisbon(t *testing.T) *time.Location {
	t.Helper()
	zone, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(t, err)
	return zone
}

// How long until bed, by the studio's clock: past midnight, not known, and on the
// night that has an hour more (25 October 2026, from the tz database).
func TestMinutesToBed(t *testing.T) {
	zone := lisbon(t)
	for _, c := range []struct {
		bedtime, after string
		want           float64
	}{
		{"22:30", "2026-11-24 21:00", 90},
		{"22:30", "2026-11-24 22:30", 0},
		{"00:30", "2026-11-24 22:00", 150},
		{"22:30", "2026-11-24 23:00", 23.5 * 60},
		{"02:30", "2026-10-25 00:30", 180}, // the hour between one and two comes twice
		{"", "2026-11-24 21:00", 0},
		{"late", "2026-11-24 21:00", 0},
	} {
		after, err := time.ParseInLocation("2006-01-02 15:04", c.after, zone)
		require.NoError(t, err)
		a := ClientHistory{Bedtime: c.bedtime}
		assert.InDelta(t, c.want, a.MinutesToBed(after), 1e-9, "%s to %s", c.after, c.bedtime)
	}
}

// What is told besides the answers is checked field by field, and brings only what
// was told onto the file.
func TestClientHistory(t *testing.T) {
	for _, c := range []struct {
		path  string
		about ClientHistory
	}{
		{"/history/birthDate", ClientHistory{BirthDate: "2026-11-25"}},
		{"/history/birthDate", ClientHistory{BirthDate: "1899-12-31"}},
		{"/history/birthDate", ClientHistory{BirthDate: "24.11.1990"}},
		{"/history/bedtime", ClientHistory{Bedtime: "25:00"}},
		{"/history/bedtime", ClientHistory{Bedtime: "half past ten"}},
		{"/history/skinStates", ClientHistory{SkinStates: []string{"shiny"}}},
		{"/history/concerns", ClientHistory{Concerns: []string{"immortality"}}},
		{"/history/medicines", ClientHistory{Medicines: []string{"  "}}},
	} {
		var bad *InputError
		require.ErrorAs(t, c.about.Check("2026-11-24"), &bad, "%+v", c.about)
		assert.Equal(t, c.path, bad.Problems[0].Path)
	}
	full := ClientHistory{BirthDate: "2026-11-24", SkinType: "dry", SkinStates: []string{"mature"}, Concerns: []string{protocol.Concerns[0].Key}, Medicines: []string{"warfarin"}, Bedtime: "22:30"}
	require.NoError(t, full.Check("2026-11-24"))
	require.NoError(t, (&ClientHistory{}).Check("2026-11-24"), "nothing has to be told")

	c := Client{ClientFields: ClientFields{Name: "A", BirthDate: "1980-01-01", SkinType: "oily", SkinStates: []string{"sensitive"}}}
	assert.False(t, (&ClientHistory{}).ApplyTo(&c), "what was not told stays")
	assert.Equal(t, "oily", c.SkinType)
	assert.True(t, full.ApplyTo(&c))
	assert.Equal(t, []string{"mature"}, c.SkinStates)
	assert.Equal(t, "2026-11-24", c.BirthDate)
	assert.True(t, (&ClientHistory{SkinType: "dry"}).ApplyTo(&c), "a skin with no state any more")
	assert.NotNil(t, c.SkinStates)
	assert.Empty(t, c.SkinStates)
	assert.False(t, (&ClientHistory{SkinType: "dry"}).ApplyTo(&c))
}

// Keys are made of names, and never of one that is taken.
func TestFreeKey(t *testing.T) {
	taken := map[string]bool{"lantern-glide": true, "lantern-glide-2": true}
	is := func(k string) bool { return taken[k] }
	assert.Equal(t, "lantern-glide-3", FreeKey("Lantern  Glide!", "stroke", is))
	assert.Equal(t, "quiet-evening", FreeKey("Quiet evening", "stroke", is))
	assert.Equal(t, "stroke", FreeKey("手", "stroke", is), "a name without a letter that a key may have")
	long := FreeKey("a very long name that goes on and on and on until nobody reads it any more", "stroke", is)
	assert.LessOrEqual(t, len(long), 50)
	assert.NotEqual(t, byte('-'), long[len(long)-1])
}

// A product that is counted by weight is taken by weight: 3 mL of a balm of
// 0.9 g/mL are 2.7 g.
func TestInUnit(t *testing.T) {
	balm := &Product{Unit: "g"}
	balm.Density = 0.9
	assert.Equal(t, "2.7", InUnit(balm, 3).String())
	oil := &Product{Unit: "mL"}
	oil.Density = 0.9
	assert.Equal(t, "3", InUnit(oil, 3).String())
	unweighed := &Product{Unit: "g"}
	assert.Equal(t, "3", InUnit(unweighed, 3).String(), "a density that is not known counts as one")
}

// What a mL costs: 12.00 for 50 g of a balm of 0.9 g/mL is 0.24 a gram and 0.216 a
// mL; 12.00 for 50 mL is 0.24 a mL, whatever it weighs (by hand).
func TestCostOfOneML(t *testing.T) {
	balm := Product{Unit: "g", PackSize: decimal.NewFromInt(50), Price: decimal.NewFromInt(12)}
	balm.Key, balm.Density = "balm", 0.9
	oil := balm
	oil.Key, oil.Unit = "oil", "mL"
	cx := (&Library{Products: []Product{balm, oil}}).Context()
	assert.Equal(t, "0.216", cx.Products["balm"].Cost)
	assert.Equal(t, "0.24", cx.Products["oil"].Cost)
}
