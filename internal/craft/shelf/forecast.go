package shelf

import (
	"cmp"
	"errors"
	"fmt"
	"maps"
	"math"
	"slices"
	"time"

	"github.com/shopspring/decimal"
)

// Booked is a visit that is still to come.
type Booked struct {
	Day          string `json:"day"`
	Practitioner string `json:"practitioner"`
	Protocol     string `json:"protocol"`
}

// Demand is what is known of a product's use to come: doses by protocol, habits by practitioner, the diary,
// a baseline by weekday (Monday first) with its season, and the packs there are.
type Demand struct {
	Today string `json:"today"`
	Days  int    `json:"days"`
	// BookedOnly is for how many days, today's counted, bookings alone count.
	BookedOnly   int                        `json:"bookedOnly"`
	Doses        map[string]decimal.Decimal `json:"doses"`
	Factors      map[string]decimal.Decimal `json:"factors"`
	Attendance   *decimal.Decimal           `json:"attendance,omitempty"`
	Visits       []Booked                   `json:"visits"`
	Baseline     []decimal.Decimal          `json:"baseline,omitempty"`
	Season       map[string]decimal.Decimal `json:"season,omitempty"`
	SeasonWindow *decimal.Decimal           `json:"seasonWindow,omitempty"`
	Packs        []Pack                     `json:"packs"`
}

// Unused is a pack that expires with something left.
type Unused struct {
	Lot       string          `json:"lot"`
	Pack      int             `json:"pack"`
	GoodUntil string          `json:"goodUntil"`
	Amount    decimal.Decimal `json:"amount"`
}

// RunOut is when something is short first, how much over the days, what expires unused, and what is left.
type RunOut struct {
	PerDay [][2]string     `json:"perDay"`
	RunOut *string         `json:"runOut"`
	Short  decimal.Decimal `json:"short"`
	Unused []Unused        `json:"unused"`
	Left   decimal.Decimal `json:"left"`
	Demand decimal.Decimal `json:"demand"`
	// Levels is what may still be used at the end of each day.
	Levels []decimal.Decimal `json:"-"`
}

var one = decimal.NewFromInt(1)

func given(d *decimal.Decimal, usual decimal.Decimal) decimal.Decimal {
	if d == nil {
		return usual
	}
	return *d
}

// booked is the demand of each day by its bookings: each to a thousandth. No factor is 1, no dose is 0.
func (d *Demand) booked() map[string]decimal.Decimal {
	type pair struct{ practitioner, protocol string }
	sums, each := map[string]int64{}, map[pair]int64{} // in thousandths
	attends := given(d.Attendance, one)
	for i := range d.Visits {
		v := &d.Visits[i]
		dose, ok := d.Doses[v.Protocol]
		if !ok {
			continue
		}
		p := pair{v.Practitioner, v.Protocol}
		takes, ok := each[p]
		if !ok {
			factor, own := d.Factors[v.Practitioner]
			if !own {
				factor = one
			}
			takes = dose.Mul(factor).Mul(attends).Round(thousandth).Shift(thousandth).IntPart()
			each[p] = takes
		}
		sums[v.Day] += takes
	}
	out := make(map[string]decimal.Decimal, len(sums))
	for day, sum := range sums {
		out[day] = decimal.New(sum, -thousandth)
	}
	return out
}

// usual is the baseline of each weekday (Monday first) in a month; none without a baseline.
func (d *Demand) usual(month string) (out [7]decimal.Decimal) {
	if len(d.Baseline) != 7 {
		return out
	}
	season, ok := d.Season[month]
	if !ok {
		season = one
	}
	window := given(d.SeasonWindow, one)
	if !window.IsPositive() {
		window = one
	}
	for k := range out {
		out[k] = d.Baseline[k].Mul(season).DivRound(window, exact).Round(thousandth)
	}
	return out
}

