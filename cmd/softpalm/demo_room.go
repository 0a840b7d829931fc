package main

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/measuring"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/postgres"
	"softpalm/internal/rooms"
	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
	shelfroom "softpalm/internal/studio/shelf"
	"softpalm/internal/studio/treatment"
)

// demoRoom gives two clients of the demo the treatments of the past weeks as a studio would have: booked, checked,
// measured, treated with the room guide and recorded, each at its own time, by the use cases themselves.
type demoRoom struct {
	db    *postgres.DB
	now   func() time.Time
	actor *studio.Actor
	with  uuid.UUID // the practitioner
	of    uuid.UUID // the protocol
	zone  *time.Location
}

// demoClient is somebody measured over some weeks. The figures are invented.
type demoClient struct {
	name string
	// left and right outer eye corner to mouth corner, and the jaw opening, at the first measurement and the last, in mm.
	left, right, jaw [2]float64
	puffy            [2]float64
	hope             string
	photos           bool
	reacted          bool
}

var demoClients = []demoClient{
	{name: "Quirina Quade", left: [2]float64{66.4, 63.1}, right: [2]float64{63.2, 62.6}, jaw: [2]float64{41, 46}, puffy: [2]float64{3, 1}, hope: "shorter", photos: true},
	{name: "Una Umber", left: [2]float64{61.8, 61.5}, right: [2]float64{61.2, 61.4}, jaw: [2]float64{47, 47}, puffy: [2]float64{2, 2}, reacted: true},
}

// demoVisits are how many days ago the treatments were, the oldest first; the last fourth of the time nothing was done.
var demoVisits = []int{45, 38, 31, 24, 16}

// readingNoise are what repeated readings differ by, in mm; invented, about the usual noise of a caliper.
var readingNoise = []float64{0.3, -0.4, 0.1, 0.5, -0.2, -0.1, 0.4, -0.3, 0.2, -0.5, 0.0, 0.3}

// demoUses are what these treatments take from each lot, in the product's unit: the demo's shelf is given that much more,
// so that it stands afterwards as its file says.
var demoUses = map[string]string{"AG-118": "51.465", "SP-60": "12", "W-88": "40", "HB-7": "10", "OM-77": "25", "S-12": "20"}

// stockDemoRoom adds to the lots of the demo what its treatments will take.
func stockDemoRoom(b *house.Bundle) error {
	for i := range b.Products {
		for k := range b.Products[i].Lots {
			l := &b.Products[i].Lots[k]
			more, ok := demoUses[l.Number]
			if !ok {
				continue
			}
			had, err := decimal.NewFromString(l.Amount)
			if err != nil {
				return fmt.Errorf("the demo's lot %s: %w", l.Number, err)
			}
			l.Amount = had.Add(decimal.RequireFromString(more)).String()
		}
	}
	return nil
}

// workDemoRoom runs the script for the owner of a demo that was just made.
func workDemoRoom(ctx context.Context, db *postgres.DB, now func() time.Time, owner house.Credentials) error {
	d := &demoRoom{db: db, now: now}
	in, err := d.at(now()).House.SignIn(ctx, owner, "demo")
	if err != nil {
		return err
	}
	d.actor, d.zone = &in.Actor, in.Studio.Zone()
	if err := d.at(now()).House.SignOut(ctx, &in.Actor, in.Session.ID); err != nil {
		return err
	}
	list, _, err := d.at(now()).Clients.Clients(ctx, d.actor, "", "")
	if err != nil {
		return err
	}
	if err := d.choose(ctx); err != nil {
		return err
	}
	for k := range demoClients {
		c := &demoClients[k]
		i := slices.IndexFunc(list, func(l studio.ClientLine) bool { return l.Name == c.name })
		if i < 0 {
			return fmt.Errorf("the demo has no client %s", c.name)
		}
		for n := range demoVisits {
			if err := d.visit(ctx, list[i].ID, c, k, n); err != nil {
				return fmt.Errorf("the demo's treatment %d of %s: %w", n+1, c.name, err)
			}
		}
	}
	return nil
}

