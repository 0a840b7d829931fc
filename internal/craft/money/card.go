package money

import (
	"errors"
	"fmt"

	"github.com/shopspring/decimal"
)

// CardState is where a card payment stands (handbook, chapter 8, Card).
type CardState string

// The states of a card payment.
const (
	CardAsked      CardState = "asked"
	CardApproved   CardState = "approved"
	CardDeclined   CardState = "declined"
	CardUnknown    CardState = "unknown"
	CardStored     CardState = "stored"
	CardRefused    CardState = "refused"
	CardCancelling CardState = "cancelling"
	CardReversed   CardState = "reversed"
)

// Counts reports whether the payment counts as taken: approved, or stored by a terminal that is offline.
func (s CardState) Counts() bool { return s == CardApproved || s == CardStored }

// CardAct is something done with a payment: press, answer, ask, settle or cancel; Is is what the terminal says.
type CardAct struct {
	Do     string          `json:"do" enum:"press,answer,ask,settle,cancel"`
	Key    string          `json:"key"`
	Amount decimal.Decimal `json:"amount,omitempty"`
	Is     string          `json:"is,omitempty"`
}

// cardSteps are the acts that change a payment's state; anything else changes nothing.
var cardSteps = map[CardState]map[string]CardState{
	CardAsked: {
		"answer approved": CardApproved, "answer declined": CardDeclined, "answer timeout": CardUnknown,
		"answer unknown": CardUnknown, "answer offline": CardStored, "answer stored": CardStored, "cancel": CardDeclined,
	},
	CardUnknown: {"ask approved": CardApproved, "ask declined": CardDeclined, "cancel": CardCancelling},
	CardStored:  {"settle ok": CardApproved, "settle approved": CardApproved, "settle refused": CardRefused},
	// A late approval is reversed too.
	CardCancelling: {
		"ask reversed": CardReversed, "ask approved": CardReversed, "ask declined": CardDeclined,
		"answer reversed": CardReversed, "answer approved": CardReversed, "answer declined": CardDeclined,
	},
}

// After is the state after an act.
func (s CardState) After(do, is string) CardState {
	act := do
	if do != "cancel" {
		act += " " + is
	}
	if next, ok := cardSteps[s][act]; ok {
		return next
	}
	return s
}

// CardDay are card payments after a list of acts: the state of each key, how many were charged, and what counts as taken.
type CardDay struct {
	States  map[string]CardState `json:"states"`
	Charges int                  `json:"charges"`
	Counted decimal.Decimal      `json:"counted"`
}

// Cards follows card payments: one payment a key; pressed again it is the same payment, and with another amount
// nothing (handbook, chapter 8, Card).
func Cards(acts []CardAct) (CardDay, error) {
	day, amounts := CardDay{States: map[string]CardState{}}, map[string]decimal.Decimal{}
	for i, a := range acts {
		if a.Key == "" {
			return day, fmt.Errorf("act %d has no key", i+1)
		}
		state, known := day.States[a.Key]
		switch {
		case a.Do == "press" && !known:
			if !a.Amount.IsPositive() {
				return day, errors.New("a payment needs an amount above 0")
			}
			day.States[a.Key], amounts[a.Key] = CardAsked, a.Amount
			day.Charges++
		case known:
			day.States[a.Key] = state.After(a.Do, a.Is)
		}
	}
	for key, state := range day.States {
		if state.Counts() {
			day.Counted = day.Counted.Add(amounts[key])
		}
	}
	return day, nil
}

// CardBounced is the event of a stored card payment that the card company refuses.
const CardBounced EventKind = "card-refused"

// CardRefusedPostings are those of a stored payment that is refused: it is owed by the client.
func CardRefusedPostings(amount decimal.Decimal) []Posting {
	return []Posting{
		{Account: OwedByClients, Amount: amount, Way: ByLater},
		{Account: CardCompany, Amount: amount.Neg(), Way: ByCard},
	}
}

// CardDifference is a card payment of which the books and the terminal say different amounts; nil where one of them
// knows nothing of it.
type CardDifference[K comparable] struct {
	Key          K
	Ours, Theirs *decimal.Decimal
}

// MatchCards compares what the books count as taken with what the terminal counts, key by key (handbook, chapter 8, Day
// close). What was given back is below zero. The order is the caller's to choose.
func MatchCards[K comparable](ours, theirs map[K]decimal.Decimal) []CardDifference[K] {
	var out []CardDifference[K]
	for key, amount := range ours {
		theirs, known := theirs[key]
		switch {
		case !known:
			out = append(out, CardDifference[K]{key, &amount, nil})
		case !theirs.Equal(amount):
			out = append(out, CardDifference[K]{key, &amount, &theirs})
		}
	}
	for key, amount := range theirs {
		if _, known := ours[key]; !known {
			out = append(out, CardDifference[K]{key, nil, &amount})
		}
	}
	return out
}
