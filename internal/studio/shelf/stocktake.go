package shelf

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// CountSheet is a stocktake: place by place, pack by pack.
type CountSheet struct {
	ID     uuid.UUID `json:"id"`
	Places []string  `json:"places"`
	// Only these packs are counted, where it is a count of what is due; empty for all of the places.
	Only      []uuid.UUID `json:"only"`
	Blind     bool        `json:"blind"`
	StartedAt time.Time   `json:"startedAt"`
	ClosedAt  *time.Time  `json:"closedAt,omitempty"`
	// Lines to count, in the order of the shelf, and those counted already.
	Lines []CountLine `json:"lines"`
	// Counted, and Differences that closing books.
	Counted     int             `json:"counted"`
	Differences int             `json:"differences"`
	Gained      decimal.Decimal `json:"gained"`
	Lost        decimal.Decimal `json:"lost"`
}

// CountLine is a pack on a count sheet.
type CountLine struct {
	Pack    uuid.UUID `json:"pack"`
	Product uuid.UUID `json:"product"`
	Name    string    `json:"name"`
	Place   string    `json:"place"`
	Lot     string    `json:"lot"`
	Number  int       `json:"number"`
	Unit    string    `json:"unit"`
	Open    bool      `json:"open"`
	// Weighs says that an open pack can be counted by weight; Tare is what an empty one weighs.
	Weighs bool             `json:"weighs"`
	Tare   *decimal.Decimal `json:"tare,omitempty"`
	Size   decimal.Decimal  `json:"size"`
	// Books is what the books show, absent in a blind count until it is counted.
	Books *decimal.Decimal `json:"books,omitempty"`
	// Found is nil until it is counted.
	Found     *decimal.Decimal `json:"found,omitempty"`
	Gross     *decimal.Decimal `json:"gross,omitempty"`
	Tolerance decimal.Decimal  `json:"tolerance"`
	Booked    decimal.Decimal  `json:"booked"`
	Reason    string           `json:"reason"`
	// Again asks for the count to be typed a second time: it is more than a tenth of the pack off.
	Again bool `json:"again"`
}

// countStore is what stocktakes are kept in.
type countStore interface {
	orderStore
	OpenStocktake(ctx context.Context) (*CountSheet, error) // without its lines
	LastStocktake(ctx context.Context) (*CountSheet, error) // the last that was closed
	// LastCounted says on which day each pack that holds something was last counted.
	LastCounted(ctx context.Context, zone string) (map[uuid.UUID]string, error)
	AddStocktake(ctx context.Context, c *CountSheet, by uuid.UUID) error
	CountedLines(ctx context.Context, stocktake uuid.UUID) (map[uuid.UUID]CountLine, error) // by pack
	SaveCountLine(ctx context.Context, stocktake uuid.UUID, l *CountLine, by uuid.UUID, at time.Time) error
	CloseStocktake(ctx context.Context, c *CountSheet, by uuid.UUID) error
}

// StartCount begins a stocktake of places, all where none is named, or of the few packs that are due. Where one
// is open, it goes on.
func (s *Service) StartCount(ctx context.Context, a *studio.Actor, places []string, due bool) (*CountSheet, error) {
	if err := a.May("start-count"); err != nil {
		return nil, err
	}
	err := studio.In(ctx, s.Kernel, a, func(tx countStore, st *studio.Studio) error {
		if _, err := tx.OpenStocktake(ctx); err == nil || !errors.Is(err, studio.ErrNotFound) {
			return err
		}
		o, err := s.readOrdering(ctx, tx)
		if err != nil {
			return err
		}
		c := &CountSheet{ID: studio.NewID(), Places: places, Only: []uuid.UUID{}, Blind: o.settings.BlindCount, StartedAt: s.Now()}
		if due {
			c.Places = []string{}
			if c.Only, err = s.dueForCounting(ctx, tx, st); err != nil {
				return err
			}
			if len(c.Only) == 0 {
				return &studio.StateError{Code: "nothing-due", Sentence: words.NothingIsDueForCounting()}
			}
		}
		return tx.AddStocktake(ctx, c, a.Account)
	})
	if err != nil && !errors.Is(err, studio.ErrExists) { // somebody else began at the same moment
		return nil, err
	}
	return s.Count(ctx, a)
}

// dueForCounting lists the packs that are due, see [shelf.CountDue].
func (s *Service) dueForCounting(ctx context.Context, tx countStore, st *studio.Studio) ([]uuid.UUID, error) {
	products, err := tx.Products(ctx)
	if err != nil {
		return nil, err
	}
	packs, err := tx.Packs(ctx)
	if err != nil {
		return nil, err
	}
	last, err := tx.LastCounted(ctx, st.TimeZone)
	if err != nil {
		return nil, err
	}
	layers, err := tx.Layers(ctx, studio.LayersOf(packs))
	if err != nil {
		return nil, err
	}
	today := s.Today(st)
	stocked := make([]shelf.Stocked, 0, len(products))
	for i := range products {
		l := line(&products[i], packs, layers, today)
		one := shelf.Stocked{Value: l.Value}
		for k := range l.Packs {
			q := &l.Packs[k]
			if q.Left.IsPositive() {
				one.Packs = append(one.Packs, shelf.Countable{Key: q.ID.String(), Last: max(last[q.ID], q.Received)})
			}
		}
		stocked = append(stocked, one)
	}
	out := []uuid.UUID{}
	for _, key := range shelf.CountDue(stocked, today) {
		out = append(out, uuid.MustParse(key))
	}
	return out, nil
}

