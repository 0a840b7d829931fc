package studio

import (
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
)

// SeriesState is how far a series has come.
type SeriesState string

// The states of a series.
const (
	SeriesOffered   SeriesState = "offered" // held, and lapses with its hold
	SeriesRunning   SeriesState = "running"
	SeriesPaused    SeriesState = "paused"
	SeriesFinished  SeriesState = "finished"
	SeriesBrokenOff SeriesState = "broken-off"
	SeriesLapsed    SeriesState = "lapsed"
)

// Series is a course of visits: items in order, and the visits that are booked for them.
type Series struct {
	ID        uuid.UUID   `json:"id"`
	Client    uuid.UUID   `json:"client"`
	State     SeriesState `json:"state" enum:"offered,running,paused,finished,broken-off,lapsed"`
	Asked     SeriesAsked `json:"asked"`
	Reason    string      `json:"reason,omitempty"`
	HeldUntil *time.Time  `json:"heldUntil,omitempty"`
	HeldBy    *uuid.UUID  `json:"-"`
	// Renewed says that its hold was renewed, which is done once.
	Renewed   bool         `json:"renewed"`
	CreatedAt time.Time    `json:"createdAt"`
	Items     []SeriesItem `json:"items"`
	// Review is its end review, nil before.
	Review *SeriesReview `json:"review,omitempty"`
	// HomeCare is what the client does at home beside the visits.
	HomeCare string `json:"homeCare"`
}

// ReviewedDecision is what is done after an end review: nothing goes on by itself.
type ReviewedDecision string

// The decisions.
const (
	GoOn   ReviewedDecision = "go-on"
	Change ReviewedDecision = "change"
	Stop   ReviewedDecision = "stop"
)

// SeriesReview is what the end review of a series found.
type SeriesReview struct {
	At       time.Time        `json:"at"`
	By       uuid.UUID        `json:"by"`
	Found    string           `json:"found"`
	Decision ReviewedDecision `json:"decision" enum:"go-on,change,stop"`
}

// MissedRule says whether a missed visit of a series counts as used.
type MissedRule string

// The rules.
const (
	MissedFirstBack MissedRule = "first-back" // the first is given back, later ones are used
	MissedBack      MissedRule = "back"
	MissedUsed      MissedRule = "used"
)

// ToolReason is why pieces of a tool are not there.
type ToolReason string

// The reasons.
const (
	ToolMended  ToolReason = "mended"
	ToolRetired ToolReason = "retired"
)

// ToolOut are pieces of a tool that are not there for a time; To is empty where they are retired.
type ToolOut struct {
	ID     uuid.UUID  `json:"id" format:"uuid"`
	Tool   string     `json:"tool" maxLength:"80"`
	Pieces int        `json:"pieces" minimum:"1" maximum:"1000"`
	From   string     `json:"from" maxLength:"10"`
	To     string     `json:"to,omitempty" maxLength:"10"`
	Reason ToolReason `json:"reason" enum:"mended,retired"`
	Note   string     `json:"note,omitempty" maxLength:"200"`
}

// SeriesItem is one treatment of a series, with the gap from the treatment before.
type SeriesItem struct {
	N        int       `json:"n"`
	Protocol uuid.UUID `json:"protocol" format:"uuid"`
	// Also are the protocols that follow in the same visit.
	Also []uuid.UUID `json:"also,omitempty" maxItems:"3"`
	series.Gap
	// Rest is the hours from the start of the treatment before.
	Rest int `json:"rest" minimum:"0" maximum:"400"`
	series.Marks
}

// SeriesAsked is what was asked for: the line as it was typed, and what of it holds for the
// whole series.
type SeriesAsked struct {
	Often string `json:"often" maxLength:"200"`
	When  string `json:"when" maxLength:"200"`
	With  string `json:"with" maxLength:"120"`
	// PerWeek is how many treatments any seven days hold at most, 0 for no limit.
	PerWeek int `json:"perWeek,omitempty" minimum:"0" maximum:"14"`
	// Review says that an end review is promised.
	Review bool `json:"review,omitempty"`
}

