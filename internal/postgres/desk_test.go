package postgres_test

import (
	"encoding/json"
	"maps"
	"net/url"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/httpapi"
	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
)

type caller func(method, path string, body any, into any) (status int, problem httpapi.Problem)

// as signs somebody in and returns how they call the API.
func (w *world) as(t *testing.T, email, password string) caller {
	t.Helper()
	call := w.signedIn(t, email, password)
	return func(method, path string, body any, into any) (int, httpapi.Problem) {
		t.Helper()
		text := ""
		if body != nil {
			b, err := json.Marshal(body)
			require.NoError(t, err)
			text = string(b)
		}
		res, out := call(method, path, text)
		var p httpapi.Problem
		if res.StatusCode >= 400 {
			require.NoError(t, json.Unmarshal([]byte(out), &p), "%s %s: %s", method, path, out)
			assert.NotEmpty(t, p.Code, "%s %s has a code", method, path)
			assert.NotEmpty(t, p.Detail, "%s %s says what happened", method, path)
		} else if into != nil {
			require.NoError(t, json.Unmarshal([]byte(out), into), "%s %s: %.300s", method, path, out)
		}
		return res.StatusCode, p
	}
}

type object = map[string]any

// A day at the front desk, over HTTP: a client comes onto the list, is booked
// once however often the request is sent, moved, confirmed and cancelled; what
// cannot be is told with a code, and with other times where a time is taken.
func TestADayAtTheDesk(t *testing.T) {
	w := newWorld(t)
	desk := w.as(t, "desk@demo.example", "demo palms 3")
	var made struct{ ID uuid.UUID }
	pia := object{"name": "Pia Lindqvist", "email": "pia@example.org", "phone": "", "birthDate": "1990-02-28", "phototype": 0, "skinStates": []string{}, "note": ""}
	for _, c := range []struct {
		field string
		value any
		path  string
	}{{"name", "  ", "/name"}, {"email", "pia", "/email"}, {"birthDate", "28.2.1990", "/birthDate"}, {"birthDate", "2031-01-01", "/birthDate"}, {"skinType", "blue", "/skinType"}, {"skinType", "dry", "/skinType"}, {"note", "tender jaw", "/note"}, {"phototype", 2, "/phototype"}, {"skinStates", []string{"sensitive"}, "/skinStates"}} {
		wrong := maps.Clone(pia)
		wrong[c.field] = c.value
		status, p := desk("POST", "/api/clients", wrong, nil)
		require.Equal(t, 422, status, "%s %v: %+v", c.field, c.value, p)
		assert.Equal(t, c.path, p.Errors[0].Path, "%s %v", c.field, c.value)
	}
	status, p := desk("POST", "/api/clients", object{"name": "Pia"}, nil)
	require.Equal(t, 422, status)
	assert.NotContains(t, p.Detail, " at :", "a sentence though the fault is in the whole")
	status, p = desk("POST", "/api/clients", pia, &made)
	require.Equal(t, 200, status, "%+v", p)

	var plans []httpapi.ProtocolListView
	status, _ = desk("GET", "/api/protocols", nil, &plans)
	require.Equal(t, 200, status)
	var free []studio.FreeTime
	q := url.Values{"protocol": {plans[0].ID.String()}, "client": {made.ID.String()}, "from": {"2026-12-14"}, "days": {"2"}}
	status, p = desk("GET", "/api/free-times?"+q.Encode(), nil, &free)
	require.Equal(t, 200, status, "%+v", p)
	require.Greater(t, len(free), 4)
	book := func(id uuid.UUID, f studio.FreeTime) object {
		return object{"id": id, "client": made.ID, "practitioner": f.Practitioner, "room": f.Room, "protocol": plans[0].ID, "start": f.Start}
	}
	id := uuid.New()
	var visit, same studio.VisitLine
	status, p = desk("POST", "/api/visits", book(id, free[0]), &visit)
	require.Equal(t, 200, status, "%+v", p)
	status, _ = desk("POST", "/api/visits", book(id, free[0]), &same)
	require.Equal(t, 200, status, "the same request twice books once")
	assert.Equal(t, visit.ID, same.ID)
	status, p = desk("POST", "/api/visits", book(uuid.New(), free[0]), nil)
	assert.Equal(t, 409, status)
	assert.Equal(t, "time-taken", p.Code)
	require.NotEmpty(t, p.Near, "other times are offered")
	for _, n := range p.Near {
		assert.False(t, n.Start.Equal(free[0].Start) && n.Practitioner == free[0].Practitioner)
	}
	outside := free[0]
	outside.Start = outside.Start.Truncate(24 * time.Hour).Add(3 * time.Hour)
	status, p = desk("POST", "/api/visits", book(uuid.New(), outside), nil)
	assert.Equal(t, 422, status, "at three in the night")
	assert.Equal(t, "/start", p.Errors[0].Path)

	last := free[len(free)-1]
	var moved studio.VisitLine
	status, p = desk("POST", "/api/visits/"+id.String()+"/move", object{"practitioner": last.Practitioner, "room": last.Room, "start": last.Start}, &moved)
	require.Equal(t, 200, status, "%+v", p)
	assert.True(t, moved.StartsAt.Equal(last.Start))
	var day httpapi.DayView
	status, _ = desk("GET", "/api/day?date="+last.Start.Format(time.DateOnly), nil, &day)
	require.Equal(t, 200, status)
	found := false
	for _, v := range day.Visits {
		found = found || v.ID == id
		assert.Empty(t, v.Outlook == "urgent", "the desk sees go, changes or not")
	}
	assert.True(t, found, "it stands on its new day")
	status, p = desk("POST", "/api/visits/"+id.String()+"/state", object{"state": "confirmed"}, &moved)
	require.Equal(t, 200, status, "%+v", p)
	assert.Equal(t, studio.Confirmed, moved.State)
	status, _ = desk("POST", "/api/visits/"+id.String()+"/state", object{"state": "arrived"}, nil)
	assert.Equal(t, 409, status, "nobody arrives days before")
	status, p = desk("POST", "/api/visits/"+id.String()+"/state", object{"state": "done"}, nil)
	assert.Equal(t, 422, status, "a visit is done by its record: %+v", p)
	status, _ = desk("POST", "/api/visits/"+id.String()+"/state", object{"state": "cancelled"}, nil)
	assert.Equal(t, 422, status, "cancelling asks why")
	status, _ = desk("POST", "/api/visits/"+id.String()+"/state", object{"state": "cancelled", "reason": "ill"}, &moved)
	require.Equal(t, 200, status)
	assert.Equal(t, "ill", moved.CancelReason)
	status, p = desk("POST", "/api/visits/"+id.String()+"/state", object{"state": "confirmed"}, nil)
	assert.Equal(t, 409, status, "what is cancelled stays so: %+v", p)
	status, p = desk("POST", "/api/visits/"+id.String()+"/move", object{"practitioner": free[1].Practitioner, "room": free[1].Room, "start": free[1].Start}, nil)
	assert.Equal(t, 409, status, "and is not moved: %+v", p)
	status, _ = desk("GET", "/api/visits/"+uuid.NewString(), nil, nil)
	assert.Equal(t, 404, status)
	status, _ = desk("GET", "/api/day?date=tomorrow", nil, nil)
	assert.GreaterOrEqual(t, status, 400)
	for _, path := range []string{"/room", "/record"} {
		status, p = desk("GET", "/api/visits/"+w.first(t).ID.String()+path, nil, nil)
		assert.Equal(t, 403, status, "%s: %+v", path, p)
	}
}

