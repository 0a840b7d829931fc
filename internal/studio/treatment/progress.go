package treatment

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/measuring"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Progress is what was measured, graded and done on a client over time. It says what changed beyond the noise, never
// why.
type Progress struct {
	Client    uuid.UUID          `json:"client"`
	Name      string             `json:"name"`
	Measures  []MeasureProgress  `json:"measures"`
	Grades    []GradeProgress    `json:"grades"`
	Visits    []ProgressVisit    `json:"visits"`
	Reactions []ProgressReaction `json:"reactions"`
	Offered   []OfferedMeasure   `json:"offered"`
}

// OfferedMeasure is a measure that may be taken with an instrument.
type OfferedMeasure struct {
	Measure    string               `json:"measure"`
	Instrument measuring.Instrument `json:"instrument" enum:"caliper,tape,photo,grade"`
	Paired     bool                 `json:"paired"`
	Least      float64              `json:"least"`
	Most       float64              `json:"most"`
	Decimals   int                  `json:"decimals"`
	// Readings are how many are taken; a third where two lie further apart than Apart.
	Readings int     `json:"readings"`
	Apart    float64 `json:"apart"`
}

// offered are all measures with each instrument.
func offered() []OfferedMeasure {
	out := []OfferedMeasure{}
	for i := range measuring.Measures {
		m := &measuring.Measures[i]
		for _, with := range m.Instruments {
			out = append(out, OfferedMeasure{m.Key, with, m.Paired, m.Least, m.Most, with.Decimals(), 2, m.MostApart(with)})
		}
		if m.Graded() {
			out = append(out, OfferedMeasure{m.Key, studio.ByGrade, m.Paired, m.Least, m.Most, 0, 1, 0})
		}
	}
	return out
}

// MeasureProgress is one measure with one instrument over time, side by side.
type MeasureProgress struct {
	Measure    string               `json:"measure"`
	Instrument measuring.Instrument `json:"instrument" enum:"caliper,tape,photo"`
	// Hope is what was stated to be hoped for; empty for nothing.
	Hope  string               `json:"hope,omitempty" enum:"longer,shorter,"`
	Sides []SideProgress       `json:"sides"`
	Said  []Said               `json:"said"`
	All   []studio.Measurement `json:"all"`
}

// SideProgress is a measure on one side: its points, and the band that a change has to leave.
type SideProgress struct {
	Side   string          `json:"side" enum:"left,right,mid"`
	Points []ProgressPoint `json:"points"`
	// From is the first mean, or that of the days before the first treatment; Band reaches so far to each side of it.
	From float64 `json:"from"`
	Band float64 `json:"band"`
	// Usual says that the band is drawn with a usual noise, as the practitioner's own is not known yet.
	Usual bool   `json:"usual,omitempty"`
	Said  []Said `json:"said"`
}

// ProgressPoint is the mean of readings, or a grade.
type ProgressPoint struct {
	At     time.Time     `json:"at"`
	Value  float64       `json:"value"`
	Moment studio.Moment `json:"moment,omitempty" enum:"before,after,"`
	By     string        `json:"by,omitempty"`
}

// GradeProgress is what was graded over time.
type GradeProgress struct {
	Measure string          `json:"measure"`
	Side    string          `json:"side"`
	Most    float64         `json:"most"`
	Points  []ProgressPoint `json:"points"`
	Said    *Said           `json:"said,omitempty"`
}

// ProgressVisit is a treatment that was given.
type ProgressVisit struct {
	ID           uuid.UUID  `json:"id"`
	At           time.Time  `json:"at"`
	Protocol     string     `json:"protocol"`
	Practitioner string     `json:"practitioner"`
	Series       *uuid.UUID `json:"series,omitempty"`
	Item         int        `json:"item,omitempty"`
	SeriesLength int        `json:"seriesLength,omitempty"`
}

// ProgressReaction is a reaction on the time line.
type ProgressReaction struct {
	At    time.Time `json:"at"`
	Kind  string    `json:"kind"`
	Grade int       `json:"grade"`
}

