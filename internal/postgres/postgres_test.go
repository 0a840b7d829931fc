package postgres_test

import (
	"bytes"
	"cmp"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/guide"
	"softpalm/internal/exchange"
	"softpalm/internal/httpapi"
	"softpalm/internal/postgres"
	"softpalm/internal/rooms"
	"softpalm/internal/studio"
	"softpalm/internal/studio/clients"
	"softpalm/internal/studio/house"
	"softpalm/internal/studio/protocols"
)

var start = time.Date(2026, 11, 24, 9, 5, 0, 0, time.UTC)

// world is a database of its own with the demo studio in it.
type world struct {
	db       *postgres.DB
	ownerURL string
	appURL   string
	svc      *rooms.Rooms
	owner    studio.Actor
	desk     studio.Actor
	now      time.Time
}

// template holds the databases that the worlds are copied from, one without a studio and one with the
// demo's. They are made once, because migrating and loading take more than a second.
var template struct {
	sync.Once
	empty, demo string
}

func TestMain(m *testing.M) {
	house.HashCheaply()
	code := m.Run()
	finished.drop(template.empty, template.demo)
	os.Exit(code)
}

// finished are databases whose tests are over. They are dropped together: a file system that has just lost a thousand files
// takes long to make the thousand of the next database.
var finished dropping

type dropping struct {
	sync.Mutex
	names []string
}

// mostFinished databases of 15 MB lie about at a time.
const mostFinished = 60

// add notes a database as finished.
func (d *dropping) add(name string) {
	d.Lock()
	defer d.Unlock()
	if d.names = append(d.names, name); len(d.names) == mostFinished {
		go d.drop()
	}
}

// drop drops what is finished, and more.
func (d *dropping) drop(more ...string) {
	d.Lock()
	defer d.Unlock()
	admin, err := sql.Open("pgx", os.Getenv("TEST_DATABASE_URL"))
	if err != nil {
		return
	}
	defer admin.Close()
	for _, name := range append(d.names, more...) {
		if name != "" {
			_, _ = admin.ExecContext(context.Background(), "drop database "+name+" with (force)")
		}
	}
	d.names = nil
}

// newWorld makes a world; a test that asks for one runs beside the others.
func newWorld(t *testing.T) *world {
	t.Helper()
	t.Parallel()
	return aloneWorld(t)
}

// aloneWorld is [newWorld] for a test that wants the server to itself: many who meet, plans of
// statements, roles of the whole server.
func aloneWorld(t testing.TB) *world {
	t.Helper()
	makeTemplates(t)
	w, name := makeWorld(t, template.demo)
	t.Cleanup(func() { w.drop(name) })
	watch(t, w.db.Kept())
	ctx := context.Background()
	in, err := w.svc.House.SignIn(ctx, house.Credentials{Email: "Owner@demo.example", Password: "demo palms 1"}, "test")
	require.NoError(t, err)
	w.owner = in.Actor
	in, err = w.svc.House.SignIn(ctx, house.Credentials{Email: "desk@demo.example", Password: "demo palms 3"}, "test")
	require.NoError(t, err)
	w.desk = in.Actor
	if everyWorld {
		w.answers(t, w.svc)
		t.Cleanup(func() { w.asFresh(t, t.Name()) })
	}
	return w
}

// plans lists the demo's protocols, the two that the tests work with first: the full face, then stones.
func (w *world) plans(ctx context.Context) ([]studio.ProtocolLine, error) {
	list, err := w.svc.Protocols.Protocols(ctx, &w.owner)
	known := []string{"full-face-drainage-and-lift", "stone-one-side-first"}
	slices.SortStableFunc(list, func(a, b studio.ProtocolLine) int {
		x, y := slices.Index(known, a.Key), slices.Index(known, b.Key)
		return cmp.Compare(uint(x), uint(y)) // -1, not one of the two, comes last
	})
	return list, err
}

// emptyWorld is a database of its own without any studio.
func emptyWorld(t testing.TB) *world {
	t.Helper()
	makeTemplates(t)
	w, name := makeWorld(t, template.empty)
	t.Cleanup(func() { w.drop(name) })
	return w
}

