package postgres

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

// LockDiary lets one at a time give times of the studio away, until the transaction ends. A
// time is free of three others (the practitioner's, the room's, the client's); two that wait
// for each other in different ones would else be a deadlock, which the database takes a second
// to find. Tools, of which several are there, are counted under it. Many who book at once stand in
// line here, so the line is waited in for longer than any other lock.
func (t *Tx) LockDiary(ctx context.Context) error {
	return t.exec(ctx, `with patience as materialized (select set_config('lock_timeout', '8s', true) as is)
		select pg_advisory_xact_lock(hashtextextended('diary ' || $1::text, 0)) from patience where patience.is <> ''`, t.studio)
}

// Overlap says which of a visit's practitioner, room and client another visit takes at its time, as
// the word of [studio.TakenError]; empty where all three are free, [studio.ErrNotFound] where the
// client is not there any more. The constraints visit_practitioner_free, visit_room_free and visit_client_free refuse the same.
func (t *Tx) Overlap(ctx context.Context, v *studio.Visit) (what string, err error) {
	err = t.get(ctx, &what, `with other as (
			select practitioner_id, client_id, room_id, coalesce(shares_room, id) as shares, starts_at, ends_at, busy_from, busy_until from visit
			where studio_id = $1 and id <> $2 and busy_until > $6 and busy_from < $7
				and state in ('held', 'booked', 'confirmed', 'arrived', 'in-room', 'done', 'broken-off'))
		select case
			when exists (select from other where practitioner_id = $3) then 'practitioner'
			when exists (select from other where room_id = $4
				and shares <> coalesce((select shares_room from visit where studio_id = $1 and id = $2), $2)) then 'room'
			when exists (select from other where client_id = $5 and ends_at > $8 and starts_at < $9) then 'client'
			else '' end
		from client where studio_id = $1 and id = $5 and erased_at is null`,
		t.studio, v.ID, v.Practitioner, v.Room, v.Client, v.BusyFrom, v.BusyUntil, v.StartsAt, v.EndsAt)
	return what, err
}

// LapseHolds ends the holds whose hour has come, with their series.
func (t *Tx) LapseHolds(ctx context.Context, now time.Time) error {
	if err := t.exec(ctx, `insert into visit_change (studio_id, id, visit_id, state, at)
		select studio_id, gen_random_uuid(), id, 'lapsed', held_until from visit
		where studio_id = $1 and state = 'held' and held_until <= $2`, t.studio, now); err != nil {
		return err
	}
	if err := t.exec(ctx, `update visit set state = 'lapsed', held_until = null
		where studio_id = $1 and state = 'held' and held_until <= $2`, t.studio, now); err != nil {
		return err
	}
	return t.exec(ctx, `update series set state = 'lapsed' where studio_id = $1 and state = 'offered' and held_until <= $2`, t.studio, now)
}

// BusyTimes lists what takes time between two moments, by start; holds that have lapsed at now
// take none.
func (t *Tx) BusyTimes(ctx context.Context, from, to, now time.Time) ([]studio.BusyTime, error) {
	read := func() ([]studio.BusyTime, error) { return t.readBusyTimes(ctx, from, to) }
	kept, err := []studio.BusyTime(nil), error(nil)
	if !worthKeeping(from, to) {
		kept, err = read()
	} else {
		key := fmt.Sprintf("busy times from %d to %d", from.Unix(), to.Unix())
		kept, err = studio.Keep(ctx, t, key, []studio.Area{studio.InDiary}, read)
	}
	out := make([]studio.BusyTime, 0, len(kept))
	for _, b := range kept {
		if b.HeldUntil == nil || b.HeldUntil.After(now) {
			out = append(out, b)
		}
	}
	return out, err
}

func (t *Tx) readBusyTimes(ctx context.Context, from, to time.Time) ([]studio.BusyTime, error) {
	return list(ctx, t, func(r fields) (b studio.BusyTime, err error) {
		err = r.Scan(&b.Visit, &b.Client, &b.Practitioner, &b.Room, &b.Series, &b.From, &b.Start, &b.End, &b.Until, doc[map[string]int]{&b.Tools},
			&b.Shares, &b.HeldUntil)
		return b, err
	}, `select id, client_id, practitioner_id, room_id, series_id, busy_from, starts_at, ends_at, busy_until, tools, shares_room, held_until
		from visit where studio_id = $1 and busy_until > $2 and busy_from < $3
			and state in ('held', 'booked', 'confirmed', 'arrived', 'in-room', 'done', 'broken-off')
		order by starts_at, id`, t.studio, from, to)
}

