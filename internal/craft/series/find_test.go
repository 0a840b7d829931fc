package series_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
)

// The handbook's worked example and its variant without a series (chapter 6): cost by term,
// every visit, both alternatives, and which limit helps alone.
func TestTheWorkedExamplesOfTheHandbook(t *testing.T) {
	data, err := os.ReadFile("testdata/series.json")
	require.NoError(t, err)
	var file struct {
		Cases []struct {
			ID     string
			Given  series.Request
			Expect json.RawMessage
		}
	}
	require.NoError(t, json.Unmarshal(data, &file))
	require.Len(t, file.Cases, 2)
	for _, c := range file.Cases {
		got, err := series.Find(&c.Given)
		require.NoError(t, err)
		raw, err := json.Marshal(got)
		require.NoError(t, err)
		var mine, want any
		require.NoError(t, json.Unmarshal(raw, &mine))
		require.NoError(t, json.Unmarshal(c.Expect, &want))
		assert.Empty(t, lacking("", want, mine), c.ID)
	}
}

// lacking is the first field that is wanted and not there.
func lacking(at string, want, got any) string {
	switch w := want.(type) {
	case map[string]any:
		g, _ := got.(map[string]any)
		for k, v := range w {
			if d := lacking(at+"/"+k, v, g[k]); d != "" {
				return d
			}
		}
		return ""
	case []any:
		g, _ := got.([]any)
		if len(g) != len(w) {
			return fmt.Sprintf("%s: %d of %d", at, len(g), len(w))
		}
		for i := range w {
			if d := lacking(fmt.Sprintf("%s/%d", at, i), w[i], g[i]); d != "" {
				return d
			}
		}
		return ""
	}
	if want != got {
		return fmt.Sprintf("%s: want %v, got %v", at, want, got)
	}
	return ""
}

// small is a random request that can be searched through exhaustively: a week or two, two
// practitioners, short days, in a zone whose clock runs evenly.
func small(r *rand.Rand) *series.Request {
	weekdays := []string{"mon", "tue", "wed", "thu", "fri"}
	hours := func() series.WeekPieces {
		out := series.WeekPieces{}
		for _, d := range weekdays {
			if r.IntN(3) > 0 {
				from := 9 + r.IntN(3)
				out[d] = [][]string{{fmt.Sprintf("%02d:00", from), fmt.Sprintf("%02d:00", from+2+r.IntN(2))}}
			}
		}
		return out
	}
	q := &series.Request{
		Zone: "UTC", Now: "2027-01-04T08:00", Grid: 30, Shortest: 60, LateFrom: "11:00",
		Open:  series.WeekPieces{"mon": {{"09:00", "14:00"}}, "tue": {{"09:00", "14:00"}}, "wed": {{"09:00", "14:00"}}, "thu": {{"09:00", "14:00"}}, "fri": {{"09:00", "14:00"}}},
		Rooms: []series.RequestRoom{{Key: "one", Equipment: []string{"basin"}}, {Key: "two"}},
		Practitioners: []series.RequestPractitioner{
			{Key: "a", Skills: []string{"stone"}, Shifts: []series.ShiftEntry{{From: "2020-01-06", Days: hours()}}},
			{Key: "b", Shifts: []series.ShiftEntry{{From: "2020-01-06", Days: hours()}}},
		},
	}
	if r.IntN(2) == 0 {
		q.Client.Likes = hours()
	}
	if r.IntN(3) == 0 {
		q.Client.Possible = hours()
	}
	for range r.IntN(6) {
		who, room := []string{"a", "b"}[r.IntN(2)], []string{"one", "two"}[r.IntN(2)]
		q.Bookings = append(q.Bookings, series.RequestBooking{
			Practitioner: &who, Room: &room, Start: fmt.Sprintf("2027-01-%02dT%02d:%02d", 4+r.IntN(12), 9+r.IntN(4), 30*r.IntN(2)), Sold: 30 + 30*r.IntN(2), Reset: 15 * r.IntN(2),
		})
	}
	n := 2 + r.IntN(2)
	for range n {
		ideal := 1 + r.IntN(5)
		it := series.Item{Prepare: 15 * r.IntN(2), Sold: 30 + 15*r.IntN(3), Reset: 15, Ideal: ideal, Least: max(1, ideal-1), Most: ideal + r.IntN(2), Rest: 24 * r.IntN(3), Drain: r.IntN(2) == 0}
		if r.IntN(4) == 0 {
			it.Skills = []string{"stone"}
		}
		if r.IntN(4) == 0 {
			it.Equipment = []string{"basin"}
		}
		q.Series.Items = append(q.Series.Items, it)
	}
	q.Series.First = &series.FirstVisit{Earliest: "2027-01-04", Latest: fmt.Sprintf("2027-01-%02d", 4+r.IntN(4)), Ideal: "2027-01-05"}
	q.Series.Practitioner = &series.WantedPerson{How: []string{"any", "prefer", "must"}[r.IntN(3)], Who: "a"}
	if r.IntN(3) == 0 {
		q.Series.PerWeek = 2
	}
	if r.IntN(4) == 0 {
		q.Series.Span = 4 + r.IntN(5)
	}
	return q
}

