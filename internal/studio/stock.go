package studio

import (
	"bytes"
	"context"
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/craft/shelf"
	"softpalm/words"
)

// Pack is a pack on the shelf, with its lot.
type Pack struct {
	shelf.Pack
	ID, LotID, Layer, Product uuid.UUID
	Size                      decimal.Decimal
	// Side is cabin, retail or tester.
	Side     string
	Received string
	// Why it may not be used, empty where it may.
	Why      string
	Recalled bool
	// Batch says that it was mixed here.
	Batch bool
}

// The sides of the shelf that a pack stands on.
const (
	CabinSide  = "cabin"
	RetailSide = "retail"
	TesterSide = "tester"
)

// Movement is one stock movement; only ever added.
type Movement struct {
	ID     uuid.UUID
	Pack   uuid.UUID
	Lot    uuid.UUID
	Kind   shelf.Kind
	Amount decimal.Decimal // in the product's unit; what leaves is negative
	// Value is what the stock is worth more by it, or less, at the cost of its lot; Average by moving average.
	Value   decimal.Decimal
	Average decimal.Decimal
	Planned *decimal.Decimal
	Visit   *uuid.UUID
	Client  *uuid.UUID
	// IntoLot is the batch that it went into; Counters the movement that it takes back.
	IntoLot  *uuid.UUID
	Counters *uuid.UUID
	// First is the kind of the movement that a counter takes back.
	First   shelf.Kind
	Account *uuid.UUID
	// Tax on the invoice of a delivery; Credit that the supplier gives for goods sent back, their cost where nil. A
	// counter has those of the first.
	Tax    decimal.Decimal
	Credit *decimal.Decimal
	// Sure is false where nobody looked at the lot that was proposed.
	Sure   bool
	Reason string
	Note   string
	At     time.Time
}

// StockStore is what moving stock asks of the studio's data.
type StockStore interface {
	LedgerStore
	// HoldPacks lists the packs of products, used up ones too, and keeps others from moving any of them
	// until the transaction ends.
	HoldPacks(ctx context.Context, products []uuid.UUID) ([]Pack, error)
	// HoldLeft is HoldPacks of those packs alone that hold something, of the newest of each product, and of those named.
	HoldLeft(ctx context.Context, products, also []uuid.UUID) ([]Pack, error)
	// Layers lists what deliveries cost, with what is left of each, by id.
	Layers(ctx context.Context, layers []uuid.UUID) (map[uuid.UUID]*shelf.Layer, error)
	// AverageWorths is what products are worth by moving average.
	AverageWorths(ctx context.Context, products []uuid.UUID) (map[uuid.UUID]decimal.Decimal, error)
	AddMovement(ctx context.Context, m *Movement) error
	// SoldOf is what was sold of a lot and not brought back.
	SoldOf(ctx context.Context, lot uuid.UUID) (decimal.Decimal, error)
	OpenPack(ctx context.Context, pack uuid.UUID, day string, by *uuid.UUID) error
}

// Stock is the packs of some products, held until the transaction ends: whoever reads them here sees what
// is left, and nobody else takes from it meanwhile.
type Stock struct {
	tx     StockStore
	today  string
	by     *uuid.UUID
	at     time.Time
	Packs  []Pack
	layers map[uuid.UUID]*shelf.Layer
	worths map[uuid.UUID]decimal.Decimal // by moving average
}

// HoldStock holds the packs of products: those that hold something and the newest of each; a used up one is among them
// where it is named, or once it is moved.
func HoldStock(
	ctx context.Context, tx StockStore, products []uuid.UUID, today string, by *uuid.UUID, at time.Time, also ...uuid.UUID,
) (*Stock, error) {
	s := &Stock{tx: tx, today: today, by: by, at: at}
	var err error
	if s.Packs, err = tx.HoldLeft(ctx, products, also); err != nil {
		return nil, err
	}
	if s.layers, err = tx.Layers(ctx, LayersOf(s.Packs)); err != nil {
		return nil, err
	}
	s.worths, err = tx.AverageWorths(ctx, products)
	return s, err
}