// Roster lists the lines of the rosters, in the order in which they were written.
func (t *Tx) Roster(ctx context.Context) ([]studio.RosterEntry, error) {
	return list(ctx, t, func(r fields) (e studio.RosterEntry, err error) {
		err = r.Scan(&e.ID, &e.Practitioner, &e.From, &e.To, &e.Every, doc[series.WeekPieces]{&e.Days}, &e.Note)
		return e, err
	}, `select id, practitioner_id, from_day::text, coalesce(to_day::text, ''), every, days, note from roster_entry
		where studio_id = $1 order by id`, t.studio)
}

// AddRosterEntry adds a line to a roster.
func (t *Tx) AddRosterEntry(ctx context.Context, e *studio.RosterEntry) error {
	return t.exec(ctx, `insert into roster_entry (studio_id, id, practitioner_id, from_day, to_day, every, days, note)
		values ($1, $2, $3, $4, $5, $6, $7, $8)`, t.studio, e.ID, e.Practitioner, e.From, day(e.To), e.Every, document(e.Days), e.Note)
}

// RemoveRosterEntry takes a line out of a roster.
func (t *Tx) RemoveRosterEntry(ctx context.Context, id uuid.UUID) error {
	return t.one(ctx, "delete from roster_entry where studio_id = $1 and id = $2", t.studio, id)
}

// Absences lists the absences that reach into a time, by start.
func (t *Tx) Absences(ctx context.Context, from, to time.Time) ([]studio.Absence, error) {
	return list(ctx, t, func(r fields) (a studio.Absence, err error) {
		err = r.Scan(&a.ID, &a.Practitioner, &a.Client, &a.Room, &a.Start, &a.End, &a.Kind, &a.Note)
		return a, err
	}, `select id, practitioner_id, client_id, room_id, starts_at, ends_at, kind, note from absence
		where studio_id = $1 and ends_at > $2 and starts_at < $3 order by starts_at, id`, t.studio, from, to)
}

// AddAbsence notes an absence.
func (t *Tx) AddAbsence(ctx context.Context, a *studio.Absence) error {
	return t.exec(ctx, `insert into absence (studio_id, id, practitioner_id, client_id, room_id, starts_at, ends_at, kind, note)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`, t.studio, a.ID, a.Practitioner, a.Client, a.Room, a.Start, a.End, a.Kind, a.Note)
}

// RemoveAbsence takes an absence back.
func (t *Tx) RemoveAbsence(ctx context.Context, id uuid.UUID) error {
	return t.one(ctx, "delete from absence where studio_id = $1 and id = $2", t.studio, id)
}

// ToolsOut lists the pieces of tools that are not there from a day on, by first day.
func (t *Tx) ToolsOut(ctx context.Context, from string) ([]studio.ToolOut, error) {
	return list(ctx, t, func(r fields) (o studio.ToolOut, err error) {
		err = r.Scan(&o.ID, &o.Tool, &o.Pieces, &o.From, &o.To, &o.Reason, &o.Note)
		return o, err
	}, `select id, tool, pieces, from_day::text, coalesce(to_day::text, ''), reason, note from tool_out
		where studio_id = $1 and (to_day is null or to_day >= $2::date) order by from_day, id`, t.studio, from)
}

// AddToolOut notes pieces that are not there.
func (t *Tx) AddToolOut(ctx context.Context, o *studio.ToolOut) error {
	return t.exec(ctx, `insert into tool_out (studio_id, id, tool, pieces, from_day, to_day, reason, note)
		values ($1, $2, $3, $4, $5, $6, $7, $8) on conflict (studio_id, id) do nothing`,
		t.studio, o.ID, o.Tool, o.Pieces, o.From, day(o.To), o.Reason, o.Note)
}

// RemoveToolOut takes back that pieces are not there.
func (t *Tx) RemoveToolOut(ctx context.Context, id uuid.UUID) error {
	return t.one(ctx, "delete from tool_out where studio_id = $1 and id = $2", t.studio, id)
}

