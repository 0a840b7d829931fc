package books

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// ReceiptKind is what a receipt is for.
type ReceiptKind string

// The kinds of receipts.
const (
	ReceiptSale        ReceiptKind = "sale"
	ReceiptDeposit     ReceiptKind = "deposit"
	ReceiptRefund      ReceiptKind = "refund"
	ReceiptDepositBack ReceiptKind = "deposit-back"
	ReceiptSeriesBack  ReceiptKind = "series-back"
)

// Receipt is a numbered receipt; it never changes again. Number is its year and its running number in that year.
type Receipt struct {
	ID      uuid.UUID       `json:"id"`
	Number  string          `json:"number"`
	Year    int             `json:"-"`
	Running int             `json:"-"`
	Day     string          `json:"day"`
	At      time.Time       `json:"at"`
	Kind    ReceiptKind     `json:"kind" enum:"sale,deposit,refund,deposit-back,series-back"`
	Account uuid.UUID       `json:"-"`
	Client  *uuid.UUID      `json:"client,omitempty"`
	Visit   *uuid.UUID      `json:"visit,omitempty"`
	Sale    *uuid.UUID      `json:"sale,omitempty"`
	Counter *uuid.UUID      `json:"counterOf,omitempty"`
	Total   decimal.Decimal `json:"total"`
	Paper   ReceiptPaper    `json:"paper"`
	// GivenBack are the lines that were given back, by their places.
	GivenBack []int `json:"givenBack,omitempty"`
	// Owed is what of it is not paid yet.
	Owed *decimal.Decimal `json:"owed,omitempty"`
}

// ReceiptLine is a receipt in a list.
type ReceiptLine struct {
	ID       uuid.UUID       `json:"id"`
	Number   string          `json:"number"`
	Running  int             `json:"-"`
	Day      string          `json:"day"`
	Kind     ReceiptKind     `json:"kind" enum:"sale,deposit,refund,deposit-back,series-back"`
	Total    decimal.Decimal `json:"total"`
	Currency string          `json:"currency"`
	// Names are what it is for, Ways how it was paid.
	Names []string    `json:"names"`
	Ways  []money.Way `json:"ways" enum:"cash,card,bank,later,voucher,deposit"`
	// Owed is what of it is not paid yet.
	Owed *decimal.Decimal `json:"owed,omitempty"`
}

// receiptsAtOnce is how many receipts a list tells at most; the next ones are asked for by the last one's number.
const receiptsAtOnce = 100

// ReceiptPaper is what a receipt says: never a stroke, a finding or why a product was used.
type ReceiptPaper struct {
	Bill
	Studio    string `json:"studio"`
	Address   string `json:"address,omitempty"`
	TaxNumber string `json:"taxNumber,omitempty"`
	Currency  string `json:"currency"`
	Client    string `json:"clientName,omitempty"`
	TipFor    string `json:"tipForName,omitempty"`
	// First is the number of the receipt that this one counters.
	First string `json:"first,omitempty"`
	Note  string `json:"note,omitempty"`
}

// receiptStore keeps receipts.
type receiptStore interface {
	studio.Tx
	// AddReceipt gives a receipt the next number and a day that does not go back, and keeps it.
	AddReceipt(ctx context.Context, r *Receipt) error
	Receipt(ctx context.Context, id uuid.UUID) (*Receipt, error)
	// LockReceipt holds a receipt until the transaction ends.
	LockReceipt(ctx context.Context, id uuid.UUID) (*Receipt, error)
	// ReceiptOfVisit is the number of a sale's receipt that a visit's treatment or fee was paid with, and that was not
	// given back.
	ReceiptOfVisit(ctx context.Context, visit uuid.UUID) (string, error)
	// ReceiptLines lists those of some days, newest first; VisitReceipts those of a visit.
	ReceiptLines(ctx context.Context, q ReceiptQuery, limit int) ([]ReceiptLine, error)
	VisitReceipts(ctx context.Context, visit uuid.UUID) ([]Receipt, error)
	GiveLineBack(ctx context.Context, receipt uuid.UUID, line int, by uuid.UUID) error
	AddDebt(ctx context.Context, d *Debt) error
	LockDebt(ctx context.Context, receipt uuid.UUID) (*Debt, error)
	SettleDebt(ctx context.Context, receipt uuid.UUID, amount decimal.Decimal) error
}

