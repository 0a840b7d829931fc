// Package guide knows the room guide: the log of what happened in the room and the state that follows from it, how
// late a treatment is, what the room teaches of a product's slip, and how large letters have to be. It knows no
// clock: every moment is handed in.
package guide

import (
	"cmp"
	"slices"
	"strconv"
)

// Kind is a kind of event in the room.
type Kind string

// The kinds of events (handbook, chapter 7, Event log). Position kinds move the guide and come from the tablet that
// leads; the others may come from any tablet.
const (
	Start   Kind = "start"
	Begin   Kind = "begin"
	Pause   Kind = "pause"
	Resume  Kind = "resume"
	Skip    Kind = "skip"
	Stay    Kind = "stay"
	Refit   Kind = "refit"
	Stop    Kind = "stop"
	GoOn    Kind = "go-on"
	Finish  Kind = "finish"
	Lead    Kind = "lead"
	Less    Kind = "less"
	Tender  Kind = "tender"
	Redness Kind = "redness"
	Product Kind = "product"
	Note    Kind = "note"
	Tick    Kind = "tick"
	Grade   Kind = "grade"
	Quiet   Kind = "quiet"
	Cue     Kind = "cue"
	Clock   Kind = "clock"
	Undo    Kind = "undo"
)

var positions = []Kind{Start, Begin, Pause, Resume, Skip, Stay, Refit, Stop, GoOn, Finish}

var undoable = []Kind{Skip, Stay, Less, Tender, Redness, Product, Note}

// Known reports whether there is such a kind.
func (k Kind) Known() bool {
	return slices.Contains(positions, k) ||
		slices.Contains([]Kind{Lead, Less, Tender, Redness, Product, Note, Tick, Grade, Quiet, Cue, Clock, Undo}, k)
}

// Moves reports whether the kind moves the guide: only the tablet that leads may send it.
func (k Kind) Moves() bool { return slices.Contains(positions, k) }

// Event is one thing that happened in the room. ID is the key by which a repetition is known; Seq counts from 1 for a
// device and treatment; N is the logical counter that orders events; At is in milliseconds and gives lengths, never
// order. What else it says depends on its kind.
type Event struct {
	ID      string  `json:"id"`
	Device  string  `json:"device"`
	Seq     int     `json:"seq"`
	N       int     `json:"n"`
	At      float64 `json:"at"`
	By      string  `json:"by,omitempty"`
	Kind    Kind    `json:"kind"`
	Spell   string  `json:"spell,omitempty"`
	Step    string  `json:"step,omitempty"`
	Add     int     `json:"add,omitempty"`
	From    string  `json:"from,omitempty"`
	Minutes int     `json:"minutes,omitempty"`
	Zone    string  `json:"zone,omitempty"`
	Side    string  `json:"side,omitempty"`
	Product string  `json:"product,omitempty"`
	Item    string  `json:"item,omitempty"`
	On      bool    `json:"on,omitempty"`
	Measure string  `json:"measure,omitempty"`
	Reading int     `json:"reading,omitempty"`
	Value   float64 `json:"value,omitempty"`
	Text    string  `json:"text,omitempty"`
	Of      string  `json:"of,omitempty"`
}

// Log is what arrived, in any order and any number of times, with the planned lead of each spell in seconds.
type Log struct {
	Arrived []Event            `json:"arrived"`
	Leads   map[string]float64 `json:"leads,omitempty"`
}

// RoomMark is something marked in the room: a tender spot, redness, a product added.
type RoomMark struct {
	Kind    Kind   `json:"kind"`
	ID      string `json:"id"`
	Zone    string `json:"zone"`
	Side    string `json:"side"`
	Product string `json:"product,omitempty"`
}

// TakenRefit is the re-fit that was taken: from which spell, and by how many minutes.
type TakenRefit struct {
	From    string `json:"from"`
	Minutes int    `json:"minutes"`
}

