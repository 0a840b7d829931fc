package series

import (
	"slices"
	"strconv"
	"strings"
	"time"
)

// When is what a client says about time, as it was typed. What was not said is nil or empty.
type When struct {
	Possible  WeekPieces
	Likes     WeekPieces
	Absences  [][]string
	First     *FirstVisit
	FinishBy  string
	Event     *Event
	EventName string
	Heard     []Heard
}

// ReadWhen reads "tue thu after 5, not 12-19 may", "rather mornings", "from 4 jan", "by 30
// june", "before 12 june wedding". Days without a year are the next ones from today on
// (2006-01-02); bare hours from one to seven are in the afternoon.
func ReadWhen(text, today string) When {
	at, err := time.Parse(time.DateOnly, today)
	if err != nil {
		return When{}
	}
	r := whenReading{reading: reading{words: wordsOf(text)}, today: at}
	for !r.done() {
		r.clause()
	}
	r.finish()
	r.out.Heard = r.heard
	return r.out
}

type whenReading struct {
	reading
	today time.Time
	out   When
	open  []said // clauses of possible hours
	liked []said
	never []string // weekdays
}

// said is some weekdays, none meaning all, with hours, none meaning any.
type said struct {
	days  []string
	hours [][]string
}

// clause reads words up to a comma: what stands together belongs together.
func (r *whenReading) clause() {
	var now said
	not, rather := false, false
	for !r.done() && r.peek(0) != "," {
		w := r.peek(0)
		switch {
		case w == "not" || w == "no" || w == "except" || w == "never":
			not = true
			r.pass()
		case w == "rather" || w == "likes" || w == "prefer" || w == "preferably" || w == "best":
			rather = true
			r.pass()
		case w == "and" || w == "or" || w == "on" || w == "at" || w == "in" || w == "the" || w == "&" || w == "+":
			r.pass()
		case r.dated(not):
		case r.weekdays(&now, not, rather):
		case r.hours(&now, not, rather):
		default:
			r.skip()
		}
	}
	r.led = false
	if !r.done() {
		r.at++
	}
	if len(now.days)+len(now.hours) == 0 {
		return
	}
	list := &r.open
	if rather {
		list = &r.liked
	}
	// "mon wed, after 5": hours that stand alone belong to the days before them.
	if last := len(*list) - 1; len(now.days) == 0 && last >= 0 && len((*list)[last].hours) == 0 {
		(*list)[last].hours = now.hours
		return
	}
	*list = append(*list, now)
}

var weekdayNames = []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}

func weekdayOfWord(w string) (string, bool) {
	full := []string{"monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"}
	w = strings.TrimSuffix(w, "s")
	for i, name := range full {
		if len(w) >= 2 && (strings.HasPrefix(name, w)) && (len(w) >= 3 || w != "t" && w != "s") {
			return weekdayNames[i], true
		}
	}
	return "", false
}

// weekdays reads one or several weekdays: mon, tue thu, mon-fri, weekdays, weekends.
func (r *whenReading) weekdays(now *said, not, rather bool) bool {
	var days []string
	n := 0
	switch w := r.peek(0); w {
	case "weekdays", "weekday":
		days, n = weekdayNames[:5], 1
	case "weekends", "weekend":
		days, n = weekdayNames[5:], 1
	default:
		for {
			d, ok := weekdayOfWord(r.peek(n))
			if !ok {
				break
			}
			days = append(days, d)
			n++
			if last, ok := weekdayOfWord(r.peek(n + 1)); ok && (r.peek(n) == "-" || r.peek(n) == "to") {
				for i := slices.Index(weekdayNames, d) + 1; i <= slices.Index(weekdayNames, last); i++ {
					days = append(days, weekdayNames[i])
				}
				n += 2
			} else if _, ok := weekdayOfWord(r.peek(n + 1)); ok && (r.peek(n) == "and" || r.peek(n) == "or" || r.peek(n) == "&") {
				n++
			}
		}
	}
	if n == 0 {
		return false
	}
	kind := HeardWeekdays
	switch {
	case not:
		kind = HeardNotWeekdays
		r.never = append(r.never, days...)
	default:
		now.days = append(now.days, days...)
	}
	h := Heard{As: kind, Days: slices.Clone(days)}
	if rather {
		h.Word = "rather"
	}
	r.take(n, h)
	return true
}

