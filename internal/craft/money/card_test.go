package money_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/money"
)

// Every path of a card payment (handbook, chapter 8, Card, and the compute README's states and acts).
func TestCardPayments(t *testing.T) {
	press := money.CardAct{Do: "press", Key: "k", Amount: dec("95.00")}
	for _, c := range []struct {
		why     string
		acts    []string
		state   money.CardState
		counted string
	}{
		{"asked", nil, money.CardAsked, "0"},
		{"approved", []string{"answer approved"}, money.CardApproved, "95"},
		{"declined", []string{"answer declined"}, money.CardDeclined, "0"},
		{"no answer", []string{"answer timeout"}, money.CardUnknown, "0"},
		{"late approval", []string{"answer timeout", "ask unknown", "ask approved"}, money.CardApproved, "95"},
		{"declined in the end", []string{"answer timeout", "ask declined"}, money.CardDeclined, "0"},
		{"offline", []string{"answer offline"}, money.CardStored, "95"},
		{"settled", []string{"answer offline", "settle ok"}, money.CardApproved, "95"},
		{"refused", []string{"answer offline", "settle refused"}, money.CardRefused, "0"},
		{"cancelled while asked", []string{"cancel"}, money.CardDeclined, "0"},
		{"cancelled while unknown", []string{"answer timeout", "cancel"}, money.CardCancelling, "0"},
		{"a late approval is reversed", []string{"answer timeout", "cancel", "ask approved"}, money.CardReversed, "0"},
		{"approved stays approved", []string{"answer approved", "answer declined", "cancel", "settle refused"}, money.CardApproved, "95"},
		{"an answer to nothing asked", []string{"answer timeout", "settle ok"}, money.CardUnknown, "0"},
	} {
		acts := []money.CardAct{press, {Do: "press", Key: "k", Amount: dec("95.00")}}
		for _, a := range c.acts {
			do, is := a, ""
			for i := range a {
				if a[i] == ' ' {
					do, is = a[:i], a[i+1:]
				}
			}
			acts = append(acts, money.CardAct{Do: do, Key: "k", Is: is})
		}
		got, err := money.Cards(acts)
		require.NoError(t, err)
		assert.Equal(t, c.state, got.States["k"], c.why)
		assert.Equal(t, 1, got.Charges, "pressed twice it is one payment")
		assert.Equal(t, c.counted, got.Counted.String(), c.why)
	}
	got, err := money.Cards([]money.CardAct{press, {Do: "press", Key: "k", Amount: dec("20")}, {Do: "answer", Key: "k", Is: "approved"}, {Do: "answer", Key: "other", Is: "approved"}})
	require.NoError(t, err)
	assert.Equal(t, "95", got.Counted.String(), "another amount under the same key is refused")
	assert.NotContains(t, got.States, "other")
	for _, bad := range []money.CardAct{{Do: "press"}, {Do: "press", Key: "k"}} {
		_, err = money.Cards([]money.CardAct{bad})
		require.Error(t, err)
	}
}