// ReplaceBusy writes somebody's busy times in the place of those of an earlier calendar.
func (t *Tx) ReplaceBusy(ctx context.Context, practitioner, client *uuid.UUID, from time.Time, list []studio.Absence) (replaced int, err error) {
	err = t.get(ctx, &replaced, `with gone as (delete from absence where studio_id = $1 and kind = 'imported' and ends_at > $4
			and (practitioner_id = $2 or client_id = $3) returning id) select count(*) from gone`, t.studio, practitioner, client, from)
	if err != nil {
		return 0, err
	}
	for i := range list {
		if err := t.AddAbsence(ctx, &list[i]); err != nil {
			return 0, err
		}
	}
	return replaced, nil
}

// ClientHours returns when a client can come; nobody has said is any time.
func (t *Tx) ClientHours(ctx context.Context, client uuid.UUID) (*studio.ClientHours, error) {
	var h studio.ClientHours
	var possible, likes, guardian sql.NullString
	err := t.row(ctx, `select possible, likes, guardian, bedtime, revision from client_hours
		where studio_id = $1 and client_id = $2`, t.studio, client).Scan(&possible, &likes, &guardian, &h.Bedtime, &h.Revision)
	if _, err := found(&h, err); err == studio.ErrNotFound { //nolint:errorlint // found answers the bare error
		return &studio.ClientHours{}, nil
	} else if err != nil {
		return nil, err
	}
	for _, x := range []struct {
		from sql.NullString
		to   *series.WeekPieces
	}{{possible, &h.Possible}, {likes, &h.Likes}, {guardian, &h.Guardian}} {
		if x.from.Valid {
			if err := (doc[series.WeekPieces]{x.to}).Scan(x.from.String); err != nil {
				return nil, err
			}
		}
	}
	return &h, nil
}

// SaveClientHours writes when a client can come, as the next revision.
func (t *Tx) SaveClientHours(ctx context.Context, client uuid.UUID, h *studio.ClientHours) error {
	pieces := func(w series.WeekPieces) any {
		if w == nil {
			return nil
		}
		return document(w)
	}
	return t.exec(ctx, `insert into client_hours (studio_id, client_id, possible, likes, guardian, bedtime)
		values ($1, $2, $3, $4, $5, $6) on conflict (studio_id, client_id) do update
		set possible = $3, likes = $4, guardian = $5, bedtime = $6, revision = client_hours.revision + 1`,
		t.studio, client, pieces(h.Possible), pieces(h.Likes), pieces(h.Guardian), h.Bedtime)
}

// AddSeries adds a series with its items.
func (t *Tx) AddSeries(ctx context.Context, s *studio.Series) error {
	if err := t.exec(ctx, `insert into series (studio_id, id, client_id, state, asked, held_until, held_by, created_at)
		values ($1, $2, $3, $4, $5, $6, $7, $8)`,
		t.studio, s.ID, s.Client, s.State, document(s.Asked), s.HeldUntil, s.HeldBy, s.CreatedAt); err != nil {
		return err
	}
	for i := range s.Items {
		if err := t.AddSeriesItem(ctx, s.ID, &s.Items[i]); err != nil {
			return err
		}
	}
	return nil
}

// RunningSeries lists the series that are running, by when they were made.
func (t *Tx) RunningSeries(ctx context.Context) ([]studio.Series, error) {
	return t.seriesList(ctx, seriesColumns+" and state = 'running' order by created_at, id", t.studio)
}

// AddSeriesItem adds a treatment to a series.
func (t *Tx) AddSeriesItem(ctx context.Context, id uuid.UUID, it *studio.SeriesItem) error {
	return t.exec(ctx, `insert into series_item (studio_id, series_id, n, protocol_id, ideal, least, most, rest, marks, also)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10::uuid[])`,
		t.studio, id, it.N, it.Protocol, it.Ideal, it.Least, it.Most, it.Rest, document(it.Marks), ids(it.Also))
}

// SaveSeries writes the state of a series.
func (t *Tx) SaveSeries(ctx context.Context, s *studio.Series) error {
	return t.one(ctx, `update series set state = $3, reason = $4, held_until = $5, renewed = $6, held_by = $7, review = $8, home_care = $9 where studio_id = $1 and id = $2`,
		t.studio, s.ID, s.State, s.Reason, s.HeldUntil, s.Renewed, s.HeldBy, optionalDocument(s.Review), s.HomeCare)
}

const seriesColumns = `select id, client_id, state, asked, reason, held_until, held_by, renewed, created_at, review, home_care from series where studio_id = $1`

