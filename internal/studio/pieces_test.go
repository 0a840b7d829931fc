package studio

import (
	"testing"
	"time"
	_ "time/tzdata"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/adjusting"
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
		a := About{Bedtime: c.bedtime}
		assert.InDelta(t, c.want, a.minutesToBed(after), 1e-9, "%s to %s", c.after, c.bedtime)
	}
}

// What is told besides the answers is checked field by field, and brings only what
// was told onto the file.
func TestAbout(t *testing.T) {
	for _, c := range []struct {
		path  string
		about About
	}{
		{"/about/birthDate", About{BirthDate: "2026-11-25"}},
		{"/about/birthDate", About{BirthDate: "1899-12-31"}},
		{"/about/birthDate", About{BirthDate: "24.11.1990"}},
		{"/about/bedtime", About{Bedtime: "25:00"}},
		{"/about/bedtime", About{Bedtime: "half past ten"}},
		{"/about/skinStates", About{SkinStates: []string{"shiny"}}},
		{"/about/concerns", About{Concerns: []string{"immortality"}}},
		{"/about/medicines", About{Medicines: []string{"  "}}},
	} {
		var bad *InputError
		require.ErrorAs(t, c.about.check("2026-11-24"), &bad, "%+v", c.about)
		assert.Equal(t, c.path, bad.Problems[0].Path)
	}
	full := About{BirthDate: "2026-11-24", SkinType: "dry", SkinStates: []string{"mature"}, Concerns: []string{protocol.Concerns[0].Key}, Medicines: []string{"warfarin"}, Bedtime: "22:30"}
	require.NoError(t, full.check("2026-11-24"))
	require.NoError(t, (&About{}).check("2026-11-24"), "nothing has to be told")

	c := Client{ClientFields: ClientFields{Name: "A", BirthDate: "1980-01-01", SkinType: "oily", SkinStates: []string{"sensitive"}}}
	assert.False(t, (&About{}).ontoClient(&c), "what was not told stays")
	assert.Equal(t, "oily", c.SkinType)
	assert.True(t, full.ontoClient(&c))
	assert.Equal(t, []string{"mature"}, c.SkinStates)
	assert.Equal(t, "2026-11-24", c.BirthDate)
	assert.True(t, (&About{SkinType: "dry"}).ontoClient(&c), "a skin with no state any more")
	assert.NotNil(t, c.SkinStates)
	assert.Empty(t, c.SkinStates)
	assert.False(t, (&About{SkinType: "dry"}).ontoClient(&c))
}

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
	st := &Studio{TimeZone: "Europe/Lisbon"}
	for from, want := range map[string]string{
		"2026-11-24T00:30:00Z": "2026-11-24T00:00:00Z",
		"2026-07-24T23:30:00Z": "2026-07-24T23:00:00Z", // past midnight in summer
		"2026-10-25T12:00:00Z": "2026-10-24T23:00:00Z", // still summer time at midnight
		"2027-03-28T12:00:00Z": "2027-03-28T00:00:00Z",
	} {
		at, err := time.Parse(time.RFC3339, from)
		require.NoError(t, err)
		assert.Equal(t, want, midnight(at, st).UTC().Format(time.RFC3339), from)
	}
}

// Days in a studio file: by the calendar, or counted from today.
func TestBundleDay(t *testing.T) {
	today := time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	for text, want := range map[string]string{
		"today": "2026-11-24", "today+7": "2026-12-01", "today-30": "2026-10-25", "today+0": "2026-11-24", "2028-02-29": "2028-02-29",
	} {
		got, ok := bundleDay(text, today)
		assert.True(t, ok, text)
		assert.Equal(t, want, got)
	}
	for _, text := range []string{"", "tomorrow", "today+", "today7", "today+12345", "2026-02-30", "24.11.2026", "today +1"} {
		_, ok := bundleDay(text, today)
		assert.False(t, ok, text)
	}
}