// Progress returns a client's progress.
func (s *Service) Progress(ctx context.Context, a *studio.Actor, client uuid.UUID) (*Progress, error) {
	if err := a.May("get-progress"); err != nil {
		return nil, err
	}
	var out *Progress
	err := studio.In(ctx, s.Kernel, a, func(tx measureStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "get-progress", client); err != nil {
			return err
		}
		c, err := tx.Client(ctx, client)
		if err != nil {
			return err
		}
		out = &Progress{Client: client, Name: c.Name, Measures: []MeasureProgress{}, Grades: []GradeProgress{}, Visits: []ProgressVisit{}, Reactions: []ProgressReaction{}, Offered: offered()}
		if err := out.addVisits(ctx, tx, client); err != nil {
			return err
		}
		if err := out.addMeasures(ctx, tx, st, client); err != nil {
			return err
		}
		list, err := studio.As[reactionStore](tx).Reactions(ctx, client)
		if err != nil {
			return err
		}
		for i := range list {
			if r := &list[i]; r.Outcome != "mistake" {
				out.Reactions = append(out.Reactions, ProgressReaction{r.NoticedAt, r.Kind, r.Grade})
			}
		}
		if err := s.addRoomGrades(ctx, tx, st, out); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "look", "client", client)
	})
	return out, err
}

// addVisits adds the treatments that were given, oldest first.
func (p *Progress) addVisits(ctx context.Context, tx measureStore, client uuid.UUID) error {
	visits, err := tx.ClientVisits(ctx, client)
	if err != nil {
		return err
	}
	for i := range visits {
		if v := &visits[i]; v.Kind == studio.ForTreatment && v.State.Given() {
			p.Visits = append(p.Visits, ProgressVisit{v.ID, v.StartsAt, v.ProtocolName, v.PractitionerName, v.Series, v.Item, v.SeriesLength})
		}
	}
	slices.Reverse(p.Visits)
	return nil
}

// addMeasures adds the lengths and angles with what they come to, in the order of the measures.
func (p *Progress) addMeasures(ctx context.Context, tx measureStore, st *studio.Studio, client uuid.UUID) error {
	all, err := tx.Measurements(ctx, client)
	if err != nil {
		return err
	}
	hopes, err := tx.Hopes(ctx, client)
	if err != nil {
		return err
	}
	for i := range measuring.Measures {
		m := &measuring.Measures[i]
		if m.Graded() {
			p.gradesOf(m, all)
			continue
		}
		for _, with := range m.Instruments {
			of := slices.DeleteFunc(slices.Clone(all), func(x studio.Measurement) bool { return x.Measure != m.Key || x.Instrument != with })
			if len(of) == 0 {
				continue
			}
			look := &looking{measure: m, with: with, zone: st.Zone(), visits: p.Visits, of: counting(of)}
			if k := slices.IndexFunc(hopes, func(h studio.Hope) bool { return h.Measure == m.Key }); k >= 0 {
				look.hope = &hopes[k]
			}
			one, err := look.progress(ctx, tx)
			if err != nil {
				return err
			}
			one.All = of
			p.Measures = append(p.Measures, *one)
		}
	}
	return nil
}

// counting leaves out what was struck.
func counting(of []studio.Measurement) []studio.Measurement {
	return slices.DeleteFunc(slices.Clone(of), func(x studio.Measurement) bool { return x.StruckAt != nil })
}

// gradesOf adds what was graded of a measure.
func (p *Progress) gradesOf(m *measuring.Measure, all []studio.Measurement) {
	for _, side := range []string{"left", "right", "mid"} {
		g := GradeProgress{Measure: m.Key, Side: side, Most: m.Most, Points: []ProgressPoint{}}
		for i := range all {
			if x := &all[i]; x.Measure == m.Key && x.Side == side && x.StruckAt == nil {
				g.Points = append(g.Points, ProgressPoint{x.At, x.Mean(), x.Moment, x.By})
			}
		}
		if len(g.Points) > 0 {
			p.Grades = append(p.Grades, g)
		}
	}
}

// addRoomGrades adds what was graded in the room, treatment by treatment.
func (s *Service) addRoomGrades(ctx context.Context, tx measureStore, st *studio.Studio, p *Progress) error {
	for _, v := range p.Visits {
		t, err := tx.Treatment(ctx, v.ID)
		if err != nil {
			continue // given without the guide
		}
		account, err := s.account(ctx, tx, t)
		if err != nil || account == nil {
			if err != nil {
				return err
			}
			continue
		}
		for key, value := range account.Grades {
			measure, rest, _ := strings.Cut(key, "/")
			side, _, _ := strings.Cut(rest, "/")
			if m := measuring.Find(measure); m != nil {
				p.grade(m, side, ProgressPoint{v.At, value, studio.After, v.Practitioner})
			}
		}
	}
	p.sayGrades(st)
	return nil
}

// grade adds a grade to its line.
func (p *Progress) grade(m *measuring.Measure, side string, point ProgressPoint) {
	i := slices.IndexFunc(p.Grades, func(g GradeProgress) bool { return g.Measure == m.Key && g.Side == side })
	if i < 0 {
		i = len(p.Grades)
		p.Grades = append(p.Grades, GradeProgress{Measure: m.Key, Side: side, Most: m.Most, Points: []ProgressPoint{}})
	}
	p.Grades[i].Points = append(p.Grades[i].Points, point)
}

