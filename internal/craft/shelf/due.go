package shelf

import (
	"slices"
	"strings"
	"time"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/calendar"
)

// Stocked is a product as the rhythm of counting sees it: what all of it is worth, and its packs.
type Stocked struct {
	Value decimal.Decimal
	Packs []Countable
}

// Countable is a pack with the day (2006-01-02) on which it was last counted, or came.
type Countable struct{ Key, Last string }

// The rhythm of counting (handbook, chapter 4, Stocktake: a few lines a day by value, dear ones monthly, all once
// a year). Dear are the products that together make up four fifths of the shelf's value, dearest first (ABC
// analysis, common practice).
const (
	dearMonths, otherMonths = 1, 12
	dearTenths              = 8
	linesADay               = 8
)

// CountDue lists the packs that are due for counting on a day, at most a few, those that are due longest first.
func CountDue(products []Stocked, today string) []string {
	byValue := slices.Clone(products)
	slices.SortStableFunc(byValue, func(a, b Stocked) int { return b.Value.Cmp(a.Value) })
	total := decimal.Zero
	for _, p := range byValue {
		total = total.Add(p.Value)
	}
	type due struct{ key, since string }
	var all []due
	before := decimal.Zero
	for _, p := range byValue {
		months := otherMonths
		if before.Mul(decimal.NewFromInt(10)).LessThan(total.Mul(decimal.NewFromInt(dearTenths))) {
			months = dearMonths
		}
		before = before.Add(p.Value)
		for _, c := range p.Packs {
			last, err := time.Parse(dayLayout, c.Last)
			if err != nil {
				continue
			}
			if since := calendar.AddMonths(last, months).Format(dayLayout); since <= today {
				all = append(all, due{c.Key, since})
			}
		}
	}
	slices.SortStableFunc(all, func(a, b due) int { return strings.Compare(a.since, b.since) })
	out := []string{}
	for _, d := range all[:min(len(all), linesADay)] {
		out = append(out, d.key)
	}
	return out
}
