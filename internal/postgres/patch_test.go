package postgres_test

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/substance"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/house"
	"softpalm/internal/studio/treatment"
)

// client finds a demo client by the beginning of the name.
func (w *world) client(t *testing.T, name string) uuid.UUID {
	t.Helper()
	list, _, err := w.svc.Clients.Clients(context.Background(), &w.owner, name, "")
	require.NoError(t, err)
	require.NotEmpty(t, list, name)
	return list[0].ID
}

// next is a client's next visit still to come.
func (w *world) next(t *testing.T, client uuid.UUID) studio.VisitLine {
	t.Helper()
	f, err := w.svc.Clients.Client(context.Background(), &w.owner, client)
	require.NoError(t, err)
	var out studio.VisitLine
	for _, v := range f.Visits { // they come newest first
		if v.StartsAt.After(w.now) && v.Kind == studio.ForTreatment {
			out = v
		}
	}
	require.NotEqual(t, uuid.Nil, out.ID)
	return out
}

// A booking that needs a patch test says so and offers ten minutes 24 to 48 hours
// before; the test is recorded with its lot, read after 24 hours, and clears the
// product, or keeps it away for good (handbook, chapters 5 and 6).
func TestAPatchTestFromBookingToReading(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.client(t, "Kaia") // sensitive, and never had the almond oil
	v := w.next(t, client)
	require.Equal(t, []string{"Almond glide oil"}, v.PatchFirst)

	_, err := w.svc.Checks.PatchOfferFor(ctx, &w.desk, v.ID)
	require.ErrorIs(t, err, studio.ErrForbidden, "the desk asks the practitioner")
	o, err := w.svc.Checks.PatchOfferFor(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, []studio.Named{{Key: "almond-oil", Name: "Almond glide oil"}}, o.Products)
	require.NotEmpty(t, o.Times)
	for _, f := range o.Times {
		before := v.StartsAt.Sub(f.Start)
		assert.True(t, before >= 24*time.Hour && before <= 48*time.Hour, "%s before", before)
	}
	late := studio.NewVisit{ID: uuid.New(), Practitioner: o.Times[0].Practitioner, Room: o.Times[0].Room, Start: v.StartsAt.Add(-23 * time.Hour)}
	var bad *studio.InputError
	_, err = w.svc.Checks.BookPatchTest(ctx, &w.owner, v.ID, late)
	require.ErrorAs(t, err, &bad)
	book := studio.NewVisit{ID: uuid.New(), Practitioner: o.Times[0].Practitioner, Room: o.Times[0].Room, Start: o.Times[0].Start}
	visit, err := w.svc.Checks.BookPatchTest(ctx, &w.owner, v.ID, book)
	require.NoError(t, err)
	assert.Equal(t, 10*time.Minute, visit.EndsAt.Sub(visit.StartsAt))
	assert.Equal(t, studio.ForPatchTest, visit.Kind)
	again, err := w.svc.Checks.BookPatchTest(ctx, &w.owner, v.ID, book)
	require.NoError(t, err)
	assert.Equal(t, visit.ID, again.ID, "sent twice, booked once")
	o, err = w.svc.Checks.PatchOfferFor(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	require.NotNil(t, o.Booked)
	assert.Equal(t, visit.ID, o.Booked.ID)
	var state *studio.StateError
	_, err = w.svc.Checks.PlanFor(ctx, &w.owner, visit.ID, studio.PlanOptions{})
	require.ErrorAs(t, err, &state)

	w.now = visit.StartsAt
	apply := checks.NewPatchTest{Visit: &visit.ID, Product: "almond-oil", Lot: "AG-118", Place: "inner forearm, left", Months: 6}
	for _, wrong := range []func(*checks.NewPatchTest){
		func(n *checks.NewPatchTest) { n.Place = "" }, func(n *checks.NewPatchTest) { n.Lot = "nowhere" },
		func(n *checks.NewPatchTest) { n.Product = "nothing" }, func(n *checks.NewPatchTest) { n.Months = 0 },
		func(n *checks.NewPatchTest) { n.Product, n.Lot = "clay-mask", "CM-9" }, // past its day
	} {
		n := apply
		wrong(&n)
		_, err = w.svc.Checks.ApplyPatchTest(ctx, &w.owner, client, n)
		require.ErrorAs(t, err, &bad, "%+v", n)
	}
	_, err = w.svc.Checks.ApplyPatchTest(ctx, &w.desk, client, apply)
	require.ErrorIs(t, err, studio.ErrForbidden)
	p, err := w.svc.Checks.ApplyPatchTest(ctx, &w.owner, client, apply)
	require.NoError(t, err)
	done, err := w.svc.Diary.Visit(ctx, &w.owner, visit.ID)
	require.NoError(t, err)
	assert.Equal(t, studio.Done, done.State, "everything is on: the ten minutes are over")

	require.ErrorAs(t, w.svc.Checks.ReadPatchTest(ctx, &w.owner, p.ID, patch.Reading{Hours: 24, Grade: patch.Negative}), &bad, "too early")
	w.now = w.now.Add(24 * time.Hour)
	require.ErrorAs(t, w.svc.Checks.ReadPatchTest(ctx, &w.owner, p.ID, patch.Reading{Hours: 24, Grade: "fine"}), &bad)
	require.ErrorAs(t, w.svc.Checks.ReadPatchTest(ctx, &w.owner, p.ID, patch.Reading{Hours: 24, Grade: patch.Negative, FromPicture: true}), &bad, "the first is made on the skin")
	require.NoError(t, w.svc.Checks.ReadPatchTest(ctx, &w.owner, p.ID, patch.Reading{Hours: 24, Grade: patch.Negative}))
	require.ErrorAs(t, w.svc.Checks.ReadPatchTest(ctx, &w.owner, p.ID, patch.Reading{Hours: 24, Grade: patch.Weak}), &bad, "a reading is made once")
	now, err := w.svc.Diary.Visit(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Empty(t, now.PatchFirst, "it is clear")

	w.now = w.now.Add(24 * time.Hour)
	require.NoError(t, w.svc.Checks.ReadPatchTest(ctx, &w.owner, p.ID, patch.Reading{Hours: 48, Grade: patch.Weak, FromPicture: true}))
	f, err := w.file(ctx, &w.owner, client)
	require.NoError(t, err)
	require.Len(t, f.PatchTests, 1)
	assert.True(t, f.PatchTests[0].Readings[1].FromPicture)
	assert.Equal(t, patch.PatchReacted, f.PatchTests[0].State)
	_, err = w.svc.Checks.PatchTestsOf(ctx, &w.desk, client)
	require.ErrorIs(t, err, studio.ErrForbidden, "the front desk sees no health data")
}

// Without its patch test a product is not used: the plan takes another from the
// shelf, which may be chosen among those that serve, or the test is answered for
// with a reason; a reaction cannot be (handbook, chapter 5).
func TestAnUntestedProductIsNotUsed(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.next(t, w.client(t, "Clio")) // sensitive, stone work tomorrow with almond oil
	w.now = v.StartsAt.Add(-15 * time.Minute)
	w.checked(t, v, nil)
	p, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	used := func(p *studio.Plan) []string {
		var out []string
		for _, s := range p.Protocol.Steps {
			if s.Use != nil {
				out = append(out, s.Use.Product)
			}
		}
		return out
	}
	assert.NotContains(t, used(p), "almond-oil")
	swap := -1
	for i, c := range p.Adjustments {
		if c.Kind == adjusting.Replaced && c.From == "Almond glide oil" {
			swap = i
		}
	}
	require.GreaterOrEqual(t, swap, 0)
	for _, key := range p.Adjustments[swap].Others {
		assert.Positive(t, p.Stock[key])
		assert.NotEqual(t, "evening-oil", key, "an essential oil would need a test of its own")
	}
	assert.Contains(t, p.OverridableAdjustments, p.Adjustments[swap].ID)
	over, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{Overrides: []studio.Override{{Rule: contraindication.PatchFirst}}})
	require.NoError(t, err)
	assert.Contains(t, used(over), "almond-oil")

	// A reaction of hers stands, whatever is asked.
	w.now = w.now.AddDate(0, 0, -3)
	test, err := w.svc.Checks.ApplyPatchTest(ctx, &w.owner, v.Client, checks.NewPatchTest{Product: "almond-oil", Lot: "AG-118", Place: "behind the ear, right", Months: 6})
	require.NoError(t, err)
	w.now = w.now.AddDate(0, 0, 3)
	require.NoError(t, w.svc.Checks.ReadPatchTest(ctx, &w.owner, test.ID, patch.Reading{Hours: 48, Grade: patch.Strong}))
	over, err = w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{Overrides: []studio.Override{{Rule: contraindication.PatchFirst}}})
	require.NoError(t, err)
	assert.NotContains(t, used(over), "almond-oil")
	var bad *studio.InputError
	require.ErrorAs(t, w.start(t, v.ID, studio.Override{Rule: contraindication.PatchReaction, Reason: "it was only a little red"}), &bad)
}

