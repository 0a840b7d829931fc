package books

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"math/big"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
)

// Voucher is an amount voucher.
type Voucher struct {
	ID     uuid.UUID       `json:"id"`
	Number string          `json:"number"`
	Amount decimal.Decimal `json:"amount"`
	Left   decimal.Decimal `json:"left"`
	// Until is its last day, empty where it has none.
	Until   string    `json:"until,omitempty"`
	Giver   string    `json:"giver,omitempty"`
	SoldOn  string    `json:"soldOn"`
	Receipt uuid.UUID `json:"receipt"`
	Lapsed  bool      `json:"lapsed,omitempty"`
}

// DepositState is what became of a deposit.
type DepositState string

// The states of a deposit.
const (
	DepositHeld      DepositState = "held"
	DepositUsed      DepositState = "used"
	DepositKept      DepositState = "kept"
	DepositGivenBack DepositState = "given-back"
)

// Deposit is money taken for an appointment ahead.
type Deposit struct {
	ID      uuid.UUID        `json:"id"`
	Visit   uuid.UUID        `json:"visit"`
	Client  uuid.UUID        `json:"client"`
	Gross   decimal.Decimal  `json:"gross"`
	Tax     decimal.Decimal  `json:"tax"`
	Rate    *decimal.Decimal `json:"rate,omitempty"`
	State   DepositState     `json:"state" enum:"held,used,kept,given-back"`
	Receipt uuid.UUID        `json:"receipt"`
	Number  string           `json:"number"`
}

// SeriesState is how a series paid ahead stands.
type SeriesState string

// The states of a series paid ahead.
const (
	SeriesOpen      SeriesState = "open"
	SeriesGiven     SeriesState = "given"
	SeriesGivenBack SeriesState = "given-back"
	SeriesLapsed    SeriesState = "lapsed"
)

// SoldSeries is a series paid ahead, with the share of the price that each visit earns.
type SoldSeries struct {
	ID     uuid.UUID  `json:"id"`
	Client *uuid.UUID `json:"client,omitempty"`
	// Number of the treatment voucher that it is, empty where it is a client's series.
	Number  string           `json:"number,omitempty"`
	Giver   string           `json:"giver,omitempty"`
	Name    string           `json:"name"`
	Rate    *decimal.Decimal `json:"rate,omitempty"`
	Receipt uuid.UUID        `json:"receipt"`
	SoldOn  string           `json:"soldOn"`
	Months  int              `json:"months"`
	// TaxWhenGiven says that its tax is due when its visits are given, and was not when it was sold.
	TaxWhenGiven bool              `json:"taxWhenGiven,omitempty"`
	Frozen       [][2]calendar.Day `json:"frozen"`
	State        SeriesState       `json:"state" enum:"open,given,given-back,lapsed"`
	Shares       []SeriesShare     `json:"shares"`
	// Reminded is when its client was reminded last that it ends, empty where they were not.
	Reminded string `json:"reminded,omitempty"`
	// Unpaid is what is still owed of its receipt.
	Unpaid decimal.Decimal `json:"unpaid"`
}

// SeriesShare is a visit of a series paid ahead.
type SeriesShare struct {
	N        int             `json:"n"`
	Protocol uuid.UUID       `json:"protocol"`
	Gross    decimal.Decimal `json:"gross"`
	Net      decimal.Decimal `json:"net"`
	Single   decimal.Decimal `json:"single"`
	// Extras are add-ons that go with it.
	Extras []string `json:"extras,omitempty"`
	// Receipt that it paid a part of, for another protocol, as a visit of a treatment voucher.
	Receipt      *uuid.UUID `json:"receipt,omitempty"`
	Visit        *uuid.UUID `json:"visit,omitempty"`
	GivenOn      string     `json:"givenOn,omitempty"`
	Practitioner *uuid.UUID `json:"practitioner,omitempty"`
}

// LastDay is the last day of the series; empty where it has none.
func (s *SoldSeries) LastDay() string {
	if s.Months == 0 {
		return ""
	}
	last, err := (&money.SoldSeries{Sold: calendar.Day(s.SoldOn), Months: s.Months, Frozen: s.Frozen}).LastDay()
	if err != nil {
		return ""
	}
	return string(last)
}

