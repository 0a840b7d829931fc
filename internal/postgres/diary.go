package postgres

import (
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgtype"
	"github.com/shopspring/decimal"

	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

// MoveVisit changes when, with whom, where and of what protocol a visit is; an overlap answers a
// *studio.TakenError.
func (t *Tx) MoveVisit(ctx context.Context, v *studio.Visit) error {
	if err := t.LockDiary(ctx); err != nil {
		return err
	}
	promised, err := t.wallTime(ctx, v.StartsAt)
	if err != nil {
		return err
	}
	return t.one(
		ctx,
		`update visit set practitioner_id = $3, room_id = $4, starts_at = $5, ends_at = $6, busy_until = $7,
			state = $8, protocol_id = $9, protocol_version = nullif($10, 0), busy_from = $11, tools = $12, held_until = $13, promised = $14,
			shares_room = case when starts_at = $5 and room_id = $4 then shares_room end,
			moves = moves + case when starts_at = $5 and practitioner_id = $3 then 0 else 1 end
			where studio_id = $1 and id = $2`,
		t.studio,
		v.ID,
		v.Practitioner,
		v.Room,
		v.StartsAt,
		v.EndsAt,
		v.BusyUntil,
		v.State,
		of(v.Protocol),
		v.Version,
		v.BusyFrom,
		document(orNone(v.Tools)),
		v.HeldUntil,
		promised,
	)
}

// orNone is a document that is never null.
func orNone(tools map[string]int) map[string]int {
	if tools == nil {
		return map[string]int{}
	}
	return tools
}

// LockVisit returns a visit and holds it until the transaction ends: what is decided
// from its state is still so when it is written.
func (t *Tx) LockVisit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error) {
	var held uuid.UUID
	err := t.row(ctx, "select id from visit where studio_id = $1 and id = $2 for update", t.studio, id).Scan(&held)
	if _, err := found(&held, err); err != nil {
		return nil, err
	}
	return t.Visit(ctx, id)
}

const visitColumns = `select v.id, v.client_id, v.practitioner_id, v.room_id, v.protocol_id, coalesce(v.protocol_version, 0),
	v.kind, v.products::text, v.busy_from, v.starts_at, v.ends_at, v.busy_until, v.state, v.tools,
	v.series_id, coalesce(v.series_item, 0),
	case when v.series_id is null then 0
		else (select count(*) from series_item i where i.studio_id = v.studio_id and i.series_id = v.series_id) end,
	v.held_until, v.agreed_at, v.moves, v.promised, v.also, v.part_of, v.together, v.shares_room,
		c.name,
		coalesce((select s.headline from pre_check s
		where s.studio_id = v.studio_id and s.visit_id = v.id order by s.at desc limit 1), '')
	from visit v
	cross join lateral (select name from client where studio_id = $1 and id = v.client_id offset 0) c
	where v.studio_id = $1`

// visitsThere leaves out the visits that are only held for somebody, or were.
const visitsThere = visitColumns + " and v.state not in ('held', 'lapsed', 'released')"

func scanVisit(r fields) (v studio.VisitLine, err error) {
	var protocolID uuid.NullUUID
	err = r.Scan(
		&v.ID,
		&v.Client,
		&v.Practitioner,
		&v.Room,
		&protocolID,
		&v.Version,
		&v.Kind,
		textList{&v.Products},
		&v.BusyFrom,
		&v.StartsAt,
		&v.EndsAt,
		&v.BusyUntil,
		&v.State,
		doc[map[string]int]{&v.Tools},
		&v.Series,
		&v.Item,
		&v.SeriesLength,
		&v.HeldUntil,
		&v.AgreedAt,
		&v.Moves,
		&v.Promised,
		doc[[]studio.VisitPart]{&v.Also},
		&v.PartOf,
		&v.Together,
		&v.SharesRoom,
		&v.ClientName,
		&v.Checked,
	)
	v.Protocol = protocolID.UUID
	return v, err
}

// visits lists visits that a query finds, with the names of whom and what they are of.
func (t *Tx) visits(ctx context.Context, query string, args ...any) ([]studio.VisitLine, error) {
	list, err := list(ctx, t, scanVisit, query, args...)
	if err != nil || len(list) == 0 {
		return list, err
	}
	names, err := t.visitNames(ctx)
	for i := range list {
		names.name(&list[i])
	}
	return list, err
}

// visitNames are the names of practitioners, rooms and versions of protocols, also of those who left and what is retired.
type visitNames struct {
	of       map[uuid.UUID]string
	versions map[studio.VisitPart]string
}

func (t *Tx) visitNames(ctx context.Context) (*visitNames, error) {
	return studio.Keep(ctx, t, "names of visits", []studio.Area{studio.InCatalog, studio.InPlans}, func() (*visitNames, error) {
		out := &visitNames{map[uuid.UUID]string{}, map[studio.VisitPart]string{}}
		_, err := list(ctx, t, func(r fields) (none struct{}, err error) {
			var part studio.VisitPart
			var name string
			err = r.Scan(&part.Protocol, &part.Version, &name)
			if part.Version == 0 {
				out.of[part.Protocol] = name
			}
			out.versions[part] = name
			return none, err
		}, `select id, 0, name from practitioner where studio_id = $1 union all select id, 0, name from room where studio_id = $1
			union all select protocol_id, number, coalesce(name, '') from protocol_version where studio_id = $1`, t.studio)
		return out, err
	})
}