// BusyTime is what a booking takes of the studio: not who comes, unless it is the client asked for.
type BusyTime struct {
	Visit        uuid.UUID      `json:"visit"`
	Client       uuid.UUID      `json:"client"`
	Practitioner uuid.UUID      `json:"practitioner"`
	Room         uuid.UUID      `json:"room"`
	Series       *uuid.UUID     `json:"series,omitempty"`
	From         time.Time      `json:"from"`
	Start        time.Time      `json:"start"`
	End          time.Time      `json:"end"`
	Until        time.Time      `json:"until"`
	Tools        map[string]int `json:"-"`
	// Shares is the same for clients who come together and share a room.
	Shares *uuid.UUID `json:"-"`
	// HeldUntil is until when it is only held; nil where it is booked.
	HeldUntil *time.Time `json:"-"`
}

// RosterEntry is a line of a practitioner's roster. Of those that cover a day and name its
// weekday the last rules; an empty list is a day off.
type RosterEntry struct {
	ID           uuid.UUID         `json:"id"`
	Practitioner uuid.UUID         `json:"practitioner" format:"uuid"`
	From         string            `json:"from" maxLength:"10"`
	To           string            `json:"to,omitempty" maxLength:"10"`
	Every        int               `json:"every" minimum:"1" maximum:"52"`
	Days         series.WeekPieces `json:"days"`
	Note         string            `json:"note,omitempty" maxLength:"200"`
}

// AbsenceKind is why somebody is away.
type AbsenceKind string

// The kinds of absence.
const (
	Away       AbsenceKind = "away"
	Ill        AbsenceKind = "ill"
	Break      AbsenceKind = "break"
	RoomClosed AbsenceKind = "closed"
	Imported   AbsenceKind = "imported" // a busy time of an own calendar
)

// Absence is a time at which a practitioner or a client is away, or a room closed; one of the
// three is set.
type Absence struct {
	ID           uuid.UUID   `json:"id"`
	Practitioner *uuid.UUID  `json:"practitioner,omitempty"`
	Client       *uuid.UUID  `json:"client,omitempty"`
	Room         *uuid.UUID  `json:"room,omitempty"`
	Start        time.Time   `json:"start"`
	End          time.Time   `json:"end"`
	Kind         AbsenceKind `json:"kind" enum:"away,ill,break,closed,imported"`
	Note         string      `json:"note,omitempty" maxLength:"200"`
}

// ClientHours are when a client can come and likes to come, and when a minor's guardian can; nil
// is any time.
type ClientHours struct {
	Possible series.WeekPieces `json:"possible,omitempty"`
	Likes    series.WeekPieces `json:"likes,omitempty"`
	Guardian series.WeekPieces `json:"guardian,omitempty"`
	Bedtime  string            `json:"bedtime,omitempty" maxLength:"5"`
	Revision int               `json:"revision"`
	// Busy is how many busy times of an own calendar are to come.
	Busy int `json:"busy,omitempty"`
	// BusyAddress is how it stands with the address of that calendar, nil where there is none.
	BusyAddress *BusyState `json:"busyAddress,omitempty"`
}

// BusyState is how it stands with the address of somebody's own calendar; the address itself is not
// shown again.
type BusyState struct {
	ReadAt  *time.Time `json:"readAt,omitempty"`
	Failure string     `json:"failure,omitempty"`
}

// Call is a client whom the desk has to call because their appointment changed.
type Call struct {
	ID       uuid.UUID `json:"id"`
	Visit    uuid.UUID `json:"visit"`
	Client   uuid.UUID `json:"client"`
	WasAt    time.Time `json:"wasAt"`
	WasWith  uuid.UUID `json:"wasWith"`
	AskFirst bool      `json:"askFirst"`
	Reason   string    `json:"reason"`
	At       time.Time `json:"at"`
}

// Waiter is a client who waits for a time.
type Waiter struct {
	ID       uuid.UUID   `json:"id"`
	Client   uuid.UUID   `json:"client"`
	Protocol uuid.UUID   `json:"protocol"`
	Asked    SeriesAsked `json:"asked"`
	// Notice is the least notice in minutes.
	Notice int `json:"notice"`
	// Displaced says that the studio took away the time the client had.
	Displaced bool       `json:"displaced"`
	Series    *uuid.UUID `json:"series,omitempty"`
	Item      int        `json:"item,omitempty"`
	Reason    string     `json:"reason"`
	Since     time.Time  `json:"since"`
	Offered   *uuid.UUID `json:"offered,omitempty"`
}
