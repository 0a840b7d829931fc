package contraindication

// wait lets days pass after the day that the client gives.
type wait struct{ keepsAway }

func (wait) headline() Headline { return NotBefore }

func (wait) faults(o *Outcome, r *Rule, bad func(at, message string)) {
	if o.Days < 1 {
		bad("/days", "A waiting period needs its days.")
	}
	if r.AnswerType == DueDate {
		bad("/kind", "A due date is in the future, so nothing can be waited for after it.")
	}
}
