package shelf

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// MovementLine is a movement as it is shown.
type MovementLine struct {
	studio.Movement
	LotNumber  string
	PackNumber int
	// By whom, and for which client.
	By, ClientName string
	// Countered says that it was taken back.
	Countered bool
}

// movementsAtOnce is how many movements a page has.
const movementsAtOnce = 40

// Movements lists the movements of a product, newest first, a page of them from before a moment on.
func (s *Service) Movements(ctx context.Context, a *studio.Actor, product uuid.UUID, before time.Time) (out []MovementLine, err error) {
	if err := a.May("list-movements"); err != nil {
		return nil, err
	}
	if before.IsZero() {
		before = s.Now().AddDate(1, 0, 0)
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) (err error) {
		if _, err := productOf(ctx, tx, product); err != nil {
			return err
		}
		out, err = tx.MovementsOf(ctx, product, before, movementsAtOnce)
		return err
	})
	return out, err
}

// PackMove is something done with a pack: wasted, sold, sent back.
type PackMove struct {
	Kind shelf.Kind `json:"kind" enum:"waste,tester,retail,return,send-back,dispose,stocktake"`
	// Amount that moves, always above zero; of a count, what was found in the pack. Absent for all that the
	// pack holds.
	Amount *decimal.Decimal `json:"amount,omitempty"`
	// Reason of waste.
	Reason string     `json:"reason,omitempty" maxLength:"60"`
	Note   string     `json:"note,omitempty" maxLength:"300"`
	Client *uuid.UUID `json:"client,omitempty" format:"uuid"`
	// Despite is why it is sold to a client who is to keep away from something in it.
	Despite string `json:"despite,omitempty" maxLength:"300"`
	// Day on which it happened, where that was before today.
	Day string `json:"day,omitempty" format:"date"`
	// Credit that the supplier gives for what is sent back, without tax; absent where it is what the goods cost.
	Credit *decimal.Decimal `json:"credit,omitempty"`
	// Opened says that what a client brings back was opened: it is disposed of in the same step.
	Opened bool `json:"opened,omitempty"`
}

// MovePack moves stock of one pack, other than by a treatment or a delivery.
func (s *Service) MovePack(ctx context.Context, a *studio.Actor, pack uuid.UUID, n PackMove) error {
	operation := "move-pack"
	if n.Kind == shelf.Stocktake {
		operation = "correct-stock"
	}
	if err := a.May(operation); err != nil {
		return err
	}
	return s.heldOn(ctx, a, pack, n.Day, func(tx Store, st *studio.Studio, stock *studio.Stock, p *studio.Pack) error {
		amount := p.Left
		if n.Amount != nil {
			amount = *n.Amount
		}
		if err := studio.CheckAmount("/amount", amount); err != nil {
			return err
		}
		if amount.IsNegative() || !amount.IsPositive() && n.Kind != shelf.Stocktake {
			return studio.FaultAt("/amount", words.SayHowMuch())
		}
		if n.Kind == shelf.Stocktake && stock.Today() != s.Today(st) {
			return studio.FaultAt("/day", words.ACountIsOfToday())
		}
		switch n.Kind {
		case shelf.Treatment, shelf.Receive, shelf.Make, shelf.Made, shelf.PatchTest, shelf.Counter:
			return studio.FaultAt("/kind", words.TreatmentsDeliveriesRecordedAutomaticallyChooseAnotherReason())
		case shelf.Stocktake:
			if amount = amount.Sub(p.Left); amount.IsZero() {
				return nil // as the books have it
			}
		case shelf.Return:
		case shelf.SendBack:
			if strings.TrimSpace(n.Note) == "" {
				return studio.FaultAt("/note", words.SayWhatCreditIsExpected())
			}
			if n.Credit != nil {
				if err := studio.CheckMoney("/credit", *n.Credit); err != nil {
					return err
				}
			}
			amount = amount.Neg()
		default:
			amount = amount.Neg()
		}
		m := studio.Movement{
			Pack: pack, Kind: n.Kind, Amount: amount, Reason: n.Reason, Note: strings.TrimSpace(n.Note), Client: n.Client, Sure: true,
		}
		if n.Kind == shelf.SendBack {
			m.Credit = n.Credit
		}
		if n.Kind == shelf.Retail && n.Client != nil {
			if err := s.askAtTheTill(ctx, tx, st, a, p.Product, &n, &m); err != nil {
				return err
			}
		}
		if _, err := stock.Move(ctx, m, ""); err != nil {
			return studio.Refused("/amount", err)
		}
		switch {
		case n.Kind == shelf.Tester:
			return tx.SetSide(ctx, pack, studio.TesterSide)
		case n.Kind == shelf.Return && n.Opened:
			away := studio.Movement{Pack: pack, Kind: shelf.Dispose, Amount: amount.Neg(), Note: m.Note, Client: n.Client, Sure: true}
			_, err := stock.Move(ctx, away, "")
			return studio.Refused("/amount", err)
		}
		return nil
	})
}

