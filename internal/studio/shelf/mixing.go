package shelf

import (
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

// Recipe is how a batch of a product is made.
type Recipe struct {
	ID      uuid.UUID `json:"id"`
	Version int       `json:"version"`
	// Product that it makes.
	Product uuid.UUID `json:"product"`
	Name    string    `json:"name"`
	RecipeBody
}

// RecipeBody is what a recipe says.
type RecipeBody struct {
	Parts []RecipePart `json:"parts" minItems:"1" maxItems:"30"`
	// Yield is about how much the parts make, in the product's unit.
	Yield decimal.Decimal `json:"yield"`
	Note  string          `json:"note" maxLength:"1000"`
	// Keeps is the recipe's own rule of how long the mix is good.
	Keeps shelf.Keeps `json:"keeps"`
}

// RecipePart is a part of a recipe, in the order in which it goes in.
type RecipePart struct {
	Product uuid.UUID       `json:"product" format:"uuid"`
	Amount  decimal.Decimal `json:"amount"`
	// Measure of the amount; per cent is of the whole batch's weight.
	Measure string `json:"measure" enum:"mL,g,drops,percent"`
	// DermalMax is the part's limit on the skin, in per cent of the whole, from the supplier's sheet.
	DermalMax *decimal.Decimal `json:"dermalMax,omitempty"`
}

// mixStore is what mixing is kept in.
type mixStore interface {
	Store
	Recipes(ctx context.Context) ([]Recipe, error) // the newest version of each, by name
	AddRecipe(ctx context.Context, r *Recipe, by uuid.UUID, at time.Time) error
	RetireRecipe(ctx context.Context, id uuid.UUID) error
	// BatchesOn counts the batches made on a day, of any product.
	BatchesOn(ctx context.Context, day string) (int, error)
	AddBatch(ctx context.Context, lot uuid.UUID, r *Recipe, day string, by uuid.UUID, at time.Time) error
	Batches(ctx context.Context) ([]Batch, error) // newest first
}

// Batch is a mix that was made.
type Batch struct {
	Lot     uuid.UUID       `json:"lot"`
	Pack    uuid.UUID       `json:"pack"`
	Number  string          `json:"number"`
	Product uuid.UUID       `json:"product"`
	Name    string          `json:"name"`
	Recipe  string          `json:"recipe"`
	MadeOn  string          `json:"madeOn"`
	By      string          `json:"by"`
	Until   string          `json:"goodUntil"`
	Amount  decimal.Decimal `json:"amount"`
	Unit    string          `json:"unit"`
	Left    decimal.Decimal `json:"left"`
	Cost    decimal.Decimal `json:"cost"`
	// Parts in order of their weight, with the lots they came from.
	Parts []BatchPart `json:"parts"`
	// Ingredients, each once, by weight of the part: about in order, and Tags of all parts.
	Ingredients []string `json:"ingredients"`
	Tags        []string `json:"tags"`
}

// BatchPart is what went into a batch.
type BatchPart struct {
	Product uuid.UUID       `json:"product"`
	Name    string          `json:"name"`
	Lot     string          `json:"lot"`
	Amount  decimal.Decimal `json:"amount"`
	Unit    string          `json:"unit"`
	// Percent of the whole by weight.
	Percent decimal.Decimal `json:"percent"`
	grams   decimal.Decimal
}

// Recipes lists recipes, by name.
func (s *Service) Recipes(ctx context.Context, a *studio.Actor) (out []Recipe, err error) {
	if err := a.May("list-recipes"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx mixStore, _ *studio.Studio) (err error) {
		out, err = tx.Recipes(ctx)
		return err
	})
	return out, err
}

