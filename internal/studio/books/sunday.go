package books

import (
	"cmp"
	"context"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Sunday is what the owner asks of a week on Sunday evening (handbook, chapter 8), each question with the list behind
// its figure. Amounts are exact.
type Sunday struct {
	From     string   `json:"from"`
	To       string   `json:"to"`
	Currency string   `json:"currency"`
	Taken    Taken    `json:"taken"`
	Earned   Earned   `json:"earned"`
	Mine     Mine     `json:"mine"`
	Hands    Hands    `json:"hands"`
	Pays     Pays     `json:"pays"`
	Over     []OverBy `json:"over"`
	Owed     Owed     `json:"owed"`
	Next     NextWeek `json:"next"`
}

// Taken is money in less money given back, by way, against the mean of the four weeks before.
type Taken struct {
	Total decimal.Decimal               `json:"total"`
	By    map[money.Way]decimal.Decimal `json:"by"`
	Mean  decimal.Decimal               `json:"mean"`
}

// Earned is income without tax, in the hours given and the hours that could have been.
type Earned struct {
	Total       decimal.Decimal `json:"total"`
	Accounts    []AccountAmount `json:"accounts"`
	Given       int             `json:"givenMinutes"`
	Open        int             `json:"openMinutes"`
	PerOpenHour decimal.Decimal `json:"perOpenHour"`
}

// AccountAmount is an account and what stands on it; below zero it is taken off.
type AccountAmount struct {
	Account money.Account   `json:"account"`
	Amount  decimal.Decimal `json:"amount"`
}

// Mine is what of cash, bank and card money is the owner's, with its parts.
type Mine struct {
	Total decimal.Decimal `json:"total"`
	Parts []AccountAmount `json:"parts"`
}

// Hands is what is owed in visits.
type Hands struct {
	Visits int             `json:"visits"`
	Net    decimal.Decimal `json:"net"`
	// ProRata is what giving all of it back share by share would cost.
	ProRata decimal.Decimal `json:"proRata"`
	NoNext  int             `json:"noNext"`
	List    []OwedSeries    `json:"list"` // the oldest first
}

// OwedSeries is a series with visits to come; Next says that one is booked.
type OwedSeries struct {
	Client *uuid.UUID      `json:"client,omitempty"`
	Name   string          `json:"name"`
	Series string          `json:"series"`
	Left   int             `json:"left"`
	Net    decimal.Decimal `json:"net"`
	SoldOn string          `json:"soldOn"`
	Until  string          `json:"until,omitempty"`
	Next   bool            `json:"next"`
}

// Pays is what treatments leave: of the last three months by protocol, practitioner and room, and of the week.
type Pays struct {
	Since        string       `json:"since"`
	Protocols    []EarnedLine `json:"protocols"`
	Practitioner []EarnedLine `json:"practitioners"`
	Rooms        []EarnedLine `json:"rooms"`
	Week         []EarnedLine `json:"week"`
	// Unpaid counts treatments given that nobody has paid for yet.
	Unpaid int `json:"unpaid"`
}

// EarnedLine is what the treatments of one protocol, practitioner or room left: real, and as planned.
type EarnedLine struct {
	Name    string          `json:"name"`
	Visits  int             `json:"visits"`
	Minutes int             `json:"minutes"`
	Net     decimal.Decimal `json:"net"`
	Cost    decimal.Decimal `json:"cost"`
	Terms   money.CostTerms `json:"terms"`
	Margin  decimal.Decimal `json:"margin"`
	// Percent of the net, PerMinute of the diary; Planned is PerMinute with the planned doses and minutes.
	Percent   decimal.Decimal `json:"percent"`
	PerMinute decimal.Decimal `json:"perMinute"`
	Planned   decimal.Decimal `json:"planned"`

	plannedMargin  decimal.Decimal
	plannedMinutes int
}

// OverBy is what a practitioner uses against the plan, in money: Factor times as much, Over more.
type OverBy struct {
	Name   string          `json:"name"`
	Factor decimal.Decimal `json:"factor"`
	Over   decimal.Decimal `json:"over"`
}

// Owed is what clients owe, what is at risk, and how the till differed in four weeks.
type Owed struct {
	Total       decimal.Decimal `json:"total"`
	List        []Debt          `json:"list"` // the oldest first
	AtRisk      []CardPayment   `json:"atRisk"`
	Differences []DayClose      `json:"differences"`
	Difference  decimal.Decimal `json:"difference"`
}

// NextWeek is how full the next week is, and what it is expected to earn.
type NextWeek struct {
	From     string          `json:"from"`
	Booked   int             `json:"bookedMinutes"`
	Open     int             `json:"openMinutes"`
	Expected decimal.Decimal `json:"expected"`
}

// GivenVisit is a treatment that was given, with what it cost and brought as far as the records know.
type GivenVisit struct {
	Visit                        uuid.UUID
	Protocol, Practitioner, Room string
	Day                          string
	Minutes, PlannedMinutes      int
	Products, OverPlan, Wear     decimal.Decimal
	// Net is nil where nobody has paid yet; Card the part of the price that was paid by card.
	Net  *decimal.Decimal
	Card decimal.Decimal
	// Percent is the commission on treatments.
	Percent decimal.Decimal
}

// Diary is what this room asks of the diary.
type Diary interface {
	// OpenMinutes is how long practitioners can be booked in the week of a Monday.
	OpenMinutes(ctx context.Context, tx studio.Tx, st *studio.Studio, monday time.Time) (int, error)
}

// sundayStore is what the questions are answered from.
type sundayStore interface {
	studio.Tx
	// TakenByWay sums money in less money given back on some days.
	TakenByWay(ctx context.Context, from, to string) (map[money.Way]decimal.Decimal, error)
	// GivenVisits lists the treatments given between two moments, of the protocol of a name or, without one, of all.
	GivenVisits(ctx context.Context, from, to time.Time, protocol string) ([]GivenVisit, error)
	// UsedOver is what was used beyond the plan since a day, by practitioner, the most first.
	UsedOver(ctx context.Context, since string) ([]OverBy, error)
	Debts(ctx context.Context) ([]Debt, error)
	// BookedAhead lists the visits that begin between two moments and take their time.
	BookedAhead(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error)
	// NextBooked are the clients who have an appointment after a moment.
	NextBooked(ctx context.Context, after time.Time) (map[uuid.UUID]bool, error)
	ClientNames(ctx context.Context, ids []uuid.UUID) (map[uuid.UUID]string, error)
}

const (
	weeksBefore  = 4
	monthsOfPays = 3
)

// Sunday answers the owner's questions about the week of a day; an empty day is today.
func (s *Service) Sunday(ctx context.Context, a *studio.Actor, day string) (out *Sunday, err error) {
	if err := a.May("get-books"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if day == "" {
			day = s.Today(st)
		}
		monday, err := time.ParseInLocation(time.DateOnly, weekOf(day), st.Zone())
		if err != nil {
			return studio.FaultAt("/day", words.EnterADayBetween(studio.FirstDay, studio.LastDay))
		}
		out = &Sunday{From: monday.Format(time.DateOnly), To: monday.AddDate(0, 0, 6).Format(time.DateOnly), Currency: st.Currency}
		for _, question := range []func(context.Context, Store, *studio.Studio, *Sunday, time.Time) error{
			s.taken, s.earned, s.mine, s.hands, s.pays, s.over, s.owed, s.next,
		} {
			if err := question(ctx, tx, st, out, monday); err != nil {
				return err
			}
		}
		return nil
	})
	return out, err
}

