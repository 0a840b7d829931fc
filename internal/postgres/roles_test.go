package postgres_test

import (
	"context"
	"net/http"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/series"
	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
	"softpalm/internal/studio/treatment"
)

type call func(method, path, body string, headers ...string) (*http.Response, string)

// account adds somebody who signs in with a role, as a practitioner or not, in a studio.
func (w *world) account(t *testing.T, in uuid.UUID, role studio.Role, practitioner *uuid.UUID) (call, *studio.Actor) {
	t.Helper()
	const password = "matrix palms 9"
	hash, err := house.HashPassword(password)
	require.NoError(t, err)
	acc := &studio.Account{ID: uuid.New(), Email: uuid.NewString() + "@demo.example", Name: "Ada of the roles", Role: role, PasswordHash: hash, Practitioner: practitioner}
	require.NoError(t, w.db.InStudio(context.Background(), in, func(tx studio.Tx) error {
		return tx.(*postgres.Tx).AddAccount(context.Background(), acc)
	}))
	return w.signedIn(t, acc.Email, password), &studio.Actor{Studio: in, Account: acc.ID, Name: acc.Name, Role: role, Practitioner: practitioner}
}

// things are what the operations are tried on: all of one client, of a colleague's visit.
type things struct {
	visit                        studio.VisitLine
	letter, scan, patch, consent uuid.UUID
	series, reaction             uuid.UUID
	measurement, photo           uuid.UUID
	consultation                 uuid.UUID
}

// made makes one of everything that an operation about a client's health needs.
func (w *world) made(t *testing.T) things {
	t.Helper()
	ctx := context.Background()
	x := things{visit: w.first(t)}
	client := x.visit.Client
	home := noTo(w, contraindication.Consultation)
	home["cancer"] = contraindication.Answer{Yes: true}
	w.consult(t, client, home, studio.ClientHistory{Medicines: []string{"warfarin"}})
	w.checked(t, x.visit, map[string]contraindication.Answer{"cancer": {Yes: true}})
	l, err := w.svc.Checks.WriteLetter(ctx, &w.owner, client, nil, "May the face be massaged?", "")
	require.NoError(t, err)
	require.NoError(t, w.svc.Checks.AddScan(ctx, &w.owner, l.ID, []byte("%PDF-1.4 x")))
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	file, err := w.file(ctx, &w.owner, client)
	require.NoError(t, err)
	x.letter, x.scan = l.ID, file.Letters[0].Scans[0].ID
	require.NotEmpty(t, file.Consultations)
	x.consultation = file.Consultations[0].ID
	require.NotEmpty(t, file.Consents)
	x.consent = file.Consents[0].ID
	x.measurement = uuid.New()
	w.measured(t, client, treatment.NewMeasurement{
		ID: x.measurement, Measure: "redness", Instrument: studio.ByGrade, Side: "left", Moment: studio.Before, Readings: []float64{2},
	})
	x.photo = w.photographed(t, client)
	x.patch = uuid.New()
	x.series, x.reaction = uuid.New(), uuid.New()
	_, err = w.svc.Treatment.OpenReaction(ctx, &w.owner, client, treatment.NewReaction{
		ID: x.reaction, NoticedBy: "the client", Kind: "hives", Grade: 2,
	})
	require.NoError(t, err)
	require.NoError(t, w.db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error {
		return tx.(*postgres.Tx).AddSeries(ctx, &studio.Series{
			ID: x.series, Client: client, State: studio.SeriesRunning, CreatedAt: w.now,
			Items: []studio.SeriesItem{{N: 1, Protocol: x.visit.Protocol}, {N: 2, Protocol: x.visit.Protocol, Gap: series.Gap{Ideal: 7, Least: 6, Most: 8}}},
		})
	}))
	return x
}

// path fills in an operation's path with what there is.
func (x *things) path(op operation) string {
	id := map[string]uuid.UUID{"visits": x.visit.ID, "clients": x.visit.Client, "letters": x.letter, "scans": x.scan,
		"consents": x.consent, "protocols": x.visit.Protocol, "series": x.series, "reactions": x.reaction, "measurements": x.measurement, "photos": x.photo}[strings.Split(op.template, "/")[2]]
	path := strings.Replace(op.template, "{consultation}", x.consultation.String(), 1)
	path = strings.Replace(path, "{rule}", "peel", 1)
	path = strings.Replace(path, "{n}", "1", 1)
	path = strings.Replace(path, "{measure}", "redness", 1)
	path = strings.Replace(path, "{note}", uuid.NewString(), 1)
	path = strings.Replace(path, "{policy}", "plain-cold", 1)
	path = strings.Replace(path, "{key}", "cheek-palms", 1)
	if id == uuid.Nil {
		id = uuid.New()
	}
	path = strings.Replace(path, "{id}", id.String(), 1)
	query := map[string]string{"find-medicine-conflicts": "?medicine=warfarin", "search-substances": "?text=rose",
		"find-free-times": "?protocol=" + x.visit.Protocol.String(), "walk-in": "?client=" + x.visit.Client.String(), "compare-versions": "?from=1&to=1", "measure-clients": "?instrument=caliper&side=left"}
	return path + query[op.id]
}