// name fills in the names of a visit.
func (n *visitNames) name(v *studio.VisitLine) {
	v.PractitionerName, v.RoomName = n.of[v.Practitioner], n.of[v.Room]
	switch {
	case v.Protocol != uuid.Nil:
		v.ProtocolName = n.versions[studio.VisitPart{Protocol: v.Protocol, Version: v.Version}]
	case v.Kind == studio.ForReview:
		v.ProtocolName = "End review"
	default:
		v.ProtocolName = "Patch test"
	}
	for _, also := range v.Also {
		v.ProtocolName += ", then " + n.versions[studio.VisitPart{Protocol: also.Protocol, Version: also.Version}]
	}
}

// mostDaysKept is how many days of the diary are kept together.
const mostDaysKept = 16

// worthKeeping reports whether others will ask for the same part of the diary: some whole quarters of an hour, and not a
// part that begins now.
func worthKeeping(from, to time.Time) bool {
	const quarter = 15 * 60
	return from.Unix()%quarter == 0 && to.Unix()%quarter == 0 && to.Sub(from) <= mostDaysKept*24*time.Hour
}

// Visits lists visits that start within a time, by start.
func (t *Tx) Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error) {
	query := visitsThere + " and v.starts_at >= $2 and v.starts_at < $3 order by v.starts_at, v.id"
	if !worthKeeping(from, to) {
		return t.visits(ctx, query, t.studio, from, to)
	}
	key := fmt.Sprintf("visits from %d to %d", from.Unix(), to.Unix())
	areas := []studio.Area{studio.InDiary, studio.InFiles, studio.InCatalog, studio.InPlans}
	kept, err := studio.Keep(ctx, t, key, areas, func() ([]studio.VisitLine, error) { return t.visits(ctx, query, t.studio, from, to) })
	return slices.Clone(kept), err
}

// ClientVisits lists a client's visits, newest first.
func (t *Tx) ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error) {
	return t.visits(ctx, visitsThere+" and v.client_id = $2 order by v.starts_at desc, v.id", t.studio, client)
}

// ClientVisitPage lists at most so many of a client's visits, newest first: those older than one, or the newest.
func (t *Tx) ClientVisitPage(ctx context.Context, client uuid.UUID, after *uuid.UUID, most int) ([]studio.VisitLine, error) {
	return t.visits(ctx, visitsThere+` and v.client_id = $2
			and ($3::uuid is null or (v.starts_at, v.id) < (select o.starts_at, o.id from visit o where o.studio_id = $1 and o.id = $3))
		order by v.starts_at desc, v.id desc`+atMost(most), t.studio, client, after)
}

// Visit returns a visit.
func (t *Tx) Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error) {
	list, err := t.visits(ctx, visitColumns+" and v.id = $2", t.studio, id)
	if err != nil {
		return nil, err
	}
	if len(list) == 0 {
		return nil, studio.ErrNotFound
	}
	return &list[0], nil
}

// AddVisit books a visit; an overlap answers a *studio.TakenError. Holds that have lapsed when
// it is booked make room first.
func (t *Tx) AddVisit(ctx context.Context, v *studio.Visit) error {
	if err := t.LockDiary(ctx); err != nil {
		return err
	}
	if err := t.LapseHolds(ctx, v.CreatedAt); err != nil {
		return err
	}
	if v.BusyFrom.IsZero() {
		v.BusyFrom = v.StartsAt
	}
	promised, err := t.wallTime(ctx, v.StartsAt)
	if err != nil {
		return err
	}
	return t.exec(
		ctx,
		`insert into visit (studio_id, id, client_id, practitioner_id, room_id, protocol_id, protocol_version,
			starts_at, ends_at, busy_until, state, created_at, kind, products, busy_from, tools, series_id, series_item, held_until,
			agreed_at, promised, also, part_of, together, shares_room)
		values ($1, $2, $3, $4, $5, $6, nullif($7, 0), $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, nullif($18, 0), $19, $8, $20, $21, $22, $23, $24)`,
		t.studio,
		v.ID,
		v.Client,
		v.Practitioner,
		v.Room,
		of(v.Protocol),
		v.Version,
		v.StartsAt,
		v.EndsAt,
		v.BusyUntil,
		v.State,
		v.CreatedAt,
		v.Kind,
		texts(v.Products),
		v.BusyFrom,
		document(orNone(v.Tools)),
		v.Series,
		v.Item,
		v.HeldUntil,
		promised,
		document(orEmpty(v.Also)),
		v.PartOf,
		v.Together,
		v.SharesRoom,
	)
}

// TogetherVisits lists the visits of clients who come together, by name.
func (t *Tx) TogetherVisits(ctx context.Context, id uuid.UUID) ([]studio.VisitLine, error) {
	return t.visits(ctx, visitsThere+" and v.together = $2 order by lower(c.name), v.id", t.studio, id)
}