func (s *Service) taken(ctx context.Context, tx Store, st *studio.Studio, out *Sunday, monday time.Time) (err error) {
	if out.Taken.By, err = tx.TakenByWay(ctx, out.From, out.To); err != nil {
		return err
	}
	before, err := tx.TakenByWay(ctx, monday.AddDate(0, 0, -7*weeksBefore).Format(time.DateOnly), monday.AddDate(0, 0, -1).Format(time.DateOnly))
	if err != nil {
		return err
	}
	for _, amount := range out.Taken.By {
		out.Taken.Total = out.Taken.Total.Add(amount)
	}
	for _, amount := range before {
		out.Taken.Mean = out.Taken.Mean.Add(amount)
	}
	out.Taken.Mean = out.Taken.Mean.DivRound(decimal.NewFromInt(weeksBefore), st.Minor())
	return nil
}

func (s *Service) earned(ctx context.Context, tx Store, st *studio.Studio, out *Sunday, monday time.Time) error {
	moved, err := tx.Turnover(ctx, out.From, out.To)
	if err != nil {
		return err
	}
	e := &out.Earned
	e.Accounts = []AccountAmount{}
	for _, a := range money.Income() {
		if amount := moved[a][1].Sub(moved[a][0]); !amount.IsZero() {
			e.Accounts = append(e.Accounts, AccountAmount{a, amount})
			e.Total = e.Total.Add(amount)
		}
	}
	given, err := tx.GivenVisits(ctx, monday, monday.AddDate(0, 0, 7), "")
	if err != nil {
		return err
	}
	for i := range given {
		e.Given += given[i].Minutes
	}
	if e.Open, err = s.Diary.OpenMinutes(ctx, tx, st, monday); err != nil {
		return err
	}
	if e.Open > 0 {
		e.PerOpenHour = e.Total.Mul(decimal.NewFromInt(60)).DivRound(decimal.NewFromInt(int64(e.Open)), st.Minor())
	}
	return nil
}

