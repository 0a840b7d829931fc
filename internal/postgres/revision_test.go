package postgres_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/house"
)

// revision is a client's revision as it is now.
func (w *world) revision(t *testing.T, client uuid.UUID) int {
	t.Helper()
	f, err := w.svc.Clients.Client(context.Background(), &w.owner, client)
	require.NoError(t, err)
	return f.Client.Revision
}

// contentsRevision is the revision of what a product is made of; 1 where there is none.
func (w *world) contentsRevision(t *testing.T, product uuid.UUID) int {
	t.Helper()
	lines, err := w.svc.Shelf.Shelf(context.Background(), &w.owner)
	require.NoError(t, err)
	for _, l := range lines {
		if l.Product.ID == product {
			return l.Product.Revision
		}
	}
	return 1
}

// Of fifty people who save one client at the same moment, one does; the others are shown
// what that one saved, and nothing of theirs is half-written. The next one who saves on
// top of it succeeds.
func TestOfTwoWhoChangeAClientTheSecondIsShownTheFirst(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	f, err := w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	errs := together(50, func(i int) error {
		fields := f.Client.ClientFields
		fields.Phone = fmt.Sprintf("+00 555 %04d", i)
		_, err := w.svc.Clients.ChangeClient(ctx, &w.owner, v.Client, f.Client.Revision, fields)
		return err
	})
	winners := 0
	for _, err := range errs {
		var changed *studio.ChangedError
		if err == nil {
			winners++
		} else if assert.ErrorAs(t, err, &changed) {
			assert.Equal(t, f.Client.Revision+1, changed.Client.Revision)
			assert.NotEqual(t, f.Client.Phone, changed.Client.Phone)
		}
	}
	assert.Equal(t, 1, winners)
	now, err := w.svc.Clients.ChangeClient(ctx, &w.owner, v.Client, f.Client.Revision+1, f.Client.ClientFields)
	require.NoError(t, err)
	assert.Equal(t, f.Client.Revision+2, now.Revision)
}

// What the front desk gets back of a client that was changed meanwhile holds no health data.
func TestTheDeskIsShownNoHealthOfAChangedClient(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.first(t).Client
	f, err := w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)
	fields := f.Client.ClientFields
	fields.Note, fields.SkinStates = "hates the cold stone", []string{"sensitive"}
	_, err = w.svc.Clients.ChangeClient(ctx, &w.owner, client, f.Client.Revision, fields)
	require.NoError(t, err)
	seen, err := w.svc.Clients.Client(ctx, &w.desk, client)
	require.NoError(t, err)
	_, err = w.svc.Clients.ChangeClient(ctx, &w.desk, client, f.Client.Revision, seen.Client.ClientFields)
	var changed *studio.ChangedError
	require.ErrorAs(t, err, &changed)
	assert.Empty(t, changed.Client.Note)
	assert.Empty(t, changed.Client.SkinStates)
	out, err := w.svc.Clients.ChangeClient(ctx, &w.desk, client, changed.Client.Revision, seen.Client.ClientFields)
	require.NoError(t, err)
	assert.Empty(t, out.Note, "nor what it saved")
	f, err = w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)
	assert.Equal(t, "hates the cold stone", f.Client.Note, "and it overwrites none")
	assert.Equal(t, fields.SkinType, f.Client.SkinType)
	assert.Equal(t, fields.Phototype, f.Client.Phototype)
}

// The same for what a product is made of, where an allergen could be lost.
func TestOfTwoWhoChangeAProductTheSecondIsShownTheFirst(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	product := w.line(t, "calm-oil").Product
	errs := together(50, func(i int) error {
		made := studio.Contents{Ingredients: []string{fmt.Sprintf("Oleum %d", i)}, Tags: []string{"nut-oil"}, Unsuited: []string{}}
		return w.svc.Shelf.SaveContents(ctx, &w.owner, product.ID, studio.RevisedContents{Contents: made, Revision: product.Revision})
	})
	winners := 0
	for i, err := range errs {
		var changed *studio.ChangedError
		if errors.As(err, &changed) {
			assert.Equal(t, product.Revision+1, changed.Contents.Revision)
			assert.NotEqual(t, []string{fmt.Sprintf("Oleum %d", i)}, changed.Contents.Ingredients)
			continue
		}
		require.NoError(t, err)
		winners++
	}
	assert.Equal(t, 1, winners)
}

