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

// marking is a draft being marked by a teacher (review of the composer, section 5).
type marking struct {
	q      drafting.Question
	p      *protocol.Protocol
	ctx    *protocol.Context // with the skin that was asked for
	e      *evaluation.Evaluation
	faults []string
}

func (m *marking) say(format string, a ...any) {
	m.faults = append(m.faults, fmt.Sprintf(format, a...))
}

// faults lists what a teacher would mark in a draft.
func faults(q drafting.Question, p *protocol.Protocol, ctx *protocol.Context) []string {
	inner := *ctx
	inner.SkinType, inner.SkinStates = q.SkinType, q.SkinStates
	m := &marking{q: q, p: p, ctx: &inner, e: evaluation.Evaluate(p, &inner)}
	for _, f := range m.e.Findings {
		if f.Severity != evaluation.Note {
			m.say("%s", f.ID)
		}
	}
	m.numbers()
	m.blocks()
	m.exercises()
	m.frame()
	m.lifts()
	return m.faults
}

// numbers: how many strokes, how much of the work on the concerns, no stroke twice without a reason, each
// with its why.
func (m *marking) numbers() {
	n, all, on := 0, 0.0, 0.0
	seen := map[string]bool{}
	for i := range m.e.Steps {
		r, s := &m.e.Steps[i], &m.p.Steps[i]
		if s.Why == "" {
			m.say("%s does not say why", s.Stroke)
		}
		if r.Phase != "work" {
			continue
		}
		n++
		all += float64(r.Seconds)
		if serving(m.q, r) {
			on += float64(r.Seconds)
		}
		if seen[s.Stroke] && s.Use == nil && r.Family != stroke.Hygiene && !strings.Contains(s.Why, "second round") {
			m.say("%s twice", s.Stroke)
		}
		seen[s.Stroke] = true
	}
	if want, ok := spans[m.q.Minutes]; ok && (n < want[0] || n > want[1]) {
		m.say("%d strokes in the work", n)
	}
	zones, eyes := 0, false
	for _, k := range m.q.Concerns {
		for _, z := range protocol.ConcernOf(k).Zones {
			zones++
			eyes = eyes || evaluation.EyeShare(z) != ""
		}
	}
	if zones > 0 && on < 0.4*all && (!eyes || on < evaluation.OrbitalRimSeconds*0.7) {
		m.say("%.0f %% on the concerns", 100*on/all)
	}
}

// ungripped are the concerns for which skin is never gripped dry.
var ungripped = []string{"puffiness", "dark-circles", "eye-lines", "small-eyes", "unequal-eyes", "screen-tired-eyes", "event-tomorrow"}

// blocks: one gripping block at most, and none where it does harm; tools in one block, and few.
func (m *marking) blocks() {
	grips, toolBlocks, tools := 0, 0, map[string]bool{}
	gripped, last := false, ""
	for i := range m.e.Steps {
		r := &m.e.Steps[i]
		if r.Phase != "work" {
			continue
		}
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
		if tool != "" && last == "" {
			toolBlocks++
		}
		last = tool
	}
	harm := slices.ContainsFunc(m.q.Concerns, func(k string) bool { return slices.Contains(ungripped, k) }) ||
		m.ctx.HasSkin("sensitive") || m.ctx.HasSkin("acne-prone")
	if grips > 1 || grips > 0 && harm {
		m.say("%d gripping blocks", grips)
	}
	if toolBlocks > 1 {
		m.say("%d tool blocks", toolBlocks)
	}
	if len(tools) > 2 || len(tools) > 1 && m.q.Minutes <= 30 {
		m.say("%d tools", len(tools))
	}
}

// exercises only when asked for, and never more than two in a row.
func (m *marking) exercises() {
	row := 0
	for i := range m.e.Steps {
		if m.e.Steps[i].Phase != "exercises" {
			row = 0
			continue
		}
		if row++; !m.q.Exercises || row > 2 {
			m.say("exercise %s", m.p.Steps[i].Stroke)
		}
	}
}

// frame: always cleansed, taken off and finished; a mask from half an hour on where one suits.
func (m *marking) frame() {
	phases, strokes := map[protocol.Phase]bool{}, map[string]bool{}
	for i := range m.e.Steps {
		phases[m.e.Steps[i].Phase], strokes[m.e.Steps[i].StrokeKey] = true, true
	}
	for _, ph := range []protocol.Phase{"settle", "look-over", "cleanse", "finish", "wake"} {
		if !phases[ph] {
			m.say("no %s", ph)
		}
	}
	mask := slices.ContainsFunc(m.q.Products, func(k string) bool {
		p := m.ctx.Products[k]
		return p != nil && p.Form == slip.Mask && !slices.ContainsFunc(p.Unsuited, m.ctx.HasSkin)
	})
	if m.q.Minutes >= 30 && mask && !strokes["mask-on"] {
		m.say("no mask")
	}
}

// lifts: hands leave the face at most six times besides cleanse, wipe, mask and finish.
func (m *marking) lifts() {
	lifted := 0
	for k := 1; k < len(m.e.Occurrences); k++ {
		o := &m.e.Occurrences[k]
		r, before := &m.e.Steps[o.Step], &m.e.Steps[m.e.Occurrences[k-1].Step]
		exempt := func(ph protocol.Phase) bool { return ph == "cleanse" || ph == "finish" }
		if o.HandsLifted && len(before.Path) > 0 && !exempt(r.Phase) && !exempt(before.Phase) {
			lifted++
		}
	}
	if lifted > 6 {
		m.say("hands lifted %d times", lifted)
	}
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

// The same with an oil whose usual range is hardly wider than one full amount: the second portion is smaller, and
// the strokes are not fewer for it.
func TestWhatATeacherWouldMarkOfANarrowRange(t *testing.T) {
	_, ctx := crafttest.Demo(t)
	tools, products := shelfOf(ctx)
	products = slices.DeleteFunc(products, func(k string) bool { return k != "kernel-base" && ctx.Products[k].Form == slip.Oil })
	for i, c := range protocol.Concerns {
		for _, minutes := range []int{30, 60} {
			q := drafting.Question{SkinType: skinTypes[i%len(skinTypes)], Concerns: []string{c.Key}, Minutes: minutes, Tools: tools, Products: products}
			if state := skinStates[i%len(skinStates)]; state != "" {
				q.SkinStates = []string{state}
			}
			p, err := drafting.Draft(q, ctx)
			if assert.NoError(t, err, "%s %d min", c.Key, minutes) {
				assert.Empty(t, faults(q, p, ctx), "%s %s %v %d min", c.Key, q.SkinType, q.SkinStates, minutes)
			}
		}
	}
}