// Forecast walks the days: first what is past its last day goes, blocked packs too, then the day's demand
// is picked, opening packs as they are reached (handbook, chapter 4, Forecast).
func (d *Demand) Forecast() (RunOut, error) {
	today, err := time.Parse(dayLayout, d.Today)
	if err != nil {
		return RunOut{}, fmt.Errorf("%q is no day", d.Today)
	}
	if d.Days < 0 || len(d.Baseline) != 0 && len(d.Baseline) != 7 {
		return RunOut{}, errors.New("there are no days below 0, and a baseline has seven weekdays")
	}
	row := shelfRow{packs: slices.Clone(d.Packs)}
	for i := range row.packs {
		if !row.packs[i].Blocked {
			row.level = row.level.Add(row.packs[i].Left)
		}
	}
	if err := row.sort(); err != nil {
		return RunOut{}, err
	}
	out := RunOut{PerDay: make([][2]string, 0, d.Days), Unused: []Unused{}, Levels: make([]decimal.Decimal, 0, d.Days)}
	booked, usual := d.booked(), map[string][7]decimal.Decimal{}
	for n := range d.Days {
		at := today.AddDate(0, 0, n)
		day := at.Format(dayLayout)
		need := booked[day]
		if n >= d.BookedOnly {
			month := day[5:7]
			if _, ok := usual[month]; !ok {
				usual[month] = d.usual(month)
			}
			need = decimal.Max(need, usual[month][(int(at.Weekday())+6)%7])
		}
		out.PerDay = append(out.PerDay, [2]string{day, need.String()})
		out.Demand = out.Demand.Add(need)
		out.Unused = append(out.Unused, row.lose(day)...)
		short, err := row.draw(need, day)
		if err != nil {
			return out, err
		}
		if short.IsPositive() {
			out.Short = out.Short.Add(short)
			if out.RunOut == nil {
				out.RunOut = &day
			}
		}
		out.Levels = append(out.Levels, row.level)
	}
	out.Left = row.level
	slices.SortStableFunc(out.Unused, func(a, b Unused) int {
		return cmp.Or(cmp.Compare(a.GoodUntil, b.GoodUntil), cmp.Compare(a.Lot, b.Lot), cmp.Compare(a.Pack, b.Pack))
	})
	return out, nil
}

// shelfRow is the packs of a product in the order in which they are picked, as the days go by.
type shelfRow struct {
	packs []Pack
	order []standing
	// level is what may still be used.
	level decimal.Decimal
}

// sort puts the packs in order; opening one may change that.
func (r *shelfRow) sort() (err error) {
	r.order, err = inOrder(r.packs)
	return err
}

// lose takes out what is past its last day on a day, by last day, lot and pack.
func (r *shelfRow) lose(day string) (lost []Unused) {
	for _, p := range r.order {
		if p.until == "" || p.until >= day {
			break // the rest goes later
		}
		if p.Left.IsPositive() {
			lost = append(lost, Unused{p.Lot, p.n, p.until, p.Left})
			if !p.Blocked {
				r.level = r.level.Sub(p.Left)
			}
			p.Left = decimal.Zero
		}
	}
	return lost
}

// draw takes a day's demand out of the packs and returns what is short.
func (r *shelfRow) draw(need decimal.Decimal, day string) (decimal.Decimal, error) {
	for need.IsPositive() {
		i := slices.IndexFunc(r.order, func(p standing) bool {
			return p.Left.IsPositive() && !p.Blocked && (p.until == "" || day <= p.until)
		})
		if i < 0 {
			return need, nil
		}
		p := r.order[i].Pack
		n := decimal.Min(need, p.Left)
		p.Left, need, r.level = p.Left.Sub(n), need.Sub(n), r.level.Sub(n)
		if p.Opened == nil {
			p.Opened = &day
			if err := r.sort(); err != nil { // opening one may change which is next
				return need, err
			}
		}
	}
	return decimal.Zero, nil
}

// MonthUse is what was used in a month, and on how many open days.
type MonthUse struct {
	Use      decimal.Decimal `json:"use"`
	OpenDays int64           `json:"openDays"`
}

// Seasons is the season factor of each month (01 to 12) from full calendar years: the use per open day
// against the year's, 1 for a month closed throughout, each year counting once beside a prior of 1; to 4
// decimals.
func Seasons(years []map[string]MonthUse) map[string]decimal.Decimal {
	out := map[string]decimal.Decimal{}
	for month := 1; month <= 12; month++ {
		key := fmt.Sprintf("%02d", month)
		sum := 1.0
		for _, year := range years {
			use, days := 0.0, int64(0)
			for m := range maps.Values(year) {
				v, _ := m.Use.Float64()
				use, days = use+v, days+m.OpenDays
			}
			m := year[key]
			v, _ := m.Use.Float64()
			if m.OpenDays == 0 || use == 0 {
				sum++
			} else {
				sum += (v / float64(m.OpenDays)) / (use / float64(days))
			}
		}
		out[key] = decimal.NewFromFloat(sum / float64(1+len(years))).Round(4)
	}
	return out
}

