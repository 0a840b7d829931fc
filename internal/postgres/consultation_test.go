package postgres_test

import (
	"context"
	"database/sql"
	"maps"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/treatment"
)

func noTo(_ *world, stages ...contraindication.Stage) map[string]contraindication.Answer {
	no := map[string]contraindication.Answer{}
	for _, stage := range stages {
		for _, r := range contraindication.Trade().RulesAt(stage) {
			no[r.ID] = contraindication.Answer{}
		}
	}
	return no
}

// consult has a client's consultation filled in by link and reviewed.
func (w *world) consult(t *testing.T, client uuid.UUID, answers map[string]contraindication.Answer, about studio.ClientHistory) {
	t.Helper()
	ctx := context.Background()
	link, err := w.svc.Checks.NewLink(ctx, &w.owner, client, false)
	require.NoError(t, err)
	require.NoError(t, w.svc.Checks.SaveLinked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"}, answers, about, true))
	f, err := w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)
	for _, c := range f.Consultations {
		if c.SentAt != nil && c.ReviewedAt == nil {
			require.NoError(t, w.svc.Checks.Review(ctx, &w.owner, client, c.ID, answers, about))
			return
		}
	}
	t.Fatal("nothing was sent in")
}

// start accepts every change of a visit's plan and begins its treatment.
func (w *world) start(t *testing.T, visit uuid.UUID, overrules ...studio.Override) error {
	t.Helper()
	return w.startAs(t, &w.owner, visit, overrules...)
}

func (w *world) startAs(t *testing.T, a *studio.Actor, visit uuid.UUID, overrules ...studio.Override) error {
	t.Helper()
	ctx := context.Background()
	want := studio.PlanOptions{Overrides: overrules}
	all := treatment.AcceptedAdjustments{Gentler: true}
	if p, err := w.svc.Checks.PlanFor(ctx, a, visit, want); err == nil {
		for _, c := range p.Adjustments {
			all.Adjustments = append(all.Adjustments, c.ID)
		}
	}
	return w.svc.Treatment.StartTreatment(ctx, a, visit, want, all)
}

// first is the first visit of today.
func (w *world) first(t *testing.T) studio.VisitLine {
	t.Helper()
	day, err := w.svc.Diary.Day(context.Background(), &w.owner, "")
	require.NoError(t, err)
	return day.Visits[0]
}

// checked saves a pre-treatment check for the client of a visit: yes to the answers given,
// no to everything else.
func (w *world) checked(t *testing.T, v studio.VisitLine, yes map[string]contraindication.Answer) *studio.PreCheck {
	t.Helper()
	answers := noTo(w, contraindication.Consultation, contraindication.PreTreatment)
	maps.Copy(answers, yes)
	sc, err := w.svc.Checks.SavePreCheck(context.Background(), &w.owner, v.Client, &v.ID, answers, nil, nil)
	require.NoError(t, err)
	return sc
}

