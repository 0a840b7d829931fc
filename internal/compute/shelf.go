package compute

import (
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
)

// packs and an amount wanted on a day.
type pickQuestion struct {
	Packs  []shelf.Pack    `json:"packs"`
	Amount decimal.Decimal `json:"amount"`
	Today  string          `json:"today"`
}

type gs1Question struct {
	Text  string `json:"text"`
	Today string `json:"today"`
}

// orNull is a last day of use, null where there is none.
func orNull(day string, err error) (*string, error) {
	if err != nil || day == "" {
		return nil, err
	}
	return &day, nil
}

// simple makes a topic's function of one that cannot fail.
func simple[Q, A any](answer func(Q) A) func(*Q) (A, error) {
	return func(q *Q) (A, error) { return answer(*q), nil }
}

// fixed writes an amount with so many decimals.
func fixed(places int32, d decimal.Decimal, err error) (string, error) {
	return d.StringFixed(places), err
}

// shelfTopics are those of the shelf (handbook, chapter 4).
var shelfTopics = map[string]topic{
	"good-until":     of(func(q *shelf.Pack) (*string, error) { return orNull(q.GoodUntil()) }),
	"mix-good-until": of(func(q *shelf.Mix) (*string, error) { return orNull(q.GoodUntil()) }),
	"gs1-date":       of(func(q *gs1Question) (string, error) { return shelf.GS1Date(q.Text, q.Today) }),
	"gtin":           of(func(q *string) (int, error) { return shelf.CheckDigit(*q) }),
	"pick":           of(func(q *pickQuestion) (shelf.Picked, error) { return shelf.PickFrom(q.Packs, q.Amount, q.Today) }),
	"lot-cost":       of((*shelf.LotCost).OfTakes),
	"dropper":        of((*shelf.Calibration).Result),
	"convert": of(func(q *shelf.Count) (string, error) {
		d, err := q.Amount()
		return fixed(3, d, err)
	}),
	"weigh": of(func(q *shelf.Weighing) (string, error) {
		d, err := q.Used()
		return fixed(3, d, err)
	}),
	"count-tolerance": of(func(q *shelf.Scale) (string, error) {
		d, err := q.Tolerance()
		return fixed(3, d, err)
	}),
	"stocktake":   of((*shelf.Line).Close),
	"blend-drops": of((*shelf.Blend).Drops),
	"dilute":      of((*shelf.Dilution).Parts),
	"dose-factor": of(simple(shelf.Factors)),
	"half-life":   of((*shelf.Observed).HalfLife),
	"run-out":     of((*shelf.Demand).Forecast),
	"season":      of(simple(shelf.Seasons)),
	"reorder":     of((*shelf.Reorder).Decide),
	"lot-recall":  of(simple(func(r shelf.Recall) shelf.Recalled { return r.Trace() })),
	"tool-sets":   of((*shelf.ToolSet).Serve),
	"stock-value": of(func(q *[]shelf.Issue) (shelf.StockValue, error) { return shelf.Value(*q) }),
}
