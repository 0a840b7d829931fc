package shelf

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
)

// Horizon is for how many days the shelf looks ahead, BookedOnly for how many of them bookings alone count,
// window over how many days past use is a baseline (handbook, chapter 4, Forecast).
const (
	Horizon    = 56
	BookedOnly = 14
	window     = 56
	attendance = 180
)

// foresight is what the forecasts of all products are worked out from: what is expected, what is there and on order.
type foresight struct {
	*expected
	packs  []studio.Pack
	layers map[uuid.UUID]*shelf.Layer
	orders *ordering
	all    []ShelfLine
}

// expected is what the diary and the records say of the use to come, whatever is there.
type expected struct {
	today   string
	name    string // under which it is kept
	lib     *studio.Library
	visits  []shelf.Booked
	doses   map[string]map[string]decimal.Decimal // by product key, then by plan
	mostly  map[string]decimal.Decimal            // the most that any published protocol takes
	takers  map[string][]protocolDose             // what each published protocol takes, by product key, the most first
	records map[uuid.UUID][]shelf.Dosed           // by product, oldest first
	use     map[uuid.UUID]map[string]decimal.Decimal
	open    map[string]bool // the days on which anything was used
	years   map[uuid.UUID][]map[string]shelf.MonthUse
	attends decimal.Decimal
}

// expectedFrom are the areas that what is expected follows from.
var expectedFrom = []studio.Area{studio.InCatalog, studio.InPlans, studio.InDiary, studio.InFiles, studio.InRecords}

// look reads what forecasts are worked out from.
func (s *Service) look(ctx context.Context, tx forecastStore, st *studio.Studio) (*foresight, error) {
	memory, err := tx.Memory(ctx)
	if err != nil {
		return nil, err
	}
	everything := append(slices.Clone(expectedFrom), studio.InStock)
	return studio.Keep(ctx, tx, s.nameOf("foresight", st), everything, func() (*foresight, error) {
		f := &foresight{}
		f.expected, err = studio.Keep(ctx, tx, s.nameOf("expected use", st), expectedFrom, func() (*expected, error) { return s.expect(ctx, tx, st) })
		if err != nil {
			return nil, err
		}
		if f.packs, err = tx.Packs(ctx); err != nil {
			return nil, err
		}
		if f.layers, err = tx.Layers(ctx, studio.LayersOf(f.packs)); err != nil {
			return nil, err
		}
		if f.orders, err = s.readOrdering(ctx, tx); err != nil {
			return nil, err
		}
		f.all, err = f.workOut(memory)
		return f, err
	})
}

// nameOf is the name under which something of a day is kept, as the studio's settings are.
func (s *Service) nameOf(what string, st *studio.Studio) string {
	return fmt.Sprintf("%s of %s by settings %d", what, s.Today(st), st.Changes)
}

// expect reads what is expected.
func (s *Service) expect(ctx context.Context, tx forecastStore, st *studio.Studio) (*expected, error) {
	f := &expected{today: s.Today(st), name: s.nameOf("expected use", st), records: map[uuid.UUID][]shelf.Dosed{}}
	var err error
	if f.lib, err = studio.ReadLibrary(ctx, tx); err != nil {
		return nil, err
	}
	if err := f.readPast(ctx, tx, st, s.Now()); err != nil {
		return nil, err
	}
	return f, f.readDiary(ctx, tx, st)
}

// readPast reads what records teach.
func (f *expected) readPast(ctx context.Context, tx forecastStore, st *studio.Studio, now time.Time) error {
	doses, err := tx.Doses(ctx, nil)
	if err != nil {
		return err
	}
	for _, d := range doses {
		f.records[d.Product] = append(f.records[d.Product], d.Dosed)
	}
	today, err := time.ParseInLocation(time.DateOnly, f.today, st.Zone())
	if err != nil {
		return err
	}
	days, err := tx.UseByDay(ctx, today.AddDate(0, 0, -window).Format(time.DateOnly))
	if err != nil {
		return err
	}
	f.use, f.open = map[uuid.UUID]map[string]decimal.Decimal{}, map[string]bool{}
	for _, d := range days {
		if f.use[d.Product] == nil {
			f.use[d.Product] = map[string]decimal.Decimal{}
		}
		f.use[d.Product][d.Day], f.open[d.Day] = d.Used, true
	}
	months, err := tx.UseByMonth(ctx, f.today[:4]+"-01-01")
	if err != nil {
		return err
	}
	f.years = map[uuid.UUID][]map[string]shelf.MonthUse{}
	year := ""
	for _, m := range months { // by product, year and month
		if key := m.Product.String() + m.Year; key != year {
			year = key
			f.years[m.Product] = append(f.years[m.Product], map[string]shelf.MonthUse{})
		}
		list := f.years[m.Product]
		list[len(list)-1][m.Month] = shelf.MonthUse{Use: m.Used, OpenDays: m.OpenDays}
	}
	booked, kept, err := tx.Kept(ctx, now.AddDate(0, 0, -attendance), now)
	f.attends = decimal.NewFromInt(int64(20+kept)).DivRound(decimal.NewFromInt(int64(20+booked)), 6)
	return err
}