// ReceiptQuery asks for receipts of some days; Before is the number of the last one that was told.
type ReceiptQuery struct {
	From   string `query:"from" maxLength:"10"`
	To     string `query:"to" maxLength:"10"`
	Before string `query:"before" maxLength:"20"`
}

// Debt is what a client still owes of a receipt.
type Debt struct {
	Receipt uuid.UUID       `json:"receipt"`
	Number  string          `json:"number"`
	Client  *uuid.UUID      `json:"client,omitempty"`
	Name    string          `json:"name,omitempty"`
	Amount  decimal.Decimal `json:"amount"`
	Settled decimal.Decimal `json:"settled"`
	Left    decimal.Decimal `json:"left"`
	Due     string          `json:"due"`
}

// NumberOfReceipt is how a receipt is numbered: 2026-000123.
func NumberOfReceipt(year, running int) string { return fmt.Sprintf("%d-%06d", year, running) }

// head writes on a paper who issues it.
func (s *Service) head(ctx context.Context, tx Store, st *studio.Studio, p *ReceiptPaper, sale *Sale) error {
	p.Studio, p.Address, p.TaxNumber, p.Currency = st.Name, st.Address, st.Tax.Number, st.Currency
	if sale.Named && sale.Client != nil {
		c, err := tx.Client(ctx, *sale.Client)
		if err != nil {
			return err
		}
		p.Client = c.Name
	}
	if sale.Tip == "" {
		return nil
	}
	people, err := tx.Practitioners(ctx)
	if err != nil {
		return err
	}
	for i := range people {
		if people[i].ID == sale.TipFor {
			p.TipFor = people[i].Name
		}
	}
	return nil
}

// Receipts lists receipts of some days, newest first.
func (s *Service) Receipts(ctx context.Context, a *studio.Actor, q ReceiptQuery) (out []ReceiptLine, err error) {
	if err := a.May("list-receipts"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) (err error) {
		if q.From == "" && q.To == "" {
			q.From, q.To = s.Today(st), s.Today(st)
		}
		for path, day := range map[string]string{"/from": q.From, "/to": q.To} {
			if err := studio.CheckDay(path, day); day != "" && err != nil {
				return err
			}
		}
		out, err = tx.ReceiptLines(ctx, q, receiptsAtOnce)
		return err
	})
	return out, err
}

// Receipt returns a receipt.
func (s *Service) Receipt(ctx context.Context, a *studio.Actor, id uuid.UUID) (out *Receipt, err error) {
	if err := a.May("get-receipt"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) (err error) {
		out, err = tx.Receipt(ctx, id)
		return err
	})
	return out, err
}

// LinesBack are lines of a receipt that are given back, and how the money goes back: the way it came where nothing is
// said.
type LinesBack struct {
	ID    uuid.UUID `json:"id" format:"uuid"`
	Lines []int     `json:"lines" minItems:"1" maxItems:"60"`
	By    money.Way `json:"by,omitempty" enum:"cash,card,bank,voucher"`
	Why   string    `json:"why" minLength:"1" maxLength:"300"`
}

// GiveBack gives lines of a receipt back by a counter-receipt of its own number, each at its own net and tax and at
// most once. Goods come back by a movement of their own.
func (s *Service) GiveBack(ctx context.Context, a *studio.Actor, id uuid.UUID, back *LinesBack) (out *Receipt, err error) {
	if err := a.May("refund-receipt"); err != nil {
		return nil, err
	}
	if strings.TrimSpace(back.Why) == "" {
		return nil, studio.FaultAt("/why", words.SayWhyItIsGivenBack())
	}
	give := func(given decimal.Decimal, tx Store, st *studio.Studio) error {
		first, err := tx.LockReceipt(ctx, id)
		if err != nil {
			return err
		}
		if there, err := tx.Receipt(ctx, back.ID); err == nil {
			out = there
			return nil
		}
		if first.Kind != ReceiptSale {
			return &studio.StateError{Code: "not-a-sale", Sentence: words.OnlyLinesOfASaleAreGivenBack()}
		}
		r, done, err := s.backOf(ctx, tx, st, first, back)
		if err != nil {
			return err
		}
		if out, err = s.issueBack(ctx, tx, st, a, first, r, done, back); err != nil {
			return err
		}
		return cardBack(ctx, tx, done, given, out)
	}
	return out, s.givingBack(ctx, a, back.ID, give)
}