// sayGrades says how the grades of the same person moved, each line in the order of time.
func (p *Progress) sayGrades(st *studio.Studio) {
	place := func(g *GradeProgress) int {
		return slices.IndexFunc(measuring.Measures, func(m measuring.Measure) bool { return m.Key == g.Measure })
	}
	slices.SortFunc(p.Grades, func(a, b GradeProgress) int {
		if d := place(&a) - place(&b); d != 0 {
			return d
		}
		return strings.Compare(a.Side, b.Side)
	})
	for i := range p.Grades {
		g := &p.Grades[i]
		slices.SortStableFunc(g.Points, func(a, b ProgressPoint) int { return a.At.Compare(b.At) })
		last := &g.Points[len(g.Points)-1]
		k := slices.IndexFunc(g.Points, func(x ProgressPoint) bool { return x.By == last.By && x.Moment == last.Moment })
		if first := &g.Points[k]; first != last && !first.At.Equal(last.At) {
			said := sayGrades(measuring.Find(g.Measure), first.Value, last.Value, dayOf(first.At, st.Zone()))
			g.Said = &said
		}
	}
}

// dayOf is a local day in words.
func dayOf(at time.Time, zone *time.Location) string { return at.In(zone).Format("2 Jan 2006") }

// looking is one measure with one instrument being looked at.
type looking struct {
	measure *measuring.Measure
	with    measuring.Instrument
	zone    *time.Location
	visits  []ProgressVisit
	of      []studio.Measurement // that count, oldest first
	hope    *studio.Hope
	noise   [][]float64 // of whoever measured last
	fewDays int         // before the first treatment, where they are too few to compare with
}

// progress works out what a measure comes to. Only readings of the same person are compared.
func (l *looking) progress(ctx context.Context, tx measureStore) (*MeasureProgress, error) {
	out := &MeasureProgress{Measure: l.measure.Key, Instrument: l.with, Sides: []SideProgress{}, Said: []Said{}}
	if l.hope != nil {
		out.Hope = l.hope.Hope
	}
	if len(l.of) == 0 {
		return out, nil
	}
	last := &l.of[len(l.of)-1]
	var err error
	if l.noise, err = tx.Occasions(ctx, last.Account, l.measure.Key, l.with); err != nil {
		return nil, err
	}
	for _, side := range []string{"left", "right", "mid"} {
		of := slices.DeleteFunc(slices.Clone(l.of), func(x studio.Measurement) bool { return x.Side != side })
		if len(of) == 0 {
			continue
		}
		one, err := l.side(side, of)
		if err != nil {
			return nil, err
		}
		out.Sides = append(out.Sides, *one)
	}
	if said, _, ok, err := l.asymmetry(); err != nil {
		return nil, err
	} else if ok {
		out.Said = append(out.Said, said)
	}
	if l.fewDays > 0 {
		out.Said = append(out.Said, Said{Text: words.BriefMeasureFewDays(l.fewDays)})
	}
	if measuring.Drifts(l.noise) {
		out.Said = append(out.Said, Said{Text: words.BriefMeasureDrifts})
	}
	return out, nil
}

// side is a measure on one side.
func (l *looking) side(side string, of []studio.Measurement) (*SideProgress, error) {
	out := &SideProgress{Side: side, Points: []ProgressPoint{}, Said: []Said{}, From: of[0].Mean()}
	for i := range of {
		x := &of[i]
		out.Points = append(out.Points, ProgressPoint{x.At, x.Mean(), x.Moment, x.By})
	}
	half, own := l.measure.Band(l.with, l.noise, len(of[0].Readings))
	out.Band, out.Usual = half, !own
	rest := slices.DeleteFunc(slices.Clone(of), func(x studio.Measurement) bool { return x.Moment != studio.Before })
	if len(rest) > 0 {
		if err := l.since(out, rest); err != nil {
			return nil, err
		}
	}
	return out, l.sameDay(out, of)
}