// Every change wants its yes: the gentler ones in one go, each other by itself;
// what is overridden at one step is overridden there alone, and stays in the record.
func TestChangesAreAcceptedOneByOne(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, map[string]contraindication.Answer{"blood-thinners": {Yes: true}, "nut-allergy": {Yes: true}})
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	p, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	require.NotNil(t, p.AsPublished)
	assert.NotEmpty(t, p.AsPublished.Loads, "the plan as published stands beside it")
	var gentler, others []adjusting.Adjustment
	for _, c := range p.Adjustments {
		switch {
		case c.Skin: // needs no yes
		case c.Gentler:
			gentler = append(gentler, c)
		default:
			others = append(others, c)
		}
	}
	require.NotEmpty(t, gentler)
	var state *studio.StateError
	require.ErrorAs(t, w.svc.Treatment.StartTreatment(ctx, &w.owner, v.ID, studio.PlanOptions{}, treatment.AcceptedAdjustments{}), &state)
	assert.Equal(t, "not-accepted", state.Code)
	if len(others) > 0 {
		require.ErrorAs(t, w.svc.Treatment.StartTreatment(ctx, &w.owner, v.ID, studio.PlanOptions{}, treatment.AcceptedAdjustments{Gentler: true}), &state, "the others want a yes of their own")
	}
	lowered := gentler[0]
	require.Equal(t, adjusting.Lowered, lowered.Kind)
	assert.Contains(t, p.OverridableAdjustments, lowered.ID)
	require.NoError(t, w.start(t, v.ID, studio.Override{Rule: lowered.Rule, Step: lowered.Step, Reason: "the doctor said so"}))
	rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	for _, c := range rec.Treatment.Adjustments {
		assert.False(t, c.Step == lowered.Step && c.Rule == lowered.Rule, "%+v", c)
	}
	assert.Len(t, rec.Treatment.Overrides, 1)
	room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.NotEmpty(t, room.Treatment.Evaluation.Occurrences)
}

