package series_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
)

// roomsThatServe lists the rooms that serve a visit.
func roomsThatServe(q *series.Request, it *series.Item, busy plainSpan) (out []string) {
	for i := range q.Rooms {
		one := *q
		one.Rooms = q.Rooms[i : i+1]
		if plainRoom(&one, it, busy) {
			out = append(out, q.Rooms[i].Key)
		}
	}
	return out
}

// plainPair tries out every start with every pair of practitioners and rooms.
func plainPair(a, b *series.Request) (cost int, told []string) {
	cost = -1
	from, to := plainFirst(a)
	for day := from; day <= to; day++ {
		for _, p := range plainPlaces(a, 0, day) {
			for _, o := range plainPlaces(b, 0, day) {
				if p.minute != o.minute || p.person == o.person || cost >= 0 && p.points+o.points >= cost {
					continue
				}
				rooms := func(q *series.Request, at plainPlace) []string {
					it := &q.Series.Items[0]
					start := at.day*1440 + at.minute
					return roomsThatServe(q, it, plainSpan{start - it.Prepare, start + it.Sold + it.Reset})
				}
				both := false
				for _, r := range rooms(a, p) {
					for _, s := range rooms(b, o) {
						both = both || r != s || slices.ContainsFunc(a.Rooms, func(x series.RequestRoom) bool { return x.Key == r && x.Places > 1 })
					}
				}
				if both {
					cost = p.points + o.points
					told = []string{plainTold(p.day, p.minute), a.Practitioners[p.person].Key, b.Practitioners[o.person].Key}
				}
			}
		}
	}
	return cost, told
}

// Two who come together are placed as trying out everything does: the same start, other hands, rooms
// of their own or one with two couches, the costs added; ties by start, then by the hands of the first named. The other
// search is written apart from this one.
func TestTwoWhoComeTogether(t *testing.T) {
	found, none, shared := 0, 0, 0
	for seed := range uint64(400) {
		r := rand.New(rand.NewPCG(seed, 7))
		a := small(r)
		a.Series.Items = a.Series.Items[:1]
		for i := range a.Rooms { // every third room has two couches
			if r.IntN(3) == 0 {
				a.Rooms[i].Places = 2
			}
		}
		b := *a
		c := small(r)
		b.Client, b.Series = c.Client, c.Series
		b.Series.Items = c.Series.Items[:1]
		b.Series.First = a.Series.First
		if b.Series.Practitioner.How == "must" && a.Series.Practitioner.How == "must" {
			b.Series.Practitioner = &series.WantedPerson{How: "prefer", Who: "a"}
		}
		got, err := series.FindTogether([]*series.Request{a, &b})
		require.NoError(t, err)
		cost, told := plainPair(a, &b)
		if cost < 0 {
			assert.Empty(t, got, "seed %d", seed)
			none++
			continue
		}
		found++
		if !assert.NotEmpty(t, got, "seed %d", seed) {
			continue
		}
		best := got[0]
		require.Len(t, best.Visits, 2)
		assert.Equal(t, cost, best.Cost, "seed %d", seed)
		assert.Equal(t, sumOf(&best.Terms), best.Cost)
		assert.Equal(t, told, []string{best.Visits[0].Start, best.Visits[0].Practitioner, best.Visits[1].Practitioner}, "seed %d", seed)
		if best.Visits[0].Room == best.Visits[1].Room {
			shared++
			assert.True(t, slices.ContainsFunc(a.Rooms, func(x series.RequestRoom) bool { return x.Key == best.Visits[0].Room && x.Places == 2 }))
		}
		assert.Equal(t, best.Visits[0].Start, best.Visits[1].Start)
		for i := 1; i < len(got); i++ {
			assert.GreaterOrEqual(t, got[i].Cost, got[i-1].Cost)
		}
	}
	assert.Greater(t, found, 100)
	assert.Greater(t, none, 30)
	assert.Greater(t, shared, 30)
}

// The sets of a tool are counted for all who come together; a room that only one of them can use is
// left to them.
func TestWhoComesTogetherSharesRoomsAndTools(t *testing.T) {
	studio := func(sets int) *series.Request {
		week := series.WeekPieces{"mon": {{"10:00", "12:00"}}}
		shifts := []series.ShiftEntry{{From: "2020-01-06", Days: week}}
		return &series.Request{
			Zone: "UTC", Now: "2027-01-04T08:00", Shortest: 60, Open: week,
			Practitioners: []series.RequestPractitioner{{Key: "a", Shifts: shifts}, {Key: "b", Shifts: shifts}},
			Rooms:         []series.RequestRoom{{Key: "basin", Equipment: []string{"basin"}}, {Key: "plain"}},
			Tools:         []series.RequestTool{{Key: "stones", Sets: sets, Out: 30}},
			Series:        series.RequestSeries{First: &series.FirstVisit{Earliest: "2027-01-04", Latest: "2027-01-04", Ideal: "2027-01-04"}},
		}
	}
	for _, sets := range []int{1, 2} {
		first, second := studio(sets), studio(sets)
		first.Series.Items = []series.Item{{Sold: 60, Tools: map[string]int{"stones": 1}}}
		second.Series.Items = []series.Item{{Sold: 60, Equipment: []string{"basin"}, Tools: map[string]int{"stones": 1}}}
		got, err := series.FindTogether([]*series.Request{second, first})
		require.NoError(t, err)
		if sets == 1 {
			assert.Empty(t, got)
			continue
		}
		require.Len(t, got, 1, "every other start lies within two hours")
		assert.Equal(t, []string{"basin", "plain"}, []string{got[0].Visits[0].Room, got[0].Visits[1].Room})
		got, err = series.FindTogether([]*series.Request{first, second})
		require.NoError(t, err)
		assert.Equal(t, []string{"plain", "basin"}, []string{got[0].Visits[0].Room, got[0].Visits[1].Room}, "the first named gives way where the other needs the room")
	}
	_, err := series.FindTogether([]*series.Request{studio(1)})
	assert.Error(t, err, "one visit each")
}