// backOf works out a counter-receipt: the bill of the lines, below zero, and what is posted.
func (s *Service) backOf(ctx context.Context, tx Store, st *studio.Studio, first *Receipt, back *LinesBack) (*Bill, money.Done, error) {
	minor := st.Minor()
	known, event := money.GivenReceipt{Credited: first.GivenBack}, money.Event{Kind: money.Credited}
	bill := &Bill{Taxes: []BillTax{}, Ways: []BillWay{}, TaxName: first.Paper.TaxName}
	for i := range first.Paper.Lines {
		l := &first.Paper.Lines[i]
		line, taxed := l.sold()
		known.Lines, known.Taxes = append(known.Lines, line), append(known.Taxes, taxed)
		if !slices.Contains(back.Lines, i) {
			continue
		}
		if line.Kind == money.DebtLine {
			return nil, money.Done{}, &studio.StateError{Code: "not-a-line", Sentence: words.APaidDebtIsNotGivenBack()}
		}
		if line.Kind == money.SeriesLine || line.Kind == money.VoucherLine {
			return nil, money.Done{}, &studio.StateError{Code: "not-a-line", Sentence: words.ASeriesIsGivenBackFromItsStrip()}
		}
		if slices.Contains(first.GivenBack, i) {
			return nil, money.Done{}, &studio.StateError{Code: "given-back", Sentence: words.ThisLineWasGivenBack(l.Name)}
		}
		event.Lines = append(event.Lines, money.EventLine{Index: i})
		bill.Lines = append(bill.Lines, l.negated(minor))
	}
	if len(event.Lines) == 0 {
		return nil, money.Done{}, studio.FaultAt("/lines", words.ChooseWhatIsGivenBack())
	}
	sum := decimal.Zero
	for _, e := range event.Lines {
		sum = sum.Add(known.Taxes[e.Index].Gross)
	}
	held := &money.Known{Receipt: &known, Vouchers: map[string]decimal.Decimal{}}
	var err error
	if event.Pay, err = wayBack(ctx, tx, first, back.By, sum, held); err != nil {
		return nil, money.Done{}, err
	}
	done, err := money.BookOf(st.BookRules(), held).Post(&event)
	if err != nil {
		return nil, done, fmt.Errorf("books: lines that cannot be given back: %w", err)
	}
	bill.total(done, minor)
	return bill, done, nil
}

// wayBack is how a sum goes back: as said, else the way it came. What is still owed is owed no more; what a voucher
// paid goes back onto the voucher.
func wayBack(ctx context.Context, tx Store, first *Receipt, by money.Way, sum decimal.Decimal, held *money.Known) ([]money.Pay, error) {
	if by != "" {
		return []money.Pay{{By: by}}, nil
	}
	var out []money.Pay
	rest, most := sum, decimal.Zero
	last := money.Pay{By: money.ByCash}
	for _, w := range first.Paper.Ways {
		covers, _ := decimal.NewFromString(w.Covers)
		part := decimal.Min(rest, covers)
		switch w.By {
		case money.ByLater:
			if first.Owed == nil || first.Owed.LessThan(part) {
				continue
			}
		case money.ByVoucher:
			v, err := tx.Voucher(ctx, w.Ref, true)
			if errors.Is(err, studio.ErrNotFound) {
				p, err := shareWayBack(ctx, tx, w.Ref, first, rest, held)
				if err != nil {
					return nil, err
				}
				if p != nil {
					rest = rest.Add(*p.Amount)
					out = append(out, *p)
				}
				continue
			}
			if err != nil {
				return nil, err
			}
			part = decimal.Min(part, v.Amount.Sub(v.Left))
			held.Vouchers[w.Ref] = v.Left
		default:
			if covers.GreaterThan(most) && w.By != money.ByDeposit {
				most, last.By = covers, w.By
			}
			continue
		}
		if part.IsPositive() {
			rest = rest.Sub(part)
			back := part.Neg()
			out = append(out, money.Pay{By: w.By, Ref: w.Ref, Amount: &back})
		}
	}
	return append(out, last), nil
}

