package books

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Strip is a series paid ahead as it is shown: its visits with their shares, what is owed of it in hands, and what
// giving it back would come to by both rules.
type Strip struct {
	SoldSeries
	Until    string     `json:"until,omitempty"`
	Resting  bool       `json:"resting"`
	Given    int        `json:"given"`
	Owed     string     `json:"owed"`
	Currency string     `json:"currency"`
	Back     []BackRule `json:"back"`
	// RemindOn is the next day on which the client is reminded that it ends; empty where none is to come.
	RemindOn string `json:"remindOn,omitempty"`
	// RemindNow says that a reminder is due and was not made.
	RemindNow bool `json:"remindNow,omitempty"`
}

// BackRule is what a series gives back by a rule: to the client, of what is still owed, and what stays as earned.
type BackRule struct {
	Rule  money.RefundRule `json:"rule" enum:"pro-rata,single"`
	Back  string           `json:"back"`
	Debt  string           `json:"debt"`
	Stays string           `json:"stays"`
	Usual bool             `json:"usual"`
}

// Strips lists a client's series paid ahead, the oldest first.
func (s *Service) Strips(ctx context.Context, a *studio.Actor, client uuid.UUID) (out []Strip, err error) {
	if err := a.May("list-sold-series"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "list-sold-series", client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		list, err := tx.SoldSeriesOf(ctx, &client)
		if err != nil {
			return err
		}
		out = make([]Strip, len(list))
		for i := range list {
			if out[i], err = strip(&list[i], st, calendar.Day(s.Today(st))); err != nil {
				return err
			}
		}
		return nil
	})
	return out, err
}

// strip writes a series down as of a day.
func strip(sold *SoldSeries, st *studio.Studio, today calendar.Day) (Strip, error) {
	out := Strip{SoldSeries: *sold, Until: sold.LastDay(), Resting: sold.rests(today), Currency: st.Currency, Back: []BackRule{}}
	owed := decimal.Zero
	for i := range sold.Shares {
		if sold.Shares[i].GivenOn != "" {
			out.Given++
		} else {
			owed = owed.Add(sold.owed(&sold.Shares[i]))
		}
	}
	if sold.State != SeriesOpen {
		owed = decimal.Zero
	}
	out.Owed = owed.StringFixed(st.Minor())
	if sold.State != SeriesOpen {
		return out, nil
	}
	out.RemindNow = sold.remindsOn(today)
	for _, days := range reminders {
		if out.Until == "" {
			break
		}
		if day := calendar.Day(out.Until).Plus(-days); day >= today {
			out.RemindOn = string(day)
			break
		}
	}
	for _, rule := range []money.RefundRule{money.ProRata, money.Single} {
		b, err := backBy(sold, st, rule, money.ByCash)
		if err != nil {
			return out, err
		}
		out.Back = append(out.Back, b.BackRule)
	}
	return out, nil
}

// seriesBack is what giving a series back comes to, and what the core posts for it.
type seriesBack struct {
	BackRule
	debt decimal.Decimal
	tax  decimal.Decimal
	sum  decimal.Decimal
	done money.Done
}

// backBy works out what a series gives back by a rule. What is still owed of it is owed no more, as far as it goes.
func backBy(sold *SoldSeries, st *studio.Studio, rule money.RefundRule, by money.Way) (*seriesBack, error) {
	minor, ref := st.Minor(), sold.ID.String()
	held := sold.held(nil)
	singles := []decimal.Decimal{}
	for i := range sold.Shares {
		if sold.Shares[i].GivenOn != "" {
			singles = append(singles, sold.Shares[i].Single)
		}
	}
	given := held.Gross[:held.Given]
	whole, err := money.RefundOf(rule, held.Paid, given, singles)
	if err != nil {
		return nil, err
	}
	debt := decimal.Min(sold.Unpaid, whole)
	event := money.Event{Kind: money.SeriesRefunded, Series: ref, Rule: rule, Singles: singles}
	if debt.IsPositive() {
		less := debt.Neg()
		event.Pay = append(event.Pay, money.Pay{By: money.ByLater, Amount: &less})
	}
	event.Pay = append(event.Pay, money.Pay{By: by})
	done, err := money.BookOf(st.BookRules(), &money.Known{Series: map[string]money.HeldSeries{ref: held}}).Post(&event)
	if err != nil {
		return nil, err
	}
	sums := money.Sum(done.Postings)
	if sold.TaxWhenGiven {
		sums[money.OutputTax] = decimal.Zero // none was paid that could come back
	}
	return &seriesBack{
		BackRule: BackRule{
			Rule: rule, Back: whole.Sub(debt).StringFixed(minor), Debt: debt.StringFixed(minor),
			Stays: sums[money.Breakage].Neg().StringFixed(minor), Usual: rule == st.Books.Refund,
		},
		debt: debt, tax: sums[money.OutputTax], sum: whole, done: done,
	}, nil
}

