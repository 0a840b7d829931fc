package evaluation

import (
	"math"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// BeforeBed is how many minutes lie between the treatment and bedtime.
type BeforeBed struct {
	plain
	Minutes float64 `json:"minutes"`
}

// Again is what was done too often: exfoliation, roller or deep work, how many times
// within how many days.
type Again struct {
	plain
	What  string `json:"what"`
	Times int    `json:"times"`
	Days  int    `json:"days"`
}

// Work that the skin does not want too often; see [Context.DaysSince].
const (
	Exfoliation = "exfoliation"
	RollerWork  = "roller"
	DeepWork    = "deep"
)

// SkinIntensiveSteps says which kinds of work that the skin does not want too often a
// plan has, each with the last step that does it.
func (e *Evaluation) SkinIntensiveSteps(ctx *protocol.Context) map[string]string {
	found := map[string]string{}
	for i := range e.Steps {
		r := &e.Steps[i]
		if r.Intent != stroke.Drain && r.hardest() >= 5 {
			found[DeepWork] = r.ID
		}
		if r.Tool != nil && ctx.Tools[r.Tool.Key].Roller() {
			found[RollerWork] = r.ID
		}
		prod := ctx.ProductOf(r.Source.Use)
		if r.kind(ctx) == "mitt" || prod != nil && prod.HasTag("exfoliant", "acid") {
			found[Exfoliation] = r.ID
		}
	}
	return found
}

// habits judges what depends on the days and hours around the visit.
func (e *Evaluation) habits(ctx *protocol.Context) {
	if ctx.ToBed > 0 && ctx.ToBed < 120 {
		for i := len(e.Steps) - 1; i >= 0; i-- {
			if e.Steps[i].Intent == stroke.Drain {
				e.add(LateDrain, Note, CommonPractice, &BeforeBed{Minutes: math.Round(ctx.ToBed)}, nil, e.Steps[i].ID)
				break
			}
		}
	}
	if len(ctx.DaysSince) == 0 {
		return
	}
	found := e.SkinIntensiveSteps(ctx)
	for _, kind := range []struct {
		what string
		most int // times in seven days before this one
	}{{Exfoliation, 0}, {RollerWork, 2}, {DeepWork, 2}} {
		n := 0
		for _, ago := range ctx.DaysSince[kind.what] {
			if ago < 7 {
				n++
			}
		}
		if found[kind.what] != "" && n > kind.most {
			e.add(
				TooOften,
				Warning,
				CommonPractice,
				&Again{What: kind.what, Times: n, Days: 7},
				[]Fix{LeaveStep},
				found[kind.what],
			)
		}
	}
}