func (s *Service) mine(ctx context.Context, tx Store, _ *studio.Studio, out *Sunday, _ time.Time) error {
	balances, err := tx.Balances(ctx, out.To)
	if err != nil {
		return err
	}
	out.Mine.Parts = []AccountAmount{}
	for _, a := range money.Spendable() {
		if amount := balances[a]; !amount.IsZero() {
			out.Mine.Parts = append(out.Mine.Parts, AccountAmount{a, amount})
			out.Mine.Total = out.Mine.Total.Add(amount)
		}
	}
	return nil
}

func (s *Service) hands(ctx context.Context, tx Store, _ *studio.Studio, out *Sunday, _ time.Time) error {
	list, err := tx.SoldSeriesOf(ctx, nil)
	if err != nil {
		return err
	}
	next, err := tx.NextBooked(ctx, s.Now())
	if err != nil {
		return err
	}
	var ids []uuid.UUID
	for i := range list {
		if list[i].Client != nil {
			ids = append(ids, *list[i].Client)
		}
	}
	names, err := tx.ClientNames(ctx, ids)
	if err != nil {
		return err
	}
	h := &out.Hands
	h.List = []OwedSeries{}
	for i := range list {
		o := OwedSeries{Client: list[i].Client, Series: list[i].Name, SoldOn: list[i].SoldOn, Until: list[i].LastDay()}
		if o.Client != nil {
			o.Name, o.Next = names[*o.Client], next[*o.Client]
		}
		for k := range list[i].Shares {
			if sh := &list[i].Shares[k]; sh.GivenOn == "" {
				o.Left++
				o.Net, h.ProRata = o.Net.Add(list[i].owed(sh)), h.ProRata.Add(sh.Gross)
			}
		}
		if !o.Next {
			h.NoNext++
		}
		h.Visits, h.Net = h.Visits+o.Left, h.Net.Add(o.Net)
		h.List = append(h.List, o)
	}
	return nil
}

func (s *Service) pays(ctx context.Context, tx Store, st *studio.Studio, out *Sunday, monday time.Time) error {
	since := monday.AddDate(0, -monthsOfPays, 0)
	given, err := tx.GivenVisits(ctx, since, monday.AddDate(0, 0, 7), "")
	if err != nil {
		return err
	}
	out.Pays, err = paysOf(given, st, out.From)
	out.Pays.Since = since.Format(time.DateOnly)
	return err
}

// paysOf is what treatments left by protocol, practitioner and room, and by protocol since the first day of a week.
func paysOf(given []GivenVisit, st *studio.Studio, week string) (Pays, error) {
	p := Pays{}
	sums := [4]map[string]*EarnedLine{{}, {}, {}, {}}
	for i := range given {
		g := &given[i]
		if g.Net == nil {
			p.Unpaid++
			continue
		}
		real, planned, err := g.earn(st)
		if err != nil {
			return p, err
		}
		names := []string{g.Protocol, g.Practitioner, g.Room}
		if g.Day >= week {
			names = append(names, g.Protocol)
		}
		for at, name := range names {
			if sums[at][name] == nil {
				sums[at][name] = &EarnedLine{Name: name}
			}
			sums[at][name].add(g, &real, &planned)
		}
	}
	for i, list := range []*[]EarnedLine{&p.Protocols, &p.Practitioner, &p.Rooms, &p.Week} {
		*list = []EarnedLine{}
		for _, line := range sums[i] {
			line.finish(st.Minor())
			*list = append(*list, *line)
		}
		slices.SortFunc(*list, func(a, b EarnedLine) int { return cmp.Or(b.PerMinute.Cmp(a.PerMinute), cmp.Compare(a.Name, b.Name)) })
	}
	return p, nil
}

