package postgres_test

import (
	"bytes"
	"context"
	"database/sql"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
	"softpalm/internal/exchange"
	"softpalm/internal/httpapi"
	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
	shelfroom "softpalm/internal/studio/shelf"
)

// Amounts, money and days have bounds: the last good value is taken, the next is refused
// with its field, by the use cases, in files and by the database itself.
func TestTheBoundsOfWhatIsEntered(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	dec := decimal.RequireFromString
	product := w.line(t, "calm-oil").Product.ID
	lot := func(change func(*shelfroom.DeliveryLine)) error {
		n := shelfroom.DeliveryLine{Product: product, Number: uuid.NewString(), Expiry: "2028-01-01", Packs: 1, PackSize: dec("100"), Cost: dec("10"), Short: true}
		change(&n)
		return w.svc.Shelf.Receive(ctx, &w.owner, &shelfroom.Delivery{Lines: []shelfroom.DeliveryLine{n}})
	}
	refused := func(path string, err error) {
		t.Helper()
		var input *studio.InputError
		if assert.ErrorAs(t, err, &input, path) {
			assert.Equal(t, path, input.Problems[0].Path)
		}
	}
	require.NoError(t, lot(func(n *shelfroom.DeliveryLine) { n.PackSize = studio.MostAmount }))
	refused("/lines/0/packSize", lot(func(n *shelfroom.DeliveryLine) { n.PackSize = dec("100000.001") }))
	require.NoError(t, lot(func(n *shelfroom.DeliveryLine) { n.PackSize = dec("0.001") }))
	refused("/lines/0/packSize", lot(func(n *shelfroom.DeliveryLine) { n.PackSize = dec("0.0004") }))
	require.NoError(t, lot(func(n *shelfroom.DeliveryLine) { n.Cost = studio.MostMoney }))
	refused("/lines/0/cost", lot(func(n *shelfroom.DeliveryLine) { n.Cost = dec("10000000") }))
	refused("/lines/0/cost", lot(func(n *shelfroom.DeliveryLine) { n.Cost = dec("0.001") }))
	require.NoError(t, lot(func(n *shelfroom.DeliveryLine) { n.Expiry = studio.LastDay }))
	refused("/lines/0/expiry", lot(func(n *shelfroom.DeliveryLine) { n.Expiry = "2101-01-01" }))
	refused("/lines/0/expiry", lot(func(n *shelfroom.DeliveryLine) { n.Expiry = "1899-12-31" }))
	refused("/birthDate", func() error {
		_, err := w.svc.Clients.AddClient(ctx, &w.owner, studio.ClientFields{Name: "Old", SkinType: "dry", BirthDate: "1899-12-31"})
		return err
	}())
	v := w.first(t)
	at := func(start time.Time) error {
		_, err := w.svc.Diary.Book(ctx, &w.owner, studio.NewVisit{ID: uuid.New(), Client: v.Client, Practitioner: v.Practitioner, Room: v.Room, Protocol: v.Protocol, Start: start})
		return err
	}
	refused("/start", at(w.now.Add(studio.BookingAhead+time.Hour)))
	refused("/start", at(time.Date(9999, 12, 31, 10, 0, 0, 0, time.UTC)))

	b := &house.Bundle{Format: "softpalm-studio", Version: 1, Products: []house.BundleProduct{{Key: "annex-oil", Name: "Oil", Form: "oil", Unit: "mL", PackSize: 100, Price: "10", FullDose: 4, RangeMin: 2, RangeMax: 5, Tags: []string{},
		Lots: []house.BundleLot{{Number: "1", Expiry: "2101-01-01", Received: "today", Amount: "100001", UnitCost: "1"}}}}}
	_, err := w.svc.House.Import(ctx, &w.owner, b, true)
	var input *studio.InputError
	require.ErrorAs(t, err, &input)
	paths := []string{}
	for _, f := range input.Problems {
		paths = append(paths, f.Path)
	}
	assert.ElementsMatch(t, []string{"/products/0/lots/0/expiry", "/products/0/lots/0/amount"}, paths)

	owner, err := sql.Open("pgx", w.ownerURL)
	require.NoError(t, err)
	defer owner.Close()
	for _, q := range []string{
		"update product set pack_size = 100001", "update product set price = 10000000", "update product set reorder_at = -1",
		"update lot set expiry = '2101-01-01'", "update lot set months_open = 61", "update client set birth_date = '1800-01-01'",
		"update visit set ends_at = starts_at + interval '2 days', busy_until = starts_at + interval '2 days'",
	} {
		_, err := owner.Exec(q)
		assert.ErrorContains(t, err, "bounds", q)
	}
}

// Nobody is booked with on a day off, or outside their hours, or who is not of the studio.
func TestNobodyIsBookedOnADayOff(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	week := everyDay()
	week[time.Tuesday] = series.Hours{}
	week[time.Wednesday] = series.Hours{From: 12 * 60, To: 17 * 60}
	id := uuid.New()
	require.NoError(t, w.db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error {
		return tx.(*postgres.Tx).AddPractitioner(ctx, &studio.Person{ID: id, Key: "off", Name: "Olive Off", Week: week})
	}))
	at := func(practitioner uuid.UUID, day, hour int) error {
		_, err := w.svc.Diary.Book(ctx, &w.owner, studio.NewVisit{ID: uuid.New(), Client: v.Client, Practitioner: practitioner, Room: v.Room, Protocol: v.Protocol,
			Start: time.Date(2027, 3, day, hour, 0, 0, 0, time.UTC)})
		return err
	}
	for _, c := range []struct {
		who       uuid.UUID
		day, hour int
		path      string
	}{
		{id, 2, 12, "/start"}, // a Tuesday
		{id, 3, 11, "/start"}, // before they begin
		{id, 3, 17, "/start"}, // it would end after they do
		{id, 3, 13, ""},
		{uuid.New(), 4, 13, "/practitioner"},
	} {
		err := at(c.who, c.day, c.hour)
		if c.path == "" {
			require.NoError(t, err)
			continue
		}
		var input *studio.InputError
		require.ErrorAs(t, err, &input, "%d March, %d h", c.day, c.hour)
		assert.Equal(t, c.path, input.Problems[0].Path)
	}
}

// The demo's passwords are shown on the sign-in page of a server that only this machine
// reaches, and nowhere else.
func TestTheDemosPasswordsStayOnTheMachine(t *testing.T) {
	w := newWorld(t)
	for shown, want := range map[bool]bool{true: true, false: false} {
		app := httpapi.New(httpapi.Config{Rooms: w.svc, Ready: w.db.Ready, Files: exchange.Files{}, ShowDemo: shown})
		res, err := app.Test(httptest.NewRequest("GET", "/api/session", nil))
		require.NoError(t, err)
		var b bytes.Buffer
		_, err = b.ReadFrom(res.Body)
		require.NoError(t, err)
		assert.Equal(t, want, strings.Contains(b.String(), "demo palms"))
	}
}
