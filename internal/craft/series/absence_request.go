package series

// DayRequest asks how the visits of a practitioner who is away are laid again, all together
// (handbook, chapter 6). Times are as in Request.
type DayRequest struct {
	Zone          string                `json:"zone"`
	Now           string                `json:"now"`
	Grid          int                   `json:"grid,omitempty"`
	Open          WeekPieces            `json:"open"`
	Closures      [][]string            `json:"closures,omitempty"`
	Practitioners []RequestPractitioner `json:"practitioners"`
	Rooms         []RequestRoom         `json:"rooms"`
	Tools         []RequestTool         `json:"tools,omitempty"`
	Bookings      []RequestBooking      `json:"bookings,omitempty"`
	Visits        []DayVisit            `json:"visits"`
	Absent        Absent                `json:"absent"`
}

// DayVisit is a visit that is booked. Days are the local days to which it may go, its own
// included; Must says that the client wants no other practitioner. Shares is the same for visits of
// clients who came together and share a room: who stays keeps it, and whoever is laid again at the
// same start keeps the place beside them.
type DayVisit struct {
	ID           string         `json:"id"`
	Practitioner string         `json:"practitioner"`
	Room         string         `json:"room"`
	Start        string         `json:"start"`
	Prepare      int            `json:"prepare,omitempty"`
	Sold         int            `json:"sold"`
	Reset        int            `json:"reset,omitempty"`
	Skills       []string       `json:"skills,omitempty"`
	Equipment    []string       `json:"equipment,omitempty"`
	Tools        map[string]int `json:"tools,omitempty"`
	Must         bool           `json:"must,omitempty"`
	Possible     WeekPieces     `json:"possible,omitempty"`
	Days         []string       `json:"days,omitempty"`
	Arrived      bool           `json:"arrived,omitempty"`
	Shares       string         `json:"shares,omitempty"`
}

// Absent is who is away, from one moment until another.
type Absent struct {
	Who  string `json:"who"`
	From string `json:"from"`
	To   string `json:"to"`
}

// DayAnswer is the new day: its points, the calls to make in the order in which the visits
// began, and the rooms that other visits change to.
type DayAnswer struct {
	Points int          `json:"points"`
	Calls  []Call       `json:"calls"`
	Rooms  []RoomChange `json:"rooms,omitempty"`
}

// Call is a client to be told. Start is wall time, 2006-01-02 15:04; it is null where the
// visit found no place. AskFirst marks a client who wanted no other practitioner.
type Call struct {
	ID           string  `json:"id"`
	Start        *string `json:"start"`
	Practitioner *string `json:"practitioner"`
	Room         *string `json:"room"`
	AskFirst     bool    `json:"askFirst,omitempty"`
}

// RoomChange is another visit that keeps its time and practitioner in another room.
type RoomChange struct {
	ID   string `json:"id"`
	Room string `json:"room"`
}