// choose finds the practitioner and the protocol of the treatments.
func (d *demoRoom) choose(ctx context.Context) error {
	r := d.at(d.now())
	protocols, err := r.Protocols.Protocols(ctx, d.actor)
	if err != nil {
		return err
	}
	for i := range protocols {
		if protocols[i].Key == "stone-one-side-first" {
			d.of = protocols[i].ID
		}
	}
	day, err := r.Diary.Day(ctx, d.actor, "")
	if err != nil {
		return err
	}
	for _, p := range day.Practitioners {
		if p.Name == "Tove Ekdal" {
			d.with = p.ID
		}
	}
	if d.of == uuid.Nil || d.with == uuid.Nil {
		return errors.New("the demo's practitioner or protocol is gone")
	}
	return nil
}

// at is the studio at a moment.
func (d *demoRoom) at(moment time.Time) *rooms.Rooms {
	return rooms.New(d.db, func() time.Time { return moment }, "", nil)
}

// lead is how long before a demo treatment it is booked.
const lead = 24 * time.Hour

// visit is one treatment from booking to record; the last one of somebody who reacted has the reaction too.
func (d *demoRoom) visit(ctx context.Context, client uuid.UUID, c *demoClient, k, n int) error {
	first := d.now().In(d.zone).AddDate(0, 0, -demoVisits[n]+k)
	early := d.at(first.Add(-lead))
	free, err := early.Diary.FreeTimes(ctx, d.actor, studio.FreeQuery{Protocol: d.of, Client: &client, Practitioner: &d.with, From: first.Format(time.DateOnly), Days: 6})
	if err != nil || len(free) == 0 {
		return errors.Join(errors.New("no free time"), err)
	}
	f := free[(3*n+k)%min(len(free), 12)]
	v, err := early.Diary.Book(ctx, d.actor, studio.NewVisit{
		ID: uuid.New(), Client: client, Practitioner: f.Practitioner, Room: f.Room, Protocol: d.of, Start: f.Start,
	})
	if err != nil {
		return err
	}
	late := time.Duration(0)
	if n == 2 {
		late = 7 * time.Minute
	}
	begin := f.Start.Add(late)
	if err := d.begin(ctx, client, c, v.ID, begin, n); err != nil {
		return err
	}
	end, err := d.treat(ctx, c, v.ID, begin, n, late > 0)
	if err != nil {
		return err
	}
	if n == 0 {
		if err := d.measure(ctx, client, c, v.ID, end.Add(12*time.Minute), n, studio.After); err != nil {
			return err
		}
	}
	r := d.at(end.Add(5 * time.Minute))
	rec, err := r.Treatment.Record(ctx, d.actor, v.ID)
	if err != nil {
		return err
	}
	if _, err := r.Treatment.SignAndLock(ctx, d.actor, v.ID, rec.Record); err != nil {
		return err
	}
	if err := d.clean(ctx, end.Add(time.Hour)); err != nil {
		return err
	}
	if c.reacted && n == len(demoVisits)-1 {
		return d.react(ctx, client, v.ID)
	}
	return nil
}

