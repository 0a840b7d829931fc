package postgres

import (
	"context"
	"database/sql"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/studio"
	"softpalm/internal/studio/clients"
)

// Clients lists clients by name after a cursor "name|id".
func (t *Tx) Clients(ctx context.Context, q studio.ClientQuery) ([]studio.ClientLine, error) {
	afterName, afterID := "", uuid.Nil
	if i := strings.LastIndexByte(q.After, '|'); i >= 0 {
		if id, err := uuid.Parse(q.After[i+1:]); err == nil {
			afterName, afterID = q.After[:i], id
		}
	}
	args := []any{t.studio, afterName, afterID, q.Now, q.TreatedBy}
	// The words carry what the list is ordered by: a client is looked up only where it is shown.
	var said []string
	for _, word := range q.Words() {
		args = append(args, word)
		said = append(said, fmt.Sprintf(`select client_id as id, sort_name from client_word
			where studio_id = $1 and word >= fold($%[1]d) and word < fold($%[1]d) || chr(1114111) group by 1, 2`, len(args)))
	}
	from, found := "("+strings.Join(said, " intersect ")+")", ""
	if len(said) == 0 {
		from, found = "client", " and c.studio_id = $1 and c.erased_at is null"
	}
	return list(ctx, t, func(r fields) (c studio.ClientLine, err error) {
		err = r.Scan(&c.ID, &c.Name, &c.SkinType, textList{&c.States}, &c.Last, &c.Next, &c.Visits)
		return c, err
	}, `with found as (select c.id, c.sort_name from `+from+` c where (c.sort_name, c.id) > ($2, $3)`+found+`
				and ($5::uuid is null or exists (select 1 from visit v where v.studio_id = $1 and v.client_id = c.id
				and v.practitioner_id = $5 and v.state not in ('cancelled', 'late-cancelled')))
			order by c.sort_name, c.id`+atMost(q.Limit)+`)
		select c.id, c.name, c.skin_type, c.skin_states::text, v.last, v.next, v.given
		from found f join client c on c.studio_id = $1 and c.id = f.id
		cross join lateral (select max(starts_at) filter (where state in ('done', 'broken-off')) as last,
				min(starts_at) filter (where starts_at > $4 and state in ('booked', 'confirmed', 'arrived')) as next,
				count(*) filter (where state in ('done', 'broken-off')) as given
			from visit where studio_id = $1 and client_id = c.id) v
		order by f.sort_name, f.id`, args...)
}

// IdleClients lists the clients who were last seen before a day, by that day.
func (t *Tx) IdleClients(ctx context.Context, before calendar.Day, zone string) ([]studio.PastFile, error) {
	return list(ctx, t, func(r fields) (f studio.PastFile, err error) {
		err = r.Scan(&f.Client, &f.Name, &f.Born, &f.Last)
		return f, err
	}, `select id, name, coalesce(birth_date::text, ''), last::text from (
			select c.id, c.name, c.birth_date, (greatest(c.created_at,
				(select max(v.starts_at) from visit v where v.studio_id = c.studio_id and v.client_id = c.id
				and v.state not in ('cancelled', 'late-cancelled')),
				(select max(coalesce(k.reviewed_at, k.sent_at, k.created_at)) from consultation k
				where k.studio_id = c.studio_id and k.client_id = c.id)) at time zone $3)::date as last
			from client c where c.studio_id = $1 and c.erased_at is null) x
		where last < $2::date order by last, lower(name), id`, t.studio, before, zone)
}

// Treats reports whether a practitioner has, or had, an appointment with a client that was
// not cancelled.
func (t *Tx) Treats(ctx context.Context, practitioner, client uuid.UUID) (treats bool, err error) {
	err = t.get(ctx, &treats, `select exists (select 1 from visit where studio_id = $1 and client_id = $3
		and practitioner_id = $2 and state not in ('cancelled', 'late-cancelled'))`, t.studio, practitioner, client)
	return treats, err
}

const clientColumns = `select id, name, email, phone, coalesce(birth_date::text, ''), skin_type, skin_states::text, phototype,
	note, created_at, revision, no_messages, short_message
	from client where studio_id = $1`

