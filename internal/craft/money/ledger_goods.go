package money

import (
	"errors"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
)

// moveAccounts are where the cost of goods goes that leave the shelf.
var moveAccounts = map[EventKind]Account{
	Used: ProductsUsed, Wasted: Waste, Tested: Waste, Disposed: Waste, Counted: StockDifference, GoodsReturned: RetailCost,
}

// move posts what happens to goods: they come in, go out by use, waste or count, are blended or come back.
func (b *Book) move(e *Event) error {
	switch e.Kind {
	case Received:
		if err := b.bring(e.Lot, e.Amount, e.Cost); err != nil {
			return err
		}
		b.put(Stock, e.Cost)
		b.put(InputTax, e.Tax)
		b.put(Suppliers, e.Cost.Add(e.Tax).Neg())
		return nil
	case Blended:
		cost := decimal.Zero
		for _, p := range e.Parts {
			worth, err := b.take(p.Lot, p.Amount.Neg())
			if err != nil {
				return err
			}
			cost = cost.Sub(worth)
		}
		return b.bring(e.Lot, e.Amount, cost)
	}
	return b.goods(e.Lot, e.Amount, moveAccounts[e.Kind])
}

// goods moves an amount of a lot, below zero where it leaves, and posts its worth against an account.
func (b *Book) goods(lot string, amount decimal.Decimal, against Account) error {
	worth, err := b.take(lot, amount)
	if err != nil {
		return err
	}
	b.put(Stock, worth)
	b.put(against, worth.Neg())
	return nil
}

// bring adds a lot to the shelf.
func (b *Book) bring(lot string, amount, cost decimal.Decimal) error {
	if lot == "" || b.lots[lot] != nil {
		return errors.New("a delivery or batch needs a lot of its own")
	}
	if !amount.IsPositive() {
		return errors.New("the amount received must be above 0")
	}
	b.lots[lot] = &shelf.Layer{Cost: cost, Amount: amount, Left: amount, Minor: b.Minor}
	return nil
}

// take changes what is left of a lot, and answers what the stock is worth more.
func (b *Book) take(lot string, amount decimal.Decimal) (decimal.Decimal, error) {
	layer := b.lots[lot]
	if layer == nil {
		return decimal.Zero, errors.New("there is no lot " + lot)
	}
	if layer.Left.Add(amount).IsNegative() {
		return decimal.Zero, errors.New("more is taken of " + lot + " than is left")
	}
	return layer.Move(amount), nil
}
