package fitting

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"
)

// RefitStep is a step of what is left of a treatment: its planned dose and range, seconds a dose unit at pace 1.00,
// seconds once, and the lead before it.
type RefitStep struct {
	ID      string  `json:"id"`
	Planned int     `json:"planned"`
	Min     int     `json:"min"`
	Max     int     `json:"max"`
	Grain   int     `json:"grain,omitempty"`
	Per     float64 `json:"per"`
	Once    float64 `json:"once,omitempty"`
	Lead    float64 `json:"lead"`
	// Weight is 1 where absent.
	Weight   *float64 `json:"weight,omitempty"`
	Optional bool     `json:"optional,omitempty"`
	Phase    string   `json:"phase,omitempty"`
	Intent   string   `json:"intent,omitempty"`
	// Product that the step puts on or takes off.
	Product string `json:"product,omitempty"`
	// Group shares one choice.
	Group string `json:"group,omitempty"`
	// Held is the dose that the first side really had.
	Held *int `json:"held,omitempty"`
	// Fixed is a stated time.
	Fixed bool `json:"fixed,omitempty"`
	// Loads a dose unit against caps.
	Loads map[string]float64 `json:"loads,omitempty"`
}

// Remainder is what is left of a treatment, to be brought to a slot in seconds.
type Remainder struct {
	Slot  float64            `json:"slot"`
	Steps []RefitStep        `json:"steps"`
	Caps  map[string]float64 `json:"caps,omitempty"`
	Pace  float64            `json:"pace,omitempty"`
}

// Refitted is the least change that brings a remainder to its slot. Doses of 0 are dropped steps. MissBy is the
// seconds above the slot, or, below zero, those under its window; Unique says that no other choice is as good.
type Refitted struct {
	Doses   map[string]int `json:"doses"`
	Dropped []string       `json:"dropped"`
	Seconds float64        `json:"seconds"`
	Penalty float64        `json:"penalty"`
	Changes int            `json:"changes"`
	MissBy  float64        `json:"missBy"`
	Unique  bool           `json:"unique"`
}

// A re-fit ends in the quarter of a minute before the slot's end (handbook, chapter 7, Late, early, over).
const refitWindow = 15

// dropWeight is what leaving out a step costs against one of its doses changed wholly.
const dropWeight = 3

// neverDropped are the phases whose steps stay.
var neverDropped = []string{"open", "close", "wake", "apply"}

// droppable reports whether the step may be left out.
func (s *RefitStep) droppable() bool {
	return s.Optional && !s.Fixed && s.Product == "" && s.Intent != "open" && !slices.Contains(neverDropped, s.Phase)
}

// way is one dose of a choice: what it takes, costs and loads.
type way struct {
	dose    int
	changed bool
	seconds int64 // of working; leads are the same whatever is chosen
	penalty int64 // millionths
	loads   []int64
}

// choice is one decision of a re-fit: of a step, or of the steps that share it.
type choice struct {
	steps []int
	ways  []way // in order of preference among equals: changed before unchanged, larger before smaller
}

// worth is how good a way to go on is: least penalty, then fewest changes; how many there are, two standing for more.
type worth struct {
	penalty int64
	changes int32
	count   int8
}

func (w worth) compare(o worth) int {
	return cmp.Or(cmp.Compare(w.penalty, o.penalty), cmp.Compare(w.changes, o.changes))
}

// Refit solves the remainder exactly, by a dynamic programme over choices, seconds reached and loads.
func (r *Remainder) Refit() (Refitted, error) {
	f, err := r.refitting()
	if err != nil {
		return Refitted{}, err
	}
	return f.to(0, r.Slot), nil
}

// refitting is a remainder made ready: for every choice on, what totals and loads can be reached and how well.
type refitting struct {
	steps   []RefitStep
	choices []choice
	radix   []int64 // of the loads in a key, above the seconds
	tables  []table // tables[i]: what choices from i on can come to
	leads   []int64 // of the choices from i on, in hundredths of a second
	caps    []int64
}

