package studio

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/money"
)

// MoneyBrought is something that happened to the studio's money before a file was brought in, with the ids of what it
// names. Amounts are decimal texts.
type MoneyBrought struct {
	Kind   string
	At     time.Time
	Day    string
	Client *uuid.UUID
	Visit  *uuid.UUID
	Lines  []LineBrought
	// Pay are the ways in order, each the rest but where an amount is named. A card may have been stored offline.
	Pay    []PayBrought
	Tip    string
	TipFor uuid.UUID
	// Amount and Other: cash and bank at first, what the card company paid and its fee, or a price.
	Amount, Other string
	Note          string
	// Ref names a sale that another event speaks of.
	Ref string
	// Of a price.
	Protocol, Product *uuid.UUID
	Extra             string
	Visits, Minutes   int
	// Difference is by how much a closed till differed.
	Difference string
}

// LineBrought is a line of a sale.
type LineBrought struct {
	Kind              string
	Protocol, Product *uuid.UUID
	Extra, Package    string
	Amount            string
	Qty, Visits       int
	Percent, Why      string
	Giver             string
	Practitioner      *uuid.UUID
}

// PayBrought is a way that a sale was paid.
type PayBrought struct {
	By      money.Way
	Ref     string // of the sale that sold the voucher
	Amount  string
	Due     string
	Offline bool
}

// MoneyBringer takes what happened to a studio's money before.
type MoneyBringer interface {
	// BringMoney posts events in their order, each at its time.
	BringMoney(ctx context.Context, tx Tx, st *Studio, by *Actor, events []MoneyBrought) error
}
