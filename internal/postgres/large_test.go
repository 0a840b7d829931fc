package postgres_test

import (
	"context"
	"database/sql"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/studio"
)

// grow fills a studio with years of clients, visits and health records.
var grow = []string{
	`insert into client (studio_id, id, name, skin_type, created_at)
		select $1, gen_random_uuid(), 'Client ' || i, 'normal', now() from generate_series(1, 8000) i`,
	`insert into visit (studio_id, id, client_id, practitioner_id, room_id, protocol_id, protocol_version, starts_at, ends_at, busy_until, state, created_at, busy_from, agreed_at)
		select $1, gen_random_uuid(), c.id, p.id, r.id, v.protocol_id, v.number, s.at, s.at + interval '1 hour', s.at + interval '75 minutes', 'done', now(), s.at, s.at
		from (select id, row_number() over (order by name) n from client where studio_id = $1 and name like 'Client %') c
		cross join lateral (select timestamptz '2018-01-01 08:00+00' + c.n * interval '90 minutes' as at) s
		cross join (select id from practitioner where studio_id = $1 order by key limit 1) p
		cross join (select id from room where studio_id = $1 order by key limit 1) r
		cross join (select protocol_id, number from protocol_version where studio_id = $1 order by protocol_id limit 1) v`,
	`insert into treatment (studio_id, visit_id, prepared, progress, record, cost, started_at, finished_at)
		select $1, id, '{}', '{}', '{"note":"","uses":[{"product":"calm-oil","real":"3"}]}', 1, starts_at, ends_at from visit where studio_id = $1 and starts_at < '2022-01-01'`,
	`insert into consultation (studio_id, id, client_id, answers, pack_version, created_at, reviewed_at, reviewed_by, day)
		select $1, gen_random_uuid(), id, '{}', 'x', now(), now(), gen_random_uuid(), current_date from client where studio_id = $1 and name like 'Client %'`,
	`insert into pre_check (studio_id, id, client_id, day, answers, result, pack_version, account_id, at)
		select $1, gen_random_uuid(), id, current_date, '{}', '{"headline":"go","outcomes":[]}', 'x', gen_random_uuid(), now() from client where studio_id = $1 and name like 'Client %'`,
	`insert into letter (studio_id, id, client_id, rules, protocol_name, question, written_at, written_by)
		select $1, gen_random_uuid(), id, '["cancer"]', '', 'May it?', now(), gen_random_uuid() from client where studio_id = $1 and name like 'Client %'`,
	`insert into patch_test (studio_id, id, client_id, product_id, lot_number, place, applied_at, months, account_id)
		select $1, gen_random_uuid(), c.id, p.id, 'A', 'arm', now(), 6, gen_random_uuid() from client c
		cross join (select id from product where studio_id = $1 order by key limit 1) p where c.studio_id = $1 and c.name like 'Client %'`,
	`insert into consent (studio_id, id, client_id, kind, version, body, signer, guardian, signature, signed_at, account_id)
		select $1, gen_random_uuid(), id, 'treatment', 'x', 'x', 'x', false, '[]', now(), gen_random_uuid() from client where studio_id = $1 and name like 'Client %'`,
	`alter table stock_movement disable trigger stock_movement_kept`,
	`insert into stock_movement (studio_id, id, pack_id, product_id, lot_id, kind, amount, visit_id, at)
		select $1, gen_random_uuid(), p.id, p.product_id, p.lot_id, 'treatment', -1, v.id, v.starts_at
		from (select id, starts_at, row_number() over (order by starts_at) n from visit where studio_id = $1 and starts_at < '2022-01-01') v
		cross join generate_series(0, 7) k
		join (select id, product_id, lot_id, row_number() over (order by id) - 1 n, count(*) over () c from pack where studio_id = $1) p
			on p.n = (v.n + k) % p.c`,
	`alter table stock_movement enable trigger stock_movement_kept`,
	`insert into product_use (studio_id, visit_id, product_id, practitioner_id, protocol_id, day, planned, used, how, cost, at)
		select $1, v.id, p.id, v.practitioner_id, v.protocol_id, v.starts_at::date, 3, 3.1, case when v.n % 2 = 0 then 'counted' else 'as planned' end, 1, v.starts_at
		from (select *, row_number() over (order by starts_at) n from visit where studio_id = $1 and starts_at < '2022-01-01') v
		cross join (select id from product where studio_id = $1 order by key limit 2) p
		on conflict do nothing`,
	`insert into audit (studio_id, id, account_id, at, action, subject, subject_id)
		select $1, gen_random_uuid(), null, now() - i * interval '1 minute', 'look', 'client', null from generate_series(1, 20000) i`,
}

