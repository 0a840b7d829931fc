package remedy

import (
	"softpalm/internal/craft/evaluation"
	"softpalm/words"
)

// shorterCold scales the doses of the cold steps so that they stay in the limit.
func (x *fixer) shorterCold() error {
	total := 0.0
	for i := range x.e.Steps {
		if r := &x.e.Steps[i]; r.Tool != nil && x.ctx.Tools[r.Tool.Key].Cold() {
			total += float64(r.Seconds * x.q.TimesOf(x.q.Steps[i].Round))
		}
	}
	for i := range x.e.Steps {
		r := &x.e.Steps[i]
		if r.Tool == nil || !x.ctx.Tools[r.Tool.Key].Cold() {
			continue
		}
		planned := int(float64(r.Dose.Planned) * (evaluation.ColdSeconds - evaluation.SideChangeSecond*10) / total)
		if planned < 1 {
			return words.ColdStepsCannotMadeShortEnoughTake()
		}
		d := r.Dose.With(planned)
		d.Min = min(d.Min, planned)
		x.q.Steps[i].Dose = &d
	}
	return nil
}

// lessLoad lowers the doses of the strokes that slide there, the longest first,
// to what their range allows, until the zone is within its limit.
func (x *fixer) lessLoad() error {
	zone, _ := x.f.Values.Place()
	limit := evaluation.EyeLimit(zone)
	q := x.q.Clone()
	for range 200 {
		e := evaluation.Evaluate(q, x.ctx)
		if max(e.EyeSliding(zone, "left"), e.EyeSliding(zone, "right")) <= limit+0.5 {
			*x.q = *q
			return nil
		}
		longest := -1
		for i := range e.Steps {
			r := &e.Steps[i]
			if r.OnEye(zone) && r.SlidingShare() > 0 && r.Dose.Planned > r.Least &&
				(longest < 0 || r.Seconds > e.Steps[longest].Seconds) {
				longest = i
			}
		}
		if longest < 0 {
			return words.StrokesThereAlreadyAsShortAsThey()
		}
		d := e.Steps[longest].Dose.With(max(e.Steps[longest].Dose.Planned-e.Steps[longest].Grain, e.Steps[longest].Least))
		q.Steps[longest].Dose = &d
	}
	return words.StrokesThereCannotMadeShortEnoughTake()
}