func makeTemplates(t testing.TB) {
	t.Helper()
	needDatabase(t)
	template.Do(func() {
		w, empty := makeWorld(t, "template1")
		w.db.Close() // a database in use cannot be copied
		w, demo := makeWorld(t, empty)
		b := bundle(t)
		b.Books = nil // tests of money begin with empty books
		_, err := w.svc.House.CreateStudio(context.Background(), b, true)
		require.NoError(t, err)
		w.db.Close()
		template.empty, template.demo = empty, demo
	})
	require.NotEmpty(t, template.demo, "the first test could not make the demo studio")
}

func needDatabase(t testing.TB) {
	t.Helper()
	if os.Getenv("TEST_DATABASE_URL") == "" {
		t.Skip("TEST_DATABASE_URL is not set; make test sets it")
	}
}

// makeWorld copies a database. It returns the name of the copy too.
func makeWorld(t testing.TB, from string) (*world, string) {
	t.Helper()
	base, password := os.Getenv("TEST_DATABASE_URL"), os.Getenv("TEST_APP_PASSWORD")
	ctx := context.Background()
	admin, err := sql.Open("pgx", base)
	require.NoError(t, err)
	defer admin.Close()
	name := "t_" + strings.ReplaceAll(uuid.NewString(), "-", "")
	_, err = admin.ExecContext(ctx, "create database "+name+" template "+from+" strategy file_copy")
	require.NoError(t, err)
	u, err := url.Parse(base)
	require.NoError(t, err)
	u.Path = "/" + name
	w := &world{ownerURL: u.String(), now: start}
	if from == "template1" { // a copy of a migrated database is migrated
		require.NoError(t, postgres.Migrate(ctx, w.ownerURL, password))
	}
	w.appURL, err = postgres.AppURL(w.ownerURL, password)
	require.NoError(t, err)
	w.db, err = postgres.Open(ctx, w.appURL)
	require.NoError(t, err)
	w.svc = rooms.New(w.db, func() time.Time { return w.now }, "http://studio.example", nil)
	return w, name
}

func (w *world) drop(name string) {
	w.db.Close()
	finished.add(name)
}

func bundle(t testing.TB) *house.Bundle {
	t.Helper()
	data, err := os.ReadFile("../../demo/studio.json")
	require.NoError(t, err)
	b, err := exchange.ReadBundle(data)
	require.NoError(t, err)
	return b
}

// withoutPolicy lists the few tables that are not of a studio, or that the
// application has no right to read.
var withoutPolicy = map[string]bool{
	"calendar_link": true, "client_page": true, // asked through functions only
	"goose_db_version": true, "account_email": true, "session_token": true, "consultation_link": true, "account_link": true, "sign_in_attempt": true, "demo_sign_in": true}

// Tenancy is proven by trying to cross it, as the role the server signs in as.
func TestNoQueryCrossesStudios(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	other := bundle(t)
	for i := range other.Accounts {
		other.Accounts[i].Email = "other-" + other.Accounts[i].Email
	}
	_, err := w.svc.House.CreateStudio(ctx, other, false)
	require.NoError(t, err)

	app, err := sql.Open("pgx", w.appURL)
	require.NoError(t, err)
	defer app.Close()
	rows, err := app.QueryContext(ctx, "select c.relname, c.relrowsecurity and c.relforcerowsecurity from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind = 'r' order by 1")
	require.NoError(t, err)
	defer rows.Close()
	tables := 0
	for rows.Next() {
		var name string
		var forced bool
		require.NoError(t, rows.Scan(&name, &forced))
		assert.Equal(t, !withoutPolicy[name], forced, "row security of %s", name)
		tables++
		var n int
		err := app.QueryRowContext(ctx, fmt.Sprintf("select count(*) from %q", name)).Scan(&n)
		if !forced && name != "sign_in_attempt" {
			assert.ErrorContains(t, err, "permission denied", "%s is not the application's to read", name)
		} else {
			assert.Zero(t, n, "%s can be read outside a studio", name)
		}
	}
	require.NoError(t, rows.Err())
	assert.Greater(t, tables, 20)

	tx, err := app.BeginTx(ctx, nil)
	require.NoError(t, err)
	defer func() { _ = tx.Rollback() }()
	_, err = tx.ExecContext(ctx, "select set_config('app.studio_id', $1, true)", w.owner.Studio.String())
	require.NoError(t, err)
	var here, elsewhere int
	require.NoError(t, tx.QueryRowContext(ctx, "select count(*) filter (where studio_id = $1), count(*) filter (where studio_id <> $1) from client", w.owner.Studio).Scan(&here, &elsewhere))
	assert.Equal(t, 30, here)
	assert.Zero(t, elsewhere, "rows of another studio are seen")
	_, err = tx.ExecContext(ctx, "insert into room (studio_id, id, key, name) values ($1, $1, 'x', 'x')", uuid.New())
	assert.ErrorContains(t, err, "row-level security", "a row can be written into another studio")
}

