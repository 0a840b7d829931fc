package guide

import "softpalm/internal/craft/pace"

// Story is how a treatment really went, in seconds of hands-on time: pauses do not count.
type Story struct {
	// Begun is when each spell was begun first, its lead still to come; Ended when it was left last; Marked when each
	// mark was made.
	Begun, Ended, Marked map[string]float64
	Total                float64
	// Paused seconds, in so many pauses; stops count as pauses.
	Paused float64
	Pauses int

	// Stops are when Stop was pressed, and where the hands were.
	Stops []storyStop

	still   float64 // since when it stands still
	begun   map[string]int
	endedBy map[string]string
}

// storyStop is a press of Stop: at a second of hands-on time, so far into a spell, its lead included.
type storyStop struct {
	At, Into float64
	Spell    string
}

func newStory() Story {
	return Story{
		Begun: map[string]float64{}, Ended: map[string]float64{}, Marked: map[string]float64{},
		begun: map[string]int{}, endedBy: map[string]string{},
	}
}

// spent is hands-on time at a moment.
func (m *merging) spent(at float64) float64 {
	if !m.Running || m.Spell == nil {
		return m.story.Total
	}
	return m.story.Total + max(0, at-m.since)/1000
}

// PlannedSpell is a spell as the plan has it: its step and stroke, the kind of its dose, working seconds at pace 1.00,
// and the lead before it.
type PlannedSpell struct {
	Key, Step, Stroke, Dose string
	Working, Lead           float64
}

// SpellTime is a spell as it went beside its plan.
type SpellTime struct {
	Key string
	pace.Spell
}

// Story tells how the treatment went, spell by spell in the order of the plan; spells never begun are left out.
func (l *Log) Story(plan []PlannedSpell) (Story, []SpellTime) {
	leads := map[string]float64{}
	for _, s := range plan {
		leads[s.Key] = s.Lead
	}
	whole := Log{Arrived: l.Arrived, Leads: leads}
	m, events := whole.read()
	m.end(events)
	out := []SpellTime{}
	for _, s := range plan {
		seconds, begun := m.Real[s.Key]
		if !begun {
			continue
		}
		t := SpellTime{Key: s.Key, Spell: pace.Spell{
			Stroke: s.Stroke, Planned: s.Working, Real: max(0, seconds-s.Lead), EndedBy: m.story.endedBy[s.Key], Dose: s.Dose,
			Stayed: m.Stays[s.Key] > 0, Repeated: m.story.begun[s.Key] > 1,
		}}
		for _, id := range m.Skipped {
			t.Skipped = t.Skipped || id == s.Step
		}
		for _, key := range m.PausedSpells {
			t.Paused = t.Paused || key == s.Key
		}
		for _, key := range m.Estimated {
			t.Estimated = t.Estimated || key == s.Key
		}
		out = append(out, t)
	}
	return m.story, out
}