// EndVisit lets a visit take time until its real end, where that is before the planned one.
func (t *Tx) EndVisit(ctx context.Context, id uuid.UUID, at time.Time) error {
	return t.exec(ctx, `update visit set busy_until = $3 + (busy_until - ends_at), ends_at = $3
		where studio_id = $1 and id = $2 and starts_at < $3 and ends_at > $3`, t.studio, id, at)
}

// DivideVisit gives a visit other times and what follows it; it is not moved by that.
func (t *Tx) DivideVisit(ctx context.Context, v *studio.Visit) error {
	return t.one(ctx, `update visit set ends_at = $3, busy_until = $4, also = $5 where studio_id = $1 and id = $2`,
		t.studio, v.ID, v.EndsAt, v.BusyUntil, document(orEmpty(v.Also)))
}

// FollowingVisits lists the visits that followed another one in the same client time, by start.
func (t *Tx) FollowingVisits(ctx context.Context, of uuid.UUID) ([]studio.VisitLine, error) {
	return t.visits(ctx, visitsThere+" and v.part_of = $2 order by v.starts_at, v.id", t.studio, of)
}

// wallTime is an instant by the studio's wall clock, as it is promised to a client.
func (t *Tx) wallTime(ctx context.Context, at time.Time) (string, error) {
	if t.zone == nil {
		st, err := t.Studio(ctx)
		if err != nil {
			return "", err
		}
		t.zone = st.Zone()
	}
	return at.In(t.zone).Format("2006-01-02T15:04"), nil
}

// RetimeVisit gives a visit the instants that its promised wall time has now.
func (t *Tx) RetimeVisit(ctx context.Context, id uuid.UUID, by time.Duration) error {
	return t.one(ctx, `update visit set starts_at = starts_at + $3, ends_at = ends_at + $3, busy_from = busy_from + $3, busy_until = busy_until + $3,
		moves = moves + 1 where studio_id = $1 and id = $2`, t.studio, id, pgtype.Interval{Microseconds: by.Microseconds(), Valid: true})
}

// of is an id, or nothing where it is the zero one.
func of(id uuid.UUID) uuid.NullUUID { return uuid.NullUUID{UUID: id, Valid: id != uuid.Nil} }

// SetVisitState changes a visit's state.
func (t *Tx) SetVisitState(ctx context.Context, id uuid.UUID, state studio.VisitState) error {
	return t.one(ctx, "update visit set state = $3, held_until = null where studio_id = $1 and id = $2", t.studio, id, state)
}

// AddVisitChange logs a change of state.
func (t *Tx) AddVisitChange(ctx context.Context, visit uuid.UUID, state studio.VisitState, account *uuid.UUID, at time.Time) error {
	return t.AddCancelling(ctx, visit, state, account, at, "")
}

// AddCancelling logs a change of state with its reason.
func (t *Tx) AddCancelling(
	ctx context.Context,
	visit uuid.UUID,
	state studio.VisitState,
	account *uuid.UUID,
	at time.Time,
	reason string,
) error {
	return t.exec(
		ctx,
		`insert into visit_change (studio_id, id, visit_id, state, account_id, reason, at) values ($1, $2, $3, $4, $5, $6,
			greatest($7, (select max(at) + interval '1 microsecond' from visit_change where studio_id = $1 and visit_id = $3)))`,
		t.studio,
		uuid.Must(uuid.NewV7()),
		visit,
		state,
		account,
		reason,
		at,
	)
}

// VisitChanges lists the changes of a visit's state, newest first.
func (t *Tx) VisitChanges(ctx context.Context, visit uuid.UUID) ([]studio.VisitChange, error) {
	return list(ctx, t, func(r fields) (c studio.VisitChange, err error) {
		err = r.Scan(&c.State, &c.Account, &c.At, &c.Reason)
		return c, err
	}, "select state, account_id, at, reason from visit_change where studio_id = $1 and visit_id = $2 order by at desc, id desc", t.studio, visit)
}

// Records says of the visits of some days how their records stand, with the price of their versions.
func (t *Tx) Records(ctx context.Context, from, to time.Time) (map[uuid.UUID]diary.RecordStands, error) {
	type row struct {
		visit uuid.UUID
		is    diary.RecordStands
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		var cost decimal.NullDecimal
		err = r.Scan(&x.visit, &x.is.Begun, &x.is.Finished, &cost, &x.is.Price)
		if cost.Valid {
			x.is.Cost = &cost.Decimal
		}
		return x, err
	}, `select v.id, t.visit_id is not null, t.finished_at is not null, t.cost, coalesce(p.price, '') from visit v
		left join treatment t on t.studio_id = v.studio_id and t.visit_id = v.id
		left join protocol_version p on p.studio_id = v.studio_id and p.protocol_id = v.protocol_id and p.number = v.protocol_version
		where v.studio_id = $1 and v.starts_at >= $2 and v.starts_at < $3`, t.studio, from, to)
	out := make(map[uuid.UUID]diary.RecordStands, len(rows))
	for _, x := range rows {
		out[x.visit] = x.is
	}
	return out, err
}