// bodies are what operations of one's own clients are sent, well-formed so that the
// refusal is for whose client it is.
func (x *things) body(op operation) string {
	switch op.id {
	case "save-pre-check", "review-consultation":
		return `{"answers":{},"history":{}}`
	case "write-letter":
		return `{"question":"May it?"}`
	case "apply-patch-test":
		return `{"product":"calm-oil","lot":"CS-2291","place":"arm","months":6}`
	case "sign-consent":
		return `{"kind":"treatment","signer":"Pia","guardian":false,"signature":[[10,100,40,60,80,120,120,70],[150,90,200,110,260,80,300,100]]}`
	case "get-plan":
		return `{"overrules":[]}`
	case "start-treatment":
		return `{"overrules":[],"accepted":{"gentler":true,"changes":[]}}`
	case "answer-proposal":
		return `{"code":"calmer","key":"","taken":true}`
	case "add-events":
		return `{"events":[]}`
	case "save-record", "finish-treatment":
		return `{"revision":0,"note":"","uses":[]}`
	case "add-note":
		return `{"zone":"jaw-angle","side":"left","body":"Tender."}`
	case "add-to-record":
		return `{"body":"She called."}`
	case "add-measurements":
		return `{"measurements":[{"id":"` + uuid.NewString() + `","measure":"redness","instrument":"grade","side":"left","moment":"before","readings":[2]}]}`
	case "add-photo":
		return `{"id":"` + uuid.NewString() + `","view":"front","moment":"before","image":"` + picture(40, 30, 128) + `","pupils":[{"x":10,"y":10},{"x":30,"y":10}],"grey":{"x":5,"y":25}}`
	case "strike-measurement":
		return `{"reason":"She smiled."}`
	case "save-hope":
		return `{"hope":"longer"}`
	case "open-reaction":
		return `{"id":"` + uuid.NewString() + `","noticedBy":"her","kind":"rash","zones":[],"grade":1,"done":""}`
	case "answer-follow-up":
		return `{"now":"better","grade":1,"note":""}`
	case "close-reaction":
		return `{"outcome":"settled","note":""}`
	case "add-incident":
		return `{"id":"` + uuid.NewString() + `","kind":"fall","body":"Slipped.","told":""}`
	case "tell-running-late":
		return `{"minutes":10}`
	case "write-home-care":
		return `{"homeCare":"Two minutes each evening.","was":""}`
	case "set-visit-state":
		return `{"state":"confirmed"}`
	}
	return "{}"
}

// healthWords are in what is known of the client of [world.made], and nowhere else.
var healthWords = regexp.MustCompile(`warfarin|cancer|needs-letter|massaged|leave-out|"answers":\{"|patchFirst|go-with-changes|couperose|"known"|hives`)