// The finder's answer is the one that trying out everything gives, cost and, among equals,
// every visit; where nothing can be, both say so. The other search is written apart from it.
func TestTheBestSeriesIsTheBestOfAll(t *testing.T) {
	found, none := 0, 0
	for seed := range uint64(700) {
		r := rand.New(rand.NewPCG(seed, 6))
		q := small(r)
		if seed%3 == 0 { // a third of them with a patch test
			q.Series.Patch = &series.Patch{Before: 1 + r.IntN(len(q.Series.Items))}
		}
		want := tryEverything(q)
		got, err := series.Find(q)
		require.NoError(t, err)
		if want == nil {
			none++
			assert.Equal(t, series.None, got.Status, "seed %d", seed)
			continue
		}
		found++
		require.Equal(t, series.Optimal, got.Status, "seed %d", seed)
		require.Equal(t, want.cost, *got.Cost, "seed %d", seed)
		require.Equal(t, want.cost, sumOf(got.Terms), "seed %d", seed)
		for i, v := range got.Visits {
			require.Equal(t, want.visits[i], v.Start+" "+v.Practitioner, "seed %d, visit %d", seed, i+1)
		}
	}
	assert.GreaterOrEqual(t, found, 300)
	assert.Greater(t, none, 20)
}

// A search whose time is over says so: it is never called best, and its bound is at most what the
// best costs. One that had time enough answers as ever (handbook, chapter 6).
func TestAStoppedSearchIsNeverCalledBest(t *testing.T) {
	stopped, bounded := 0, 0
	for seed := range uint64(60) {
		q := small(rand.New(rand.NewPCG(seed, 12)))
		whole, err := series.Find(q)
		require.NoError(t, err)
		for looks := range 8 {
			left := looks
			got, err := series.FindWithin(q, func() bool { left--; return left < 0 })
			require.NoError(t, err)
			switch got.Status {
			case series.Stopped:
				stopped++
				assert.Nil(t, got.Cost)
				if got.Bound != nil && whole.Cost != nil {
					bounded++
					assert.LessOrEqual(t, *got.Bound, *whole.Cost)
				}
			case series.Optimal:
				require.Equal(t, *whole.Cost, *got.Cost, "seed %d", seed)
				assert.Equal(t, whole.Visits, got.Visits)
			case series.None:
				assert.Equal(t, series.None, whole.Status)
			}
		}
	}
	assert.Greater(t, stopped, 50)
	assert.Positive(t, bounded)
}

