package series_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
)

// kinds are what the parts of a text were understood as, in order.
func kinds(list []series.Heard) (out []series.HeardKind) {
	for _, h := range list {
		out = append(out, h.As)
	}
	return out
}

// The ways in which people say how often (handbook, chapter 6, Rhythm and Working with it;
// further phrases are common usage).
func TestHowOftenIsReadAsItIsSaid(t *testing.T) {
	every := func(n int) series.Rhythm { return series.Rhythm{How: series.EveryDays, Number: n} }
	times := func(n int) series.Rhythm { return series.Rhythm{How: series.TimesAWeek, Number: n} }
	for text, want := range map[string]struct {
		rhythm series.Rhythm
		visits int
	}{
		"weekly":                   {every(7), 0},
		"6 weekly":                 {every(7), 6},
		"6 visits weekly":          {every(7), 6},
		"every 10 days":            {every(10), 0},
		"12 every 10 days":         {every(10), 12},
		"every other week":         {every(14), 0},
		"every 4 weeks":            {every(28), 0},
		"monthly":                  {every(28), 0},
		"fortnightly":              {every(14), 0},
		"twice a week":             {times(2), 0},
		"3 times a week":           {times(3), 0},
		"8 twice a week":           {times(2), 8},
		"twice a week for 3 weeks": {times(2), 6},
		"daily for 1 week":         {series.Rhythm{How: series.Daily}, 7},
		"5 daily":                  {series.Rhythm{How: series.Daily}, 5},
		"once":                     {every(7), 1},
		"6 visits":                 {every(7), 6},
		"4 twice a week, then 4 weekly, then 2 every 14 days": {series.Rhythm{How: series.InBlocks, Blocks: []series.Block{
			{4, series.TimesAWeek, 2}, {4, series.EveryDays, 7}, {2, series.EveryDays, 14},
		}}, 10},
		"": {series.Rhythm{}, 0},
	} {
		got := series.ReadOften(text)
		assert.Equal(t, want.rhythm, got.Rhythm, text)
		assert.Equal(t, want.visits, got.Visits, text)
		assert.NotContains(t, kinds(got.Heard), series.HeardNothing, text)
	}
	odd := series.ReadOften("6 weekly if the moon allows")
	assert.Equal(t, 6, odd.Visits)
	assert.Equal(t, []series.HeardKind{series.HeardRhythm, series.HeardNothing}, kinds(odd.Heard))
	assert.Equal(t, 9, odd.Heard[1].From)
	assert.Equal(t, 27, odd.Heard[1].To)
}