// A consultation by private link: kept as one goes, sent in once, reviewed
// before it counts; then the door asks only its own questions, and what was answered
// still applies (handbook, chapter 5).
func TestAConsultationByLink(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	client := day.Visits[0].Client

	link, err := w.svc.Checks.NewLink(ctx, &w.owner, client, false)
	require.NoError(t, err)
	assert.Equal(t, w.now.Add(2*time.Hour), link.Until, "the appointment is in a few minutes: it can still be filled in")
	v, err := w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"})
	require.NoError(t, err)
	assert.Less(t, len(v.Questions), len(contraindication.Trade().RulesAt(contraindication.Consultation)), "only what matters for this studio's treatments")
	for _, q := range v.Questions {
		assert.NotEqual(t, "metal-plate", q.ID, "there is no electrical tool")
	}
	assert.Empty(t, v.Answers)

	told := map[string]contraindication.Answer{"nut-allergy": {Yes: true}, "cold-sore": {Yes: true}}
	require.NoError(t, w.svc.Checks.SaveLinked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"}, told, studio.ClientHistory{}, false))
	v, err = w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"})
	require.NoError(t, err)
	assert.Equal(t, map[string]contraindication.Answer{"nut-allergy": {Yes: true}}, v.Answers, "only what the link asks is kept")
	var bad *studio.InputError
	require.ErrorAs(t, w.svc.Checks.SaveLinked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"}, told, studio.ClientHistory{}, true), &bad)

	all := noTo(w, contraindication.Consultation)
	all["nut-allergy"] = contraindication.Answer{Yes: true}
	all["cancer"] = contraindication.Answer{Yes: true}
	all["keloid"] = contraindication.Answer{Unsure: true}
	require.NoError(t, w.svc.Checks.SaveLinked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"}, all, studio.ClientHistory{}, true))
	v, err = w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"})
	require.NoError(t, err)
	assert.True(t, v.Sent)
	assert.Empty(t, v.Answers, "the link shows nothing once it has done its work")

	file, err := w.file(ctx, &w.owner, client)
	require.NoError(t, err)
	require.Empty(t, file.ValidUntil, "it counts only once reviewed")
	id := file.Consultations[0].ID
	require.ErrorIs(t, w.svc.Checks.Review(ctx, &w.desk, client, id, all, studio.ClientHistory{}), studio.ErrForbidden)
	require.ErrorAs(t, w.svc.Checks.Review(ctx, &w.owner, client, id, all, studio.ClientHistory{}), &bad)
	assert.Equal(t, "/answers/keloid", bad.Problems[0].Path, "what the client was not sure of is gone through together")
	all["keloid"] = contraindication.Answer{}
	require.NoError(t, w.svc.Checks.Review(ctx, &w.owner, client, id, all, studio.ClientHistory{}))
	require.ErrorIs(t, w.svc.Checks.Review(ctx, &w.owner, client, id, all, studio.ClientHistory{}), studio.ErrLocked)
	_, err = w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"})
	require.ErrorIs(t, err, checks.ErrLink)

	desk, err := w.svc.Clients.Client(ctx, &w.desk, client)
	require.NoError(t, err)
	assert.Empty(t, desk.Consultations)
	day, err = w.svc.Diary.Day(ctx, &w.desk, "")
	require.NoError(t, err)
	assert.Equal(t, "ask-practitioner", day.Visits[0].Outlook, "the desk sees that it can be booked, is too early, or to ask")

	sc, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, client, nil, noTo(w, contraindication.PreTreatment), nil, nil)
	require.NoError(t, err)
	assert.Equal(t, contraindication.NeedsLetter, sc.Result.Headline)
	assert.True(t, sc.Answers["nut-allergy"].Yes, "the check keeps everything it was judged by")

	l, err := w.svc.Checks.WriteLetter(ctx, &w.owner, client, &day.Visits[0].ID, "May the face be massaged lightly?", "")
	require.NoError(t, err)
	assert.Equal(t, []string{"cancer"}, l.Rules)
	require.ErrorAs(t, w.svc.Checks.AnswerLetter(ctx, &w.owner, l.ID, true, "2020-01-01", ""), &bad)
	w.now = w.now.Add(time.Minute)
	require.NoError(t, w.svc.Checks.AnswerLetter(ctx, &w.owner, l.ID, true, "2099-01-01", "light only"))
	require.ErrorIs(t, w.svc.Checks.AnswerLetter(ctx, &w.owner, l.ID, false, "", ""), studio.ErrLocked)
	file, err = w.file(ctx, &w.owner, client)
	require.NoError(t, err)
	assert.Equal(t, contraindication.OKWithAdjustments, file.PreChecks[0].Result.Headline, "judged again with the answer")
	assert.Equal(t, contraindication.NeedsLetter, file.PreChecks[1].Result.Headline, "the check before stays as it was")

	log, err := w.svc.House.AuditLog(ctx, &w.owner, time.Time{})
	require.NoError(t, err)
	seen := map[string]bool{}
	for _, line := range log {
		seen[line.Action] = true
		byLink := line.Action == "open link" || line.Action == "send answers"
		assert.Equal(t, byLink, line.Account == "", "%s: only a client with a link has no account", line.Action)
	}
	for _, action := range []string{"send link", "open link", "send answers", "review consultation", "screen", "write letter", "answer letter", "look"} {
		assert.True(t, seen[action], action)
	}
	_, err = w.svc.House.AuditLog(ctx, &w.desk, time.Time{})
	require.ErrorIs(t, err, studio.ErrForbidden)
}

// A link ends, and guessing is throttled by where it comes from.
func TestALinkEnds(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	link, err := w.svc.Checks.NewLink(ctx, &w.owner, day.Visits[0].Client, false)
	require.NoError(t, err)
	w.now = link.Until.Add(time.Second)
	_, err = w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"})
	require.ErrorIs(t, err, checks.ErrLink)
	for range studio.ThrottleTries {
		_, err = w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: "guess", From: "elsewhere"})
		require.ErrorIs(t, err, checks.ErrLink)
	}
	_, err = w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: "guess", From: "elsewhere"})
	require.ErrorIs(t, err, studio.ErrThrottled)
}