// readDiary reads the treatments to come, not yet begun, and what each takes, tailored to the client's skin.
func (f *expected) readDiary(ctx context.Context, tx forecastStore, st *studio.Studio) error {
	zone := st.Zone()
	today, err := time.ParseInLocation(time.DateOnly, f.today, zone)
	if err != nil {
		return err
	}
	visits, err := tx.ToCome(ctx, today, today.AddDate(0, 0, Horizon))
	if err != nil {
		return err
	}
	plans := &planDoses{tx: tx, lib: f.lib, doses: map[string]map[string]decimal.Decimal{}}
	for i := range visits {
		v := &visits[i]
		parts := []plan{{v.Protocol, v.Version}}
		for _, also := range v.Also {
			parts = append(parts, plan{also.Protocol, also.Version})
		}
		for _, part := range parts {
			key, err := plans.of(ctx, part, v.Skin, v.Kind == studio.ForTreatment)
			if err != nil {
				return err
			}
			day := v.StartsAt.In(zone).Format(time.DateOnly)
			f.visits = append(f.visits, shelf.Booked{Day: day, Practitioner: v.Practitioner.String(), Protocol: key})
		}
	}
	f.doses = plans.doses
	return f.published(ctx, tx)
}

// plan is a version of a protocol.
type plan struct {
	protocol uuid.UUID
	version  int
}

// planDoses works out what plans take, each plan and skin once.
type planDoses struct {
	tx    forecastStore
	lib   *studio.Library
	known []string
	doses map[string]map[string]decimal.Decimal // by product, then by plan and skin
}

// of returns the key of a plan for a skin, its doses worked out. What is no treatment takes nothing.
func (d *planDoses) of(ctx context.Context, p plan, skin Skin, treats bool) (string, error) {
	key := fmt.Sprintf("%s/%d/%s/%s/%t", p.protocol, p.version, skin.Type, strings.Join(skin.States, ","), treats)
	if slices.Contains(d.known, key) {
		return key, nil
	}
	d.known = append(d.known, key)
	takes := map[string]decimal.Decimal{}
	if treats {
		body, err := d.tx.Version(ctx, p.protocol, p.version)
		if err != nil {
			return key, err
		}
		cx := d.lib.Context()
		cx.SkinType, cx.SkinStates = skin.Type, skin.States
		if len(body.ValidateStructure(cx, "")) == 0 { // else it has to be mended first; its visit says so
			takes = Takes(adjusting.ForSkin(body, cx), cx, d.lib)
		}
	}
	for product, amount := range takes {
		if d.doses[product] == nil {
			d.doses[product] = map[string]decimal.Decimal{}
		}
		d.doses[product][key] = amount
	}
	return key, nil
}

// Takes is what a plan takes of each product, in the product's unit.
func Takes(p *protocol.Protocol, cx *protocol.Context, lib *studio.Library) map[string]decimal.Decimal {
	out := map[string]decimal.Decimal{}
	for _, a := range studio.AmountsOf(evaluation.Evaluate(p, cx), p.Key, lib.Products) {
		out[a.Product] = a.Planned
	}
	return out
}

// published reads what published protocols take of each product.
func (f *expected) published(ctx context.Context, tx forecastStore) error {
	list, err := tx.Protocols(ctx, uuid.Nil)
	if err != nil {
		return err
	}
	f.mostly, f.takers = map[string]decimal.Decimal{}, map[string][]protocolDose{}
	cx := f.lib.Context()
	for i := range list {
		if list[i].Version == 0 || len(list[i].Body.ValidateStructure(cx, "")) > 0 {
			continue
		}
		for product, amount := range Takes(&list[i].Body, cx, f.lib) {
			f.mostly[product] = decimal.Max(f.mostly[product], amount)
			if amount.IsPositive() {
				f.takers[product] = append(f.takers[product], protocolDose{list[i].Body.Name, amount})
			}
		}
	}
	for _, takers := range f.takers {
		slices.SortFunc(takers, func(x, y protocolDose) int { return cmp.Or(y.dose.Cmp(x.dose), cmp.Compare(x.protocol, y.protocol)) })
	}
	return nil
}

// foreseen is what is worked out of a product's use to come and of its packs.
type foreseen struct {
	factors  shelf.DoseFactors
	forecast shelf.RunOut
	usual    decimal.Decimal
}