func scanClient(r fields) (c studio.Client, err error) {
	var phototype sql.NullInt64
	err = r.Scan(
		&c.ID,
		&c.Name,
		&c.Email,
		&c.Phone,
		&c.BirthDate,
		&c.SkinType,
		textList{&c.SkinStates},
		&phototype,
		&c.Note,
		&c.CreatedAt,
		&c.Revision,
		&c.NoMessages,
		&c.ShortMessage,
	)
	c.Phototype = int(phototype.Int64)
	return c, err
}

// Client returns a client.
func (t *Tx) Client(ctx context.Context, id uuid.UUID) (*studio.Client, error) {
	c, err := scanClient(t.row(ctx, clientColumns+" and id = $2 and erased_at is null", t.studio, id))
	return found(&c, err)
}

// AddClient adds a client.
func (t *Tx) AddClient(ctx context.Context, c *studio.Client) error {
	return t.exec(
		ctx,
		`insert into client (studio_id, id, name, email, phone, birth_date, skin_type, skin_states, phototype, note, created_at,
			no_messages, short_message)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)`,
		t.studio,
		c.ID,
		c.Name,
		c.Email,
		c.Phone,
		day(c.BirthDate),
		c.SkinType,
		texts(c.SkinStates),
		c.Phototype,
		c.Note,
		c.CreatedAt,
		c.NoMessages,
		c.ShortMessage,
	)
}

// LockClient returns a client and holds it until the transaction ends.
func (t *Tx) LockClient(ctx context.Context, id uuid.UUID) (*studio.Client, error) {
	c, err := scanClient(t.row(ctx, clientColumns+" and id = $2 and erased_at is null for update", t.studio, id))
	return found(&c, err)
}

// UpdateClient writes a client's fields, as the next revision.
func (t *Tx) UpdateClient(ctx context.Context, c *studio.Client) error {
	return t.one(
		ctx,
		`update client set name = $3, email = $4, phone = $5, birth_date = $6, skin_type = $7, skin_states = $8,
			phototype = $9, note = $10, no_messages = $11, short_message = $12, revision = revision + 1
		where studio_id = $1 and id = $2 and erased_at is null`,
		t.studio,
		c.ID,
		c.Name,
		c.Email,
		c.Phone,
		day(c.BirthDate),
		c.SkinType,
		texts(c.SkinStates),
		c.Phototype,
		c.Note,
		c.NoMessages,
		c.ShortMessage,
	)
}

// SetMessages writes whether a client wants messages, in answer to themselves.
func (t *Tx) SetMessages(ctx context.Context, client uuid.UUID, none bool) error {
	return t.one(ctx, `update client set no_messages = $3, revision = revision + 1
		where studio_id = $1 and id = $2 and erased_at is null`, t.studio, client, none)
}

// LockVisitsOf holds a client's visits until the transaction ends, and lists them by start.
func (t *Tx) LockVisitsOf(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error) {
	err := t.exec(ctx, "select 1 from visit where studio_id = $1 and client_id = $2 order by id for update", t.studio, client)
	if err != nil {
		return nil, err
	}
	return t.ClientVisits(ctx, client)
}

// EraseClient removes who a client is and all health data; the client is not
// listed any more.
func (t *Tx) EraseClient(ctx context.Context, id uuid.UUID, at time.Time) error {
	return t.exec(ctx, "select erase_client($1, $2)", id, at)
}

// Contacts lists all clients as contacts, by name.
func (t *Tx) Contacts(ctx context.Context) ([]clients.Contact, error) {
	return list(ctx, t, func(r fields) (c clients.Contact, err error) {
		err = r.Scan(&c.ID, &c.Name, &c.Email, &c.Phone, &c.BirthDate, &c.UID)
		return c, err
	}, `select id, name, email, phone, coalesce(birth_date::text, ''), card_uid from client
		where studio_id = $1 and erased_at is null order by lower(name), id`, t.studio)
}

// SetCardUID notes under what a client's card is known elsewhere.
func (t *Tx) SetCardUID(ctx context.Context, client uuid.UUID, uid string) error {
	if len(uid) > 300 {
		uid = "" // it would be cut, and match nothing
	}
	return t.one(ctx, "update client set card_uid = $3 where studio_id = $1 and id = $2", t.studio, client, uid)
}