func scanSeries(r fields) (s studio.Series, err error) {
	err = r.Scan(&s.ID, &s.Client, &s.State, doc[studio.SeriesAsked]{&s.Asked}, &s.Reason, &s.HeldUntil, &s.HeldBy, &s.Renewed, &s.CreatedAt, optional[studio.SeriesReview]{&s.Review}, &s.HomeCare)
	return s, err
}

// LockSeries returns a series with its items, and holds it until the transaction ends.
func (t *Tx) LockSeries(ctx context.Context, id uuid.UUID) (*studio.Series, error) {
	s, err := scanSeries(t.row(ctx, seriesColumns+" and id = $2 for update", t.studio, id))
	return t.withItems(ctx, &s, err)
}

// Series returns a series with its items.
func (t *Tx) Series(ctx context.Context, id uuid.UUID) (*studio.Series, error) {
	s, err := scanSeries(t.row(ctx, seriesColumns+" and id = $2", t.studio, id))
	return t.withItems(ctx, &s, err)
}

func (t *Tx) withItems(ctx context.Context, s *studio.Series, err error) (*studio.Series, error) {
	if s, err = found(s, err); err != nil {
		return nil, err
	}
	s.Items, err = list(ctx, t, func(r fields) (it studio.SeriesItem, err error) {
		err = r.Scan(&it.N, &it.Protocol, &it.Ideal, &it.Least, &it.Most, &it.Rest, doc[series.Marks]{&it.Marks}, doc[[]uuid.UUID]{&it.Also})
		return it, err
	}, "select n, protocol_id, ideal, least, most, rest, marks, array_to_json(also) from series_item where studio_id = $1 and series_id = $2 order by n", t.studio, s.ID)
	return s, err
}

// ClientSeries lists a client's series, newest first, without those that lapsed.
func (t *Tx) ClientSeries(ctx context.Context, client uuid.UUID) ([]studio.Series, error) {
	return t.seriesList(ctx, seriesColumns+" and client_id = $2 and state <> 'lapsed' order by created_at desc, id", t.studio, client)
}

// Holds lists the series that are held at a moment, the first to lapse first.
func (t *Tx) Holds(ctx context.Context, now time.Time) ([]studio.Series, error) {
	return t.seriesList(ctx, seriesColumns+" and state = 'offered' and held_until > $2 order by held_until, id", t.studio, now)
}

func (t *Tx) seriesList(ctx context.Context, query string, args ...any) ([]studio.Series, error) {
	all, err := list(ctx, t, scanSeries, query, args...)
	if err != nil {
		return nil, err
	}
	for i := range all {
		if _, err := t.withItems(ctx, &all[i], nil); err != nil {
			return nil, err
		}
	}
	return all, nil
}

// SeriesVisits lists the visits of a series by start, those that were let go too.
func (t *Tx) SeriesVisits(ctx context.Context, id uuid.UUID) ([]studio.VisitLine, error) {
	return t.visits(ctx, visitColumns+" and v.series_id = $2 order by v.starts_at, v.id", t.studio, id)
}

// BusyAddresses lists the addresses of own calendars.
func (t *Tx) BusyAddresses(ctx context.Context) ([]diary.BusyAddress, error) {
	return list(ctx, t, func(r fields) (b diary.BusyAddress, err error) {
		err = r.Scan(&b.ID, &b.Practitioner, &b.Client, &b.Address, &b.ReadAt, &b.Failure)
		return b, err
	}, "select id, practitioner_id, client_id, address, read_at, failure from busy_address where studio_id = $1 order by id", t.studio)
}

// SaveBusyAddress writes the address of somebody's own calendar, in the place of the one before.
func (t *Tx) SaveBusyAddress(ctx context.Context, b *diary.BusyAddress) error {
	return t.exec(ctx, `insert into busy_address (studio_id, id, practitioner_id, client_id, address, read_at, failure)
		values ($1, $2, $3, $4, $5, $6, $7) on conflict (studio_id, (coalesce(practitioner_id, client_id))) do update
		set address = $5, read_at = $6, failure = $7`, t.studio, b.ID, b.Practitioner, b.Client, b.Address, b.ReadAt, b.Failure)
}

// RemoveBusyAddress forgets the address of somebody's own calendar.
func (t *Tx) RemoveBusyAddress(ctx context.Context, practitioner, client *uuid.UUID) error {
	return t.exec(ctx, "delete from busy_address where studio_id = $1 and (practitioner_id = $2 or client_id = $3)", t.studio, practitioner, client)
}
