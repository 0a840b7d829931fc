package series

// points are the weights of the terms of the cost, in whole points.
type points struct {
	start, change, prefer, weekday, time, rather, late, sliver int
	gap                                                        [][2]int // ideal gap up to, points a day
}

// usualPoints are the handbook's (chapter 6).
func usualPoints() points {
	return points{
		start: 2, change: 10, prefer: 6, weekday: 5, time: 1, rather: 6, late: 2, sliver: 1,
		gap: [][2]int{{4, 12}, {10, 8}, {20, 4}, {9999, 2}},
	}
}

// weighed are the usual points with those that a studio has changed.
func weighed(w *Weights) points {
	p := usualPoints()
	if w == nil {
		return p
	}
	for _, x := range []struct {
		of  *int
		new *int
	}{
		{&p.start, w.Start}, {&p.change, w.Change}, {&p.prefer, w.Prefer}, {&p.weekday, w.Weekday}, {&p.time, w.Time},
		{&p.rather, w.Rather}, {&p.late, w.Late}, {&p.sliver, w.Sliver},
	} {
		if x.new != nil {
			*x.of = *x.new
		}
	}
	if len(w.Gap) > 0 {
		p.gap = nil
		for _, g := range w.Gap {
			if len(g) == 2 {
				p.gap = append(p.gap, [2]int{g[0], g[1]})
			}
		}
	}
	return p
}

// gapPoints are what a day beside an ideal gap costs.
func (p *points) gapPoints(ideal int) int {
	for _, g := range p.gap {
		if ideal <= g[0] {
			return g[1]
		}
	}
	return 0
}

const (
	quarter     = 15
	timeAtMost  = 8
	relayPoints = 10000
	// drainBeforeBed is how long before bed draining ends.
	drainBeforeBed = 120
)

// costOf works out the terms of a placement's own. k is -1 for a patch test; free is the free
// time of the practitioner that holds it, nil where none does.
func (s *studio) costOf(k int, item *Item, p *placement, client, busy piece, free *piece) {
	w := &s.weights
	c := &p.cost
	if k == 0 {
		if f := s.q.Series.First; f != nil && f.Ideal != "" {
			if ideal, err := parseDay(f.Ideal); err == nil {
				c.Start = w.start * distance(p.day, ideal)
			}
		}
	}
	if want := s.q.Series.Practitioner; k >= 0 && want != nil && want.How == "prefer" && s.q.Practitioners[p.person].Key != want.Who {
		c.Prefer = w.prefer
	}
	if s.q.Client.Likes != nil && !s.during(s.q.Client.Likes, p.day, client) {
		c.Rather = w.rather
	}
	if late := s.lateBy(item, p.day, client.to); late > 0 {
		c.Late = w.late * started(late)
	}
	if free != nil {
		for _, left := range []int64{busy.from - free.from, free.to - busy.to} {
			if left > 0 && left < int64(s.q.Shortest) {
				c.Sliver += w.sliver * started(int(left))
			}
		}
	}
	p.points = c.sum()
}

// relay adds what it costs that a treatment changes which is not the one that was moved.
func (s *studio) relay(k int, p *placement) {
	r := s.q.Relay
	if r == nil || k+1 == r.Moved || k >= len(r.Current) || r.Current[k].Start == "" {
		return // nothing of it changes where it stood nowhere
	}
	day, minutes, err := parseMoment(r.Current[k].Start)
	if err != nil || day != p.day || minutes != p.minutes || r.Current[k].Practitioner != s.q.Practitioners[p.person].Key {
		p.cost.Relay = relayPoints
		p.points += relayPoints
	}
}

// lateBy is by how many minutes of the wall clock the sold end passes the limit.
func (s *studio) lateBy(item *Item, day int, end int64) int {
	on, minutes := s.of(end)
	limit := s.lateFrom
	if item.Drain && s.bedtime > 0 {
		limit = min(limit, s.bedtime-drainBeforeBed)
	}
	return minutes + (on-day)*dayMinutes - limit
}

// started counts started quarter hours.
func started(minutes int) int { return (minutes + quarter - 1) / quarter }

func distance(a, b int) int { return max(a-b, b-a) }

// follows reports whether a placement of item k may come after one of the item before.
func (s *studio) follows(k int, a, b *placement) bool {
	if b.fixed {
		return true // what is past obeys no limit
	}
	item := &s.q.Series.Items[k]
	gap := b.day - a.day
	return gap >= max(item.Least, 1) && gap <= item.Most && dayMinutes*gap+b.minutes-a.minutes >= 60*item.Rest &&
		(b.patch == nil || b.patch.day != a.day)
}

// between are the terms of two neighbours, b being of item k.
func (s *studio) between(w *points, k int, a, b *placement) Terms {
	ideal, gap := s.q.Series.Items[k].Ideal, b.day-a.day
	return Terms{Gap: w.ofDays(ideal, gap), Weekday: w.ofWeekday(ideal, gap), Change: w.ofChange(a, b), Time: w.ofTime(a, b)}
}

// ofGap are the points of a gap in days, ofPair the others of two neighbours.
func (p *points) ofGap(ideal, gap int) int   { return p.ofDays(ideal, gap) + p.ofWeekday(ideal, gap) }
func (p *points) ofPair(a, b *placement) int { return p.ofChange(a, b) + p.ofTime(a, b) }
func (p *points) ofDays(ideal, gap int) int  { return p.gapPoints(ideal) * distance(gap, ideal) }

func (p *points) ofWeekday(ideal, gap int) int {
	if ideal%7 == 0 && gap%7 != 0 {
		return p.weekday
	}
	return 0
}

func (p *points) ofChange(a, b *placement) int {
	if a.person != b.person {
		return p.change
	}
	return 0
}

func (p *points) ofTime(a, b *placement) int {
	return p.time * min(distance(a.minutes, b.minutes)/quarter, timeAtMost)
}

func (t *Terms) sum() int {
	return t.Start + t.Gap + t.Change + t.Prefer + t.Weekday + t.Time + t.Rather + t.Late + t.Sliver + t.Relay
}

func (t *Terms) add(o *Terms) {
	t.Start, t.Gap, t.Change, t.Prefer = t.Start+o.Start, t.Gap+o.Gap, t.Change+o.Change, t.Prefer+o.Prefer
	t.Weekday, t.Time, t.Rather, t.Late = t.Weekday+o.Weekday, t.Time+o.Time, t.Rather+o.Rather, t.Late+o.Late
	t.Sliver, t.Relay = t.Sliver+o.Sliver, t.Relay+o.Relay
}
