package money

import (
	"errors"
	"fmt"

	"github.com/shopspring/decimal"
)

// settle posts money that moves without a receipt: debts, the card company, the till, tips and commission.
func (b *book) settle(e *Event) error {
	switch e.Kind {
	case SupplierPaid:
		b.now.add(Suppliers, e.Amount)
		b.now.add(Bank, e.Amount.Neg())
	case LaterSettled:
		account, ok := wayAccounts[e.By]
		if !ok || e.By == ByLater {
			return errors.New("a debt is paid by cash, card or bank")
		}
		b.now.add(account, e.Amount)
		b.now.add(OwedByClients, e.Amount.Neg())
		b.paid[e.By] = e.Amount
	case CardSettled:
		b.now.add(Bank, e.Amount.Sub(e.Fee))
		b.now.add(CardFees, e.Fee)
		b.now.add(CardCompany, e.Amount.Neg())
	case DayClosed:
		difference := e.Counted.Sub(b.balances[CashTill])
		b.now.add(CashTill, difference.Sub(e.ToBank))
		b.now.add(CashDifference, difference.Neg())
		b.now.add(Bank, e.ToBank)
	case TipsPaid:
		b.now.add(TipsOwed, b.tips[e.Practitioner])
		b.now.add(CashTill, b.tips[e.Practitioner].Neg())
		delete(b.tips, e.Practitioner)
	case CommissionEarned:
		return b.commission(e)
	default:
		return fmt.Errorf("there is no event %q", e.Kind)
	}
	return nil
}

// commission owes practitioners their part of everything sold so far.
func (b *book) commission(e *Event) error {
	owed, err := (&Commissions{Bases: b.bases, Percent: e.Percent, Minor: &b.minor}).Commission()
	if err != nil {
		return err
	}
	sum := decimal.Zero
	for _, amount := range owed {
		sum = sum.Add(amount)
	}
	b.now.add(CommissionPaid, sum)
	b.now.add(CommissionOwed, sum.Neg())
	return nil
}

// counter undoes an earlier event once. Money turns every sign; goods are costed by their lot, so that a cent may
// differ from what they cost first.
func (b *book) counter(e *Event) error {
	first, err := b.earlier(e.Event)
	if err != nil {
		return err
	}
	if first.countered {
		return errors.New("that event was countered before")
	}
	first.countered = true
	if e.Kind == MoveCountered {
		against, ok := moveAccounts[first.Kind]
		if !ok {
			return errors.New("only a movement of the stock is countered so")
		}
		return b.goods(first.Lot, first.Amount.Neg(), against)
	}
	switch first.Kind {
	case Opened, SupplierPaid, LaterSettled, CardSettled, DayClosed, CommissionEarned:
	case TipsPaid:
		b.tips[first.Practitioner] = b.tips[first.Practitioner].Add(first.postings[TipsOwed])
	case VoucherExpired:
		if b.series[first.Ref] != nil {
			b.series[first.Ref].closed = false
		} else {
			b.vouchers[first.Ref] = b.vouchers[first.Ref].Add(first.postings[VouchersOwed])
		}
	default:
		return errors.New("a receipt or a movement of the stock is not countered so")
	}
	b.reverse(first.postings, first.paid)
	return nil
}