// Over HTTP: 409 with what is there, and the text of the refused request is not in it.
func TestAChangeMeanwhileOverHTTP(t *testing.T) {
	w := newWorld(t)
	call := w.signedIn(t, "maud@demo.example", "demo palms 2")
	path := "/api/clients/" + w.first(t).Client.String()
	edit := func(phone string, revision int) string {
		return fmt.Sprintf(`{"name":"Ada Abendroth","email":"","phone":%q,"birthDate":"","skinType":"dry","skinStates":[],"phototype":0,"note":"","revision":%d}`, phone, revision)
	}
	res, body := call("PUT", path, edit("111", 1))
	require.Equal(t, 200, res.StatusCode, body)
	res, body = call("PUT", path, edit("222", 1))
	assert.Equal(t, 409, res.StatusCode)
	assert.Contains(t, body, `"code":"changed-meanwhile"`)
	assert.Contains(t, body, `"phone":"111"`)
	assert.NotContains(t, body, `"222"`)
	res, body = call("PUT", path, edit("222", 2))
	assert.Equal(t, 200, res.StatusCode, body)
	res, _ = call("PUT", path, `{"name":"Ada Abendroth","email":"","phone":"","birthDate":"","skinType":"dry","skinStates":[],"phototype":0,"note":""}`)
	assert.Equal(t, 422, res.StatusCode, "a change without its revision is none")
}

// What a screen is shown can be sent back changed: the revision that the API gives is the
// one that it takes.
func TestTheRevisionShownIsTheOneToSaveOn(t *testing.T) {
	w := newWorld(t)
	call := w.signedIn(t, "owner@demo.example", "demo palms 1")
	_, out := call("GET", "/api/shelf", "")
	var lines []struct {
		Product struct {
			ID       uuid.UUID
			Revision int
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &lines))
	require.NotEmpty(t, lines)
	for _, l := range lines {
		body := fmt.Sprintf(`{"ingredients":["Bisabolol"],"tags":[],"unsuited":[],"revision":%d}`, l.Product.Revision)
		res, out := call("PUT", fmt.Sprintf("/api/products/%s/contents", l.Product.ID), body)
		require.Equal(t, 2, res.StatusCode/100, out)
	}
	client := w.client(t, "Greta")
	_, out = call("GET", fmt.Sprintf("/api/clients/%s", client), "")
	var file struct{ Client map[string]any }
	require.NoError(t, json.Unmarshal([]byte(out), &file))
	delete(file.Client, "id")
	delete(file.Client, "createdAt")
	body, err := json.Marshal(file.Client)
	require.NoError(t, err)
	res, out := call("PUT", fmt.Sprintf("/api/clients/%s", client), string(body))
	require.Equal(t, 200, res.StatusCode, out)
}

// saving asks for a change of the rules as they are now.
func (w *world) saving(reason string, save bool) checks.RuleSave {
	view, err := w.svc.Checks.Rules(context.Background(), &w.owner)
	if err != nil {
		panic(err)
	}
	return checks.RuleSave{Reason: reason, Save: save, Revision: view.Revision}
}

// Of two who change one rule the second is shown what the first saved, and nothing is
// written; who changes another rule is not in the way. The same for a policy and for a rule
// of the studio's own.
func TestOfTwoWhoChangeARuleTheSecondIsShownTheFirst(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	before := w.saving("we are careful", true)
	winners := 0
	for i, err := range together(50, func(i int) error {
		_, err := w.svc.Checks.AmendRule(ctx, &w.owner, "peel", 20+i, before)
		return err
	}) {
		if err == nil {
			winners++
			continue
		}
		var changed *studio.ChangedError
		require.ErrorAs(t, err, &changed, "%d", i)
		now := changed.Other.(*checks.RuleNow)
		assert.Equal(t, "peel", now.Rule.ID)
		assert.Equal(t, w.owner.Name, now.By)
		assert.GreaterOrEqual(t, now.Days, 20)
	}
	assert.Equal(t, 1, winners)
	_, err := w.svc.Checks.AmendRule(ctx, &w.owner, "laser", 40, before)
	require.NoError(t, err, "another rule")

	own := contraindication.Rule{Title: "Henna on the brows", Group: "Skin today", Stage: contraindication.PreTreatment, Question: "Have your brows been dyed with henna?", AnswerType: contraindication.YesNo,
		Why: "The skin may react.", Basis: "common practice", Outcomes: []contraindication.Outcome{{Kind: contraindication.Precaution, Instruction: "Keep off the brows."}}}
	_, err = w.svc.Checks.SaveRule(ctx, &w.owner, own, w.saving("we saw it", true))
	require.NoError(t, err)
	view, err := w.svc.Checks.Rules(ctx, &w.owner)
	require.NoError(t, err)
	own = view.Own.Rules[0]
	before = w.saving("we saw it again", true)
	own.Question = "Were your brows dyed with henna this week?"
	_, err = w.svc.Checks.SaveRule(ctx, &w.owner, own, before)
	require.NoError(t, err)
	own.Question = "Henna?"
	var changed *studio.ChangedError
	_, err = w.svc.Checks.SaveRule(ctx, &w.owner, own, before)
	require.ErrorAs(t, err, &changed)
	assert.Equal(t, "Were your brows dyed with henna this week?", changed.Other.(*checks.RuleNow).Rule.Question)
	_, err = w.svc.Checks.RetireRule(ctx, &w.owner, own.ID, before)
	require.ErrorAs(t, err, &changed)

	before = w.saving("the owner decides", true)
	_, err = w.svc.Checks.DecidePolicy(ctx, &w.owner, contraindication.NoMouth, true, before)
	require.NoError(t, err)
	_, err = w.svc.Checks.DecidePolicy(ctx, &w.owner, contraindication.NoMouth, false, before)
	require.ErrorAs(t, err, &changed)
	assert.True(t, changed.Other.(*checks.RuleNow).On)
}