// A series that may begin within two months is searched among those that begin soon first; the
// answer is all the same the one that trying out everything gives.
func TestALongWindowGivesTheSameAnswer(t *testing.T) {
	late := 0
	for seed := range uint64(24) {
		r := rand.New(rand.NewPCG(seed, 11))
		q := small(r)
		q.Series.First.Latest = "2027-01-29"
		if seed%2 == 0 { // nothing is free before the 18th
			for day := 4; day <= 17; day++ {
				for i, who := range []string{"a", "b"} {
					room := []string{"one", "two"}[i]
					q.Bookings = append(q.Bookings, series.RequestBooking{Practitioner: &who, Room: &room, Start: fmt.Sprintf("2027-01-%02dT08:00", day), Sold: 420})
				}
			}
		}
		want := tryEverything(q)
		got, err := series.Find(q)
		require.NoError(t, err)
		if want == nil {
			require.Equal(t, series.None, got.Status, "seed %d", seed)
			continue
		}
		require.Equal(t, series.Optimal, got.Status, "seed %d", seed)
		require.Equal(t, want.cost, *got.Cost, "seed %d", seed)
		for i, v := range got.Visits {
			require.Equal(t, want.visits[i], v.Start+" "+v.Practitioner, "seed %d, visit %d", seed, i+1)
		}
		if got.Terms.Start > 20 {
			late++
		}
	}
	assert.Positive(t, late)
}

// Gaps may stray far from the ideal where a day costs little: the search among what lies close to
// the ideal series gives way to a wider one where it has to, counted from the first visit or from
// the glow visit before an event.
func TestFarFromTheIdealGapsTheAnswerIsTheSame(t *testing.T) {
	far := 0
	for seed := range uint64(14) {
		r := rand.New(rand.NewPCG(seed, 13))
		q := small(r)
		q.Series.Items, q.Series.PerWeek, q.Series.Span = q.Series.Items[:2], 0, 0
		q.Series.Items[1].Least, q.Series.Items[1].Most, q.Series.Items[1].Ideal = 2, 26, 21 // two points a day
		q.Series.First.Latest = "2027-01-08"
		if seed%2 == 0 { // after the first days nobody is free until the end of the month
			for day := 11; day <= 31; day++ {
				for i, who := range []string{"a", "b"} {
					room := []string{"one", "two"}[i]
					q.Bookings = append(q.Bookings, series.RequestBooking{Practitioner: &who, Room: &room, Start: fmt.Sprintf("2027-01-%02dT08:00", day), Sold: 420})
				}
			}
		}
		want := tryEverything(q)
		got, err := series.Find(q)
		require.NoError(t, err)
		if want == nil {
			require.Equal(t, series.None, got.Status, "seed %d", seed)
			continue
		}
		require.Equal(t, series.Optimal, got.Status, "seed %d", seed)
		require.Equal(t, want.cost, *got.Cost, "seed %d", seed)
		for i, v := range got.Visits {
			require.Equal(t, want.visits[i], v.Start+" "+v.Practitioner, "seed %d, visit %d", seed, i+1)
		}
		if got.Terms.Gap > 6 {
			far++
		}
	}
	assert.Positive(t, far)
}

// One visit of the best series is moved, and the rest laid again with as few changes as can be:
// cost, and every visit, are those that trying out everything gives.
func TestMovingOneChangesAsFewOthersAsCanBe(t *testing.T) {
	again, none, changed := 0, 0, 0
	for seed := uint64(0); again < 100; seed++ {
		r := rand.New(rand.NewPCG(seed, 7))
		q := small(r)
		best, err := series.Find(q)
		require.NoError(t, err)
		if best.Status != series.Optimal {
			continue
		}
		k := r.IntN(len(best.Visits))
		was := best.Visits[k]
		var others []plainPlace
		for day := plainMinute(was.Start[:10]+"T00:00")/1440 - 1; len(others) < 40 && day < 60; day++ {
			others = append(others, plainPlaces(q, k, day)...)
		}
		to := others[r.IntN(len(others))]
		q.Relay = &series.Relay{Moved: k + 1}
		for _, v := range best.Visits {
			q.Relay.Current = append(q.Relay.Current, series.CurrentVisit{Start: strings.Replace(v.Start, " ", "T", 1), Practitioner: v.Practitioner})
		}
		start := strings.Replace(plainTold(to.day, to.minute), " ", "T", 1)
		q.Series.Items[k].Fixed = &series.Fixed{Start: start, Practitioner: q.Practitioners[to.person].Key}
		want := tryEverything(q)
		got, err := series.Find(q)
		require.NoError(t, err)
		if want == nil {
			none++
			require.Equal(t, series.None, got.Status, "seed %d", seed)
			continue
		}
		again++
		require.Equal(t, series.Optimal, got.Status, "seed %d", seed)
		require.Equal(t, want.cost, *got.Cost, "seed %d", seed)
		for i, v := range got.Visits {
			require.Equal(t, want.visits[i], v.Start+" "+v.Practitioner, "seed %d, visit %d", seed, i+1)
		}
		changed += *got.Cost / 10000
	}
	assert.Positive(t, none)
	assert.Positive(t, changed)
}