// table is how well each key can be reached: by seconds alone in a list, with loads in a map.
type table struct {
	list []worth
	keys map[int64]worth
}

func (t *table) at(key int64) (worth, bool) {
	if t.keys != nil {
		w, ok := t.keys[key]
		return w, ok
	}
	if key < 0 || key >= int64(len(t.list)) || t.list[key].count == 0 {
		return worth{}, false
	}
	return t.list[key], true
}

// each calls f with every key that can be reached.
func (t *table) each(f func(key int64, w worth)) {
	for key, w := range t.keys {
		f(key, w)
	}
	for key := range t.list {
		if t.list[key].count > 0 {
			f(int64(key), t.list[key])
		}
	}
}

// put keeps the better of what is there and w; of equals the count is added.
func (t *table) put(key int64, w worth) {
	was, ok := t.at(key)
	switch c := w.compare(was); {
	case ok && c > 0:
		return
	case ok && c == 0:
		w.count = min(2, was.count+w.count)
	}
	if t.keys != nil {
		t.keys[key] = w
		return
	}
	t.list[key] = w
}

func (r *Remainder) refitting() (*refitting, error) {
	f := &refitting{steps: r.Steps}
	pace := r.Pace
	if pace == 0 {
		pace = 1
	}
	var names []string
	for name := range r.Caps {
		names = append(names, name)
	}
	slices.Sort(names)
	if err := f.choose(names, pace); err != nil {
		return nil, err
	}
	f.limit(names, r.Caps)
	if err := f.fill(); err != nil {
		return nil, err
	}
	return f, nil
}

// scale of loads: thousandths.
const loadScale = 1000

// choose gathers the choices with their ways.
func (f *refitting) choose(caps []string, pace float64) error {
	grouped := map[string]int{}
	for i := range f.steps {
		s := &f.steps[i]
		switch {
		case s.Planned < 0 || s.Min > s.Max || s.Per < 0 || s.Once < 0 || s.Lead < 0:
			return fmt.Errorf("step %q needs a range and times that are not below 0", s.ID)
		case s.Grain < 0:
			return fmt.Errorf("step %q: a grain is above 0", s.ID)
		}
		if at, ok := grouped[s.Group]; ok && s.Group != "" && s.Held == nil {
			f.choices[at].steps = append(f.choices[at].steps, i)
			continue
		}
		if s.Group != "" && s.Held == nil {
			grouped[s.Group] = len(f.choices)
		}
		f.choices = append(f.choices, choice{steps: []int{i}})
	}
	for i := range f.choices {
		f.choices[i].ways = f.ways(f.choices[i].steps, caps, pace)
	}
	return nil
}