// LayersOf are the deliveries that packs came with, each once.
func LayersOf(packs []Pack) []uuid.UUID {
	out := make([]uuid.UUID, len(packs))
	for i := range packs {
		out[i] = packs[i].Layer
	}
	slices.SortFunc(out, func(a, b uuid.UUID) int { return bytes.Compare(a[:], b[:]) })
	return slices.Compact(out)
}

// fetch is a pack that is held or, where it is used up, read now: its product is held.
func (s *Stock) fetch(ctx context.Context, id uuid.UUID) (*Pack, error) {
	if p := s.Pack(id); p != nil {
		return p, nil
	}
	more, err := s.tx.HoldLeft(ctx, nil, []uuid.UUID{id})
	if err != nil || len(more) == 0 {
		return nil, errors.Join(err, ErrNotFound)
	}
	layers, err := s.tx.Layers(ctx, LayersOf(more))
	if err != nil {
		return nil, err
	}
	for layer, of := range layers {
		if s.layers[layer] == nil {
			s.layers[layer] = of
		}
	}
	s.Packs = append(s.Packs, more...)
	return s.Pack(id), nil
}

// After puts the moment of movements after another one, where it is before it.
func (s *Stock) After(moment time.Time) {
	if s.at.Before(moment) {
		s.at = moment
	}
}

// Today is the day on which the stock is held.
func (s *Stock) Today() string { return s.today }

// Pack is a pack by its id; nil where it is none of those held.
func (s *Stock) Pack(id uuid.UUID) *Pack {
	if i := slices.IndexFunc(s.Packs, func(p Pack) bool { return p.ID == id }); i >= 0 {
		return &s.Packs[i]
	}
	return nil
}

// Pick proposes packs of a product for an amount: the one in the hand, or the first to expire of those on
// a side.
func (s *Stock) Pick(product uuid.UUID, amount decimal.Decimal, inHand *uuid.UUID, side string) (shelf.Picked, []*Pack, error) {
	return PickPacks(s.Packs, product, amount, inHand, side, s.today)
}

// PickPacks proposes packs of a product for an amount, see [Stock.Pick]; the places in what was picked are
// those in the packs returned.
func PickPacks(
	packs []Pack, product uuid.UUID, amount decimal.Decimal, inHand *uuid.UUID, side, today string,
) (shelf.Picked, []*Pack, error) {
	var of []*Pack
	var core []shelf.Pack
	hand := -1
	for i := range packs {
		p := &packs[i]
		if p.Product != product || p.Side != side && (inHand == nil || p.ID != *inHand) {
			continue
		}
		if inHand != nil && p.ID == *inHand {
			hand = len(of)
		}
		of, core = append(of, p), append(core, p.Pack)
	}
	if inHand != nil && hand >= 0 {
		return shelf.PickInHand(core, hand, amount), of, nil
	}
	picked, err := shelf.PickFrom(core, amount, today)
	return picked, of, err
}

// Move writes a movement of a held pack: judged, costed, and the pack opened where a use opens it. What a
// movement does not say of pack, lot, time and person is filled in. Override is the reason why a pack that
// may not be used is used.
func (s *Stock) Move(ctx context.Context, m Movement, override string) (*Movement, error) {
	p, err := s.fetch(ctx, m.Pack)
	if err != nil {
		return nil, err
	}
	judged := shelf.Move{
		Kind: m.Kind, Amount: m.Amount, Pack: &p.Pack, Today: s.today, Reason: m.Reason, Override: override,
		Recalled: p.Recalled, Batch: p.Batch, Size: p.Size,
	}
	if m.Kind == shelf.Return {
		sold, err := s.tx.SoldOf(ctx, p.LotID)
		if err != nil {
			return nil, err
		}
		judged.Sold = sold
	}
	if why := judged.Refuse(); why != "" {
		return nil, &StockError{why, p.Pack}
	}
	m.ID, m.Lot = NewID(), p.LotID
	if m.Account == nil {
		m.Account = s.by
	}
	if m.At.IsZero() {
		m.At = s.at
	}
	m.Value = s.layers[p.Layer].Move(m.Amount)
	m.Average = s.average(p.Product, &m)
	if err := s.tx.AddMovement(ctx, &m); err != nil {
		return nil, err
	}
	if err := postMovement(ctx, s.tx, &m, p.Product); err != nil {
		return nil, err
	}
	p.Left = p.Left.Add(m.Amount)
	opens := m.Kind == shelf.Treatment || m.Kind == shelf.PatchTest || m.Kind == shelf.Make || m.Kind == shelf.Tester
	if opens && p.Opened == nil {
		day := s.today
		p.Opened = &day
		if err := s.tx.OpenPack(ctx, p.ID, day, s.by); err != nil {
			return nil, err
		}
	}
	return &m, nil
}

