package money

import (
	"errors"
	"fmt"

	"github.com/shopspring/decimal"
)

// settle posts money that moves without a receipt: debts, the card company, the till, tips and commission.
func (b *Book) settle(e *Event) error {
	switch e.Kind {
	case SupplierPaid:
		b.put(Suppliers, e.Amount)
		b.put(Bank, e.Amount.Neg())
	case CommissionPaidOut:
		b.put(CommissionOwed, e.Amount)
		b.put(Bank, e.Amount.Neg())
	case LaterSettled:
		account, ok := wayAccounts[e.By]
		if !ok || e.By == ByLater {
			return errors.New("a debt is paid by cash, card or bank")
		}
		b.put(account, e.Amount)
		b.put(OwedByClients, e.Amount.Neg())
		b.paid[e.By] = e.Amount
	case CardSettled:
		b.put(Bank, e.Amount.Sub(e.Fee))
		b.put(CardFees, e.Fee)
		b.put(CardCompany, e.Amount.Neg())
	case DayClosed:
		difference := e.Counted.Sub(b.balances[CashTill])
		b.put(CashTill, difference.Sub(e.ToBank))
		b.put(CashDifference, difference.Neg())
		b.put(Bank, e.ToBank)
	case TipsPaid:
		b.put(TipsOwed, b.tips[e.Practitioner])
		b.put(CashTill, b.tips[e.Practitioner].Neg())
		delete(b.tips, e.Practitioner)
	case CommissionEarned:
		return b.commission(e)
	default:
		return fmt.Errorf("there is no event %q", e.Kind)
	}
	return nil
}

// commission owes practitioners their part of everything sold so far.
func (b *Book) commission(e *Event) error {
	owed, err := (&Commissions{Bases: b.bases, Percent: e.Percent, Minor: &b.Minor}).Commission()
	if err != nil {
		return err
	}
	sum := decimal.Zero
	for _, amount := range owed {
		sum = sum.Add(amount)
	}
	b.put(CommissionPaid, sum)
	b.put(CommissionOwed, sum.Neg())
	return nil
}

// counter undoes an earlier event once. Money turns every sign; goods are costed by their lot, so that a cent may
// differ from what they cost first.
func (b *Book) counter(e *Event) error {
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
		b.tips[first.Practitioner] = b.tips[first.Practitioner].Add(Sum(first.Postings)[TipsOwed])
	case VoucherExpired:
		if b.series[first.Ref] != nil {
			b.series[first.Ref].closed = false
		} else {
			b.vouchers[first.Ref] = b.vouchers[first.Ref].Add(Sum(first.Postings)[VouchersOwed])
		}
	default:
		return errors.New("a receipt or a movement of the stock is not countered so")
	}
	b.reverse(first.Postings, first.Taken)
	return nil
}
