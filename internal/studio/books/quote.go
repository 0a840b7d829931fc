package books

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Bill is what a sale comes to: its lines after discounts, taxes by rate, what is due, and how it is paid. Amounts are
// decimal texts.
type Bill struct {
	Lines []BillLine `json:"lines"`
	// Off is the discount on the whole receipt, in the lines' amounts already.
	Off    string    `json:"off,omitempty"`
	OffWhy string    `json:"offWhy,omitempty"`
	Taxes  []BillTax `json:"taxes"`
	Total  string    `json:"total"`
	Tip    string    `json:"tip,omitempty"`
	TipFor string    `json:"tipFor,omitempty"`
	Due    string    `json:"due"`
	Ways   []BillWay `json:"ways"`
	// Rest is what no way pays yet; Rounding what cash was rounded by.
	Rest     string `json:"rest"`
	Rounding string `json:"rounding,omitempty"`
	TaxName  string `json:"taxName,omitempty"`
	// Cash is the rest as cash is rounded, Handed what somebody is likely to hand over for it.
	Cash   string   `json:"cash,omitempty"`
	Handed []string `json:"handed,omitempty"`
}

// BillLine is a line of a bill. Amount is after discounts as the price list counts; Gross what is paid for it.
type BillLine struct {
	Kind SaleKind `json:"kind"`
	// Line of the sale that it is, or is part of.
	Line   int    `json:"line"`
	Name   string `json:"name"`
	Qty    int    `json:"qty"`
	Price  string `json:"price"`
	Off    string `json:"off,omitempty"`
	Why    string `json:"why,omitempty"`
	Net    string `json:"net"`
	Tax    string `json:"tax"`
	Gross  string `json:"gross"`
	Rate   string `json:"rate,omitempty"`
	Number string `json:"number,omitempty"`
	// Practitioner, Protocol and Product are what its posting says.
	Practitioner *uuid.UUID `json:"practitioner,omitempty"`
	Protocol     *uuid.UUID `json:"protocol,omitempty"`
	Product      *uuid.UUID `json:"product,omitempty"`
}

// BillTax is what a rate comes to.
type BillTax struct {
	Rate  string `json:"rate"`
	Net   string `json:"net"`
	Tax   string `json:"tax"`
	Gross string `json:"gross"`
}

// BillWay is a way that pays: what of the amount due it covers, what changes hands, what was given in cash and came
// back, and what is left of a voucher.
type BillWay struct {
	By     money.Way `json:"by" enum:"cash,card,bank,later,voucher,deposit"`
	Ref    string    `json:"ref,omitempty"`
	Covers string    `json:"covers"`
	Taken  string    `json:"taken"`
	Given  string    `json:"given,omitempty"`
	Change string    `json:"change,omitempty"`
	Left   string    `json:"left,omitempty"`
	Due    string    `json:"due,omitempty"`
}

// reckoning is a sale worked out: its bill, and what the core posts for it.
type reckoning struct {
	sale     *Sale
	st       *studio.Studio
	prices   *priceList
	products map[uuid.UUID]string
	event    money.Event
	done     money.Done
	bill     Bill
	// protocol of the visit, nil where there is none; parts are what is sold, in the order of the bill's lines.
	protocol *uuid.UUID
	parts    []soldPart
	// vouchers and treatment vouchers by number, deposits by id, as they are held.
	vouchers map[string]*Voucher
	shares   map[string]*SoldSeries
	deposits map[string]*Deposit
	debts    map[uuid.UUID]*Debt
	full     []decimal.Decimal // the price of one of each line, before discounts
}

// reckon works a sale out. Vouchers and deposits that it names are held where lock is set.
func (s *Service) reckon(ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, sale *Sale, lock bool) (*reckoning, error) {
	if err := sale.check(); err != nil {
		return nil, err
	}
	r := &reckoning{
		sale: sale, st: st, products: map[uuid.UUID]string{}, vouchers: map[string]*Voucher{}, shares: map[string]*SoldSeries{},
		deposits: map[string]*Deposit{}, debts: map[uuid.UUID]*Debt{},
	}
	if err := s.gather(ctx, tx, r, lock); err != nil {
		return nil, err
	}
	amounts, err := r.amounts(a)
	if err != nil {
		return nil, err
	}
	for i, amount := range amounts {
		r.parts = append(r.parts, r.partsOf(i, amount)...)
	}
	r.writeLines()
	if err := r.sell(); err != nil {
		return nil, err
	}
	return r, r.settle()
}

