package series

import (
	"strconv"
	"strings"
	"unicode"
)

// Heard is a part of what was typed and what it was understood as. From and To are its place
// in the text, in characters.
type Heard struct {
	From int       `json:"from"`
	To   int       `json:"to"`
	As   HeardKind `json:"as" enum:"visits,rhythm,weekdays,hours,rather,not-weekdays,not-days,first,finish,event,practitioner,anyone,standing,unread"`
	// Number, Days (2006-01-02 or mon to sun), Hours (15:04) and Word say what was understood,
	// as far as the kind has them.
	Number int      `json:"number,omitempty"`
	Days   []string `json:"days,omitempty"`
	Hours  []string `json:"hours,omitempty"`
	Word   string   `json:"word,omitempty"`
}

// HeardKind is what a part of the text was understood as.
type HeardKind string

// What typed words can be.
const (
	HeardVisits      HeardKind = "visits"
	HeardRhythm      HeardKind = "rhythm"
	HeardWeekdays    HeardKind = "weekdays"
	HeardHours       HeardKind = "hours"
	HeardRather      HeardKind = "rather"
	HeardNotWeekdays HeardKind = "not-weekdays"
	HeardNotDays     HeardKind = "not-days"
	HeardFirst       HeardKind = "first"
	HeardFinish      HeardKind = "finish"
	HeardEvent       HeardKind = "event"
	HeardPerson      HeardKind = "practitioner"
	HeardAnyone      HeardKind = "anyone"
	HeardStanding    HeardKind = "standing"
	HeardNothing     HeardKind = "unread"
)

// word is a typed word in small letters with its place. A comma is a word of its own.
type word struct {
	text     string
	from, to int
}

// wordsOf splits a text at spaces and commas; a dash between words is a word of its own, one
// inside numbers ("10-13") too.
func wordsOf(text string) []word {
	var out []word
	letters := []rune(strings.ToLower(text))
	start := -1
	flush := func(to int) {
		if start >= 0 {
			out = append(out, word{string(letters[start:to]), start, to})
		}
		start = -1
	}
	for i, c := range letters {
		switch {
		case c == ',' || c == ';':
			flush(i)
			out = append(out, word{",", i, i + 1})
		case c == '-' || c == '–' || c == '—':
			if isoDate(letters, i, start) {
				continue
			}
			flush(i)
			out = append(out, word{"-", i, i + 1})
		case unicode.IsSpace(c):
			flush(i)
		case start < 0:
			start = i
		}
	}
	flush(len(letters))
	return out
}

// isoDate reports whether the dash at i stands inside a date such as 2027-06-12.
func isoDate(letters []rune, i, start int) bool {
	if start < 0 {
		return false
	}
	before := string(letters[start:i])
	return (len(before) == 4 || len(before) == 7) && strings.HasPrefix(before, "20") && strings.Trim(before, "0123456789-") == ""
}

// numberWords are the numbers that people write out.
var numberWords = map[string]int{
	"a": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10,
	"eleven": 11, "twelve": 12, "once": 1, "twice": 2, "thrice": 3, "other": 2, "second": 2, "third": 3,
}

// count reads a number of at most three figures: 6, six, 6x.
func count(s string) (int, bool) {
	if n, ok := numberWords[s]; ok {
		return n, true
	}
	n, err := strconv.Atoi(strings.TrimRight(s, "x×"))
	return n, err == nil && n > 0 && n < 1000
}

// reading walks through words and notes what each run of them was understood as.
type reading struct {
	words []word
	at    int
	heard []Heard
	// led says that words just passed, such as "not" and "with", belong to the next piece, which
	// begins where they did.
	led  bool
	lead int
}

// pass goes past a word that leads to the next piece.
func (r *reading) pass() {
	if !r.led {
		r.led, r.lead = true, r.words[r.at].from
	}
	r.at++
}

func (r *reading) done() bool { return r.at >= len(r.words) }

// peek is the word some places on, "" behind the last.
func (r *reading) peek(n int) string {
	if r.at+n >= len(r.words) || r.at+n < 0 {
		return ""
	}
	return r.words[r.at+n].text
}

