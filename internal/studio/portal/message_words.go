package portal

import (
	"context"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/messages"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Checks is what this room asks of the checks.
type Checks interface {
	// InviteConsultation opens a consultation for a client to fill in where one is missing and none
	// is open, and answers its address; empty where none is needed.
	InviteConsultation(ctx context.Context, tx studio.Tx, st *studio.Studio, client uuid.UUID) (address string, err error)
}

const dayAndTime = "Monday 2 January 2006, 15:04"

func (x *about) clock(t time.Time) string { return t.In(x.st.Zone()).Format("15:04") }

func (x *about) when(t time.Time) string { return t.In(x.st.Zone()).Format(dayAndTime) }

// notice is the text of what is told at once. Nothing of it tells of health or of what is treated.
func (x *about) notice(ctx context.Context, n studio.Notice, changed []*studio.VisitLine, today []messages.Due) (string, error) {
	var lines []string
	switch n.Kind {
	case studio.BookingMessage:
		lines = append(lines, words.TellBooked(x.client.Name, x.st.Name).Message)
	case studio.MovingMessage:
		lines = append(lines, words.TellMoved(x.client.Name, x.st.Name).Message)
	default:
		lines = append(lines, words.TellCancelled(x.client.Name, x.st.Name).Message)
	}
	for _, v := range changed {
		line := x.slot(v)
		if was, moved := n.Was[v.ID]; moved && !was.Equal(v.StartsAt) {
			line += " " + words.TellBefore(x.when(was)).Message
		}
		if n.Kind != studio.CancellingMessage {
			terms, err := x.terms(ctx, v)
			if err != nil {
				return "", err
			}
			line += "\n" + terms
		}
		lines = append(lines, line)
	}
	if n.Kind != studio.CancellingMessage && x.st.Address != "" {
		lines = append(lines, words.TellWhere(strings.ReplaceAll(x.st.Address, "\n", ", ")).Message)
	}
	parts, err := x.parts(ctx, today)
	if err != nil {
		return "", err
	}
	return x.closed(ctx, append(lines, parts...))
}

// reminder is the text of a message of the timetable.
func (x *about) reminder(ctx context.Context, due []messages.Due) (string, error) {
	parts, err := x.parts(ctx, due)
	if err != nil {
		return "", err
	}
	return x.closed(ctx, append([]string{words.TellHello(x.client.Name).Message}, parts...))
}

// offerText is the text of times that are held for a client.
func (x *about) offerText(ctx context.Context, visits []studio.VisitLine, until time.Time) (string, error) {
	lines := []string{words.TellOffer(x.client.Name, x.st.Name, x.when(until)).Message}
	for i := range visits {
		terms, err := x.terms(ctx, &visits[i])
		if err != nil {
			return "", err
		}
		lines = append(lines, x.slot(&visits[i])+"\n"+terms)
	}
	return x.closed(ctx, append(lines, words.TellTakeIt().Message))
}

// closed ends a text with the client's page, why the message came and how to stop such messages.
func (x *about) closed(ctx context.Context, lines []string) (string, error) {
	token := studio.NewToken()
	if err := x.tx.AddClientPage(ctx, studio.HashToken(token), x.client.ID, x.Now().Add(pageLength), x.Now()); err != nil {
		return "", err
	}
	lines = append(lines,
		words.TellPage(x.Address+"/appointments#"+token).Message,
		words.TellWhy(x.st.Name, x.Address+"/appointments?stop#"+token).Message)
	return strings.Join(lines, "\n\n"), nil
}

// slot is an appointment's time and who is there.
func (x *about) slot(v *studio.VisitLine) string {
	slot := words.TellSlot(x.when(v.StartsAt), x.clock(v.EndsAt), v.PractitionerName).Message
	if v.Kind == studio.ForPatchTest {
		slot += " " + words.TellTrial().Message
	}
	return slot
}

// terms are what an appointment costs and until when it can be moved or cancelled free of charge.
func (x *about) terms(ctx context.Context, v *studio.VisitLine) (string, error) {
	until := x.st.FreeUntil(&v.Visit)
	free := words.TellNotFree().Message
	if until.After(x.Now()) {
		free = words.TellFreeUntil(x.when(until)).Message
	}
	if v.Kind != studio.ForTreatment {
		return free, nil
	}
	price, err := x.price(ctx, v)
	return words.TellPrice(price).Message + " " + free, err
}

// price is what all treatments of a visit cost together.
func (x *about) price(ctx context.Context, v *studio.VisitLine) (string, error) {
	sum, currency := decimal.Zero, ""
	for _, part := range append([]studio.VisitPart{{Protocol: v.Protocol, Version: v.Version}}, v.Also...) {
		p, err := x.tx.Version(ctx, part.Protocol, part.Version)
		if err != nil {
			return "", err
		}
		amount, err := decimal.NewFromString(p.Price.Amount)
		if err != nil {
			return "", err
		}
		sum, currency = sum.Add(amount), p.Price.Currency
	}
	return sum.StringFixed(2) + " " + currency, nil
}

// parts are the texts of what is due.
func (x *about) parts(ctx context.Context, due []messages.Due) (out []string, err error) {
	for _, d := range due {
		v := x.visit(uuid.MustParse(d.Visit))
		switch d.Kind {
		case messages.Prepare:
			more, err := x.prepare(ctx, v)
			if err != nil {
				return nil, err
			}
			out = append(out, more...)
		case messages.AnythingNew:
			text := words.TellAnythingNew(x.slot(v)).Message
			if v.State == studio.Confirmed {
				text = words.TellAnythingNewConfirmed(x.slot(v)).Message
			}
			out = append(out, text)
		case messages.Reminder:
			out = append(out, words.TellReminder(x.slot(v)).Message)
		case messages.Short:
			out = append(out, words.TellShort(x.slot(v)).Message)
		case messages.NextDay:
			out = append(out, words.TellNextDay(x.when(v.StartsAt)).Message)
		case messages.HalfWay:
			out = append(out, words.TellHalfWay(strconv.Itoa(v.Item), strconv.Itoa(v.SeriesLength)).Message)
		case messages.TwoLeft:
			out = append(out, words.TellTwoLeft().Message)
		case messages.ReviewDue:
			out = append(out, words.TellReviewDue().Message)
		}
	}
	return out, nil
}

// prepare is what a client is to do before the first appointment.
func (x *about) prepare(ctx context.Context, v *studio.VisitLine) (out []string, err error) {
	link, err := x.Checks.InviteConsultation(ctx, x.tx, x.st, x.client.ID)
	if err != nil {
		return nil, err
	}
	if link != "" {
		out = append(out, words.TellConsultation(link).Message)
	}
	for i := range x.visits {
		p := &x.visits[i]
		if p.Kind == studio.ForPatchTest && (p.State == studio.Booked || p.State == studio.Confirmed) && p.StartsAt.Before(v.StartsAt) &&
			p.StartsAt.After(x.Now()) {
			out = append(out, words.TellPatchTest(x.slot(p)).Message)
		}
	}
	return append(out, words.TellArrive(x.when(v.StartsAt)).Message), nil
}

// progress tells a practitioner how far a series has come: initials, and nothing about health.
func (x *about) progress(name string, v *studio.VisitLine, kind messages.Kind) string {
	who := initials(x.client.Name)
	n, of := strconv.Itoa(v.Item), strconv.Itoa(v.SeriesLength)
	switch kind {
	case messages.HalfWay:
		return words.ProgressHalfWay(name, who, n, of).Message
	case messages.TwoLeft:
		return words.ProgressTwoLeft(name, who, n, of).Message
	}
	return words.ProgressReviewDue(name, who, of).Message
}

// calendarOf is a calendar file with some of a client's visits.
func (x *about) calendarOf(_ context.Context, visits []*studio.VisitLine) (string, error) {
	c := &Calendar{Name: x.st.Name, Zone: x.st.Zone().String(), Now: x.Now()}
	for _, v := range visits {
		c.Events = append(c.Events, eventOf(&CalendarVisit{VisitLine: *v, ChangedAt: x.Now()}, x.st, true))
	}
	data, err := x.Files.Calendar(c)
	return string(data), err
}
