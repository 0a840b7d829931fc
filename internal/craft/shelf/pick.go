package shelf

import (
	"cmp"
	"slices"

	"github.com/shopspring/decimal"
)

// Pick is what is taken from one pack.
type Pick struct {
	Lot    string          `json:"lot"`
	Pack   int             `json:"pack"`
	Amount decimal.Decimal `json:"amount"`
	// Opens says that a sealed pack is opened by it.
	Opens bool `json:"opens"`
	// At is the pack's place in the list it was picked from.
	At int `json:"-"`
}

// Picked is a proposal: in order, and what is short.
type Picked struct {
	Taken []Pick          `json:"taken"`
	Short decimal.Decimal `json:"short"`
}

// standing is a pack with its last day of use.
type standing struct {
	*Pack
	until string
	n     int // its number
	at    int // its place in the list
}

// inOrder sorts packs as they are picked: by last day of use (none last), open before sealed, then lot
// number, then pack number (handbook, chapter 4, Picking).
func inOrder(packs []Pack) ([]standing, error) {
	out := make([]standing, len(packs))
	for i := range packs {
		until, err := packs[i].GoodUntil()
		if err != nil {
			return nil, err
		}
		out[i] = standing{&packs[i], until, max(packs[i].Number, 1), i}
	}
	slices.SortStableFunc(out, func(a, b standing) int {
		return cmp.Or(
			cmp.Compare(noneLast(a.until), noneLast(b.until)),
			cmp.Compare(sealed(a.Pack), sealed(b.Pack)),
			cmp.Compare(a.Lot, b.Lot),
			cmp.Compare(a.n, b.n),
		)
	})
	return out, nil
}

func noneLast(until string) string {
	if until == "" {
		return "~"
	}
	return until
}

func sealed(p *Pack) int {
	if p.Opened == nil {
		return 1
	}
	return 0
}

// PickInHand takes an amount from the pack that is really in the hand first, whatever else would go before
// it; where that holds too little, the rest is short, and so is offered from the others.
func PickInHand(packs []Pack, at int, amount decimal.Decimal) Picked {
	p := &packs[at]
	n := decimal.Max(decimal.Zero, decimal.Min(amount, p.Left))
	out := Picked{Taken: []Pick{}, Short: amount.Sub(n)}
	if n.IsPositive() {
		out.Taken = append(out.Taken, Pick{p.Lot, max(p.Number, 1), n, p.Opened == nil, at})
	}
	return out
}

// PickFrom proposes packs for an amount on a day: only what is good, not blocked and has something left,
// each in full before the next.
func PickFrom(packs []Pack, amount decimal.Decimal, today string) (Picked, error) {
	list, err := inOrder(packs)
	if err != nil {
		return Picked{}, err
	}
	out := Picked{Taken: []Pick{}, Short: amount}
	for _, p := range list {
		if !out.Short.IsPositive() {
			break
		}
		if p.Blocked || !p.Left.IsPositive() || p.until != "" && p.until < today {
			continue
		}
		n := decimal.Min(out.Short, p.Left)
		out.Taken = append(out.Taken, Pick{p.Lot, p.n, n, p.Opened == nil, p.at})
		out.Short = out.Short.Sub(n)
	}
	return out, nil
}
