package diary

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
)

// sold returns what a treatment sells with those that follow it in the same visit, as if it were one
// protocol: lengths and prices add up, what it needs is the union. Nil where one is not on sale.
func (a *asking) sold(id uuid.UUID, also []uuid.UUID) *offer {
	first := a.offer(id)
	if first == nil || len(also) == 0 {
		return first
	}
	out := *first
	names := []string{first.Body.Name}
	price, _ := decimal.NewFromString(first.Body.Price.Amount)
	items := []series.Item{first.item(&studio.SeriesItem{Marks: first.marks})}
	for _, id := range also {
		o := a.offer(id)
		if o == nil {
			return nil
		}
		names = append(names, o.Body.Name)
		amount, _ := decimal.NewFromString(o.Body.Price.Amount)
		price = price.Add(amount)
		out.marks, out.work = out.marks.With(o.marks), out.work.With(o.work)
		items = append(items, o.item(&studio.SeriesItem{Marks: o.marks}))
		out.also = append(out.also, studio.VisitPart{Protocol: o.ID, Version: o.Version, Minutes: o.Body.Minutes.Treatment})
		out.Body.Minutes.HandsOn += o.Body.Minutes.HandsOn
	}
	all := series.Joined(items...)
	out.Body.Name, out.Body.Price.Amount = strings.Join(names, ", then "), price.StringFixed(2)
	out.Body.Minutes.Treatment, out.Body.Minutes.Reset = all.Sold, all.Reset
	out.Body.Skills, out.Body.Equipment, out.tools = all.Skills, all.Equipment, all.Tools
	return &out
}

// following are the protocols that follow in the same visit.
func (o *offer) following() (out []uuid.UUID) {
	for i := range o.also {
		out = append(out, o.also[i].Protocol)
	}
	return out
}

// after are the protocols that follow in a visit.
func after(v *studio.Visit) (out []uuid.UUID) {
	for i := range v.Also {
		out = append(out, v.Also[i].Protocol)
	}
	return out
}

// joinedStore is what visits of several treatments are divided in.
type joinedStore interface {
	Store
	// DivideVisit gives a visit other times and what follows it.
	DivideVisit(ctx context.Context, v *studio.Visit) error
	// FollowingVisits lists the visits that followed another one in the same client time.
	FollowingVisits(ctx context.Context, of uuid.UUID) ([]studio.VisitLine, error)
}

// divide makes a visit of each treatment, one after the other, when the client has arrived: from then
// on each is checked, given and recorded by itself.
func (s *Service) divide(ctx context.Context, tx joinedStore, a *studio.Actor, v *studio.Visit) error {
	if len(v.Also) == 0 {
		return nil
	}
	parts := v.Also
	length := v.EndsAt.Sub(v.StartsAt)
	for i := range parts {
		length -= time.Duration(parts[i].Minutes) * time.Minute
	}
	end, until := v.EndsAt, v.BusyUntil
	first := *v
	first.EndsAt = v.StartsAt.Add(length)
	first.BusyUntil, first.Also = first.EndsAt, []studio.VisitPart{}
	if err := tx.DivideVisit(ctx, &first); err != nil {
		return err
	}
	at := first.EndsAt
	for i := range parts {
		p := &parts[i]
		next := studio.Visit{
			ID: studio.NewID(), Client: v.Client, Practitioner: v.Practitioner, Room: v.Room, Protocol: p.Protocol, Version: p.Version,
			Kind: studio.ForTreatment, State: studio.Arrived, BusyFrom: at, StartsAt: at, EndsAt: at.Add(time.Duration(p.Minutes) * time.Minute),
			CreatedAt: s.Now(), PartOf: &v.ID, SharesRoom: v.SharesRoom,
		}
		next.BusyUntil = next.EndsAt
		if i == len(parts)-1 {
			next.EndsAt, next.BusyUntil = end, until
		}
		if err := tx.AddVisit(ctx, &next); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, next.ID, studio.Arrived, &a.Account, s.Now()); err != nil {
			return err
		}
		at = next.EndsAt
	}
	return nil
}

// Divide is what arriving does with a visit of several treatments, where a treatment is begun without
// that press.
func (s *Service) Divide(ctx context.Context, within studio.Tx, a *studio.Actor, v *studio.Visit) error {
	return s.divide(ctx, studio.As[joinedStore](within), a, v)
}

// unite makes one visit again of those that a visit was divided into and that have not begun.
func (s *Service) unite(ctx context.Context, tx joinedStore, a *studio.Actor, v *studio.Visit) error {
	following, err := tx.FollowingVisits(ctx, v.ID)
	if err != nil {
		return err
	}
	whole := *v
	for i := range following {
		f := &following[i].Visit
		if f.State != studio.Arrived {
			continue // it has begun, and stays
		}
		if err := tx.SetVisitState(ctx, f.ID, studio.Released); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, f.ID, studio.Released, &a.Account, s.Now()); err != nil {
			return err
		}
		whole.Also = append(whole.Also, studio.VisitPart{Protocol: f.Protocol, Version: f.Version, Minutes: minutes(f.EndsAt.Sub(f.StartsAt))})
		whole.EndsAt, whole.BusyUntil = f.EndsAt, f.BusyUntil
	}
	if len(whole.Also) == len(v.Also) {
		return nil
	}
	return tx.DivideVisit(ctx, &whole)
}