// What the client tells besides the answers: medicines answer their rule or make
// a no worth asking about, allergies keep products away, birth date and skin come
// onto the file; all of it stays with the check as it was that day.
func TestWhatIsToldBesides(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	about := studio.ClientHistory{BirthDate: "1990-02-28", SkinType: "oily", SkinStates: []string{"sensitive"}, Medicines: []string{"apixaban", "metformin"},
		Allergies: []substance.Allergy{{Kind: "ingredient", Key: "Helianthus Annuus Seed Oil", Name: "Sunflower"}}, Bedtime: "22:30", Concerns: []string{"puffiness"}}
	var bad *studio.InputError
	answers := noTo(w, contraindication.Consultation, contraindication.PreTreatment)
	for path, wrong := range map[string]studio.ClientHistory{"/history/birthDate": {BirthDate: "2099-01-01"}, "/history/bedtime": {Bedtime: "late"}, "/history/concerns": {Concerns: []string{"taxes"}}, "/history/skinStates": {SkinStates: []string{"green"}}} {
		_, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, &v.ID, answers, &wrong, nil)
		require.ErrorAs(t, err, &bad, path)
		assert.Equal(t, path, bad.Problems[0].Path)
	}
	sc, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, &v.ID, answers, &about, nil)
	require.NoError(t, err)
	assert.Equal(t, about, sc.History)
	rules := map[string]bool{}
	for _, o := range sc.Result.Outcomes {
		rules[o.Rule] = true
	}
	assert.True(t, rules["blood-thinners"], "the medicine answers")
	assert.True(t, rules["sensitive"], "the skin answers")
	assert.True(t, rules["allergy/Helianthus Annuus Seed Oil"])
	assert.False(t, rules["diabetes"], "a medicine is no diagnosis")
	doubts, err := w.svc.Checks.MedicineConflicts(ctx, &w.owner, about.Medicines)
	require.NoError(t, err)
	assert.Len(t, doubts, 3, "blood thinners count; clots and diabetes are worth asking about")
	f, err := w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	assert.Equal(t, "1990-02-28", f.Client.BirthDate)
	assert.Equal(t, "oily", f.Client.SkinType)
	p, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	for _, s := range p.Protocol.Steps {
		if s.Use != nil {
			assert.NotEqual(t, "calm-oil", s.Use.Product, "it is sunflower oil")
		}
	}
	for _, hit := range [][2]string{{"allergen", "sunfl"}, {"medicine", "apix"}} {
		assert.NotEmpty(t, checks.Substances(hit[0], hit[1]), hit[1])
	}
}