// askAtTheTill sells a product to a client as it is used on one: what the client is to keep away from is named,
// and it is sold only with a word of reason, which stays in the movement's note.
func (s *Service) askAtTheTill(ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, product uuid.UUID, n *PackMove, m *studio.Movement) error {
	if err := a.MayClient(ctx, tx, "move-pack", *n.Client); err != nil {
		return err
	}
	p, err := productOf(ctx, tx, product)
	if err != nil {
		return err
	}
	about, err := s.Checks.BarTo(ctx, tx, st, *n.Client, &p.Product)
	if err != nil || about == "" {
		return err
	}
	why := strings.TrimSpace(n.Despite)
	if why == "" {
		return studio.FaultAt("/despite", words.ClientIsToKeepAwayFrom(about))
	}
	m.Note = strings.TrimSpace(words.SoldDespite(about, why).Message + " " + m.Note)
	return nil
}

// movePack is a use case that holds one pack.
type movePack func(tx Store, st *studio.Studio, stock *studio.Stock, p *studio.Pack) error

// held runs a use case with a pack held.
func (s *Service) held(ctx context.Context, a *studio.Actor, pack uuid.UUID, fn movePack) error {
	return s.heldOn(ctx, a, pack, "", fn)
}

// heldOn runs a use case with a pack held, as of a day before today where one is named: its movements bear that
// day, which lies after the pack came and after its lot was last counted.
func (s *Service) heldOn(ctx context.Context, a *studio.Actor, pack uuid.UUID, day string, fn movePack) error {
	return studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		product, err := tx.ProductOfPack(ctx, pack)
		if err != nil {
			return err
		}
		today, at := s.Today(st), s.Now()
		back := day != "" && day != today
		if back {
			noon, err := time.ParseInLocation(time.DateOnly, day, st.Zone())
			if err != nil {
				return studio.FaultAt("/day", words.EnterADayFromTodayBack())
			}
			at = noon.Add(12 * time.Hour)
		} else {
			day = today
		}
		stock, err := studio.HoldStock(ctx, tx, []uuid.UUID{product}, day, &a.Account, at, pack)
		if err != nil {
			return err
		}
		p := stock.Pack(pack)
		if p == nil {
			return studio.ErrNotFound
		}
		if back {
			counted, closed, err := tx.LotCounted(ctx, p.LotID, st.TimeZone)
			if err != nil {
				return err
			}
			judged := shelf.DatedBack{Day: day, Today: today, Received: p.Received, Counted: counted}
			if why := judged.Refuse(); why != "" {
				return studio.Refused("/day", &studio.StockError{Why: why, Pack: p.Pack})
			}
			stock.After(closed)
		}
		return fn(tx, st, stock, p)
	})
}

// CounterMovement takes a movement back: its opposite, once, with a reason. What a treatment used is
// corrected in its record, not here.
func (s *Service) CounterMovement(ctx context.Context, a *studio.Actor, id uuid.UUID, why string) error {
	if err := a.May("counter-movement"); err != nil {
		return err
	}
	if why = strings.TrimSpace(why); why == "" {
		return studio.FaultAt("/note", words.SayWhyItIsTakenBack())
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		m, _, err := tx.Movement(ctx, id)
		if err != nil {
			return err
		}
		product, err := tx.ProductOfPack(ctx, m.Pack)
		if err != nil {
			return err
		}
		stock, err := studio.HoldStock(ctx, tx, []uuid.UUID{product}, s.Today(st), &a.Account, s.Now(), m.Pack)
		if err != nil {
			return err
		}
		_, by, err := tx.Movement(ctx, id) // again, now that nobody else takes it back
		switch {
		case err != nil:
			return err
		case by != nil:
			return &studio.StateError{Code: "countered", Sentence: words.ThisWasTakenBackAlready()}
		case m.Kind == shelf.Counter || m.Kind == shelf.Make || m.Kind == shelf.Made:
			return &studio.StateError{Code: "not-countered", Sentence: words.ThisCannotBeTakenBack()}
		}
		counter := studio.Movement{
			Pack: m.Pack, Kind: shelf.Counter, Amount: m.Amount.Neg(), Counters: &m.ID, First: m.Kind, Note: why, Sure: m.Sure, Visit: m.Visit, Client: m.Client,
			Tax: m.Tax, Credit: m.Credit,
		}
		if _, err := stock.Move(ctx, counter, ""); err != nil {
			return studio.Refused("/note", err)
		}
		if m.Kind == shelf.Tester {
			return tx.SetSide(ctx, m.Pack, studio.CabinSide)
		}
		return nil
	})
}