// average is what a product is worth more by moving average, or less, by a movement: what comes in comes at its
// own cost.
func (s *Stock) average(product uuid.UUID, m *Movement) decimal.Decimal {
	change := m.Value
	if m.Amount.IsNegative() {
		left := decimal.Zero
		for i := range s.Packs {
			if s.Packs[i].Product == product {
				left = left.Add(s.Packs[i].Left)
			}
		}
		change = shelf.AveragePart(s.worths[product], m.Amount.Neg(), left).Neg()
	}
	s.worths[product] = s.worths[product].Add(change)
	return change
}

// StockError says why a movement is not allowed.
type StockError struct {
	Why  shelf.Refusal
	Pack shelf.Pack
}

func (e *StockError) Error() string { return "studio: a movement is refused: " + string(e.Why) }

// Sentence says what happened and what to do.
func (e *StockError) Sentence() words.Sentence {
	switch e.Why {
	case shelf.NotEnough:
		return words.OnlyRemainingIsLeftInLotNumber(e.Pack.Left, e.Pack.Lot)
	case shelf.IsRecalled:
		return words.LotIsRecalled(e.Pack.Lot)
	case shelf.IsBlocked:
		return words.LotIsBlocked(e.Pack.Lot)
	case shelf.IsExpired:
		return words.LotIsPastItsDay(e.Pack.Lot)
	case shelf.NeedsReason:
		return words.ChooseWhyItWasWasted()
	case shelf.WholePack:
		return words.OnlyAWholePackLeavesThisWay(e.Pack.Left)
	case shelf.SealedPack:
		return words.OnlyASealedPackLeavesThisWay()
	case shelf.NeverSold:
		return words.ABatchIsNeverSold()
	case shelf.MoreThanSold:
		return words.NoMoreThanWasSoldComesBack()
	case shelf.DayToCome:
		return words.ThisDayIsStillToCome()
	case shelf.BeforeReceived:
		return words.ThePackCameOnLaterDay()
	case shelf.BeforeCounted:
		return words.TheLotWasCountedSince()
	}
	return words.UseMinusForStockGoingOutPlus()
}

// NewDelivery is packs of one lot that come in.
type NewDelivery struct {
	Product    uuid.UUID
	Number     string
	Expiry     string // a day; empty where the pack states none
	Received   string
	Opened     string // of the first pack; empty while all are sealed
	MonthsOpen int
	Packs      int
	PackSize   decimal.Decimal // in the product's unit
	Cost       decimal.Decimal // of all of them, without the tax that is paid back
	Tax        decimal.Decimal
	Minor      int32 // decimals of the currency
	Side       string
	// Order is the order it was received for.
	Order *uuid.UUID
}

// DeliveryStore is what taking in a delivery asks of the studio's data.
type DeliveryStore interface {
	StockStore
	LotNumbered(ctx context.Context, product uuid.UUID, number string) (*Lot, error)
	AddLot(ctx context.Context, l *Lot) error
	// AddLayer adds what a delivery of a lot cost and returns its id and the number of the lot's last pack.
	AddLayer(ctx context.Context, lot uuid.UUID, received string, cost, amount decimal.Decimal, order *uuid.UUID) (id uuid.UUID, packs int, err error)
	AddPack(ctx context.Context, p *Pack) error
}