// A question that came after the consultation is asked at the next door, in
// passing; the consultation holds as long as before.
func TestARuleThatIsNewIsAskedInPassing(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.client(t, "Rafael")
	before, err := w.svc.Checks.QuestionsFor(ctx, &w.owner, client)
	require.NoError(t, err)
	require.Empty(t, before.Missing)
	rule := contraindication.Rule{Title: "Ear tubes", Question: "Tubes in the ears?", Group: "Health", Stage: contraindication.Consultation, AnswerType: contraindication.YesNo, Why: "No water near.", Basis: "the studio's own",
		Outcomes: []contraindication.Outcome{{Kind: contraindication.Cap, Pressure: 1, Zones: []string{"below-ear"}}}}
	var bad *studio.InputError
	wrong := rule
	wrong.Outcomes = []contraindication.Outcome{{Kind: contraindication.LeaveOut}}
	_, err = w.svc.Checks.SaveRule(ctx, &w.owner, wrong, w.saving("", true))
	require.ErrorAs(t, err, &bad)
	_, err = w.svc.Checks.SaveRule(ctx, &w.desk, rule, w.saving("", true))
	require.ErrorIs(t, err, studio.ErrForbidden)
	_, err = w.svc.Checks.SaveRule(ctx, &w.owner, rule, w.saving("", true))
	require.NoError(t, err)
	view, err := w.svc.Checks.Rules(ctx, &w.owner)
	require.NoError(t, err)
	require.Len(t, view.Own.Rules, 1)
	id := view.Own.Rules[0].ID
	assert.Equal(t, "own/ear-tubes", id)

	q, err := w.svc.Checks.QuestionsFor(ctx, &w.owner, client)
	require.NoError(t, err)
	require.Len(t, q.Missing, 1)
	assert.Equal(t, before.ValidUntil, q.ValidUntil)
	door := noTo(w, contraindication.PreTreatment)
	_, err = w.svc.Checks.SavePreCheck(ctx, &w.owner, client, nil, door, nil, nil)
	require.ErrorAs(t, err, &bad)
	assert.Equal(t, "/answers/"+id, bad.Problems[0].Path)
	door[id] = contraindication.Answer{Yes: true}
	sc, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, client, nil, door, nil, nil)
	require.NoError(t, err)
	assert.Equal(t, contraindication.OKWithAdjustments, sc.Result.Headline)
	q, err = w.svc.Checks.QuestionsFor(ctx, &w.owner, client)
	require.NoError(t, err)
	assert.Empty(t, q.Missing)
	assert.Equal(t, before.ValidUntil, q.ValidUntil, "one answer is no new consultation")

	// Less than before needs a reason; today's check is judged again at once.
	softer := view.Own.Rules[0]
	softer.Outcomes = []contraindication.Outcome{{Kind: contraindication.Cap, Pressure: 3, Zones: []string{"below-ear"}}}
	_, err = w.svc.Checks.SaveRule(ctx, &w.owner, softer, w.saving("", true))
	require.ErrorAs(t, err, &bad)
	assert.Equal(t, "/reason", bad.Problems[0].Path)
	w.now = w.now.Add(time.Minute)
	_, err = w.svc.Checks.RetireRule(ctx, &w.owner, id, w.saving("Nobody has them any more.", true))
	require.NoError(t, err)
	f, err := w.file(ctx, &w.owner, client)
	require.NoError(t, err)
	assert.Equal(t, contraindication.OKToTreat, f.PreChecks[0].Result.Headline, "judged again without the rule")
	assert.Equal(t, contraindication.OKWithAdjustments, f.PreChecks[1].Result.Headline, "the check before stays as it was")
	view, err = w.svc.Checks.Rules(ctx, &w.owner)
	require.NoError(t, err)
	assert.Empty(t, view.Own.Rules)
	require.Len(t, view.Own.Log, 2)
	assert.True(t, view.Own.Log[1].Loosens)
}

