package money

import (
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func amounts(texts ...string) []decimal.Decimal {
	out := make([]decimal.Decimal, len(texts))
	for i, t := range texts {
		out[i] = decimal.RequireFromString(t)
	}
	return out
}

func fixed(list []decimal.Decimal, minor int32) (out []string) {
	for _, d := range list {
		out = append(out, d.StringFixed(minor))
	}
	return out
}

// The project's handbook, chapter 8, shares by largest remainder; the yen and the negative
// total by hand.
func TestShares(t *testing.T) {
	for _, c := range []struct {
		total   string
		weights []string
		minor   int32
		want    []string
	}{
		{"500.00", []string{"1", "1", "1", "1", "1", "1"}, 2, []string{"83.34", "83.34", "83.33", "83.33", "83.33", "83.33"}},
		{"100.00", []string{"95", "95", "120"}, 2, []string{"30.65", "30.64", "38.71"}},
		{"100.00", []string{"0", "0", "0"}, 2, []string{"33.34", "33.33", "33.33"}},
		{"100", []string{"1", "1", "1"}, 0, []string{"34", "33", "33"}},
		{"-0.05", []string{"1", "1"}, 2, []string{"-0.03", "-0.02"}},
		{"10.00", []string{"0", "2.5"}, 2, []string{"0.00", "10.00"}},
		{"1.00", nil, 2, nil},
	} {
		assert.Equal(t, c.want, fixed(Shares(decimal.RequireFromString(c.total), amounts(c.weights...), c.minor), c.minor), "%+v", c)
	}
}

// Shares add up to the total, and none is a whole unit or more away from its exact share.
func TestSharesAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		minor := rapid.Int32Range(0, 3).Draw(t, "minor")
		total := decimal.New(rapid.Int64Range(-1e9, 1e9).Draw(t, "total"), -minor)
		weights, sum := []decimal.Decimal{}, decimal.Zero
		for _, w := range rapid.SliceOfN(rapid.Int64Range(0, 1e6), 1, 12).Draw(t, "weights") {
			weights = append(weights, decimal.New(w, -2))
			sum = sum.Add(weights[len(weights)-1])
		}
		all := decimal.Zero
		for i, s := range Shares(total, weights, minor) {
			all = all.Add(s)
			if sum.IsPositive() {
				assert.True(t, total.Mul(weights[i]).Sub(s.Mul(sum)).Abs().LessThan(sum.Shift(-minor)), "%s of %s", s, total)
			}
		}
		assert.True(t, all.Equal(total), "%s, not %s", all, total)
	})
}

func line(amount, rate string) Line {
	l := Line{Amount: decimal.RequireFromString(amount)}
	if rate != "" {
		r := decimal.RequireFromString(rate)
		l.Rate = &r
	}
	return l
}

// The project's handbook, chapter 8, taxes: rounded once for each rate of a receipt.
func TestTax(t *testing.T) {
	lines, rates := Tax([]Line{line("95.00", "23"), line("12.00", "23.0"), line("18.50", "6")}, TaxIncluded, 2)
	assert.Equal(t, []string{"17.77", "2.24", "1.05"}, fixed([]decimal.Decimal{lines[0].Tax, lines[1].Tax, lines[2].Tax}, 2))
	assert.Equal(t, []string{"20.01", "1.05"}, fixed([]decimal.Decimal{rates["23"].Tax, rates["6"].Tax}, 2))
	assert.Equal(t, "86.99", rates["23"].Net.StringFixed(2))
	assert.Len(t, rates, 2)

	lines, rates = Tax([]Line{line("0.99", "20"), line("0.99", "20"), line("0.99", "20")}, TaxIncluded, 2)
	assert.Equal(t, []string{"0.17", "0.17", "0.16"}, fixed([]decimal.Decimal{lines[0].Tax, lines[1].Tax, lines[2].Tax}, 2))
	assert.Equal(t, "0.50", rates["20"].Tax.StringFixed(2))

	lines, _ = Tax([]Line{line("95.00", "23")}, TaxIncluded, 2)
	assert.Equal(t, []string{"77.24", "17.76", "95.00"}, fixed([]decimal.Decimal{lines[0].Net, lines[0].Tax, lines[0].Gross}, 2))
	lines, _ = Tax([]Line{line("80.00", "8.875")}, TaxAdded, 2) // by hand
	assert.Equal(t, []string{"80.00", "7.10", "87.10"}, fixed([]decimal.Decimal{lines[0].Net, lines[0].Tax, lines[0].Gross}, 2))

	lines, rates = Tax([]Line{line("50.00", ""), line("10.00", "0")}, TaxAdded, 2)
	assert.Len(t, rates, 1, "no tax is not 0 %")
	assert.True(t, lines[0].Tax.IsZero() && lines[0].Gross.Equal(decimal.NewFromInt(50)))
}

// What the lines of a rate bear adds up to the rate's tax, and net and tax to gross.
func TestTaxAddsUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		mode := rapid.SampledFrom([]TaxMode{TaxIncluded, TaxAdded}).Draw(t, "mode")
		lines := []Line{}
		for range rapid.IntRange(1, 8).Draw(t, "lines") {
			l := Line{Amount: decimal.New(rapid.Int64Range(0, 1e6).Draw(t, "amount"), -2)}
			if rapid.Bool().Draw(t, "bears tax") {
				r := decimal.New(rapid.Int64Range(0, 270).Draw(t, "rate"), -1)
				l.Rate = &r
			}
			lines = append(lines, l)
		}
		out, rates := Tax(lines, mode, 2)
		sums := map[string]decimal.Decimal{}
		for i, l := range lines {
			assert.True(t, out[i].Net.Add(out[i].Tax).Equal(out[i].Gross))
			if l.Rate != nil {
				sums[l.Rate.String()] = sums[l.Rate.String()].Add(out[i].Tax)
			}
		}
		for rate, sum := range sums {
			assert.True(t, sum.Equal(rates[rate].Tax), "%s", rate)
		}
	})
}
