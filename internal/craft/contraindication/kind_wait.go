package contraindication

import "softpalm/words"

// wait lets days pass after the day that the client gives.
type wait struct{ keepsAway }

func (wait) headline() Headline { return NotBefore }

func (wait) faults(o *Outcome, r *Rule, bad func(at string, s words.Sentence)) {
	if o.Days < 1 {
		bad("/days", words.AWaitingPeriodNeedsItsDays())
	}
	if r.AnswerType == DueDate {
		bad("/kind", words.DueDateInFutureSoNothingCan())
	}
}