// Movements, pre-treatment checks, versions, the audit log and closed records are only
// ever added to, even for the tables' owner.
func TestWhatIsClosedStaysClosed(t *testing.T) {
	w := newWorld(t)
	v := w.first(t) // so that there is a line in the audit log
	w.checked(t, v, nil)
	owner, err := sql.Open("pgx", w.ownerURL)
	require.NoError(t, err)
	defer owner.Close()
	for _, q := range []string{
		"update stock_movement set amount = 1", "delete from stock_movement", "delete from protocol_version", "update visit_change set state = 'done'",
		"update treatment set cost = 0 where finished_at is not null", "delete from treatment",
		"update audit set action = 'look'", "delete from audit", "update pre_check set result = '{}'", "delete from pre_check",
		"update consultation set answers = '{}' where reviewed_at is not null", "delete from consultation where reviewed_at is not null",
		"update consent set signer = 'Somebody else'", "update consent set body = 'Anything goes'", "update consent set signature = '[]'", "delete from consent",
		"update letter set question = 'Another one'", "update letter set rules = '[]'", "delete from letter", "update letter set answer = 'yes' where answered_at is not null",
		"update patch_test set months = 36", "delete from patch_test", "update patch_reading set grade = 'negative'", "delete from patch_reading",
	} {
		_, err := owner.ExecContext(context.Background(), q)
		assert.Error(t, err, q)
	}
	_, err = owner.ExecContext(context.Background(), "update consent set withdrawn_at = now() where withdrawn_at is null")
	assert.NoError(t, err, "a withdrawal comes later")
	_, err = owner.ExecContext(context.Background(), "update consent set withdrawn_at = null")
	assert.Error(t, err, "and stays")
}

// Fifty people press "book" in the same moment: one succeeds, the others get a
// clear answer with other times.
func TestFiftyBookTheSameTime(t *testing.T) {
	w := aloneWorld(t)
	ctx := context.Background()
	plans, err := w.plans(ctx)
	require.NoError(t, err)
	clients, _, err := w.svc.Clients.Clients(ctx, &w.owner, "", "")
	require.NoError(t, err)
	free, err := w.svc.Diary.FreeTimes(ctx, &w.owner, studio.FreeQuery{Protocol: plans[0].ID, From: "2026-12-20", Days: 1})
	require.NoError(t, err)
	require.NotEmpty(t, free)
	at := free[3]
	var wg sync.WaitGroup
	errs := make([]error, 50)
	for i := range errs {
		wg.Go(func() {
			_, errs[i] = w.svc.Diary.Book(ctx, &w.owner, studio.NewVisit{ID: uuid.Must(uuid.NewV7()), Client: clients[i%28].ID, Practitioner: at.Practitioner, Room: at.Room, Protocol: plans[0].ID, Start: at.Start})
		})
	}
	wg.Wait()
	won := 0
	for _, err := range errs {
		if err == nil {
			won++
			continue
		}
		var taken *studio.TakenError
		if assert.ErrorAs(t, err, &taken) {
			assert.NotEmpty(t, taken.Near)
		}
	}
	assert.Equal(t, 1, won)

	// somebody who did not win above: nobody comes twice on a day
	twice := studio.NewVisit{ID: uuid.Must(uuid.NewV7()), Client: clients[28].ID, Practitioner: free[len(free)-1].Practitioner, Room: free[len(free)-1].Room, Protocol: plans[0].ID, Start: free[len(free)-1].Start}
	a, err := w.svc.Diary.Book(ctx, &w.owner, twice)
	require.NoError(t, err)
	b, err := w.svc.Diary.Book(ctx, &w.owner, twice)
	require.NoError(t, err, "the same request sent twice books once")
	assert.Equal(t, a, b)
	twice.Client = clients[29].ID
	_, err = w.svc.Diary.Book(ctx, &w.owner, twice)
	assert.ErrorContains(t, err, "id-in-use", "another booking is not answered with the first one")
}

