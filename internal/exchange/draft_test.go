package exchange_test

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/drafting"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
)

var (
	skinTypes  = []string{"", "dry", "normal", "combination", "oily"}
	skinStates = []string{"", "sensitive", "dehydrated", "mature", "acne-prone", "rosacea-prone", "couperose", "pigmentation-prone"}
	minutes    = []int{10, 15, 20, 30, 45, 60}
	schools    = []protocol.Method{{}, {Drainage: "only-close"}, {Drainage: "none"}, {Drainage: "whole", Slip: "dry"}, {Slip: "dry"}, {Opening: "feather-sweep"}, {Closing: "chin-sweep"}, {Redness: "avoided"}, {Sides: "each-step"}}
)

// drafted composes a draft and checks it: it holds together, fits its minutes,
// works what it promises and passes its own checks without a warning; or it says
// why there is none.
func drafted(t *testing.T, q drafting.Question, ctx *protocol.Context) (ok bool, why string) {
	name := fmt.Sprintf("%+v", q)
	p, err := drafting.Draft(q, ctx)
	if err != nil {
		var none *drafting.NoDraft
		require.True(t, errors.As(err, &none), "%s: %v", name, err)
		assert.NotEmpty(t, none.Error())
		return false, none.Code
	}
	inner := *ctx
	inner.SkinType, inner.SkinStates = q.SkinType, q.SkinStates
	require.Empty(t, p.Validate(&inner, ""), name)
	e := evaluation.Evaluate(p, &inner)
	for _, f := range e.Findings {
		assert.Equal(t, evaluation.Note, f.Severity, "%s: %s %v", name, f.ID, f.Values)
	}
	assert.LessOrEqual(t, e.Seconds, float64(e.SlotSeconds)+0.5, name)
	assert.GreaterOrEqual(t, e.Seconds, float64(e.SlotSeconds-evaluation.FitGrace)-0.5, name)
	return true, ""
}

// A first draft of half an hour for every concern with every other skin state,
// and a fixed sample of 120 of all the combinations that the demo shelf allows (five skin
// types, eight states, one to three concerns, six lengths, nine schools, with and
// without tools). SOFTPALM_ALL_DRAFTS=1 tries every combination of one concern, about
// 112,000 of them in some hours; a higher number every so-many-th.
func TestDrafts(t *testing.T) {
	b, ctx := demo(t)
	var tools, products []string
	for _, x := range b.Tools {
		tools = append(tools, x.Key)
	}
	for _, x := range b.Products {
		products = append(products, x.Key)
	}
	made, reasons := 0, map[string]int{}
	try := func(q drafting.Question) {
		q.Products = products
		ok, why := drafted(t, q, ctx)
		if ok {
			made++
		} else {
			reasons[why]++
		}
	}
	list := func(s string) []string {
		if s == "" {
			return nil
		}
		return []string{s}
	}
	if every, _ := strconv.Atoi(os.Getenv("SOFTPALM_ALL_DRAFTS")); every > 0 {
		n := 0
		all := try
		try = func(q drafting.Question) {
			if n++; n%every == 0 {
				all(q)
			}
		}
		for _, c := range protocol.Concerns {
			for _, ty := range skinTypes {
				for _, st := range skinStates {
					for _, m := range minutes {
						for _, sc := range schools {
							try(drafting.Question{SkinType: ty, SkinStates: list(st), Concerns: []string{c.Key}, Minutes: m, Method: sc, Tools: tools})
							try(drafting.Question{SkinType: ty, SkinStates: list(st), Concerns: []string{c.Key}, Minutes: m, Method: sc})
						}
					}
				}
			}
		}
		t.Logf("%d drafts of %d combinations tried, refused: %v", made, n/every, reasons)
		return
	}
	for ci, c := range protocol.Concerns {
		for si, st := range skinStates {
			if (ci+si)%2 == 1 {
				continue
			}
			try(drafting.Question{SkinType: "normal", SkinStates: list(st), Concerns: []string{c.Key}, Minutes: 30, Tools: tools})
		}
	}
	assert.Equal(t, len(protocol.Concerns)*len(skinStates)/2, made, "half an hour for one concern can always be drafted: %v", reasons)
	r := rand.New(rand.NewPCG(1, 2))
	for range 120 {
		q := drafting.Question{SkinType: skinTypes[r.IntN(len(skinTypes))], SkinStates: list(skinStates[r.IntN(len(skinStates))]), Minutes: minutes[r.IntN(len(minutes))], Method: schools[r.IntN(len(schools))]}
		if r.IntN(2) == 0 {
			q.Tools = tools
		}
		for range 1 + r.IntN(3) {
			q.Concerns = append(q.Concerns, protocol.Concerns[r.IntN(len(protocol.Concerns))].Key)
		}
		try(q)
	}
	t.Logf("%d drafts made, refused: %v", made, reasons)
	assert.GreaterOrEqual(t, made, 104+96, "of the sample four in five can be drafted: %v", reasons)
}

// Without anything that slides there is no draft, and the reason is plain.
func TestNoDraftSaysWhy(t *testing.T) {
	_, ctx := demo(t)
	_, err := drafting.Draft(drafting.Question{Concerns: []string{"jowls"}, Minutes: 30}, ctx)
	require.Error(t, err)
	assert.Contains(t, err.Error(), "lets the hands slide")
}