// OtherExpiryError says that the lot is there already, good until another day.
type OtherExpiryError struct{ Number, Expiry string }

func (e *OtherExpiryError) Error() string { return "studio: the lot is there with another last day" }

// TakeIn puts packs on the shelf. The same lot number again adds packs to the lot, where its last day is
// the same; what they cost is a layer of its own, picked after those before.
func TakeIn(ctx context.Context, tx DeliveryStore, n *NewDelivery, by *uuid.UUID, at time.Time) ([]Pack, error) {
	lot, err := tx.LotNumbered(ctx, n.Product, n.Number)
	switch {
	case errors.Is(err, ErrNotFound):
		lot = &Lot{ID: NewID(), Product: n.Product, Number: n.Number, Expiry: n.Expiry, Received: n.Received, MonthsOpen: n.MonthsOpen}
		if err := tx.AddLot(ctx, lot); err != nil {
			return nil, err
		}
	case err != nil:
		return nil, err
	case lot.Expiry != n.Expiry:
		return nil, &OtherExpiryError{lot.Number, lot.Expiry}
	}
	amount := n.PackSize.Mul(decimal.NewFromInt(int64(n.Packs)))
	id, last, err := tx.AddLayer(ctx, lot.ID, n.Received, n.Cost, amount, n.Order)
	if err != nil {
		return nil, err
	}
	layer := &shelf.Layer{Cost: n.Cost, Amount: amount, Minor: n.Minor}
	taxes := money.Shares(n.Tax, make([]decimal.Decimal, n.Packs), n.Minor)
	out := make([]Pack, n.Packs)
	for i := range out {
		p := Pack{ID: NewID(), LotID: lot.ID, Layer: id, Product: n.Product, Size: n.PackSize, Side: n.Side, Received: n.Received}
		p.Lot, p.Number = lot.Number, last+i+1
		if i == 0 && n.Opened != "" {
			p.Opened = &n.Opened
		}
		if err := tx.AddPack(ctx, &p); err != nil {
			return nil, err
		}
		m := Movement{
			ID: NewID(), Pack: p.ID, Lot: lot.ID, Kind: shelf.Receive, Amount: n.PackSize, Value: layer.Move(n.PackSize),
			Account: by, Sure: true, At: at, Tax: taxes[i],
		}
		m.Average = m.Value
		if err := tx.AddMovement(ctx, &m); err != nil {
			return nil, err
		}
		if err := postMovement(ctx, tx, &m, n.Product); err != nil {
			return nil, err
		}
		p.Left = n.PackSize
		out[i] = p
	}
	return out, nil
}

// Refused makes of a movement that is refused a fault of what was sent, at a path; other errors stay.
func Refused(path string, err error) error {
	var refused *StockError
	if errors.As(err, &refused) {
		return FaultAt(path, refused.Sentence())
	}
	return err
}

// ProductUse is what was used of a product in a treatment: what the records teach is read from these.
type ProductUse struct {
	Visit, Product, Practitioner, Protocol uuid.UUID
	Day                                    string
	Planned, Used                          decimal.Decimal
	How, Measure                           string
	// OverPlan is what was used beyond the plan, at the cost of its lots; below zero where it was less.
	Cost, OverPlan decimal.Decimal
	At             time.Time
}

// UsableOf is how much of a product may be used on a day in the cabin.
func UsableOf(packs []Pack, product uuid.UUID, today string) decimal.Decimal {
	sum := decimal.Zero
	for i := range packs {
		if p := &packs[i]; p.Product == product && p.Side == CabinSide && p.Usable(today) {
			sum = sum.Add(p.Left)
		}
	}
	return sum
}

// DoseRecord is what was measured of a product, with its practitioner.
type DoseRecord struct {
	Product, Practitioner uuid.UUID
	shelf.Dosed
}

// PacksSold are so many packs of a product, for a client if known.
type PacksSold struct {
	Product uuid.UUID
	Packs   int
	Client  *uuid.UUID
	Despite string
	Note    string
	// Path of the line, for what is wrong with it.
	Path string
	// At is when they were sold.
	At time.Time
}