// rests reports whether the series rests on a day.
func (s *SoldSeries) rests(day calendar.Day) bool {
	return slices.ContainsFunc(s.Frozen, func(f [2]calendar.Day) bool { return f[0] <= day && day < f[1] })
}

// open is the next share of a protocol that was not given; nil where there is none.
func (s *SoldSeries) open(protocol uuid.UUID) *SeriesShare {
	for i := range s.Shares {
		if sh := &s.Shares[i]; sh.GivenOn == "" && sh.Protocol == protocol {
			return sh
		}
	}
	return nil
}

// nextShare is the first one that was not given; nil where all were.
func (s *SoldSeries) nextShare() *SeriesShare {
	for i := range s.Shares {
		if s.Shares[i].GivenOn == "" {
			return &s.Shares[i]
		}
	}
	return nil
}

// owed is what is owed of a share until it is given: without its tax, where that was due at the sale.
func (s *SoldSeries) owed(sh *SeriesShare) decimal.Decimal {
	if s.TaxWhenGiven {
		return sh.Gross
	}
	return sh.Net
}

// prepaidStore keeps what is paid ahead.
type prepaidStore interface {
	studio.LedgerStore
	AddVoucher(ctx context.Context, v *Voucher) error
	// Voucher returns one by its number, held until the transaction ends where lock is set.
	Voucher(ctx context.Context, number string, lock bool) (*Voucher, error)
	// UseVoucher takes an amount off a voucher, or puts one back that is below zero.
	UseVoucher(ctx context.Context, number string, amount decimal.Decimal) error
	LapseVoucher(ctx context.Context, number string) error
	Vouchers(ctx context.Context) ([]Voucher, error)
	AddDeposit(ctx context.Context, d *Deposit) error
	Deposit(ctx context.Context, id uuid.UUID, lock bool) (*Deposit, error)
	DepositsOf(ctx context.Context, visit uuid.UUID) ([]Deposit, error)
	SetDeposit(ctx context.Context, id uuid.UUID, state DepositState) error
	AddSoldSeries(ctx context.Context, s *SoldSeries) error
	// LockSoldSeries holds a series until the transaction ends.
	LockSoldSeries(ctx context.Context, id uuid.UUID) (*SoldSeries, error)
	// SoldSeriesOf lists a client's series, the oldest first; all open ones where no client is named.
	SoldSeriesOf(ctx context.Context, client *uuid.UUID) ([]SoldSeries, error)
	SeriesNumbered(ctx context.Context, number string) (*SoldSeries, error)
	GiveShare(ctx context.Context, series uuid.UUID, sh *SeriesShare) error
	// TakeShareBack says that a share was not given after all.
	TakeShareBack(ctx context.Context, series uuid.UUID, n int) error
	SaveSoldSeries(ctx context.Context, s *SoldSeries) error
	// RemindSeries notes when a series' client was reminded that it ends.
	RemindSeries(ctx context.Context, id uuid.UUID, on string) error
	EventThere(ctx context.Context, id uuid.UUID) (bool, error)
}

// number gives new vouchers their numbers: random, so that nobody guesses one.
func (r *reckoning) number() error {
	for i := range r.bill.Lines {
		if k := r.bill.Lines[i].Kind; k != SellVoucher && k != SellTreatmentVoucher {
			continue
		}
		most := new(big.Int).Exp(big.NewInt(10), big.NewInt(11), nil)
		n, err := rand.Int(rand.Reader, most)
		if err != nil {
			return fmt.Errorf("books: a random number: %w", err)
		}
		r.bill.Lines[i].Number = money.NumberOf(fmt.Sprintf("%011d", n))
	}
	return nil
}

// keepPrepaid writes what follows from a receipt for what is paid ahead: vouchers and deposits used and sold, series
// sold, and what is paid later.
func (s *Service) keepPrepaid(ctx context.Context, tx Store, r *reckoning, receipt *Receipt) error {
	for _, w := range r.done.Ways {
		var err error
		switch w.By {
		case money.ByVoucher:
			if series := r.shares[w.Ref]; series != nil {
				err = s.useShare(ctx, tx, r, series, receipt)
			} else {
				err = tx.UseVoucher(ctx, w.Ref, w.Covers)
			}
		case money.ByDeposit:
			err = tx.SetDeposit(ctx, r.deposits[w.Ref].ID, DepositUsed)
		case money.ByLater:
			if w.Ref != unpaid && w.Covers.IsPositive() {
				err = tx.AddDebt(ctx, &Debt{Receipt: receipt.ID, Client: r.sale.Client, Amount: w.Covers, Due: r.dueOn(receipt.Day)})
			}
		}
		if err != nil {
			return err
		}
	}
	for i := range r.parts {
		if err := s.keepLine(ctx, tx, r, receipt, i); err != nil {
			return err
		}
	}
	return s.earnAtOnce(ctx, tx, r, receipt)
}