// hours reads after 5, before noon, 10-13, mornings, from 17:00.
func (r *whenReading) hours(now *said, not, rather bool) bool {
	from, to, n := "", "", 0
	parts := map[string][2]string{
		"morning": {"00:00", "12:00"}, "afternoon": {"12:00", "17:00"}, "evening": {"17:00", "24:00"}, "midday": {"11:00", "14:00"},
	}
	w := r.peek(0)
	if p, ok := parts[strings.TrimSuffix(w, "s")]; ok {
		from, to, n = p[0], p[1], 1
	} else if w == "after" || w == "before" || w == "from" || w == "until" || w == "till" || w == "between" {
		if hour, ok := hourOf(r.peek(1)); ok {
			from, to, n = r.bounded(w, hour)
		}
	} else if hour, ok := hourOf(w); ok {
		if end, ok := hourOf(r.peek(2)); ok && (r.peek(1) == "-" || r.peek(1) == "to") {
			from, to, n = hour, laterThan(hour, end), 3
		} else if strings.Contains(w, ":") || strings.HasSuffix(w, "m") || w == "noon" {
			from, to, n = hour, plusTwoHours(hour), 1 // "at noon": about then
		}
	}
	if n == 0 {
		return false
	}
	if not { // "not before 10" is after 10, "not after 17" before 17
		switch {
		case from == "00:00":
			from, to = to, "24:00"
		case to == "24:00":
			from, to = "00:00", from
		default:
			return false
		}
	}
	now.hours = append(now.hours, []string{from, to})
	kind := HeardHours
	if rather {
		kind = HeardRather
	}
	r.take(n, Heard{As: kind, Hours: []string{from, to}})
	return true
}

// bounded are the hours after, before, from, until or between.
func (r *whenReading) bounded(w, hour string) (from, to string, n int) {
	switch w {
	case "after":
		return hour, "24:00", 2
	case "from", "between":
		if end, ok := hourOf(r.peek(3)); ok && (r.peek(2) == "-" || r.peek(2) == "to" || r.peek(2) == "and" || r.peek(2) == "until") {
			return hour, laterThan(hour, end), 4
		}
		return hour, "24:00", 2
	}
	return "00:00", hour, 2
}

// hourOf reads 5, 17, 17:30, 5pm, noon as 15:04.
func hourOf(w string) (string, bool) {
	if w == "noon" {
		return "12:00", true
	}
	afternoon, morning := strings.HasSuffix(w, "pm"), strings.HasSuffix(w, "am")
	bare := strings.TrimSuffix(strings.TrimSuffix(strings.TrimSuffix(w, "pm"), "am"), "h")
	h, m, colon := strings.Cut(strings.Replace(bare, ".", ":", 1), ":")
	hour, err := strconv.Atoi(h)
	minute := 0
	if colon && err == nil {
		if len(m) != 2 {
			return "", false
		}
		minute, err = strconv.Atoi(m)
	}
	if err != nil || hour < 0 || hour > 24 || minute < 0 || minute > 59 || len(h) > 2 {
		return "", false
	}
	if hour < 12 && afternoon || !afternoon && !morning && !colon && hour >= 1 && hour <= 7 {
		hour += 12
	}
	if hour == 12 && morning {
		hour = 0
	}
	if hour*60+minute > dayMinutes {
		return "", false
	}
	return clockText(hour*60 + minute), true
}

// laterThan is the end of a time that began at an hour: 9-5 ends at 17.
func laterThan(from, to string) string {
	a, _ := parseHour(from)
	b, _ := parseHour(to)
	if b <= a {
		b += dayMinutes / 2
	}
	if b > dayMinutes {
		return "24:00"
	}
	return clockText(b)
}