// What still runs need not be told again: a filler told at home stands at the
// door until it is over or taken back.
func TestWhatWasToldAtHomeStandsAtTheDoor(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	told := noTo(w, contraindication.Consultation)
	lip := []contraindication.ZoneSide{{Zone: "upper-lip", Side: "both"}}
	told["filler"] = contraindication.Answer{Yes: true, Day: calendar.Day("2026-11-14"), Zones: lip}
	told["sore-skin"] = contraindication.Answer{Yes: true, Zones: []contraindication.ZoneSide{{Zone: "chin"}}}
	w.consult(t, v.Client, told, studio.ClientHistory{})
	seen, err := w.svc.Diary.Visit(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, "go-with-changes", seen.Outlook)
	q, err := w.svc.Checks.QuestionsFor(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	assert.Equal(t, told["filler"], q.InForce["filler"])
	assert.Equal(t, told["sore-skin"], q.InForce["sore-skin"], "marked at home, to be looked at")
	door := noTo(w, contraindication.PreTreatment)
	door["filler"] = q.InForce["filler"]
	sc, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, &v.ID, door, nil, nil)
	require.NoError(t, err)
	assert.Equal(t, lip, sc.Result.Outcomes[0].Places)
	w.now = w.now.AddDate(0, 0, 20)
	q, err = w.svc.Checks.QuestionsFor(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	assert.NotContains(t, q.InForce, "filler", "28 days are over")
	assert.NotContains(t, q.InForce, "sore-skin", "the door has asked since")
}

// The tablet in a client's hands opens one consultation; the PIN takes it back,
// and five wrong ones end the session.
func TestTheTablet(t *testing.T) {
	w := newWorld(t)
	call := w.api(t)
	client := w.client(t, "Viktor")
	signIn := func() (cookie, csrf string) {
		res, body := call("POST", "/api/sign-in", `{"email":"maud@demo.example","password":"demo palms 2"}`)
		require.Equal(t, 200, res.StatusCode, body)
		cookie, _, _ = strings.Cut(res.Header.Get("Set-Cookie"), ";")
		var v struct{ CSRF string }
		require.NoError(t, json.Unmarshal([]byte(body), &v))
		return cookie, v.CSRF
	}
	cookie, csrf := signIn()
	post := func(method, path, body string) (int, string) {
		res, out := call(method, path, body, "Cookie", cookie, "X-CSRF-Token", csrf)
		return res.StatusCode, out
	}
	status, body := post("POST", "/api/clients/"+client.String()+"/hand-over", "")
	assert.Equal(t, 409, status)
	assert.Contains(t, body, "no-pin")
	status, _ = post("PUT", "/api/pin", `{"pin":"12a4"}`)
	assert.Equal(t, 422, status)
	status, _ = post("PUT", "/api/pin", `{"pin":"0815"}`)
	require.Equal(t, 204, status)
	status, body = post("POST", "/api/clients/"+client.String()+"/hand-over", "")
	require.Equal(t, 200, status, body)
	var link struct{ Token string }
	require.NoError(t, json.Unmarshal([]byte(body), &link))

	for _, path := range []string{"/api/clients", "/api/day", "/api/clients/" + client.String(), "/api/shelf"} {
		res, out := call("GET", path, "", "Cookie", cookie)
		assert.Equal(t, 409, res.StatusCode, path)
		assert.Contains(t, out, "handed-over")
	}
	_, body = call("GET", "/api/session", "", "Cookie", cookie)
	assert.Contains(t, body, `"locked":true`)
	assert.NotContains(t, body, "Maud")
	res, body := call("GET", "/api/consultation", "", "Cookie", cookie, "X-Link-Token", link.Token)
	assert.Equal(t, 200, res.StatusCode, body)
	res, body = call("GET", "/api/consultation/substances?kind=medicine&text=warf", "", "Cookie", cookie, "X-Link-Token", link.Token)
	assert.Equal(t, 200, res.StatusCode)
	assert.Contains(t, body, "warfarin")

	status, body = post("POST", "/api/take-back", `{"pin":"9999"}`)
	assert.Equal(t, 422, status)
	assert.Contains(t, body, "4 tries")
	status, _ = post("POST", "/api/take-back", `{"pin":"0815"}`)
	require.Equal(t, 204, status)
	res, _ = call("GET", "/api/clients", "", "Cookie", cookie)
	assert.Equal(t, 200, res.StatusCode)

	cookie, csrf = signIn()
	status, _ = post("POST", "/api/clients/"+client.String()+"/hand-over", "")
	require.Equal(t, 200, status)
	for i := range 5 {
		status, body = post("POST", "/api/take-back", `{"pin":"0000"}`)
		assert.Equal(t, []int{422, 422, 422, 422, 409}[i], status, body)
	}
	status, _ = post("POST", "/api/take-back", `{"pin":"0815"}`)
	assert.Equal(t, 401, status, "now the password is needed")
}

// A doctor's answer is kept as it came, shown to those who treat, handed out with
// the file and erased with it.
func TestScansOfADoctorsAnswer(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, map[string]contraindication.Answer{"cancer": {Yes: true}})
	l, err := w.svc.Checks.WriteLetter(ctx, &w.owner, v.Client, nil, "May the face be massaged?", "")
	require.NoError(t, err)
	var bad *studio.InputError
	require.ErrorAs(t, w.svc.Checks.AddScan(ctx, &w.owner, l.ID, []byte("a text with a fine name")), &bad)
	require.ErrorAs(t, w.svc.Checks.AddScan(ctx, &w.owner, l.ID, nil), &bad)
	require.ErrorAs(t, w.svc.Checks.AddScan(ctx, &w.owner, l.ID, make([]byte, checks.ScanBytes+1)), &bad)
	png := []byte("\x89PNG\x0D\x0A\x1A\x0A and a picture")
	require.ErrorIs(t, w.svc.Checks.AddScan(ctx, &w.desk, l.ID, png), studio.ErrForbidden)
	require.NoError(t, w.svc.Checks.AddScan(ctx, &w.owner, l.ID, png))
	f, err := w.file(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	require.Len(t, f.Letters[0].Scans, 1)
	scan := f.Letters[0].Scans[0]
	kind, data, err := w.svc.Checks.Scan(ctx, &w.owner, scan.ID)
	require.NoError(t, err)
	assert.Equal(t, "image/png", kind)
	assert.Equal(t, png, data)
	_, _, err = w.svc.Checks.Scan(ctx, &w.desk, scan.ID)
	require.ErrorIs(t, err, studio.ErrForbidden)
	out, err := w.svc.Clients.ExportClient(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	text, err := json.Marshal(out)
	require.NoError(t, err)
	assert.Contains(t, string(text), base64.StdEncoding.EncodeToString(png))
	require.NoError(t, w.svc.Clients.EraseClient(ctx, &w.owner, v.Client, out.Client.Name))
	_, _, err = w.svc.Checks.Scan(ctx, &w.owner, scan.ID)
	require.ErrorIs(t, err, studio.ErrNotFound)
}

// What a studio kept before comes in with a file, judged on its own days.
func TestHealthComesInWithAFile(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	f, err := w.file(ctx, &w.owner, w.client(t, "Greta"))
	require.NoError(t, err)
	assert.Len(t, f.PreChecks, 6)
	assert.NotEmpty(t, f.ValidUntil)
	headlines := map[contraindication.Headline]int{}
	for _, sc := range f.PreChecks {
		headlines[sc.Result.Headline]++
	}
	assert.Positive(t, headlines[contraindication.DoNotTreat], "the cold sore of then")
	assert.Positive(t, headlines[contraindication.NotBefore])
	assert.NotEmpty(t, f.History)
	b := bundle(t)
	b.Practitioners, b.Rooms, b.Tools, b.Products, b.Protocols, b.Strokes, b.Visits = nil, nil, nil, nil, nil, nil, nil
	b.Roster, b.Absences, b.Series, b.Waiting = nil, nil, nil, nil
	b.Clients = b.Clients[:1]
	b.Clients[0].Health = &house.BundleHealth{
		Consultation: &house.BundleConsultation{Day: "someday"},
		Consents:     []house.BundleConsent{{Kind: studio.ConsentTreatment, Day: "today", Signer: "A", Signature: [][]int{{1, 2}}}},
		PatchTests:   []house.BundlePatchTest{{Product: "nothing", Day: "today", Place: "arm", Months: 6}},
	}
	var bad *studio.InputError
	_, err = w.svc.House.Import(ctx, &w.owner, b, false)
	require.ErrorAs(t, err, &bad)
	var paths []string
	for _, p := range bad.Problems {
		paths = append(paths, p.Path)
	}
	assert.Subset(t, paths, []string{"/clients/0/health/consents/0/signature", "/clients/0/health/consultation/day", "/clients/0/health/patchTests/0"})
}

// The studio's policies count for every judgement; allowing more needs a reason,
// and takes effect on today's checks at once (handbook, chapter 5).
func TestStudioPolicies(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	sc := w.checked(t, v, map[string]contraindication.Answer{"plain-cold": {Yes: true}})
	require.Equal(t, contraindication.DoNotTreat, sc.Result.Headline)
	touched, err := w.svc.Checks.DecidePolicy(ctx, &w.owner, "plain-cold", true, w.saving("", false))
	require.NoError(t, err)
	require.Len(t, touched, 1)
	assert.Equal(t, v.ID, touched[0].Visit.ID)
	var bad *studio.InputError
	_, err = w.svc.Checks.DecidePolicy(ctx, &w.owner, "plain-cold", true, w.saving("", true))
	require.ErrorAs(t, err, &bad)
	_, err = w.svc.Checks.DecidePolicy(ctx, &w.owner, "peel", true, w.saving("because we can", true))
	require.ErrorIs(t, err, studio.ErrNotFound, "this rule leaves nothing to decide")
	w.now = w.now.Add(time.Minute)
	_, err = w.svc.Checks.DecidePolicy(ctx, &w.owner, "plain-cold", true, w.saving("We have a plan for blocked noses.", true))
	require.NoError(t, err)
	f, err := w.file(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	assert.Equal(t, contraindication.OKWithAdjustments, f.PreChecks[0].Result.Headline)
	_, err = w.svc.Checks.DecidePolicy(ctx, &w.owner, contraindication.NoMouth, true, w.saving("", true))
	require.NoError(t, err, "asking for more needs no reason")
	p, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	assert.NotContains(t, p.MissingConsents, studio.ConsentMouth)
	rules, err := w.svc.Checks.Rules(ctx, &w.owner)
	require.NoError(t, err)
	assert.Equal(t, []string{"plain-cold", contraindication.NoMouth}, rules.Own.Policies)
}

// Forty PINs tried at the same moment on a tablet that was handed over count as forty: the
// session has ended after five.
func TestPinsTriedAtOnceAreAllCounted(t *testing.T) {
	w := aloneWorld(t)
	ctx := context.Background()
	in, err := w.in(t, "maud@demo.example", "demo palms 2", "")
	require.NoError(t, err)
	require.NoError(t, w.svc.House.SetPIN(ctx, &in.Actor, "0815"))
	_, _, err = w.svc.House.HandOverTablet(ctx, &in.Actor, in.Session.ID, w.client(t, "Viktor"))
	require.NoError(t, err)
	wrong := 0
	for _, err := range together(40, func(i int) error {
		return w.svc.House.UnlockTablet(ctx, &in.Actor, in.Session.ID, fmt.Sprintf("9%03d", i))
	}) {
		var input *studio.InputError
		require.Error(t, err)
		if errors.As(err, &input) {
			wrong++
		}
	}
	assert.Less(t, wrong, 5)
	require.Error(t, w.svc.House.UnlockTablet(ctx, &in.Actor, in.Session.ID, "0815"), "now the password is needed")
}
