package money

import (
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
)

// stockMoves are the event that a movement of the stock is, and the account that its worth goes against (handbook,
// chapter 8, the table of postings). What goes into a batch is posted with the batch.
var stockMoves = map[shelf.Kind]struct {
	event   EventKind
	against Account
}{
	shelf.Receive:   {Received, Suppliers},
	shelf.Treatment: {Used, ProductsUsed},
	shelf.PatchTest: {Used, ProductsUsed},
	shelf.Waste:     {Wasted, Waste},
	shelf.Tester:    {Tested, Waste},
	shelf.Dispose:   {Disposed, Waste},
	shelf.Retail:    {GoodsSold, RetailCost},
	shelf.Return:    {GoodsReturned, RetailCost},
	shelf.SendBack:  {GoodsSentBack, Suppliers},
	shelf.Stocktake: {Counted, StockDifference},
}

// GoodsMoved is a movement of the stock: what it is worth, above zero where it comes in; First is the kind of the
// movement that a counter takes back, Subject the product. Tax is that on a delivery's invoice, Credit what the supplier
// gives for goods sent back, their cost where nil; of a counter both are those of the first.
type GoodsMoved struct {
	Kind, First shelf.Kind
	Value, Tax  decimal.Decimal
	Credit      *decimal.Decimal
	Subject     string
}

// Moved are the event and the postings of a movement of the stock. None where nothing is to be posted.
func Moved(g *GoodsMoved) (EventKind, []Posting) {
	of, event, tax, credit := g.Kind, EventKind(""), g.Tax, g.Value.Neg()
	if g.Credit != nil {
		credit = *g.Credit
	}
	if g.Kind == shelf.Counter {
		of, event, tax = g.First, MoveCountered, tax.Neg()
		if g.Credit != nil {
			credit = credit.Neg()
		}
	}
	move, ok := stockMoves[of]
	if !ok {
		return "", nil
	}
	if event == "" {
		event = move.event
	}
	lines := []Posting{{Account: Stock, Amount: g.Value}, {Account: move.against, Amount: g.Value.Neg()}}
	switch of {
	case shelf.Receive:
		lines[1].Amount = g.Value.Add(tax).Neg()
		lines = append(lines, Posting{Account: InputTax, Amount: tax})
	case shelf.SendBack:
		lines[1].Amount = credit
		lines = append(lines, Posting{Account: StockDifference, Amount: g.Value.Add(credit).Neg()})
	}
	var out []Posting
	for _, p := range lines {
		if p.Subject = g.Subject; !p.Amount.IsZero() {
			out = append(out, p)
		}
	}
	if len(out) == 0 {
		return "", nil
	}
	return event, out
}

// BatchMade are the postings of a batch: what went into it leaves the stock, and the batch comes in at the same cost.
func BatchMade(cost decimal.Decimal, product string) []Posting {
	if cost.IsZero() {
		return nil
	}
	return []Posting{
		{Account: Stock, Amount: cost.Neg()},
		{Account: Stock, Amount: cost, Subject: product},
	}
}