// State is what a log comes to.
type State struct {
	Leader   string  `json:"leader"`
	Spell    *string `json:"spell"`
	Running  bool    `json:"running"`
	Finished bool    `json:"finished"`
	// Stopped says that Stop was pressed at some time.
	Stopped bool           `json:"stopped"`
	Skipped []string       `json:"skipped"`
	Stays   map[string]int `json:"stays"`
	Less    int            `json:"less"`
	Refit   *TakenRefit    `json:"refit"`
	Marks   []RoomMark     `json:"marks"`
	// Ticks by item, Grades by measure/side/reading: the last in the order counts.
	Ticks  map[string]bool    `json:"ticks"`
	Grades map[string]float64 `json:"grades"`
	// Real seconds of each spell without its planned lead; Estimated are those whose end was not logged.
	Real         map[string]float64 `json:"real"`
	Estimated    []string           `json:"estimated"`
	PausedSpells []string           `json:"pausedSpells"`
	// Aside are events that count for nothing, kept by id: of a tablet that did not lead, or after the end.
	Aside      []string `json:"aside"`
	Duplicates int      `json:"duplicates"`
	// Missing are the numbers of each device that have not arrived; Faults are second events of one number.
	Missing map[string][]int `json:"missing"`
	Faults  []string         `json:"faults"`
	Counted int              `json:"counted"`
}

// InOrder drops repetitions and second events of one number, and puts the rest in their order.
func InOrder(arrived []Event) (kept []Event, duplicates int, faults []string) {
	type number struct {
		device string
		seq    int
	}
	seen, at := map[string]bool{}, map[number]int{}
	faults = []string{}
	for _, e := range arrived {
		if seen[e.ID] {
			duplicates++
			continue
		}
		seen[e.ID] = true
		k := number{e.Device, e.Seq}
		i, taken := at[k]
		switch {
		case !taken:
			at[k] = len(kept)
			kept = append(kept, e)
		case e.ID < kept[i].ID:
			faults = append(faults, kept[i].ID)
			kept[i] = e
		default:
			faults = append(faults, e.ID)
		}
	}
	slices.SortFunc(kept, func(a, b Event) int {
		return cmp.Or(cmp.Compare(a.N, b.N), cmp.Compare(a.Device, b.Device), cmp.Compare(a.Seq, b.Seq))
	})
	slices.Sort(faults)
	return kept, duplicates, faults
}

// Merge works out the state of a log. Any order of arrival and any repetition gives the same one.
func (l *Log) Merge() State {
	m, events := l.read()
	m.end(events)
	for spell, seconds := range m.Real {
		m.Real[spell] = max(0, seconds-l.Leads[spell])
	}
	return m.State
}

// read goes through the events in their order.
func (l *Log) read() (*merging, []Event) {
	events, duplicates, faults := InOrder(l.Arrived)
	m := &merging{story: newStory(), State: State{
		Skipped: []string{}, Stays: map[string]int{}, Marks: []RoomMark{}, Ticks: map[string]bool{}, Grades: map[string]float64{},
		Real: map[string]float64{}, Estimated: []string{}, PausedSpells: []string{}, Aside: []string{},
		Duplicates: duplicates, Missing: missing(events), Faults: faults, Counted: len(events),
	}, undone: undone(events)}
	for i := range events {
		m.take(&events[i])
	}
	slices.Sort(m.Aside)
	return m, events
}

// missing are the numbers that have not arrived, up to the highest of each device.
func missing(events []Event) map[string][]int {
	have := map[string][]int{}
	for i := range events {
		have[events[i].Device] = append(have[events[i].Device], events[i].Seq)
	}
	out := map[string][]int{}
	for device, numbers := range have {
		for n := 1; n < slices.Max(numbers); n++ {
			if !slices.Contains(numbers, n) {
				out[device] = append(out[device], n)
			}
		}
	}
	return out
}

// undone are the events that an undo takes out, wherever both stand in the order.
func undone(events []Event) map[string]bool {
	out := map[string]bool{}
	for i := range events {
		if u := &events[i]; u.Kind == Undo {
			out[u.Of] = slices.ContainsFunc(events, func(e Event) bool { return e.ID == u.Of && slices.Contains(undoable, e.Kind) })
		}
	}
	return out
}

