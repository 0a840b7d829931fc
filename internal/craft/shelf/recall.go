package shelf

import (
	"cmp"
	"slices"

	"github.com/shopspring/decimal"
)

// Moved is a movement of stock as a recall reads it.
type Moved struct {
	ID     string          `json:"id"`
	Lot    string          `json:"lot"`
	Kind   string          `json:"kind"`
	Amount decimal.Decimal `json:"amount"`
	Visit  string          `json:"visit,omitempty"`
	Client string          `json:"client,omitempty"`
	Day    string          `json:"day"`
	// Sure is false where nobody looked at the proposed lot; absent counts as sure.
	Sure *bool `json:"sure,omitempty"`
	// Counters is the movement that this one takes back: kind, client and visit are that one's.
	Counters string `json:"counters,omitempty"`
}

// Recall is a notice: the lots named, what every batch was made of, and all movements.
type Recall struct {
	Recalled  []string            `json:"recall"`
	Lots      []string            `json:"lots"`
	Batches   map[string][]string `json:"batches"`
	Movements []Moved             `json:"movements"`
}

// RecallRow is who was touched by what, at which visit; Sure only where every movement behind it is.
type RecallRow struct {
	Client string          `json:"client"`
	Visit  string          `json:"visit"`
	Day    string          `json:"day"`
	Lot    string          `json:"lot"`
	Kind   string          `json:"kind"`
	Amount decimal.Decimal `json:"amount"`
	Sure   bool            `json:"sure"`
}

// Recalled is every lot struck, the rows by day, client, visit and lot, and the clients.
type Recalled struct {
	Lots    []string    `json:"lots"`
	Rows    []RecallRow `json:"rows"`
	Clients []string    `json:"clients"`
}

// reaching are the kinds of movement by which a product reaches somebody.
var reaching = []string{"treatment", "patch-test", "tester", "retail"}

// struck are the lots named, every batch that holds one of them, and batches of batches.
func (r *Recall) struck() map[string]bool {
	out := map[string]bool{}
	for _, lot := range r.Recalled {
		out[lot] = true
	}
	for again := true; again; {
		again = false
		for batch, parts := range r.Batches {
			if !out[batch] && slices.ContainsFunc(parts, func(p string) bool { return out[p] }) {
				out[batch], again = true, true
			}
		}
	}
	return out
}

// Trace lists whom the recalled lots reached: movements are summed by client, visit (or movement, where
// there is none), lot and kind, what was taken back counted; who is left below zero was touched (handbook,
// chapter 4, Recall by lot).
func (r *Recall) Trace() Recalled {
	type key struct{ client, visit, lot, kind string }
	struck := r.struck()
	byID := map[string]*Moved{}
	for i := range r.Movements {
		byID[r.Movements[i].ID] = &r.Movements[i]
	}
	rows := map[key]*RecallRow{}
	for i := range r.Movements {
		m := &r.Movements[i]
		of := m
		if named := byID[m.Counters]; m.Counters != "" && named != nil {
			of = named
		}
		if !struck[m.Lot] || !slices.Contains(reaching, of.Kind) {
			continue
		}
		k := key{of.Client, cmp.Or(of.Visit, of.ID), m.Lot, of.Kind}
		if rows[k] == nil {
			rows[k] = &RecallRow{Client: k.client, Visit: k.visit, Day: of.Day, Lot: k.lot, Kind: k.kind, Sure: true}
		}
		row := rows[k]
		row.Amount = row.Amount.Sub(m.Amount)
		row.Day = min(row.Day, of.Day)
		row.Sure = row.Sure && (m.Sure == nil || *m.Sure)
	}
	out := Recalled{Lots: []string{}, Rows: []RecallRow{}, Clients: []string{}}
	for lot := range struck {
		out.Lots = append(out.Lots, lot)
	}
	slices.Sort(out.Lots)
	for _, row := range rows {
		if row.Amount.IsPositive() {
			out.Rows = append(out.Rows, *row)
			if row.Client != "" && !slices.Contains(out.Clients, row.Client) {
				out.Clients = append(out.Clients, row.Client)
			}
		}
	}
	slices.Sort(out.Clients)
	slices.SortFunc(out.Rows, func(a, b RecallRow) int {
		return cmp.Or(
			cmp.Compare(a.Day, b.Day), cmp.Compare(a.Client, b.Client), cmp.Compare(a.Visit, b.Visit),
			cmp.Compare(a.Lot, b.Lot), cmp.Compare(a.Kind, b.Kind),
		)
	})
	return out
}
