package series_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/series"
)

// programme writes a request as an integer programme: one variable for each pair of
// neighbouring visits, so that a series is a way through the layers; ok is false where a
// layer is empty.
func programme(q *series.Request) (lp string, ok bool) {
	n := len(q.Series.Items)
	layers := make([][]plainPlace, n)
	from, to := plainFirst(q)
	for k := range layers {
		if k > 0 {
			from, to = from+q.Series.Items[k].Least, to+q.Series.Items[k].Most
		}
		for day := from; day <= to; day++ {
			layers[k] = append(layers[k], plainPlaces(q, k, day)...)
		}
	}
	var goal, names []string
	in, out := make([]map[int][]string, n), make([]map[int][]string, n)
	var first, last []string
	for k := range layers {
		in[k], out[k] = map[int][]string{}, map[int][]string{}
	}
	onDay := make([]map[int][]string, n) // the pairs that put item k on a day
	for k := range layers {
		onDay[k] = map[int][]string{}
		for b, p := range layers[k] {
			if k == 0 {
				name := fmt.Sprintf("s_%d", b)
				names, goal = append(names, name), append(goal, fmt.Sprintf("%d %s", p.points, name))
				in[0][b] = append(in[0][b], name)
				first = append(first, name)
				onDay[0][p.day] = append(onDay[0][p.day], name)
				continue
			}
			for a, before := range layers[k-1] {
				points, may := plainBetween(q, k, before, p)
				if !may {
					continue
				}
				name := fmt.Sprintf("y_%d_%d_%d", k, a, b)
				names, goal = append(names, name), append(goal, fmt.Sprintf("%d %s", points+p.points, name))
				out[k-1][a], in[k][b] = append(out[k-1][a], name), append(in[k][b], name)
				onDay[k][p.day] = append(onDay[k][p.day], name)
				if k == n-1 {
					last = append(last, name)
				}
			}
		}
	}
	for k := range onDay {
		if len(onDay[k]) == 0 {
			return "", false
		}
	}
	var w strings.Builder
	fmt.Fprintf(&w, "Minimize\n goal: %s\nSubject To\n one: %s = 1\n", strings.Join(goal, "\n + "), strings.Join(first, "\n + "))
	fmt.Fprintf(&w, " end: %s = 1\n", strings.Join(last, "\n + "))
	for k := range n - 1 {
		for c := range layers[k] {
			if sum := append(slices.Clone(out[k][c]), in[k][c]...); len(sum) > 0 {
				fmt.Fprintf(&w, " f_%d_%d:", k, c)
				for _, v := range out[k][c] {
					fmt.Fprintf(&w, " + %s\n", v)
				}
				for _, v := range in[k][c] {
					fmt.Fprintf(&w, " - %s\n", v)
				}
				w.WriteString(" = 0\n")
			}
		}
	}
	days := func(k, sign int) (out []string) {
		for day, list := range onDay[k] {
			for _, v := range list {
				out = append(out, fmt.Sprintf("%+d %s", sign*day, v))
			}
		}
		return out
	}
	apart := func(label string, a, b, least int) {
		fmt.Fprintf(&w, " %s: %s >= %d\n", label, strings.Join(append(days(b, 1), days(a, -1)...), "\n "), least)
	}
	if m := q.Series.PerWeek; m > 0 {
		for k := range max(n-m, 0) {
			apart(fmt.Sprintf("week_%d", k), k, k+m, 7)
		}
	}
	if q.Series.Span > 0 {
		apart("span", 0, n-1, q.Series.Span)
	}
	fmt.Fprintf(&w, "Binary\n %s\nEnd\n", strings.Join(names, "\n "))
	return w.String(), true
}

