package compute

import (
	"errors"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
)

// sharesQuestion is a total, the weights it is shared over, and the currency's decimals, 2 where absent.
type sharesQuestion struct {
	Total   decimal.Decimal   `json:"total"`
	Weights []decimal.Decimal `json:"weights"`
	Minor   *int32            `json:"minor,omitempty"`
}

func (q *sharesQuestion) shares() ([]decimal.Decimal, error) {
	for _, w := range q.Weights {
		if w.IsNegative() {
			return nil, errors.New("a weight must not be below 0")
		}
	}
	return money.Shares(q.Total, q.Weights, minor(q.Minor)), nil
}

func minor(said *int32) int32 {
	if said == nil {
		return 2
	}
	return *said
}

// taxQuestion are lines as priced, their rates in per cent or null, and whether the tax is in the prices.
type taxQuestion struct {
	Lines []struct {
		Amount decimal.Decimal  `json:"amount"`
		Rate   *decimal.Decimal `json:"rate"`
	} `json:"lines"`
	Mode  money.TaxMode `json:"mode"`
	Minor *int32        `json:"minor,omitempty"`
}

type taxed struct {
	Net   decimal.Decimal `json:"net"`
	Tax   decimal.Decimal `json:"tax"`
	Gross decimal.Decimal `json:"gross"`
}

type taxAnswer struct {
	Lines []taxed          `json:"lines"`
	Rates map[string]taxed `json:"rates"`
}

func (q *taxQuestion) tax() (taxAnswer, error) {
	out := taxAnswer{Lines: []taxed{}, Rates: map[string]taxed{}}
	if q.Mode != money.TaxIncluded && q.Mode != money.TaxAdded {
		return out, errors.New("the mode must be included or added")
	}
	lines := make([]money.Line, len(q.Lines))
	for i, l := range q.Lines {
		lines[i] = money.Line{Amount: l.Amount, Rate: l.Rate}
	}
	each, rates := money.Tax(lines, q.Mode, minor(q.Minor))
	for _, t := range each {
		out.Lines = append(out.Lines, taxed(t))
	}
	for rate, t := range rates {
		out.Rates[rate] = taxed(t)
	}
	return out, nil
}

// cashQuestion is a rest to pay in cash, and the step it is rounded to.
type cashQuestion struct {
	Rest decimal.Decimal `json:"rest"`
	Step decimal.Decimal `json:"step"`
}

// moneyTopics are those of money (handbook, chapter 8).
var moneyTopics = map[string]topic{
	"shares":           of((*sharesQuestion).shares),
	"tax":              of((*taxQuestion).tax),
	"discounts":        of((*money.Discounted).Amounts),
	"series-refund":    of((*money.UnfinishedSeries).Refund),
	"series-until":     of((*money.SoldSeries).LastDay),
	"vouchers":         of((*money.Vouchers).Use),
	"cash-rounding":    of(func(q *cashQuestion) (decimal.Decimal, error) { return money.Cash(q.Rest, q.Step) }),
	"cost":             of((*money.Visit).Earn),
	"price-for-margin": of((*money.Wanted).Price),
	"commission":       of((*money.Commissions).Commission),
	"card":             of(func(q *[]money.CardAct) (money.CardDay, error) { return money.Cards(*q) }),
	"day-close":        of((*money.Till).Close),
	"ledger":           of((*money.Ledger).Post),
}
