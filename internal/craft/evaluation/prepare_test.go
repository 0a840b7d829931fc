package evaluation_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
)

// A day's tools, towels and amounts are those of its treatments together. Two pieces that
// take 30 minutes to clean do not serve the third of three treatments in a row, and cold
// tools go in two hours before (handbook, chapter 4: the worked example of the cold globes).
func TestPreparingADay(t *testing.T) {
	tools := map[string]protocol.Tool{
		"cold-globes": {Key: "cold-globes", Name: "Cold globes", Kind: "cold", Chill: 120, ReadyAfter: 30, Pieces: 2},
		"warm-towel":  {Key: "warm-towel", Name: "Warm towel", Kind: "compress", Pieces: 20},
		"sponge":      {Key: "sponge", Name: "Sponge", Kind: "mitt", Pieces: 1, SingleUse: true},
	}
	day := func(h, m int) time.Time { return time.Date(2026, 11, 24, h, m, 0, 0, time.UTC) }
	setUp := []evaluation.SetUpItem{
		{Kind: "product", Key: "oil", Name: "Oil", ML: 2.255},
		{Kind: "tool", Key: "cold-globes", Name: "Cold globes", Count: 1, Parts: []string{"globe"}},
		{Kind: "tool", Key: "warm-towel", Name: "Warm towel", Count: 2},
		{Kind: "tool", Key: "sponge", Name: "Sponge", Count: 1},
		{Kind: "towel", Count: 2}, {Kind: "bowl", Count: 1}, {Kind: "gloves", Count: 1}, {Kind: "water"},
	}
	list := []evaluation.DayTreatment{}
	for _, h := range []int{9, 10, 11} {
		list = append(list, evaluation.DayTreatment{Start: day(h, 0), End: day(h, 45), SetUp: setUp})
	}
	list = append(list, evaluation.DayTreatment{Start: day(12, 0), End: day(12, 30), SetUp: []evaluation.SetUpItem{{Kind: "product", Key: "milk", Name: "Milk", ML: 8}}})
	n := evaluation.PrepareDay(list, tools)
	assert.Equal(t, []evaluation.ProductNeed{{Key: "milk", Name: "Milk", ML: 8, Treatments: 1}, {Key: "oil", Name: "Oil", ML: 6.77, Treatments: 3}}, n.Products)
	assert.Equal(t, 6, n.Towels)
	assert.Equal(t, 3, n.Bowls)
	assert.Equal(t, 3, n.Gloves)
	assert.Equal(t, []evaluation.ToolNeed{
		{Key: "cold-globes", Name: "Cold globes", Parts: []string{"globe"}, Uses: 3, AtOnce: 2, Pieces: 2},
		{Key: "sponge", Name: "Sponge", Parts: []string{}, Uses: 3, AtOnce: 1, Pieces: 1},
		{Key: "warm-towel", Name: "Warm towel", Parts: []string{}, Uses: 6, AtOnce: 2, Pieces: 20},
	}, n.Tools)
	assert.Equal(t, evaluation.Tempering{Key: "cold-globes", Name: "Cold globes", How: "chill", At: day(7, 0), For: day(9, 0)}, n.Temper[0])
	warm := 0
	for _, x := range n.Temper {
		if x.How == "warm" {
			warm++
			assert.Equal(t, 10*time.Minute, x.For.Sub(x.At))
		}
	}
	assert.Equal(t, 3, warm)

	tools["cold-globes"] = protocol.Tool{Key: "cold-globes", Name: "Cold globes", Kind: "cold", ReadyAfter: 30, Pieces: 1}
	n = evaluation.PrepareDay(list, tools)
	assert.True(t, n.Tools[0].Short, "at 10:00 the one piece is cleaned until 10:15")
	assert.False(t, n.Tools[1].Short, "used once, never cleaned")
	assert.Empty(t, evaluation.PrepareDay(nil, tools).Tools)
}