// roles.txt is what the API does: every operation has its line and no line is idle; each
// role is refused what it is refused there, is shown nothing of colleagues' clients where
// it says own, and nothing of health where it says contact. Another studio's owner finds
// nothing of this one.
func TestTheRolesOverEveryOperation(t *testing.T) {
	w := newWorld(t)
	x := w.made(t)
	ops := w.operations()
	inner := []string{"override-rule", "treat-other-day", "import-studio", "correct-stock", "forget-paces-of-others"}
	var lines []string
	for _, op := range ops {
		lines = append(lines, op.id)
	}
	assert.ElementsMatch(t, append(lines, inner...), studio.Operations())

	other := bundle(t)
	for i := range other.Accounts {
		other.Accounts[i].Email = "other-" + other.Accounts[i].Email
	}
	_, err := w.svc.House.CreateStudio(context.Background(), other, false)
	require.NoError(t, err)
	foreign := w.signedIn(t, "other-"+bundle(t).Accounts[0].Email, bundle(t).Accounts[0].Password)

	for _, role := range studio.Roles {
		ask, _ := w.account(t, w.owner.Studio, role, w.colleagueOf(t, x.visit.Practitioner))
		for _, op := range ops {
			if !op.closed || op.id == "sign-out" {
				continue
			}
			if scope := role.Scope(op.id); (scope == studio.All || op.id == "unlock-tablet") && op.method != "GET" {
				continue // it may, and would change what the others are tried on
			}
			res, body := ask(op.method, x.path(op), x.body(op))
			at := string(role) + " " + op.id
			switch role.Scope(op.id) {
			case studio.None:
				assert.Equal(t, 403, res.StatusCode, "%s: %s", at, body)
				assert.Contains(t, body, `"not-allowed"`, at)
			case studio.Own:
				assertOwn(t, at, op, res.StatusCode, body, x)
			case studio.Contact:
				assert.NotEqual(t, 403, res.StatusCode, "%s: %s", at, body)
				assert.False(t, healthWords.MatchString(body), "%s tells %q", at, healthWords.FindString(body))
			case studio.All:
				assert.NotEqual(t, 403, res.StatusCode, "%s: %s", at, body)
			}
		}
	}
	for _, op := range ops {
		if op.closed && op.id != "sign-out" && strings.Contains(op.template, "{id}") {
			res, body := foreign(op.method, x.path(op), x.body(op))
			assert.Contains(t, []int{404, 409, 422}, res.StatusCode, "another studio's owner, %s: %s", op.id, body)
			assert.False(t, healthWords.MatchString(body), "another studio's owner, %s: %s", op.id, body)
		}
	}
}

// assertOwn: of a colleague's client a trainee is shown nothing.
func assertOwn(t *testing.T, at string, op operation, status int, body string, x things) {
	t.Helper()
	if strings.Contains(op.template, "{id}") && !slices.Contains([]string{"read-patch-test"}, op.id) {
		assert.Equal(t, 403, status, "%s: %s", at, body)
		assert.Contains(t, body, `"not-yours"`, at)
		return
	}
	assert.False(t, healthWords.MatchString(body), "%s tells %q", at, healthWords.FindString(body))
	assert.NotContains(t, body, x.visit.ClientName, at)
}

// colleagueOf is another practitioner of the studio.
func (w *world) colleagueOf(t *testing.T, practitioner uuid.UUID) *uuid.UUID {
	t.Helper()
	id := uuid.New()
	require.NoError(t, w.db.InStudio(context.Background(), w.owner.Studio, func(tx studio.Tx) error {
		return tx.(*postgres.Tx).AddPractitioner(context.Background(), &studio.Person{ID: id, Key: "p" + id.String()[:8], Name: "A colleague"})
	}))
	require.NotEqual(t, practitioner, id)
	return &id
}

// A trainee treats a client of their own from the questions to the record, but sets no
// rule aside and cancels nothing for a colleague.
func TestATraineeTreatsTheirOwnClients(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	_, trainee := w.account(t, w.owner.Studio, studio.Trainee, &v.Practitioner)
	_, err := w.svc.Checks.QuestionsFor(ctx, trainee, v.Client)
	require.NoError(t, err)
	list, _, err := w.svc.Clients.Clients(ctx, trainee, "", "")
	require.NoError(t, err)
	all, _, err := w.svc.Clients.Clients(ctx, &w.owner, "", "")
	require.NoError(t, err)
	assert.NotEmpty(t, list)
	assert.Less(t, len(list), len(all))
	day, err := w.svc.Diary.Day(ctx, trainee, "")
	require.NoError(t, err)
	for _, x := range day.Visits {
		assert.Equal(t, v.Practitioner, x.Practitioner)
	}
	err = w.startAs(t, trainee, v.ID, studio.Override{Rule: "peel", Reason: "it is fine"})
	require.ErrorIs(t, err, studio.ErrForbidden)
	_, err = w.svc.Diary.MoveVisit(ctx, trainee, v.ID, studio.NewVisit{Start: w.now.Add(time.Hour)})
	require.ErrorIs(t, err, studio.ErrForbidden)
	w.checked(t, v, nil)
	for _, kind := range []studio.ConsentKind{studio.ConsentTreatment, studio.ConsentMouth} {
		_, err = w.svc.Clients.SignConsent(ctx, trainee, v.Client, kind, "The Client", false, signature)
		require.NoError(t, err)
	}
	require.NoError(t, w.startAs(t, trainee, v.ID))
	_, err = w.svc.Treatment.Room(ctx, trainee, v.ID)
	require.NoError(t, err)
}