// From the door to the shelf: check, plan, treat, record; what was used leaves
// the lot that expires first, and the record is closed.
func TestAVisitFromDoorToShelf(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	v := day.Visits[0]

	var state *studio.StateError
	require.ErrorAs(t, w.start(t, v.ID), &state)
	assert.Equal(t, "no-door-check", state.Code)
	no := noTo(w, contraindication.Consultation, contraindication.PreTreatment)
	_, err = w.svc.Checks.SavePreCheck(ctx, &w.desk, v.Client, &v.ID, no, nil, nil)
	require.ErrorIs(t, err, studio.ErrForbidden, "the front desk asks no health questions")
	missing := map[string]contraindication.Answer{"fever": {Yes: true}}
	var bad *studio.InputError
	_, err = w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, &v.ID, missing, nil, nil)
	require.ErrorAs(t, err, &bad)
	q, err := w.svc.Checks.QuestionsFor(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	asked := map[string]bool{}
	for _, r := range append(q.PreCheck, q.Consultation...) {
		asked[r.ID] = true
	}
	assert.Len(t, bad.Problems, len(asked), "an unanswered question is not a no")

	sore := map[string]contraindication.Answer{}
	for k := range no {
		sore[k] = contraindication.Answer{}
	}
	sore["cold-sore"] = contraindication.Answer{Yes: true}
	sc, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, &v.ID, sore, nil, nil)
	require.NoError(t, err)
	assert.Equal(t, contraindication.DoNotTreat, sc.Result.Headline)
	require.ErrorAs(t, w.start(t, v.ID), &state)
	assert.Equal(t, "not-today", state.Code)

	w.now = w.now.Add(time.Minute)
	_, err = w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, &v.ID, no, nil, nil)
	require.NoError(t, err)
	require.ErrorAs(t, w.start(t, v.ID), &state)
	assert.Equal(t, "no-consent", state.Code)
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	require.NoError(t, w.start(t, v.ID))
	require.NoError(t, w.start(t, v.ID), "starting twice changes nothing")
	room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	third := room.Treatment.Evaluation.Occurrences[2]
	spell := guide.SpellKey(room.Treatment.Evaluation.Steps[third.Step].ID, third.Number)
	require.NoError(t, w.happened(v.ID, guide.Event{Kind: guide.Begin, Spell: spell, By: "tap"}))
	room, err = w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, spell, *room.Heard.Standing.Spell)
	assert.InDelta(t, third.Start-third.Lead, room.Treatment.Progress.Position, 1e-9)

	before, err := w.svc.Shelf.Shelf(ctx, &w.owner)
	require.NoError(t, err)
	rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	require.NotEmpty(t, rec.Record.Uses)
	r := rec.Record
	for i := range r.Uses {
		if r.Uses[i].Product == "calm-oil" {
			r.Uses[i].How, r.Uses[i].Used = "", decimal.RequireFromString("4.1")
		}
	}
	too := studio.Record{Uses: []studio.RecordUse{{Product: "calm-oil", Used: decimal.NewFromInt(999)}}}
	_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, too)
	require.ErrorAs(t, err, &bad, "stock never goes below zero silently")
	done, err := w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, r)
	require.NoError(t, err)
	assert.True(t, done.Cost.IsPositive())
	_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, r)
	require.ErrorIs(t, err, studio.ErrLocked)
	require.ErrorIs(t, w.svc.Treatment.SaveRecord(ctx, &w.owner, v.ID, r), studio.ErrLocked)
	after, err := w.svc.Shelf.Shelf(ctx, &w.owner)
	require.NoError(t, err)
	left := map[string]decimal.Decimal{}
	for i := range after {
		left[after[i].Product.Key] = after[i].Remaining
	}
	for i := range before {
		want := before[i].Remaining
		for _, u := range r.Uses {
			if u.Product == before[i].Product.Key {
				want = want.Sub(u.Used)
			}
		}
		assert.Equal(t, want.String(), left[before[i].Product.Key].String(), before[i].Product.Name)
	}
	_, _, err = w.svc.Checks.ChecksOf(ctx, &w.desk, v.Client, nil)
	require.ErrorIs(t, err, studio.ErrForbidden, "the front desk sees no answers")
}