// foresee works out when a product runs out, what expires unused, how many treatments are left, and
// whether to order.
func (f *foresight) foresee(l *ShelfLine, memory *studio.Remembered) error {
	var packs []shelf.Pack
	for i := range l.Packs {
		q := &l.Packs[i]
		if q.Side == studio.CabinSide && q.Good(f.today) && q.Left.IsPositive() { // what is past its day is told apart
			packs = append(packs, q.Pack)
		}
	}
	known, err := f.ofPacks(&l.Product, packs, memory)
	if err != nil {
		return err
	}
	l.Factors, l.Forecast, l.Usual = known.factors, known.forecast, known.usual
	l.Treatments = shelf.TreatmentsLeft(l.Remaining, l.Usual)
	l.TreatmentsOpen = shelf.TreatmentsLeft(l.Open, l.Usual)
	l.Reorder, err = f.reorder(l)
	return err
}

// ofPacks works it out, or answers what was worked out of the same packs when the same was expected.
func (f *foresight) ofPacks(p *studio.Product, packs []shelf.Pack, memory *studio.Remembered) (*foreseen, error) {
	key := ""
	if memory != nil {
		there, err := json.Marshal(packs)
		if err != nil {
			return nil, err
		}
		key = fmt.Sprintf("foreseen %s by %s %s of %s", p.ID, f.name, memory.State(expectedFrom), there)
		if known, ok := memory.Noted(key).(*foreseen); ok {
			return known, nil
		}
	}
	out := &foreseen{factors: shelf.Factors(f.records[p.ID])}
	d := f.demand(p, &out.factors)
	d.Packs = packs
	var err error
	if out.forecast, err = d.Forecast(); err != nil {
		return nil, err
	}
	out.usual = f.usual(p, d)
	if memory != nil {
		memory.Note(key, out)
	}
	return out, nil
}

// demand is what is known of a product's use to come.
func (f *expected) demand(p *studio.Product, factors *shelf.DoseFactors) *shelf.Demand {
	d := &shelf.Demand{
		Today: f.today, Days: Horizon, BookedOnly: BookedOnly, Doses: f.doses[p.Key], Visits: f.visits,
		Factors: map[string]decimal.Decimal{}, Attendance: &f.attends, Baseline: make([]decimal.Decimal, 7),
	}
	for _, v := range f.visits { // who has no records of their own goes by the studio's
		d.Factors[v.Practitioner] = factors.Studio
	}
	for who, factor := range factors.Practitioners {
		d.Factors[who] = factor
	}
	if p.Unit == studio.Pieces {
		d.Factors = map[string]decimal.Decimal{}
	}
	d.Season = shelf.Seasons(f.years[p.ID])
	sum, days := decimal.Zero, map[int]int64{}
	used := make([]decimal.Decimal, 7)
	today, _ := time.Parse(time.DateOnly, f.today)
	for n := 1; n <= window; n++ {
		at := today.AddDate(0, 0, -n)
		day := at.Format(time.DateOnly)
		sum = sum.Add(d.Season[at.Format("01")])
		k := (int(at.Weekday()) + 6) % 7
		if f.open[day] {
			days[k]++
			used[k] = used[k].Add(f.use[p.ID][day])
		}
	}
	for k := range used {
		if days[k] > 0 {
			d.Baseline[k] = used[k].DivRound(decimal.NewFromInt(days[k]), 6)
		}
	}
	mean := sum.DivRound(decimal.NewFromInt(window), 6)
	d.SeasonWindow = &mean
	return d
}

// usual is the mean expected use of a treatment: of those booked in the next 28 days, else of the newest
// records, else the most that any published protocol plans.
func (f *expected) usual(p *studio.Product, d *shelf.Demand) decimal.Decimal {
	today, _ := time.Parse(time.DateOnly, f.today)
	until := today.AddDate(0, 0, 28).Format(time.DateOnly)
	sum, n := decimal.Zero, int64(0)
	for _, v := range d.Visits {
		dose := d.Doses[v.Protocol]
		if v.Day >= until || !dose.IsPositive() {
			continue
		}
		factor, ok := d.Factors[v.Practitioner]
		if !ok {
			factor = decimal.NewFromInt(1)
		}
		sum, n = sum.Add(dose.Mul(factor)), n+1
	}
	if n == 0 {
		records := f.records[p.ID]
		for _, r := range records[max(0, len(records)-40):] {
			sum, n = sum.Add(r.Real), n+1
		}
	}
	if n == 0 {
		return f.mostly[p.Key]
	}
	return sum.DivRound(decimal.NewFromInt(n), 3)
}

// sigma is the sample standard deviation of the daily use over the window; closed days are zeros.
func (f *expected) sigma(product uuid.UUID) decimal.Decimal {
	today, _ := time.Parse(time.DateOnly, f.today)
	var xs []float64
	mean := 0.0
	for n := 1; n <= window; n++ {
		x, _ := f.use[product][today.AddDate(0, 0, -n).Format(time.DateOnly)].Float64()
		xs, mean = append(xs, x), mean+x/window
	}
	sum := 0.0
	for _, x := range xs {
		sum += (x - mean) * (x - mean)
	}
	return decimal.NewFromFloat(math.Sqrt(sum / (window - 1))).Round(6)
}
