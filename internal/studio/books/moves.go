package books

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// MovedMoney is money that moved without a receipt, as it is listed; Countered says that it was taken back.
type MovedMoney struct {
	ID        uuid.UUID       `json:"id"`
	Kind      string          `json:"kind"`
	Day       string          `json:"day"`
	Amount    decimal.Decimal `json:"amount"`
	Note      string          `json:"note"`
	Countered bool            `json:"countered"`
}

// TipOwed is what is owed to a practitioner in tips.
type TipOwed struct {
	Practitioner uuid.UUID       `json:"practitioner"`
	Name         string          `json:"name"`
	Amount       decimal.Decimal `json:"amount"`
}

// moveStore reads and counters money that moved without a receipt.
type moveStore interface {
	studio.LedgerStore
	// MovedMoney lists it, the newest first.
	MovedMoney(ctx context.Context, limit int) ([]MovedMoney, error)
	// LockEvent returns an event of money that moved without a receipt, with its postings, and whether it was countered.
	LockEvent(ctx context.Context, id uuid.UUID) (*studio.LedgerEvent, bool, error)
}

// movesAtOnce is how many are listed.
const movesAtOnce = 40

// MovedMoneyList lists money that moved without a receipt.
func (s *Service) MovedMoneyList(ctx context.Context, a *studio.Actor) (out []MovedMoney, err error) {
	if err := a.May("list-moved-money"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) (err error) {
		out, err = tx.MovedMoney(ctx, movesAtOnce)
		return err
	})
	return out, err
}

// CounterMoney takes money back that was written wrongly: every posting with the other sign, naming the first, once.
func (s *Service) CounterMoney(ctx context.Context, a *studio.Actor, id uuid.UUID, why string) error {
	if err := a.May("counter-money"); err != nil {
		return err
	}
	if why = strings.TrimSpace(why); why == "" {
		return studio.FaultAt("/why", words.SayWhyItIsTakenBack())
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		first, countered, err := tx.LockEvent(ctx, id)
		if err != nil || countered {
			return err
		}
		err = tx.AddLedgerEvent(ctx, &studio.LedgerEvent{
			ID: studio.NewID(), Kind: money.Countered, At: s.Now(), Account: &a.Account, CounterOf: &id, Note: why,
			Postings: money.Countering(first.Postings),
		})
		if err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "counter", "money", id)
	})
}

// TipsOwedList lists what is owed in tips, by practitioner's name.
func (s *Service) TipsOwedList(ctx context.Context, a *studio.Actor) (out []TipOwed, err error) {
	if err := a.May("list-tips"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		owed, err := tx.TipsOwed(ctx)
		if err != nil {
			return err
		}
		people, err := tx.Practitioners(ctx)
		if err != nil {
			return err
		}
		out = []TipOwed{}
		for i := range people {
			if amount := owed[people[i].ID]; amount.IsPositive() {
				out = append(out, TipOwed{people[i].ID, people[i].Name, amount})
			}
		}
		return nil
	})
	return out, err
}

// EarnedVisit is what one treatment left, real and as planned.
type EarnedVisit struct {
	Visit        uuid.UUID       `json:"visit"`
	Day          string          `json:"day"`
	Practitioner string          `json:"practitioner"`
	Net          decimal.Decimal `json:"net"`
	Cost         decimal.Decimal `json:"cost"`
	Planned      decimal.Decimal `json:"plannedCost"`
	Margin       decimal.Decimal `json:"margin"`
	PerMinute    decimal.Decimal `json:"perMinute"`
}

// EarnedOf lists what the treatments of a protocol left in the three months before the end of a day's week, the newest
// first.
func (s *Service) EarnedOf(ctx context.Context, a *studio.Actor, protocol, day string) (out []EarnedVisit, err error) {
	if err := a.May("list-earned"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if day == "" {
			day = s.Today(st)
		}
		monday, err := time.ParseInLocation(time.DateOnly, weekOf(day), st.Zone())
		if err != nil {
			return studio.FaultAt("/day", words.EnterADayBetween(studio.FirstDay, studio.LastDay))
		}
		given, err := tx.GivenVisits(ctx, monday.AddDate(0, -monthsOfPays, 0), monday.AddDate(0, 0, 7), protocol)
		if err != nil {
			return err
		}
		out = []EarnedVisit{}
		for i := len(given) - 1; i >= 0; i-- {
			g := &given[i]
			if g.Net == nil {
				continue
			}
			real, planned, err := g.earn(st)
			if err != nil {
				return err
			}
			out = append(out, EarnedVisit{
				Visit: g.Visit, Day: g.Day, Practitioner: g.Practitioner, Net: real.Net, Cost: real.Cost, Planned: planned.Cost,
				Margin: real.Margin, PerMinute: real.PerMinute,
			})
		}
		return nil
	})
	return out, err
}