// Count returns the open stocktake, or the last one closed.
func (s *Service) Count(ctx context.Context, a *studio.Actor) (*CountSheet, error) {
	if err := a.May("get-count"); err != nil {
		return nil, err
	}
	var out *CountSheet
	err := studio.In(ctx, s.Kernel, a, func(tx countStore, _ *studio.Studio) error {
		c, err := tx.OpenStocktake(ctx)
		if errors.Is(err, studio.ErrNotFound) {
			c, err = tx.LastStocktake(ctx)
		}
		if err != nil {
			return err
		}
		out = c
		return s.fill(ctx, tx, c)
	})
	return out, err
}

// fill lists the lines of a count sheet.
func (s *Service) fill(ctx context.Context, tx countStore, c *CountSheet) error {
	products, err := tx.Products(ctx)
	if err != nil {
		return err
	}
	packs, err := tx.Packs(ctx)
	if err != nil {
		return err
	}
	counted, err := tx.CountedLines(ctx, c.ID)
	if err != nil {
		return err
	}
	c.Lines = []CountLine{}
	for i := range products {
		p := &products[i]
		if len(c.Places) > 0 && !slices.Contains(c.Places, p.Place) {
			continue
		}
		for k := range packs {
			q := &packs[k]
			if q.Product != p.ID || !q.Left.IsPositive() || len(c.Only) > 0 && !slices.Contains(c.Only, q.ID) {
				continue
			}
			was, done := counted[q.ID]
			if c.ClosedAt != nil && !done {
				continue
			}
			delete(counted, q.ID)
			c.Lines = append(c.Lines, lineOf(p, q, was, done, c.Blind))
		}
		for id, was := range counted { // counted, and emptied since
			if was.Product == p.ID {
				was.Name, was.Place, was.Unit = p.Name, p.Place, p.Unit
				c.Lines = append(c.Lines, was)
				delete(counted, id)
			}
		}
	}
	slices.SortStableFunc(c.Lines, func(a, b CountLine) int { return strings.Compare(a.Place, b.Place) })
	for i := range c.Lines {
		if l := &c.Lines[i]; l.Found != nil && !l.Again {
			c.Counted++
			if !l.Booked.IsZero() {
				c.Differences++
			}
		}
	}
	return nil
}

func lineOf(p *studio.Product, q *studio.Pack, was CountLine, done, blind bool) CountLine {
	l := CountLine{
		Pack: q.ID, Product: p.ID, Name: p.Name, Place: p.Place, Lot: q.Lot, Number: q.Number, Unit: p.Unit, Open: q.Opened != nil,
		Weighs: q.Opened != nil && p.Unit != studio.Pieces && (p.Unit == "g" || p.Density > 0), Tare: p.Tare, Size: q.Size,
	}
	if done {
		l.Books, l.Found, l.Gross, l.Tolerance, l.Booked, l.Reason, l.Again = was.Books, was.Found, was.Gross, was.Tolerance, was.Booked, was.Reason, was.Again
		if was.Tare != nil {
			l.Tare = was.Tare
		}
		if blind && l.Again {
			l.Books = nil
		}
	} else if !blind {
		books := q.Left
		l.Books = &books
	}
	return l
}

// Counting is one pack as it was counted: what is in it, or what it weighs.
type Counting struct {
	Found *decimal.Decimal `json:"found,omitempty"`
	Gross *decimal.Decimal `json:"gross,omitempty"`
	Tare  *decimal.Decimal `json:"tare,omitempty"`
	// Reason of a difference.
	Reason string `json:"reason,omitempty" maxLength:"300"`
}