// Drafts are one's own; a stale write loses nobody's text; a version never changes.
func TestDraftsAndVersions(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plans, err := w.plans(ctx)
	require.NoError(t, err)
	id := plans[0].ID
	o, err := w.svc.Protocols.OpenProtocol(ctx, &w.owner, id)
	require.NoError(t, err)
	body := o.Draft.Body
	body.Name = "First window"
	draft, err := w.svc.Protocols.SaveDraft(ctx, &w.owner, id, protocols.DraftEdit{Revision: 0, BasedOn: o.Version, Protocol: &body})
	require.NoError(t, err)
	assert.Equal(t, 1, draft.Revision)
	assert.NotEmpty(t, draft.Evaluation.Steps, "an edit needs no second request")
	mine := body
	mine.Name = "Second window"
	var stale *studio.StaleError
	_, err = w.svc.Protocols.SaveDraft(ctx, &w.owner, id, protocols.DraftEdit{Revision: 0, BasedOn: o.Version, Protocol: &mine})
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, "First window", stale.Current.Body.Name)
	v, err := w.svc.Protocols.Publish(ctx, &w.owner, id)
	require.NoError(t, err)
	assert.Equal(t, 2, v)
	_, err = w.svc.Protocols.SaveDraft(ctx, &w.desk, id, protocols.DraftEdit{Revision: 0, BasedOn: 2, Protocol: &mine})
	require.ErrorIs(t, err, studio.ErrForbidden)
	five := 5
	mine.Steps[0].Path = nil
	mine.Steps = append(mine.Steps[:0:0], mine.Steps...)
	for i := range mine.Steps {
		if mine.Steps[i].Stroke == "eye-rim-drain" {
			mine.Steps[i].Stroke, mine.Steps[i].Pressure, mine.Steps[i].Dose = "palms-over-eyes", &five, nil
		}
	}
	_, err = w.svc.Protocols.SaveDraft(ctx, &w.owner, id, protocols.DraftEdit{Revision: 0, BasedOn: 2, Protocol: &mine})
	require.NoError(t, err)
	var state *studio.StateError
	_, err = w.svc.Protocols.Publish(ctx, &w.owner, id)
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "unsafe-protocol", state.Code)
}

