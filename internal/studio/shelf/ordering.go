package shelf

import (
	"context"
	"errors"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Supplier is who products are bought from.
type Supplier struct {
	Name string `json:"name" minLength:"1" maxLength:"120"`
	// LeastValue is what an order must be worth at least, OrderCost what making one costs.
	LeastValue decimal.Decimal `json:"leastValue"`
	OrderCost  decimal.Decimal `json:"orderCost"`
	Email      string          `json:"email" maxLength:"200"`
}

// OrderSettings is how the studio orders and counts.
type OrderSettings struct {
	// ServiceLevel is in per cent of the times between two deliveries in which nothing runs out.
	ServiceLevel int `json:"serviceLevel" enum:"90,95,98,99"`
	// HoldingPercent is what keeping stock for a year costs, in per cent of its cost.
	HoldingPercent decimal.Decimal `json:"holdingPercent"`
	// MostMonths is for how many months is ordered at most.
	MostMonths int `json:"mostMonths" minimum:"1" maximum:"60"`
	// BlindCount hides what the books say while counting.
	BlindCount bool `json:"blindCount"`
	// LeastLifeDays is how long a delivery must still be good at least.
	LeastLifeDays int `json:"leastLifeDays" minimum:"0" maximum:"1000"`
	// ScaleStep is the finest the scale shows, in g.
	ScaleStep decimal.Decimal `json:"scaleStep"`
}

// usualSettings are those of a studio that set none (handbook, chapter 4, Ordering).
var usualSettings = OrderSettings{
	ServiceLevel: 95, HoldingPercent: decimal.NewFromInt(20), MostMonths: 12, LeastLifeDays: 180, ScaleStep: decimal.RequireFromString("0.01"),
}

// usualOrderCost is what making one order costs where a supplier has no figure of its own.
var usualOrderCost = decimal.NewFromInt(9)

// levels are the safety factors of the service levels.
var levels = map[int]decimal.Decimal{
	90: decimal.RequireFromString("1.282"), 95: decimal.RequireFromString("1.645"),
	98: decimal.RequireFromString("2.054"), 99: decimal.RequireFromString("2.326"),
}

// Lead is how long a delivery took.
type Lead struct {
	Supplier string
	Days     int
}

// Coming is what is on order of a product.
type Coming struct {
	Product uuid.UUID
	Amount  decimal.Decimal
	// Day of the order, and when it is expected, empty where nothing was said.
	Ordered, NeededBy string
}

// orderingStore is what ordering reads.
type orderingStore interface {
	studio.Tx
	OrderSettings(ctx context.Context) (*OrderSettings, error)
	Suppliers(ctx context.Context) ([]Supplier, error) // by name
	// Leads lists how long the newest ten deliveries of each supplier took.
	Leads(ctx context.Context) ([]Lead, error)
	OnOrder(ctx context.Context) ([]Coming, error) // by day of the order
}

// ordering is what deciding an order is worked out from.
type ordering struct {
	settings  OrderSettings
	suppliers map[string]Supplier
	leads     map[string][]float64
	coming    map[uuid.UUID][]Coming
}

func (s *Service) readOrdering(ctx context.Context, tx studio.Tx) (*ordering, error) {
	from := studio.As[orderingStore](tx)
	o := &ordering{settings: usualSettings, suppliers: map[string]Supplier{}, leads: map[string][]float64{}, coming: map[uuid.UUID][]Coming{}}
	set, err := from.OrderSettings(ctx)
	if err != nil && !errors.Is(err, studio.ErrNotFound) {
		return nil, err
	}
	if set != nil {
		o.settings = *set
	}
	suppliers, err := from.Suppliers(ctx)
	if err != nil {
		return nil, err
	}
	for _, x := range suppliers {
		o.suppliers[x.Name] = x
	}
	leads, err := from.Leads(ctx)
	if err != nil {
		return nil, err
	}
	for _, l := range leads {
		o.leads[l.Supplier] = append(o.leads[l.Supplier], float64(l.Days))
	}
	coming, err := from.OnOrder(ctx)
	for _, c := range coming {
		o.coming[c.Product] = append(o.coming[c.Product], c)
	}
	return o, err
}

// Reorder is whether to order a product, and the figures behind it.
type Reorder struct {
	shelf.Order
	OnOrder    decimal.Decimal `json:"onOrder"`
	WillExpire decimal.Decimal `json:"willExpire"`
	LeadDays   decimal.Decimal `json:"leadDays"`
	// Learned is from how many deliveries the lead time was learned; 0 where it is the stated one.
	Learned int `json:"learned"`
	// Delivery is the day on which what is ordered comes: of an order under way, or of one made today.
	Delivery string `json:"delivery"`
	// UnderWay says that an order is under way.
	UnderWay bool `json:"underWay"`
}

// lead is the mean and sample deviation of a supplier's newest deliveries, in days; the stated lead time
// where there are fewer than three.
func (o *ordering) lead(p *studio.Product) (days, sigma float64, learned int) {
	seen := o.leads[p.Supplier]
	if p.Supplier == "" || len(seen) < 3 {
		return float64(p.LeadDays), 0, 0
	}
	mean := 0.0
	for _, d := range seen {
		mean += d / float64(len(seen))
	}
	sum := 0.0
	for _, d := range seen {
		sum += (d - mean) * (d - mean)
	}
	return mean, math.Sqrt(sum / float64(len(seen)-1)), len(seen)
}

// reorder decides whether to order a product.
func (f *foresight) reorder(l *ShelfLine) (Reorder, error) {
	p, o := &l.Product, f.orders
	lead, sigma, learned := o.lead(p)
	out := Reorder{LeadDays: decimal.NewFromFloat(lead).Round(1), Learned: learned, OnOrder: decimal.Zero, WillExpire: decimal.Zero}
	today, _ := time.Parse(time.DateOnly, f.today)
	out.Delivery = today.AddDate(0, 0, int(math.Ceil(lead))).Format(time.DateOnly)
	for i, c := range o.coming[p.ID] {
		out.OnOrder = out.OnOrder.Add(c.Amount)
		if ordered, err := time.Parse(time.DateOnly, c.Ordered); i == 0 && err == nil {
			out.Delivery, out.UnderWay = ordered.AddDate(0, 0, int(math.Ceil(lead))).Format(time.DateOnly), true
			if out.Delivery < f.today {
				out.Delivery = f.today
			}
		}
	}
	for _, u := range l.Forecast.Unused {
		out.WillExpire = out.WillExpire.Add(u.Amount)
	}
	daily := decimal.Zero
	for n := range min(28, len(l.Forecast.PerDay)) {
		need, err := decimal.NewFromString(l.Forecast.PerDay[n][1])
		if err != nil {
			return out, err
		}
		daily = daily.Add(need)
	}
	daily = daily.DivRound(decimal.NewFromInt(28), 6)
	leadSigma := decimal.NewFromFloat(sigma)
	unit := p.Price.DivRound(p.PackSize, 8)
	if !unit.IsPositive() {
		unit = decimal.RequireFromString("0.000001") // what costs nothing is ordered in large lots
	}
	cost := usualOrderCost
	if x, ok := o.suppliers[p.Supplier]; ok {
		cost = x.OrderCost
	}
	q := shelf.Reorder{
		Daily: daily, LeadDays: decimal.NewFromFloat(lead), LeadSigma: &leadSigma, Sigma: f.sigma(p.ID), Z: levels[o.settings.ServiceLevel],
		PerYear: daily.Mul(decimal.NewFromInt(365)), OrderCost: cost, Holding: unit.Mul(o.settings.HoldingPercent).DivRound(decimal.NewFromInt(100), 10),
		Usable: l.Remaining, WillExpire: &out.WillExpire, OnOrder: &out.OnOrder, Pack: p.PackSize, MinPacks: int64(p.MinPacks),
		ShelfLifeDays: f.keeps(l),
	}
	if l.Forecast.RunOut != nil && *l.Forecast.RunOut <= out.Delivery && !out.UnderWay {
		q.Short = &l.Forecast.Short
	}
	var err error
	if out.Order, err = q.Decide(); err != nil {
		return out, err
	}
	switch {
	case out.Position.LessThan(p.ReorderAt): // below the studio's own least amount
		missing := p.ReorderAt.Sub(out.Position).DivRound(p.PackSize, 9).Ceil().IntPart()
		out.Order.Order, out.Packs = true, max(out.Packs, missing, int64(p.MinPacks))
	case !daily.IsPositive():
		out.Order.Order, out.Packs = false, 0 // nothing takes it
	}
	return out, nil
}

// keeps is for how many days what is delivered can be kept: its usual life on delivery, and as long as is
// ordered for at most.
func (f *foresight) keeps(l *ShelfLine) int64 {
	days := int64(f.orders.settings.MostMonths) * 365 / 12
	life, n := int64(0), int64(0)
	for i := range l.Packs {
		q := &l.Packs[i]
		if q.Expiry == nil {
			continue
		}
		from, err := time.Parse(time.DateOnly, q.Received)
		until, err2 := time.Parse(time.DateOnly, *q.Expiry)
		if err == nil && err2 == nil && until.After(from) {
			life, n = life+int64(until.Sub(from).Hours()/24), n+1
		}
	}
	if n > 0 {
		days = min(days, life/n)
	}
	return days
}

// OrderList is what to order from a supplier today.
type OrderList struct {
	Supplier string          `json:"supplier"`
	Lines    []OrderAdvice   `json:"lines"`
	Value    decimal.Decimal `json:"value"`
	// Missing is what is missing to the supplier's least value; Also then names what is nearest its point.
	Missing decimal.Decimal `json:"missing"`
	Also    []OrderAdvice   `json:"also"`
}

// OrderAdvice is a product to order, and why.
type OrderAdvice struct {
	Product  uuid.UUID       `json:"product"`
	Name     string          `json:"name"`
	Unit     string          `json:"unit"`
	Article  string          `json:"articleNo"`
	PackSize decimal.Decimal `json:"packSize"`
	Price    decimal.Decimal `json:"packPrice"`
	Packs    int64           `json:"packs"`
	Reorder  Reorder         `json:"reorder"`
	RunOut   *string         `json:"runOut,omitempty"`
	// Why, in words.
	Why string `json:"why"`
}

// OrderLists lists what to order, by supplier.
func (s *Service) OrderLists(ctx context.Context, a *studio.Actor) ([]OrderList, error) {
	if err := a.May("get-order-lists"); err != nil {
		return nil, err
	}
	out := []OrderList{}
	err := studio.In(ctx, s.Kernel, a, func(tx forecastStore, st *studio.Studio) error {
		f, err := s.look(ctx, tx, st)
		if err != nil {
			return err
		}
		lines := f.lines()
		bySupplier := map[string]*OrderList{}
		for i := range lines {
			l := &lines[i]
			name := l.Product.Supplier
			if bySupplier[name] == nil {
				bySupplier[name] = &OrderList{Supplier: name, Lines: []OrderAdvice{}, Also: []OrderAdvice{}}
			}
			list, advice := bySupplier[name], adviceOf(l)
			if l.Reorder.Order.Order {
				list.Lines = append(list.Lines, advice)
				list.Value = list.Value.Add(advice.Price.Mul(decimal.NewFromInt(advice.Packs)))
			} else if p := &l.Product; l.Usual.IsPositive() || p.ReorderAt.IsPositive() {
				advice.Packs = int64(p.MinPacks)
				list.Also = append(list.Also, advice)
			}
		}
		for name, list := range bySupplier {
			list.Missing = decimal.Max(decimal.Zero, f.orders.suppliers[name].LeastValue.Sub(list.Value))
			slices.SortStableFunc(list.Also, func(a, b OrderAdvice) int { return above(&a).Cmp(above(&b)) })
			if len(list.Lines) > 0 {
				out = append(out, *list)
			}
		}
		slices.SortFunc(out, func(a, b OrderList) int { return strings.Compare(a.Supplier, b.Supplier) })
		return nil
	})
	return out, err
}

// above is how far a product is above its point.
func above(a *OrderAdvice) decimal.Decimal {
	point, err := decimal.NewFromString(a.Reorder.Point)
	if err != nil {
		return a.Reorder.Position
	}
	return a.Reorder.Position.Sub(point)
}

// adviceOf is a product as an order list names it.
func adviceOf(l *ShelfLine) OrderAdvice {
	p := &l.Product
	a := OrderAdvice{
		Product: p.ID, Name: p.Name, Unit: p.Unit, Article: p.Article, PackSize: p.PackSize, Price: p.Price, Packs: l.Reorder.Packs,
		Reorder: l.Reorder, RunOut: l.Forecast.RunOut,
	}
	switch {
	case l.Forecast.RunOut != nil:
		a.Why = words.LastsToDelivery(shortDay(*l.Forecast.RunOut), shortDay(l.Reorder.Delivery)).Message
	case l.Reorder.Position.LessThan(p.ReorderAt):
		a.Why = words.BelowTheStudiosLeast(p.ReorderAt, p.Unit).Message
	default:
		a.Why = words.AtItsReorderPoint(l.Reorder.Point, p.Unit).Message
	}
	return a
}

// shortDay is a day as sentences say it: 9 Dec.
func shortDay(day string) string {
	t, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return day
	}
	return t.Format("2 Jan")
}

