package series_test

import (
	"math/rand/v2"
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
						both = both || r != s
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
// of their own, the costs added; ties by start, then by the hands of the first named. The other
// search is written apart from this one.
func TestTwoWhoComeTogether(t *testing.T) {
	found, none := 0, 0
	for seed := range uint64(400) {
		r := rand.New(rand.NewPCG(seed, 7))
		a := small(r)
		a.Series.Items = a.Series.Items[:1]
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
		assert.NotEqual(t, best.Visits[0].Room, best.Visits[1].Room)
		assert.Equal(t, best.Visits[0].Start, best.Visits[1].Start)
		for i := 1; i < len(got); i++ {
			assert.GreaterOrEqual(t, got[i].Cost, got[i-1].Cost)
		}
	}
	assert.Greater(t, found, 100)
	assert.Greater(t, none, 30)
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
