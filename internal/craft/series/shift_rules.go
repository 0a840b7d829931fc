package series

import (
	"cmp"
	"slices"
	"strings"
)

// ShiftRule is a piece of a practitioner's shift that comes again every so many weeks, as a calendar
// writes it: the first day, the last one, and the days on which it is left out.
type ShiftRule struct {
	// Key names the piece of the roster's line, whatever days are asked about.
	Key   string
	First string // 2006-01-02
	Last  string
	Every int
	// From and To are hours, 15:04 up to 24:00.
	From, To string
	Except   []string
}

// ShiftRules are the shifts of a practitioner between two days as rules: each line of the roster
// gives one for every weekday and piece that it names; a day on which another line rules, or that is
// off, is left out. off may be nil.
func ShiftRules(shifts []ShiftEntry, from, to string, off func(day, from, to string) bool) ([]ShiftRule, error) {
	first, err := parseDay(from)
	if err != nil {
		return nil, err
	}
	last, err := parseDay(to)
	if err != nil {
		return nil, err
	}
	var out []ShiftRule
	for i := range shifts {
		for _, name := range [...]string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"} {
			for _, p := range shifts[i].Days[name] {
				if r, any := shiftRule(shifts, i, name, p, first, last, off); any {
					out = append(out, r)
				}
			}
		}
	}
	slices.SortStableFunc(out, func(a, b ShiftRule) int {
		return cmp.Or(cmp.Compare(a.First, b.First), cmp.Compare(a.From, b.From))
	})
	return out, nil
}

// shiftRule follows one piece of one line of a roster.
func shiftRule(shifts []ShiftEntry, line int, weekday string, p []string, first, last int, off func(day, from, to string) bool) (ShiftRule, bool) {
	e := &shifts[line]
	r := ShiftRule{Key: strings.Join([]string{e.From, e.To, weekday, p[0], p[1]}, " "), Every: max(e.Every, 1), From: p[0], To: p[1]}
	var skipped []string
	for day := first; day <= last; day++ {
		if weekdayOf(day) != weekday || !covers(&shifts[line], day) {
			continue // the line does not name it
		}
		text := dayText(day)
		if ruling(shifts, day) != line || off != nil && off(text, p[0], p[1]) {
			if r.First != "" {
				skipped = append(skipped, text)
			}
			continue
		}
		if r.First == "" {
			r.First = text
		}
		r.Last, r.Except = text, append(r.Except, skipped...)
		skipped = nil
	}
	return r, r.First != ""
}

// ruling is the line of a roster that says when somebody works on a day, -1 for none.
func ruling(shifts []ShiftEntry, day int) int {
	for i := len(shifts) - 1; i >= 0; i-- {
		if covers(&shifts[i], day) {
			return i
		}
	}
	return -1
}
