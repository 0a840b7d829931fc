package treatment

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/craft/slip"
	"softpalm/internal/studio"
	"softpalm/words"
)

// UseChoices is what may be said of a product in a record that is still open.
type UseChoices struct {
	Product string `json:"product"`
	// Measures in which it can be counted, and the plan in each; the one last used by this practitioner comes
	// first. Weighing says whether it can be weighed.
	Measures []MeasureChoice `json:"measures"`
	Weighing bool            `json:"weighing"`
	// LastHow is how this practitioner measured it last.
	LastHow string `json:"lastHow,omitempty"`
	// Packs that may be in the hand, in the order in which they are proposed.
	Packs []PackChoice `json:"packs"`
	// Problem says why what was measured gives no amount; Doubt that it is far from the plan.
	Problem string `json:"problem,omitempty"`
	Doubt   bool   `json:"doubt,omitempty"`
	// Short is how much more was used than the pack in the hand, or the shelf, shows.
	Short decimal.Decimal `json:"short"`
	// NeedsReason says that the pack in the hand may not be used without a reason.
	NeedsReason string `json:"needsReason,omitempty"`
	// Slides says that the record may tell how long it slid.
	Slides bool `json:"slides"`
}

// MeasureChoice is a measure with the planned amount in it.
type MeasureChoice struct {
	Measure string          `json:"measure"`
	Planned decimal.Decimal `json:"planned"`
}

// PackChoice is a pack that may be in the hand.
type PackChoice struct {
	ID     uuid.UUID       `json:"id"`
	Lot    string          `json:"lot"`
	Number int             `json:"number"`
	Left   decimal.Decimal `json:"left"`
	Until  string          `json:"goodUntil"`
	Open   bool            `json:"open"`
	Usable bool            `json:"usable"`
}

// settle fills in what a record says of its products: what was planned is the plan's, whoever writes the
// record, and what was used follows from how it was measured. A record that names an amount only was
// counted in the product's unit, or went as planned.
func settle(ctx context.Context, tx Store, r *studio.Record, t *studio.Treatment) (map[string]*studio.Product, error) {
	if len(r.Note) > 8000 {
		return nil, studio.FaultAt("/note", words.TreatmentNotesLongerThan8000CharactersShorten())
	}
	list, err := tx.Products(ctx)
	if err != nil {
		return nil, err
	}
	products := map[string]*studio.Product{}
	for i := range list {
		products[list[i].Key] = &list[i]
	}
	for i := range r.Uses {
		u := &r.Uses[i]
		path := fmt.Sprintf("/uses/%d/real", i)
		p := products[u.Product]
		if p == nil {
			return nil, studio.FaultAt(fmt.Sprintf("/uses/%d/product", i), words.ThereNoProductProductOnShelf(u.Product))
		}
		u.Planned = decimal.Zero
		for _, pl := range t.Amounts {
			if pl.Product == u.Product {
				u.Planned = pl.Planned
			}
		}
		other := u.How == "" || u.How == shelf.AsPlanned && u.Used.IsPositive()
		if other && !u.Used.Equal(u.Planned) {
			n := u.Used
			u.Reading = shelf.Reading{How: shelf.Counted, Measure: p.Unit, Count: &n}
		}
		if u.How == "" {
			u.How = shelf.AsPlanned
		}
		u.Override = strings.TrimSpace(u.Override)
		if u.Used, err = u.Reading.Used(p.Measured(), u.Planned); err != nil {
			u.Used = u.Planned // until it is complete; it cannot be signed so
		}
		if u.Used.IsNegative() || u.Used.GreaterThan(decimal.NewFromInt(1000)) {
			return nil, studio.FaultAt(path, words.EnterAnAmountBetween0And1000())
		}
		if err := studio.CheckAmount(path, u.Used); err != nil {
			return nil, err
		}
	}
	return products, nil
}

// complete refuses a record in which something was begun to be measured and gives no amount.
func complete(r *studio.Record, products map[string]*studio.Product) error {
	for i := range r.Uses {
		u := &r.Uses[i]
		if _, err := u.Reading.Used(products[u.Product].Measured(), u.Planned); err != nil {
			return studio.FaultAt(fmt.Sprintf("/uses/%d/real", i), measureSentence(err, u.Measure))
		}
	}
	return nil
}

