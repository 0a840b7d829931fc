package diary

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// mostStripDays is how many days are shown at once.
const mostStripDays = 70

// Strips are days of the diary by occupancy alone, and one of them as a picture.
type Strips struct {
	Days   []series.DayLoad `json:"days"`
	People []studio.Person  `json:"people"`
	// Closed says why the studio is closed, by day.
	Closed map[string]string `json:"closed"`
	Day    DayPicture        `json:"day"`
}

// DayPicture is one day: what is booked and held, room by room and practitioner by practitioner,
// and what the tools do.
type DayPicture struct {
	Date   string             `json:"date"`
	Opens  string             `json:"opens"`
	Closes string             `json:"closes"`
	Load   series.DayLoad     `json:"load"`
	Rooms  []studio.Room      `json:"rooms"`
	Visits []studio.VisitLine `json:"visits"`
	Holds  []HeldVisit        `json:"holds"`
	Tools  []ToolLane         `json:"tools"`
}

// HeldVisit is a time that is held for somebody.
type HeldVisit struct {
	studio.BusyTime
	ClientName string    `json:"clientName"`
	Until      time.Time `json:"heldUntil"`
}

// ToolLane is a kind of tool over a day: how many sets there are, and which visits take some until
// they are ready again.
type ToolLane struct {
	Name string    `json:"name"`
	Sets int       `json:"sets"`
	Uses []ToolUse `json:"uses"`
}

// ToolUse is a number of sets that a visit takes; Ready is when they are clean and at temperature.
type ToolUse struct {
	From  time.Time `json:"from"`
	End   time.Time `json:"end"`
	Ready time.Time `json:"ready"`
	Sets  int       `json:"sets"`
}

// stripStore is what the strips are read from.
type stripStore interface {
	finderStore
	Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error)
	Holds(ctx context.Context, now time.Time) ([]studio.Series, error)
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
}

// Strips returns days from one on by occupancy, and one day as a picture; empty days are today.
func (s *Service) Strips(ctx context.Context, a *studio.Actor, from, day string, days int) (*Strips, error) {
	if err := a.May("get-strips"); err != nil {
		return nil, err
	}
	out := &Strips{Closed: map[string]string{}}
	err := studio.In(ctx, s.Kernel, a, func(tx stripStore, st *studio.Studio) error {
		today := s.Today(st)
		if from == "" {
			from = today
		}
		if day == "" {
			day = today
		}
		at, err := time.ParseInLocation(time.DateOnly, day, st.Zone())
		if err != nil {
			return studio.FaultAt("/day", words.EnterDateAsYearMonthDayFor())
		}
		x, err := s.gather(ctx, tx, st, nil, nil)
		if err != nil {
			return err
		}
		if out.Days, err = series.Loads(&x.request, from, min(max(days, 1), mostStripDays)); err != nil {
			return studio.FaultAt("/from", words.EnterDateAsYearMonthDayFor())
		}
		for i := range out.Days {
			if c := series.ClosedOn(st.Closures, out.Days[i].Day); c != nil {
				out.Closed[out.Days[i].Day] = c.Reason
			}
		}
		out.People = x.people
		return s.dayPicture(ctx, tx, st, a, x, at, &out.Day)
	})
	return out, err
}

func (s *Service) dayPicture(ctx context.Context, tx stripStore, st *studio.Studio, a *studio.Actor, x *asking, at time.Time, out *DayPicture) error {
	h := st.Open[at.Weekday()]
	out.Date, out.Opens, out.Closes, out.Rooms = at.Format(time.DateOnly), clockOf(h.From), clockOf(h.To), x.rooms
	loads, err := series.Loads(&x.request, out.Date, 1)
	if err != nil {
		return err
	}
	out.Load = loads[0]
	end := at.AddDate(0, 0, 1)
	if out.Visits, err = tx.Visits(ctx, at, end); err != nil {
		return err
	}
	if err := s.Checks.Outlook(ctx, tx, st, a, out.Visits); err != nil {
		return err
	}
	held, err := tx.Holds(ctx, s.Now())
	if err != nil {
		return err
	}
	until := map[uuid.UUID]time.Time{}
	for i := range held {
		until[held[i].ID] = *held[i].HeldUntil
	}
	out.Holds, out.Tools = []HeldVisit{}, []ToolLane{}
	for i := range x.busy {
		b := &x.busy[i]
		if b.Series == nil || b.Start.Before(at) || !b.Start.Before(end) || until[*b.Series].IsZero() {
			continue
		}
		c, err := tx.Client(ctx, b.Client)
		if err != nil {
			return err
		}
		out.Holds = append(out.Holds, HeldVisit{*b, c.Name, until[*b.Series]})
	}
	for i := range x.lib.Tools {
		t := &x.lib.Tools[i]
		lane := ToolLane{Name: t.Name, Sets: t.Pieces}
		for j := range x.busy {
			if b := &x.busy[j]; b.Tools[t.Key] > 0 && !b.Start.Before(at) && b.Start.Before(end) {
				ready := b.End.Add(time.Duration(t.ReadyAfter+t.Chill) * time.Minute)
				lane.Uses = append(lane.Uses, ToolUse{b.From, b.End, ready, b.Tools[t.Key]})
			}
		}
		if 2*lane.peak() >= lane.Sets && len(lane.Uses) > 0 { // of others there are always plenty
			out.Tools = append(out.Tools, lane)
		}
	}
	return nil
}

// peak is the most sets that are in use or getting ready at once.
func (l *ToolLane) peak() int {
	most := 0
	for i := range l.Uses {
		at, sum := l.Uses[i].From, 0
		for _, u := range l.Uses {
			if !u.From.After(at) && u.Ready.After(at) {
				sum += u.Sets
			}
		}
		most = max(most, sum)
	}
	return most
}
