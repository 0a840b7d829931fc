package books

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// holdShare holds a treatment voucher with which an appointment of another protocol is paid: its next visit counts as
// its gross share, and the rest is paid.
func (r *reckoning) holdShare(ctx context.Context, tx prepaidStore, p *SalePay, at, today string, lock bool) error {
	series, err := tx.SeriesNumbered(ctx, p.Ref)
	if err == nil && lock {
		series, err = tx.LockSoldSeries(ctx, series.ID)
	}
	if errors.Is(err, studio.ErrNotFound) {
		return studio.FaultAt(at, words.NoVoucherHasThisNumber())
	}
	if err != nil {
		return err
	}
	others := series.Client != nil && (r.sale.Client == nil || *series.Client != *r.sale.Client)
	last := series.LastDay()
	switch {
	case series.State != SeriesOpen || others || series.nextShare() == nil:
		return studio.FaultAt(at, words.NothingIsLeftOfThisVoucher())
	case r.sale.Visit == nil:
		return studio.FaultAt(at, words.ATreatmentVoucherPaysForAnAppointment())
	case last != "" && last < today && strings.TrimSpace(p.Despite) == "":
		return studio.FaultAt(strings.TrimSuffix(at, "ref")+"despite", words.TheVoucherEndedOn(calendar.Day(last)))
	}
	r.shares[p.Ref] = series
	return nil
}

// countsForMore says of which voucher a treatment counts for more than is due.
func (r *reckoning) countsForMore() error {
	for i, p := range r.sale.Pay {
		if series := r.shares[p.Ref]; series != nil {
			counts := series.nextShare().Gross.StringFixed(r.st.Minor())
			return studio.FaultAt(fmt.Sprintf("/pay/%d/ref", i), words.TheVoucherCountsForMoreThanIsDue(counts))
		}
	}
	return studio.FaultAt("/pay", words.NothingIsLeftOfThisVoucher())
}

// useShare says of a treatment voucher's next visit that it paid a part of a receipt.
func (s *Service) useShare(ctx context.Context, tx Store, r *reckoning, series *SoldSeries, receipt *Receipt) error {
	v, err := tx.Visit(ctx, *r.sale.Visit)
	if err != nil {
		return err
	}
	sh := series.nextShare()
	sh.Visit, sh.GivenOn, sh.Practitioner, sh.Receipt = r.sale.Visit, receipt.Day, &v.Practitioner, &receipt.ID
	if err := tx.GiveShare(ctx, series.ID, sh); err != nil {
		return err
	}
	return endWhenGiven(ctx, tx, series)
}

// sharePaid is the treatment voucher of a number, held, with the visit of it that paid a part of a receipt; nil where
// there is none that could come back.
func sharePaid(ctx context.Context, tx prepaidStore, number string, receipt *Receipt) (*SoldSeries, *SeriesShare, error) {
	series, err := tx.SeriesNumbered(ctx, number)
	if err != nil {
		return nil, nil, err
	}
	if series, err = tx.LockSoldSeries(ctx, series.ID); err != nil {
		return nil, nil, err
	}
	i := slices.IndexFunc(series.Shares, func(sh SeriesShare) bool { return sh.Receipt != nil && *sh.Receipt == receipt.ID })
	if i < 0 || series.State != SeriesOpen && series.State != SeriesGiven {
		return nil, nil, nil
	}
	return series, &series.Shares[i], nil
}

// shareWayBack is how the visit of a treatment voucher comes back that paid a part of a receipt: whole, or not at all.
func shareWayBack(ctx context.Context, tx prepaidStore, number string, first *Receipt, rest decimal.Decimal, held *money.Known) (*money.Pay, error) {
	series, sh, err := sharePaid(ctx, tx, number, first)
	if err != nil || sh == nil || sh.Gross.GreaterThan(rest) {
		return nil, err
	}
	held.Series = map[string]money.HeldSeries{number: {
		Rate: series.rate(), Gross: []decimal.Decimal{sh.Gross}, NetShares: []decimal.Decimal{sh.Net}, Given: 1, Deferred: series.TaxWhenGiven,
	}}
	back := sh.Gross.Neg()
	return &money.Pay{By: money.ByVoucher, Ref: number, Amount: &back}, nil
}

// voucherBack puts onto a voucher what it paid: its amount, or its visit.
func voucherBack(ctx context.Context, tx Store, w *money.PaidWay, first *Receipt) error {
	if _, err := tx.Voucher(ctx, w.Ref, true); !errors.Is(err, studio.ErrNotFound) {
		if err != nil {
			return err
		}
		return tx.UseVoucher(ctx, w.Ref, w.Covers)
	}
	series, sh, err := sharePaid(ctx, tx, w.Ref, first)
	if err != nil || sh == nil {
		return err
	}
	if err := tx.TakeShareBack(ctx, series.ID, sh.N); err != nil || series.State == SeriesOpen {
		return err
	}
	series.State = SeriesOpen
	return tx.SaveSoldSeries(ctx, series)
}

// rate is the tax in per cent in the series, 0 where it bears none.
func (s *SoldSeries) rate() decimal.Decimal {
	if s.Rate == nil {
		return decimal.Zero
	}
	return *s.Rate
}