// SaveRecipe writes a recipe, or a new version of one.
func (s *Service) SaveRecipe(ctx context.Context, a *studio.Actor, r *Recipe) (*Recipe, error) {
	if err := a.May("save-recipe"); err != nil {
		return nil, err
	}
	if r.Name = strings.TrimSpace(r.Name); r.Name == "" {
		return nil, studio.FaultAt("/name", words.NameTheRecipe())
	}
	if !r.Yield.IsPositive() {
		return nil, studio.FaultAt("/yield", words.EnterHowMuchTheRecipeMakes())
	}
	if r.Keeps.Days == nil && r.Keeps.Months == nil {
		return nil, studio.FaultAt("/keeps", words.EnterHowLongTheMixKeeps())
	}
	return r, studio.In(ctx, s.Kernel, a, func(tx mixStore, _ *studio.Studio) error {
		products, err := tx.Products(ctx)
		if err != nil {
			return err
		}
		if !slices.ContainsFunc(products, func(p studio.Product) bool { return p.ID == r.Product }) {
			return studio.FaultAt("/product", words.ChooseAProductOnTheShelf())
		}
		for i, part := range r.Parts {
			at := fmt.Sprintf("/parts/%d", i)
			k := slices.IndexFunc(products, func(p studio.Product) bool { return p.ID == part.Product })
			switch {
			case k < 0 || part.Product == r.Product:
				return studio.FaultAt(at+"/product", words.ChooseAProductOnTheShelf())
			case !part.Amount.IsPositive():
				return studio.FaultAt(at+"/amount", words.EnterTheAmountOfThePart())
			}
			if _, err := r.part(&products[k], &part, decimal.NewFromInt(1)); err != nil {
				return studio.FaultAt(at+"/amount", measureSentence(err, part.Measure))
			}
		}
		list, err := tx.Recipes(ctx)
		if err != nil {
			return err
		}
		if k := slices.IndexFunc(list, func(x Recipe) bool { return x.ID == r.ID }); k >= 0 {
			r.Version = list[k].Version + 1
		} else {
			r.ID, r.Version = studio.NewID(), 1
		}
		return tx.AddRecipe(ctx, r, a.Account, s.Now())
	})
}

// DropRecipe takes a recipe off the list; batches made by it keep it.
func (s *Service) DropRecipe(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	if err := a.May("drop-recipe"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx mixStore, _ *studio.Studio) error { return tx.RetireRecipe(ctx, id) })
}

// part is how much of a part a batch so many times the recipe takes, in the part's unit.
func (r *RecipeBody) part(p *studio.Product, part *RecipePart, times decimal.Decimal) (decimal.Decimal, error) {
	c := shelf.Count{Value: part.Amount.Mul(times), Measure: part.Measure, Product: p.Measured()}
	if part.Measure == "percent" {
		c.Value, c.Measure = part.Amount.Mul(r.Yield).Mul(times).DivRound(decimal.NewFromInt(100), 6), "g"
	}
	return c.Amount()
}

// measureSentence says why a measure gives no amount, and what to do.
func measureSentence(err error, measure string) words.Sentence {
	var m *shelf.MeasureError
	if errors.As(err, &m) && m.Code == shelf.NeverCalibrated {
		return words.NeverWeighedForThisProduct(measure)
	}
	return words.DensityIsNotKnown()
}

// Making is a batch as it is to be made: each part with its amount, the pack it comes from and what it
// reaches.
type Making struct {
	Recipe Recipe       `json:"recipe"`
	Until  string       `json:"goodUntil"`
	Parts  []MakingPart `json:"parts"`
	// Yield is how much is made, in Unit.
	Yield decimal.Decimal `json:"yield"`
	Unit  string          `json:"unit"`
}

// MakingPart is a part to weigh.
type MakingPart struct {
	Product uuid.UUID       `json:"product"`
	Name    string          `json:"name"`
	Amount  decimal.Decimal `json:"amount"`
	Unit    string          `json:"unit"`
	Grams   decimal.Decimal `json:"grams"`
	// Drops where the part is so counted, rounded down, within the dermal maximum.
	Drops   *int64          `json:"drops,omitempty"`
	Percent decimal.Decimal `json:"percent"`
	// OverMax says that it would go beyond the limit on the skin.
	OverMax bool            `json:"overMax"`
	Lot     string          `json:"lot"`
	Pack    *uuid.UUID      `json:"pack,omitempty"`
	Short   decimal.Decimal `json:"short"`
}