// A draft opens, is saved and is mended when a stroke it uses is gone from the
// library; it cannot be published.
func TestADraftOutlivesItsStroke(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plans, err := w.plans(ctx)
	require.NoError(t, err)
	id := plans[0].ID
	o, err := w.svc.Protocols.OpenProtocol(ctx, &w.owner, id)
	require.NoError(t, err)
	body := o.Draft.Body
	body.Steps = append(body.Steps[:0:0], body.Steps...)
	last := &body.Steps[len(body.Steps)-1]
	last.Stroke = "moon-glide"
	_, err = w.svc.Protocols.SaveDraft(ctx, &w.owner, id, protocols.DraftEdit{Revision: 0, BasedOn: o.Version, Protocol: &body})
	require.NoError(t, err)
	o, err = w.svc.Protocols.OpenProtocol(ctx, &w.owner, id)
	require.NoError(t, err)
	assert.Equal(t, evaluation.Stopping, o.Evaluation.Worst())
	_, err = w.svc.Protocols.Publish(ctx, &w.owner, id)
	var state *studio.StateError
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "unsafe-protocol", state.Code)
	edit := protocols.DraftEdit{Revision: o.Draft.Revision, BasedOn: o.Draft.BasedOn, Protocol: &o.Draft.Body}
	mended, err := w.svc.Protocols.FixDraft(ctx, &w.owner, id, edit, string(evaluation.StrokeMissing)+":"+last.ID, evaluation.LeaveStep)
	require.NoError(t, err)
	assert.Equal(t, -1, mended.Protocol.Index(last.ID))
	assert.NotEqual(t, evaluation.Stopping, mended.Evaluation.Worst())
	o, err = w.svc.Protocols.OpenProtocol(ctx, &w.owner, id)
	require.NoError(t, err)
	assert.Equal(t, mended.Revision, o.Draft.Revision, "it is saved")
	assert.Equal(t, -1, o.Draft.Body.Index(last.ID))
	_, err = w.svc.Protocols.FixDraft(ctx, &w.owner, id, edit, string(evaluation.StrokeMissing)+":"+last.ID, evaluation.LeaveStep)
	var stale *studio.StaleError
	require.ErrorAs(t, err, &stale, "on a revision that is gone")
	assert.Equal(t, mended.Revision, stale.Current.Revision)
}

// A broken file changes nothing; a rehearsal changes nothing.
func TestImport(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	b := &house.Bundle{Rooms: []house.BundleRoom{{Key: "attic", Name: "Attic"}}, Clients: []house.BundleClient{{Key: "new", Name: "New Client", SkinType: "dry"}}, Visits: []house.BundleVisit{{Client: "new", Practitioner: "nobody", Room: "attic", Protocol: "stone-one-side-first", Day: "today+3", Time: "10:00", State: studio.Booked}}}
	var bad *studio.InputError
	_, err := w.svc.House.Import(ctx, &w.owner, b, false)
	require.ErrorAs(t, err, &bad)
	assert.Equal(t, "/visits/0/practitioner", bad.Problems[0].Path)
	b.Visits[0].Practitioner = "tove"
	c, err := w.svc.House.Import(ctx, &w.owner, b, true)
	require.NoError(t, err)
	assert.Equal(t, house.Counts{Rooms: 1, Clients: 1, Visits: 1}, *c)
	list, _, err := w.svc.Clients.Clients(ctx, &w.owner, "New Client", "")
	require.NoError(t, err)
	assert.Empty(t, list, "neither the broken file nor the rehearsal left anything")
	_, err = w.svc.House.Import(ctx, &w.owner, b, false)
	require.NoError(t, err)
	_, err = w.svc.House.Import(ctx, &w.desk, b, false)
	require.ErrorIs(t, err, studio.ErrForbidden)
}

func TestSignInIsThrottled(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	for range studio.ThrottleTries {
		_, err := w.svc.House.SignIn(ctx, house.Credentials{Email: "maud@demo.example", Password: "wrong"}, "somewhere")
		require.ErrorIs(t, err, studio.ErrSignIn)
	}
	_, err := w.svc.House.SignIn(ctx, house.Credentials{Email: "maud@demo.example", Password: "demo palms 2"}, "somewhere")
	require.ErrorIs(t, err, studio.ErrThrottled)
	w.now = w.now.Add(studio.ThrottleWindow + time.Second)
	in, err := w.svc.House.SignIn(ctx, house.Credentials{Email: "maud@demo.example", Password: "demo palms 2"}, "somewhere")
	require.NoError(t, err)
	w.now = w.now.Add(house.SessionLength)
	_, err = w.svc.House.Session(ctx, in.Token)
	require.ErrorIs(t, err, studio.ErrNotFound, "sessions end")
}