// No list reads through a large table: with eight thousand clients each of the
// everyday reads finds its rows by an index (by PostgreSQL's own count of rows
// read in sequence).
func TestALargeStudioIsReadByItsIndexes(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	owner, err := sql.Open("pgx", w.ownerURL)
	require.NoError(t, err)
	defer owner.Close()
	owner.SetMaxOpenConns(1)
	_, err = owner.ExecContext(ctx, "select set_config('app.studio_id', $1, false)", w.owner.Studio)
	require.NoError(t, err)
	for _, q := range grow {
		args := []any{w.owner.Studio}
		if !strings.Contains(q, "$1") {
			args = nil
		}
		_, err = owner.ExecContext(ctx, q, args...)
		require.NoError(t, err, q)
	}
	_, err = owner.ExecContext(ctx, "analyze")
	require.NoError(t, err)
	large := []string{"client", "visit", "treatment", "consultation", "pre_check", "letter", "patch_test", "consent", "audit", "stock_movement", "product_use"}
	read := func() map[string]int64 {
		time.Sleep(1200 * time.Millisecond) // a backend hands its counts over once a second
		rows, err := owner.QueryContext(ctx, "select relname, seq_tup_read from pg_stat_user_tables")
		require.NoError(t, err)
		defer rows.Close()
		out := map[string]int64{}
		for rows.Next() {
			var name string
			var n int64
			require.NoError(t, rows.Scan(&name, &n))
			out[name] = n
		}
		require.NoError(t, rows.Err())
		return out
	}
	v := w.first(t)
	oil := w.line(t, "calm-oil")
	fresh := w.receive(t, oil.Product.ID, "FRESH", "2030-01-01", 1, "100", "10")[0]
	before := read()
	for name, do := range map[string]func() error{
		"the day":       func() error { _, err := w.svc.Diary.Day(ctx, &w.owner, ""); return err },
		"a client":      func() error { _, err := w.svc.Clients.Client(ctx, &w.owner, v.Client); return err },
		"the clients":   func() error { _, _, err := w.svc.Clients.Clients(ctx, &w.owner, "", ""); return err },
		"the questions": func() error { _, err := w.svc.Checks.QuestionsFor(ctx, &w.owner, v.Client); return err },
		"free times": func() error {
			_, err := w.svc.Diary.FreeTimes(ctx, &w.owner, studio.FreeQuery{Protocol: v.Protocol, Client: &v.Client, Days: 7})
			return err
		},
		"the shelf": func() error { _, err := w.svc.Shelf.Shelf(ctx, &w.owner); return err },
		"a history": func() error {
			_, err := w.svc.Shelf.Movements(ctx, &w.owner, oil.Product.ID, time.Time{})
			return err
		},
		"what is learned": func() error { _, err := w.svc.Shelf.LearnedOf(ctx, &w.owner, oil.Product.ID); return err },
		"a trace":         func() error { _, err := w.svc.Shelf.Trace(ctx, &w.owner, []uuid.UUID{fresh.LotID}); return err },
		"what a client had": func() error {
			_, err := w.svc.Shelf.LotsOfClient(ctx, &w.owner, v.Client)
			return err
		},
		"the audit log": func() error { _, err := w.svc.House.AuditLog(ctx, &w.owner, time.Time{}); return err },
	} {
		require.NoError(t, do(), name)
		after := read()
		for _, table := range large {
			assert.Less(t, after[table]-before[table], int64(1000), "%s reads %s in sequence", name, table)
		}
		before = after
	}
}

// Clients are found by any part of a word of their name from its second letter back, without accents, by the parts of
// their e-mail address and by the end of their telephone number; changed and deleted ones by what they are now.
func TestClientsAreFound(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	id := w.first(t).Client
	require.NoError(t, w.direct(w.ownerURL, "update client set name = 'Łucja Éloïse Ångström-Đặng', email = 'Lucja.Ang@post.example', phone = '+00 (555) 01 23-45' where id = '"+id.String()+"'"))
	finds := func(search string) bool {
		t.Helper()
		list, _, err := w.svc.Clients.Clients(ctx, &w.owner, search, "")
		require.NoError(t, err)
		return slices.ContainsFunc(list, func(c studio.ClientLine) bool { return c.ID == id })
	}
	for _, search := range []string{
		"łucja", "LUCJA", "ucja", "éloïse", "eloise", "angstrom", "dang", "lucja eloise", "eloise luc", "ångström-đặng", "lucja.ang", "ang@post",
		"lucja.ang@post.example", "5550123", "+00 555 01", "2345", "01 23-45", "",
	} {
		assert.True(t, finds(search), "%q", search)
	}
	for _, search := range []string{"lucjb", "lucja mara", "5550124", "%", "lucja_ang"} {
		assert.False(t, finds(search), "%q", search)
	}
	require.NoError(t, w.direct(w.ownerURL, "update client set name = 'Mara Lind' where id = '"+id.String()+"'"))
	assert.False(t, finds("ångström"))
	assert.True(t, finds("mara lind"))
}