// since compares the newest readings at rest with the first ones of the same person, and with the days before the first
// treatment.
func (l *looking) since(out *SideProgress, rest []studio.Measurement) error {
	last := &rest[len(rest)-1]
	first := rest[slices.IndexFunc(rest, func(x studio.Measurement) bool { return x.Account == last.Account })]
	if first.ID == last.ID && len(rest) > 1 {
		out.Said = append(out.Said, Said{measuring.TooFew, words.BriefMeasureByOther})
		return nil
	}
	if first.ID == last.ID {
		return nil
	}
	j, err := (&measuring.Readings{Occasions: l.noise, Before: first.Readings, After: last.Readings}).Judge()
	if err != nil {
		return err
	}
	text := provisional(sayChange(j.Verdict, *j.Change, j.SDC, l.with, l.hopedAt(first.At)), &j)
	out.Said = append(out.Said, Said{j.Verdict, words.BriefMeasureSince(dayOf(first.At, l.zone), text)})
	days := l.baseline(rest, last)
	switch {
	case len(days) == 0:
		return nil
	case len(days) < measuring.FewestDays:
		l.fewDays = len(days)
		return nil
	}
	if j, err = (&measuring.Readings{Occasions: l.noise, Baselines: days, New: last.Readings}).Judge(); err != nil {
		return err
	}
	b := j.Baseline
	change := last.Mean() - b.Mean
	text = provisional(sayChange(b.Verdict, change, b.Band, l.with, l.hopedAt(first.At)), &j)
	out.Said = append(out.Said, Said{b.Verdict, words.BriefMeasureBaseline(len(days), text)})
	out.From = b.Mean
	if b.Band != nil {
		out.Band, out.Usual = *b.Band, false
	}
	return nil
}

// hopedAt is what was hoped for when it was measured first; what was stated later counts for nothing.
func (l *looking) hopedAt(first time.Time) string {
	if l.hope == nil || l.hope.Since.After(first.Add(hopeGrace)) {
		return ""
	}
	return l.hope.Hope
}

// hopeGrace is how long after the first readings a hope still counts as stated beforehand: it is stated at the same
// visit.
const hopeGrace = 2 * time.Hour

// baseline are the readings of the days up to the first treatment after measuring began, a day each, by the person who
// measured last.
func (l *looking) baseline(rest []studio.Measurement, last *studio.Measurement) [][]float64 {
	local := func(at time.Time) string { return at.In(l.zone).Format(time.DateOnly) }
	began := local(rest[0].At)
	i := slices.IndexFunc(l.visits, func(v ProgressVisit) bool { return local(v.At) >= began })
	if i < 0 {
		return nil
	}
	treated := local(l.visits[i].At)
	var days [][]float64
	day := ""
	for k := range rest {
		x := &rest[k]
		d := local(x.At)
		if d > treated || x.Account != last.Account || x.ID == last.ID {
			continue
		}
		if d != day {
			days, day = append(days, nil), d
		}
		days[len(days)-1] = append(days[len(days)-1], x.Readings...)
	}
	if local(last.At) <= treated {
		return nil
	}
	return days
}

// sameDay compares before and after of the newest day, where it has both.
func (l *looking) sameDay(out *SideProgress, of []studio.Measurement) error {
	for i := len(of) - 1; i >= 0; i-- {
		after := &of[i]
		if after.Moment != studio.After {
			continue
		}
		for k := i - 1; k >= 0; k-- {
			before := &of[k]
			if dayOf(after.At, l.zone) != dayOf(of[len(of)-1].At, l.zone) {
				return nil
			}
			if before.Moment != studio.Before || before.Account != after.Account || dayOf(before.At, l.zone) != dayOf(after.At, l.zone) {
				continue
			}
			j, err := (&measuring.Readings{Occasions: l.noise, Before: before.Readings, After: after.Readings}).Judge()
			if err != nil {
				return err
			}
			text := provisional(sayChange(j.Verdict, *j.Change, j.SDC, l.with, l.hopedAt(before.At)), &j)
			out.Said = append(out.Said, Said{j.Verdict, words.BriefMeasureOnDay(dayOf(after.At, l.zone), text)})
			return nil
		}
		return nil
	}
	return nil
}

// asymmetry compares the newest readings at rest of left and right, where one person took them on one day.
func (l *looking) asymmetry() (said Said, weaker string, ok bool, err error) {
	newest := func(side string) *studio.Measurement {
		for i := len(l.of) - 1; i >= 0; i-- {
			if x := &l.of[i]; x.Side == side && x.Moment == studio.Before {
				return x
			}
		}
		return nil
	}
	left, right := newest("left"), newest("right")
	if left == nil || right == nil || left.Account != right.Account || dayOf(left.At, l.zone) != dayOf(right.At, l.zone) {
		return Said{}, "", false, nil
	}
	j, err := (&measuring.Readings{Occasions: l.noise, Left: left.Readings, Right: right.Readings}).Judge()
	if err != nil {
		return Said{}, "", false, err
	}
	if j.Real != nil && *j.Real {
		weaker = l.measure.Weaker(left.Mean() - right.Mean())
	}
	return sayAsymmetry(l.measure, left.Mean(), right.Mean(), &j, l.with), weaker, true, nil
}