// PlanBatch works out a batch of an amount without making it.
func (s *Service) PlanBatch(ctx context.Context, a *studio.Actor, recipe uuid.UUID, amount decimal.Decimal) (*Making, error) {
	if err := a.May("list-recipes"); err != nil {
		return nil, err
	}
	var out *Making
	err := studio.In(ctx, s.Kernel, a, func(tx mixStore, st *studio.Studio) error {
		r, products, err := s.recipe(ctx, tx, recipe)
		if err != nil {
			return err
		}
		if !amount.IsPositive() {
			return studio.FaultAt("/amount", words.SayHowMuch())
		}
		packs, err := tx.Packs(ctx)
		if err != nil {
			return err
		}
		out = &Making{Recipe: *r}
		out.Yield, out.Unit = amount, products[r.Product].Unit
		until, err := out.plan(products, packs, amount.DivRound(r.Yield, 12), s.Today(st))
		out.Until = until
		return err
	})
	return out, err
}

func (s *Service) recipe(ctx context.Context, tx mixStore, id uuid.UUID) (*Recipe, map[uuid.UUID]*studio.Product, error) {
	list, err := tx.Recipes(ctx)
	if err != nil {
		return nil, nil, err
	}
	i := slices.IndexFunc(list, func(r Recipe) bool { return r.ID == id })
	if i < 0 {
		return nil, nil, studio.ErrNotFound
	}
	products, err := tx.Products(ctx)
	byID := map[uuid.UUID]*studio.Product{}
	for k := range products {
		byID[products[k].ID] = &products[k]
	}
	return &list[i], byID, err
}

// plan works out the parts and returns until when the mix will be good.
func (m *Making) plan(products map[uuid.UUID]*studio.Product, packs []studio.Pack, times decimal.Decimal, today string) (string, error) {
	total := decimal.Zero
	mix := shelf.Mix{Made: today, Keeps: &m.Recipe.Keeps}
	for i := range m.Recipe.Parts {
		part := &m.Recipe.Parts[i]
		p := products[part.Product]
		if p == nil {
			return "", studio.FaultAt("/recipe", words.ChooseAProductOnTheShelf())
		}
		amount, err := m.Recipe.part(p, part, times)
		if err != nil {
			return "", studio.FaultAt("/recipe", measureSentence(err, part.Measure))
		}
		x := MakingPart{Product: p.ID, Name: p.Name, Amount: amount, Unit: p.Unit}
		if part.Measure == string(slip.Drops) { // whole drops, never more than was asked for
			n := part.Amount.Mul(times).Floor().IntPart()
			x.Drops = &n
			x.Amount, _ = (&shelf.Count{Value: decimal.NewFromInt(n), Measure: "drops", Product: p.Measured()}).Amount()
		}
		x.Grams = grams(p, x.Amount)
		picked, of, err := studio.PickPacks(packs, p.ID, x.Amount, nil, studio.CabinSide, today)
		if err != nil {
			return "", err
		}
		x.Short = picked.Short
		for k, take := range picked.Taken {
			q := of[take.At]
			if k == 0 {
				x.Lot, x.Pack = q.Lot, &q.ID
			}
			core := q.Pack
			if core.Opened == nil {
				core.Opened = &today
			}
			mix.Parts = append(mix.Parts, core)
		}
		total = total.Add(x.Grams)
		m.Parts = append(m.Parts, x)
	}
	for i := range m.Parts {
		x, part := &m.Parts[i], &m.Recipe.Parts[i]
		if total.IsPositive() {
			share := x.Grams.Mul(decimal.NewFromInt(100)).DivRound(total, 12)
			x.Percent = share.Round(2)
			x.OverMax = part.DermalMax != nil && share.GreaterThan(*part.DermalMax)
		}
	}
	return mix.GoodUntil()
}

// grams is the weight of an amount; what was never weighed counts as water.
func grams(p *studio.Product, amount decimal.Decimal) decimal.Decimal {
	if p.Unit == "mL" && p.Density > 0 {
		return amount.Mul(decimal.NewFromFloat(p.Density)).Round(3)
	}
	return amount
}

// NewBatch is a batch as it was weighed.
type NewBatch struct {
	Recipe uuid.UUID     `json:"recipe" format:"uuid"`
	Parts  []WeighedPart `json:"parts" minItems:"1" maxItems:"30"`
	// Yield is what the batch weighed, in its product's unit.
	Yield decimal.Decimal `json:"yield"`
}

// WeighedPart is a part as it went in.
type WeighedPart struct {
	Product uuid.UUID       `json:"product" format:"uuid"`
	Pack    *uuid.UUID      `json:"pack,omitempty" format:"uuid"`
	Amount  decimal.Decimal `json:"amount"`
}

