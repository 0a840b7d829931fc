package drafting_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/drafting"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// spans are the strokes in the work that a teacher takes, by minutes of hands-on time (review of the
// composer).
var spans = map[int][2]int{30: {8, 14}, 45: {14, 20}, 60: {18, 26}}

// faults lists what a teacher would mark in a draft (review of the composer, section 5).
func faults(q drafting.Question, p *protocol.Protocol, ctx *protocol.Context) (out []string) {
	say := func(format string, a ...any) { out = append(out, fmt.Sprintf(format, a...)) }
	inner := *ctx
	inner.SkinType, inner.SkinStates = q.SkinType, q.SkinStates
	e := evaluation.Evaluate(p, &inner)
	for _, f := range e.Findings {
		if f.Severity != evaluation.Note {
			say("%s", f.ID)
		}
	}
	n, all, on := 0, 0.0, 0.0
	zones := 0
	var concerns []*protocol.Concern
	for _, k := range q.Concerns {
		c := protocol.ConcernOf(k)
		concerns = append(concerns, c)
		zones += len(c.Zones)
	}
	seen, grips, tools, toolBlocks, last := map[string]bool{}, 0, map[string]bool{}, 0, ""
	gripped := false
	row := 0
	phases := map[protocol.Phase]bool{}
	masked := false
	for i := range e.Steps {
		r, s := &e.Steps[i], &p.Steps[i]
		phases[r.Phase] = true
		masked = masked || r.StrokeKey == "mask-on"
		if s.Why == "" {
			say("%s does not say why", s.Stroke)
		}
		if r.Phase == "exercises" {
			row++
			if !q.Exercises || row > 2 {
				say("exercise %s", s.Stroke)
			}
			continue
		}
		row = 0
		if r.Phase != "work" {
			continue
		}
		n++
		all += float64(r.Seconds)
		for _, c := range concerns {
			if slices.Contains(c.Intents, r.Intent) && slices.ContainsFunc(r.Path, func(x evaluation.Stop) bool { return slices.Contains(c.Zones, x.Zone) }) {
				on += float64(r.Seconds)
				break
			}
		}
		if seen[s.Stroke] && s.Use == nil && !strings.Contains(s.Why, "second round") && r.Family != stroke.Hygiene {
			say("%s twice", s.Stroke)
		}
		seen[s.Stroke] = true
		grip := r.Glide == stroke.GripGlide
		if grip && !gripped {
			grips++
		}
		gripped = grip
		tool := ""
		if r.Tool != nil {
			tool = r.Tool.Key
			tools[tool] = true
		}
		if tool != last && tool != "" && last == "" {
			toolBlocks++
		}
		last = tool
	}
	if want, ok := spans[q.Minutes]; ok && (n < want[0] || n > want[1]) {
		say("%d strokes in the work", n)
	}
	eyes := false
	for _, c := range concerns {
		eyes = eyes || slices.ContainsFunc(c.Zones, func(z string) bool { return evaluation.EyeShare(z) != "" })
	}
	if zones > 0 && on < 0.4*all && (!eyes || on < evaluation.OrbitalRimSeconds*0.7) {
		say("%.0f %% on the concerns", 100*on/all)
	}
	if grips > 1 || grips > 0 && slices.ContainsFunc([]string{"puffiness", "dark-circles", "eye-lines", "small-eyes", "unequal-eyes", "screen-tired-eyes", "event-tomorrow"}, func(k string) bool { return slices.Contains(q.Concerns, k) }) {
		say("%d gripping blocks", grips)
	}
	if toolBlocks > 1 {
		say("%d tool blocks", toolBlocks)
	}
	if len(tools) > 2 || len(tools) > 1 && q.Minutes <= 30 {
		say("%d tools", len(tools))
	}
	lifted := 0
	for k := 1; k < len(e.Occurrences); k++ {
		o := &e.Occurrences[k]
		r, before := &e.Steps[o.Step], &e.Steps[e.Occurrences[k-1].Step]
		exempt := func(ph protocol.Phase) bool { return ph == "cleanse" || ph == "finish" }
		if o.HandsLifted && len(before.Path) > 0 && !exempt(r.Phase) && !exempt(before.Phase) {
			lifted++
		}
	}
	if lifted > 6 {
		say("hands lifted %d times", lifted)
	}
	for _, ph := range []protocol.Phase{"settle", "look-over", "cleanse", "finish", "wake"} {
		if !phases[ph] {
			say("no %s", ph)
		}
	}
	hasMask := slices.ContainsFunc(q.Products, func(k string) bool {
		return ctx.Products[k] != nil && ctx.Products[k].Form == slip.Mask && !slices.ContainsFunc(ctx.Products[k].Unsuited, inner.HasSkin)
	})
	if q.Minutes >= 30 && hasMask && !masked {
		say("no mask")
	}
	return out
}

// Every concern and skin, 15 to 60 minutes, with the whole shelf of the demo: what a teacher would mark
// is nowhere (review of the composer, section 5). The eyes take no more than four minutes of sliding;
// there a draft may stay below two fifths.
func TestWhatATeacherWouldMark(t *testing.T) {
	_, ctx := crafttest.Demo(t)
	tools, products := shelfOf(ctx)
	for _, c := range protocol.Concerns {
		t.Run(c.Key, func(t *testing.T) {
			t.Parallel()
			for si, state := range skinStates {
				for _, minutes := range []int{15, 30, 45, 60} {
					q := drafting.Question{SkinType: skinTypes[si%len(skinTypes)], Concerns: []string{c.Key}, Minutes: minutes, Tools: tools, Products: products}
					if state != "" {
						q.SkinStates = []string{state}
					}
					p, err := drafting.Draft(q, ctx)
					if assert.NoError(t, err, "%s %s %d min", c.Key, state, minutes) {
						assert.Empty(t, faults(q, p, ctx), "%s %s %s %d min", c.Key, q.SkinType, state, minutes)
					}
				}
			}
		})
	}
}

// The same of other shelves: without tools, with one product that slides and nothing else, without the
// mask, with exercises asked for, and for two and three concerns. A fixed sample.
func TestWhatATeacherWouldMarkOnOtherShelves(t *testing.T) {
	_, ctx := crafttest.Demo(t)
	tools, products := shelfOf(ctx)
	r := rand.New(rand.NewPCG(7, 7))
	made := 0
	for n := range 120 {
		q := drafting.Question{SkinType: skinTypes[r.IntN(len(skinTypes))], Minutes: []int{20, 30, 45, 60}[r.IntN(4)], Tools: tools, Products: products}
		if st := skinStates[r.IntN(len(skinStates))]; st != "" {
			q.SkinStates = []string{st}
		}
		for range 1 + r.IntN(3) {
			q.Concerns = append(q.Concerns, protocol.Concerns[r.IntN(len(protocol.Concerns))].Key)
		}
		switch n % 4 {
		case 0:
			q.Tools = []string{}
		case 1:
			q.Products = []string{"dew-serum"}
		case 2:
			q.Exercises = true
		}
		p, err := drafting.Draft(q, ctx)
		if err != nil {
			continue
		}
		made++
		assert.Empty(t, faults(q, p, ctx), "%v %s %v %d min, shelf %d", q.Concerns, q.SkinType, q.SkinStates, q.Minutes, n%4)
	}
	assert.GreaterOrEqual(t, made, 108, "nine in ten can be drafted")
}
