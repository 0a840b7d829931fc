package diary

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// weekStore is what a week is summed up from.
type weekStore interface {
	preparationStore
	finderStore
	// Records says of the visits of some days how their records stand.
	Records(ctx context.Context, from, to time.Time) (map[uuid.UUID]RecordStands, error)
}

// RecordStands is how the record of a visit stands: whether it was begun and is finished, what its products cost, and what the
// protocol's version asks of a client.
type RecordStands struct {
	Begun, Finished bool
	Cost            *decimal.Decimal
	Price           string
}

// WeekDay is one day of the studio in numbers.
type WeekDay struct {
	Date string `json:"date"`
	// Open says that the studio is open, Minutes how long practitioners could be booked,
	// Booked how long they are.
	Open    bool `json:"open"`
	Minutes int  `json:"minutes"`
	Booked  int  `json:"booked"`
	// Treatments still to come, given, cancelled (late ones too) and missed.
	Coming    int `json:"coming"`
	Given     int `json:"given"`
	Cancelled int `json:"cancelled"`
	Missed    int `json:"missed"`
	// Unsigned counts treatments given whose record is open.
	Unsigned int `json:"unsigned"`
	// Asked is what clients pay for the treatments given, Products what the products of signed
	// records cost; both are exact, in the studio's currency.
	Asked    string `json:"asked"`
	Products string `json:"products"`
}

// Week is a week of the studio in numbers, from Monday on, as far as they are known.
type Week struct {
	From     string    `json:"from"`
	Currency string    `json:"currency"`
	Days     []WeekDay `json:"days"`
	Total    WeekDay   `json:"total"`
}

// Week sums up the week of a day; an empty day is today.
func (s *Service) Week(ctx context.Context, a *studio.Actor, day string) (*Week, error) {
	if err := a.May("get-week"); err != nil {
		return nil, err
	}
	var out *Week
	err := studio.In(ctx, s.Kernel, a, func(tx weekStore, st *studio.Studio) error {
		if day == "" {
			day = s.Today(st)
		}
		at, err := time.ParseInLocation(time.DateOnly, day, st.Zone())
		if err != nil {
			return studio.FaultAt("/date", words.EnterDateAsYearMonthDayFor())
		}
		monday := at.AddDate(0, 0, -(int(at.Weekday())+6)%7)
		key := fmt.Sprintf("week of %s on %s by settings %d", monday.Format(time.DateOnly), s.Today(st), st.Changes)
		from := []studio.Area{studio.InCatalog, studio.InPlans, studio.InDiary, studio.InTreatments}
		out, err = studio.Keep(ctx, tx, key, from, func() (*Week, error) { return s.weekOf(ctx, tx, st, monday) })
		return err
	})
	return out, err
}

// weekOf sums up the week of a Monday.
func (s *Service) weekOf(ctx context.Context, tx weekStore, st *studio.Studio, monday time.Time) (*Week, error) {
	out := &Week{From: monday.Format(time.DateOnly), Currency: st.Currency}
	var err error
	if out.Days, err = s.emptyWeek(ctx, tx, st, monday); err != nil {
		return nil, err
	}
	sums := [8]struct{ asked, products decimal.Decimal }{} // the last is the week's
	visits, err := tx.Visits(ctx, monday, monday.AddDate(0, 0, 7))
	if err != nil {
		return nil, err
	}
	records, err := tx.Records(ctx, monday, monday.AddDate(0, 0, 7))
	if err != nil {
		return nil, err
	}
	for k := range visits {
		v := &visits[k]
		i := daysBetween(monday, v.StartsAt.In(st.Zone()))
		asked, products := addVisit(records, st, &out.Days[i], v)
		for _, n := range []int{i, 7} {
			sums[n].asked, sums[n].products = sums[n].asked.Add(asked), sums[n].products.Add(products)
		}
	}
	minor := st.Minor()
	for i := range out.Days {
		d := &out.Days[i]
		d.Asked, d.Products = sums[i].asked.StringFixed(minor), sums[i].products.StringFixed(minor)
		out.Total.add(d)
	}
	out.Total.Asked, out.Total.Products = sums[7].asked.StringFixed(minor), sums[7].products.StringFixed(minor)
	return out, nil
}

// daysBetween is how many civil days a moment lies after the midnight of another.
func daysBetween(from, at time.Time) int {
	y, m, d := at.Date()
	fy, fm, fd := from.Date()
	return int(time.Date(y, m, d, 0, 0, 0, 0, time.UTC).Sub(time.Date(fy, fm, fd, 0, 0, 0, 0, time.UTC)).Hours() / 24)
}

// emptyWeek is a week before its appointments: how long the studio's people are there by their
// rosters, less their absences.
func (s *Service) emptyWeek(ctx context.Context, tx weekStore, st *studio.Studio, monday time.Time) ([]WeekDay, error) {
	x := asked(st, s.Now())
	if err := x.gatherWho(ctx, tx, st, monday); err != nil {
		return nil, err
	}
	loads, err := series.Loads(&x.request, monday.Format(time.DateOnly), 7)
	if err != nil {
		return nil, err
	}
	out := make([]WeekDay, len(loads))
	for i, l := range loads {
		out[i] = WeekDay{Date: l.Day, Open: l.Open}
		for _, p := range l.People {
			out[i].Minutes += p.Works
		}
	}
	return out, nil
}

// OpenMinutes is how long practitioners can be booked in the week of a Monday.
func (s *Service) OpenMinutes(ctx context.Context, within studio.Tx, st *studio.Studio, monday time.Time) (int, error) {
	days, err := s.emptyWeek(ctx, studio.As[weekStore](within), st, monday)
	sum := 0
	for i := range days {
		sum += days[i].Minutes
	}
	return sum, err
}

// addVisit counts one appointment, and says what the client pays for it and what its
// products cost.
func addVisit(records map[uuid.UUID]RecordStands, st *studio.Studio, d *WeekDay, v *studio.VisitLine) (asked, products decimal.Decimal) {
	switch {
	case v.State == studio.NoShow:
		d.Missed++
		return asked, products
	case !v.State.TakesTime():
		d.Cancelled++
		return asked, products
	}
	d.Booked += int(v.BusyUntil.Sub(v.StartsAt).Minutes())
	if v.Kind != studio.ForTreatment {
		return asked, products
	}
	r := records[v.ID]
	switch {
	case !r.Begun && !v.State.Given():
		d.Coming++
		return asked, products
	case r.Begun && !r.Finished:
		d.Unsigned++
	case r.Cost != nil:
		products = *r.Cost
	}
	d.Given++
	if price, err := decimal.NewFromString(r.Price); err == nil {
		asked = st.Taxed(price).Gross
	}
	return asked, products
}

// add counts another day in.
func (d *WeekDay) add(o *WeekDay) {
	d.Open = d.Open || o.Open
	d.Minutes, d.Booked, d.Coming, d.Given = d.Minutes+o.Minutes, d.Booked+o.Booked, d.Coming+o.Coming, d.Given+o.Given
	d.Cancelled, d.Missed, d.Unsigned = d.Cancelled+o.Cancelled, d.Missed+o.Missed, d.Unsigned+o.Unsigned
}