// SaveSupplier writes what is known of a supplier.
func (s *Service) SaveSupplier(ctx context.Context, a *studio.Actor, x Supplier) error {
	if err := a.May("save-supplier"); err != nil {
		return err
	}
	if x.Name = strings.TrimSpace(x.Name); x.Name == "" {
		return studio.FaultAt("/name", words.EnterTheSuppliersName())
	}
	if err := studio.CheckMoney("/leastValue", x.LeastValue); err != nil {
		return err
	}
	if !x.OrderCost.IsPositive() {
		return studio.FaultAt("/orderCost", words.EnterWhatMakingAnOrderCosts())
	}
	if err := studio.CheckMoney("/orderCost", x.OrderCost); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx orderStore, _ *studio.Studio) error { return tx.SaveSupplier(ctx, &x) })
}

// OrderTerms are the suppliers and how the studio orders.
type OrderTerms struct {
	Settings  OrderSettings `json:"settings"`
	Suppliers []Supplier    `json:"suppliers"`
}

// Terms returns the suppliers and how the studio orders.
func (s *Service) Terms(ctx context.Context, a *studio.Actor) (*OrderTerms, error) {
	if err := a.May("get-order-lists"); err != nil {
		return nil, err
	}
	out := &OrderTerms{Settings: usualSettings}
	err := studio.In(ctx, s.Kernel, a, func(tx orderStore, _ *studio.Studio) error {
		set, err := tx.OrderSettings(ctx)
		if err != nil && !errors.Is(err, studio.ErrNotFound) {
			return err
		}
		if set != nil {
			out.Settings = *set
		}
		out.Suppliers, err = tx.Suppliers(ctx)
		return err
	})
	return out, err
}

// SaveOrderSettings writes how the studio orders and counts.
func (s *Service) SaveOrderSettings(ctx context.Context, a *studio.Actor, x OrderSettings) error {
	if err := a.May("save-order-settings"); err != nil {
		return err
	}
	if _, ok := levels[x.ServiceLevel]; !ok {
		return studio.FaultAt("/serviceLevel", words.ChooseAServiceLevel())
	}
	if !x.HoldingPercent.IsPositive() || x.HoldingPercent.GreaterThan(decimal.NewFromInt(200)) {
		return studio.FaultAt("/holdingPercent", words.EnterAPercentageAbove0())
	}
	if !x.ScaleStep.IsPositive() || x.ScaleStep.GreaterThan(decimal.NewFromInt(100)) {
		return studio.FaultAt("/scaleStep", words.EnterTheScalesStep())
	}
	return studio.In(ctx, s.Kernel, a, func(tx orderStore, _ *studio.Studio) error { return tx.SaveOrderSettings(ctx, &x) })
}
