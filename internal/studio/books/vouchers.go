package books

import (
	"context"
	"errors"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
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

// FoundVoucher is what a number turns out to be: a voucher over an amount, or one for treatments that belongs to its
// bearer until a client uses it.
type FoundVoucher struct {
	Number string `json:"number"`
	Kind   string `json:"kind" enum:"amount,treatment"`
	Name   string `json:"name,omitempty"`
	// Left is what is left of an amount, Treatments how many are left.
	Left       string `json:"left,omitempty"`
	Treatments int    `json:"treatments,omitempty"`
	Until      string `json:"until,omitempty"`
	// Covers says that one of its treatments is that of the appointment asked about; for another each counts as much.
	Covers bool   `json:"covers,omitempty"`
	Counts string `json:"counts,omitempty"`
}

// FindVoucher looks a voucher up by its number as it was typed, for an appointment where one is named.
func (s *Service) FindVoucher(ctx context.Context, a *studio.Actor, typed string, visit uuid.UUID) (out *FoundVoucher, err error) {
	if err := a.May("get-voucher"); err != nil {
		return nil, err
	}
	number, ok := money.ReadNumber(typed)
	if !ok {
		return nil, studio.FaultAt("/number", words.NoVoucherHasThisNumber())
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		out = &FoundVoucher{Number: number, Kind: "amount"}
		v, err := tx.Voucher(ctx, number, false)
		if err == nil {
			out.Left, out.Until = v.Left.StringFixed(st.Minor()), v.Until
			return nil
		}
		series, err := tx.SeriesNumbered(ctx, number)
		if errors.Is(err, studio.ErrNotFound) {
			return studio.FaultAt("/number", words.NoVoucherHasThisNumber())
		}
		if err != nil {
			return err
		}
		out.Kind, out.Name, out.Until = "treatment", series.Name, series.LastDay()
		for i := range series.Shares {
			if series.Shares[i].GivenOn == "" {
				out.Treatments++
			}
		}
		if next := series.nextShare(); next != nil {
			out.Counts = next.Gross.StringFixed(st.Minor())
		}
		if visit == uuid.Nil {
			return nil
		}
		of, err := tx.Visit(ctx, visit)
		out.Covers = err == nil && series.open(of.Protocol) != nil
		return err
	})
	return out, err
}

// VoucherUsed says who uses a voucher for treatments, and for which appointment.
type VoucherUsed struct {
	Client uuid.UUID  `json:"client" format:"uuid"`
	Visit  *uuid.UUID `json:"visit,omitempty" format:"uuid"`
}

// UseTreatmentVoucher gives a voucher for treatments to the client who brings it; an appointment that was given already
// comes off it at once.
func (s *Service) UseTreatmentVoucher(ctx context.Context, a *studio.Actor, typed string, u *VoucherUsed) error {
	if err := a.May("use-voucher"); err != nil {
		return err
	}
	number, _ := money.ReadNumber(typed)
	return studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "use-voucher", u.Client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, u.Client); err != nil {
			return err
		}
		found, err := tx.SeriesNumbered(ctx, number)
		if err != nil {
			return err
		}
		sold, err := tx.LockSoldSeries(ctx, found.ID)
		if err != nil {
			return err
		}
		last := sold.LastDay()
		switch {
		case sold.State != SeriesOpen || sold.Client != nil && *sold.Client != u.Client:
			return studio.FaultAt("/number", words.NothingIsLeftOfThisVoucher())
		case last != "" && last < s.Today(st):
			return studio.FaultAt("/number", words.TheVoucherEndedOn(calendar.Day(last)))
		}
		sold.Client = &u.Client
		if err := tx.SaveSoldSeries(ctx, sold); err != nil || u.Visit == nil {
			return err
		}
		v, err := tx.Visit(ctx, *u.Visit)
		if err != nil || v.Client != u.Client || !v.State.Given() {
			return err
		}
		return s.EarnShare(ctx, tx, &v.Visit, &a.Account, s.Now())
	})
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
