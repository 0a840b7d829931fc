package series

import "encoding/json"

// Request asks for the best series: a studio as it stands at a moment, a client, and a
// rhythm compiled to a list of visits. All times are wall time of Zone: days 2006-01-02,
// moments 2006-01-02T15:04, hours 15:04 up to 24:00 (handbook, chapter 6).
type Request struct {
	Zone string `json:"zone"`
	Now  string `json:"now"`
	// Grid is the step of starts in minutes, 15 where it is absent.
	Grid int `json:"grid,omitempty"`
	// Shortest is the shortest busy time on sale, in minutes; LateFrom when it is late.
	Shortest      int                   `json:"shortest"`
	LateFrom      string                `json:"lateFrom,omitempty"`
	Open          WeekPieces            `json:"open"`
	Closures      [][]string            `json:"closures,omitempty"`
	Practitioners []RequestPractitioner `json:"practitioners"`
	Rooms         []RequestRoom         `json:"rooms"`
	Tools         []RequestTool         `json:"tools,omitempty"`
	Bookings      []RequestBooking      `json:"bookings,omitempty"`
	Client        RequestClient         `json:"client"`
	Series        RequestSeries         `json:"series"`
	Relay         *Relay                `json:"relay,omitempty"`
	Weights       *Weights              `json:"weights,omitempty"`
	// Overtime is by how many minutes the last piece of each day is longer, studio and shifts.
	Overtime int `json:"overtime,omitempty"`
}

// WeekPieces are pieces of time by weekday, mon to sun. Nil is any time, empty is never.
type WeekPieces map[string][][]string

// RequestPractitioner is who can be booked; their order decides between equals.
type RequestPractitioner struct {
	Key    string   `json:"key"`
	Skills []string `json:"skills,omitempty"`
	// Until is the last day of those skills that need a licence which ends.
	Until    map[string]string `json:"until,omitempty"`
	Shifts   []ShiftEntry      `json:"shifts"`
	Absences [][]string        `json:"absences,omitempty"`
}

// ShiftEntry is a line of a roster; the last one that covers a day and names its weekday
// rules.
type ShiftEntry struct {
	From string `json:"from"`
	To   string `json:"to,omitempty"`
	// Every so many weeks, counted from the Monday of the week of From; 1 where absent.
	Every int        `json:"every,omitempty"`
	Days  WeekPieces `json:"days"`
}

// RequestRoom is a room with what is in it. Places is how many clients who come together it holds;
// 1 where absent.
type RequestRoom struct {
	Key       string          `json:"key"`
	Equipment []string        `json:"equipment,omitempty"`
	Closed    json.RawMessage `json:"closed,omitempty"`
	Places    int             `json:"places,omitempty"`
}

// RequestTool is a kind of tool: how many sets there are, and how long one is out after use.
type RequestTool struct {
	Key  string `json:"key"`
	Sets int    `json:"sets"`
	Out  int    `json:"out"`
}

// RequestBooking is a visit that is there already; Client is "this" for the client's own.
type RequestBooking struct {
	Practitioner *string        `json:"practitioner,omitempty"`
	Room         *string        `json:"room,omitempty"`
	Start        string         `json:"start"`
	Sold         int            `json:"sold"`
	Reset        int            `json:"reset,omitempty"`
	Prepare      int            `json:"prepare,omitempty"`
	Tools        map[string]int `json:"tools,omitempty"`
	Client       string         `json:"client,omitempty"`
}

// RequestClient is when the client can come.
type RequestClient struct {
	Possible WeekPieces `json:"possible,omitempty"`
	Likes    WeekPieces `json:"likes,omitempty"`
	Guardian WeekPieces `json:"guardian,omitempty"`
	Absences [][]string `json:"absences,omitempty"`
	// Blocked are ranges of days, both ends included; NotBefore is the first day for
	// treatments.
	Blocked   [][]string `json:"blocked,omitempty"`
	NotBefore string     `json:"notBefore,omitempty"`
	Bedtime   string     `json:"bedtime,omitempty"`
}

// RequestSeries is what is asked for.
type RequestSeries struct {
	Items        []Item        `json:"items"`
	First        *FirstVisit   `json:"first,omitempty"`
	Practitioner *WantedPerson `json:"practitioner,omitempty"`
	FinishBy     string        `json:"finishBy,omitempty"`
	// PerWeek is how many treatments any seven days hold at most, Span the least days from
	// the first to the last; 0 is no limit.
	PerWeek int    `json:"perWeek,omitempty"`
	Span    int    `json:"span,omitempty"`
	Event   *Event `json:"event,omitempty"`
	Patch   *Patch `json:"patch,omitempty"`
}