// doses that a step may have, its plan always among them.
func (s *RefitStep) doses() []int {
	switch {
	case s.Held != nil:
		return []int{*s.Held}
	case s.Fixed:
		return []int{s.Planned}
	}
	out := []int{s.Planned}
	for d := s.Min; d <= s.Max; d += max(1, s.Grain) {
		out = append(out, d)
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// ways are the doses that all steps of a choice may have, all as planned, and left out where all may be.
func (f *refitting) ways(steps []int, caps []string, pace float64) []way {
	first := &f.steps[steps[0]]
	shared := slices.DeleteFunc(first.doses(), func(d int) bool {
		return slices.ContainsFunc(steps[1:], func(i int) bool { return !slices.Contains(f.steps[i].doses(), d) })
	})
	droppable := first.Held == nil
	asPlanned := true
	for _, i := range steps {
		droppable = droppable && f.steps[i].droppable()
		asPlanned = asPlanned && f.steps[i].Planned == first.Planned
	}
	var out []way
	slices.Reverse(shared)
	for _, d := range shared {
		if d > 0 && (d != first.Planned || !asPlanned) || first.Held != nil {
			out = append(out, f.way(steps, func(*RefitStep) int { return d }, caps, pace))
		}
	}
	if droppable {
		out = append(out, f.way(steps, func(*RefitStep) int { return 0 }, caps, pace))
	}
	if first.Held == nil {
		out = append(out, f.way(steps, func(s *RefitStep) int { return s.Planned }, caps, pace))
	}
	return out
}

// way is one choice worked out.
func (f *refitting) way(steps []int, dose func(*RefitStep) int, caps []string, pace float64) way {
	w := way{dose: dose(&f.steps[steps[0]]), loads: make([]int64, len(caps))}
	for _, i := range steps {
		s := &f.steps[i]
		d := dose(s)
		weight := 1.0
		if s.Weight != nil {
			weight = *s.Weight
		}
		working := 0.0
		if d > 0 || s.Planned == 0 {
			working = math.Round(pace * (s.Per*float64(d) + s.Once))
		}
		w.seconds += int64(working)
		switch {
		case s.Held != nil || d == s.Planned:
		case d == 0:
			w.penalty += int64(math.Round(1e6 * dropWeight * weight))
			w.changed = true
		default:
			w.penalty += int64(math.Round(1e6 * weight * math.Abs(float64(d-s.Planned)) / float64(max(1, s.Planned))))
			w.changed = true
		}
		for k, name := range caps {
			w.loads[k] += int64(math.Round(loadScale * s.Loads[name] * float64(d)))
		}
	}
	return w
}

// limit works out the caps that can bind: at least what the least doses come to. The others are left out.
func (f *refitting) limit(names []string, caps map[string]float64) {
	var binding []int
	for k, name := range names {
		least, most := int64(0), int64(0)
		for i := range f.choices {
			lo, hi := int64(math.MaxInt64), int64(0)
			for _, w := range f.choices[i].ways {
				lo, hi = min(lo, w.loads[k]), max(hi, w.loads[k])
			}
			least, most = least+lo, most+hi
		}
		limit := max(least, int64(math.Floor(loadScale*caps[name]+1e-6)))
		if most > limit {
			binding = append(binding, k)
			f.caps = append(f.caps, limit)
		}
	}
	for i := range f.choices {
		for j := range f.choices[i].ways {
			w := &f.choices[i].ways[j]
			kept := make([]int64, len(binding))
			for n, k := range binding {
				kept[n] = w.loads[k]
			}
			w.loads = kept
		}
	}
}

// key packs seconds and loads into one number.
func (f *refitting) key(seconds int64, loads []int64) int64 {
	k := seconds
	for i, l := range loads {
		k += l * f.radix[i]
	}
	return k
}

// centis is the total of choices from one on, leads included, in hundredths of a second.
func (f *refitting) centis(from int, key int64) int64 {
	if len(f.radix) > 0 {
		key %= f.radix[0]
	}
	return f.leads[from] + 100*key
}

// fits reports whether a key's loads and more loads stay within the caps.
func (f *refitting) fits(key int64, loads []int64) bool {
	for i, l := range loads {
		have := key / f.radix[i]
		if i+1 < len(f.radix) {
			have = key % f.radix[i+1] / f.radix[i]
		}
		if have+l > f.caps[i] {
			return false
		}
	}
	return true
}

// fill works the tables out from the last choice to the first.
func (f *refitting) fill() error {
	longest := int64(1)
	for i := range f.choices {
		longest += f.choices[i].most()
	}
	step := longest
	for _, c := range f.caps {
		f.radix = append(f.radix, step)
		if step > math.MaxInt64/(c+1) {
			return errors.New("there are too many caps to look at")
		}
		step *= c + 1
	}
	n := len(f.choices)
	f.tables, f.leads = make([]table, n+1), make([]int64, n+1)
	f.tables[n] = f.empty(1)
	f.tables[n].put(0, worth{count: 1})
	reach := int64(1)
	for i := n - 1; i >= 0; i-- {
		c := &f.choices[i]
		reach += c.most()
		t, after := f.empty(reach), &f.tables[i+1]
		for k := range c.ways {
			w := &c.ways[k]
			add := f.key(w.seconds, w.loads)
			after.each(func(key int64, v worth) {
				if f.fits(key, w.loads) {
					t.put(key+add, v.with(w))
				}
			})
		}
		f.tables[i], f.leads[i] = t, f.leads[i+1]
		for _, at := range c.steps {
			f.leads[i] += int64(math.Round(100 * f.steps[at].Lead))
		}
	}
	return nil
}

// most is the longest working of a choice.
func (c *choice) most() (most int64) {
	for i := range c.ways {
		most = max(most, c.ways[i].seconds)
	}
	return most
}

// empty is a table for keys up to a reach, where there are no loads to mind.
func (f *refitting) empty(reach int64) table {
	if len(f.radix) > 0 {
		return table{keys: map[int64]worth{}}
	}
	return table{list: make([]worth, reach)}
}

func (w worth) with(o *way) worth {
	w.penalty += o.penalty
	if o.changed {
		w.changes++
	}
	return w
}

// rank orders totals: in the window, below it, above it; outside by how far.
func rank(centis, slot int64) (class int, off int64) {
	switch {
	case centis > slot:
		return 2, centis - slot
	case centis < slot-100*refitWindow:
		return 1, slot - 100*refitWindow - centis
	}
	return 0, 0
}

// to brings the choices from one on to a slot.
func (f *refitting) to(from int, slot float64) Refitted {
	limit := int64(math.Floor(100*slot + 1e-6))
	var best []int64 // keys that are equally good
	var value worth
	count := 0
	var class int
	var off int64
	f.tables[from].each(func(key int64, v worth) {
		c, o := rank(f.centis(from, key), limit)
		order := cmp.Compare(c, class)
		if order == 0 {
			order = cmp.Or(cmp.Compare(o, off), v.compare(value))
		}
		switch {
		case best == nil || order < 0:
			best, value, class, off, count = []int64{key}, v, c, o, int(v.count)
		case order == 0:
			best, count = append(best, key), count+int(v.count)
		}
	})
	out := f.follow(from, best, value)
	out.Unique = count == 1
	switch class {
	case 1:
		out.MissBy = -float64(off) / 100
	case 2:
		out.MissBy = float64(off) / 100
	}
	return out
}

// follow takes the best way from equally good totals: at the first choice where two differ the one that changes it,
// then the larger dose.
func (f *refitting) follow(from int, keys []int64, value worth) Refitted {
	out := Refitted{Doses: map[string]int{}, Dropped: []string{}, Penalty: float64(value.penalty) / 1e6, Changes: int(value.changes)}
	for i := from; i < len(f.choices); i++ {
		for _, w := range f.choices[i].ways {
			add := f.key(w.seconds, w.loads)
			var on []int64
			for _, key := range keys {
				if v, ok := f.tables[i+1].at(key - add); ok && f.fits(key-add, w.loads) && v.with(&w).compare(value) == 0 {
					on = append(on, key-add)
				}
			}
			if len(on) == 0 {
				continue
			}
			keys = on
			value.penalty -= w.penalty
			if w.changed {
				value.changes--
			}
			f.note(&out, i, &w)
			break
		}
	}
	for i := range f.steps {
		if d, ok := out.Doses[f.steps[i].ID]; ok && d == 0 && f.steps[i].Planned > 0 {
			out.Dropped = append(out.Dropped, f.steps[i].ID)
		}
	}
	return out
}

// note writes down the doses of a choice.
func (f *refitting) note(out *Refitted, i int, w *way) {
	out.Seconds += float64(w.seconds)
	for _, s := range f.choices[i].steps {
		out.Seconds += f.steps[s].Lead
		dose := w.dose
		if !w.changed && f.steps[s].Held == nil {
			dose = f.steps[s].Planned
		}
		out.Doses[f.steps[s].ID] = dose
	}
}