// clean brings the tools of a treatment back: washed, dried and ready.
func (d *demoRoom) clean(ctx context.Context, at time.Time) error {
	room, err := d.at(at).Shelf.ToolRoom(ctx, d.actor)
	if err != nil {
		return err
	}
	for i := range room.Tools {
		for _, p := range room.Tools[i].Pieces {
			if p.State != shelf.PieceToClean {
				continue
			}
			ref := shelfroom.PieceRef{Tool: p.Tool, Number: p.Number}
			for k, to := range []shelf.PieceState{shelf.PieceDrying, shelf.PieceReady} {
				if _, err := d.at(at.Add(time.Duration(k)*time.Hour)).Shelf.MovePiece(ctx, d.actor, ref, to, ""); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

// begin checks the client, has the consent signed the first time, measures at rest and starts the treatment.
func (d *demoRoom) begin(ctx context.Context, client uuid.UUID, c *demoClient, visit uuid.UUID, at time.Time, n int) error {
	r := d.at(at)
	no := map[string]contraindication.Answer{}
	for _, stage := range []contraindication.Stage{contraindication.Consultation, contraindication.PreTreatment} {
		for _, rule := range contraindication.Trade().RulesAt(stage) {
			no[rule.ID] = contraindication.Answer{}
		}
	}
	if _, err := r.Checks.SavePreCheck(ctx, d.actor, client, &visit, no, nil, nil); err != nil {
		return err
	}
	if n == 0 {
		if _, err := r.Clients.SignConsent(ctx, d.actor, client, studio.ConsentTreatment, c.name, false, demoSignature); err != nil {
			return err
		}
		if c.hope != "" {
			if _, err := r.Treatment.SaveHope(ctx, d.actor, client, "outer-eye-mouth", c.hope); err != nil {
				return err
			}
		}
	}
	if err := d.measure(ctx, client, c, visit, at, n, studio.Before); err != nil {
		return err
	}
	if err := d.photograph(ctx, client, c, visit, at, n); err != nil {
		return err
	}
	plan, err := r.Checks.PlanFor(ctx, d.actor, visit, studio.PlanOptions{})
	if err != nil {
		return err
	}
	accepted := treatment.AcceptedAdjustments{Gentler: true}
	for _, a := range plan.Adjustments {
		accepted.Adjustments = append(accepted.Adjustments, a.ID)
	}
	return r.Treatment.StartTreatment(ctx, d.actor, visit, studio.PlanOptions{}, accepted)
}

// measure takes two readings of each length, and grades the puffiness.
func (d *demoRoom) measure(ctx context.Context, client uuid.UUID, c *demoClient, visit uuid.UUID, at time.Time, n int, moment studio.Moment) error {
	var list []treatment.NewMeasurement
	gone := float64(n) / float64(len(demoVisits)-1)
	add := func(measure, side string, from [2]float64, with measuring.Instrument, readings int) {
		mid := from[0] + gone*(from[1]-from[0])
		m := treatment.NewMeasurement{ID: uuid.New(), Visit: &visit, Measure: measure, Instrument: with, Side: side, Moment: moment}
		for i := range readings {
			noise := readingNoise[(7*n+3*len(list)+5*i+len(c.name))%len(readingNoise)]
			if with == studio.ByGrade {
				noise = 0
			}
			m.Readings = append(m.Readings, math.Round(10*(mid+noise))/10)
		}
		list = append(list, m)
	}
	add("outer-eye-mouth", "left", c.left, measuring.Caliper, 2)
	add("outer-eye-mouth", "right", c.right, measuring.Caliper, 2)
	add("jaw-opening", "mid", c.jaw, measuring.Caliper, 2)
	if moment == studio.Before {
		for _, side := range []string{"left", "right"} {
			add("puffiness", side, [2]float64{c.puffy[0], c.puffy[1]}, studio.ByGrade, 1)
		}
	}
	_, err := d.at(at).Treatment.AddMeasurements(ctx, d.actor, client, list)
	return err
}

// demoPhotos are the drawings by visit: the third visit's was taken in other light.
var demoPhotos = map[int]drawnFace{0: {light: 1, hangs: 9}, 2: {light: 0.78, hangs: 6}, 4: {light: 1.01, hangs: 3}}

// photograph adds a drawn photo at the visits that have one.
func (d *demoRoom) photograph(ctx context.Context, client uuid.UUID, c *demoClient, visit uuid.UUID, at time.Time, n int) error {
	face, ok := demoPhotos[n]
	if !c.photos || !ok {
		return nil
	}
	r := d.at(at)
	if n == 0 {
		if _, err := r.Clients.SignConsent(ctx, d.actor, client, studio.ConsentPhotos, c.name, false, demoSignature); err != nil {
			return err
		}
	}
	picture, err := face.jpeg()
	if err != nil {
		return err
	}
	mouth := face.mouth()
	_, err = r.Treatment.AddPhoto(ctx, d.actor, client, treatment.NewPhoto{
		ID: uuid.New(), Visit: &visit, View: "front", Image: picture, Pupils: drawnPupils, Grey: drawnGrey, Mouth: &mouth, Moment: studio.Before,
	})
	return err
}

// demoSignature is a consent as it is drawn.
var demoSignature = [][]int{{10, 100, 40, 60, 80, 120, 120, 70}, {150, 90, 200, 110, 260, 80, 300, 100}}

// mostEvents are sent at once.
const mostEvents = 90

// treat goes through the plan by taps, a little faster or slower from spell to spell; in the second treatment a place is
// tender and a step is skipped, in the fourth it is stayed with. It returns when the hands were off.
func (d *demoRoom) treat(ctx context.Context, c *demoClient, visit uuid.UUID, at time.Time, n int, late bool) (time.Time, error) {
	room, err := d.at(at).Treatment.Room(ctx, d.actor, visit)
	if err != nil {
		return at, err
	}
	e := room.Treatment.Evaluation
	ms := float64(at.UnixMilli())
	var events []guide.Event
	add := func(ev guide.Event) {
		ev.ID, ev.Device, ev.Seq, ev.N, ev.At = studio.NewID().String(), "tablet", len(events)+1, len(events)+1, ms
		if ev.By == "" {
			ev.By = "tap"
		}
		events = append(events, ev)
	}
	add(guide.Event{Kind: guide.Start})
	for i := range e.Occurrences {
		o := &e.Occurrences[i]
		r := &e.Steps[o.Step]
		key := guide.SpellKey(r.ID, o.Number)
		middle := i == len(e.Occurrences)/2
		if n == 1 && middle {
			add(guide.Event{Kind: guide.Skip, Step: r.ID})
			continue
		}
		add(guide.Event{Kind: guide.Begin, Spell: key})
		if late && i == 2 {
			add(guide.Event{Kind: guide.Refit, From: key, Minutes: 7})
		}
		ms += 1000 * (o.Lead + r.Working*(1+0.03*readingNoise[(i+n)%len(readingNoise)]))
		switch {
		case n == 1 && i == len(e.Occurrences)/3 && len(r.Path) > 0:
			add(guide.Event{Kind: guide.Tender, Zone: r.Path[0].Zone, Side: "left"})
		case n == 3 && middle:
			add(guide.Event{Kind: guide.Stay, Spell: key, Add: 2})
			ms += 9000
		}
	}
	for _, side := range []string{"left", "right"} {
		add(guide.Event{Kind: guide.Grade, Measure: "redness", Side: side, Reading: 1, Value: float64(1 + n%2)})
		gone := float64(n) / float64(len(demoVisits)-1)
		add(guide.Event{Kind: guide.Grade, Measure: "tension", Side: side, Reading: 1, Value: math.Round(3 - 2*gone)})
	}
	add(guide.Event{Kind: guide.Finish})
	end := time.UnixMilli(int64(ms))
	for part := range slices.Chunk(events, mostEvents) {
		if _, err := d.at(end).Treatment.AddEvents(ctx, d.actor, visit, part); err != nil {
			return end, err
		}
	}
	return end, nil
}

// react records a mild reaction noticed yesterday, and that nobody was reached since.
func (d *demoRoom) react(ctx context.Context, client, visit uuid.UUID) error {
	noticed := d.now().In(d.zone).AddDate(0, 0, -1)
	_, err := d.at(noticed).Treatment.OpenReaction(ctx, d.actor, client, treatment.NewReaction{
		ID: uuid.New(), Visit: &visit, NoticedBy: "the client", Kind: "redness", Grade: 1,
		Zones: []contraindication.ZoneSide{{Zone: "mid-cheek", Side: "left"}}, Done: "Told to leave the skin alone and to call if it spreads.",
	})
	return err
}