// MakeBatch makes a batch in one step: its parts leave, and a lot of the recipe's product comes in that
// costs what they cost; what was lost stays in its cost.
func (s *Service) MakeBatch(ctx context.Context, a *studio.Actor, n *NewBatch) (*Batch, error) {
	if err := a.May("make-batch"); err != nil {
		return nil, err
	}
	if !n.Yield.IsPositive() {
		return nil, studio.FaultAt("/yield", words.SayHowMuch())
	}
	if err := studio.CheckAmount("/yield", n.Yield); err != nil {
		return nil, err
	}
	var number string
	err := studio.In(ctx, s.Kernel, a, func(tx mixStore, st *studio.Studio) error {
		r, products, err := s.recipe(ctx, tx, n.Recipe)
		if err != nil {
			return err
		}
		today := s.Today(st)
		ids, inHand := []uuid.UUID{r.Product}, []uuid.UUID{}
		for i, part := range n.Parts {
			if products[part.Product] == nil || !slices.ContainsFunc(r.Parts, func(x RecipePart) bool { return x.Product == part.Product }) {
				return studio.FaultAt(fmt.Sprintf("/parts/%d/product", i), words.ChooseAProductOnTheShelf())
			}
			ids = append(ids, part.Product)
			if part.Pack != nil {
				inHand = append(inHand, *part.Pack)
			}
		}
		stock, err := studio.HoldStock(ctx, tx, ids, today, &a.Account, s.Now(), inHand...)
		if err != nil {
			return err
		}
		if number, err = batchNumber(ctx, tx, today); err != nil {
			return err
		}
		lot := &studio.Lot{ID: studio.NewID(), Product: r.Product, Number: number, Received: today}
		cost, until, err := s.takeParts(ctx, tx, stock, n, r, lot, today)
		if err != nil {
			return err
		}
		if until != "" && until < today {
			return studio.FaultAt("/parts/0/product", words.AMixOfThisWouldBeExpired())
		}
		lot.Expiry = until
		return s.bringIn(ctx, tx, lot, r, n.Yield, cost, today, a)
	})
	if err != nil {
		return nil, err
	}
	list, err := s.Batches(ctx, a)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(list, func(b Batch) bool { return b.Number == number })
	if i < 0 {
		return nil, studio.ErrNotFound
	}
	return &list[i], nil
}

// batchNumber is the day and a running letter: 2026-11-24 A.
func batchNumber(ctx context.Context, tx mixStore, today string) (string, error) {
	made, err := tx.BatchesOn(ctx, today)
	if err != nil {
		return "", err
	}
	letters := ""
	for k := made; ; k = k/26 - 1 {
		letters = string(rune('A'+k%26)) + letters
		if k < 26 {
			break
		}
	}
	return today + " " + letters, nil
}

// takeParts takes the parts into a batch's lot, and returns what they cost and until when the mix is good.
// The lot is added before its last day is known, so that its parts can name it.
func (s *Service) takeParts(
	ctx context.Context, tx mixStore, stock *studio.Stock, n *NewBatch, r *Recipe, lot *studio.Lot, today string,
) (decimal.Decimal, string, error) {
	mix := shelf.Mix{Made: today, Keeps: &r.Keeps}
	type take struct {
		pack   *studio.Pack
		amount decimal.Decimal
		path   string
	}
	var takes []take
	for i, part := range n.Parts {
		path := fmt.Sprintf("/parts/%d/amount", i)
		if !part.Amount.IsPositive() || studio.CheckAmount(path, part.Amount) != nil {
			return decimal.Zero, "", studio.FaultAt(path, words.EnterTheAmountOfThePart())
		}
		picked, of, err := stock.Pick(part.Product, part.Amount, part.Pack, studio.CabinSide)
		if err != nil {
			return decimal.Zero, "", err
		}
		if picked.Short.IsPositive() {
			return decimal.Zero, "", studio.FaultAt(path, words.ThereIsNotEnoughForThisPart(part.Amount.Sub(picked.Short)))
		}
		for _, t := range picked.Taken {
			core := of[t.At].Pack
			if core.Opened == nil {
				core.Opened = &today
			}
			mix.Parts = append(mix.Parts, core)
			takes = append(takes, take{of[t.At], t.Amount, path})
		}
	}
	until, err := mix.GoodUntil()
	if err != nil {
		return decimal.Zero, "", err
	}
	lot.Expiry = until
	if err := tx.AddLot(ctx, lot); err != nil {
		return decimal.Zero, "", err
	}
	cost := decimal.Zero
	for _, t := range takes {
		moved, err := stock.Move(ctx, studio.Movement{Pack: t.pack.ID, Kind: shelf.Make, Amount: t.amount.Neg(), IntoLot: &lot.ID, Sure: true}, "")
		if err != nil {
			return decimal.Zero, "", studio.Refused(t.path, err)
		}
		cost = cost.Sub(moved.Value)
	}
	return cost, until, nil
}

