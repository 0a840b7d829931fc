package portal

import (
	"context"
	"errors"

	"github.com/google/uuid"

	"softpalm/internal/craft/messages"
	"softpalm/internal/studio"
)

// TellDue tells a client what is due now by the timetable, and sees to it that somebody looks again
// when the next message is.
func (s *Service) TellDue(ctx context.Context, in, client uuid.UUID) error {
	err := studio.Within(ctx, s.Kernel, in, func(tx tellStore) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		x, err := s.about(ctx, tx, st, client)
		if err != nil {
			return err
		}
		return x.tellDue(ctx)
	})
	if errors.Is(err, studio.ErrNotFound) || errors.Is(err, studio.ErrExists) {
		return nil // the client was deleted, or somebody else told them
	}
	return err
}

func (x *about) tellDue(ctx context.Context) error {
	due, err := x.due(ctx)
	if err != nil {
		return err
	}
	now, next := messages.Now(due, x.said, x.Now(), &x.timing, x.st.Zone())
	if now != nil {
		if err := x.tell(ctx, now); err != nil {
			return err
		}
	}
	if next.IsZero() {
		return nil
	}
	return x.tx.Wake(ctx, x.client.ID, next)
}

// tell sends one message of the timetable. What is said of it is noted even where there is nobody
// to send it to.
func (x *about) tell(ctx context.Context, m *messages.Message) error {
	var message *uuid.UUID
	if to := x.address(); to != "" {
		body, err := x.reminder(ctx, m.Parts)
		if err != nil {
			return err
		}
		message, err = x.post(ctx, studio.Message{
			Kind: studio.ReminderMessage, To: to, Name: x.client.Name, Body: body, Until: x.Now().Add(pageLength), Client: &x.client.ID,
		})
		if err != nil {
			return err
		}
	}
	var told []Told
	for _, d := range m.Parts {
		told = append(told, x.toldOf(d))
		if d.Kind.OfSeries() {
			if err := x.tellPractitioner(ctx, d); err != nil {
				return err
			}
		}
	}
	return x.tx.NoteTold(ctx, told, message, x.Now())
}

// tellPractitioner tells whoever treated last how far a series has come.
func (x *about) tellPractitioner(ctx context.Context, d messages.Due) error {
	v := x.visit(uuid.MustParse(d.Visit))
	accounts, err := x.tx.Accounts(ctx)
	if err != nil {
		return err
	}
	for i := range accounts {
		a := &accounts[i]
		if a.Practitioner == nil || *a.Practitioner != v.Practitioner || a.Email == "" || a.ClosedAt != nil {
			continue
		}
		if _, err := x.post(ctx, studio.Message{
			Kind: studio.ProgressMessage, To: a.Email, Name: a.Name, Body: x.progress(a.Name, v, d.Kind), Until: x.Now().Add(pageLength),
			Client: &x.client.ID,
		}); err != nil {
			return err
		}
	}
	return nil
}

// due is the client's timetable as it stands now. A visit whose change the desk has not told the
// client of is left out.
func (x *about) due(ctx context.Context) ([]messages.Due, error) {
	calls, err := x.tx.Calls(ctx)
	if err != nil {
		return nil, err
	}
	untold := map[uuid.UUID]bool{}
	for i := range calls {
		untold[calls[i].Visit] = true
	}
	series, err := x.tx.ClientSeries(ctx, x.client.ID)
	if err != nil {
		return nil, err
	}
	running := map[uuid.UUID]bool{}
	for i := range series {
		running[series[i].ID] = series[i].State == studio.SeriesRunning
	}
	var list []messages.Visit
	seen := false // a treatment of this client
	for i := range x.visits {
		v := &x.visits[i]
		if untold[v.ID] || v.PartOf != nil { // what follows in one visit is told with it
			continue
		}
		m := x.asked(v)
		if v.Series != nil {
			m.Reviewed = !running[*v.Series]
		}
		if m.State != messages.Gone && !m.PatchTest {
			m.First = !seen || v.SeriesLength > 1 && v.Item == 1
			seen = true
		}
		list = append(list, m)
	}
	return messages.Plan(list, &x.timing, x.st.Zone()), nil
}

// asked is a visit as the timetable sees it.
func (x *about) asked(v *studio.VisitLine) messages.Visit {
	m := messages.Visit{
		ID: v.ID.String(), Start: v.StartsAt, End: v.EndsAt, Since: x.since[v.ID], FreeUntil: x.st.FreeUntil(&v.Visit),
		Short: x.client.ShortMessage, PatchTest: v.Kind != studio.ForTreatment,
	}
	if v.SeriesLength > 1 {
		m.N, m.Of = v.Item, v.SeriesLength
	}
	switch v.State {
	case studio.Booked, studio.Confirmed:
		m.State = messages.ToCome
	case studio.Done:
		m.State = messages.Over
	}
	return m
}

// toldOf is what saying something is noted as.
func (x *about) toldOf(d messages.Due) Told {
	id := uuid.MustParse(d.Visit)
	moves := x.visit(id).Moves
	if d.Kind == messages.Prepare {
		moves = 0 // a client is prepared once, however often the visit is moved
	}
	return Told{id, string(d.Kind), moves}
}

func (x *about) said(d messages.Due) bool { return x.told[x.toldOf(d)] }
