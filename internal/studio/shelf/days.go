package shelf

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// The lists of a day.
const (
	Opening = "opening"
	Closing = "closing"
)

// DayLists is what is gone through when the day is opened and closed.
type DayLists struct {
	Day     string    `json:"day"`
	Opening []DayItem `json:"opening"`
	Closing []DayItem `json:"closing"`
	// Left are the items of yesterday's closing that nobody ticked.
	Left []string `json:"left"`
}

// DayItem is a line of a list: what to look at, what is not well, and who ticked it.
type DayItem struct {
	Key string `json:"key"`
	// Exceptions are what is not well, in words; Leads is the place in the screens where it is put right.
	Exceptions []string `json:"exceptions"`
	Leads      string   `json:"leads"`
	// Asks for a value: a temperature.
	Asks  bool       `json:"asks"`
	Value string     `json:"value"`
	By    string     `json:"by"`
	At    *time.Time `json:"at,omitempty"`
}

// DayTick is a tick as it is kept.
type DayTick struct {
	Day, List, Item, Value, By string
	At                         time.Time
}

// dayStore is what the day's lists are kept in.
type dayStore interface {
	toolStore
	countStore
	Ticks(ctx context.Context, from, to string) ([]DayTick, error)
	SaveTick(ctx context.Context, t *DayTick, by uuid.UUID) error
	Recalls(ctx context.Context) ([]RecallLine, error)
}

// The items of the lists, in their order, with the place where each is put right.
var (
	openingItems = []DayItem{
		{Key: "left-from-yesterday", Leads: "/shelf/today"}, {Key: "fridge", Asks: true}, {Key: "warmer", Asks: true},
		{Key: "bottles", Leads: "/shelf"}, {Key: "notices", Leads: "/shelf/recall"}, {Key: "baths", Leads: "/shelf/tools"},
		{Key: "tools", Leads: "/shelf/tools"}, {Key: "linen", Leads: "/shelf/tools"}, {Key: "disposables", Leads: "/shelf/order"},
		{Key: "set-up"}, {Key: "hands-and-first-aid"},
	}
	closingItems = []DayItem{
		{Key: "records", Leads: "/"}, {Key: "bottles-shut"}, {Key: "spills", Leads: "/shelf"}, {Key: "tools-away", Leads: "/shelf/tools"},
		{Key: "baths-discarded", Leads: "/shelf/tools"}, {Key: "hamper", Leads: "/shelf/tools"}, {Key: "bin-and-surfaces"},
		{Key: "last-day-tonight", Leads: "/shelf"}, {Key: "order-list", Leads: "/shelf/order"},
	}
)

// DayLists returns today's lists with what is not well.
func (s *Service) DayLists(ctx context.Context, a *studio.Actor) (*DayLists, error) {
	if err := a.May("get-day-lists"); err != nil {
		return nil, err
	}
	var out *DayLists
	err := studio.In(ctx, s.Kernel, a, func(tx dayStore, st *studio.Studio) (err error) {
		out, err = s.dayLists(ctx, tx, st, a)
		return err
	})
	return out, err
}

func (s *Service) dayLists(ctx context.Context, tx dayStore, st *studio.Studio, a *studio.Actor) (*DayLists, error) {
	today := s.Today(st)
	out := &DayLists{Day: today, Opening: slices.Clone(openingItems), Closing: slices.Clone(closingItems), Left: []string{}}
	now, err := time.Parse(time.DateOnly, today)
	if err != nil {
		return nil, err
	}
	yesterday := now.AddDate(0, 0, -1).Format(time.DateOnly)
	var ticks []DayTick
	if err := tx.Gather(
		func() (err error) {
			ticks, err = tx.Ticks(ctx, yesterday, today)
			return err
		},
		studio.Changed(ctx, tx),
	); err != nil {
		return nil, err
	}
	out.carry(ticks, yesterday)
	found, err := s.exceptions(ctx, tx, st)
	if err != nil {
		return nil, err
	}
	if len(out.Left) > 0 {
		found["left-from-yesterday"] = []string{}
		for _, key := range out.Left {
			found["left-from-yesterday"] = append(found["left-from-yesterday"], words.DayItems[key])
		}
	}
	for _, list := range [][]DayItem{out.Opening, out.Closing} {
		for i := range list {
			list[i].Exceptions = found[list[i].Key]
			if list[i].Exceptions == nil {
				list[i].Exceptions = []string{}
			}
		}
	}
	if len(out.Left) == 0 {
		out.Opening = out.Opening[1:]
	}
	return out, nil
}

// carry fills in who ticked what today, and what yesterday left.
func (l *DayLists) carry(ticks []DayTick, yesterday string) {
	closed := map[string]bool{}
	for _, t := range ticks {
		if t.Day == yesterday {
			closed[t.Item] = closed[t.Item] || t.List == Closing
			continue
		}
		list := l.Opening
		if t.List == Closing {
			list = l.Closing
		}
		for i := range list {
			if list[i].Key == t.Item {
				list[i].Value, list[i].By, list[i].At = t.Value, t.By, &t.At
			}
		}
	}
	if len(closed) == 0 {
		return // nobody closed yesterday by this list: the studio was shut, or does not use it
	}
	for i := range closingItems {
		if key := closingItems[i].Key; !closed[key] {
			l.Left = append(l.Left, key)
		}
	}
}