// earnAtOnce lets a series that is sold after a visit was given begin with that visit.
func (s *Service) earnAtOnce(ctx context.Context, tx Store, r *reckoning, receipt *Receipt) error {
	begins := func(p soldPart) bool { return p.Kind == SellSeries && slices.ContainsFunc(p.visits, r.ofThisVisit) }
	if r.sale.Visit == nil || !slices.ContainsFunc(r.parts, begins) {
		return nil
	}
	v, err := tx.Visit(ctx, *r.sale.Visit)
	if err != nil || !v.State.Given() {
		return err
	}
	return s.EarnShare(ctx, tx, &v.Visit, &receipt.Account, receipt.At)
}

func (r *reckoning) ofThisVisit(v soldVisit) bool {
	return r.protocol != nil && v.protocol == *r.protocol
}

// dueOn is the day until when what is left owed is paid.
func (r *reckoning) dueOn(day string) string {
	for _, p := range r.sale.Pay {
		if p.By == money.ByLater && calendar.Day(p.Due).Valid() {
			return p.Due
		}
	}
	return day
}

// keepLine keeps the voucher, deposit or series that a line sold.
func (s *Service) keepLine(ctx context.Context, tx Store, r *reckoning, receipt *Receipt, i int) error {
	l := &r.parts[i]
	_, taxed := r.bill.Lines[i].sold()
	number := r.bill.Lines[i].Number
	switch l.Kind {
	case SellVoucher:
		until := l.Until
		if until == "" && r.st.Books.VoucherMonths > 0 {
			sold, err := time.Parse(time.DateOnly, receipt.Day)
			if err != nil {
				return err
			}
			until = calendar.AddMonths(sold, r.st.Books.VoucherMonths).Format(time.DateOnly)
		}
		return tx.AddVoucher(ctx, &Voucher{
			ID: studio.NewID(), Number: number, Amount: taxed.Gross, Left: taxed.Gross, Until: until, Giver: l.Giver,
			SoldOn: receipt.Day, Receipt: receipt.ID,
		})
	case SellDeposit:
		return tx.AddDeposit(ctx, &Deposit{
			ID: receipt.ID, Visit: *r.sale.Visit, Client: *r.sale.Client, Gross: taxed.Gross, Tax: taxed.Tax, Rate: r.event.Rate,
			State: DepositHeld, Receipt: receipt.ID,
		})
	case SellDebt:
		return tx.SettleDebt(ctx, *l.Receipt, taxed.Gross)
	case SellSeries, SellTreatmentVoucher:
		return tx.AddSoldSeries(ctx, r.series(l, taxed, number, receipt))
	}
	return nil
}

// series is what a series line sold: gross and net are shared over its visits separately.
func (r *reckoning) series(l *soldPart, t money.Taxed, number string, receipt *Receipt) *SoldSeries {
	minor := r.st.Minor()
	weights := make([]decimal.Decimal, len(l.visits))
	for k := range l.visits {
		weights[k] = l.visits[k].weight
	}
	if r.st.Books.TaxWhenGiven {
		t.Net = money.Deposit(t.Gross, r.rate(l.Kind), minor).Net
	}
	gross, net := money.Shares(t.Gross, weights, minor), money.Shares(t.Net, weights, minor)
	out := &SoldSeries{
		ID: studio.NewID(), Name: l.name, TaxWhenGiven: r.st.Books.TaxWhenGiven, Rate: r.rate(l.Kind), Receipt: receipt.ID, SoldOn: receipt.Day, Months: r.st.Books.SeriesMonths,
		Frozen: [][2]calendar.Day{}, State: SeriesOpen, Number: number, Giver: l.Giver,
	}
	if l.Kind == SellSeries {
		out.Client = r.sale.Client
	}
	for k := range l.visits {
		out.Shares = append(out.Shares, SeriesShare{
			N: k + 1, Protocol: l.visits[k].protocol, Gross: gross[k], Net: net[k], Single: r.st.Taxed(l.visits[k].single).Gross,
			Extras: l.visits[k].extras,
		})
	}
	return out
}