func sumOf(t *series.Terms) int {
	return t.Start + t.Gap + t.Change + t.Prefer + t.Weekday + t.Time + t.Rather + t.Late + t.Sliver
}

// everything is what trying out everything gives.
type everything struct {
	cost   int
	visits []string
}

// plainSpan is a time in minutes since 2027-01-01, in a zone without clock changes.
type plainSpan struct{ from, to int }

var firstDay = time.Date(2027, 1, 1, 0, 0, 0, 0, time.UTC)

func plainMinute(s string) int {
	at, err := time.Parse("2006-01-02T15:04", s)
	if err != nil {
		panic(err)
	}
	return int(at.Sub(firstDay).Minutes())
}

func plainHours(w series.WeekPieces, day int) (out []plainSpan) {
	name := []string{"sun", "mon", "tue", "wed", "thu", "fri", "sat"}[firstDay.AddDate(0, 0, day).Weekday()]
	for _, p := range w[name] {
		out = append(out, plainSpan{plainMinute(firstDay.AddDate(0, 0, day).Format("2006-01-02T") + p[0]), plainMinute(firstDay.AddDate(0, 0, day).Format("2006-01-02T") + p[1])})
	}
	return out
}

func insideOne(list []plainSpan, s plainSpan) *plainSpan {
	for i := range list {
		if list[i].from <= s.from && s.to <= list[i].to {
			return &list[i]
		}
	}
	return nil
}

// plainFree are the pieces of a day in which a practitioner is free.
func plainFree(q *series.Request, person, day int) []plainSpan {
	list := plainHours(q.Practitioners[person].Shifts[0].Days, day)
	for _, b := range q.Bookings {
		from, to := plainMinute(b.Start)-b.Prepare, plainMinute(b.Start)+b.Sold+b.Reset
		if *b.Practitioner != q.Practitioners[person].Key {
			continue
		}
		var rest []plainSpan
		for _, p := range list {
			if to <= p.from || p.to <= from {
				rest = append(rest, p)
				continue
			}
			if p.from < from {
				rest = append(rest, plainSpan{p.from, from})
			}
			if to < p.to {
				rest = append(rest, plainSpan{to, p.to})
			}
		}
		list = rest
	}
	return list
}

// plainPlace is one way to place one visit, with the points that are its own.
type plainPlace struct{ day, minute, person, points int }

