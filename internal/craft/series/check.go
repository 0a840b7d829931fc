package series

import (
	"fmt"
	"maps"
	"slices"
)

// Check looks whether a series that was chosen before still obeys every limit. Each visit keeps the
// room that was offered where that still serves, and is given the first that does where not. failed is the place in visits of the first that does not,
// with the limit that forbids it; -1 where all do.
func Check(q *Request, visits []Placed) (placed []Placed, failed int, why *Reason, err error) {
	return CheckBeside(q, visits, nil)
}

// CheckBeside is [Check] of some treatments of a series, the others standing where they are.
func CheckBeside(q *Request, visits []Placed, beside map[int]Spot) (placed []Placed, failed int, why *Reason, err error) {
	s, err := compile(q)
	if err != nil {
		return nil, 0, nil, err
	}
	treatments := map[int]Spot{}
	maps.Copy(treatments, beside)
	for _, v := range visits {
		if v.Kind != "patch" {
			treatments[v.N] = Spot{v.Start, v.Practitioner}
		}
	}
	for i, v := range visits {
		at := Spot{v.Start, v.Practitioner}
		var busy piece
		var equipment []string
		if v.Kind == "patch" {
			why, busy, err = s.whyPatch(at, treatments)
		} else if why, err = s.why(v.N, at, treatments); err == nil && why == nil {
			var p spotted
			p, err = s.spot(v.N-1, at)
			busy, equipment = p.busy, p.item.Equipment
		}
		if err != nil || why != nil {
			return nil, i, why, err
		}
		offered := func(r RequestRoom) bool { return r.Key == v.Room && s.serves(&r, equipment, busy) }
		if !slices.ContainsFunc(s.rooms, offered) {
			v.Room = s.room(equipment, busy)
		}
		if v.Room == "" {
			return nil, i, &Reason{Limit: RoomsTaken}, nil
		}
		s.roomBusy[v.Room] = append(s.roomBusy[v.Room], busy)
		placed = append(placed, v)
	}
	return placed, -1, nil, nil
}

// whyPatch is the first limit that forbids the patch test at a spot, nil where none does.
func (s *studio) whyPatch(at Spot, treatments map[int]Spot) (*Reason, piece, error) {
	t := s.q.Series.Patch
	if t == nil {
		return nil, piece{}, fmt.Errorf("no patch test is asked for")
	}
	treatment, stands := treatments[t.Before]
	if !stands {
		return nil, piece{}, fmt.Errorf("there is no visit %d", t.Before)
	}
	of, err := s.spot(t.Before-1, treatment)
	if err != nil {
		return nil, piece{}, err
	}
	p, err := s.spot(t.Before-1, at)
	if err != nil {
		return nil, piece{}, err
	}
	p.item = &Item{Sold: or(t.Sold, patchSold), Reset: or(t.Reset, patchReset), Skills: t.Skills}
	p.client = piece{p.start, p.start + int64(p.item.Sold)}
	p.busy = piece{p.start, p.client.to + int64(p.item.Reset)}
	for _, limit := range []func(*spotted, map[int]spotted) *Reason{s.whyStudio, s.whyPerson, s.whyRoom} {
		if r := limit(&p, nil); r != nil {
			return r, p.busy, nil
		}
	}
	before := of.start - p.start
	switch {
	case !s.clientCan(p.day, p.client):
		return &Reason{Limit: ClientHours}, p.busy, nil
	case s.blockedDay(p.day):
		return &Reason{Blocked, dayText(p.day)}, p.busy, nil
	case before < int64(or(t.From, patchFrom))*60 || before > int64(or(t.To, patchTo))*60:
		return &Reason{Limit: NoPatchTest}, p.busy, nil
	case p.start < s.now:
		return &Reason{Limit: Past}, p.busy, nil
	}
	return nil, p.busy, nil
}