// exceptions are what is not well, by item, in words.
func (s *Service) exceptions(ctx context.Context, tx dayStore, st *studio.Studio) (map[string][]string, error) {
	f, err := s.look(ctx, tx, st)
	if err != nil {
		return nil, err
	}
	var r *toolsNow
	var linen []Linen
	var recalls []RecallLine
	if err := tx.Gather(
		func() (err error) {
			r, err = s.toolsNow(ctx, tx, st, false)
			return err
		},
		studio.Read(ctx, &linen, tx.Linen),
		studio.Read(ctx, &recalls, tx.Recalls),
	); err != nil {
		return nil, err
	}
	out := map[string][]string{}
	bottles(out, f.lines(), f.today)
	r.countLinen(linen)
	r.exceptions(out, linen, st)
	for _, rc := range recalls {
		if s.Now().Sub(rc.At) < 7*24*time.Hour {
			out["notices"] = append(out["notices"], words.RecallOf(rc.Names).Message)
		}
	}
	return out, nil
}

// bottles names what is on its last day, blocked or short today, and what is to order.
func bottles(out map[string][]string, lines []ShelfLine, today string) {
	for i := range lines {
		l := &lines[i]
		p := &l.Product
		for k := range l.Packs {
			q := &l.Packs[k]
			switch until := q.Until(); {
			case !q.Left.IsPositive() && q.Side != studio.TesterSide:
			case until != "" && until < today:
				out["bottles"] = append(out["bottles"], words.PackIsPastItsDay(p.Name, q.Lot).Message)
			case until == today:
				out["bottles"] = append(out["bottles"], words.PackIsOnItsLastDay(p.Name, q.Lot).Message)
				out["last-day-tonight"] = append(out["last-day-tonight"], words.PackIsOnItsLastDay(p.Name, q.Lot).Message)
			case q.Blocked:
				out["notices"] = append(out["notices"], words.PackIsBlocked(p.Name, q.Lot, q.Why).Message)
			}
		}
		if l.Forecast.RunOut != nil && *l.Forecast.RunOut == today {
			key := "bottles"
			if p.Unit == studio.Pieces {
				key = "disposables"
			}
			out[key] = append(out[key], words.NotEnoughForToday(p.Name, l.Remaining, p.Unit).Message)
		}
		if l.Reorder.Order.Order {
			out["order-list"] = append(out["order-list"], words.OrderName(p.Name).Message)
		}
	}
}

// exceptions names the tools, baths and linen that are not ready, and the records still open.
func (r *toolsNow) exceptions(out map[string][]string, linen []Linen, st *studio.Studio) {
	for _, l := range r.lines() {
		for _, w := range l.Wanted {
			if w.Piece > 0 {
				continue
			}
			at := w.At.In(st.Zone()).Format("15:04")
			say := words.NoPieceIsReady(l.Tool.Name, at).Message
			if w.FirstReady != nil {
				say = words.PieceIsReadyLater(l.Tool.Name, at, w.FirstReady.In(st.Zone()).Format("15:04")).Message
			}
			out["tools"] = append(out["tools"], say)
		}
		for _, p := range l.Pieces {
			if p.Worn {
				out["tools"] = append(out["tools"], words.LookThePieceOver(l.Tool.Name, p.Number, p.Uses).Message)
			}
			if slices.Contains([]shelf.PieceState{shelf.PieceInUse, shelf.PieceToClean, shelf.PieceInBath, shelf.PieceDrying}, p.State) {
				out["tools-away"] = append(out["tools-away"], words.PieceStands(l.Tool.Name, p.Number, string(p.State)).Message)
			}
		}
	}
	good := false
	for _, b := range r.baths {
		good = good || b.Good
		if !b.Good {
			say := words.BathIsPastItsTime(b.Product).Message
			out["baths"], out["baths-discarded"] = append(out["baths"], say), append(out["baths-discarded"], say)
		}
	}
	if !good && len(r.visits) > 0 {
		out["baths"] = append(out["baths"], words.NoBathIsMade().Message)
	}
	for _, l := range linen {
		if l.Short > 0 {
			out["linen"] = append(out["linen"], words.LinenIsShort(l.Kind, l.Short).Message)
		}
		if n := l.InUse + l.ToWash; n > 0 {
			out["hamper"] = append(out["hamper"], words.LinenIsToWash(l.Kind, n).Message)
		}
	}
	for i := range r.visits {
		if v := &r.visits[i]; v.State == studio.InRoom {
			out["records"] = append(out["records"], words.RecordIsOpen(v.ClientName, v.StartsAt.In(st.Zone()).Format("15:04")).Message)
		}
	}
}

// Tick writes down that an item was seen to; with a value where one is asked for. A tick made twice stays
// the first.
func (s *Service) Tick(ctx context.Context, a *studio.Actor, list string, items []DayTick) error {
	if err := a.May("tick-day"); err != nil {
		return err
	}
	known := openingItems
	if list == Closing {
		known = closingItems
	}
	return studio.In(ctx, s.Kernel, a, func(tx dayStore, st *studio.Studio) error {
		for _, t := range items {
			i := slices.IndexFunc(known, func(x DayItem) bool { return x.Key == t.Item })
			if i < 0 {
				return studio.ErrNotFound
			}
			if known[i].Asks && strings.TrimSpace(t.Value) == "" {
				return studio.FaultAt("/value", words.ReadTheTemperature())
			}
			tick := &DayTick{Day: s.Today(st), List: list, Item: t.Item, Value: strings.TrimSpace(t.Value), At: s.Now()}
			if err := tx.SaveTick(ctx, tick, a.Account); err != nil {
				return err
			}
		}
		return nil
	})
}
