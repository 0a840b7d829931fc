package protocols

import (
	"context"
	"errors"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/money"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/studio"
	"softpalm/words"
)

// PriceQuestion is one figure that an owner asks about: a price, a margin in per cent of the net, or a margin for
// each busy minute, as decimal texts. Empty asks about the price as it is.
type PriceQuestion struct {
	Price     string `json:"price,omitempty" query:"price" maxLength:"12"`
	Percent   string `json:"percent,omitempty" query:"percent" maxLength:"8"`
	PerMinute string `json:"perMinute,omitempty" query:"perMinute" maxLength:"12"`
}

// Margin is what a treatment costs term by term at a price, and what it leaves. Amounts are decimal texts.
type Margin struct {
	// Price is what the price list says; Gross what the client pays, Net that without tax.
	Price string     `json:"price"`
	Gross string     `json:"gross"`
	Net   string     `json:"net"`
	Terms []CostTerm `json:"terms"`
	Cost  string     `json:"cost"`
	// Margin is Net without Cost, Percent that of Net, PerMinute for each minute until the room is ready again.
	Margin    string `json:"margin"`
	Percent   string `json:"percent"`
	PerMinute string `json:"perMinute"`
	Minutes   int    `json:"minutes"`
	// Reached is false where no price leaves what was asked for; the figures are then those of the price as it is.
	Reached bool `json:"reached"`
	// Lost is the part of the visits, in per cent, that may stay away before a higher price costs more than it brings.
	Lost string `json:"lost,omitempty"`
	// Unknown are products whose cost is not known; Unsaid the terms that the settings say nothing about.
	Unknown []string `json:"unknown"`
	Unsaid  []string `json:"unsaid"`
}

// CostTerm is a part of the cost, by name: products, disposables, tools, laundry, time, room or card.
type CostTerm struct {
	Name   string `json:"name"`
	Amount string `json:"amount"`
}

// MarginOf works out what a protocol costs and leaves, as the actor's draft or else the newest version has it.
func (s *Service) MarginOf(ctx context.Context, a *studio.Actor, id uuid.UUID, q PriceQuestion) (*Margin, error) {
	if err := a.May("get-margin"); err != nil {
		return nil, err
	}
	var out *Margin
	err := studio.In(ctx, s.Kernel, a, func(tx protocolStore, st *studio.Studio) error {
		body, err := tx.Version(ctx, id, 0)
		if err == nil {
			prices, perr := s.Prices.PricesOn(ctx, tx, s.Today(st))
			if perr != nil {
				return perr
			}
			priced(body, prices[id], st)
		}
		if d, derr := tx.Draft(ctx, id, a.Account); derr == nil {
			body, err = &d.Body, nil
		} else if !errors.Is(derr, studio.ErrNotFound) {
			return derr
		}
		if err != nil {
			return err
		}
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		cx := lib.Context()
		out, err = marginOf(body, evaluation.Evaluate(body, cx), cx, st, q)
		return err
	})
	return out, err
}

// marginOf answers a question about a protocol's price.
func marginOf(p *protocol.Protocol, e *evaluation.Evaluation, cx *protocol.Context, st *studio.Studio, q PriceQuestion) (*Margin, error) {
	now, err := decimal.NewFromString(p.Price.Amount)
	if err != nil {
		now = decimal.Zero
	}
	v := planned(p, e, cx, st)
	before, err := earnAt(v, st, now)
	if err != nil {
		return nil, err
	}
	price, reached, err := priceFor(v, &before, now, st, q)
	if err != nil {
		return nil, err
	}
	after, err := earnAt(v, st, price)
	if err != nil {
		return nil, err
	}
	out := &Margin{Reached: reached, Minutes: int(v.BusyMinutes.IntPart()), Unknown: []string{}, Unsaid: unsaid(&st.Costs)}
	for i := range e.Products {
		if e.Products[i].Cost == "" {
			out.Unknown = append(out.Unknown, e.Products[i].Name)
		}
	}
	out.say(&after, st.Taxed(price), price, st.Minor())
	if lost := money.LostShare(after.Net.Sub(before.Net), before.Margin); lost != nil {
		out.Lost = lost.Shift(2).StringFixed(1)
	}
	return out, nil
}

