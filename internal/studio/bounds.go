package studio

import (
	"time"

	"github.com/shopspring/decimal"

	"softpalm/words"
)

// The bounds of what is entered. They are the same in the API, in imported files
// (docs/formats) and in the database (migration 00016).
var (
	// MostAmount is the most of anything in mL or g, to 0.001.
	MostAmount = decimal.NewFromInt(100_000)
	// MostMoney is the most of any sum, to 0.01.
	MostMoney = decimal.RequireFromString("9999999.99")
)

// The first and the last day that can be entered, and how far ahead can be booked.
const (
	FirstDay     = "1900-01-01"
	LastDay      = "2100-12-31"
	BookingAhead = 2 * 366 * 24 * time.Hour
)

// The decimal places of amounts and of money.
const (
	amountPlaces = 3
	moneyPlaces  = 2
)

// CheckAmount refuses an amount beyond the bounds, on either side of nothing, and one that
// is finer than it can be kept.
func CheckAmount(path string, d decimal.Decimal) error {
	if d.Abs().GreaterThan(MostAmount) || !d.Equal(d.Truncate(amountPlaces)) {
		return FaultAt(path, words.EnterAnAmountUpToMost(MostAmount.String()))
	}
	return nil
}

// CheckMoney refuses a sum beyond the bounds, below nothing, or with parts of a cent.
func CheckMoney(path string, d decimal.Decimal) error {
	if d.IsNegative() || d.GreaterThan(MostMoney) || !d.Equal(d.Truncate(moneyPlaces)) {
		return FaultAt(path, words.EnterASumUpToMost(MostMoney.String()))
	}
	return nil
}

// CheckDay refuses what is no day, or one outside the bounds.
func CheckDay(path, day string) error {
	if _, err := time.Parse(time.DateOnly, day); err != nil || day < FirstDay || day > LastDay {
		return FaultAt(path, words.EnterADayBetween(FirstDay, LastDay))
	}
	return nil
}