// SeriesBack asks for a series to be given back. ID makes a repeat safe.
type SeriesBack struct {
	ID   uuid.UUID        `json:"id" format:"uuid"`
	Rule money.RefundRule `json:"rule" enum:"pro-rata,single"`
	By   money.Way        `json:"by" enum:"cash,card,bank"`
	Why  string           `json:"why" minLength:"1" maxLength:"300"`
}

// GiveSeriesBack gives what is left of a series back by a receipt below zero.
func (s *Service) GiveSeriesBack(ctx context.Context, a *studio.Actor, id uuid.UUID, want *SeriesBack) (out *Receipt, err error) {
	if err := a.May("refund-series"); err != nil {
		return nil, err
	}
	if strings.TrimSpace(want.Why) == "" {
		return nil, studio.FaultAt("/why", words.SayWhyItIsGivenBack())
	}
	give := func(given decimal.Decimal, tx Store, st *studio.Studio) error {
		sold, err := tx.LockSoldSeries(ctx, id)
		if err != nil {
			return err
		}
		if there, err := tx.Receipt(ctx, want.ID); err == nil {
			out = there
			return nil
		}
		if sold.State != SeriesOpen {
			return &studio.StateError{Code: "series-ended", Sentence: words.NothingIsLeftOfThisSeries()}
		}
		back, err := backBy(sold, st, want.Rule, want.By)
		if err != nil {
			return err
		}
		if out, err = s.issueSeriesBack(ctx, tx, st, a, sold, back, want); err != nil {
			return err
		}
		return cardBack(ctx, tx, back.done, given, out)
	}
	return out, s.givingBack(ctx, a, want.ID, give)
}

// issueSeriesBack writes the receipt of a series given back.
func (s *Service) issueSeriesBack(
	ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, sold *SoldSeries, back *seriesBack, want *SeriesBack,
) (*Receipt, error) {
	first, err := tx.LockReceipt(ctx, sold.Receipt)
	if err != nil {
		return nil, err
	}
	minor := st.Minor()
	text := func(d decimal.Decimal) string { return d.StringFixed(minor) }
	line := BillLine{Kind: SellSeries, Name: words.WhatIsLeftOf(sold.Name).Message, Qty: 1, Price: text(back.sum.Neg()),
		Net: text(back.tax.Sub(back.sum)), Tax: text(back.tax.Neg()), Gross: text(back.sum.Neg())}
	if sold.Rate != nil && !sold.TaxWhenGiven {
		line.Rate = sold.Rate.String()
	}
	paper := first.Paper
	paper.Bill = Bill{Lines: []BillLine{line}, Taxes: []BillTax{}, Ways: []BillWay{}, TaxName: st.Tax.TaxName}
	paper.Bill.total(back.done, minor)
	paper.First, paper.Note = first.Number, strings.TrimSpace(want.Why)
	r := &Receipt{
		ID: want.ID, Day: s.Today(st), At: s.Now(), Kind: ReceiptSeriesBack, Account: a.Account, Client: sold.Client, Counter: &first.ID,
		Total: back.sum.Neg(), Paper: paper,
	}
	if err := tx.AddReceipt(ctx, r); err != nil {
		return nil, err
	}
	if back.debt.IsPositive() {
		if err := tx.SettleDebt(ctx, first.ID, back.debt); err != nil {
			return nil, err
		}
	}
	sold.State = SeriesGivenBack
	if err := tx.SaveSoldSeries(ctx, sold); err != nil {
		return nil, err
	}
	err = post(ctx, tx, &studio.LedgerEvent{
		ID: r.ID, Kind: money.SeriesRefunded, Day: r.Day, At: r.At, Account: &a.Account, ReceiptNo: r.Number, Client: sold.Client, Note: paper.Note,
	}, back.done)
	if err != nil {
		return nil, err
	}
	return r, s.Audit(ctx, tx, a, "refund", "sold-series", sold.ID)
}