// CountPack writes down what was found in a pack. A difference of more than a tenth of the pack is asked
// for again: the same once more is taken.
func (s *Service) CountPack(ctx context.Context, a *studio.Actor, pack uuid.UUID, n Counting) (*CountLine, error) {
	if err := a.May("count-pack"); err != nil {
		return nil, err
	}
	var out *CountLine
	err := studio.In(ctx, s.Kernel, a, func(tx countStore, st *studio.Studio) error {
		c, err := tx.OpenStocktake(ctx)
		if errors.Is(err, studio.ErrNotFound) {
			return &studio.StateError{Code: "no-count", Sentence: words.NoStocktakeIsOpen()}
		} else if err != nil {
			return err
		}
		product, err := tx.ProductOfPack(ctx, pack)
		if err != nil {
			return err
		}
		stock, err := studio.HoldStock(ctx, tx, []uuid.UUID{product}, s.Today(st), &a.Account, s.Now(), pack)
		if err != nil {
			return err
		}
		p, err := productOf(ctx, tx, product)
		if err != nil {
			return err
		}
		o, err := s.readOrdering(ctx, tx)
		if err != nil {
			return err
		}
		counted, err := tx.CountedLines(ctx, c.ID)
		if err != nil {
			return err
		}
		was, done := counted[pack]
		line, err := weigh(p, stock.Pack(pack), &n, o.settings.ScaleStep)
		if err != nil {
			return err
		}
		far := line.Booked.Abs().Mul(decimal.NewFromInt(10)).GreaterThan(line.Size)
		line.Again = far && !(done && was.Found != nil && was.Found.Equal(*line.Found))
		out = line
		return tx.SaveCountLine(ctx, c.ID, line, a.Account, s.Now())
	})
	return out, err
}

// weigh compares what was found in a pack with the books.
func weigh(p *studio.Product, q *studio.Pack, n *Counting, step decimal.Decimal) (*CountLine, error) {
	books := q.Left
	l := lineOf(p, q, CountLine{}, false, false)
	l.Books, l.Reason = &books, strings.TrimSpace(n.Reason)
	line := shelf.Line{Left: books, Counted: n.Found, Gross: n.Gross, Tare: n.Tare, Scale: shelf.Scale{Pack: q.Size, Step: step, Unit: p.Unit}}
	if p.Density > 0 {
		density := decimal.NewFromFloat(p.Density)
		line.Density = &density
	}
	switch {
	case n.Found == nil && n.Gross == nil:
		return nil, studio.FaultAt("/found", words.EnterWhatYouFound())
	case n.Gross != nil && n.Tare == nil && p.Tare == nil:
		return nil, studio.FaultAt("/tare", words.EnterWhatAnEmptyPackWeighs())
	case n.Gross != nil && n.Tare == nil:
		line.Tare = p.Tare
	}
	if n.Found != nil {
		if err := studio.CheckAmount("/found", *n.Found); err != nil || n.Found.IsNegative() {
			return nil, studio.FaultAt("/found", words.EnterAnAmountUpToMost(studio.MostAmount.String()))
		}
	}
	closed, err := line.Close()
	if err != nil {
		return nil, studio.FaultAt("/gross", words.GrossAndTareGiveNoAmount())
	}
	if closed.Counted.GreaterThan(q.Size.Mul(decimal.NewFromFloat(1.2))) {
		return nil, studio.FaultAt("/found", words.ThatIsMoreThanThePackHolds(q.Size, p.Unit))
	}
	l.Found, l.Gross, l.Tolerance, l.Booked = &closed.Counted, n.Gross, closed.Tolerance, closed.Booked
	if line.Tare != nil {
		l.Tare = line.Tare
	}
	return &l, nil
}

// CloseCount closes the stocktake: its differences become movements in one step, and its lines are locked.
// What was used between a line's count and now stays used: the difference is the one at that moment.
func (s *Service) CloseCount(ctx context.Context, a *studio.Actor) (*CountSheet, error) {
	if err := a.May("close-count"); err != nil {
		return nil, err
	}
	err := studio.In(ctx, s.Kernel, a, func(tx countStore, st *studio.Studio) error {
		c, err := tx.OpenStocktake(ctx)
		if errors.Is(err, studio.ErrNotFound) {
			return nil // closed by somebody else a moment ago
		} else if err != nil {
			return err
		}
		lines, err := tx.CountedLines(ctx, c.ID)
		if err != nil {
			return err
		}
		var products []uuid.UUID
		for _, l := range lines {
			if l.Again {
				return &studio.StateError{Code: "count-again", Sentence: words.CountAgainWhatIsFarOff(l.Lot, l.Number)}
			}
			if !slices.Contains(products, l.Product) {
				products = append(products, l.Product)
			}
		}
		stock, err := studio.HoldStock(ctx, tx, products, s.Today(st), &a.Account, s.Now())
		if err != nil {
			return err
		}
		for _, l := range lines {
			if l.Booked.IsZero() {
				continue
			}
			m := studio.Movement{Pack: l.Pack, Kind: shelf.Stocktake, Amount: l.Booked, Note: l.Reason, Sure: true}
			moved, err := stock.Move(ctx, m, "")
			if err != nil {
				return studio.Refused("/lines", err)
			}
			if moved.Value.IsPositive() {
				c.Gained = c.Gained.Add(moved.Value)
			} else {
				c.Lost = c.Lost.Sub(moved.Value)
			}
		}
		at := s.Now()
		c.ClosedAt = &at
		return tx.CloseStocktake(ctx, c, a.Account)
	})
	if err != nil {
		return nil, err
	}
	return s.Count(ctx, a)
}