// plainPlaces lists what item k can be on a day, in the order of ties; -1 is the patch test,
// to which no wish for a practitioner applies.
func plainPlaces(q *series.Request, k, day int) (out []plainPlace) {
	it, want := series.Item{Sold: 10, Reset: 5}, &series.WantedPerson{}
	if k >= 0 {
		it, want = q.Series.Items[k], q.Series.Practitioner
	}
	there := make([][]plainSpan, len(q.Practitioners))
	for person := range q.Practitioners {
		there[person] = plainFree(q, person, day)
	}
	for minute := 0; minute < 1440; minute += q.Grid {
		for person, who := range q.Practitioners {
			start := day*1440 + minute
			sold, busy := plainSpan{start, start + it.Sold}, plainSpan{start - it.Prepare, start + it.Sold + it.Reset}
			free := insideOne(there[person], busy)
			switch {
			case start < plainMinute(q.Now), free == nil, insideOne(plainHours(q.Open, day), sold) == nil,
				q.Client.Possible != nil && insideOne(plainHours(q.Client.Possible, day), sold) == nil,
				len(it.Skills) > 0 && len(who.Skills) == 0, want.How == "must" && who.Key != want.Who, !plainRoom(q, &it, busy):
				continue
			}
			c := 0
			if k == 0 {
				c += 2 * plainly(day-plainMinute(q.Series.First.Ideal+"T00:00")/1440)
			}
			if want.How == "prefer" && who.Key != want.Who {
				c += 6
			}
			if q.Client.Likes != nil && insideOne(plainHours(q.Client.Likes, day), sold) == nil {
				c += 6
			}
			if late := minute + it.Sold - plainMinute("2027-01-01T"+q.LateFrom); late > 0 {
				c += 2 * ((late + 14) / 15)
			}
			for _, left := range []int{busy.from - free.from, free.to - busy.to} {
				if left > 0 && left < q.Shortest {
					c += (left + 14) / 15
				}
			}
			if k >= 0 {
				at := plainTold(day, minute)
				if f := it.Fixed; f != nil && (at != strings.Replace(f.Start, "T", " ", 1) || who.Key != f.Practitioner) {
					continue
				}
				if r := q.Relay; r != nil && k+1 != r.Moved && (at != strings.Replace(r.Current[k].Start, "T", " ", 1) || who.Key != r.Current[k].Practitioner) {
					c += 10000
				}
			}
			out = append(out, plainPlace{day, minute, person, c})
		}
	}
	return out
}

// plainRoom reports whether any room serves.
func plainRoom(q *series.Request, it *series.Item, busy plainSpan) bool {
	for _, room := range q.Rooms {
		free := len(it.Equipment) == 0 || len(room.Equipment) > 0
		for _, b := range q.Bookings {
			if *b.Room == room.Key && plainMinute(b.Start)-b.Prepare < busy.to && busy.from < plainMinute(b.Start)+b.Sold+b.Reset {
				free = false
			}
		}
		if free {
			return true
		}
	}
	return false
}

func plainly(n int) int { return max(n, -n) }

// plainBetween is what item k costs after the placement before; ok says that it may come.
func plainBetween(q *series.Request, k int, a, b plainPlace) (points int, ok bool) {
	it := q.Series.Items[k]
	gap := b.day - a.day
	if gap < it.Least || gap > it.Most || 1440*gap+b.minute-a.minute < 60*it.Rest {
		return 0, false
	}
	weight := 12
	switch {
	case it.Ideal > 20:
		weight = 2
	case it.Ideal > 4:
		weight = 8
	}
	points = weight*plainly(gap-it.Ideal) + min(plainly(b.minute-a.minute)/15, 8)
	if a.person != b.person {
		points += 10
	}
	if it.Ideal%7 == 0 && gap%7 != 0 {
		points += 5
	}
	return points, true
}

func plainFirst(q *series.Request) (from, to int) {
	return plainMinute(q.Series.First.Earliest+"T00:00") / 1440, plainMinute(q.Series.First.Latest+"T00:00") / 1440
}

// plainPatches lists the patch tests that a series can have, 24 to 48 hours before their
// visit and on no day of a treatment.
func plainPatches(q *series.Request, done []plainPlace) (out []plainPlace) {
	visit := done[q.Series.Patch.Before-1]
	at := visit.day*1440 + visit.minute
	for day := visit.day - 2; day < visit.day; day++ {
		if slices.ContainsFunc(done, func(p plainPlace) bool { return p.day == day }) {
			continue
		}
		for _, p := range plainPlaces(q, -1, day) {
			if before := at - day*1440 - p.minute; before >= 24*60 && before <= 48*60 {
				out = append(out, p)
			}
		}
	}
	return out
}

