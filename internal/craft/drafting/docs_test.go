package drafting_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/drafting"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
)

// The six drafts that the review of the composer judged, as they come today, stand in docs for a teacher
// to mark. UPDATE=1 writes them again.
func TestTheDraftsInTheDocs(t *testing.T) {
	const name = "../../../docs/craft/drafts.md"
	_, ctx := crafttest.Demo(t)
	tools, products := shelfOf(ctx)
	var b strings.Builder
	b.WriteString(`# Six drafts to mark

What the composer makes of six questions, with the whole shelf and all tools of the demo at hand. Each step says how long it takes and why it is there. The page is written by a test (` + "`UPDATE=1 go test ./internal/craft/drafting -run Docs`" + `), so it is what the program answers today.
`)
	for _, q := range []drafting.Question{
		{Concerns: []string{"puffiness"}, Minutes: 30, SkinType: "normal"},
		{Concerns: []string{"clenching"}, Minutes: 45, SkinType: "normal"},
		{Concerns: []string{"dull-skin", "drooping"}, Minutes: 60, SkinType: "dry", SkinStates: []string{"mature"}},
		{Concerns: []string{"dull-skin"}, Minutes: 30, SkinType: "oily", SkinStates: []string{"acne-prone"}},
		{Concerns: []string{"event-tomorrow"}, Minutes: 20, SkinType: "normal"},
		{Concerns: []string{"screen-tired-eyes", "dark-circles"}, Minutes: 15, SkinType: "normal"},
	} {
		q.Tools, q.Products = tools, products
		p, err := drafting.Draft(q, ctx)
		require.NoError(t, err)
		assert.Empty(t, faults(q, p, ctx))
		inner := *ctx
		inner.SkinType, inner.SkinStates = q.SkinType, q.SkinStates
		write(&b, q, p, &inner)
	}
	if os.Getenv("UPDATE") != "" {
		require.NoError(t, os.WriteFile(name, []byte(b.String()), 0o600))
	}
	page, err := os.ReadFile(name)
	require.NoError(t, err)
	assert.Equal(t, string(page), b.String(), "the drafts have changed: UPDATE=1 writes them again")
}

func write(b *strings.Builder, q drafting.Question, p *protocol.Protocol, ctx *protocol.Context) {
	e := evaluation.Evaluate(p, ctx)
	n, on, all := 0, 0.0, 0.0
	for i := range e.Steps {
		if r := &e.Steps[i]; r.Phase == "work" {
			n++
			all += float64(r.Seconds)
			if serving(q, r) {
				on += float64(r.Seconds)
			}
		}
	}
	skin := strings.TrimSpace(q.SkinType + " " + strings.Join(q.SkinStates, ", "))
	fmt.Fprintf(b, "\n## %s, %d min, %s skin\n\n%d steps in the work, %.0f %% of their seconds on the concern.\n\n| at | step | takes | why |\n|---|---|---|---|\n", p.Name, q.Minutes, skin, n, 100*on/all)
	phase := protocol.Phase("")
	for i := range e.Steps {
		r, s := &e.Steps[i], &p.Steps[i]
		if r.Phase != phase {
			phase = r.Phase
			fmt.Fprintf(b, "| | **%s** | | |\n", phase)
		}
		step := r.Name
		if len(r.Path) > 0 {
			step += fmt.Sprintf(", pressure %d", r.Pressure)
		}
		if s.Use != nil {
			step += fmt.Sprintf(" (%s, %g %s)", ctx.Products[s.Use.Product].Name, s.Use.Amount.Value, spoken(s.Use.Amount.Measure))
		}
		fmt.Fprintf(b, "| %d:%02d | %s | %d:%02d | %s |\n", int(r.Start)/60, int(r.Start)%60, step, r.Seconds/60, r.Seconds%60, s.Why)
	}
}

// spoken is a measure as people say it.
func spoken(m slip.Measure) string {
	if m == slip.Pumps {
		return "pumps"
	}
	return string(m)
}

// serving reports whether a step works a concern's zones with its intents.
func serving(q drafting.Question, r *evaluation.Resolved) bool {
	for _, key := range q.Concerns {
		c := protocol.ConcernOf(key)
		for _, in := range c.Intents {
			for _, x := range r.Path {
				for _, z := range c.Zones {
					if in == r.Intent && x.Zone == z {
						return true
					}
				}
			}
		}
	}
	return false
}
