package books

import (
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// SaleKind is what a line of a sale sells.
type SaleKind string

// The kinds. A treatment voucher is a series that belongs to its bearer.
const (
	SellTreatment        SaleKind = "treatment"
	SellExtra            SaleKind = "extra"
	SellProduct          SaleKind = "product"
	SellSeries           SaleKind = "series"
	SellVoucher          SaleKind = "voucher"
	SellTreatmentVoucher SaleKind = "treatment-voucher"
	SellFee              SaleKind = "fee"
	SellDeposit          SaleKind = "deposit"
	SellPackage          SaleKind = "package"
	// SellDebt pays what is still owed of an earlier receipt.
	SellDebt SaleKind = "debt"
)

// fixed reports whether lines of the kind take no discount: they are money, not goods.
func (k SaleKind) fixed() bool { return k == SellVoucher || k == SellDeposit || k == SellDebt }

// Sale is what somebody buys and how it is paid. Its ID is chosen by who asks, so that the same sale sent twice is
// one sale.
type Sale struct {
	ID     uuid.UUID  `json:"id" format:"uuid"`
	Visit  *uuid.UUID `json:"visit,omitempty" format:"uuid"`
	Client *uuid.UUID `json:"client,omitempty" format:"uuid"`
	Lines  []SaleLine `json:"lines" minItems:"1" maxItems:"60"`
	// Off comes off the whole receipt, for a reason.
	Off    string    `json:"off,omitempty" maxLength:"12"`
	OffWhy string    `json:"offWhy,omitempty" maxLength:"200"`
	Tip    string    `json:"tip,omitempty" maxLength:"12"`
	TipFor uuid.UUID `json:"tipFor,omitempty" format:"uuid"`
	Pay    []SalePay `json:"pay" maxItems:"12"`
	// Named puts the client's name on the receipt.
	Named bool `json:"named,omitempty"`
}

// SaleLine is something sold. Amounts are decimal texts.
type SaleLine struct {
	Kind     SaleKind   `json:"kind" enum:"treatment,extra,product,series,voucher,treatment-voucher,fee,deposit,package,debt"`
	Protocol *uuid.UUID `json:"protocol,omitempty" format:"uuid"`
	Product  *uuid.UUID `json:"product,omitempty" format:"uuid"`
	// Extra is the name of an add-on.
	Extra string `json:"extra,omitempty" maxLength:"60"`
	// Package is the name of a package.
	Package string `json:"package,omitempty" maxLength:"60"`
	// Receipt of which a debt is paid.
	Receipt *uuid.UUID `json:"receipt,omitempty" format:"uuid"`
	Qty     int        `json:"qty" minimum:"1" maximum:"1000"`
	// Amount of a voucher, a fee or a deposit, and of a debt where not all of it is paid; of all else the price list has it.
	Amount string `json:"amount,omitempty" maxLength:"12"`
	// Percent and Off come off the line, for a reason.
	Percent string `json:"percent,omitempty" maxLength:"6"`
	Off     string `json:"off,omitempty" maxLength:"12"`
	Why     string `json:"why,omitempty" maxLength:"200"`
	// Practitioner who earns it.
	Practitioner *uuid.UUID `json:"practitioner,omitempty" format:"uuid"`
	// Visits and Months of a series; Months -1 for the studio's own.
	Visits int `json:"visits,omitempty" minimum:"0" maximum:"60"`
	// Giver are the words on a voucher, Until its last day.
	Giver string `json:"giver,omitempty" maxLength:"300"`
	Until string `json:"until,omitempty" maxLength:"10"`
	// Despite is why a product is sold that the client is to keep away from.
	Despite string `json:"despite,omitempty" maxLength:"300"`
}

// SalePay is one way to pay. Without an amount it takes the rest.
type SalePay struct {
	By money.Way `json:"by" enum:"cash,card,bank,later,voucher,deposit"`
	// Ref is a voucher's number, or a deposit.
	Ref    string `json:"ref,omitempty" maxLength:"40"`
	Amount string `json:"amount,omitempty" maxLength:"12"`
	// Given is what the client hands over in cash.
	Given string `json:"given,omitempty" maxLength:"12"`
	// Due is the day until when what is left owed is paid.
	Due string `json:"due,omitempty" maxLength:"10"`
	// Despite is why a voucher is taken past its day.
	Despite string `json:"despite,omitempty" maxLength:"200"`
}

// check refuses what cannot be sold together.
func (s *Sale) check() error {
	alone := func(l SaleLine) bool { return l.Kind == SellDeposit }
	if slices.ContainsFunc(s.Lines, alone) && (len(s.Lines) > 1 || s.Tip != "" || s.Off != "") {
		return studio.FaultAt("/lines", words.ADepositHasAReceiptOfItsOwn())
	}
	for i := range s.Lines {
		if err := s.Lines[i].check(s, fmt.Sprintf("/lines/%d", i)); err != nil {
			return err
		}
	}
	if _, err := amountAt("/off", s.Off); err != nil {
		return err
	}
	if _, err := amountAt("/tip", s.Tip); err != nil {
		return err
	}
	if s.Off != "" && strings.TrimSpace(s.OffWhy) == "" {
		return studio.FaultAt("/offWhy", words.SayWhyThereIsADiscount())
	}
	cards, later := 0, 0
	for _, p := range s.Pay {
		switch p.By {
		case money.ByCard:
			cards++
		case money.ByLater:
			later++
		}
	}
	if cards > 1 {
		return studio.FaultAt("/pay", words.OneCardPaymentAReceipt())
	}
	sells := func(l SaleLine) bool { return l.Kind != SellDebt }
	if later > 0 && !slices.ContainsFunc(s.Lines, sells) {
		return studio.FaultAt("/pay", words.WhatIsOwedIsPaidNow())
	}
	if later > 0 && s.Client == nil {
		return studio.FaultAt("/client", words.SayWhoPaysLater())
	}
	return nil
}

// check refuses a line that lacks what its kind needs.
func (l *SaleLine) check(s *Sale, at string) error {
	needs := func(ok bool, field string, say words.Sentence) error {
		if ok {
			return nil
		}
		return studio.FaultAt(at+field, say)
	}
	switch l.Kind {
	case SellSeries, SellTreatmentVoucher, SellDeposit, SellPackage, SellDebt:
		l.Qty = 1
	}
	discounted := l.Percent != "" || l.Off != ""
	if discounted && strings.TrimSpace(l.Why) == "" {
		return studio.FaultAt(at+"/why", words.SayWhyThereIsADiscount())
	}
	if discounted && l.Kind.fixed() {
		return studio.FaultAt(at+"/percent", words.NoDiscountOnAVoucher())
	}
	switch l.Kind {
	case SellTreatment, SellSeries, SellTreatmentVoucher:
		if l.Kind == SellSeries && s.Client == nil {
			return studio.FaultAt("/client", words.SayWhoseSeriesItIs())
		}
		if l.Kind == SellSeries && l.Visits < 1 {
			return studio.FaultAt(at+"/visits", words.SayHowManyVisits())
		}
		return needs(l.Protocol != nil, "/protocol", words.ChooseAProtocol())
	case SellExtra:
		return needs(l.Extra != "", "/extra", words.ChooseAnExtra())
	case SellDebt:
		return needs(l.Receipt != nil, "/receipt", words.ChooseTheReceiptThatIsOwed())
	case SellPackage:
		return needs(l.Package != "", "/package", words.ChooseAPackage())
	case SellProduct:
		return needs(l.Product != nil, "/product", words.ChooseAProductOnTheShelf())
	case SellDeposit:
		if s.Visit == nil || s.Client == nil {
			return studio.FaultAt("/visit", words.ADepositBelongsToAnAppointment())
		}
	}
	return needs(positive(l.Amount), "/amount", words.EnterAnAmountAbove0())
}

// amountAt reads an amount of money, 0 where nothing is entered.
func amountAt(path, text string) (decimal.Decimal, error) {
	if text = strings.TrimSpace(strings.ReplaceAll(text, ",", ".")); text == "" {
		return decimal.Zero, nil
	}
	d, err := decimal.NewFromString(text)
	if err != nil {
		return d, studio.FaultAt(path, words.EnterASumUpToMost(studio.MostMoney.String()))
	}
	return d, studio.CheckMoney(path, d)
}

func positive(text string) bool {
	d, err := amountAt("", text)
	return err == nil && d.IsPositive()
}
