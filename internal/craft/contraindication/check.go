package contraindication

import (
	"fmt"
	"slices"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/problem"
)

// Check reports what the answers to the rules of the stages lack: a rule without
// an answer, a yes without its day or place. Nothing may be judged before it is
// empty.
func (p *Pack) Check(answers map[string]Answer, today calendar.Day, stages ...Stage) []problem.Fault {
	var ps []problem.Fault
	for _, r := range p.Rules {
		at := "/answers/" + r.ID
		a, ok := answers[r.ID]
		switch {
		case r.AnswerType == Nothing || !slices.ContainsFunc(stages, r.Stage.at):
			continue
		case !ok:
			ps = append(ps, problem.Fault{Path: at, Message: "This question has no answer yet."})
			continue
		case a.Unsure:
			ps = append(ps, problem.Fault{Path: at, Message: "The client was not sure. Go through it together, then choose yes or no."})
			continue
		case r.AnswerType == Graded:
			for spot, g := range a.Grades {
				if !slices.Contains(r.Spots, spot) || g < 0 || g > MostGrade {
					ps = append(ps, problem.Fault{Path: at + "/grades/" + spot, Message: "Choose a grade from 0 (not at all) to 4 (very)."})
				}
			}
			continue
		case r.AnswerType == Choice:
			if a.Option != "" && !slices.Contains(r.Options, a.Option) {
				ps = append(ps, problem.Fault{Path: at + "/option", Message: "Choose one of the options."})
			}
			continue
		case !a.Yes:
			continue
		}
		if (r.AnswerType == Date || r.AnswerType == DateAndZones) && !(a.Ongoing && r.AllowOngoing) {
			switch {
			case !a.Day.Valid():
				ps = append(ps, problem.Fault{Path: at + "/day", Message: "Enter the date, or the last day of it."})
			case a.Day > today:
				ps = append(ps, problem.Fault{Path: at + "/day", Message: "This date is in the future. Enter today or an earlier date."})
			}
		}
		if r.AnswerType == DueDate && (!a.Day.Valid() || a.Day.Since(today) > pregnancyDays || a.Day.Since(today) < -overdueDays) {
			ps = append(ps, problem.Fault{Path: at + "/day", Message: "Enter the baby's due date, at most 40 weeks from now."})
		}
		if r.AnswerType == Zones || r.AnswerType == DateAndZones {
			if len(a.Zones) == 0 {
				ps = append(ps, problem.Fault{Path: at + "/zones", Message: "Mark where."})
			}
			for i, z := range a.Zones {
				ps = append(ps, stroke.ValidatePath([]string{z.Zone}, fmt.Sprintf("%s/zones/%d", at, i))...)
			}
		}
	}
	return ps
}