// earn works out what a treatment left, and what it would have left with the planned doses and minutes.
func (g *GivenVisit) earn(st *studio.Studio) (real, planned money.Earnings, err error) {
	c, minor := st.Costs.Sums(), st.Minor()
	one := decimal.NewFromInt(1)
	v := money.Visit{
		Net: g.Net, BusyMinutes: decimal.NewFromInt(int64(g.Minutes)), Products: []decimal.Decimal{g.Products},
		Disposables: []money.Pieces{{Number: one, Each: c.Disposables}}, Laundry: []money.Pieces{{Number: one, Each: c.Laundry}},
		Tools:       []money.Wear{{Price: g.Wear, ExpectedUses: one}},
		WagePerHour: c.WagePerHour, RoomPerHour: c.RoomPerHour, CardPercent: c.CardPercent, CardFixed: c.CardFixed, PaidByCard: g.Card,
		CommissionPercent: g.Percent, Minor: &minor,
	}
	if real, err = v.Earn(); err != nil {
		return real, planned, err
	}
	v.BusyMinutes = decimal.NewFromInt(int64(g.PlannedMinutes))
	v.Products = []decimal.Decimal{g.Products.Sub(g.OverPlan)}
	planned, err = v.Earn()
	return real, planned, err
}

// add counts a treatment.
func (l *EarnedLine) add(g *GivenVisit, real, planned *money.Earnings) {
	l.Visits++
	l.Minutes += g.Minutes
	l.Net, l.Cost, l.Margin = l.Net.Add(real.Net), l.Cost.Add(real.Cost), l.Margin.Add(real.Margin)
	l.Terms = l.Terms.Plus(&real.Terms)
	l.plannedMargin = l.plannedMargin.Add(planned.Margin)
	l.plannedMinutes += g.PlannedMinutes
}

// finish works out what the sums come to.
func (l *EarnedLine) finish(minor int32) {
	if l.Minutes > 0 {
		l.PerMinute = l.Margin.DivRound(decimal.NewFromInt(int64(l.Minutes)), minor)
	}
	if l.plannedMinutes > 0 {
		l.Planned = l.plannedMargin.DivRound(decimal.NewFromInt(int64(l.plannedMinutes)), minor)
	}
	if l.Net.IsPositive() {
		l.Percent = l.Margin.Mul(hundred).DivRound(l.Net, 1)
	}
}

func (s *Service) over(ctx context.Context, tx Store, _ *studio.Studio, out *Sunday, monday time.Time) (err error) {
	out.Over, err = tx.UsedOver(ctx, monday.AddDate(0, -monthsOfPays, 0).Format(time.DateOnly))
	return err
}

func (s *Service) owed(ctx context.Context, tx Store, _ *studio.Studio, out *Sunday, monday time.Time) (err error) {
	o := &out.Owed
	if o.List, err = tx.Debts(ctx); err != nil {
		return err
	}
	for i := range o.List {
		d := &o.List[i]
		d.Left = d.Amount.Sub(d.Settled)
		o.Total = o.Total.Add(d.Left)
	}
	if o.AtRisk, err = tx.Cards(ctx, ""); err != nil {
		return err
	}
	closes, err := tx.DayCloses(ctx, closesAtOnce)
	if err != nil {
		return err
	}
	o.Differences = []DayClose{}
	from := monday.AddDate(0, 0, -7*(weeksBefore-1)).Format(time.DateOnly)
	for i := range closes {
		if c := &closes[i]; c.Day >= from && c.Day <= out.To && !c.Difference.IsZero() {
			o.Differences = append(o.Differences, *c)
			o.Difference = o.Difference.Add(c.Difference)
		}
	}
	return nil
}

func (s *Service) next(ctx context.Context, tx Store, st *studio.Studio, out *Sunday, monday time.Time) error {
	after := monday.AddDate(0, 0, 7)
	n := &out.Next
	n.From = after.Format(time.DateOnly)
	var err error
	if n.Open, err = s.Diary.OpenMinutes(ctx, tx, st, after); err != nil {
		return err
	}
	visits, err := tx.BookedAhead(ctx, after, after.AddDate(0, 0, 7))
	if err != nil {
		return err
	}
	prices, err := readPrices(ctx, tx, n.From)
	if err != nil {
		return err
	}
	for i := range visits {
		v := &visits[i]
		n.Booked += int(v.BusyUntil.Sub(v.StartsAt).Minutes())
		if v.Kind != studio.ForTreatment {
			continue
		}
		if price, ok := prices.treatment(v.Protocol, &v.Practitioner); ok {
			n.Expected = n.Expected.Add(st.Taxed(price).Net)
		}
	}
	return nil
}
