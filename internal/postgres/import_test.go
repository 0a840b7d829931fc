package postgres_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/series"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
)

// annex is a small studio file that can be brought into the demo's studio whole.
func annex(t *testing.T) *house.Bundle {
	t.Helper()
	demo := bundle(t)
	plan := demo.Protocols[0]
	plan.Key, plan.Name = "annex-plan", "Annex plan"
	product := demo.Products[0]
	product.Key, product.Name, product.GTIN = "annex-oil", "Annex oil", ""
	product.Lots = []house.BundleLot{{Number: "A-1", Expiry: "today+300", Received: "today-100", Opened: "today-50", MonthsOpen: 6, Amount: "100", UnitCost: "0.1"}}
	own := stroke.Stroke{Key: "annex-glide", Manner: stroke.Manner{Name: "Annex glide", Family: stroke.Effleurage, Intent: stroke.Lift, Hand: "flat palm"}, Pressure: 2, Profile: "even", Relation: stroke.Slides, Glide: "slide", Sides: stroke.BothAtOnce,
		Path: []string{"jawline", "cheekbone"}, Dose: stroke.Dose{Kind: stroke.Reps, Planned: 4}, Parts: []stroke.Part{{Kind: stroke.Move, Seconds: 3}}}
	var week series.Week
	for d := range week {
		week[d] = series.Hours{From: 540, To: 1080}
	}
	return &house.Bundle{Format: "softpalm-studio", Version: 1,
		Practitioners: []house.BundlePerson{{Key: "annex-person", Name: "Noor Abendstern", Week: week}},
		Rooms:         []house.BundleRoom{{Key: "annex", Name: "Annex"}},
		Tools:         []protocol.Tool{{Key: "annex-stone", Name: "Annex stone", Kind: "stone", Pieces: 1}},
		Products:      []house.BundleProduct{product},
		Strokes:       []stroke.Stroke{own},
		Protocols:     []protocol.Protocol{plan},
		Clients: []house.BundleClient{{Key: "annex-client", Name: "Annex Client", SkinType: "dry", Health: &house.BundleHealth{
			Consultation: &house.BundleConsultation{Day: "today-30", Answers: map[string]house.BundleAnswer{"nut-allergy": {}}},
			Checks:       []house.BundleCheck{{Day: "today-10", Answers: map[string]house.BundleAnswer{"fever": {Day: "today-11"}}}},
			Letters:      []house.BundleLetter{{Day: "today-20", Rules: []string{"cancer"}, Question: "May it be given?", Answer: "yes", Until: "today+100"}},
			Consents:     []house.BundleConsent{{Kind: studio.ConsentTreatment, Day: "today-30", Signer: "A", Signature: signature}},
			PatchTests:   []house.BundlePatchTest{{Product: "annex-oil", Lot: "A-1", Place: "inner arm", Day: "today-12", Months: 6, Readings: map[string]patch.PatchGrade{"24": patch.Negative}}},
		}}},
		Visits: []house.BundleVisit{
			{Client: "annex-client", Practitioner: "annex-person", Room: "annex", Protocol: "annex-plan", Day: "today-10", Time: "10:00", State: studio.Done, Record: &house.BundleRecord{Note: "n", Uses: []house.BundleUse{{Product: "annex-oil", Planned: "3", Real: "4"}}}},
			{Client: "annex-client", Practitioner: "annex-person", Room: "annex", Protocol: "annex-plan", Day: "today+10", Time: "10:00", State: studio.Booked},
		},
	}
}

