package series

import "strings"

// ReadShift reads the hours of a roster: "mon tue 12-19, wed 9-13, fri off". unread are the words
// that were not understood.
func ReadShift(text string) (week WeekPieces, unread []string) {
	week = WeekPieces{}
	for _, clause := range strings.FieldsFunc(text, func(c rune) bool { return c == ',' || c == ';' }) {
		rest, off := strings.CutSuffix(strings.TrimSpace(strings.ToLower(clause)), "off")
		w := ReadWhen(rest, "2000-01-03")
		for _, h := range w.Heard {
			if h.As != HeardWeekdays && h.As != HeardHours {
				letters := []rune(rest)
				unread = append(unread, string(letters[h.From:h.To]))
			}
		}
		for day, pieces := range w.Possible {
			if off {
				week[day] = [][]string{}
				continue
			}
			week[day] = append(week[day], pieces...)
		}
	}
	return week, unread
}