func plusTwoHours(from string) string {
	a, _ := parseHour(from)
	return clockText(min(a+120, dayMinutes))
}

// dated reads what is said of days: not 12-19 may, from 4 jan, by 30 june, before 12 june
// wedding, tomorrow, next week.
func (r *whenReading) dated(not bool) bool {
	how, skip := "", 0
	switch w := r.peek(0); w {
	case "from", "starting", "after", "before", "by", "until", "till":
		how, skip = w, 1
	}
	days, n := r.days(skip)
	if n == 0 {
		return false
	}
	n += skip
	first, last := days[0], days[1]
	switch {
	case not:
		r.out.Absences = append(r.out.Absences, []string{first, plusDays(last, 1)})
		r.take(n, Heard{As: HeardNotDays, Days: []string{first, last}})
	case how == "from" || how == "starting" || how == "":
		r.begins(first, last, how == "", n)
	case how == "after":
		r.begins(plusDays(last, 1), "", false, n)
	case how == "before":
		if name := r.eventName(n); name > 0 {
			words := make([]string, name)
			for i := range words {
				words[i] = r.peek(n + i)
			}
			r.out.Event, r.out.EventName = &Event{Date: first}, strings.Join(words, " ")
			r.take(n+name, Heard{As: HeardEvent, Days: []string{first}, Word: r.out.EventName})
			return true
		}
		r.out.FinishBy = plusDays(first, -1)
		r.take(n, Heard{As: HeardFinish, Days: []string{r.out.FinishBy}})
	default:
		r.out.FinishBy = last
		r.take(n, Heard{As: HeardFinish, Days: []string{last}})
	}
	return true
}

// begins notes the days between which the first visit lies; a range that was named is both.
func (r *whenReading) begins(first, last string, named bool, n int) {
	f := &FirstVisit{Earliest: first, Ideal: first}
	h := Heard{As: HeardFirst, Days: []string{first}}
	if named && last != "" {
		f.Latest = last
		h.Days = append(h.Days, last)
	}
	r.out.First = f
	r.take(n, h)
}

// eventName is how many words after a day name an event.
func (r *whenReading) eventName(at int) int {
	n := 0
	for w := r.peek(at + n); w != "" && w != "," && n < 4; w = r.peek(at + n) {
		n++
	}
	return n
}

var monthNames = []string{
	"january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november", "december",
}

func monthOf(w string) (time.Month, bool) {
	w = strings.Trim(w, ".")
	for i, name := range monthNames {
		if len(w) >= 3 && strings.HasPrefix(name, w) {
			return time.Month(i + 1), true
		}
	}
	return 0, false
}

// days reads a day or a range of days from some words on, and how many words it took.
func (r *whenReading) days(at int) (days [2]string, n int) {
	switch w := r.peek(at); {
	case w == "today":
		return r.span(0, 0), 1
	case w == "tomorrow":
		return r.span(1, 1), 1
	case (w == "next" || w == "this") && r.peek(at+1) == "week":
		monday := 7 - (int(r.today.Weekday())+6)%7
		if w == "this" {
			return r.span(0, monday-1), 2
		}
		return r.span(monday, monday+6), 2
	case w == "in":
		if c, ok := count(r.peek(at + 1)); ok {
			if unit := r.peek(at + 2); strings.HasPrefix(unit, "week") {
				return r.span(c*daysOfAWeek, c*daysOfAWeek), 3
			} else if strings.HasPrefix(unit, "day") {
				return r.span(c, c), 3
			}
		}
	}
	if m, ok := monthOf(r.peek(at)); ok { // june, june 12
		if d, ok := dayNumber(r.peek(at + 1)); ok {
			day := r.next(d, m)
			return [2]string{day, day}, 2
		}
		first := r.next(1, m)
		t, _ := time.Parse(time.DateOnly, first)
		return [2]string{max(first, r.today.Format(time.DateOnly)), t.AddDate(0, 1, -1).Format(time.DateOnly)}, 1
	}
	first, month, n := r.day(at)
	if n == 0 {
		return days, 0
	}
	if sep := r.peek(at + n); sep == "-" || sep == "to" || sep == "until" {
		if last, m2, n2 := r.day(at + n + 1); n2 > 0 && m2 != 0 {
			if month == 0 {
				month = m2
			}
			end := r.next(last, m2)
			begin := r.next(first, month)
			if begin > end {
				begin = r.yearBefore(begin)
			}
			return [2]string{begin, end}, n + 1 + n2
		}
	}
	if month == 0 {
		return days, 0
	}
	day := r.next(first, month)
	if whole := r.peek(at); len(whole) == len(time.DateOnly) {
		day = whole
	}
	return [2]string{day, day}, n
}

