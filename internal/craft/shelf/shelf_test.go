package shelf_test

import (
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/shelf"
)

var dec = decimal.RequireFromString

// Every row of the handbook's table of movements, allowed and refused.
func TestWhichMovementsAreAllowed(t *testing.T) {
	day := func(s string) *string { return &s }
	sealed := shelf.Pack{Lot: "A", Expiry: day("2027-01-01"), Left: dec("100")}
	open := sealed
	open.Opened = day("2026-11-01")
	old := open
	old.Expiry = day("2026-11-23")
	blocked := open
	blocked.Blocked = true
	for _, c := range []struct {
		name string
		kind shelf.Kind
		pack shelf.Pack
		take string
		more func(*shelf.Move)
		want shelf.Refusal
	}{
		{"a delivery comes in", shelf.Receive, sealed, "100", nil, ""},
		{"a delivery does not go out", shelf.Receive, sealed, "-1", nil, shelf.WrongSign},
		{"a treatment takes", shelf.Treatment, open, "-3", nil, ""},
		{"a treatment does not bring", shelf.Treatment, open, "3", nil, shelf.WrongSign},
		{"no more than there is", shelf.Treatment, open, "-100.001", nil, shelf.NotEnough},
		{"an expired pack", shelf.Treatment, old, "-3", nil, shelf.IsExpired},
		{"an expired pack for a reason", shelf.Treatment, old, "-3", func(m *shelf.Move) { m.Override = "opened yesterday" }, ""},
		{"a blocked pack", shelf.PatchTest, blocked, "-1", nil, shelf.IsBlocked},
		{"a blocked pack for a reason", shelf.Treatment, blocked, "-1", func(m *shelf.Move) { m.Override = "cleared by the supplier" }, ""},
		{"never a recalled one", shelf.Treatment, blocked, "-1", func(m *shelf.Move) { m.Recalled, m.Override = true, "still nice" }, shelf.IsRecalled},
		{"a part of a batch", shelf.Make, old, "-1", nil, shelf.IsExpired},
		{"waste has a reason", shelf.Waste, open, "-1", nil, shelf.NeedsReason},
		{"spilled", shelf.Waste, open, "-1", func(m *shelf.Move) { m.Reason = "spilled" }, ""},
		{"what is past its day is disposed of", shelf.Waste, old, "-1", func(m *shelf.Move) { m.Reason = "spilled" }, shelf.IsExpired},
		{"disposed of", shelf.Dispose, old, "-100", nil, ""},
		{"sent back though recalled", shelf.SendBack, blocked, "-100", func(m *shelf.Move) { m.Recalled = true }, ""},
		{"a tester is a whole pack", shelf.Tester, sealed, "-10", nil, shelf.WholePack},
		{"a tester", shelf.Tester, sealed, "-100", nil, ""},
		{"a sale is a sealed pack", shelf.Retail, open, "-100", nil, shelf.SealedPack},
		{"a sale is a whole pack", shelf.Retail, sealed, "-50", nil, shelf.WholePack},
		{"a batch is never sold", shelf.Retail, sealed, "-100", func(m *shelf.Move) { m.Batch = true }, shelf.NeverSold},
		{"nothing past its day is sold", shelf.Retail, shelf.Pack{Expiry: day("2026-11-23"), Left: dec("100")}, "-100", nil, shelf.IsExpired},
		{"a sale", shelf.Retail, sealed, "-100", nil, ""},
		{"brought back", shelf.Return, shelf.Pack{}, "100", func(m *shelf.Move) { m.Sold = dec("100") }, ""},
		{"no more than was sold", shelf.Return, shelf.Pack{}, "100", func(m *shelf.Move) { m.Sold = dec("50") }, shelf.MoreThanSold},
		{"a count finds more", shelf.Stocktake, old, "2", nil, ""},
		{"a count finds less", shelf.Stocktake, old, "-2", nil, ""},
		{"a count finds the same", shelf.Stocktake, old, "0", nil, shelf.WrongSign},
		{"a counter does not make stock negative", shelf.Counter, open, "-101", nil, shelf.NotEnough},
	} {
		m := shelf.Move{Kind: c.kind, Pack: &c.pack, Amount: dec(c.take), Today: "2026-11-24", Size: dec("100")}
		if c.more != nil {
			c.more(&m)
		}
		assert.Equal(t, c.want, m.Refuse(), c.name)
	}
}

// A pack is good on its last day, not on the one after; treatments left are whole ones (handbook, chapter 4).
func TestUsable(t *testing.T) {
	last := "2026-11-24"
	p := shelf.Pack{Expiry: &last, Left: dec("1")}
	assert.True(t, p.Usable("2026-11-24"))
	assert.False(t, p.Usable("2026-11-25"))
	p.Blocked = true
	assert.False(t, p.Usable("2026-11-24"))
	assert.Equal(t, 12, shelf.TreatmentsLeft(dec("30"), dec("2.4")))
	assert.Equal(t, -1, shelf.TreatmentsLeft(dec("30"), decimal.Zero))
}

// The pack in the hand goes before every other, and says what is short (handbook, chapter 4, Picking).
func TestThePackInTheHandWins(t *testing.T) {
	packs := []shelf.Pack{{Lot: "A", Left: dec("30")}, {Lot: "B", Number: 2, Left: dec("2")}}
	got := shelf.PickInHand(packs, 1, dec("3"))
	assert.Equal(t, "1", got.Short.String())
	assert.Equal(t, []shelf.Pick{{Lot: "B", Pack: 2, Amount: dec("2"), Opens: true, At: 1}}, got.Taken)
	packs[1].Left = decimal.Zero
	assert.Empty(t, shelf.PickInHand(packs, 1, dec("3")).Taken)
}

// What a layer loses and gets back adds up to its cost; a counter is costed by the same rule.
func TestALayerMovesBothWays(t *testing.T) {
	l := shelf.Layer{Cost: dec("38"), Amount: dec("250"), Left: dec("250"), Minor: 2}
	assert.Equal(t, "-0.49", l.Move(dec("-3.2")).StringFixed(2))
	assert.Equal(t, "-0.48", l.Move(dec("-3.2")).StringFixed(2))
	assert.Equal(t, "0.48", l.Move(dec("3.2")).StringFixed(2))
	assert.Equal(t, "-37.51", l.Move(dec("-246.8")).StringFixed(2))
}

// Waste over 5 % of what was used is shown (handbook, chapter 4, Waste).
func TestWasteShare(t *testing.T) {
	for _, c := range []struct {
		wasted, used, percent string
		much                  bool
	}{{"5", "100", "5", false}, {"5.001", "100", "5", true}, {"12", "150", "8", true}, {"0", "0", "0", false}, {"1", "0", "0", true}} {
		percent, much := shelf.WasteShare(dec(c.wasted), dec(c.used))
		assert.Equal(t, c.percent, percent.String(), c.wasted)
		assert.Equal(t, c.much, much, c.wasted)
	}
}
