package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/measuring"
	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
)

// read is one pair of readings of the left outer eye corner to the mouth corner.
func read(moment studio.Moment, readings ...float64) treatment.NewMeasurement {
	return treatment.NewMeasurement{ID: uuid.New(), Measure: "outer-eye-mouth", Instrument: measuring.Caliper, Side: "left", Moment: moment, Readings: readings}
}

func (w *world) measured(t *testing.T, client uuid.UUID, list ...treatment.NewMeasurement) *treatment.Progress {
	t.Helper()
	p, err := w.svc.Treatment.AddMeasurements(context.Background(), &w.owner, client, list)
	require.NoError(t, err)
	return p
}

// The handbook's worked change end to end: six pairs of other clients are the practitioner's noise, 62.1 and 61.5
// before, 64.2 and 64.0 after: +2.3 mm, more than 1.1 (chapter 7, Look-over and measuring; SEM 0.446 there comes from the
// six pairs alone, here the client's own pairs count too).
func TestAChangeIsMeasured(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	list, _, err := w.svc.Clients.Clients(ctx, &w.owner, "", "")
	require.NoError(t, err)
	client := list[0].ID
	p := w.measured(t, client, read(studio.Before, 62.1, 61.5))
	assert.Empty(t, p.Measures[0].Sides[0].Said, "one measurement is compared with nothing")
	assert.True(t, p.Measures[0].Sides[0].Usual, "the band is drawn with a usual noise")
	w.now = w.now.Add(time.Hour)
	p = w.measured(t, client, read(studio.After, 64.2, 64.0))
	require.Len(t, p.Measures[0].Sides[0].Said, 1)
	assert.Equal(t, measuring.TooFew, p.Measures[0].Sides[0].Said[0].Verdict)
	for i, pair := range [][]float64{{62.1, 61.5}, {58.4, 58.9}, {64.0, 63.2}, {60.2, 60.9}, {66.3, 65.6}, {59.0, 59.4}} {
		w.measured(t, list[1+i].ID, read(studio.Before, pair...))
	}
	p, err = w.svc.Treatment.Progress(ctx, &w.owner, client)
	require.NoError(t, err)
	said := p.Measures[0].Sides[0].Said[0]
	assert.Equal(t, measuring.Change, said.Verdict)
	assert.Contains(t, said.Text, "+2.3 mm, more than the measuring noise (1.0 mm); provisional, from 8 repeats")

	// Days later the same person finds 0.5 mm: none is shown.
	w.now = w.now.AddDate(0, 0, 7)
	p = w.measured(t, client, read(studio.Before, 62.4, 62.2))
	assert.Equal(t, measuring.NoChange, p.Measures[0].Sides[0].Said[0].Verdict)
	assert.Contains(t, p.Measures[0].Sides[0].Said[0].Text, "no change shown (0.5 mm")

	// What was wrong is struck with its reason, stays in the list and counts for nothing.
	all := p.Measures[0].All
	last := all[len(all)-1].ID
	_, err = w.svc.Treatment.StrikeMeasurement(ctx, &w.owner, last, " ")
	var input *studio.InputError
	require.ErrorAs(t, err, &input)
	p, err = w.svc.Treatment.StrikeMeasurement(ctx, &w.owner, last, "She smiled.")
	require.NoError(t, err)
	assert.Len(t, p.Measures[0].All, 3)
	assert.Len(t, p.Measures[0].Sides[0].Points, 2)

	many, err := w.svc.Treatment.MeasureClients(ctx, &w.owner, "outer-eye-mouth", measuring.Caliper, "left")
	require.NoError(t, err)
	assert.Equal(t, []int{0, 0, 7}, []int{many.Changed, many.Of, many.Stopped}, "all were measured at rest once")
	assert.Nil(t, many.Share.Share)
}

// A hope stated before counts, one stated afterwards does not; somebody else's readings are not compared; a repeat of
// the same request adds nothing; readings that cannot be are refused with their place.
func TestWhatIsSaidOfMeasuring(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	for range 8 {
		w.measured(t, v.Client, read(studio.Before, 60, 60.4))
	}
	_, err := w.svc.Treatment.SaveHope(ctx, &w.owner, v.Client, "outer-eye-mouth", "shorter")
	require.NoError(t, err)
	w.now = w.now.AddDate(0, 0, 7)
	p := w.measured(t, v.Client, read(studio.Before, 55, 55.2))
	assert.Contains(t, p.Measures[0].Sides[0].Said[0].Text, "in the direction hoped for")
	_, err = w.svc.Treatment.SaveHope(ctx, &w.owner, v.Client, "outer-eye-mouth", "longer")
	require.NoError(t, err)
	p, err = w.svc.Treatment.Progress(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	assert.NotContains(t, p.Measures[0].Sides[0].Said[0].Text, "hoped", "stated after it was seen")

	_, other := w.account(t, w.owner.Studio, studio.Practitioner, &v.Practitioner)
	w.now = w.now.AddDate(0, 0, 1)
	twice := []treatment.NewMeasurement{read(studio.Before, 50, 50)}
	for range 2 {
		p, err = w.svc.Treatment.AddMeasurements(ctx, other, v.Client, twice)
		require.NoError(t, err)
	}
	assert.Len(t, p.Measures[0].All, 10)
	assert.Contains(t, p.Measures[0].Sides[0].Said[0].Text, "another person")

	for path, wrong := range map[string]treatment.NewMeasurement{
		"/measurements/0/measure":    {Measure: "years-younger", Instrument: measuring.Caliper, Side: "left", Moment: studio.Before, Readings: []float64{60, 60}},
		"/measurements/0/instrument": {Measure: "puffiness", Instrument: measuring.Caliper, Side: "left", Moment: studio.Before, Readings: []float64{2, 2}},
		"/measurements/0/side":       {Measure: "jaw-opening", Instrument: measuring.Caliper, Side: "left", Moment: studio.Before, Readings: []float64{45, 45}},
		"/measurements/0/readings":   {Measure: "jaw-opening", Instrument: measuring.Caliper, Side: "mid", Moment: studio.Before, Readings: []float64{45}},
		"/measurements/0/readings/1": {Measure: "jaw-opening", Instrument: measuring.Caliper, Side: "mid", Moment: studio.Before, Readings: []float64{45, 450}},
	} {
		_, err := w.svc.Treatment.AddMeasurements(ctx, &w.owner, v.Client, []treatment.NewMeasurement{wrong})
		var input *studio.InputError
		require.ErrorAs(t, err, &input, path)
		assert.Equal(t, path, input.Problems[0].Path)
	}
	file, err := w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	require.NoError(t, w.svc.Clients.EraseClient(ctx, &w.owner, v.Client, file.Client.Name))
	assert.Zero(t, w.count(t, "select (select count(*) from measurement) + (select count(*) from measure_hope)"))
}
