package house

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"time"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

func (im *importer) addVisits(ctx context.Context, b *Bundle) error {
	today := im.now.In(im.st.Zone())
	for i := range b.Visits {
		bv := &b.Visits[i]
		at := fmt.Sprintf("/visits/%d", i)
		client, ok1 := im.clients[bv.Client]
		person, ok2 := im.people[bv.Practitioner]
		room, ok3 := im.rooms[bv.Room]
		pl, ok4 := im.plans[bv.Protocol]
		day, ok5 := bundleDay(bv.Day, today)
		for _, c := range []struct {
			ok         bool
			field, val string
		}{
			{ok1, "client", bv.Client},
			{ok2, "practitioner", bv.Practitioner},
			{ok3, "room", bv.Room},
			{ok4 && pl.version > 0, "protocol", bv.Protocol},
			{ok5, "day", bv.Day},
		} {
			if !c.ok {
				im.fault(at+"/"+c.field, words.ThereIsNoFieldVal(c.field, c.val))
			}
		}
		start, err := time.ParseInLocation("2006-01-02 15:04", day+" "+bv.Time, im.st.Zone())
		if err != nil {
			im.fault(at+"/time", words.TimeIsNotATimeOfDay(bv.Time))
		}
		if len(im.faults) > 0 {
			continue
		}
		v := &studio.Visit{
			ID:           studio.NewID(),
			Client:       client,
			Practitioner: person,
			Room:         room,
			Protocol:     pl.id,
			Version:      pl.version,
			Kind:         studio.ForTreatment,
			State:        bv.State,
			CreatedAt:    im.now,
		}
		v.Place(start, pl.body.Minutes)
		v.Tools = im.toolsOf(&pl.body)
		if !im.inSeries(v, bv, at) {
			continue
		}
		if bv.Record != nil {
			v.State = studio.InRoom // closed below, with its record
		}
		if err := im.tx.AddVisit(ctx, v); err != nil {
			var taken *studio.TakenError
			if errors.As(err, &taken) {
				im.fault(at, words.WhatTakenAtThatTimeByAnother(taken.What))
				return im.stop()
			}
			return err
		}
		im.counts.Visits++
		if err := im.tx.AddVisitChange(ctx, v.ID, v.State, nil, im.now); err != nil {
			return err
		}
		if bv.Record != nil {
			if err := im.addRecord(ctx, v, pl, bv.Record, at+"/record"); err != nil {
				return err
			}
		}
	}
	return nil
}

func (im *importer) addRecord(ctx context.Context, v *studio.Visit, pl plan, br *BundleRecord, at string) error {
	t := &studio.Treatment{
		Visit: v.ID,
		PreparedPlan: studio.PreparedPlan{
			Protocol:    pl.body,
			Adjustments: []adjusting.Adjustment{},
			Overrides:   []studio.Override{},
		},
		Progress:  studio.Progress{Since: v.StartsAt, Skipped: []string{}},
		Record:    studio.Record{Note: br.Note, Uses: []studio.RecordUse{}},
		StartedAt: v.StartsAt,
	}
	for _, u := range br.Uses {
		t.Record.Uses = append(
			t.Record.Uses,
			studio.RecordUse{
				Product: u.Product, Planned: amount(u.Planned), Used: amount(u.Real),
				Reading: shelf.Reading{How: cmp.Or(u.How, shelf.AsPlanned)},
			},
		)
	}
	if err := im.tx.AddTreatment(ctx, t); err != nil {
		return err
	}
	end := v.EndsAt
	t.FinishedAt = &end
	if err := im.s.Treatment.TakeFromShelf(
		ctx,
		im.tx,
		t,
		v,
		v.StartsAt.In(im.st.Zone()).Format(time.DateOnly),
		nil,
		end,
	); err != nil {
		var bad *studio.InputError
		if errors.As(err, &bad) {
			im.fault(at+bad.Problems[0].Path, bad.Problems[0].Sentence)
			return im.stop()
		}
		return err
	}
	return im.s.Treatment.CloseVisit(ctx, im.tx, t, nil, end)
}