// A treatment over HTTP, as the browser does it: questions, pre-treatment check, plan, yes
// to the changes, signature, room, record; each step refuses to come before the
// one it needs.
func TestATreatmentOverHTTP(t *testing.T) {
	w := newWorld(t)
	maud := w.as(t, "maud@demo.example", "demo palms 2")
	v := w.first(t)
	at := "/api/visits/" + v.ID.String()
	status, p := maud("POST", at+"/plan", object{"overrules": []any{}}, nil)
	require.Equal(t, 409, status)
	assert.Equal(t, "no-door-check", p.Code)
	status, p = maud("GET", at+"/room", nil, nil)
	require.Equal(t, 409, status)
	assert.Equal(t, "not-started", p.Code)

	var q struct{ Door, Consultation []struct{ ID, Asks string } }
	status, _ = maud("GET", "/api/clients/"+v.Client.String()+"/questions", nil, &q)
	require.Equal(t, 200, status)
	answers := object{}
	for _, r := range append(q.Door, q.Consultation...) {
		answers[r.ID] = object{"yes": false}
	}
	answers["sore-skin"] = object{"yes": true, "zones": []object{{"zone": "cheekbone", "side": "left"}}}
	delete(answers, "fever")
	status, p = maud("POST", "/api/clients/"+v.Client.String()+"/pre-checks", object{"visit": v.ID, "answers": answers}, nil)
	require.Equal(t, 422, status)
	assert.Equal(t, "/answers/fever", p.Errors[0].Path, "an unanswered question is not a no")
	answers["fever"] = object{"yes": false}
	status, p = maud("POST", "/api/clients/"+v.Client.String()+"/pre-checks", object{"visit": v.ID, "answers": answers}, nil)
	require.Equal(t, 200, status, "%+v", p)

	var plan httpapi.PlanView
	status, p = maud("POST", at+"/plan", object{"overrules": []any{}}, &plan)
	require.Equal(t, 200, status, "%+v", p)
	require.NotEmpty(t, plan.Changes)
	assert.Equal(t, []studio.ConsentKind{studio.ConsentTreatment}, plan.Missing)
	begin := func(accepted treatment.AcceptedAdjustments) (int, httpapi.Problem) {
		return maud("POST", at+"/treatment", object{"overrules": []any{}, "accepted": accepted}, nil)
	}
	all := treatment.AcceptedAdjustments{Gentler: true, Adjustments: []string{}}
	for _, c := range plan.Changes {
		all.Adjustments = append(all.Adjustments, c.ID)
	}
	status, p = begin(treatment.AcceptedAdjustments{Adjustments: []string{}})
	assert.Equal(t, 409, status)
	assert.Equal(t, "not-accepted", p.Code)
	status, p = begin(all)
	assert.Equal(t, 409, status)
	assert.Equal(t, "no-consent", p.Code)
	status, p = maud("POST", "/api/clients/"+v.Client.String()+"/consents", object{"kind": "treatment", "signer": "A. Client", "guardian": false, "signature": signature}, nil)
	require.Equal(t, 2, status/100, "%+v", p)
	status, p = begin(all)
	require.Equal(t, 2, status/100, "%+v", p)
	status, _ = begin(all)
	require.Equal(t, 2, status/100, "twice changes nothing")

	events := []object{
		{"id": studio.NewID().String(), "device": "one", "seq": 2, "n": 2, "at": w.now.UnixMilli() + 61_500, "kind": "pause"},
		{"id": studio.NewID().String(), "device": "one", "seq": 1, "n": 1, "at": w.now.UnixMilli(), "kind": "start"},
	}
	status, p = maud("POST", at+"/events", object{"events": events}, nil)
	require.Equal(t, 2, status/100, "%+v", p)
	status, p = maud("POST", at+"/events", object{"events": events}, nil)
	require.Equal(t, 2, status/100, "once more changes nothing: %+v", p)
	var room httpapi.RoomGuideView
	status, _ = maud("GET", at+"/room", nil, &room)
	require.Equal(t, 200, status)
	assert.Equal(t, []any{"one", false}, []any{room.Heard.Standing.Leader, room.Heard.Standing.Running})
	assert.Len(t, room.Avoid, 1)
	assert.Equal(t, "go-with-changes", room.Headline)
	var record httpapi.RecordView
	status, _ = maud("GET", at+"/record", nil, &record)
	require.Equal(t, 200, status)
	uses := []object{}
	for _, u := range record.Record.Uses {
		uses = append(uses, object{"product": u.Product, "planned": u.Planned, "real": u.Used})
	}
	status, p = maud("PUT", at+"/record", object{"revision": record.Record.Revision, "note": "as we go", "uses": uses}, &record)
	require.Equal(t, 200, status, "%+v", p)
	assert.Equal(t, "as we go", record.Record.Note)
	status, p = maud("POST", at+"/record", object{"revision": record.Record.Revision, "note": "done", "uses": []object{{"product": "moon-oil", "planned": "1", "real": "1"}}}, nil)
	assert.Equal(t, 422, status)
	assert.Equal(t, "/uses/0/product", p.Errors[0].Path)
	status, p = maud("POST", at+"/record", object{"revision": record.Record.Revision, "note": "done", "uses": uses}, &record)
	require.Equal(t, 200, status, "%+v", p)
	require.NotNil(t, record.FinishedAt)
	assert.True(t, record.Cost.IsPositive())
	status, p = maud("PUT", at+"/record", object{"revision": record.Record.Revision, "note": "afterwards", "uses": uses}, nil)
	assert.Equal(t, 409, status)
	assert.Equal(t, "locked", p.Code)
}