// Bookings are judged again with what was told: a peel of today moves a visit of
// this week behind its waiting time, with one step, and not before it.
func TestABookingIsJudgedAgainAndMoved(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	assert.Empty(t, v.Outlook)
	answers := noTo(w, contraindication.Consultation, contraindication.PreTreatment)
	today := calendar.Day(w.now.Format(time.DateOnly))
	answers["peel"] = contraindication.Answer{Yes: true, Day: today}
	_, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, nil, answers, nil, nil)
	require.NoError(t, err)
	seen, err := w.svc.Diary.Visit(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, "not-before", seen.Outlook)
	assert.Equal(t, string(today.Plus(7)), seen.NotBefore)

	free, err := w.svc.Diary.FirstFree(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, free.Start.Format(time.DateOnly), string(today.Plus(7)))
	early := studio.NewVisit{Practitioner: free.Practitioner, Room: free.Room, Start: free.Start.AddDate(0, 0, -2)}
	var state *studio.StateError
	_, err = w.svc.Diary.MoveVisit(ctx, &w.owner, v.ID, early)
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "before-waiting-ends", state.Code)
	moved, err := w.svc.Diary.MoveVisit(ctx, &w.owner, v.ID, studio.NewVisit{Practitioner: free.Practitioner, Room: free.Room, Start: free.Start})
	require.NoError(t, err)
	assert.True(t, moved.StartsAt.Equal(free.Start))
	assert.Equal(t, v.EndsAt.Sub(v.StartsAt), moved.EndsAt.Sub(moved.StartsAt))
	seen, err = w.svc.Diary.Visit(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Empty(t, seen.Outlook)
}

var signature = [][]int{{10, 100, 40, 60, 80, 120, 120, 70}, {150, 90, 200, 110, 260, 80, 300, 100}}

// A consent is drawn, names who signs, is a guardian's for a minor, and allows
// nothing once withdrawn (handbook, chapter 5).
func TestConsents(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	var bad *studio.InputError
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, [][]int{{1, 2}})
	require.ErrorAs(t, err, &bad)
	assert.Equal(t, "/signature", bad.Problems[0].Path)
	_, err = w.svc.Clients.SignConsent(ctx, &w.desk, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.ErrorIs(t, err, studio.ErrForbidden)
	c, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	_, err = w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, nil, noTo(w, contraindication.Consultation, contraindication.PreTreatment), nil, nil)
	require.NoError(t, err)
	p, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	assert.Empty(t, p.MissingConsents)
	require.NoError(t, w.svc.Clients.WithdrawConsent(ctx, &w.owner, c.ID))
	require.ErrorIs(t, w.svc.Clients.WithdrawConsent(ctx, &w.owner, c.ID), studio.ErrNotFound)
	p, err = w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	assert.Equal(t, []studio.ConsentKind{studio.ConsentTreatment}, p.MissingConsents)

	child, err := w.svc.Clients.AddClient(ctx, &w.owner, studio.ClientFields{Name: "Pip Child", BirthDate: w.now.AddDate(-17, 0, 0).Format(time.DateOnly), SkinType: "normal"})
	require.NoError(t, err)
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, child.ID, studio.ConsentTreatment, "Pip", false, signature)
	require.ErrorAs(t, err, &bad)
	assert.Equal(t, "/guardian", bad.Problems[0].Path)
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, child.ID, studio.ConsentTreatment, "A. Parent", true, signature)
	require.NoError(t, err)
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, child.ID, studio.ConsentMouth, "A. Parent", true, signature)
	require.ErrorAs(t, err, &bad)
}