// Reorder is what is known when an order is decided.
type Reorder struct {
	Daily      decimal.Decimal  `json:"daily"` // mean use a day
	LeadDays   decimal.Decimal  `json:"leadDays"`
	LeadSigma  *decimal.Decimal `json:"leadSigma,omitempty"`
	Sigma      decimal.Decimal  `json:"sigma"` // of the daily use
	Z          decimal.Decimal  `json:"z"`
	PerYear    decimal.Decimal  `json:"perYear"`
	OrderCost  decimal.Decimal  `json:"orderCost"`
	Holding    decimal.Decimal  `json:"holding"` // of one unit for a year
	Usable     decimal.Decimal  `json:"usable"`
	WillExpire *decimal.Decimal `json:"willExpire,omitempty"`
	OnOrder    *decimal.Decimal `json:"onOrder,omitempty"`
	Pack       decimal.Decimal  `json:"pack"`
	MinPacks   int64            `json:"minPacks,omitempty"`
	// Short is how much the booked diary lacks before a delivery ordered today would come: it is ordered
	// then, whatever the mean use says.
	Short *decimal.Decimal `json:"short,omitempty"`
	// ShelfLifeDays is how long what is delivered may be kept; 0 for no limit.
	ShelfLifeDays int64 `json:"shelfLifeDays,omitempty"`
}

// Order is whether to order, how many packs, and the figures behind it, to a thousandth.
type Order struct {
	Lead     string          `json:"lead"`
	Safety   string          `json:"safety"`
	Point    string          `json:"point"`
	EOQ      string          `json:"eoq"`
	Position decimal.Decimal `json:"position"`
	Order    bool            `json:"order"`
	Packs    int64           `json:"packs"`
	// MayExpire says that even the fewest packs hold more than is used before they go off.
	MayExpire bool `json:"mayExpire"`
}

// Decide works out reorder point (demand in lead time and safety stock, z x sqrt(L s^2 + m^2 sL^2)), order
// size sqrt(2DS/H) (Harris, "How many parts to make at once", 1913; from memory), position and packs.
func (r *Reorder) Decide() (Order, error) {
	if !r.Pack.IsPositive() || !r.Holding.IsPositive() || r.LeadDays.IsNegative() {
		return Order{}, errors.New("pack and holding cost must be above 0, the lead time not below")
	}
	f := func(d decimal.Decimal) float64 { v, _ := d.Float64(); return v }
	zero := decimal.Zero
	lead := r.Daily.Mul(r.LeadDays)
	m, leadSigma, sigma := f(r.Daily), f(given(r.LeadSigma, zero)), f(r.Sigma)
	safety := decimal.NewFromFloat(f(r.Z) * math.Sqrt(f(r.LeadDays)*sigma*sigma+m*m*leadSigma*leadSigma))
	size := decimal.NewFromFloat(math.Sqrt(2 * f(r.PerYear) * f(r.OrderCost) / f(r.Holding)))
	point := lead.Add(safety)
	position := r.Usable.Sub(given(r.WillExpire, zero)).Add(given(r.OnOrder, zero))
	out := Order{
		Lead: lead.StringFixed(3), Safety: safety.StringFixed(3), Point: point.StringFixed(3), EOQ: size.StringFixed(3),
		Position: position, Order: !position.GreaterThan(point) || given(r.Short, zero).IsPositive(),
	}
	if out.Order {
		out.Packs, out.MayExpire = r.packs(size, decimal.Max(point.Sub(position), given(r.Short, zero)), position)
	}
	return out, nil
}

// packs is how many are ordered: the order size or what is missing to the point, at least the minimum; no
// more than is used before it goes off, unless fewer would not reach the point.
func (r *Reorder) packs(size, missing, position decimal.Decimal) (packs int64, mayExpire bool) {
	whole := func(d decimal.Decimal) int64 { return d.DivRound(r.Pack, exact).Round(9).Ceil().IntPart() }
	packs = max(whole(decimal.Max(size, missing)), r.MinPacks)
	if r.ShelfLifeDays == 0 {
		return packs, false
	}
	most := r.Daily.Mul(decimal.NewFromInt(r.ShelfLifeDays)).Sub(position)
	over := func(n int64) bool { return r.Pack.Mul(decimal.NewFromInt(n)).GreaterThan(most) }
	if !over(packs) {
		return packs, false
	}
	packs = max(r.MinPacks, most.DivRound(r.Pack, exact).Floor().IntPart(), whole(missing), 1)
	return packs, over(packs)
}