// measureSentence says why a measure gives no amount, and what to do.
func measureSentence(err error, measure string) words.Sentence {
	var m *shelf.MeasureError
	if errors.As(err, &m) {
		switch m.Code {
		case shelf.NeverCalibrated:
			return words.NeverWeighedForThisProduct(measure)
		case shelf.DensityUnknown:
			return words.DensityIsNotKnown()
		case shelf.HeavierAfter:
			return words.ItWeighsMoreAfterThanBefore()
		case shelf.BelowNothing:
			return words.EnterAnAmountBetween0And1000()
		}
	}
	return words.EnterWhatWasMeasured()
}

// propose fills in what a record still being written would take, from which packs, and what that costs,
// and what else may be said of each product.
func (s *Service) propose(ctx context.Context, tx Store, st *studio.Studio, t *studio.Treatment, v *studio.VisitLine, out *RecordView) error {
	packs, err := tx.Packs(ctx)
	if err != nil {
		return err
	}
	last, err := tx.LastMeasures(ctx, v.Practitioner)
	if err != nil {
		return err
	}
	written := map[string]studio.RecordUse{}
	for _, u := range t.Record.Uses {
		written[u.Product] = u
	}
	rec := studio.Record{Note: out.Record.Note, BrokenOff: out.Record.BrokenOff, Revision: out.Record.Revision, Uses: []studio.RecordUse{}}
	for _, pl := range t.Amounts {
		u, ok := written[pl.Product]
		if !ok {
			u = studio.RecordUse{Product: pl.Product, Used: pl.Planned}
		}
		u.Name, u.Unit = pl.Name, pl.Unit
		rec.Uses = append(rec.Uses, u)
	}
	products, err := settle(ctx, tx, &rec, t)
	var gone *studio.InputError
	if errors.As(err, &gone) { // a product was taken off the shelf meanwhile: told when the record is signed
		return nil
	} else if err != nil {
		return err
	}
	layers, err := tx.Layers(ctx, studio.LayersOf(packs))
	if err != nil {
		return err
	}
	out.Choices = []UseChoices{}
	for i := range rec.Uses {
		u, p := &rec.Uses[i], products[rec.Uses[i].Product]
		c, err := choices(u, p, packs, last[p.ID], s.Today(st))
		if err != nil {
			return err
		}
		out.Choices = append(out.Choices, *c)
		for k := range u.Lots {
			l := &u.Lots[k]
			q := slices.IndexFunc(packs, func(q studio.Pack) bool { return q.ID == *l.ID })
			l.Cost = layers[packs[q].Layer].Move(l.Amount.Neg()).Neg()
			out.Cost = out.Cost.Add(l.Cost)
		}
		if u.Unit == "mL" {
			planned, _ := u.Planned.Float64()
			hand := p.ByHand(planned, false)
			u.ByHand = &hand
		}
	}
	out.Record = rec
	return nil
}

// massaged are the forms that a massage slides on: of these a record may tell how long they lasted.
var massaged = []slip.Form{slip.Oil, slip.Balm, slip.MoistSerum, slip.MassageCream}