// What only makes a plan gentler may be overridden with a reason that stays in the
// record; allergies, waits and places left out may not (handbook, chapter 5).
func TestOverruling(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, map[string]contraindication.Answer{"high-pressure-treated": {Yes: true}, "nut-allergy": {Yes: true}, "lash-extensions": {Yes: true}})
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	p, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	assert.Equal(t, []string{"high-pressure-treated"}, p.OverridableRules)
	var bad *studio.InputError
	require.ErrorAs(t, w.start(t, v.ID, studio.Override{Rule: "nut-allergy", Reason: "she says it is fine"}), &bad)
	require.ErrorAs(t, w.start(t, v.ID, studio.Override{Rule: "high-pressure-treated", Reason: " "}), &bad)
	require.NoError(t, w.start(t, v.ID, studio.Override{Rule: "high-pressure-treated", Reason: "measured steady for years"}))
	rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, []studio.Override{{Rule: "high-pressure-treated", Reason: "measured steady for years"}}, rec.Treatment.Overrides)
}

// Erasing keeps what the accounts need and nothing that says who it was; nobody
// but the owner may, and nothing only added can be changed by another way
// (handbook, chapter 5).
func TestErasingAClient(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	id := day.Visits[0].Client
	_, err = w.svc.Checks.SavePreCheck(ctx, &w.owner, id, nil, noTo(w, contraindication.Consultation, contraindication.PreTreatment), nil, nil)
	require.NoError(t, err)
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, id, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	out, err := w.svc.Clients.ExportClient(ctx, &w.owner, id)
	require.NoError(t, err)
	assert.Len(t, out.PreChecks, 1)
	assert.Len(t, out.Consents, 1)
	assert.NotEmpty(t, out.Treatments, "the demo has treated this client before")
	before, cost := len(out.Visits), out.Treatments[0].Record.Uses
	var bad *studio.InputError
	require.ErrorAs(t, w.svc.Clients.EraseClient(ctx, &w.owner, id, "somebody"), &bad)
	require.ErrorIs(t, w.svc.Clients.EraseClient(ctx, &w.desk, id, out.Client.Name), studio.ErrForbidden)
	require.NoError(t, w.svc.Clients.EraseClient(ctx, &w.owner, id, out.Client.Name))

	_, err = w.svc.Clients.ExportClient(ctx, &w.owner, id)
	require.ErrorIs(t, err, studio.ErrNotFound, "there is no file any more")
	about := " where client_id = '" + id.String() + "'"
	assert.Equal(t, before, w.count(t, "select count(*) from visit"+about), "that they came stays")
	assert.Zero(t, w.count(t, "select count(*) from visit"+about+" and state in ('booked', 'confirmed', 'arrived')"))
	assert.Equal(t, 1, w.count(t, "select count(*) from client where id = '"+id.String()+"' and name = 'Deleted client' and email = '' and phone = '' and birth_date is null and note = ''"))
	for _, table := range []string{"pre_check", "consultation", "consent", "letter", "patch_test"} {
		assert.Zero(t, w.count(t, "select count(*) from "+table+about), table)
	}
	rec, err := w.svc.Treatment.Record(ctx, &w.owner, out.Treatments[0].Visit)
	require.NoError(t, err)
	assert.Equal(t, "Deleted client", rec.Visit.ClientName)
	assert.Equal(t, cost, rec.Record.Uses, "what left the shelf stays")
	assert.Empty(t, rec.Record.Note)

	list, _, err := w.svc.Clients.Clients(ctx, &w.owner, "Erased", "")
	require.NoError(t, err)
	assert.Empty(t, list, "and is not listed any more")
	app, err := sql.Open("pgx", w.appURL)
	require.NoError(t, err)
	defer app.Close()
	for _, q := range []string{"delete from audit", "update pre_check set answers = '{}'", "delete from consent", "update consent set signer = 'x'", "update letter set id = id; delete from letter"} {
		_, err = app.ExecContext(ctx, "select set_config('softpalm.erasing', 'on', false)")
		require.NoError(t, err)
		_, err = app.ExecContext(ctx, q)
		assert.Error(t, err, q)
	}
}