// The finder's cost is GLPK's (glpsol, Debian) on sixty series of four to five visits; where
// one finds none, so does the other.
func TestTheBestSeriesIsThatOfGLPK(t *testing.T) {
	crafttest.NeedGLPK(t)
	solved, none := 0, 0
	for seed := uint64(0); solved < 60; seed++ {
		q := small(rand.New(rand.NewPCG(seed, 61)))
		q.Series.Items = append(q.Series.Items, q.Series.Items...)
		q.Series.Items = q.Series.Items[:min(len(q.Series.Items), 5)]
		got, err := series.Find(q)
		require.NoError(t, err)
		lp, ok := programme(q)
		value := 0.0
		if ok {
			value, ok = crafttest.GLPK(t, t.TempDir(), lp)
		}
		if !ok {
			none++
			require.Equal(t, series.None, got.Status, "seed %d", seed)
			continue
		}
		solved++
		require.Equal(t, series.Optimal, got.Status, "seed %d", seed)
		require.Equal(t, int(math.Round(value)), *got.Cost, "seed %d", seed)
	}
	assert.Positive(t, none)
}

// full is a request for twelve weekly visits at a studio of five practitioners and three
// rooms, whose diaries are full for half a year but for a visit here and there.
func full() *series.Request {
	r := rand.New(rand.NewPCG(12, 5))
	day := [][]string{{"09:00", "13:00"}, {"14:00", "18:00"}}
	week := series.WeekPieces{"mon": day, "tue": day, "wed": day, "thu": day, "fri": day}
	rooms := []string{"one", "two", "three"}
	q := &series.Request{
		Zone: "UTC", Now: "2027-01-04T08:00", Grid: 15, Shortest: 60, LateFrom: "18:00", Open: week,
		Rooms:  []series.RequestRoom{{Key: "one", Equipment: []string{"basin"}}, {Key: "two"}, {Key: "three"}},
		Client: series.RequestClient{Likes: series.WeekPieces{"tue": {{"09:00", "13:00"}}, "thu": {{"09:00", "18:00"}}}},
		Series: series.RequestSeries{
			First:        &series.FirstVisit{Earliest: "2027-01-04", Latest: "2027-01-15", Ideal: "2027-01-06"},
			Practitioner: &series.WantedPerson{How: "prefer", Who: "p0"}, PerWeek: 1, Span: 70,
		},
	}
	for p := range 5 {
		q.Practitioners = append(q.Practitioners, series.RequestPractitioner{Key: fmt.Sprintf("p%d", p), Shifts: []series.ShiftEntry{{From: "2026-01-05", Days: week}}})
	}
	for d := range 182 {
		on := firstDay.AddDate(0, 0, 3+d).Format("2006-01-02T")
		for p := range 5 {
			// Three rooms hold three practitioners at a time: the others do the desk's work.
			for _, at := range []string{"09:00", "10:15", "11:30", "14:00", "15:15", "16:30"} {
				if r.IntN(6) == 0 {
					continue
				}
				b := series.RequestBooking{Practitioner: &q.Practitioners[p].Key, Start: on + at, Sold: 60, Reset: 15}
				b.Room = &rooms[p%3]
				q.Bookings = append(q.Bookings, b)
			}
		}
	}
	for range 12 {
		q.Series.Items = append(q.Series.Items, series.Item{Sold: 60, Reset: 15, Ideal: 7, Least: 6, Most: 8, Rest: 48})
	}
	return q
}

// The whole request by the finder, and its first visits by the finder and by a glpsol process:
// all twelve are more than glpsol solves in minutes.
func BenchmarkSeriesAndGLPK(b *testing.B) {
	crafttest.NeedGLPK(b)
	find := func(q *series.Request) func(*testing.B) {
		return func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				_, _ = series.Find(q)
			}
		}
	}
	b.Run("find twelve", find(full()))
	q := full()
	q.Series.Items, q.Series.Span, q.Bookings = q.Series.Items[:4], 20, q.Bookings[:1250] // ten weeks of them
	b.Run("find four", find(q))
	got, err := series.Find(q)
	require.NoError(b, err)
	b.Run("glpsol four", func(b *testing.B) {
		lp, ok := programme(q)
		require.True(b, ok)
		dir := b.TempDir()
		for b.Loop() {
			value, ok := crafttest.GLPK(b, dir, lp)
			require.True(b, ok)
			require.Equal(b, int(math.Round(value)), *got.Cost)
		}
	})
}
