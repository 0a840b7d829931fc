package treatment

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/guide"
	"softpalm/internal/studio"
	"softpalm/words"
)

// mostAtOnce is how many events a tablet sends at once (handbook, chapter 7, Event log).
const mostAtOnce = 100

// RoomHeard is what the room's log comes to, and the server's clock, by which tablets set theirs.
type RoomHeard struct {
	Now      time.Time      `json:"now"`
	Standing guide.Standing `json:"standing"`
}

// AddEvents adds what happened in the room. The same event again changes nothing, in whatever order they come; what
// is missing is told by the numbers of each device. What comes after the record is locked is kept, and the record
// says so in an addition.
func (s *Service) AddEvents(ctx context.Context, a *studio.Actor, visit uuid.UUID, events []guide.Event) (*RoomHeard, error) {
	if err := a.May("add-events"); err != nil {
		return nil, err
	}
	if len(events) > mostAtOnce {
		return nil, studio.FaultAt("/events", words.SendAtMostEventsAtOnce(mostAtOnce))
	}
	for i := range events {
		if !sound(&events[i]) {
			return nil, studio.FaultAt(fmt.Sprintf("/events/%d", i), words.ThisIsNoEventOfTheRoom())
		}
	}
	var out *RoomHeard
	return out, studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		t, err := prepared(ctx, tx, a, "add-events", visit)
		if err != nil {
			return err
		}
		fresh, err := tx.AddRoomEvents(ctx, visit, events, a.Account, s.Now())
		if err != nil {
			return err
		}
		if out, err = s.heard(ctx, tx, visit); err != nil || fresh == 0 {
			return err
		}
		if t.FinishedAt != nil {
			return tx.AddRecordAddition(ctx, visit, a.Account, studio.RecordAddition{
				ID: studio.NewID(), At: s.Now(), Body: words.EventsArrivedAfterLocking(fresh).Message,
			})
		}
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		return tx.SaveProgress(ctx, visit, progressOf(t, &v.Visit, &out.Standing))
	})
}

// sound reports whether an event can be kept at all.
func sound(e *guide.Event) bool {
	if _, err := uuid.Parse(e.ID); err != nil {
		return false
	}
	const longest, most = 120, 1_000_000
	for _, text := range []string{e.Device, e.By, e.Spell, e.Step, e.From, e.Zone, e.Side, e.Product, e.Item, e.Measure, e.Of} {
		if len(text) > longest {
			return false
		}
	}
	return e.Kind.Known() && e.Device != "" && len(e.Device) <= 60 && len(e.Text) <= 400 &&
		e.Seq > 0 && e.Seq <= most && e.N > 0 && e.N <= most && e.At > 0 && e.At < 1e14
}

// RoomLog returns what the room's log comes to, for a tablet that follows another.
func (s *Service) RoomLog(ctx context.Context, a *studio.Actor, visit uuid.UUID) (out *RoomHeard, err error) {
	if err := a.May("get-room-log"); err != nil {
		return nil, err
	}
	return out, studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) (err error) {
		if _, err = visitFor(ctx, tx, a, "get-room-log", visit); err != nil {
			return err
		}
		out, err = s.heard(ctx, tx, visit)
		return err
	})
}

// heard works out what the room's log comes to.
func (s *Service) heard(ctx context.Context, tx Store, visit uuid.UUID) (*RoomHeard, error) {
	events, err := tx.RoomEvents(ctx, visit)
	if err != nil {
		return nil, err
	}
	l := guide.Log{Arrived: events}
	return &RoomHeard{s.Now(), l.Standing()}, nil
}

// progressOf is the place in the plan that a standing comes to, for lists.
func progressOf(t *studio.Treatment, v *studio.Visit, at *guide.Standing) studio.Progress {
	p := studio.Progress{Running: at.Running, Skipped: at.Skipped, Total: t.Evaluation.Seconds, HandsOff: handsOff(t, v)}
	if at.Since != nil {
		p.Since = time.UnixMilli(int64(*at.Since)).UTC()
	}
	if at.Spell != nil {
		for i := range t.Evaluation.Occurrences {
			o := &t.Evaluation.Occurrences[i]
			if guide.SpellKey(t.Evaluation.Steps[o.Step].ID, o.Number) == *at.Spell {
				p.Position, p.Until = min(o.Start-o.Lead+at.Into, o.End), o.End
			}
		}
	}
	if at.Finished {
		p.Position = t.Evaluation.Seconds
	}
	return p
}

// handsOff is when hands are to be off: the booked start, the welcome, and the hands-on time that was sold.
func handsOff(t *studio.Treatment, v *studio.Visit) time.Time {
	e := t.Evaluation
	return v.StartsAt.Add(time.Duration(guide.Welcome(e.TreatmentSeconds, e.SlotSeconds)+e.SlotSeconds) * time.Second)
}