// OpenPack says that a pack was opened today; opening it twice changes nothing.
func (s *Service) OpenPack(ctx context.Context, a *studio.Actor, pack uuid.UUID) error {
	if err := a.May("open-pack"); err != nil {
		return err
	}
	return s.held(ctx, a, pack, func(tx Store, _ *studio.Studio, stock *studio.Stock, p *studio.Pack) error {
		if p.Opened != nil {
			return nil
		}
		return tx.OpenPack(ctx, pack, stock.Today(), &a.Account)
	})
}

// Label is what the sticker of an opened pack says.
type Label struct {
	Pack          uuid.UUID
	Name, Lot     string
	Number        int
	Opened, Until string
	Tester        bool
}

// StickerOf is what the sticker of an opened pack says.
func (s *Service) StickerOf(ctx context.Context, a *studio.Actor, pack uuid.UUID) (out *Label, err error) {
	if err := a.May("print-sticker"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		product, err := tx.ProductOfPack(ctx, pack)
		if err != nil {
			return err
		}
		p, err := productOf(ctx, tx, product)
		if err != nil {
			return err
		}
		packs, err := tx.Packs(ctx)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(packs, func(q studio.Pack) bool { return q.ID == pack })
		if i < 0 {
			return studio.ErrNotFound // used up
		}
		q := &packs[i]
		if q.Opened == nil {
			return &studio.StateError{Code: "sealed", Sentence: words.OpenThePackFirst()}
		}
		out = &Label{pack, p.Name, q.Lot, q.Number, *q.Opened, q.Until(), q.Side == studio.TesterSide}
		return nil
	})
	return out, err
}

// ChangeSide puts a sealed pack on the cabin or the retail side; its value stays.
func (s *Service) ChangeSide(ctx context.Context, a *studio.Actor, pack uuid.UUID, side string) error {
	if err := a.May("change-side"); err != nil {
		return err
	}
	return s.held(ctx, a, pack, func(tx Store, _ *studio.Studio, _ *studio.Stock, p *studio.Pack) error {
		switch {
		case side != studio.CabinSide && side != studio.RetailSide || p.Side == studio.TesterSide:
			return studio.FaultAt("/side", words.ChooseCabinOrRetail())
		case side == studio.RetailSide && p.Opened != nil:
			return studio.FaultAt("/side", words.OnlyASealedPackLeavesThisWay())
		case side == studio.RetailSide && p.Batch:
			return studio.FaultAt("/side", words.ABatchIsNeverSold())
		}
		return tx.SetSide(ctx, pack, side)
	})
}

// SetAside blocks lots that are not blocked yet, with the reason.
func (s *Service) SetAside(ctx context.Context, within studio.Tx, a *studio.Actor, lots []uuid.UUID, why string) error {
	tx := studio.As[Store](within)
	var free, products []uuid.UUID
	for _, id := range lots {
		l, err := tx.Lot(ctx, id)
		if err != nil {
			return err
		}
		products = append(products, l.Product)
	}
	if len(lots) == 0 {
		return nil
	}
	packs, err := tx.HoldPacks(ctx, products)
	if err != nil {
		return err
	}
	for _, id := range lots {
		if slices.ContainsFunc(packs, func(p studio.Pack) bool { return p.LotID == id && p.Why == "" && !p.Recalled }) {
			free = append(free, id)
		}
	}
	return tx.BlockLots(ctx, free, why, false, a.Account, s.Now())
}

// BlockLot blocks all packs of a lot, or lets them be used again where no reason is given. A recall stays.
func (s *Service) BlockLot(ctx context.Context, a *studio.Actor, lot uuid.UUID, why string) error {
	if err := a.May("block-lot"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		l, err := tx.Lot(ctx, lot)
		if err != nil {
			return err
		}
		packs, err := tx.HoldPacks(ctx, []uuid.UUID{l.Product})
		if err != nil {
			return err
		}
		for i := range packs {
			if packs[i].LotID == lot && packs[i].Recalled {
				return &studio.StateError{Code: "recalled", Sentence: words.LotIsRecalled(l.Number)}
			}
		}
		return tx.BlockLots(ctx, []uuid.UUID{lot}, strings.TrimSpace(why), false, a.Account, s.Now())
	})
}
