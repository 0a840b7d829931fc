package portal

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/messages"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/studio"
)

// Told is what a message said about a visit that was moved so often: it is not said again.
type Told struct {
	Visit uuid.UUID `db:"visit_id"`
	Kind  string    `db:"kind"`
	Moves int       `db:"moves"`
}

// tellStore is what clients are told from.
type tellStore interface {
	Store
	pageStore
	AddClientPage(ctx context.Context, tokenHash []byte, client uuid.UUID, until, at time.Time) error
	Version(ctx context.Context, id uuid.UUID, number int) (*protocol.Protocol, error)
	Accounts(ctx context.Context) ([]studio.Account, error)
	Calls(ctx context.Context) ([]studio.Call, error)
	Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
	// BookedAt is when each of a client's visits was booked or moved last.
	BookedAt(ctx context.Context, client uuid.UUID) (map[uuid.UUID]time.Time, error)
	// ToldOf is what a client was told already.
	ToldOf(ctx context.Context, client uuid.UUID) (map[Told]bool, error)
	// NoteTold notes what a message says; message is nil where nothing was sent.
	NoteTold(ctx context.Context, told []Told, message *uuid.UUID, at time.Time) error
	// Wake asks to look at a time what a client is to be told.
	Wake(ctx context.Context, client uuid.UUID, at time.Time) error
	// WithdrawMessage takes back a message about a visit that nobody was given yet.
	WithdrawMessage(ctx context.Context, visit uuid.UUID, kind string) error
}

// undoTime is how long a message of a cancelled appointment waits, so that a press by mistake can
// be undone before anybody reads of it.
const undoTime = 75 * time.Second

// about is everything a message to one client is written from.
type about struct {
	*Service
	tx     tellStore
	st     *studio.Studio
	client *studio.Client
	visits []studio.VisitLine // by start
	since  map[uuid.UUID]time.Time
	told   map[Told]bool
	timing messages.Timing
}

func (s *Service) about(ctx context.Context, tx tellStore, st *studio.Studio, client uuid.UUID) (*about, error) {
	x := &about{Service: s, tx: tx, st: st, timing: st.Timing()}
	var err error
	if x.client, err = tx.Client(ctx, client); err != nil {
		return nil, err
	}
	if x.visits, err = tx.ClientVisits(ctx, client); err != nil {
		return nil, err
	}
	slices.Reverse(x.visits) // they come newest first
	if x.since, err = tx.BookedAt(ctx, client); err != nil {
		return nil, err
	}
	x.told, err = tx.ToldOf(ctx, client)
	return x, err
}

func (x *about) visit(id uuid.UUID) *studio.VisitLine {
	for i := range x.visits {
		if x.visits[i].ID == id {
			return &x.visits[i]
		}
	}
	return nil
}

// address is where the client is written to, empty where nowhere or where they want no messages.
func (x *about) address() string {
	switch {
	case x.client.NoMessages:
		return ""
	case x.client.Email != "":
		return x.client.Email
	}
	return x.client.Phone
}

// Tell tells a client at once of visits that were booked, moved or cancelled, with what is due on
// the same day, and sees to it that the rest of the timetable is looked after.
func (s *Service) Tell(ctx context.Context, within studio.Tx, st *studio.Studio, n studio.Notice) error {
	x, err := s.about(ctx, studio.As[tellStore](within), st, n.Client)
	if err != nil {
		return err
	}
	var changed []*studio.VisitLine
	var told []Told
	for _, id := range n.Visits {
		v := x.visit(id)
		if v == nil || !v.EndsAt.After(s.Now()) {
			continue
		}
		if t := (Told{v.ID, string(n.Kind), v.Moves}); !x.told[t] {
			changed, told = append(changed, v), append(told, t)
		}
	}
	if len(changed) == 0 {
		return x.wake(ctx)
	}
	slices.SortFunc(changed, func(a, b *studio.VisitLine) int { return a.StartsAt.Compare(b.StartsAt) })
	due, err := x.due(ctx)
	if err != nil {
		return err
	}
	today := x.dueToday(due)
	for _, d := range today {
		told = append(told, x.toldOf(d))
	}
	message, err := x.sendNotice(ctx, n, changed, today)
	if err != nil {
		return err
	}
	if err := x.tx.NoteTold(ctx, told, message, s.Now()); err != nil {
		return err
	}
	for _, t := range told {
		x.told[t] = true
	}
	return x.wake(ctx)
}

// Offer sends a client the times that are held for them until a moment; sent is false where they
// have no address or want no messages.
func (s *Service) Offer(
	ctx context.Context, within studio.Tx, st *studio.Studio, client uuid.UUID, visits []studio.VisitLine, until time.Time,
) (sent bool, err error) {
	x, err := s.about(ctx, studio.As[tellStore](within), st, client)
	if err != nil || x.address() == "" {
		return false, err
	}
	body, err := x.offerText(ctx, visits, until)
	if err != nil {
		return false, err
	}
	_, err = x.post(ctx, studio.Message{
		Kind: studio.OfferMessage, To: x.address(), Name: x.client.Name, Body: body, Until: s.Now().Add(pageLength), Client: &client,
	})
	return true, err
}

// dueToday is what is due for the rest of the day and was not said yet.
func (x *about) dueToday(due []messages.Due) (out []messages.Due) {
	now, zone := x.Now().Add(-time.Minute), x.st.Zone() // a booking made just now is due now
	for _, d := range due {
		if !d.At.Before(now) && messages.SameDay(d.At, now, zone) && !x.told[x.toldOf(d)] {
			out = append(out, d)
		}
	}
	return out
}

// sendNotice writes and sends what is told at once; nil where there is nobody to send it to.
func (x *about) sendNotice(ctx context.Context, n studio.Notice, changed []*studio.VisitLine, today []messages.Due) (*uuid.UUID, error) {
	to := x.address()
	if to == "" {
		return nil, nil
	}
	body, err := x.notice(ctx, n, changed, today)
	if err != nil {
		return nil, err
	}
	file, err := x.calendarOf(ctx, changed)
	if err != nil {
		return nil, err
	}
	m := studio.Message{
		Kind: n.Kind, To: to, Name: x.client.Name, Body: body, Until: x.Now().Add(pageLength), Client: &x.client.ID, Attachment: file,
	}
	if n.Kind == studio.CancellingMessage {
		later := x.Now().Add(undoTime)
		m.NextTry = &later
	}
	return x.post(ctx, m)
}

// post sends a message and answers its id.
func (x *about) post(ctx context.Context, m studio.Message) (*uuid.UUID, error) {
	m.ID = studio.NewID()
	_, err := x.Send(ctx, x.tx, m)
	return &m.ID, err
}

// wake asks to be woken when the next message is due.
func (x *about) wake(ctx context.Context) error {
	due, err := x.due(ctx)
	if err != nil {
		return err
	}
	_, next := messages.Now(due, x.said, x.Now(), &x.timing, x.st.Zone())
	if next.IsZero() {
		return nil
	}
	return x.tx.Wake(ctx, x.client.ID, next)
}

// TakeBack takes back what a client was told of a visit moments ago, where nobody has read it.
func (s *Service) TakeBack(ctx context.Context, within studio.Tx, visit uuid.UUID, kind studio.MessageKind) error {
	return studio.As[tellStore](within).WithdrawMessage(ctx, visit, string(kind))
}