// take notes the next n words as understood.
func (r *reading) take(n int, h Heard) {
	h.From, h.To = r.words[r.at].from, r.words[r.at+n-1].to
	if r.led {
		h.From = r.lead
	}
	r.led = false
	r.heard = append(r.heard, h)
	r.at += n
}

// skip passes a word that was not understood; words next to each other are one piece.
func (r *reading) skip() {
	w := r.words[r.at]
	r.led = false
	if last := len(r.heard) - 1; last >= 0 && r.heard[last].As == HeardNothing && r.heard[last].To+1 >= w.from {
		r.heard[last].To = w.to
	} else {
		r.heard = append(r.heard, Heard{From: w.from, To: w.to, As: HeardNothing})
	}
	r.at++
}

// Often is how often a client comes and how many visits, as they were typed; 0 visits where
// none were named.
type Often struct {
	Rhythm Rhythm
	Visits int
	// Standing says that it has no end, nil where it has one.
	Standing *Standing
	Heard    []Heard
}

// ReadOften reads "6 weekly", "twice a week for 3 weeks", "4 twice a week, then 4 weekly, then
// every 14 days", "once".
func ReadOften(text string) Often {
	r := &reading{words: wordsOf(text)}
	var blocks []Block
	var standing *Standing
	for !r.done() {
		if w := r.peek(0); w == "," || w == "then" || w == "and" {
			r.at++
			continue
		}
		if s, n := r.standing(); n > 0 {
			standing = &s
			r.take(n, Heard{As: HeardStanding, Number: s.Nth, Word: s.Weekday})
			continue
		}
		b, n := r.block()
		if n == 0 {
			r.skip()
			continue
		}
		r.take(n, Heard{As: HeardRhythm, Number: b.Number, Word: string(b.How)})
		if b.Visits > 0 {
			r.heard[len(r.heard)-1].Days = []string{strconv.Itoa(b.Visits)}
		}
		blocks = append(blocks, b)
	}
	out := Often{Heard: r.heard, Standing: standing}
	for i := range blocks {
		if blocks[i].Visits == 0 && i < len(blocks)-1 {
			blocks[i].Visits = 1
		}
		out.Visits += blocks[i].Visits
	}
	switch len(blocks) {
	case 0:
		return out
	case 1:
		out.Rhythm = Rhythm{How: blocks[0].How, Number: blocks[0].Number}
	default:
		if last := &blocks[len(blocks)-1]; last.Visits == 0 {
			last.Visits = 1
			out.Visits++
		}
		out.Rhythm = Rhythm{How: InBlocks, Blocks: blocks}
	}
	return out
}

// block reads one rhythm with its number of visits, and how many words it took.
func (r *reading) block() (Block, int) {
	b, at := Block{}, 0
	if n, ok := count(r.peek(0)); ok && r.peek(0) != "twice" && r.peek(0) != "thrice" && r.peek(0) != "a" {
		switch next := r.peek(1); {
		case r.peek(0) == "once" && (next == "" || next == ","):
			return Block{Visits: 1, How: EveryDays, Number: daysOfAWeek}, 1
		case r.isTimes(0):
		default:
			b.Visits, at = n, 1
			for w := r.peek(at); w == "visits" || w == "visit" || w == "times" || w == "x" || w == "treatments"; w = r.peek(at) {
				at++
			}
		}
	}
	how, number, n := r.rhythm(at)
	if n == 0 {
		if b.Visits > 0 && at > 1 || b.Visits > 0 && (r.peek(1) == "" || r.peek(1) == ",") {
			b.How, b.Number = EveryDays, daysOfAWeek // "6 visits": weekly unless something else is said
			return b, at
		}
		return b, 0
	}
	b.How, b.Number, at = how, number, at+n
	if r.peek(at) == "for" {
		if weeks, ok := count(r.peek(at + 1)); ok && strings.HasPrefix(r.peek(at+2), "week") {
			b.Visits, at = visitsIn(b, weeks), at+3
		} else if visits, ok := count(r.peek(at + 1)); ok && (strings.HasPrefix(r.peek(at+2), "visit") || r.peek(at+2) == "times") {
			b.Visits, at = visits, at+3
		}
	}
	return b, at
}

