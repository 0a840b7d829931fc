package protocols

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/money"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/studio"
)

// handbookStudio has the costs of the handbook's table (chapter 8, Cost and margin of a treatment).
func handbookStudio(mode money.TaxMode) *studio.Studio {
	return &studio.Studio{
		Currency: "EUR", Tax: studio.Tax{TaxName: "VAT", Rate: "23", Mode: mode},
		Costs: studio.Costs{
			WagePerHour: "18.00", RoomPerHour: "6.00", Disposables: "0.33", Laundry: "2.15", CardPercent: "1.4", CardFixed: "0.10", PriceStep: "0.50",
		},
	}
}

func asked(t *testing.T, st *studio.Studio, q PriceQuestion) *Margin {
	t.Helper()
	p := &protocol.Protocol{Minutes: protocol.Minutes{Treatment: 60, Reset: 15}, Price: protocol.Price{Amount: "95.00", Currency: "EUR"}}
	e := &evaluation.Evaluation{Cost: "1.37", Tools: []string{"stone", "globes", "unpriced"}}
	cx := &protocol.Context{Tools: map[string]protocol.Tool{
		"stone": {Price: 48, ExpectedUses: 400}, "globes": {Price: 36, ExpectedUses: 300}, "unpriced": {Price: 9},
	}}
	m, err := marginOf(p, e, cx, st, q)
	require.NoError(t, err)
	return m
}

// The treatment of the handbook's table, planned: every term, and what is left of 95.00.
func TestAPlannedTreatmentCostsWhatTheTableSays(t *testing.T) {
	m := asked(t, handbookStudio(money.TaxIncluded), PriceQuestion{})
	assert.Equal(t, []CostTerm{
		{"products", "1.37"}, {"disposables", "0.33"}, {"tools", "0.24"}, {"laundry", "2.15"}, {"time", "22.50"}, {"room", "7.50"}, {"card", "1.43"},
	}, m.Terms)
	assert.Equal(t, []string{"95.00", "95.00", "77.24", "35.52", "41.72", "54.0", "0.56"}, []string{m.Price, m.Gross, m.Net, m.Cost, m.Margin, m.Percent, m.PerMinute})
	assert.Equal(t, 75, m.Minutes)
	assert.True(t, m.Reached)
	assert.Empty(t, m.Lost)
	assert.Empty(t, m.Unsaid)
}

// The prices of the handbook for a wanted margin: 60 % takes 110.00; 99 % no price.
func TestThePriceQuestion(t *testing.T) {
	st := handbookStudio(money.TaxIncluded)
	m := asked(t, st, PriceQuestion{Percent: "60"})
	assert.Equal(t, "110.00", m.Price)
	// Card 1.64, cost 35.73, margin 53.70 of 89.43: 60.05 %.
	assert.Equal(t, []string{"35.73", "53.70", "60.0"}, []string{m.Cost, m.Margin, m.Percent})
	// Net rises from 77.24 to 89.43: 12.19 / (41.72 + 12.19).
	assert.Equal(t, "22.6", m.Lost)

	m = asked(t, st, PriceQuestion{Percent: "99"})
	assert.False(t, m.Reached)
	assert.Equal(t, "95.00", m.Price, "the figures stay those of the price as it is")

	st.Costs.PriceStep = "" // a whole unit of the currency
	m = asked(t, st, PriceQuestion{PerMinute: "0.60"})
	assert.Equal(t, "100.00", m.Price)
	assert.Equal(t, "0.61", m.PerMinute)

	m = asked(t, st, PriceQuestion{Price: "80"})
	assert.Equal(t, "80.00", m.Price)
	assert.Empty(t, m.Lost, "a lower price loses nobody")

	for _, q := range []PriceQuestion{{Price: "-1"}, {Price: "free"}, {Percent: "much"}, {PerMinute: "1e20"}} {
		_, err := marginOf(&protocol.Protocol{}, &evaluation.Evaluation{}, &protocol.Context{}, st, q)
		var fault *studio.InputError
		require.ErrorAs(t, err, &fault, "%+v", q)
	}
}

// Where the tax is added the price list says less than the client pays, and the margin is the same.
func TestAPriceWithTheTaxAddedLeavesTheMargin(t *testing.T) {
	m := asked(t, handbookStudio(money.TaxAdded), PriceQuestion{Percent: "60"})
	assert.Equal(t, "89.50", m.Price)
	assert.Equal(t, "110.09", m.Gross)
	assert.Equal(t, "60.1", m.Percent)
}

// What the settings say nothing about is named, and costs nothing.
func TestTermsThatTheSettingsSayNothingAbout(t *testing.T) {
	m := asked(t, &studio.Studio{Currency: "EUR"}, PriceQuestion{})
	assert.Equal(t, []string{"disposables", "laundry", "time", "room", "card"}, m.Unsaid)
	assert.Equal(t, "1.61", m.Cost, "products and tools are known from the shelf")
}
