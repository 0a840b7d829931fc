package money

import (
	"errors"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/calendar"
)

// Voucher is an amount voucher: what is left of it, and its last day; "" for none.
type Voucher struct {
	Ref       string          `json:"ref"`
	Left      decimal.Decimal `json:"left"`
	GoodUntil calendar.Day    `json:"goodUntil"`
}

// VoucherUse is what a voucher pays, and what is left of it then.
type VoucherUse struct {
	Ref  string          `json:"ref"`
	Used decimal.Decimal `json:"used"`
	Left decimal.Decimal `json:"left"`
}

// Vouchers are those handed over for an amount due, in order.
type Vouchers struct {
	Due      decimal.Decimal `json:"due"`
	Today    calendar.Day    `json:"today"`
	Vouchers []Voucher       `json:"vouchers"`
}

// VouchersUsed is what each voucher pays, and the rest to pay otherwise.
type VouchersUsed struct {
	Used []VoucherUse    `json:"used"`
	Rest decimal.Decimal `json:"rest"`
}

// Use pays with vouchers in turn: each pays the less of what is left of it and of what is due, on its last day too,
// and nothing past it (handbook, chapter 8).
func (v *Vouchers) Use() (VouchersUsed, error) {
	if !v.Today.Valid() {
		return VouchersUsed{}, errors.New("today must be a day such as 2026-11-24")
	}
	out := VouchersUsed{Used: make([]VoucherUse, len(v.Vouchers)), Rest: v.Due}
	for i, one := range v.Vouchers {
		use := VoucherUse{Ref: one.Ref, Left: one.Left}
		if one.GoodUntil == "" || one.GoodUntil >= v.Today {
			use.Used = decimal.Max(decimal.Zero, decimal.Min(one.Left, out.Rest))
			use.Left = one.Left.Sub(use.Used)
			out.Rest = out.Rest.Sub(use.Used)
		}
		out.Used[i] = use
	}
	return out, nil
}