// The owner's own days count for every judgement, tell beforehand which bookings
// they touch, and are logged; shorter ones need a reason (handbook, chapter 5).
func TestOwnRules(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	answers := noTo(w, contraindication.Consultation, contraindication.PreTreatment)
	answers["peel"] = contraindication.Answer{Yes: true, Day: calendar.Day(w.now.Format(time.DateOnly)).Plus(-8)}
	sc, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, nil, answers, nil, nil)
	require.NoError(t, err)
	assert.Equal(t, contraindication.OKToTreat, sc.Result.Headline)
	file, err := w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(file.Visits), 2, "the demo's client comes again")

	touched, err := w.svc.Checks.AmendRule(ctx, &w.owner, "peel", 14, w.saving("", false))
	require.NoError(t, err)
	require.NotEmpty(t, touched)
	for _, x := range touched {
		assert.Equal(t, v.Client, x.Visit.Client)
		assert.Equal(t, contraindication.NotBefore, x.Now)
	}
	rules, err := w.svc.Checks.Rules(ctx, &w.owner)
	require.NoError(t, err)
	assert.Empty(t, rules.Own.Amendments, "asking keeps nothing")
	var bad *studio.InputError
	_, err = w.svc.Checks.AmendRule(ctx, &w.owner, "peel", 3, w.saving("", true))
	require.ErrorAs(t, err, &bad)
	practitioner := w.owner
	practitioner.Role = studio.Practitioner
	_, err = w.svc.Checks.AmendRule(ctx, &practitioner, "peel", 14, w.saving("", true))
	require.ErrorIs(t, err, studio.ErrForbidden)

	_, err = w.svc.Checks.AmendRule(ctx, &w.owner, "peel", 14, w.saving("", true))
	require.NoError(t, err)
	w.now = w.now.Add(time.Minute)
	sc, err = w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, nil, answers, nil, nil)
	require.NoError(t, err)
	assert.Equal(t, contraindication.NotBefore, sc.Result.Headline)
	_, err = w.svc.Checks.AmendRule(ctx, &w.owner, "peel", 5, w.saving("Our peel is a very mild one.", true))
	require.NoError(t, err)
	_, err = w.svc.Checks.AmendRule(ctx, &w.owner, "peel", 7, w.saving("", true))
	require.NoError(t, err)
	rules, err = w.svc.Checks.Rules(ctx, &w.owner)
	require.NoError(t, err)
	assert.Empty(t, rules.Own.Amendments)
	require.Len(t, rules.Own.Log, 3)
	assert.Equal(t, "Our peel is a very mild one.", rules.Own.Log[1].Reason)
	log, err := w.svc.House.AuditLog(ctx, &w.owner, time.Time{})
	require.NoError(t, err)
	seen := 0
	for _, l := range log {
		if l.Action == "loosen" && l.Subject == "rule" {
			seen++
		}
	}
	assert.Equal(t, 1, seen)
}

