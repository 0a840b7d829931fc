package guide

// Standing is where the guide stands by a log: its state, how far into the present spell, and the highest counter.
type Standing struct {
	State
	// Into is how many seconds of the present spell were counted up to Since, or up to where it stands still; its lead
	// is part of them.
	Into float64 `json:"into"`
	// Since is when it began to run, in milliseconds; absent while it stands still.
	Since *float64 `json:"since,omitempty"`
	// N is the highest counter seen: the next event's is one more.
	N int `json:"n"`
	// Seq is the highest number without a gap of each device: what need not be sent again.
	Seq map[string]int `json:"seq"`
	// Quiet says that the client sleeps.
	Quiet bool `json:"quiet"`
	// Spent are the seconds of each spell that was left, its lead included.
	Spent map[string]float64 `json:"spent"`
}

// Standing works out where the guide stands.
func (l *Log) Standing() Standing {
	m, events := l.read()
	out := Standing{State: m.State, Into: m.into, Quiet: m.quiet, Seq: map[string]int{}, Spent: map[string]float64{}}
	for spell, seconds := range m.Real {
		if m.Spell == nil || *m.Spell != spell {
			out.Spent[spell] = seconds
		}
	}
	if m.Running && m.Spell != nil {
		since := m.since
		out.Since = &since
	}
	for i := range events {
		out.N = max(out.N, events[i].N)
		out.Seq[events[i].Device] = 0
	}
	for device := range out.Seq {
		out.Seq[device] = upTo(events, device)
	}
	return out
}

// upTo is the highest number of a device without a gap.
func upTo(events []Event, device string) int {
	have := map[int]bool{}
	for i := range events {
		if events[i].Device == device {
			have[events[i].Seq] = true
		}
	}
	n := 0
	for have[n+1] {
		n++
	}
	return n
}