// choices picks the packs for a use and says what else may be said of it.
func choices(u *studio.RecordUse, p *studio.Product, packs []studio.Pack, last shelf.Reading, today string) (*UseChoices, error) {
	m := p.Measured()
	c := &UseChoices{
		Product: p.Key, Weighing: p.Unit == "g" || m.Density != nil, LastHow: last.How, Packs: []PackChoice{}, Short: decimal.Zero,
		Doubt: shelf.Doubtful(u.Planned, u.Used), Slides: slices.Contains(massaged, p.Form),
	}
	for _, measure := range []string{last.Measure, "drops", "presses", "spatulas", p.Unit, "mL", "g", "ftu"} {
		known := slices.ContainsFunc(c.Measures, func(x MeasureChoice) bool { return x.Measure == measure })
		if each, err := (&shelf.Count{Value: decimal.NewFromInt(1000), Measure: measure, Product: m}).Amount(); !known && err == nil && each.IsPositive() {
			places := int32(1)
			if measure == "mL" || measure == "g" {
				places = 2
			}
			c.Measures = append(c.Measures, MeasureChoice{measure, u.Planned.Mul(decimal.NewFromInt(1000)).DivRound(each, places)})
		}
	}
	// What would be too many drops comes last, unless it was the measure used last.
	slices.SortStableFunc(c.Measures, func(a, b MeasureChoice) int {
		late := func(m MeasureChoice) int {
			if m.Measure == string(slip.Drops) && m.Measure != last.Measure && m.Planned.GreaterThan(decimal.NewFromFloat(slip.MostDrops)) {
				return 1
			}
			return 0
		}
		return cmp.Compare(late(a), late(b))
	})
	if _, err := u.Reading.Used(m, u.Planned); err != nil && (u.How == shelf.Weighed && u.After != nil || u.How == shelf.Counted && u.Count != nil) {
		c.Problem = measureSentence(err, u.Measure).Message
	}
	order, of, err := studio.PickPacks(packs, p.ID, decimal.NewFromInt(1_000_000), nil, studio.CabinSide, today)
	if err != nil {
		return nil, err
	}
	choice := func(q *studio.Pack) PackChoice {
		return PackChoice{q.ID, q.Lot, q.Number, q.Left, q.Until(), q.Opened != nil, q.Usable(today)}
	}
	for _, t := range order.Taken {
		c.Packs = append(c.Packs, choice(of[t.At]))
	}
	for _, q := range of {
		if !q.Usable(today) && q.Left.IsPositive() && !q.Recalled {
			c.Packs = append(c.Packs, choice(q))
		}
	}
	picked, of, err := pickFor(packs, u, p.ID, today)
	if err != nil {
		return nil, err
	}
	c.Short, u.Lots = picked.Short, []studio.RecordLot{}
	for _, t := range picked.Taken {
		q := of[t.At]
		u.Lots = append(u.Lots, studio.RecordLot{
			Number: q.Lot, Pack: q.Number, ID: &q.ID, Amount: t.Amount, UseBy: q.Until(), Opens: t.Opens, Sure: u.Pack != nil,
		})
		if !q.Usable(today) {
			c.NeedsReason = (&studio.StockError{Why: why(q, today), Pack: q.Pack}).Sentence().Message
		}
	}
	return c, nil
}

func why(q *studio.Pack, today string) shelf.Refusal {
	switch {
	case q.Recalled:
		return shelf.IsRecalled
	case q.Blocked:
		return shelf.IsBlocked
	}
	return shelf.IsExpired
}

// pickFor picks the packs of a use: the one in the hand, and the next ones where that was said; else the
// first to expire.
func pickFor(packs []studio.Pack, u *studio.RecordUse, product uuid.UUID, today string) (shelf.Picked, []*studio.Pack, error) {
	picked, of, err := studio.PickPacks(packs, product, u.Used, u.Pack, studio.CabinSide, today)
	if err != nil || u.Pack == nil || u.Short != "next" || !picked.Short.IsPositive() {
		return picked, of, err
	}
	others := slices.DeleteFunc(slices.Clone(packs), func(q studio.Pack) bool { return q.ID == *u.Pack })
	rest, more, err := studio.PickPacks(others, product, picked.Short, nil, studio.CabinSide, today)
	for _, t := range rest.Taken {
		t.At += len(of)
		picked.Taken = append(picked.Taken, t)
	}
	picked.Short = rest.Short
	return picked, append(slices.Clone(of), more...), err
}

// TakeFromShelf takes a record's products off the shelf and fills in packs and cost. Where the books show
// less than was used, nothing is held up: the record says whether the rest comes from the next pack or the
// pack in the hand is set right by a count first; where it says neither, that is asked.
func (s *Service) TakeFromShelf(
	ctx context.Context, within studio.Tx, t *studio.Treatment, v *studio.Visit, today string, by *uuid.UUID, at time.Time,
) error {
	tx := studio.As[Store](within)
	products, err := tx.Products(ctx)
	if err != nil {
		return err
	}
	var ids, inHand []uuid.UUID
	of := make([]*studio.Product, len(t.Record.Uses))
	for i, u := range t.Record.Uses {
		k := slices.IndexFunc(products, func(p studio.Product) bool { return p.Key == u.Product })
		if k < 0 {
			return studio.FaultAt(fmt.Sprintf("/uses/%d/product", i), words.ThereNoProductProductOnShelf(u.Product))
		}
		of[i], ids = &products[k], append(ids, products[k].ID)
		if u.Pack != nil {
			inHand = append(inHand, *u.Pack)
		}
	}
	stock, err := studio.HoldStock(ctx, tx, ids, today, by, at, inHand...)
	if err != nil {
		return err
	}
	total := decimal.Zero
	for i := range t.Record.Uses {
		u := &t.Record.Uses[i]
		u.Name, u.Unit = of[i].Name, of[i].Unit
		if err := s.takeUse(ctx, stock, u, of[i], t, fmt.Sprintf("/uses/%d/real", i), today); err != nil {
			return err
		}
		cost := decimal.Zero
		for _, l := range u.Lots {
			cost = cost.Add(l.Cost)
		}
		total = total.Add(cost)
		if err := s.note(ctx, tx, u, of[i], t, v, cost, today, at); err != nil {
			return err
		}
	}
	t.Cost = &total
	return nil
}