// Over HTTP: a link needs its token in the header and nothing else, keeps and
// sends answers, says what is wrong with bad ones, and a session of the front
// desk opens no health data.
func TestTheConsultationOverHTTP(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	call := w.api(t)
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	client := day.Visits[0].Client
	link, err := w.svc.Checks.NewLink(ctx, &w.owner, client, false)
	require.NoError(t, err)

	res, body := call("GET", "/api/consultation", "", "X-Link-Token", "no such token")
	assert.Equal(t, 409, res.StatusCode)
	assert.Contains(t, body, `"code":"link-ended"`)
	res, body = call("GET", "/api/consultation", "", "X-Link-Token", link.Token)
	require.Equal(t, 200, res.StatusCode, body)
	assert.Equal(t, "no-store", res.Header.Get("Cache-Control"))
	for _, secret := range []string{day.Visits[0].ClientName, client.String(), "example.org"} {
		assert.NotContains(t, body, secret, "the link tells nothing about anybody")
	}
	res, body = call("PUT", "/api/consultation", `{"answers":{"beard":{"yes":true}},"history":{},"send":true}`, "X-Link-Token", link.Token)
	assert.Equal(t, 422, res.StatusCode)
	assert.Contains(t, body, `"path":"/answers/cancer"`)
	res, body = call("PUT", "/api/consultation", `{"answers":{"beard":{"yes":true}},"history":{},"send":false}`, "X-Link-Token", link.Token)
	assert.Equal(t, 204, res.StatusCode, body)
	res, _ = call("PUT", "/api/consultation", `{"answers":{"beard":{"yes":"perhaps"}},"history":{},"send":false}`, "X-Link-Token", link.Token)
	assert.Equal(t, 422, res.StatusCode)
	_, body = call("GET", "/api/consultation", "", "X-Link-Token", link.Token)
	assert.Contains(t, body, `"beard":{"yes":true}`)

	res, _ = call("POST", "/api/sign-in", `{"email":"desk@demo.example","password":"demo palms 3"}`)
	cookie, _, _ := strings.Cut(res.Header.Get("Set-Cookie"), ";")
	for _, section := range []string{"summary", "export", "consents", "letters", "patch-tests", "pre-checks", "caution-history"} {
		res, _ = call("GET", "/api/clients/"+client.String()+"/"+section, "", "Cookie", cookie)
		assert.Equal(t, 403, res.StatusCode, section)
	}
	res, _ = call("GET", "/api/audit", "", "Cookie", cookie)
	assert.Equal(t, 403, res.StatusCode)
	_, body = call("GET", "/api/clients/"+client.String(), "", "Cookie", cookie)
	assert.NotContains(t, body, "beard")
}

// Today is the studio's day, not the server's: in a zone fourteen hours ahead a
// check at noon, Greenwich time, is one of the next day.
func TestTodayIsTheStudiosDay(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	owner, err := sql.Open("pgx", w.ownerURL)
	require.NoError(t, err)
	defer owner.Close()
	_, err = owner.ExecContext(ctx, "alter table studio no force row level security; update studio set time_zone = 'Pacific/Kiritimati'; alter table studio force row level security")
	require.NoError(t, err)
	w.now = time.Date(2026, 2, 28, 12, 0, 0, 0, time.UTC)
	answers := noTo(w, contraindication.Consultation, contraindication.PreTreatment)
	answers["peel"] = contraindication.Answer{Yes: true, Day: "2026-03-01"}
	sc, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, day.Visits[0].Client, nil, answers, nil, nil)
	require.NoError(t, err, "the first of March is no day to come there")
	assert.Equal(t, "2026-03-01", sc.Day)
	assert.Equal(t, calendar.Day("2026-03-08"), sc.Result.NotBefore)
}