// isTimes reports whether "n times a week" stands some words on.
func (r *reading) isTimes(at int) bool {
	n := 1
	if w := r.peek(at + 1); w == "times" || w == "x" || w == "visits" {
		n = 2
	}
	w := r.peek(at + n)
	return (w == "a" || w == "per" || w == "each") && r.peek(at+n+1) == "week" || w == "weekly" && n == 2 && r.peek(at+1) == "times"
}

// rhythm reads how often, from some words on.
func (r *reading) rhythm(at int) (how RhythmKind, number, n int) {
	w := r.peek(at)
	switch w {
	case "weekly":
		return EveryDays, 7, 1
	case "fortnightly", "biweekly":
		return EveryDays, 14, 1
	case "monthly":
		return EveryDays, 28, 1
	case "daily":
		return Daily, 0, 1
	case "every", "each":
		days := map[string]int{"day": 1, "days": 1, "week": 7, "weeks": 7, "month": 28, "months": 28}
		if d, ok := days[r.peek(at+1)]; ok {
			return EveryDays, d, 2
		}
		if c, ok := count(r.peek(at + 1)); ok {
			if d, ok := days[r.peek(at+2)]; ok {
				return EveryDays, c * d, 3
			}
		}
		return "", 0, 0
	}
	if c, ok := count(w); ok && r.isTimes(at) {
		n = 3
		if r.peek(at+1) == "times" || r.peek(at+1) == "x" || r.peek(at+1) == "visits" {
			n = 4
		}
		if r.peek(at+n-1) != "week" {
			n-- // "twice times weekly"
		}
		return TimesAWeek, c, n
	}
	return "", 0, 0
}

// visitsIn is how many visits some weeks of a rhythm hold.
func visitsIn(b Block, weeks int) int {
	switch b.How {
	case TimesAWeek:
		return weeks * b.Number
	case Daily:
		return weeks * daysOfAWeek
	}
	return max(1, weeks*daysOfAWeek/max(b.Number, 1))
}

// ReadWith reads whom the client wants among names: "Bo", "only Bo", "rather Bo", "anyone".
// The wanted person's Who is the place in names; nil where nobody is named.
func ReadWith(text string, names []string) (*WantedPerson, []Heard) {
	r := &reading{words: wordsOf(text)}
	var want *WantedPerson
	must := false
	for !r.done() {
		switch w := r.peek(0); w {
		case "with", "rather", "prefer", "preferably", "by", "please":
			r.pass()
			continue
		case ",":
			r.at++
			continue
		case "only", "must", "be", "always":
			must = true
			if want != nil {
				want.How = "must"
				r.heard[len(r.heard)-1].Word = "must"
				r.heard[len(r.heard)-1].To = r.words[r.at].to
				r.at++
				continue
			}
			r.pass()
			continue
		case "anyone", "any", "anybody", "whoever":
			r.take(1, Heard{As: HeardAnyone})
			want = &WantedPerson{How: "any"}
			continue
		default:
			if i := nameOf(names, w); i >= 0 {
				how := "prefer"
				if must {
					how = "must"
				}
				n := 1
				for n < 4 && r.peek(n) != "" && nameOf(names[i:i+1], r.peek(n)) == 0 {
					n++
				}
				want = &WantedPerson{How: how, Who: strconv.Itoa(i)}
				r.take(n, Heard{As: HeardPerson, Number: i, Word: how})
				continue
			}
		}
		r.skip()
	}
	return want, r.heard
}

// nameOf is the place of the first name of which a word begins like the one typed; -1 for none.
func nameOf(names []string, typed string) int {
	for i, name := range names {
		for _, part := range strings.Fields(strings.ToLower(name)) {
			if strings.HasPrefix(part, typed) {
				return i
			}
		}
	}
	return -1
}
