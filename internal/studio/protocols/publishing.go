package protocols

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/money"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Publishing is what publishing a draft would mean.
type Publishing struct {
	// Number is the version that it becomes.
	Number int `json:"number"`
	// Ask names what a practitioner would want to set first: price, minutes (the client would
	// be there no longer than hands work).
	Ask []string `json:"ask"`
	// Gross is what the client pays, Net that without tax, Cost the products as planned;
	// Margin is Net without Cost, PerMinute that for each minute until the room is ready again.
	Gross     string `json:"gross"`
	Net       string `json:"net"`
	Cost      string `json:"cost"`
	Margin    string `json:"margin"`
	PerMinute string `json:"perMinute"`
	Minutes   int    `json:"minutes"`
	// Unknown are the products whose cost is not known.
	Unknown []string `json:"unknown"`
	// Booked counts appointments to come, which keep the version they were booked with.
	Booked int `json:"booked"`
}

// publishingStore is what publishing is judged from.
type publishingStore interface {
	protocolStore
	// BookedVisits counts the appointments of a protocol after a moment that are still to come.
	BookedVisits(ctx context.Context, id uuid.UUID, after time.Time) (int, error)
}

// Publishing says what publishing the actor's draft would mean; nothing is changed.
func (s *Service) Publishing(ctx context.Context, a *studio.Actor, id uuid.UUID) (*Publishing, error) {
	if err := a.May("get-publishing"); err != nil {
		return nil, err
	}
	var out *Publishing
	err := studio.In(ctx, s.Kernel, a, func(tx publishingStore, st *studio.Studio) error {
		d, err := tx.Draft(ctx, id, a.Account)
		if errors.Is(err, studio.ErrNotFound) {
			return &studio.StateError{Code: "nothing-to-publish", Sentence: words.YouHaveNoDraftToPublish()}
		}
		if err != nil {
			return err
		}
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		out = publishing(&d.Body, evaluation.Evaluate(&d.Body, lib.Context()), st)
		newest, err := tx.NewestVersion(ctx, id)
		if err != nil {
			return err
		}
		out.Number = newest + 1
		out.Booked, err = tx.BookedVisits(ctx, id, s.Now())
		return err
	})
	return out, err
}

// publishing works out what a protocol brings.
func publishing(p *protocol.Protocol, e *evaluation.Evaluation, st *studio.Studio) *Publishing {
	out := &Publishing{Ask: []string{}, Unknown: []string{}, Minutes: p.Minutes.Treatment + p.Minutes.Reset}
	price, err := decimal.NewFromString(p.Price.Amount)
	if err != nil || !price.IsPositive() {
		out.Ask = append(out.Ask, "price")
	}
	if p.Minutes.Treatment <= p.Minutes.HandsOn {
		out.Ask = append(out.Ask, "minutes")
	}
	cost, _ := decimal.NewFromString(e.Cost) // none without products
	for i := range e.Products {
		if e.Products[i].Cost == "" {
			out.Unknown = append(out.Unknown, e.Products[i].Name)
		}
	}
	taxed, minor := st.Taxed(price), st.Minor()
	margin, perMinute := money.Margin(taxed.Net, cost, out.Minutes, minor)
	out.Gross, out.Net, out.Cost = taxed.Gross.StringFixed(minor), taxed.Net.StringFixed(minor), cost.StringFixed(minor)
	out.Margin, out.PerMinute = margin.StringFixed(minor), perMinute.StringFixed(minor)
	return out
}