// merging is a log being read.
type merging struct {
	State
	undone map[string]bool
	since  float64 // when the present interval began, while running
	into   float64 // seconds of the present spell that were counted before
	quiet  bool
	story  Story
}

func (m *merging) take(e *Event) {
	if e.Kind.Moves() {
		if m.Leader == "" && e.Kind == Start {
			m.Leader = e.Device
		}
		if m.Finished || e.Device != m.Leader {
			m.Aside = append(m.Aside, e.ID)
			return
		}
	}
	if m.undone[e.ID] {
		return
	}
	switch e.Kind {
	case Lead:
		m.Leader = e.Device
	case Start:
		if m.Spell == nil {
			m.Running = true
		}
	case Begin, Pause, Resume, Stop, GoOn, Finish:
		m.move(e)
	case Skip:
		if !slices.Contains(m.Skipped, e.Step) {
			m.Skipped = append(m.Skipped, e.Step)
		}
	case Stay:
		m.Stays[e.Spell] += e.Add
	case Refit:
		m.Refit = &TakenRefit{e.From, e.Minutes}
	case Less:
		m.Less++
	case Tender, Redness, Product:
		m.story.Marked[e.ID] = m.spent(e.At)
		m.Marks = append(m.Marks, RoomMark{e.Kind, e.ID, e.Zone, e.Side, e.Product})
	case Quiet:
		m.quiet = e.On
	case Tick:
		m.Ticks[e.Item] = e.On
	case Grade:
		m.Grades[e.Measure+"/"+e.Side+"/"+strconv.Itoa(e.Reading)] = e.Value
	}
}

// move begins and ends intervals.
func (m *merging) move(e *Event) {
	m.close(e.At, e.Kind != Resume && e.Kind != GoOn)
	if (e.Kind == Begin || e.Kind == Finish) && m.Spell != nil {
		m.story.endedBy[*m.Spell] = e.By
		m.story.Ended[*m.Spell] = m.story.Total
	}
	if (e.Kind == Begin || e.Kind == Resume || e.Kind == GoOn) && !m.Running && m.story.still > 0 {
		m.story.Paused += max(0, e.At-m.story.still) / 1000
		m.story.still = 0
	}
	switch e.Kind {
	case Begin:
		m.story.begun[e.Spell]++
		if _, known := m.story.Begun[e.Spell]; !known {
			m.story.Begun[e.Spell] = m.story.Total
		}
		spell := e.Spell
		m.Spell, m.Running, m.since = &spell, true, e.At
		m.Real[spell] += 0 // it was begun, however short it was
		m.into = 0
	case Resume, GoOn:
		if !m.Running {
			m.Running, m.since = true, e.At
		}
	case Pause, Stop:
		if m.Running {
			m.story.still = e.At
			m.story.Pauses++
		}
		m.Running, m.Stopped = false, m.Stopped || e.Kind == Stop
		if e.Kind == Stop {
			stop := storyStop{At: m.story.Total, Into: m.into}
			if m.Spell != nil {
				stop.Spell = *m.Spell
			}
			m.story.Stops = append(m.story.Stops, stop)
		}
		if m.Spell != nil && !slices.Contains(m.PausedSpells, *m.Spell) {
			m.PausedSpells = append(m.PausedSpells, *m.Spell)
		}
	case Finish:
		m.Spell, m.Running, m.Finished = nil, false, true
	}
}

// close adds the present interval to its spell.
func (m *merging) close(at float64, ends bool) {
	if ends && m.Running && m.Spell != nil {
		seconds := max(0, at-m.since) / 1000
		m.Real[*m.Spell] += seconds
		m.into += seconds
		m.story.Total += seconds
	}
}

// end closes a spell that nothing ended: at the moment of the leader's last event, and is then estimated.
func (m *merging) end(events []Event) {
	if m.Finished || !m.Running || m.Spell == nil {
		return
	}
	for i := len(events) - 1; i >= 0; i-- {
		if events[i].Device == m.Leader {
			m.close(events[i].At, true)
			break
		}
	}
	m.Estimated = append(m.Estimated, *m.Spell)
}