// Item is one visit of the series, in order. Gaps are those from the treatment before.
type Item struct {
	Prepare   int            `json:"prepare,omitempty"`
	Sold      int            `json:"sold"`
	Reset     int            `json:"reset,omitempty"`
	Skills    []string       `json:"skills,omitempty"`
	Equipment []string       `json:"equipment,omitempty"`
	Tools     map[string]int `json:"tools,omitempty"`
	Drain     bool           `json:"drain,omitempty"`
	Deep      bool           `json:"deep,omitempty"`
	Glow      bool           `json:"glow,omitempty"`
	Ideal     int            `json:"ideal"`
	Least     int            `json:"least"`
	Most      int            `json:"most"`
	Rest      int            `json:"rest"`
	NotBefore string         `json:"notBefore,omitempty"`
	Fixed     *Fixed         `json:"fixed,omitempty"`
}

// Fixed is where a visit stands that is not to be moved.
type Fixed struct {
	Start        string `json:"start"`
	Practitioner string `json:"practitioner"`
	Room         string `json:"room"`
}

// FirstVisit is between which days the series begins, and when at best.
type FirstVisit struct {
	Earliest string `json:"earliest,omitempty"`
	Latest   string `json:"latest,omitempty"`
	Ideal    string `json:"ideal,omitempty"`
}

// WantedPerson is who is wanted: must, prefer or any.
type WantedPerson struct {
	How string `json:"how" enum:"must,prefer,any"`
	Who string `json:"who,omitempty"`
}

// Event is a day before which the series is over: deep work ends so many days before it.
type Event struct {
	Date     string `json:"date"`
	DeepDays int    `json:"deepDays,omitempty"`
}

// Patch is a patch test before the visit with the number, From to To elapsed hours earlier.
type Patch struct {
	Before int      `json:"before"`
	Sold   int      `json:"sold,omitempty"`
	Reset  int      `json:"reset,omitempty"`
	Skills []string `json:"skills,omitempty"`
	From   int      `json:"from,omitempty"`
	To     int      `json:"to,omitempty"`
}

// Relay asks for a series in which one visit was moved: as few others as can be change.
type Relay struct {
	Moved   int            `json:"moved"`
	Current []CurrentVisit `json:"current"`
}

// CurrentVisit is where a visit stood before.
type CurrentVisit struct {
	Start        string `json:"start"`
	Practitioner string `json:"practitioner"`
}

// Weights are points in place of the usual ones.
type Weights struct {
	Start   *int    `json:"start,omitempty"`
	Gap     [][]int `json:"gap,omitempty"`
	Change  *int    `json:"change,omitempty"`
	Prefer  *int    `json:"prefer,omitempty"`
	Weekday *int    `json:"weekday,omitempty"`
	Time    *int    `json:"time,omitempty"`
	Rather  *int    `json:"rather,omitempty"`
	Late    *int    `json:"late,omitempty"`
	Sliver  *int    `json:"sliver,omitempty"`
}

// Status says what an answer is.
type Status string

// The answers: the best there is, that there is none, or that the search was stopped.
const (
	Optimal Status = "optimal"
	None    Status = "none"
	Stopped Status = "stopped"
)

// Answer is the best series with its cost, or what would have to be relaxed.
type Answer struct {
	Status       Status       `json:"status" enum:"optimal,none,stopped"`
	Cost         *int         `json:"cost"`
	Terms        *Terms       `json:"terms"`
	Visits       []Placed     `json:"visits"`
	Alternatives []Answer     `json:"alternatives,omitempty"`
	Relaxations  *Relaxations `json:"relaxations,omitempty"`
	// Bound is what the best costs at least, where the search was stopped.
	Bound *int `json:"bound,omitempty"`
	// OthersStopped says that the time was over before all alternatives were found.
	OthersStopped bool `json:"othersStopped,omitempty"`
}

// Terms are the points of a series by what they are for.
type Terms struct {
	Start   int `json:"start"`
	Gap     int `json:"gap"`
	Change  int `json:"change"`
	Prefer  int `json:"prefer"`
	Weekday int `json:"weekday"`
	Time    int `json:"time"`
	Rather  int `json:"rather"`
	Late    int `json:"late"`
	Sliver  int `json:"sliver"`
	Relay   int `json:"relay,omitempty"`
}

// Placed is one visit of an answer. Start is wall time, 2006-01-02 15:04.
type Placed struct {
	Kind         string `json:"kind" enum:"treatment,patch"`
	N            int    `json:"n"`
	Start        string `json:"start"`
	Practitioner string `json:"practitioner"`
	Room         string `json:"room"`
}

// Relaxations are the smallest sets of limits whose relaxing gives a series, each with the
// series, and what each limit gives alone.
type Relaxations struct {
	Size  int             `json:"size"`
	Sets  []Relaxed       `json:"sets"`
	Alone map[string]*int `json:"alone"`
	// Stopped says that the time was over before every set was tried.
	Stopped bool `json:"stopped,omitempty"`
}

// Relaxed is a set of limits that were relaxed, and the series it gives.
type Relaxed struct {
	Relax  []string `json:"relax"`
	Cost   int      `json:"cost"`
	Visits []Placed `json:"visits"`
}