// SeriesChange is what is done with a series: it rests, goes to another client, or lapses. One of its fields is set.
type SeriesChange struct {
	// RestFrom and RestTo: the days from the one up to, not with, the other are added to its last day.
	RestFrom string `json:"restFrom,omitempty" maxLength:"10"`
	RestTo   string `json:"restTo,omitempty" maxLength:"10"`
	// To is the client whom the visits left go to.
	To *uuid.UUID `json:"to,omitempty" format:"uuid"`
	// Reminded says that the client was reminded today that it ends.
	Reminded bool `json:"reminded,omitempty"`
	// Lapse makes what is left the studio's, by hand, past its last day.
	Lapse bool `json:"lapse,omitempty"`
}

// ChangeSeries lets a series rest, hands it over, or lets it lapse.
func (s *Service) ChangeSeries(ctx context.Context, a *studio.Actor, id uuid.UUID, c *SeriesChange) error {
	if err := a.May("change-sold-series"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		sold, err := tx.LockSoldSeries(ctx, id)
		if err != nil {
			return err
		}
		if sold.State != SeriesOpen {
			return &studio.StateError{Code: "series-ended", Sentence: words.NothingIsLeftOfThisSeries()}
		}
		switch {
		case c.Reminded:
			return tx.RemindSeries(ctx, id, s.Today(st))
		case c.To != nil:
			if _, err := tx.Client(ctx, *c.To); err != nil {
				return studio.FaultAt("/to", words.ChooseTheClientItGoesTo())
			}
			sold.Client = c.To
		case c.Lapse:
			if err := s.lapse(ctx, tx, st, a, sold); err != nil {
				return err
			}
		default:
			from, to := calendar.Day(c.RestFrom), calendar.Day(c.RestTo)
			if !from.Valid() || !to.Valid() || to <= from {
				return studio.FaultAt("/restTo", words.ASeriesRestsFromADayToALaterOne())
			}
			sold.Frozen = append(sold.Frozen, [2]calendar.Day{from, to})
		}
		if err := tx.SaveSoldSeries(ctx, sold); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "sold-series", id)
	})
}

// lapse earns what is left of a series as breakage, once its last day is over.
func (s *Service) lapse(ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, sold *SoldSeries) error {
	if last := sold.LastDay(); last == "" || last >= s.Today(st) {
		return &studio.StateError{Code: "still-good", Sentence: words.TheSeriesIsStillGood()}
	}
	ref := sold.ID.String()
	book := money.BookOf(st.BookRules(), &money.Known{Series: map[string]money.HeldSeries{ref: sold.held(nil)}})
	done, err := book.Post(&money.Event{Kind: money.VoucherExpired, Ref: ref})
	if err != nil {
		return err
	}
	sold.State = SeriesLapsed
	return post(ctx, tx, &studio.LedgerEvent{Kind: money.VoucherExpired, At: s.Now(), Account: &a.Account, Client: sold.Client}, done)
}

// VoucherList lists amount vouchers, the newest first.
func (s *Service) VoucherList(ctx context.Context, a *studio.Actor) (out []Voucher, err error) {
	if err := a.May("list-vouchers"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) (err error) {
		out, err = tx.Vouchers(ctx)
		return err
	})
	return out, err
}

// LapseVoucher makes what is left of a voucher the studio's, by hand, past its last day.
func (s *Service) LapseVoucher(ctx context.Context, a *studio.Actor, number string) error {
	if err := a.May("lapse-voucher"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		v, err := tx.Voucher(ctx, number, true)
		if err != nil {
			return err
		}
		if v.Lapsed {
			return nil
		}
		if v.Until == "" || v.Until >= s.Today(st) {
			return &studio.StateError{Code: "still-good", Sentence: words.TheVoucherIsStillGood()}
		}
		book := money.BookOf(st.BookRules(), &money.Known{Vouchers: map[string]decimal.Decimal{number: v.Left}})
		done, err := book.Post(&money.Event{Kind: money.VoucherExpired, Ref: number})
		if err != nil {
			return err
		}
		if err := tx.LapseVoucher(ctx, number); err != nil {
			return err
		}
		return post(ctx, tx, &studio.LedgerEvent{Kind: money.VoucherExpired, At: s.Now(), Account: &a.Account}, done)
	})
}

// weekOf is the Monday of a day's week.
func weekOf(day string) string {
	t, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return day
	}
	return t.AddDate(0, 0, -(int(t.Weekday())+6)%7).Format(time.DateOnly)
}