// Where nothing sensible is left of a protocol the studio's others are offered,
// and one of them can be taken at the same start (handbook, chapter 5).
func TestTakingAnotherProtocolInstead(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	var v studio.VisitLine
	for _, x := range day.Visits {
		if strings.HasPrefix(x.ProtocolName, "Stone work") {
			v = x
			break
		}
	}
	answers := noTo(w, contraindication.Consultation, contraindication.PreTreatment)
	answers["trigeminal"] = contraindication.Answer{Yes: true, Zones: []contraindication.ZoneSide{{Zone: "cheekbone", Side: "both"}}}
	answers["sore-skin"] = contraindication.Answer{Yes: true, Zones: []contraindication.ZoneSide{
		{Zone: "shoulder", Side: "both"}, {Zone: "jawline", Side: "both"}, {Zone: "hairline", Side: "both"},
		{Zone: "back-neck", Side: "both"}, {Zone: "chin", Side: "both"},
	}}
	_, err = w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, &v.ID, answers, nil, nil)
	require.NoError(t, err)
	p, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	require.True(t, p.Refused)
	list, err := w.svc.Checks.Alternatives(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	require.NotEmpty(t, list)
	for i := 1; i < len(list); i++ {
		assert.LessOrEqual(t, list[i-1].Changes*list[i].Steps, list[i].Changes*list[i-1].Steps)
	}
	require.NoError(t, w.svc.Checks.SwitchProtocol(ctx, &w.owner, v.ID, list[0].Protocol))
	now, err := w.svc.Diary.Visit(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, list[0].Name, now.ProtocolName)
	assert.True(t, now.StartsAt.Equal(v.StartsAt))
	assert.Equal(t, time.Duration(list[0].Minutes)*time.Minute, now.EndsAt.Sub(now.StartsAt))
	p, err = w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	assert.False(t, p.Refused)
}

// What is told after the pre-treatment check is not passed over: a consultation reviewed
// later that day judges today's check again, and of two answers of a doctor the
// newer counts, also when it is a no (handbook, chapter 5).
func TestWhatIsToldLaterCounts(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	client := day.Visits[0].Client
	headline := func() contraindication.Headline {
		f, err := w.file(ctx, &w.owner, client)
		require.NoError(t, err)
		return f.PreChecks[0].Result.Headline
	}
	_, err = w.svc.Checks.SavePreCheck(ctx, &w.owner, client, nil, noTo(w, contraindication.Consultation, contraindication.PreTreatment), nil, nil)
	require.NoError(t, err)
	require.Equal(t, contraindication.OKToTreat, headline())
	w.now = w.now.Add(time.Minute)
	f, err := w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)
	fields := f.Client.ClientFields
	fields.SkinStates = append(fields.SkinStates, "sensitive")
	_, err = w.svc.Clients.ChangeClient(ctx, &w.owner, client, w.revision(t, client), fields)
	require.NoError(t, err)
	assert.Equal(t, contraindication.OKWithAdjustments, headline(), "a change of the file counts too")
	w.now = w.now.Add(time.Minute)
	told := noTo(w, contraindication.Consultation)
	told["cancer"] = contraindication.Answer{Yes: true}
	w.consult(t, client, told, studio.ClientHistory{})
	assert.Equal(t, contraindication.NeedsLetter, headline())

	w.now = w.now.Add(time.Minute)
	first, err := w.svc.Checks.WriteLetter(ctx, &w.owner, client, nil, "May it be given?", "")
	require.NoError(t, err)
	second, err := w.svc.Checks.WriteLetter(ctx, &w.owner, client, nil, "May it be given, lightly?", "")
	require.NoError(t, err)
	w.now = w.now.Add(time.Minute)
	require.NoError(t, w.svc.Checks.AnswerLetter(ctx, &w.owner, second.ID, true, "2099-01-01", ""))
	assert.Equal(t, contraindication.OKWithAdjustments, headline())
	w.now = w.now.Add(time.Minute)
	require.NoError(t, w.svc.Checks.AnswerLetter(ctx, &w.owner, first.ID, false, "", ""))
	assert.Equal(t, contraindication.NeedsLetter, headline(), "the newer answer is a no")
}