// sold is a line of a receipt as the core knows it.
func (l *BillLine) sold() (money.ReceiptLine, money.Taxed) {
	n := func(text string) decimal.Decimal {
		d, _ := decimal.NewFromString(text)
		return d
	}
	line := money.ReceiptLine{Kind: lineKinds[l.Kind], Gross: n(l.Gross)}
	if l.Rate != "" {
		rate := n(l.Rate)
		line.Rate = &rate
	}
	if l.Practitioner != nil {
		line.Practitioner = l.Practitioner.String()
	}
	switch {
	case l.Protocol != nil:
		line.Subject = l.Protocol.String()
	case l.Product != nil:
		line.Subject = l.Product.String()
	}
	return line, money.Taxed{Net: n(l.Net), Tax: n(l.Tax), Gross: n(l.Gross)}
}

// negated is a line given back.
func (l *BillLine) negated(minor int32) BillLine {
	back := *l
	for _, text := range []*string{&back.Net, &back.Tax, &back.Gross} {
		d, _ := decimal.NewFromString(*text)
		*text = d.Neg().StringFixed(minor)
	}
	return back
}

// total adds a counter-receipt up.
func (b *Bill) total(done money.Done, minor int32) {
	text := func(d decimal.Decimal) string { return d.StringFixed(minor) }
	sum, rates := decimal.Zero, map[string]money.Taxed{}
	var order []string
	for i := range b.Lines {
		line, t := b.Lines[i].sold()
		sum = sum.Add(t.Gross)
		if line.Rate == nil {
			continue
		}
		k := line.Rate.String()
		if _, there := rates[k]; !there {
			order = append(order, k)
		}
		r := rates[k]
		rates[k] = money.Taxed{Net: r.Net.Add(t.Net), Tax: r.Tax.Add(t.Tax), Gross: r.Gross.Add(t.Gross)}
	}
	for _, k := range order {
		b.Taxes = append(b.Taxes, BillTax{k, text(rates[k].Net), text(rates[k].Tax), text(rates[k].Gross)})
	}
	b.Total, b.Due, b.Rest = text(sum), text(sum), text(decimal.Zero)
	b.ways(done, text)
}

// ways writes down how money changed hands.
func (b *Bill) ways(done money.Done, text func(decimal.Decimal) string) {
	rounding := decimal.Zero
	for _, w := range done.Ways {
		b.Ways = append(b.Ways, BillWay{By: w.By, Ref: w.Ref, Covers: text(w.Covers), Taken: text(w.Taken)})
		rounding = rounding.Add(w.Taken.Sub(w.Covers))
	}
	if !rounding.IsZero() {
		b.Rounding = text(rounding)
	}
}

// issueBack writes a counter-receipt.
func (s *Service) issueBack(
	ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, first *Receipt, bill *Bill, done money.Done, back *LinesBack,
) (*Receipt, error) {
	total, _ := decimal.NewFromString(bill.Due)
	paper := first.Paper
	paper.Bill, paper.First, paper.Note = *bill, first.Number, strings.TrimSpace(back.Why)
	r := &Receipt{
		ID: back.ID, Day: s.Today(st), At: s.Now(), Kind: ReceiptRefund, Account: a.Account, Client: first.Client, Visit: first.Visit,
		Counter: &first.ID, Total: total, Paper: paper,
	}
	if err := tx.AddReceipt(ctx, r); err != nil {
		return nil, err
	}
	for _, i := range slices.Compact(slices.Sorted(slices.Values(back.Lines))) {
		if err := tx.GiveLineBack(ctx, first.ID, i, r.ID); err != nil {
			return nil, err
		}
	}
	err := post(ctx, tx, &studio.LedgerEvent{
		ID: r.ID, Kind: money.Credited, Day: r.Day, At: r.At, Account: &a.Account, ReceiptNo: r.Number, Client: r.Client,
		Visit: r.Visit, Note: paper.Note,
	}, done)
	if err != nil {
		return nil, err
	}
	for _, w := range done.Ways {
		var err error
		switch w.By {
		case money.ByLater:
			err = tx.SettleDebt(ctx, first.ID, w.Covers.Neg())
		case money.ByVoucher:
			err = voucherBack(ctx, tx, &w, first)
		}
		if err != nil {
			return nil, err
		}
	}
	return r, s.Audit(ctx, tx, a, "refund", "receipt", first.ID)
}