// api calls the application over HTTP; headers come in pairs.
func (w *world) api(t *testing.T) func(method, path, body string, header ...string) (*http.Response, string) {
	app := httpapi.New(httpapi.Config{Rooms: w.svc, Ready: w.db.Ready, Files: exchange.Files{}})
	return func(method, path, body string, header ...string) (*http.Response, string) {
		req := httptest.NewRequest(method, path, strings.NewReader(body))
		req.Header.Set("Content-Type", "application/json")
		for i := 0; i+1 < len(header); i += 2 {
			req.Header.Set(header[i], header[i+1])
		}
		res, err := app.Test(req, fiber.TestConfig{Timeout: time.Minute}) // patient: how fast an answer is, make bench-large tells
		require.NoError(t, err)
		defer res.Body.Close()
		var b bytes.Buffer
		_, err = b.ReadFrom(res.Body)
		require.NoError(t, err)
		return res, b.String()
	}
}

// session signs somebody in.
func (w *world) session(t *testing.T, call call, email, password string) (cookie, csrf string) {
	t.Helper()
	res, body := call("POST", "/api/sign-in", fmt.Sprintf(`{"email":%q,"password":%q}`, email, password))
	require.Equal(t, 200, res.StatusCode, body)
	cookie, _, _ = strings.Cut(res.Header.Get("Set-Cookie"), ";")
	_, body = call("GET", "/api/session", "", "Cookie", cookie)
	_, csrf, _ = strings.Cut(body, `"csrf":"`)
	csrf, _, _ = strings.Cut(csrf, `"`)
	return cookie, csrf
}

// signedIn is [world.api] for somebody of the demo.
func (w *world) signedIn(t *testing.T, email, password string) func(method, path, body string, headers ...string) (*http.Response, string) {
	call := w.api(t)
	cookie, csrf := w.session(t, call, email, password)
	return func(method, path, body string, headers ...string) (*http.Response, string) {
		return call(method, path, body, append(headers, "Cookie", cookie, "X-CSRF-Token", csrf)...)
	}
}

var errNever = errors.New("never")

// What a use case leaves half done is undone.
func TestAFailedUseCaseLeavesNothing(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	id := uuid.Must(uuid.NewV7())
	err := studio.Within(ctx, w.svc.Kernel, w.owner.Studio, func(tx house.Store) error {
		require.NoError(t, tx.AddRoom(ctx, &studio.Room{ID: id, Key: "half", Name: "Half"}))
		return errNever
	})
	require.ErrorIs(t, err, errNever)
	require.NoError(t, studio.Within(ctx, w.svc.Kernel, w.owner.Studio, func(tx house.Store) error {
		rooms, err := tx.Rooms(ctx)
		for _, r := range rooms {
			assert.NotEqual(t, id, r.ID)
		}
		return err
	}))
}

// wholeFile is a client's file with the sections that screens ask for one by one.
type wholeFile struct {
	*clients.ClientFile
	PreChecks  []studio.CheckLine
	Letters    []studio.Letter
	Consents   []studio.Consent
	PatchTests []studio.PatchTest
	History    []contraindication.Span
}

// file reads a client's file whole, for somebody who may.
func (w *world) file(ctx context.Context, a *studio.Actor, client uuid.UUID) (*wholeFile, error) {
	head, err := w.svc.Clients.Client(ctx, a, client)
	if err != nil {
		return nil, err
	}
	f := &wholeFile{ClientFile: head}
	if f.PreChecks, _, err = w.svc.Checks.ChecksOf(ctx, a, client, nil); err != nil {
		return nil, err
	}
	if f.Letters, err = w.svc.Checks.LettersOf(ctx, a, client); err != nil {
		return nil, err
	}
	if f.Consents, err = w.svc.Clients.Consents(ctx, a, client); err != nil {
		return nil, err
	}
	if f.PatchTests, err = w.svc.Checks.PatchTestsOf(ctx, a, client); err != nil {
		return nil, err
	}
	history, err := w.svc.Checks.CautionHistory(ctx, a, client)
	if err == nil {
		f.History = history.Spans
	}
	return f, err
}
