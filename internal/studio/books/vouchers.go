package books

import (
	"context"
	"errors"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// VoucherToGive is a voucher as it is printed: over an amount, or for treatments.
type VoucherToGive struct {
	Number   string
	Title    string
	Amount   string
	Currency string
	Giver    string
	Until    string
	Studio   string
	Address  string
}

// VoucherToGive returns a voucher to print, by its number.
func (s *Service) VoucherToGive(ctx context.Context, a *studio.Actor, typed string) (out *VoucherToGive, err error) {
	if err := a.May("print-voucher"); err != nil {
		return nil, err
	}
	number, ok := money.ReadNumber(typed)
	if !ok {
		return nil, studio.ErrNotFound
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		out = &VoucherToGive{Number: number, Studio: st.Name, Address: st.Address, Currency: st.Currency}
		v, err := tx.Voucher(ctx, number, false)
		if err == nil {
			out.Title, out.Amount = words.AmountVoucher().Message, v.Amount.StringFixed(st.Minor())
			out.Giver, out.Until = v.Giver, v.Until
			return nil
		}
		if !errors.Is(err, studio.ErrNotFound) {
			return err
		}
		series, err := tx.SeriesNumbered(ctx, number)
		if err != nil {
			return err
		}
		out.Title, out.Giver, out.Until = series.Name, series.Giver, series.LastDay()
		return nil
	})
	return out, err
}