// bringIn puts the batch on the shelf.
func (s *Service) bringIn(
	ctx context.Context, tx mixStore, lot *studio.Lot, r *Recipe, yield, cost decimal.Decimal, today string, a *studio.Actor,
) error {
	layer, _, err := tx.AddLayer(ctx, lot.ID, today, cost, yield, nil)
	if err != nil {
		return err
	}
	q := studio.Pack{ID: studio.NewID(), LotID: lot.ID, Layer: layer, Product: r.Product, Size: yield, Side: studio.CabinSide}
	q.Number, q.Opened = 1, &today
	if err := tx.AddPack(ctx, &q); err != nil {
		return err
	}
	m := studio.Movement{
		ID: studio.NewID(), Pack: q.ID, Lot: lot.ID, Kind: shelf.Made, Amount: yield, Value: cost, Average: cost, Account: &a.Account, Sure: true, At: s.Now(),
	}
	if err := tx.AddMovement(ctx, &m); err != nil {
		return err
	}
	if err := studio.PostBatch(ctx, tx, &m, r.Product); err != nil {
		return err
	}
	return tx.AddBatch(ctx, lot.ID, r, today, a.Account, s.Now())
}

// Batches lists batches, newest first, with what is in them.
func (s *Service) Batches(ctx context.Context, a *studio.Actor) (out []Batch, err error) {
	if err := a.May("list-recipes"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx mixStore, _ *studio.Studio) error {
		products, err := tx.Products(ctx)
		if err != nil {
			return err
		}
		byID := map[uuid.UUID]*studio.Product{}
		for k := range products {
			byID[products[k].ID] = &products[k]
		}
		if out, err = tx.Batches(ctx); err != nil {
			return err
		}
		for i := range out {
			out[i].gather(byID)
		}
		return nil
	})
	return out, err
}

// Batch returns a batch by its lot.
func (s *Service) Batch(ctx context.Context, a *studio.Actor, lot uuid.UUID) (*Batch, error) {
	list, err := s.Batches(ctx, a)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(list, func(b Batch) bool { return b.Lot == lot })
	if i < 0 {
		return nil, studio.ErrNotFound
	}
	return &list[i], nil
}

// gather lists the ingredients by weight of the part, within a part in the pack's order, each once; and the
// tags of all parts.
func (b *Batch) gather(products map[uuid.UUID]*studio.Product) {
	b.Ingredients, b.Tags = []string{}, []string{}
	total := decimal.Zero
	for i := range b.Parts {
		x := &b.Parts[i]
		if p := products[x.Product]; p != nil {
			x.grams = grams(p, x.Amount)
			total = total.Add(x.grams)
		}
	}
	slices.SortStableFunc(b.Parts, func(x, y BatchPart) int { return y.grams.Cmp(x.grams) })
	for i := range b.Parts {
		x := &b.Parts[i]
		if total.IsPositive() {
			x.Percent = x.grams.Mul(decimal.NewFromInt(100)).DivRound(total, 2)
		}
		p := products[x.Product]
		if p == nil {
			continue
		}
		for _, name := range p.Ingredients {
			if !slices.Contains(b.Ingredients, name) {
				b.Ingredients = append(b.Ingredients, name)
			}
		}
		for _, tag := range p.AllTags() {
			if !slices.Contains(b.Tags, tag) {
				b.Tags = append(b.Tags, tag)
			}
		}
	}
	slices.Sort(b.Tags)
}