// Keys are made of names, and never of one that is taken.
func TestFreeKey(t *testing.T) {
	taken := map[string]bool{"lantern-glide": true, "lantern-glide-2": true}
	is := func(k string) bool { return taken[k] }
	assert.Equal(t, "lantern-glide-3", freeKey("Lantern  Glide!", "stroke", is))
	assert.Equal(t, "quiet-evening", freeKey("Quiet evening", "stroke", is))
	assert.Equal(t, "stroke", freeKey("手", "stroke", is), "a name without a letter that a key may have")
	long := freeKey("a very long name that goes on and on and on until nobody reads it any more", "stroke", is)
	assert.LessOrEqual(t, len(long), 50)
	assert.NotEqual(t, byte('-'), long[len(long)-1])
}

// A product that is counted by weight is taken by weight: 3 mL of a balm of
// 0.9 g/mL are 2.7 g.
func TestInUnit(t *testing.T) {
	balm := &Product{Unit: "g"}
	balm.Density = 0.9
	assert.Equal(t, "2.7", inUnit(balm, 3).String())
	oil := &Product{Unit: "mL"}
	oil.Density = 0.9
	assert.Equal(t, "3", inUnit(oil, 3).String())
	unweighed := &Product{Unit: "g"}
	assert.Equal(t, "3", inUnit(unweighed, 3).String(), "a density that is not known counts as one")
}

// What a mL costs: 12.00 for 50 g of a balm of 0.9 g/mL is 0.24 a gram and 0.216 a
// mL; 12.00 for 50 mL is 0.24 a mL, whatever it weighs (by hand).
func TestCostOfOneML(t *testing.T) {
	balm := Product{Unit: "g", PackSize: decimal.NewFromInt(50), Price: decimal.NewFromInt(12)}
	balm.Key, balm.Density = "balm", 0.9
	oil := balm
	oil.Key, oil.Unit = "oil", "mL"
	cx := (&Library{Products: []Product{balm, oil}}).context()
	assert.Equal(t, "0.216", cx.Products["balm"].Cost)
	assert.Equal(t, "0.24", cx.Products["oil"].Cost)
}

// All the changes want their yes: the gentler ones in one go, the others one by
// one, what the protocol says for the skin none.
func TestAcceptedChanges(t *testing.T) {
	gentler := adjusting.Change{ID: "a", Gentler: true}
	other := adjusting.Change{ID: "b"}
	skin := adjusting.Change{ID: "c", Skin: true}
	for _, c := range []struct {
		accepted Accepted
		changes  []adjusting.Change
		want     bool
	}{
		{Accepted{}, nil, true},
		{Accepted{}, []adjusting.Change{skin}, true},
		{Accepted{}, []adjusting.Change{gentler}, false},
		{Accepted{Gentler: true}, []adjusting.Change{gentler, skin}, true},
		{Accepted{Changes: []string{"a"}}, []adjusting.Change{gentler}, true},
		{Accepted{Gentler: true}, []adjusting.Change{gentler, other}, false},
		{Accepted{Gentler: true, Changes: []string{"b"}}, []adjusting.Change{gentler, other, skin}, true},
		{Accepted{Changes: []string{"x"}}, []adjusting.Change{other}, false},
	} {
		assert.Equal(t, c.want, c.accepted.all(c.changes), "%+v of %+v", c.accepted, c.changes)
	}
	assert.True(t, (&Wanted{}).none())
	for _, w := range []Wanted{{AnySkin: true}, {Hands: adjusting.Hands{LongNails: true}}, {Overrules: []Overrule{{}}}, {Instead: map[string]string{"a": "b"}}} {
		assert.False(t, w.none(), "%+v", w)
	}
}

// A step whose sides were parted by tailoring comes from the published one.
func TestStepOf(t *testing.T) {
	p := &protocol.Protocol{Steps: []protocol.Step{{ID: "a"}, {ID: "b-left"}}}
	for id, want := range map[string]string{"a": "a", "a-left": "a", "a-right": "a", "b-left": "b-left", "b-left-left": "b-left", "x-left": "x-left", "x": "x"} {
		assert.Equal(t, want, stepOf(p, id))
	}
}
