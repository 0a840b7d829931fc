// Package shelf knows lots and packs: which may be used, which goes first, what is left and what a
// treatment cost. Amounts are in the product's unit (mL, g, pcs), money in exact decimals. Movements are
// only ever added; what is left is their sum.
package shelf

import (
	"slices"

	"github.com/shopspring/decimal"
)

const dayLayout = "2006-01-02"

// Kind is a kind of stock movement.
type Kind string

// The kinds of movement (handbook, chapter 4, Movements). Make takes the parts of a batch, Made adds the
// batch; a Counter is the opposite of one movement.
const (
	Receive   Kind = "receive"
	Make      Kind = "make"
	Made      Kind = "made"
	Treatment Kind = "treatment"
	PatchTest Kind = "patch-test"
	Waste     Kind = "waste"
	Tester    Kind = "tester"
	Retail    Kind = "retail"
	Return    Kind = "return"
	SendBack  Kind = "send-back"
	Dispose   Kind = "dispose"
	Stocktake Kind = "stocktake"
	Counter   Kind = "counter"
)

// Fits reports whether an amount has the sign its kind wants: what is received, made or comes back is
// above zero, a count or a counter either way, everything else leaves the shelf.
func (k Kind) Fits(amount decimal.Decimal) bool {
	switch k {
	case Receive, Made, Return:
		return amount.IsPositive()
	case Stocktake, Counter:
		return !amount.IsZero()
	}
	return amount.IsNegative()
}

// Reasons are why something is wasted: few, and counted per product and month (handbook, chapter 4).
var Reasons = []string{"spilled", "too-much-taken", "contaminated", "separated", "dried-up", "broken", "left-in-pack"}

// wasteLimit is the share of what treatments use, in per cent, over which waste is looked into (handbook,
// chapter 4, Waste; doubtful as a limit).
const wasteLimit = 5

// WasteShare is what was wasted in per cent of what treatments used, to one decimal, and whether it is enough to
// look into. Where nothing was used the share is 0, and any waste is.
func WasteShare(wasted, used decimal.Decimal) (percent decimal.Decimal, much bool) {
	if !used.IsPositive() {
		return decimal.Zero, wasted.IsPositive()
	}
	share := wasted.Mul(decimal.NewFromInt(100))
	return share.DivRound(used, 1), share.GreaterThan(used.Mul(decimal.NewFromInt(wasteLimit)))
}

// Move is a movement to judge, with what is known of its pack.
type Move struct {
	Kind   Kind
	Amount decimal.Decimal // what leaves is negative
	Pack   *Pack
	Today  string
	// Reason of waste, one of [Reasons]; Override is why a pack that may not be used is used all the same.
	Reason, Override string
	// Recalled packs are never used, whatever the reason; a Batch was mixed here and is never sold.
	Recalled, Batch bool
	// Size of the whole pack; Sold is what was sold of the lot and not brought back yet.
	Size, Sold decimal.Decimal
}

// Refusal says why a movement is not allowed.
type Refusal string

// Why a movement may be refused.
const (
	WrongSign    Refusal = "wrong-sign"
	NotEnough    Refusal = "not-enough"
	IsRecalled   Refusal = "recalled"
	IsBlocked    Refusal = "blocked"
	IsExpired    Refusal = "expired"
	NeedsReason  Refusal = "needs-reason"
	WholePack    Refusal = "whole-pack"
	SealedPack   Refusal = "sealed-pack"
	NeverSold    Refusal = "never-sold"
	MoreThanSold Refusal = "more-than-sold"
)

// DatedBack is a movement that is written down on a later day than it happened.
type DatedBack struct {
	Day, Today string
	// Received is the day on which the pack came; Counted the day of the last closed stocktake of its lot, empty
	// where there is none.
	Received, Counted string
}

// Why a day may be refused for a movement.
const (
	DayToCome      Refusal = "day-to-come"
	BeforeReceived Refusal = "before-received"
	BeforeCounted  Refusal = "before-counted"
)

// Refuse is why the movement may not bear its day: it lies between the last closed stocktake of the lot and today,
// and not before the pack came (handbook, chapter 4, Movements).
func (d *DatedBack) Refuse() Refusal {
	switch {
	case d.Day > d.Today:
		return DayToCome
	case d.Day < d.Received:
		return BeforeReceived
	case d.Day < d.Counted:
		return BeforeCounted
	}
	return ""
}

// Refuse is why the movement is not allowed; "" where it is (handbook, chapter 4, Movements).
func (m *Move) Refuse() Refusal {
	switch {
	case !m.Kind.Fits(m.Amount):
		return WrongSign
	case m.Pack.Left.Add(m.Amount).IsNegative():
		return NotEnough
	}
	good := m.Pack.Good(m.Today)
	switch m.Kind {
	case Treatment, PatchTest, Make:
		switch {
		case m.Recalled:
			return IsRecalled
		case m.Override != "":
		case m.Pack.Blocked:
			return IsBlocked
		case !good:
			return IsExpired
		}
	case Waste:
		switch {
		case !good:
			return IsExpired // it is disposed of
		case !slices.Contains(Reasons, m.Reason):
			return NeedsReason
		}
	case Tester:
		return m.whole(good)
	case Retail:
		if m.Batch {
			return NeverSold
		}
		return m.whole(good)
	case Return:
		if m.Amount.GreaterThan(m.Sold) {
			return MoreThanSold
		}
	}
	return ""
}

// whole is why a whole sealed pack does not leave.
func (m *Move) whole(good bool) Refusal {
	switch {
	case m.Recalled:
		return IsRecalled
	case m.Pack.Blocked:
		return IsBlocked
	case !good:
		return IsExpired
	case m.Pack.Opened != nil:
		return SealedPack
	case !m.Amount.Neg().Equal(m.Size):
		return WholePack
	}
	return ""
}

// TreatmentsLeft is how many whole treatments of a usual amount the rest gives;
// -1 where no usual amount is known.
func TreatmentsLeft(left, usual decimal.Decimal) int {
	if !usual.IsPositive() {
		return -1
	}
	return int(left.Div(usual).IntPart())
}
