package postgres_test

import (
	"context"
	"encoding/json"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
)

// Standard rules come in from a file after a look at what they change and whom they touch;
// what asks for less needs a reason; the studio's own days stay, and the shipped rules can
// be taken again.
func TestRulesFromAFile(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.client(t, "Viktor")
	v := w.next(t, client)
	home := noTo(w, contraindication.Consultation)
	home["peel"] = contraindication.Answer{Yes: true, Day: "2026-11-20"}
	w.consult(t, client, home, studio.ClientHistory{})

	owner := w.signedIn(t, "owner@demo.example", "demo palms 1")
	res, body := owner("GET", "/api/rule-pack", "")
	require.Equal(t, 200, res.StatusCode)
	var pack contraindication.Pack
	require.NoError(t, json.Unmarshal([]byte(body), &pack))
	assert.Empty(t, contraindication.Trade().Changes(&pack), "what is exported is what is in force")

	at := slices.IndexFunc(pack.Rules, func(r contraindication.Rule) bool { return r.ID == "peel" })
	pack.Version = "our association, 2027"
	for i := range pack.Rules[at].Outcomes {
		if pack.Rules[at].Outcomes[i].Days > 0 {
			pack.Rules[at].Outcomes[i].Days = 365
		}
	}
	look, err := w.svc.Checks.ImportRules(ctx, &w.owner, &pack, w.saving("", false))
	require.NoError(t, err)
	require.Len(t, look.Changes, 1)
	assert.Equal(t, contraindication.PackChange{Rule: "peel", Title: pack.Rules[at].Title, Kind: "changed"}, look.Changes[0])
	touched := slices.ContainsFunc(look.Affected, func(x checks.AffectedVisit) bool { return x.Visit.ID == v.ID })
	assert.True(t, touched, "the booked client is shown before anything is saved")
	view, err := w.svc.Checks.Rules(ctx, &w.owner)
	require.NoError(t, err)
	assert.Equal(t, contraindication.Trade().Version, view.Pack.Version, "a look changes nothing")

	_, err = w.svc.Checks.AmendRule(ctx, &w.owner, "laser", 60, w.saving("we are careful", true))
	require.NoError(t, err)
	_, err = w.svc.Checks.ImportRules(ctx, &w.owner, &pack, w.saving("", true))
	require.NoError(t, err, "what is stricter needs no reason")
	view, err = w.svc.Checks.Rules(ctx, &w.owner)
	require.NoError(t, err)
	assert.Equal(t, "our association, 2027", view.Own.Standard().Version)
	assert.Len(t, view.Own.Amendments, 1, "the studio's own days stay")
	assert.Equal(t, "imported", view.Own.Log[len(view.Own.Log)-1].Action)

	var input *studio.InputError
	_, err = w.svc.Checks.ImportRules(ctx, &w.owner, nil, w.saving("", true))
	require.ErrorAs(t, err, &input, "back to shorter days asks for less")
	assert.Equal(t, "/reason", input.Problems[0].Path)
	_, err = w.svc.Checks.ImportRules(ctx, &w.owner, nil, w.saving("the association took it back", true))
	require.NoError(t, err)
	bad := pack
	bad.Rules = slices.Clone(pack.Rules)
	bad.Rules[3].Why = ""
	_, err = w.svc.Checks.ImportRules(ctx, &w.owner, &bad, w.saving("", true))
	require.ErrorAs(t, err, &input)
	assert.Equal(t, "/rules/3", input.Problems[0].Path)
	_, err = w.svc.Checks.ImportRules(ctx, &w.owner, &contraindication.Pack{Version: "none"}, w.saving("we want none", true))
	require.ErrorAs(t, err, &input, "no rules at all are no rules")
}
