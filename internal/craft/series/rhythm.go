package series

// Rhythm is how often a client comes, as it is said. It is compiled to one gap a visit, which
// the finder alone sees (handbook, chapter 6).
type Rhythm struct {
	// How is every-days, times-a-week, blocks or daily.
	How RhythmKind `json:"how" enum:"every-days,times-a-week,daily,blocks"`
	// Number is the days between visits, or the visits a week.
	Number int     `json:"number,omitempty" minimum:"0" maximum:"366"`
	Blocks []Block `json:"blocks,omitempty" maxItems:"8"`
}

// RhythmKind is a way of saying how often.
type RhythmKind string

// The ways of saying how often.
const (
	EveryDays  RhythmKind = "every-days"
	TimesAWeek RhythmKind = "times-a-week"
	Daily      RhythmKind = "daily" // a reset week: a short piece each day
	InBlocks   RhythmKind = "blocks"
)

const daysOfAWeek = 7

// Block is some visits in a row with a rhythm of their own; its first gap is the block's own.
type Block struct {
	Visits int        `json:"visits" minimum:"1" maximum:"60"`
	How    RhythmKind `json:"how" enum:"every-days,times-a-week,daily"`
	Number int        `json:"number,omitempty" minimum:"0" maximum:"366"`
}

// Gap is the days from the treatment before.
type Gap struct {
	Ideal int `json:"ideal" minimum:"0" maximum:"400"`
	Least int `json:"least" minimum:"0" maximum:"400"`
	Most  int `json:"most" minimum:"0" maximum:"400"`
}

// The rest that work asks for before it, in hours (handbook, chapter 6).
const (
	RestOfDeep    = 48
	RestOfOthers  = 24
	glowLeastGap  = 2  // the last deep visit lies three days before the event, the glow visit one
	ReviewLeast   = 14 // days from the first treatment to the last where a review is promised
	leastTwiceGap = 2  // of several visits a week, unless they drain
)

// Compile gives a rhythm's gap before each of the visits; that of the first is zero. perWeek
// is how many treatments any seven days hold at most, 0 where the gaps alone say it.
func (r Rhythm) Compile(visits []Marks) (gaps []Gap, perWeek int) {
	blocks := r.Blocks
	if r.How != InBlocks {
		blocks = []Block{{Visits: len(visits), How: r.How, Number: r.Number}}
	}
	gaps = make([]Gap, len(visits))
	weekly := false
	at := 0
	for b, block := range blocks {
		first := 1 // the gap with which the block begins
		if b == len(blocks)-1 {
			block.Visits = max(block.Visits, len(visits)-at) // the last rhythm goes on
		}
		for n := 0; n < block.Visits && at < len(visits); n++ {
			if at > 0 {
				gaps[at] = block.gap(first, visits[at])
				first++
			}
			at++
		}
		weekly = weekly || block.How == TimesAWeek
		perWeek = max(perWeek, block.inSevenDays())
	}
	for k := 1; k < len(gaps); k++ {
		if visits[k].Glow {
			gaps[k].Least = glowLeastGap
			gaps[k].Most = max(gaps[k].Most, glowLeastGap)
		}
	}
	if !weekly {
		perWeek = 0
	}
	return gaps, perWeek
}

// gap is the block's gap with a number, from 1 on.
func (b Block) gap(k int, m Marks) Gap {
	switch b.How {
	case TimesAWeek:
		n := max(b.Number, 1)
		k = (k-1)%n + 1
		ideal := daysOfAWeek*k/n - daysOfAWeek*(k-1)/n
		least := leastTwiceGap
		if m.Draining {
			least = 1
		}
		return Gap{ideal, least, ideal + 2}
	case Daily:
		return Gap{1, 1, 2}
	}
	n := max(b.Number, 1)
	by := max(1, n/daysOfAWeek)
	return Gap{n, max(1, n-by), n + by}
}

// inSevenDays is how many treatments of the block seven days hold at most.
func (b Block) inSevenDays() int {
	if b.How == TimesAWeek {
		return b.Number
	}
	return 1 + (daysOfAWeek-1)/max(b.gap(1, Marks{}).Least, 1)
}

// Marks say what kind of work a visit is, for its rest and its place in a series.
type Marks struct {
	Draining bool `json:"draining,omitempty"` // most working seconds drain
	Deep     bool `json:"deep,omitempty"`     // a step at pressure 4 or 5, a gripping roller, cups
	Glow     bool `json:"glow,omitempty"`     // the visit before an event
}

// Rest is the hours that a visit asks for from the start of the treatment before.
func (m Marks) Rest() int {
	if m.Deep {
		return RestOfDeep
	}
	return RestOfOthers
}