// A room with two couches is taken by two who come together before rooms of their own are; a third who
// comes with them is next door. Nobody else is let in (handbook, chapter 6, Pairs and groups).
func TestARoomWithTwoCouchesHoldsTwoWhoComeTogether(t *testing.T) {
	week := series.WeekPieces{"mon": {{"10:00", "11:00"}}}
	shifts := []series.ShiftEntry{{From: "2020-01-06", Days: week}}
	of := func(rooms ...series.RequestRoom) *series.Request {
		return &series.Request{
			Zone: "UTC", Now: "2027-01-04T08:00", Shortest: 60, Open: week,
			Practitioners: []series.RequestPractitioner{{Key: "a", Shifts: shifts}, {Key: "b", Shifts: shifts}, {Key: "c", Shifts: shifts}},
			Rooms:         rooms,
			Series: series.RequestSeries{
				First: &series.FirstVisit{Earliest: "2027-01-04", Latest: "2027-01-04", Ideal: "2027-01-04"}, Items: []series.Item{{Sold: 60}},
			},
		}
	}
	single, double := series.RequestRoom{Key: "single"}, series.RequestRoom{Key: "double", Places: 2}
	for _, c := range []struct {
		name  string
		q     *series.Request
		who   int
		rooms []string
	}{
		{"two share", of(single, double), 2, []string{"double", "double"}},
		{"a third is next door", of(single, double), 3, []string{"single", "double", "double"}},
		{"one couch does not hold two", of(single), 2, nil},
	} {
		got, err := series.FindTogether(slices.Repeat([]*series.Request{c.q}, c.who))
		require.NoError(t, err)
		var rooms []string
		for _, o := range got {
			for _, v := range o.Visits {
				rooms = append(rooms, v.Room)
			}
		}
		assert.Equal(t, c.rooms, rooms, c.name)
	}
	taken := of(double)
	room := "double"
	taken.Bookings = []series.RequestBooking{{Room: &room, Start: "2027-01-04T10:00", Sold: 60}}
	got, err := series.FindTogether([]*series.Request{taken, taken})
	require.NoError(t, err)
	assert.Empty(t, got, "somebody else is in it")
}

// Where there is no time for two, the smallest set of limits to relax is found, for all who have it.
func TestWhatGivesWayForTwoWhoComeTogether(t *testing.T) {
	week := series.WeekPieces{"mon": {{"10:00", "11:00"}}, "wed": {{"10:00", "11:00"}}}
	shifts := []series.ShiftEntry{{From: "2020-01-06", Days: week}}
	ask := func(possible series.WeekPieces, with *series.WantedPerson) *series.Request {
		return &series.Request{
			Zone: "UTC", Now: "2027-01-04T08:00", Shortest: 60, Open: week, Client: series.RequestClient{Possible: possible},
			Practitioners: []series.RequestPractitioner{{Key: "a", Shifts: shifts}, {Key: "b", Shifts: shifts}},
			Rooms:         []series.RequestRoom{{Key: "one"}, {Key: "two"}},
			Series: series.RequestSeries{
				First: &series.FirstVisit{Earliest: "2027-01-04", Latest: "2027-01-08", Ideal: "2027-01-04"}, Items: []series.Item{{Sold: 60}}, Practitioner: with,
			},
		}
	}
	mon, wed := series.WeekPieces{"mon": {{"10:00", "11:00"}}}, series.WeekPieces{"wed": {{"10:00", "11:00"}}}
	must := &series.WantedPerson{How: "must", Who: "a"}
	for _, c := range []struct {
		name string
		a, b *series.Request
		want [][]string
	}{
		{"other days", ask(mon, nil), ask(wed, nil), [][]string{{"client-times"}}},
		{"the same hands", ask(nil, must), ask(nil, must), [][]string{{"practitioner"}}},
		{"both", ask(mon, must), ask(wed, must), [][]string{{"client-times", "practitioner"}}},
	} {
		got, err := series.RelaxTogether([]*series.Request{c.a, c.b})
		require.NoError(t, err)
		var sets [][]string
		for _, g := range got {
			sets = append(sets, g.Relax)
		}
		assert.Equal(t, c.want, sets, c.name)
	}
	closed := ask(nil, nil)
	closed.Closures = [][]string{{"2027-01-01", "2027-03-01"}}
	got, err := series.RelaxTogether([]*series.Request{closed, closed})
	require.NoError(t, err)
	assert.Empty(t, got, "nothing opens a closed studio")
}