// A stroke of the studio's own that somebody changed meanwhile is not overwritten unseen.
func TestOfTwoWhoChangeAStrokeTheSecondIsShownTheFirst(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	own := *stroke.ByKey(stroke.Trade())["cheek-palms"]
	own.Key, own.Name = "", "Our palms"
	made, err := w.svc.Protocols.SaveStroke(ctx, &w.owner, own, nil)
	require.NoError(t, err)
	lib, err := w.svc.Protocols.Library(ctx, &w.owner)
	require.NoError(t, err)
	was := *lib.Context().Strokes[made.Key]
	winners := 0
	for _, err := range together(50, func(i int) error {
		mine := was
		mine.Name = fmt.Sprintf("Our palms %d", i)
		_, err := w.svc.Protocols.SaveStroke(ctx, &w.owner, mine, &was)
		return err
	}) {
		if err == nil {
			winners++
			continue
		}
		var changed *studio.ChangedError
		require.ErrorAs(t, err, &changed)
		assert.NotEqual(t, "Our palms", changed.Other.(*stroke.Stroke).Name)
	}
	assert.Equal(t, 1, winners)
}

// The same for the settings.
func TestOfTwoWhoChangeTheSettingsTheSecondIsShownTheFirst(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	before, err := w.svc.House.Settings(ctx, &w.owner)
	require.NoError(t, err)
	winners := 0
	for i, err := range together(50, func(i int) error {
		mine := before.Settings
		mine.Policies = fmt.Sprintf("Policy %d", i)
		_, err := w.svc.House.ChangeSettings(ctx, &w.owner, before.Revision, mine)
		return err
	}) {
		if err == nil {
			winners++
			continue
		}
		var changed *studio.ChangedError
		require.ErrorAs(t, err, &changed, "%d", i)
		now := changed.Other.(*house.SettingsView)
		assert.Equal(t, before.Revision+1, now.Revision)
		assert.NotEqual(t, fmt.Sprintf("Policy %d", i), now.Policies)
	}
	assert.Equal(t, 1, winners)
}

// The same for a record that is being written, also when it is signed; what is sent twice
// because its answer was lost is no change, and a locked record stays locked.
func TestOfTwoWhoWriteARecordTheSecondIsShownTheFirst(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, nil)
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	require.NoError(t, w.start(t, v.ID))
	rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	before := rec.Record
	winner := -1
	for i, err := range together(50, func(i int) error {
		mine := before
		mine.Note = fmt.Sprintf("Note %d", i)
		return w.svc.Treatment.SaveRecord(ctx, &w.owner, v.ID, mine)
	}) {
		if err == nil {
			assert.Equal(t, -1, winner)
			winner = i
			continue
		}
		var changed *studio.ChangedError
		require.ErrorAs(t, err, &changed)
		now := changed.Other.(*studio.Record)
		assert.Equal(t, before.Revision+1, now.Revision)
		assert.NotEqual(t, fmt.Sprintf("Note %d", i), now.Note)
	}
	require.NotEqual(t, -1, winner)
	again := before
	again.Note = fmt.Sprintf("Note %d", winner)
	require.NoError(t, w.svc.Treatment.SaveRecord(ctx, &w.owner, v.ID, again), "the same once more")
	var changed *studio.ChangedError
	_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, before)
	require.ErrorAs(t, err, &changed, "nobody signs what they have not seen")
	rec, err = w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, before.Revision+1, rec.Record.Revision, "and that changed nothing")
	more := rec.Record
	more.Uses = slices.Clone(more.Uses)
	more.Uses[0].Used = more.Uses[0].Used.Add(dec("0.5"))
	require.NoError(t, w.svc.Treatment.SaveRecord(ctx, &w.owner, v.ID, more))
	require.ErrorAs(t, w.svc.Treatment.SaveRecord(ctx, &w.owner, v.ID, rec.Record), &changed, "another amount is another record")
	now := *changed.Other.(*studio.Record)
	_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, now)
	require.NoError(t, err)
	require.ErrorIs(t, w.svc.Treatment.SaveRecord(ctx, &w.owner, v.ID, before), studio.ErrLocked)
}
