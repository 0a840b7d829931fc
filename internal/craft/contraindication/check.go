package contraindication

import (
	"fmt"
	"slices"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/problem"
	"softpalm/words"
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
			ps = append(ps, problem.Fault{Path: at, Sentence: words.ThisQuestionHasNoAnswerYet()})
			continue
		case a.Unsure:
			ps = append(ps, problem.Fault{Path: at, Sentence: words.ClientWasNotSureGoThroughTogether()})
			continue
		case r.AnswerType == Graded:
			for spot, g := range a.Grades {
				if !slices.Contains(r.Spots, spot) || g < 0 || g > MostGrade {
					ps = append(ps, problem.Fault{Path: at + "/grades/" + spot, Sentence: words.ChooseGradeFrom0NotAtAll()})
				}
			}
			continue
		case r.AnswerType == Choice:
			if a.Option != "" && !slices.Contains(r.Options, a.Option) {
				ps = append(ps, problem.Fault{Path: at + "/option", Sentence: words.ChooseOneOfTheOptions()})
			}
			continue
		case !a.Yes:
			continue
		}
		if (r.AnswerType == Date || r.AnswerType == DateAndZones) && !(a.Ongoing && r.AllowOngoing) {
			switch {
			case !a.Day.Valid():
				ps = append(ps, problem.Fault{Path: at + "/day", Sentence: words.EnterDateOrLastDay()})
			case a.Day > today:
				ps = append(ps, problem.Fault{Path: at + "/day", Sentence: words.ThisDateInFutureEnterTodayOr()})
			}
		}
		if r.AnswerType == DueDate &&
			(!a.Day.Valid() || a.Day.Since(today) > pregnancyDays || a.Day.Since(today) < -overdueDays) {
			ps = append(ps, problem.Fault{Path: at + "/day", Sentence: words.EnterBabysDueDateAtMost40()})
		}
		if r.AnswerType == Zones || r.AnswerType == DateAndZones {
			if len(a.Zones) == 0 {
				ps = append(ps, problem.Fault{Path: at + "/zones", Sentence: words.MarkWhere()})
			}
			for i, z := range a.Zones {
				ps = append(ps, validateZones([]string{z.Zone}, fmt.Sprintf("%s/zones/%d", at, i))...)
			}
		}
	}
	return ps
}