// What clients say about time; the first two lines are the handbook's own (chapter 6, Working
// with it).
func TestWhenIsReadAsItIsSaid(t *testing.T) {
	const today = "2026-11-24" // a Tuesday
	read := func(text string) series.When { return series.ReadWhen(text, today) }

	w := read("tue thu after 5, not 12-19 may")
	assert.Equal(t, series.WeekPieces{"tue": {{"17:00", "24:00"}}, "thu": {{"17:00", "24:00"}}}, w.Possible)
	assert.Equal(t, [][]string{{"2027-05-12", "2027-05-20"}}, w.Absences)
	assert.Equal(t, []series.HeardKind{series.HeardWeekdays, series.HeardHours, series.HeardNotDays}, kinds(w.Heard))
	assert.Equal(t, 17, w.Heard[2].From, "what leads to a piece belongs to it")
	assert.Equal(t, 30, w.Heard[2].To)

	// Days of now: the span that has begun, not the one of next year.
	w = read("not 20 nov - 5 dec")
	assert.Equal(t, [][]string{{"2026-11-20", "2026-12-06"}}, w.Absences)
	w = read("not 20 dec - 5 jan")
	assert.Equal(t, [][]string{{"2026-12-20", "2027-01-06"}}, w.Absences)

	w = read("before 12 june wedding")
	require.NotNil(t, w.Event)
	assert.Equal(t, "2027-06-12", w.Event.Date)
	assert.Equal(t, "wedding", w.EventName)

	w = read("mon 10-13, wed after 17:30")
	assert.Equal(t, series.WeekPieces{"mon": {{"10:00", "13:00"}}, "wed": {{"17:30", "24:00"}}}, w.Possible)
	w = read("mon-fri mornings")
	assert.Len(t, w.Possible, 5)
	assert.Equal(t, [][]string{{"00:00", "12:00"}}, w.Possible["fri"])
	w = read("Mondays and Wednesdays, 9-5")
	assert.Equal(t, series.WeekPieces{"mon": {{"09:00", "17:00"}}, "wed": {{"09:00", "17:00"}}}, w.Possible)
	w = read("weekends, not before 10")
	assert.Equal(t, series.WeekPieces{"sat": {{"10:00", "24:00"}}, "sun": {{"10:00", "24:00"}}}, w.Possible)
	w = read("not fridays")
	assert.Len(t, w.Possible, 6)
	assert.NotContains(t, w.Possible, "fri")
	w = read("rather mornings")
	assert.Nil(t, w.Possible)
	assert.Len(t, w.Likes, 7)
	w = read("tue, rather after 4pm")
	assert.Equal(t, series.WeekPieces{"tue": {{"00:00", "24:00"}}}, w.Possible)
	assert.Equal(t, [][]string{{"16:00", "24:00"}}, w.Likes["tue"])

	assert.Equal(t, &series.FirstVisit{Earliest: "2027-01-04", Ideal: "2027-01-04"}, read("from 4 jan").First)
	assert.Equal(t, &series.FirstVisit{Earliest: "2026-11-30", Ideal: "2026-11-30", Latest: "2026-12-06"}, read("next week").First)
	assert.Equal(t, &series.FirstVisit{Earliest: "2026-11-25", Ideal: "2026-11-25", Latest: "2026-11-25"}, read("tomorrow").First)
	assert.Equal(t, &series.FirstVisit{Earliest: "2027-01-01", Ideal: "2027-01-01", Latest: "2027-01-31"}, read("january").First)
	assert.Equal(t, "2027-06-30", read("by 30 june").FinishBy)
	assert.Equal(t, "2027-06-29", read("before 30 june").FinishBy)
	assert.Equal(t, "2027-06-30", read("by 2027-06-30").FinishBy)
	assert.Equal(t, "2026-12-03", read("by 3.12.").FinishBy)
	assert.Equal(t, [][]string{{"2026-12-24", "2027-01-03"}}, read("not 24 dec - 2 jan").Absences)
	assert.Equal(t, [][]string{{"2026-11-28", "2026-11-29"}}, read("not 28 nov").Absences)

	odd := read("tue whenever the cat sleeps")
	assert.Equal(t, []series.HeardKind{series.HeardWeekdays, series.HeardNothing, series.HeardNothing}, kinds(odd.Heard)) // fillers stand between
	assert.Equal(t, series.When{}, read(""))
}

// Whom a client wants: a wish, or a condition.
func TestWithWhomIsReadAsItIsSaid(t *testing.T) {
	names := []string{"Ines Lorca", "Maud Ferrant", "Tove Ekdal"}
	for text, want := range map[string]*series.WantedPerson{
		"with Maud":         {How: "prefer", Who: "1"},
		"rather tove ekdal": {How: "prefer", Who: "2"},
		"only Ines":         {How: "must", Who: "0"},
		"Maud only":         {How: "must", Who: "1"},
		"anyone":            {How: "any"},
		"":                  nil,
	} {
		got, heard := series.ReadWith(text, names)
		assert.Equal(t, want, got, text)
		assert.NotContains(t, kinds(heard), series.HeardNothing, text)
	}
	got, heard := series.ReadWith("Zelda", names)
	assert.Nil(t, got)
	assert.Equal(t, []series.HeardKind{series.HeardNothing}, kinds(heard))
}

// Whatever is typed, every part that was understood lies in the text, in order.
func FuzzReadWhen(f *testing.F) {
	for _, s := range []string{"tue thu after 5, not 12-19 may", "before 12 june wedding", "9-5", "–,;", "2027-06-12", "not", "31.2."} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		n, _ := len([]rune(text)), 0
		for _, list := range [][]series.Heard{series.ReadWhen(text, "2026-11-24").Heard, series.ReadOften(text).Heard} {
			at := 0
			for _, h := range list {
				if h.From < at || h.To < h.From || h.To > n {
					t.Fatalf("%q: %+v", text, list)
				}
				at = h.To
			}
		}
	})
}

// Hours of a roster as they are typed; a day off is an empty list (handbook, chapter 6, limit 3).
func TestShiftsAreReadAsTheyAreTyped(t *testing.T) {
	week, unread := series.ReadShift("mon tue 12-19, wed 9-13, wed 14-18, fri off")
	assert.Empty(t, unread)
	assert.Equal(t, series.WeekPieces{
		"mon": {{"12:00", "19:00"}}, "tue": {{"12:00", "19:00"}}, "wed": {{"09:00", "13:00"}, {"14:00", "18:00"}}, "fri": {},
	}, week)
	_, unread = series.ReadShift("mon whenever")
	assert.Equal(t, []string{"whenever"}, unread)
}