func plainTold(day, minute int) string {
	return firstDay.AddDate(0, 0, day).Add(time.Duration(minute) * time.Minute).Format("2006-01-02 15:04")
}

// tell writes a series in order of time.
func tell(q *series.Request, list []plainPlace) (out []string) {
	for _, c := range list {
		out = append(out, plainTold(c.day, c.minute)+" "+q.Practitioners[c.person].Key)
	}
	slices.Sort(out) // the practitioners' names are in the order of the list
	return out
}

// tryEverything walks through every start and every practitioner of every visit.
func tryEverything(q *series.Request) *everything {
	var best *everything
	better := func(cost int, list []plainPlace) {
		if best != nil && cost > best.cost {
			return
		}
		told := tell(q, list)
		if best == nil || cost < best.cost || slices.Compare(told, best.visits) < 0 {
			best = &everything{cost, told}
		}
	}
	var walk func(done []plainPlace, cost int)
	walk = func(done []plainPlace, cost int) {
		k := len(done)
		if k == len(q.Series.Items) {
			switch {
			case done[k-1].day-done[0].day < q.Series.Span:
			case q.Series.Patch == nil:
				better(cost, done)
			default:
				for _, p := range plainPatches(q, done) {
					better(cost+p.points, append(slices.Clone(done), p))
				}
			}
			return
		}
		from, to := plainFirst(q)
		if k > 0 {
			from, to = done[k-1].day+q.Series.Items[k].Least, done[k-1].day+q.Series.Items[k].Most
		}
		for day := from; day <= to; day++ {
			if m := q.Series.PerWeek; m > 0 && k >= m && day-done[k-m].day < 7 {
				continue
			}
			for _, p := range plainPlaces(q, k, day) {
				more, ok := 0, true
				if k > 0 {
					more, ok = plainBetween(q, k, done[k-1], p)
				}
				if ok {
					walk(append(slices.Clone(done), p), cost+p.points+more)
				}
			}
		}
	}
	walk(nil, 0)
	return best
}

// A patch test may come before the visit ahead of its own; ties compare in order of time, so
// the series with the earlier patch test wins although its first visit is later (handbook,
// chapter 6).
func TestTiesCompareInOrderOfTime(t *testing.T) {
	none := 0
	at := func(day, from, to string) []series.ShiftEntry {
		return []series.ShiftEntry{{From: "2027-01-04", Days: series.WeekPieces{day: {{from, to}}}}}
	}
	face := []string{"face"}
	day := [][]string{{"09:00", "18:00"}}
	got, err := series.Find(&series.Request{
		Zone: "UTC", Now: "2027-01-04T08:00", Open: series.WeekPieces{"mon": day, "tue": day, "wed": day},
		Practitioners: []series.RequestPractitioner{
			{Key: "a", Skills: face, Shifts: append(at("tue", "09:00", "10:00"), at("wed", "13:00", "14:00")...)},
			{Key: "b", Skills: face, Shifts: append(at("tue", "10:00", "11:00"), at("wed", "10:00", "11:00")...)},
			{Key: "c", Shifts: at("mon", "09:00", "18:00")},
		},
		Rooms:   []series.RequestRoom{{Key: "one"}},
		Weights: &series.Weights{Time: &none},
		Series: series.RequestSeries{
			Items: []series.Item{{Sold: 60, Skills: face}, {Sold: 60, Skills: face, Ideal: 1, Least: 1, Most: 1}},
			First: &series.FirstVisit{Earliest: "2027-01-05", Latest: "2027-01-05"},
			Patch: &series.Patch{Before: 2},
		},
	})
	require.NoError(t, err)
	require.Equal(t, series.Optimal, got.Status)
	told := []string{}
	for _, v := range got.Visits {
		told = append(told, v.Kind+" "+v.Start+" "+v.Practitioner)
	}
	assert.Equal(t, []string{"patch 2027-01-04 10:00 c", "treatment 2027-01-05 10:00 b", "treatment 2027-01-06 10:00 b"}, told)
}