// The workbench judges and mends what stands on the screen without keeping it.
func TestJudgingAndMendingOverHTTP(t *testing.T) {
	w := newWorld(t)
	maud := w.as(t, "maud@demo.example", "demo palms 2")
	var plans []httpapi.ProtocolListView
	status, _ := maud("GET", "/api/protocols", nil, &plans)
	require.Equal(t, 200, status)
	plans = slices.DeleteFunc(plans, func(p httpapi.ProtocolListView) bool { return p.Key != "full-face-drainage-and-lift" })
	var open httpapi.OpenedView
	status, _ = maud("GET", "/api/protocols/"+plans[0].ID.String(), nil, &open)
	require.Equal(t, 200, status)
	p := open.Protocol
	five := 5
	for i := range p.Steps {
		if p.Steps[i].Stroke == "neck-drain" {
			p.Steps[i].Pressure = &five
		}
	}
	var e evaluation.Evaluation
	status, prob := maud("POST", "/api/evaluate", object{"protocol": p, "skinType": "dry", "skinStates": []string{"sensitive"}}, &e)
	require.Equal(t, 200, status, "%+v", prob)
	var bad *evaluation.Finding
	for i := range e.Findings {
		if e.Findings[i].Severity == evaluation.Stopping && len(e.Findings[i].Fixes) > 0 {
			bad = &e.Findings[i]
		}
	}
	require.NotNil(t, bad, "five on the neck stops")
	fix := "/api/protocols/" + plans[0].ID.String() + "/draft/fix"
	asked := func(finding string) object {
		return object{"revision": open.Revision, "basedOn": open.BasedOn, "protocol": p, "finding": finding, "fix": bad.Fixes[0]}
	}
	status, prob = maud("POST", fix, asked("no-such-finding"), nil)
	assert.Equal(t, 409, status)
	assert.Equal(t, "fix-not-possible", prob.Code)
	was := p.Steps[0].Stroke
	p.Steps[0].Stroke = "moon-glide"
	for path, body := range map[string]object{"/api/evaluate": {"protocol": p}, fix: asked(bad.ID)} {
		status, prob = maud("POST", path, body, nil)
		assert.Equal(t, 422, status, path)
		assert.Equal(t, "/steps/0/stroke", prob.Errors[0].Path, path)
	}
	status, _ = maud("GET", "/api/protocols/"+plans[0].ID.String(), nil, &open)
	require.Equal(t, 200, status)
	assert.False(t, open.HasDraft, "nothing of it was kept")
	p.Steps[0].Stroke = was
	var fixed httpapi.FixedDraftView
	status, prob = maud("POST", fix, asked(bad.ID), &fixed)
	require.Equal(t, 200, status, "%+v", prob)
	for _, f := range fixed.Evaluation.Findings {
		assert.NotEqual(t, bad.ID, f.ID, "mended")
	}
	status, prob = maud("POST", fix, asked(bad.ID), nil)
	assert.Equal(t, "stale-draft", prob.Code, "%d: the fix has moved the draft on", status)
	status, prob = maud("DELETE", "/api/protocols/"+plans[0].ID.String()+"/draft", nil, nil)
	require.Less(t, status, 300, "%+v", prob)

	status, prob = maud("POST", "/api/protocols", open.Protocol, nil)
	assert.Equal(t, 422, status)
	assert.Equal(t, "/key", prob.Errors[0].Path, "the key is taken")
	fresh := open.Protocol
	fresh.Key, fresh.Name = "never-out", "Never published"
	var id httpapi.IDView
	status, prob = maud("POST", "/api/protocols", fresh, &id)
	require.Equal(t, 200, status, "%+v", prob)
	status, prob = maud("DELETE", "/api/protocols/"+id.ID.String()+"/draft", nil, nil)
	assert.Equal(t, 409, status)
	assert.Equal(t, "never-published", prob.Code)
}
