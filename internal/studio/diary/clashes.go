package diary

import (
	"context"
	"time"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
)

// ClashKind is what an appointment to come meets.
type ClashKind string

// What an appointment can meet after it was booked.
const (
	MeetsAbsence   ClashKind = "practitioner-away"
	MeetsClient    ClashKind = "client-away"
	MeetsRoom      ClashKind = "room-closed"
	MeetsClosure   ClashKind = "closed"
	MeetsOpening   ClashKind = "outside-hours"
	MeetsWallClock ClashKind = "clock-changed"
	MeetsLetter    ClashKind = "letter-open" // two days ahead, and the doctor has not answered
)

// Clash is an appointment to come that cannot take place as it stands.
type Clash struct {
	studio.VisitLine
	Why ClashKind `json:"why" enum:"practitioner-away,client-away,room-closed,closed,outside-hours,clock-changed,letter-open"`
}

// Clashing lists the appointments to come that meet what was noted after they were booked: an
// absence, a busy time of an own calendar, a closed room or day, other opening hours, or another
// time by the wall clock than was promised. Nothing is moved by itself.
func (s *Service) Clashing(ctx context.Context, a *studio.Actor) ([]Clash, error) {
	out := []Clash{}
	err := studio.In(ctx, s.Kernel, a, func(tx busyStore, st *studio.Studio) error {
		if err := a.May("list-clashes"); err != nil {
			return err
		}
		now := s.Now()
		visits, err := tx.Visits(ctx, now, now.Add(ahead))
		if err != nil {
			return err
		}
		away, err := tx.Absences(ctx, now, now.Add(ahead))
		if err != nil {
			return err
		}
		// Only appointments that meet something, or are near, need a look at the client's file.
		var these []studio.VisitLine
		var whys []ClashKind
		soon := now.Add(letterAhead)
		for i := range visits {
			v := &visits[i]
			if v.State != studio.Booked && v.State != studio.Confirmed {
				continue
			}
			if why, meets := clash(v, away, st); meets || v.StartsAt.Before(soon) {
				these, whys = append(these, *v), append(whys, why)
			}
		}
		if err := s.Checks.Outlook(ctx, tx, st, a, these); err != nil {
			return err
		}
		for i := range these {
			switch v := &these[i]; {
			case v.LetterOpen && v.StartsAt.Before(soon):
				out = append(out, Clash{*v, MeetsLetter})
			case whys[i] != "":
				out = append(out, Clash{*v, whys[i]})
			}
		}
		return nil
	})
	return out, err
}

// letterAhead is how long before a visit the desk is told that a doctor has not answered yet.
const letterAhead = 48 * time.Hour

// clash says what an appointment meets, if anything.
func clash(v *studio.VisitLine, away []studio.Absence, st *studio.Studio) (ClashKind, bool) {
	if v.Promised != "" && v.Promised != v.StartsAt.In(st.Zone()).Format(moment) {
		return MeetsWallClock, true
	}
	for i := range away {
		x := &away[i]
		from, to := v.BusyFrom, v.BusyUntil
		if x.Client != nil {
			from, to = v.StartsAt, v.EndsAt
		}
		if !x.Start.Before(to) || !x.End.After(from) {
			continue
		}
		switch {
		case x.Practitioner != nil && *x.Practitioner == v.Practitioner:
			return MeetsAbsence, true
		case x.Client != nil && *x.Client == v.Client:
			return MeetsClient, true
		case x.Room != nil && *x.Room == v.Room:
			return MeetsRoom, true
		}
	}
	local := v.StartsAt.In(st.Zone())
	if series.ClosedOn(st.Closures, local.Format(time.DateOnly)) != nil {
		return MeetsClosure, true
	}
	h := st.Open[local.Weekday()]
	begin := local.Hour()*60 + local.Minute()
	if begin < h.From || begin+minutes(v.EndsAt.Sub(v.StartsAt)) > h.To {
		return MeetsOpening, true
	}
	return "", false
}
