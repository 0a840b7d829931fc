package money

import (
	"slices"

	"github.com/shopspring/decimal"
)

// Account is one of the ledger's accounts (handbook, chapter 8, The ledger underneath).
type Account string

// The accounts: what the studio has, what it owes, what it earns and what that costs.
const (
	CashTill        Account = "cash"
	Bank            Account = "bank"
	CardCompany     Account = "card"
	OwedByClients   Account = "owed-by-clients"
	Stock           Account = "stock"
	InputTax        Account = "input-tax"
	Suppliers       Account = "suppliers"
	SeriesOwed      Account = "series-owed"
	VouchersOwed    Account = "vouchers-owed"
	DepositsOwed    Account = "deposits-owed"
	OutputTax       Account = "output-tax"
	TipsOwed        Account = "tips-owed"
	CommissionOwed  Account = "commission-owed"
	Owner           Account = "owner"
	Treatments      Account = "treatments"
	Retail          Account = "retail"
	Fees            Account = "fees"
	Breakage        Account = "breakage"
	ProductsUsed    Account = "products-used"
	RetailCost      Account = "retail-cost"
	Waste           Account = "waste"
	StockDifference Account = "stock-difference"
	CardFees        Account = "card-fees"
	CommissionPaid  Account = "commission"
	CashDifference  Account = "cash-difference"
	Rounding        Account = "rounding"
)

// accountOrder are the accounts in their order.
var accountOrder = []Account{
	CashTill, Bank, CardCompany, OwedByClients, Stock, InputTax, Suppliers, SeriesOwed, VouchersOwed, DepositsOwed, OutputTax, TipsOwed,
	CommissionOwed, Owner, Treatments, Retail, Fees, Breakage, ProductsUsed, RetailCost, Waste, StockDifference, CardFees,
	CommissionPaid, CashDifference, Rounding,
}

// Place is where the account stands among all.
func (a Account) Place() int { return slices.Index(accountOrder, a) }

// income, goods and clientsOwed are the accounts that add up to what was earned, what goods cost, and what is owed to
// clients in hands or money.
var (
	income      = []Account{Treatments, Retail, Fees, Breakage}
	goods       = []Account{ProductsUsed, RetailCost, Waste, StockDifference}
	clientsOwed = []Account{SeriesOwed, VouchersOwed, DepositsOwed}
)

// Income are the accounts that add up to what was earned.
func Income() []Account { return slices.Clone(income) }

// Spendable are the accounts that add up to what of the money at hand is the owner's (handbook, chapter 8, the third
// question): cash, bank, card and tax paid, less what is owed in tax, to suppliers, practitioners and clients.
func Spendable() []Account {
	return append([]Account{CashTill, Bank, CardCompany, InputTax, OutputTax, Suppliers, TipsOwed, CommissionOwed}, clientsOwed...)
}

// Postings are what an event does to each account: debit above zero, credit below. They add up to zero.
type Postings map[Account]decimal.Decimal

func (p Postings) add(a Account, amount decimal.Decimal) { p[a] = p[a].Add(amount) }

// sum is what accounts hold together.
func (p Postings) sum(accounts []Account) decimal.Decimal {
	sum := decimal.Zero
	for _, a := range accounts {
		sum = sum.Add(p[a])
	}
	return sum
}

// Earned is the income among the postings, above zero.
func (p Postings) Earned() decimal.Decimal { return p.sum(income).Neg() }

// CostOfGoods is what goods used, sold, wasted and missing cost.
func (p Postings) CostOfGoods() decimal.Decimal { return p.sum(goods) }

// OwedToClients is what is owed in series, vouchers and deposits, net of tax already due.
func (p Postings) OwedToClients() decimal.Decimal { return p.sum(clientsOwed).Neg() }

// tidy leaves out accounts that nothing happened to.
func (p Postings) tidy() Postings {
	for a, amount := range p {
		if amount.IsZero() {
			delete(p, a)
		}
	}
	return p
}

// Balanced reports whether the postings add up to zero, as they must.
func (p Postings) Balanced() bool {
	sum := decimal.Zero
	for _, amount := range p {
		sum = sum.Add(amount)
	}
	return sum.IsZero()
}

// Posting is one line of an event: what it does to an account, debit above zero, credit below, and what that is about.
// Rate is a tax in per cent and Taxable what it was worked out on; Practitioner and Subject (a protocol or product) are
// named as the event names them.
type Posting struct {
	Account      Account
	Amount       decimal.Decimal
	Rate         *decimal.Decimal
	Taxable      *decimal.Decimal
	Practitioner string
	Subject      string
	Way          Way
}

// Sum is what postings do to each account together.
func Sum(postings []Posting) Postings {
	out := Postings{}
	for _, p := range postings {
		out.add(p.Account, p.Amount)
	}
	return out.tidy()
}

// Countering are the postings that undo others: each with the other sign.
func Countering(postings []Posting) []Posting {
	out := slices.Clone(postings)
	for i := range out {
		out[i].Amount = out[i].Amount.Neg()
		if out[i].Taxable != nil {
			other := out[i].Taxable.Neg()
			out[i].Taxable = &other
		}
	}
	return out
}

// Way is a way to pay.
type Way string

// The ways to pay. Later leaves the amount owed by the client.
const (
	ByCash    Way = "cash"
	ByCard    Way = "card"
	ByBank    Way = "bank"
	ByLater   Way = "later"
	ByVoucher Way = "voucher"
	ByDeposit Way = "deposit"
)

// wayAccounts are the accounts that money goes to, or comes back from.
var wayAccounts = map[Way]Account{ByCash: CashTill, ByCard: CardCompany, ByBank: Bank, ByLater: OwedByClients}
