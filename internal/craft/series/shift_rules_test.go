package series

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A roster as rules: every line gives its weekdays, a day on which a later line rules or that is off
// is left out; together they say of every day what the roster says (handbook, chapter 6, hard limit 3).
func TestShiftsAsRules(t *testing.T) {
	shifts := []ShiftEntry{
		{From: "2000-01-03", Days: WeekPieces{"mon": {{"09:00", "13:00"}, {"14:00", "18:00"}}, "wed": {{"09:00", "18:00"}}}},
		{From: "2027-01-11", Every: 2, Days: WeekPieces{"mon": {{"12:00", "20:00"}}}},
		{From: "2027-01-20", To: "2027-01-20", Days: WeekPieces{"wed": {}}},
	}
	off := func(day, _, _ string) bool { return day == "2027-02-03" }
	rules, err := ShiftRules(shifts, "2027-01-01", "2027-02-28", off)
	require.NoError(t, err)
	require.Len(t, rules, 4)
	assert.Equal(t, ShiftRule{
		Key: "2000-01-03  mon 09:00 13:00", First: "2027-01-04", Last: "2027-02-15", Every: 1, From: "09:00", To: "13:00",
		Except: []string{"2027-01-11", "2027-01-25", "2027-02-08"},
	}, rules[0])
	assert.Equal(t, []string{"2027-01-20", "2027-02-03"}, rules[2].Except)
	assert.Equal(t, ShiftRule{
		Key: "2027-01-11  mon 12:00 20:00", First: "2027-01-11", Last: "2027-02-22", Every: 2, From: "12:00", To: "20:00",
	}, rules[3])

	said := map[string][][]string{}
	for _, r := range rules {
		first, err := parseDay(r.First)
		require.NoError(t, err)
		last, err := parseDay(r.Last)
		require.NoError(t, err)
		for day := first; day <= last; day += 7 * r.Every {
			if text := dayText(day); !slices.Contains(r.Except, text) {
				said[text] = append(said[text], []string{r.From, r.To})
			}
		}
	}
	from, _ := parseDay("2027-01-01")
	to, _ := parseDay("2027-02-28")
	for day := from; day <= to; day++ {
		text := dayText(day)
		want := shiftOn(shifts, day)
		if off(text, "", "") {
			want = nil
		}
		assert.ElementsMatch(t, want, said[text], text)
	}
}
