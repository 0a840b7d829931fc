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

// Moved are the event and the postings of a movement of the stock that is worth something; first is the kind of the
// movement that a counter takes back. None where nothing is to be posted.
func Moved(kind, first shelf.Kind, value decimal.Decimal, product string) (EventKind, []Posting) {
	of, event := kind, EventKind("")
	if kind == shelf.Counter {
		of, event = first, MoveCountered
	}
	move, ok := stockMoves[of]
	if !ok || value.IsZero() {
		return "", nil
	}
	if event == "" {
		event = move.event
	}
	return event, []Posting{
		{Account: Stock, Amount: value, Subject: product},
		{Account: move.against, Amount: value.Neg(), Subject: product},
	}
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