// takeUse takes what was used of one product.
func (s *Service) takeUse(
	ctx context.Context, stock *studio.Stock, u *studio.RecordUse, p *studio.Product, t *studio.Treatment, path, today string,
) error {
	u.Lots = []studio.RecordLot{}
	if !u.Used.IsPositive() {
		return nil
	}
	picked, of, err := pickFor(stock.Packs, u, p.ID, today)
	if err != nil {
		return err
	}
	if picked.Short.IsPositive() {
		have := u.Used.Sub(picked.Short)
		q := countable(stock, u, p.ID, picked, of)
		if u.Short != "count" || q == nil {
			return studio.FaultAt(path, words.OnlyHaveUnitNameUsableYouEntered(have, p.Unit, p.Name, u.Used))
		}
		found := studio.Movement{Pack: q.ID, Kind: shelf.Stocktake, Amount: picked.Short, Sure: true, Visit: &t.Visit, Reason: "found-in-use"}
		if _, err := stock.Move(ctx, found, ""); err != nil {
			return studio.Refused(path, err)
		}
		if picked, of, err = pickFor(stock.Packs, u, p.ID, today); err != nil {
			return err
		}
	}
	for k, take := range picked.Taken {
		q := of[take.At]
		opens := q.Opened == nil
		m := studio.Movement{Pack: q.ID, Kind: shelf.Treatment, Amount: take.Amount.Neg(), Visit: &t.Visit, Sure: u.Pack != nil}
		if k == 0 {
			m.Planned = &u.Planned
		}
		if u.Override != "" && !q.Usable(today) {
			m.Note = u.Override
		}
		moved, err := stock.Move(ctx, m, u.Override)
		if err != nil {
			return studio.Refused(path, err)
		}
		u.Lots = append(u.Lots, studio.RecordLot{
			Number: q.Lot, Pack: q.Number, ID: &q.ID, Amount: take.Amount, Cost: moved.Value.Neg(), UseBy: q.Until(),
			Opens: opens, Sure: u.Pack != nil,
		})
	}
	return nil
}

// countable is the pack that is set right by a count: the one in the hand, else the last one picked, else
// the open one.
func countable(stock *studio.Stock, u *studio.RecordUse, product uuid.UUID, picked shelf.Picked, of []*studio.Pack) *studio.Pack {
	if u.Pack != nil {
		return stock.Pack(*u.Pack)
	}
	if n := len(picked.Taken); n > 0 {
		return of[picked.Taken[n-1].At]
	}
	for i := range stock.Packs {
		if q := &stock.Packs[i]; q.Product == product && q.Side == studio.CabinSide && !q.Recalled && !q.Blocked {
			return q
		}
	}
	return nil
}

// note keeps what was used, for what records teach.
func (s *Service) note(
	ctx context.Context, tx Store, u *studio.RecordUse, p *studio.Product, t *studio.Treatment, v *studio.Visit,
	cost decimal.Decimal, today string, at time.Time,
) error {
	over := decimal.Zero
	if u.Used.IsPositive() {
		over = cost.Mul(u.Used.Sub(u.Planned)).DivRound(u.Used, 2)
	}
	how := u.How
	if how == "" {
		how = shelf.AsPlanned
	}
	err := tx.AddProductUse(ctx, &studio.ProductUse{
		Visit: t.Visit, Product: p.ID, Practitioner: v.Practitioner, Protocol: v.Protocol, Day: today,
		Planned: u.Planned, Used: u.Used, How: how, Measure: u.Measure, Cost: cost, OverPlan: over, At: at,
	})
	if err != nil || u.Slid == nil || !u.Slid.Minute.IsPositive() {
		return err
	}
	if err := tx.AddSlipObservation(ctx, p.ID, t.Visit, *u.Slid, slip.SkinFactor(t.SkinType, t.SkinStates), at); err != nil {
		return err
	}
	return s.Shelf.Learn(ctx, tx, []uuid.UUID{p.ID})
}