// A studio file with one thing wrong is told by place and changes nothing; the
// same file without the fault comes in whole.
func TestEveryFaultOfAStudioFile(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	counts := func() []int {
		lib, err := w.svc.Protocols.Library(ctx, &w.owner)
		require.NoError(t, err)
		plans, err := w.svc.Protocols.Protocols(ctx, &w.owner)
		require.NoError(t, err)
		annexed, _, err := w.svc.Clients.Clients(ctx, &w.owner, "Annex", "")
		require.NoError(t, err)
		return []int{len(lib.Products), len(lib.Tools), len(lib.Strokes), len(plans), len(annexed)}
	}
	before := counts()
	health := func(b *house.Bundle) *house.BundleHealth { return b.Clients[0].Health }
	for _, c := range []struct {
		path  string
		spoil func(b *house.Bundle)
	}{
		{"/practitioners/0/key", func(b *house.Bundle) { b.Practitioners[0].Key = "tove" }},
		{"/practitioners/0/week", func(b *house.Bundle) { b.Practitioners[0].Week[1] = series.Hours{From: 600, To: 500} }},
		{"/rooms/0/key", func(b *house.Bundle) { b.Rooms[0].Key = "garden" }},
		{"/tools/0/key", func(b *house.Bundle) { b.Tools[0].Key = "stone-plate" }},
		{"/products/0/key", func(b *house.Bundle) { b.Products[0].Key = "calm-oil" }},
		{"/products/0/gtin", func(b *house.Bundle) { b.Products[0].GTIN = bundle(t).Products[1].GTIN }},
		{"/products/0/lots/0/expiry", func(b *house.Bundle) { b.Products[0].Lots[0].Expiry = "soon" }},
		{"/products/0/lots/0/opened", func(b *house.Bundle) { b.Products[0].Lots[0].Opened = "2026-02-30" }},
		{"/products/0/lots/1/number", func(b *house.Bundle) {
			b.Products[0].Lots = append(b.Products[0].Lots, b.Products[0].Lots[0])
		}},
		{"/strokes/0/key", func(b *house.Bundle) { b.Strokes[0].Key = "cheek-scoop" }},
		{"/strokes/0/path/1", func(b *house.Bundle) { b.Strokes[0].Path[1] = "moon" }},
		{"/strokes/0/tool/key", func(b *house.Bundle) { b.Strokes[0].Tool = &stroke.ToolPart{Key: "gold-fork"} }},
		{"/protocols/0/key", func(b *house.Bundle) { b.Protocols[0].Key = "stone-one-side-first" }},
		{"/protocols/0/steps/0/stroke", func(b *house.Bundle) { b.Protocols[0].Steps[0].Stroke = "moon-glide" }},
		{"/protocols/0", func(b *house.Bundle) { // pressure 5 on the front of the neck
			five := 5
			for i := range b.Protocols[0].Steps {
				if b.Protocols[0].Steps[i].Stroke == "neck-palms-up" {
					b.Protocols[0].Steps[i].Pressure = &five
				}
			}
		}},
		{"/clients/0/birthDate", func(b *house.Bundle) { b.Clients[0].BirthDate = "2090-01-01" }},
		{"/clients/0/skinStates", func(b *house.Bundle) { b.Clients[0].SkinStates = []string{"shiny"} }},
		{"/clients/1/key", func(b *house.Bundle) { b.Clients = append(b.Clients, b.Clients[0]) }},
		{"/visits/0/client", func(b *house.Bundle) { b.Visits[0].Client = "nobody" }},
		{"/visits/0/practitioner", func(b *house.Bundle) { b.Visits[0].Practitioner = "nobody" }},
		{"/visits/0/room", func(b *house.Bundle) { b.Visits[0].Room = "cellar" }},
		{"/visits/0/protocol", func(b *house.Bundle) { b.Visits[0].Protocol = "nothing" }},
		{"/visits/0/day", func(b *house.Bundle) { b.Visits[0].Day = "yesterday" }},
		{"/visits/1/time", func(b *house.Bundle) { b.Visits[1].Time = "29:00" }},
		{"/visits/1", func(b *house.Bundle) { b.Visits[1].Day, b.Visits[1].Time = b.Visits[0].Day, "10:30" }},
		{"/visits/0/record/uses/0/real", func(b *house.Bundle) { b.Visits[0].Record.Uses[0].Real = "99999" }},
		{"/visits/0/record/uses/0/product", func(b *house.Bundle) { b.Visits[0].Record.Uses[0].Product = "moon-oil" }},
		{"/clients/0/health/consultation/day", func(b *house.Bundle) { health(b).Consultation.Day = "someday" }},
		{"/clients/0/health/consultation/answers/moon", func(b *house.Bundle) { health(b).Consultation.Answers["moon"] = house.BundleAnswer{} }},
		{"/clients/0/health/consultation/answers/isotretinoin/day", func(b *house.Bundle) {
			health(b).Consultation.Answers["isotretinoin"] = house.BundleAnswer{Day: "31 May"}
		}},
		{"/clients/0/health/checks/0/day", func(b *house.Bundle) { health(b).Checks[0].Day = "" }},
		{"/clients/0/health/checks/0/answers/fever/day", func(b *house.Bundle) { health(b).Checks[0].Answers["fever"] = house.BundleAnswer{} }},
		{"/clients/0/health/checks/0/answers/sore-skin/zones", func(b *house.Bundle) { health(b).Checks[0].Answers["sore-skin"] = house.BundleAnswer{} }},
		{"/clients/0/health/letters/0/day", func(b *house.Bundle) { health(b).Letters[0].Until = "" }},
		{"/clients/0/health/consents/0/day", func(b *house.Bundle) { health(b).Consents[0].Day = "then" }},
		{"/clients/0/health/consents/0/signature", func(b *house.Bundle) { health(b).Consents[0].Signature = [][]int{{1, 1}} }},
		{"/clients/0/health/patchTests/0", func(b *house.Bundle) { health(b).PatchTests[0].Product = "moon-oil" }},
		{"/clients/0/health/patchTests/0/readings/24", func(b *house.Bundle) { health(b).PatchTests[0].Readings["24"] = "purple" }},
	} {
		b := annex(t)
		c.spoil(b)
		_, err := w.svc.House.Import(ctx, &w.owner, b, false)
		var bad *studio.InputError
		if assert.ErrorAs(t, err, &bad, c.path) {
			assert.Equal(t, c.path, bad.Problems[0].Path, "%+v", bad.Problems)
			assert.NotEmpty(t, bad.Problems[0].Message)
		}
		assert.Equal(t, before, counts(), "%s: nothing is half in", c.path)
	}
	got, err := w.svc.House.Import(ctx, &w.owner, annex(t), true)
	require.NoError(t, err)
	want := house.Counts{Practitioners: 1, Rooms: 1, Tools: 1, Products: 1, Lots: 1, Strokes: 1, Protocols: 1, Clients: 1, Visits: 2}
	assert.Equal(t, want, *got)
	assert.Equal(t, before, counts(), "a rehearsal leaves nothing")
	got, err = w.svc.House.Import(ctx, &w.owner, annex(t), false)
	require.NoError(t, err)
	assert.Equal(t, want, *got)
	assert.Equal(t, "96", w.line(t, "annex-oil").Remaining.String(), "the record took 4 of 100")
	f, err := w.file(ctx, &w.owner, w.client(t, "Annex Client"))
	require.NoError(t, err)
	assert.Len(t, f.Visits, 2)
	assert.Equal(t, contraindication.NotBefore, f.PreChecks[0].Result.Headline, "judged on its day: fever the day before")
	_, err = w.svc.House.Import(ctx, &w.owner, annex(t), false)
	assert.Equal(t, "/practitioners/0/key", at(err), "twice is told, not doubled")
}

