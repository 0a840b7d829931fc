package money

import (
	"encoding/json"

	"github.com/shopspring/decimal"
)

// EventKind is something that happens to the studio's money or goods.
type EventKind string

// The kinds of events (handbook, chapter 8, the table of postings).
const (
	Opened           EventKind = "open"
	Received         EventKind = "receive"
	SupplierPaid     EventKind = "pay-supplier"
	Receipt          EventKind = "receipt"
	Delivered        EventKind = "deliver"
	Used             EventKind = "use"
	Wasted           EventKind = "waste"
	Tested           EventKind = "tester"
	Disposed         EventKind = "dispose"
	Counted          EventKind = "stocktake"
	Blended          EventKind = "blend"
	DepositTaken     EventKind = "deposit"
	DepositKept      EventKind = "keep-deposit"
	DepositReturned  EventKind = "return-deposit"
	SeriesRefunded   EventKind = "refund-series"
	VoucherExpired   EventKind = "expire-voucher"
	LaterSettled     EventKind = "settle-later"
	CardSettled      EventKind = "card-settle"
	DayClosed        EventKind = "close-day"
	TipsPaid         EventKind = "pay-tips"
	CommissionEarned EventKind = "commission"
	Credited         EventKind = "credit"
	GoodsReturned    EventKind = "return-goods"
	MoveCountered    EventKind = "counter-move"
	Countered        EventKind = "counter"
)

// Events that the studio tells apart beside those of a ledger to post: goods sold, and sent back to the supplier.
const (
	GoodsSold     EventKind = "sold"
	GoodsSentBack EventKind = "send-back"
	// CommissionPaidOut pays a commission that is owed, from the bank.
	CommissionPaidOut EventKind = "pay-commission"
)

// LineKind is what a line of a receipt sells.
type LineKind string

// The kinds of lines. A voucher line sells an amount voucher, which bears no tax until it pays for something.
const (
	TreatmentLine LineKind = "treatment"
	RetailLine    LineKind = "retail"
	FeeLine       LineKind = "fee"
	SeriesLine    LineKind = "series"
	VoucherLine   LineKind = "voucher"
	// DebtLine pays what was left owed of an earlier receipt: no income, and no tax. It is no part of the format.
	DebtLine LineKind = "debt"
)

// ReceiptLine is a line after discounts, its tax included at Rate per cent; nil where it bears none. Ref names the
// series or voucher sold, Visits how many a series has; Lot and Amount are the goods of a retail line.
type ReceiptLine struct {
	Kind         LineKind         `json:"kind" enum:"treatment,retail,fee,series,voucher"`
	Gross        decimal.Decimal  `json:"gross"`
	Rate         *decimal.Decimal `json:"rate"`
	Ref          string           `json:"ref,omitempty"`
	Visits       int              `json:"visits,omitempty"`
	Practitioner string           `json:"practitioner,omitempty"`
	Lot          string           `json:"lot,omitempty"`
	Amount       decimal.Decimal  `json:"amount,omitempty"`
	// Subject is the protocol or product, Shares how a series' price is divided over its visits where not equally,
	// Deferred that a series' tax is due when its visits are given, not when it is sold. None is part of the format.
	Subject  string            `json:"-"`
	Shares   []decimal.Decimal `json:"-"`
	Deferred bool              `json:"-"`
}

// Pay is one way on a receipt. Without an amount a voucher pays what it can, a deposit is used whole, and any other
// way takes the rest.
type Pay struct {
	By     Way              `json:"by" enum:"cash,card,bank,later,voucher,deposit"`
	Ref    string           `json:"ref,omitempty"`
	Amount *decimal.Decimal `json:"amount,omitempty"`
}

// Tip is owed to the practitioner named, and no income of the studio.
type Tip struct {
	Practitioner string          `json:"practitioner"`
	Amount       decimal.Decimal `json:"amount"`
}

// Part is so much of a lot.
type Part struct {
	Lot    string          `json:"lot"`
	Amount decimal.Decimal `json:"amount"`
}

// Event is something that happens, with the fields that its kind needs. Series names a series, Ref a voucher or a
// deposit, Event an earlier event by its index, Amount money or goods.
type Event struct {
	Kind         EventKind        `json:"kind"`
	Cash         decimal.Decimal  `json:"cash,omitempty"`
	Bank         decimal.Decimal  `json:"bank,omitempty"`
	Lot          string           `json:"lot,omitempty"`
	Amount       decimal.Decimal  `json:"amount,omitempty"`
	Cost         decimal.Decimal  `json:"cost,omitempty"`
	Tax          decimal.Decimal  `json:"tax,omitempty"`
	Fee          decimal.Decimal  `json:"fee,omitempty"`
	Gross        decimal.Decimal  `json:"gross,omitempty"`
	Rate         *decimal.Decimal `json:"rate,omitempty"`
	Ref          string           `json:"ref,omitempty"`
	Series       string           `json:"series,omitempty"`
	Practitioner string           `json:"practitioner,omitempty"`
	Rule         RefundRule       `json:"rule,omitempty"`
	Single       decimal.Decimal  `json:"single,omitempty"`
	By           Way              `json:"by,omitempty"`
	Counted      decimal.Decimal  `json:"counted,omitempty"`
	ToBank       decimal.Decimal  `json:"toBank,omitempty"`
	Event        int              `json:"event,omitempty"`
	Tip          *Tip             `json:"tip,omitempty"`
	Pay          []Pay            `json:"pay,omitempty"`
	Parts        []Part           `json:"parts,omitempty"`
	Percent      map[string]Bases `json:"percent,omitempty"`
	// Subject is the protocol that a series visit was of; Singles are what the visits given cost singly, where Single is
	// not the same for all. Neither is part of the format.
	Subject string            `json:"-"`
	Singles []decimal.Decimal `json:"-"`
	// Lines are those of a receipt; of a credit, the indexes of the lines given back.
	Lines []EventLine `json:"lines,omitempty"`
}

// EventLine is a line of a receipt, or in a credit the index of one; in JSON an object, or a whole number.
type EventLine struct {
	ReceiptLine
	Index int `json:"-"`
}

// UnmarshalJSON reads the line, or the index.
func (l *EventLine) UnmarshalJSON(raw []byte) error {
	if len(raw) > 0 && raw[0] != '{' {
		return json.Unmarshal(raw, &l.Index)
	}
	return json.Unmarshal(raw, &l.ReceiptLine)
}