// day reads 12 june, 12.6., 2027-06-12, or a bare 12, whose month is then 0.
func (r *whenReading) day(at int) (day int, month time.Month, n int) {
	w := r.peek(at)
	if t, err := time.Parse(time.DateOnly, w); err == nil {
		return t.Day(), t.Month(), 1
	}
	if parts := strings.Split(strings.Trim(w, "."), "."); len(parts) == 2 {
		d, err1 := strconv.Atoi(parts[0])
		m, err2 := strconv.Atoi(parts[1])
		if err1 == nil && err2 == nil && d >= 1 && d <= 31 && m >= 1 && m <= 12 && strings.Count(w, ".") == 2 {
			return d, time.Month(m), 1
		}
	}
	d, ok := dayNumber(w)
	if !ok {
		return 0, 0, 0
	}
	next := 1
	if r.peek(at+1) == "of" {
		next = 2
	}
	if m, ok := monthOf(r.peek(at + next)); ok {
		return d, m, next + 1
	}
	return d, 0, 1
}

func dayNumber(w string) (int, bool) {
	for _, end := range []string{"st", "nd", "rd", "th"} {
		w = strings.TrimSuffix(w, end)
	}
	d, err := strconv.Atoi(strings.TrimSuffix(w, "."))
	return d, err == nil && d >= 1 && d <= 31
}

// next is the next time from today on that a day of a month comes.
func (r *whenReading) next(day int, month time.Month) string {
	for year := r.today.Year(); ; year++ {
		t := time.Date(year, month, day, 0, 0, 0, 0, time.UTC)
		if t.Month() != month { // 31 June: its last day
			t = time.Date(year, month+1, 0, 0, 0, 0, 0, time.UTC)
		}
		if !t.Before(r.today) {
			return t.Format(time.DateOnly)
		}
	}
}

func (r *whenReading) yearBefore(day string) string {
	t, _ := time.Parse(time.DateOnly, day)
	return t.AddDate(-1, 0, 0).Format(time.DateOnly)
}

func (r *whenReading) span(from, to int) [2]string {
	return [2]string{r.today.AddDate(0, 0, from).Format(time.DateOnly), r.today.AddDate(0, 0, to).Format(time.DateOnly)}
}

func plusDays(day string, n int) string {
	d, err := parseDay(day)
	if err != nil {
		return day
	}
	return dayText(d + n)
}

// finish turns the clauses into hours by weekday.
func (r *whenReading) finish() {
	r.out.Possible = weekOf(r.open, r.never)
	if len(r.liked) > 0 {
		r.out.Likes = weekOf(r.liked, nil)
	}
}

// weekOf are the hours of clauses by weekday, less some weekdays; nil where nothing was said.
func weekOf(clauses []said, never []string) WeekPieces {
	if len(clauses)+len(never) == 0 {
		return nil
	}
	out := WeekPieces{}
	if len(clauses) == 0 {
		clauses = []said{{}}
	}
	for _, c := range clauses {
		days := c.days
		if len(days) == 0 {
			days = weekdayNames
		}
		hours := c.hours
		if len(hours) == 0 {
			hours = [][]string{{"00:00", "24:00"}}
		}
		for _, d := range days {
			if !slices.Contains(never, d) {
				out[d] = append(out[d], hours...)
			}
		}
	}
	return out
}