// A new studio needs its own page of the file, and ways in that nobody has yet.
func TestMakingAStudio(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	fresh := func() *house.Bundle {
		b := bundle(t)
		for i := range b.Accounts {
			b.Accounts[i].Email = "new-" + b.Accounts[i].Email
		}
		return b
	}
	for path, spoil := range map[string]func(*house.Bundle){
		"/studio":           func(b *house.Bundle) { b.Studio = nil },
		"/studio/timeZone":  func(b *house.Bundle) { b.Studio.TimeZone = "Moon/Crater" },
		"/accounts/1/email": func(b *house.Bundle) { b.Accounts[1].Email = "OWNER@demo.example" },
	} {
		b := fresh()
		spoil(b)
		_, err := w.svc.House.CreateStudio(ctx, b, false)
		assert.Equal(t, path, at(err))
	}
	b := fresh()
	b.Accounts = nil
	_, err := w.svc.House.CreateStudio(ctx, b, false)
	assert.Equal(t, "/studio", at(err), "nobody could sign in")
	_, err = w.svc.House.CreateStudio(ctx, fresh(), false)
	require.NoError(t, err)
	in, err := w.svc.House.SignIn(ctx, house.Credentials{Email: "NEW-owner@demo.example", Password: "demo palms 1"}, "test")
	require.NoError(t, err, "an address is the same in capitals")
	assert.NotEqual(t, w.owner.Studio, in.Actor.Studio)
	demo, err := w.db.DemoSignIns(ctx)
	require.NoError(t, err)
	for _, d := range demo {
		assert.NotContains(t, d.Email, "new-", "only a demo names its passwords")
	}
}