// gather reads what the sale hangs on.
func (s *Service) gather(ctx context.Context, tx Store, r *reckoning, lock bool) error {
	day := s.Today(r.st)
	if r.sale.Visit != nil {
		v, err := tx.Visit(ctx, *r.sale.Visit)
		if err != nil {
			return err
		}
		if r.sale.Client != nil && v.Client != *r.sale.Client {
			return studio.FaultAt("/client", words.TheAppointmentIsAnotherClients())
		}
		r.protocol = &v.Protocol
		if day, err = s.priceDay(ctx, tx, r.st, v); err != nil {
			return err
		}
	}
	var err error
	if r.prices, err = readPrices(ctx, tx, day); err != nil {
		return err
	}
	products, err := tx.Products(ctx)
	if err != nil {
		return err
	}
	for i := range products {
		r.products[products[i].ID] = products[i].Name
	}
	for i := range r.sale.Lines {
		if err := r.holdDebt(ctx, tx, &r.sale.Lines[i], fmt.Sprintf("/lines/%d", i)); err != nil {
			return err
		}
	}
	for i, p := range r.sale.Pay {
		at := fmt.Sprintf("/pay/%d/ref", i)
		switch p.By {
		case money.ByVoucher:
			err = r.holdVoucher(ctx, tx, &r.sale.Pay[i], at, s.Today(r.st), lock)
		case money.ByDeposit:
			err = r.holdDeposit(ctx, tx, p.Ref, at, lock)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// holdDebt holds what is still owed of the receipt that a line names.
func (r *reckoning) holdDebt(ctx context.Context, tx receiptStore, l *SaleLine, at string) error {
	if l.Kind != SellDebt {
		return nil
	}
	if r.debts[*l.Receipt] != nil {
		return studio.FaultAt(at+"/receipt", words.NothingIsOwedOfThisReceipt())
	}
	d, err := tx.LockDebt(ctx, *l.Receipt)
	if errors.Is(err, studio.ErrNotFound) || err == nil && !d.Amount.GreaterThan(d.Settled) {
		return studio.FaultAt(at+"/receipt", words.NothingIsOwedOfThisReceipt())
	}
	r.debts[*l.Receipt] = d
	return err
}

// priceDay is the day whose prices a booking pays: that on which it was booked, or its own by the studio's setting.
func (s *Service) priceDay(ctx context.Context, tx saleStore, st *studio.Studio, v *studio.VisitLine) (string, error) {
	if st.Books.PriceOfVisitDay {
		return s.dayOf(st, v.StartsAt), nil
	}
	booked, err := tx.VisitBookedAt(ctx, v.ID)
	return s.dayOf(st, booked), err
}

func (r *reckoning) holdVoucher(ctx context.Context, tx prepaidStore, p *SalePay, at, today string, lock bool) error {
	number, ok := money.ReadNumber(p.Ref)
	if !ok {
		return studio.FaultAt(at, words.NoVoucherHasThisNumber())
	}
	if r.vouchers[number] != nil || r.shares[number] != nil {
		return studio.FaultAt(at, words.ThisVoucherIsNamedTwice())
	}
	p.Ref = number
	v, err := tx.Voucher(ctx, number, lock)
	if errors.Is(err, studio.ErrNotFound) {
		return r.holdShare(ctx, tx, p, at, today, lock)
	}
	if err != nil {
		return err
	}
	switch {
	case v.Lapsed || !v.Left.IsPositive():
		return studio.FaultAt(at, words.NothingIsLeftOfThisVoucher())
	case v.Until != "" && v.Until < today && strings.TrimSpace(p.Despite) == "":
		return studio.FaultAt(strings.TrimSuffix(at, "ref")+"despite", words.TheVoucherEndedOn(calendar.Day(v.Until)))
	}
	r.vouchers[number] = v
	return nil
}

func (r *reckoning) holdDeposit(ctx context.Context, tx prepaidStore, ref, at string, lock bool) error {
	id, err := uuid.Parse(ref)
	if err != nil {
		return studio.FaultAt(at, words.ThisDepositWasUsed())
	}
	d, err := tx.Deposit(ctx, id, lock)
	if errors.Is(err, studio.ErrNotFound) || err == nil && d.State != DepositHeld {
		return studio.FaultAt(at, words.ThisDepositWasUsed())
	}
	if err != nil {
		return err
	}
	if r.sale.Visit == nil || d.Visit != *r.sale.Visit {
		return studio.FaultAt(at, words.TheDepositIsOfAnotherAppointment())
	}
	r.deposits[d.ID.String()] = d
	return nil
}

// amounts are the lines after all discounts.
func (r *reckoning) amounts(a *studio.Actor) ([]decimal.Decimal, error) {
	minor := r.st.Minor()
	d := money.Discounted{Lines: make([]money.Priced, len(r.sale.Lines)), Minor: &minor}
	for i := range r.sale.Lines {
		l, at := &r.sale.Lines[i], fmt.Sprintf("/lines/%d", i)
		price, err := r.price(l, at)
		if err != nil {
			return nil, err
		}
		percent, err := amountAt(at+"/percent", l.Percent)
		if err != nil {
			return nil, err
		}
		off, err := amountAt(at+"/off", l.Off)
		if err != nil {
			return nil, err
		}
		d.Lines[i] = money.Priced{
			Qty: decimal.NewFromInt(int64(l.Qty)), Price: price, Percent: percent, Off: off,
			Fixed: l.Kind.fixed(),
		}
		r.full = append(r.full, price)
	}
	plain, err := d.Amounts()
	if err != nil {
		return nil, studio.FaultAt("/lines/0/percent", words.ADiscountIsFrom0To100())
	}
	d.ReceiptDiscount, _ = amountAt("/off", r.sale.Off)
	out, err := d.Amounts()
	if err != nil {
		return nil, studio.FaultAt("/off", words.TheDiscountIsMoreThanTheLines())
	}
	for i := range out {
		full := d.Lines[i].Qty.Mul(d.Lines[i].Price)
		if out[i].IsNegative() {
			return nil, studio.FaultAt(fmt.Sprintf("/lines/%d/off", i), words.TheDiscountIsMoreThanTheLines())
		}
		if off := full.Sub(out[i]); !off.IsZero() {
			if most := mayDiscount(a, r.st); off.Mul(hundred).GreaterThan(full.Mul(most)) {
				at := "/off"
				if !plain[i].Equal(full) {
					at = fmt.Sprintf("/lines/%d/percent", i)
				}
				return nil, studio.FaultAt(at, words.YouMayTakeOffUpTo(most.String()))
			}
		}
	}
	if !d.ReceiptDiscount.IsZero() {
		r.bill.Off, r.bill.OffWhy = d.ReceiptDiscount.StringFixed(minor), strings.TrimSpace(r.sale.OffWhy)
	}
	return out, nil
}

var hundred = decimal.NewFromInt(100)

// mayDiscount is the most, in per cent, that somebody may take off.
func mayDiscount(a *studio.Actor, st *studio.Studio) decimal.Decimal {
	switch a.Role {
	case studio.Owner:
		return hundred
	case studio.Practitioner:
		return decimal.NewFromInt(int64(st.Books.PractitionerDiscount))
	case studio.FrontDesk:
		return decimal.NewFromInt(int64(st.Books.DeskDiscount))
	}
	return decimal.Zero
}

// price is what one of a line costs.
func (r *reckoning) price(l *SaleLine, at string) (decimal.Decimal, error) {
	var price decimal.Decimal
	ok := true
	switch l.Kind {
	case SellTreatment:
		price, ok = r.prices.treatment(*l.Protocol, l.Practitioner)
	case SellSeries, SellTreatmentVoucher:
		price, ok = r.prices.series(*l.Protocol, max(l.Visits, 1))
	case SellDebt:
		d := r.debts[*l.Receipt]
		left := d.Amount.Sub(d.Settled)
		if l.Amount == "" {
			return left, nil
		}
		price, err := amountAt(at+"/amount", l.Amount)
		if err == nil && (!price.IsPositive() || price.GreaterThan(left)) {
			err = studio.FaultAt(at+"/amount", words.NoMoreThanIsOwed(left.StringFixed(r.st.Minor())))
		}
		return price, err
	case SellPackage:
		p := r.prices.pack(l.Package)
		if p == nil {
			return price, studio.FaultAt(at+"/package", words.ChooseAPackage())
		}
		if !p.atOnce(r.protocol) && r.sale.Client == nil {
			return price, studio.FaultAt("/client", words.SayWhoseSeriesItIs())
		}
		price = p.Amount
	case SellProduct:
		price, ok = r.prices.product(*l.Product)
	case SellExtra:
		price, ok = r.prices.extra(l.Extra)
	default:
		return amountAt(at+"/amount", l.Amount)
	}
	if !ok {
		return price, studio.FaultAt(at+"/"+string(l.Kind.field()), words.ThereIsNoPriceYet())
	}
	return price, nil
}

// partsOf are what a line sells: itself, or the parts of a package.
func (r *reckoning) partsOf(i int, amount decimal.Decimal) []soldPart {
	l := &r.sale.Lines[i]
	if l.Kind == SellPackage {
		return r.unpack(i, amount)
	}
	part := soldPart{SaleLine: *l, line: i, amount: amount, name: r.name(l)}
	if l.Kind == SellSeries || l.Kind == SellTreatmentVoucher {
		single, _ := r.prices.treatment(*l.Protocol, nil)
		visit := soldVisit{protocol: *l.Protocol, weight: decimal.NewFromInt(1), single: single}
		part.visits = slices.Repeat([]soldVisit{visit}, max(l.Visits, 1))
	}
	return []soldPart{part}
}

// writeLines writes down what is sold. A part of a package has its share of the price and no discount of its own.
func (r *reckoning) writeLines() {
	minor := r.st.Minor()
	for i := range r.parts {
		p := &r.parts[i]
		line := BillLine{
			Kind: p.Kind, Line: p.line, Name: p.name, Qty: p.Qty, Price: p.amount.StringFixed(minor), Why: strings.TrimSpace(p.Why),
			Practitioner: p.Practitioner, Protocol: p.Protocol, Product: p.Product,
		}
		if p.Package != "" {
			line.Qty = 1
		} else {
			price := r.full[p.line]
			line.Price = price.StringFixed(minor)
			if off := price.Mul(decimal.NewFromInt(int64(p.Qty))).Sub(p.amount); !off.IsZero() {
				line.Off = off.StringFixed(minor)
			}
		}
		r.bill.Lines = append(r.bill.Lines, line)
	}
}

// field is the field that says what a line of the kind sells.
func (k SaleKind) field() string {
	switch k {
	case SellProduct:
		return "product"
	case SellExtra:
		return "extra"
	case SellPackage:
		return "package"
	}
	return "protocol"
}

// name is what a line is called on the bill.
func (r *reckoning) name(l *SaleLine) string {
	protocol := ""
	if l.Protocol != nil {
		if p := r.prices.protocol(*l.Protocol); p != nil {
			protocol = p.Body.Name
		}
	}
	switch l.Kind {
	case SellSeries:
		return words.SeriesOfVisits(protocol, l.Visits).Message
	case SellTreatmentVoucher:
		return words.VoucherForTreatments(protocol, max(l.Visits, 1)).Message
	case SellProduct:
		return r.products[*l.Product]
	case SellExtra:
		return l.Extra
	case SellVoucher:
		return words.AmountVoucher().Message
	case SellDeposit:
		return words.DepositLine().Message
	case SellDebt:
		return words.OwedOfReceipt(r.debts[*l.Receipt].Number).Message
	case SellFee:
		return words.FeeLine().Message
	}
	return protocol
}

// lineKinds are the ledger's kinds of the lines sold.
var lineKinds = map[SaleKind]money.LineKind{
	SellTreatment: money.TreatmentLine, SellExtra: money.TreatmentLine, SellProduct: money.RetailLine, SellSeries: money.SeriesLine,
	SellTreatmentVoucher: money.SeriesLine, SellVoucher: money.VoucherLine, SellFee: money.FeeLine, SellDebt: money.DebtLine,
}

// rate is the tax that a line bears; nil where it bears none.
func (r *reckoning) rate(k SaleKind) *decimal.Decimal {
	switch k {
	case SellVoucher, SellDebt:
		return nil
	case SellDeposit:
		if r.st.Books.TaxWhenGiven {
			return nil
		}
	case SellFee:
		fee := r.st.BookRules().FeeRate
		if r.st.TaxRate() == nil {
			return nil
		}
		return &fee
	}
	return r.st.TaxRate()
}

// sell makes the event of the lines and the tip.
func (r *reckoning) sell() error {
	r.event.Kind = money.Receipt
	for i := range r.parts {
		l := &r.parts[i].SaleLine
		if l.Kind == SellDeposit { // an amount paid, its tax in it
			r.event = money.Event{Kind: money.DepositTaken, Gross: r.parts[i].amount, Rate: r.rate(l.Kind), Ref: r.sale.ID.String()}
			continue
		}
		sold := money.ReceiptLine{Kind: lineKinds[l.Kind], Gross: r.parts[i].amount, Rate: r.rate(l.Kind), Subject: subject(l)}
		if l.Practitioner != nil {
			sold.Practitioner = l.Practitioner.String()
		}
		switch sold.Kind {
		case money.SeriesLine:
			sold.Ref, sold.Visits, sold.Deferred = fmt.Sprint("series ", i), len(r.parts[i].visits), r.st.Books.TaxWhenGiven
			for _, v := range r.parts[i].visits {
				sold.Shares = append(sold.Shares, v.weight)
			}
		case money.VoucherLine:
			sold.Ref = fmt.Sprint("voucher ", i)
		}
		r.event.Lines = append(r.event.Lines, money.EventLine{ReceiptLine: sold})
	}
	tip, err := amountAt("/tip", r.sale.Tip)
	if err != nil {
		return err
	}
	if tip.IsPositive() {
		if r.sale.TipFor == uuid.Nil {
			return studio.FaultAt("/tipFor", words.SayWhoseTipItIs())
		}
		r.event.Tip = &money.Tip{Practitioner: r.sale.TipFor.String(), Amount: tip}
	}
	return nil
}

// subject names what a posting is about.
func subject(l *SaleLine) string {
	switch {
	case l.Protocol != nil:
		return l.Protocol.String()
	case l.Product != nil:
		return l.Product.String()
	}
	return ""
}