// EarnShare earns the next share of a client's series paid ahead that has one of the visit's protocol: of the oldest
// that is open, good and does not rest that day. Nothing happens where there is none, or the visit was paid singly.
func (s *Service) EarnShare(ctx context.Context, within studio.Tx, v *studio.Visit, by *uuid.UUID, at time.Time) error {
	tx := studio.As[Store](within)
	if _, err := tx.ReceiptOfVisit(ctx, v.ID); err == nil {
		return nil
	} else if !errors.Is(err, studio.ErrNotFound) {
		return err
	}
	st, err := tx.Studio(ctx)
	if err != nil {
		return err
	}
	day := calendar.Day(s.dayOf(st, v.StartsAt))
	list, err := tx.SoldSeriesOf(ctx, &v.Client)
	if err != nil {
		return err
	}
	for i := range list {
		if !list[i].covers(v.Protocol, day) {
			continue
		}
		held, err := tx.LockSoldSeries(ctx, list[i].ID)
		if err != nil {
			return err
		}
		if held.covers(v.Protocol, day) {
			return s.give(ctx, tx, st, held, held.open(v.Protocol), v, by, at)
		}
	}
	return nil
}

// covers reports whether the series has a visit of a protocol for a day.
func (s *SoldSeries) covers(protocol uuid.UUID, day calendar.Day) bool {
	last := s.LastDay()
	return s.State == SeriesOpen && s.open(protocol) != nil && !s.rests(day) && (last == "" || string(day) <= last)
}

// give earns a share for whoever gave the visit.
func (s *Service) give(
	ctx context.Context, tx Store, st *studio.Studio, held *SoldSeries, sh *SeriesShare, v *studio.Visit, by *uuid.UUID, at time.Time,
) error {
	ref := held.ID.String()
	book := money.BookOf(st.BookRules(), &money.Known{Series: map[string]money.HeldSeries{ref: held.held(sh)}})
	done, err := book.Post(&money.Event{Kind: money.Delivered, Series: ref, Practitioner: v.Practitioner.String(), Subject: sh.Protocol.String()})
	if err != nil {
		return fmt.Errorf("books: a visit of a series: %w", err)
	}
	sh.Visit, sh.GivenOn, sh.Practitioner = &v.ID, s.dayOf(st, v.StartsAt), &v.Practitioner
	if err := tx.GiveShare(ctx, held.ID, sh); err != nil {
		return err
	}
	if err := endWhenGiven(ctx, tx, held); err != nil {
		return err
	}
	return post(ctx, tx, &studio.LedgerEvent{
		Kind: money.Delivered, Day: sh.GivenOn, At: at, Account: by, Client: held.Client, Visit: &v.ID,
	}, done)
}

// endWhenGiven ends a series all of whose visits were given.
func endWhenGiven(ctx context.Context, tx Store, s *SoldSeries) error {
	if s.nextShare() != nil {
		return nil
	}
	s.State = SeriesGiven
	return tx.SaveSoldSeries(ctx, s)
}

// held is the series as the core knows it, with those given first; next comes after them, where it is named.
func (s *SoldSeries) held(next *SeriesShare) money.HeldSeries {
	out := money.HeldSeries{Paid: s.price(), Rate: s.rate(), Deferred: s.TaxWhenGiven}
	add := func(sh *SeriesShare) {
		out.Gross, out.NetShares = append(out.Gross, sh.Gross), append(out.NetShares, sh.Net)
	}
	for i := range s.Shares {
		if s.Shares[i].GivenOn != "" {
			add(&s.Shares[i])
			out.Given++
		}
	}
	if next != nil {
		add(next)
	}
	for i := range s.Shares {
		if sh := &s.Shares[i]; sh.GivenOn == "" && sh != next {
			add(sh)
		}
	}
	return out
}

// price is what the series was sold for.
func (s *SoldSeries) price() decimal.Decimal {
	sum := decimal.Zero
	for i := range s.Shares {
		sum = sum.Add(s.Shares[i].Gross)
	}
	return sum
}