// Habits go by the wall clock and lengths by elapsed time, also in the night of a clock change
// (handbook, chapter 6; the changes of 2027 in Berlin, New York and, by half an hour, on Lord
// Howe Island: IANA's tz data).
func TestClockChanges(t *testing.T) {
	for _, c := range []struct {
		zone, now, day, from, to string
		weekday                  string
		want                     string // the first start of a visit of 90 minutes; "" where none fits
	}{
		{"Europe/Berlin", "2027-03-27T08:00", "2027-03-28", "01:30", "04:00", "sun", "2027-03-28 01:30"}, // 90 minutes are left of 150
		{"Europe/Berlin", "2027-03-27T08:00", "2027-03-28", "01:45", "04:00", "sun", ""},
		{"Europe/Berlin", "2027-03-27T08:00", "2027-03-28", "02:30", "05:30", "sun", "2027-03-28 03:30"}, // 02:30 is read as 03:30
		{"Europe/Berlin", "2027-10-30T08:00", "2027-10-31", "02:00", "03:00", "sun", "2027-10-31 02:00"}, // the hour comes twice
		{"America/New_York", "2027-03-13T08:00", "2027-03-14", "01:30", "04:00", "sun", "2027-03-14 01:30"},
		{"America/New_York", "2027-11-06T08:00", "2027-11-07", "01:00", "02:00", "sun", "2027-11-07 01:00"},
		{"Australia/Lord_Howe", "2027-04-03T08:00", "2027-04-04", "01:30", "02:30", "sun", "2027-04-04 01:30"}, // half an hour comes twice
		{"Australia/Lord_Howe", "2027-10-02T08:00", "2027-10-03", "01:30", "03:15", "sun", ""},                 // 75 minutes are left of 105
		{"Australia/Lord_Howe", "2027-10-02T08:00", "2027-10-03", "01:30", "03:30", "sun", "2027-10-03 01:30"},
	} {
		week := series.WeekPieces{c.weekday: {{c.from, c.to}}}
		got, err := series.Find(&series.Request{
			Zone: c.zone, Now: c.now, Open: week, Rooms: []series.RequestRoom{{Key: "one"}},
			Practitioners: []series.RequestPractitioner{{Key: "a", Shifts: []series.ShiftEntry{{From: "2027-01-04", Days: week}}}},
			Series:        series.RequestSeries{Items: []series.Item{{Sold: 90}}, First: &series.FirstVisit{Earliest: c.day, Latest: c.day}},
		})
		require.NoError(t, err)
		start := ""
		if len(got.Visits) > 0 {
			start = got.Visits[0].Start
		}
		assert.Equal(t, c.want, start, "%s %s from %s to %s", c.zone, c.day, c.from, c.to)
	}
}

// Monday ten to Wednesday ten are 48 hours of rest, also when the clocks change between
// (handbook, chapter 6).
func TestRestGoesByTheWallClock(t *testing.T) {
	day := [][]string{{"10:00", "11:00"}}
	week := series.WeekPieces{"sat": day, "mon": day}
	got, err := series.Find(&series.Request{
		Zone: "Europe/Berlin", Now: "2027-03-26T08:00", Open: week, Rooms: []series.RequestRoom{{Key: "one"}},
		Practitioners: []series.RequestPractitioner{{Key: "a", Shifts: []series.ShiftEntry{{From: "2027-01-04", Days: week}}}},
		Series: series.RequestSeries{
			Items: []series.Item{{Sold: 60}, {Sold: 60, Ideal: 2, Least: 2, Most: 2, Rest: 48}},
			First: &series.FirstVisit{Earliest: "2027-03-27", Latest: "2027-03-27"},
		},
	})
	require.NoError(t, err)
	require.Equal(t, series.Optimal, got.Status)
	assert.Equal(t, "2027-03-29 10:00", got.Visits[1].Start)
}