// say writes the figures at a price.
func (m *Margin) say(e *money.Earnings, taxed money.Taxed, price decimal.Decimal, minor int32) {
	text := func(d decimal.Decimal) string { return d.StringFixed(minor) }
	m.Price, m.Gross, m.Net = text(price), text(taxed.Gross), text(e.Net)
	m.Cost, m.Margin, m.PerMinute, m.Percent = text(e.Cost), text(e.Margin), text(e.PerMinute), e.Percent.StringFixed(1)
	t := &e.Terms
	for _, term := range []struct {
		name   string
		amount decimal.Decimal
	}{
		{"products", t.Products}, {"disposables", t.Disposables}, {"tools", t.Tools}, {"laundry", t.Laundry},
		{"time", t.Time}, {"room", t.Room}, {"card", t.Card},
	} {
		m.Terms = append(m.Terms, CostTerm{term.name, text(term.amount)})
	}
}

// planned is a treatment as its plan and the studio's settings have it, without a price.
func planned(p *protocol.Protocol, e *evaluation.Evaluation, cx *protocol.Context, st *studio.Studio) money.Visit {
	c, minor := st.Costs.Sums(), st.Minor()
	products, _ := decimal.NewFromString(e.Cost) // none without products
	one := decimal.NewFromInt(1)
	v := money.Visit{
		BusyMinutes: decimal.NewFromInt(int64(p.Minutes.Treatment + p.Minutes.Reset)),
		Products:    []decimal.Decimal{products},
		Disposables: []money.Pieces{{Number: one, Each: c.Disposables}},
		Laundry:     []money.Pieces{{Number: one, Each: c.Laundry}},
		WagePerHour: c.WagePerHour, RoomPerHour: c.RoomPerHour, CardPercent: c.CardPercent, CardFixed: c.CardFixed,
		Rate: st.Tax.RateOr0(), Minor: &minor,
	}
	for _, key := range e.Tools {
		if t := cx.Tools[key]; t.ExpectedUses > 0 {
			v.Tools = append(v.Tools, money.Wear{
				Price: decimal.NewFromFloat(t.Price), ExpectedUses: decimal.NewFromInt(int64(t.ExpectedUses)),
			})
		}
	}
	return v
}

// earnAt is what a treatment leaves at a price of the studio, paid by card.
func earnAt(v money.Visit, st *studio.Studio, price decimal.Decimal) (money.Earnings, error) {
	v.Gross = st.Taxed(price).Gross
	v.PaidByCard = v.Gross
	return v.Earn()
}

// priceFor is the price that a question is about, and whether there is one.
func priceFor(v money.Visit, before *money.Earnings, now decimal.Decimal, st *studio.Studio, q PriceQuestion) (decimal.Decimal, bool, error) {
	if q.Price != "" {
		price, err := decimal.NewFromString(q.Price)
		if err == nil {
			err = studio.CheckMoney("/price", price)
		} else {
			err = studio.FaultAt("/price", words.EnterASumUpToMost(studio.MostMoney.String()))
		}
		return price, true, err
	}
	if q.Percent == "" && q.PerMinute == "" {
		return now, true, nil
	}
	w := money.Wanted{
		Rate: v.Rate, CardPercent: v.CardPercent, CardFixed: v.CardFixed, OtherCost: before.Cost.Sub(before.Terms.Card),
		Step: st.Costs.Sums().PriceStep, BusyMinutes: v.BusyMinutes,
	}
	path, text := "/percent", q.Percent
	if q.Percent == "" {
		path, text = "/perMinute", q.PerMinute
	}
	wanted, err := decimal.NewFromString(text)
	if err != nil || wanted.Abs().GreaterThan(studio.MostMoney) {
		return now, false, studio.FaultAt(path, words.EnterTheMarginAsANumber())
	}
	if path == "/percent" {
		w.Percent = &wanted
	} else {
		w.PerMinute = &wanted
	}
	gross, err := w.Price()
	if err != nil || gross == nil || gross.GreaterThan(studio.MostMoney) {
		return now, false, err
	}
	return st.PriceFor(*gross), true, nil
}

// unsaid names the terms that a studio's settings say nothing about.
func unsaid(c *studio.Costs) []string {
	out := []string{}
	for _, term := range [][2]string{
		{"disposables", c.Disposables}, {"laundry", c.Laundry}, {"time", c.WagePerHour}, {"room", c.RoomPerHour}, {"card", c.CardPercent + c.CardFixed},
	} {
		if term[1] == "" {
			out = append(out, term[0])
		}
	}
	return out
}
