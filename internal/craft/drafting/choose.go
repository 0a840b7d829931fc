package drafting

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// pick is a stroke in the work, and why it is there.
type pick struct {
	st  *stroke.Stroke
	why string
	// on says that it works a concern's zones with its intents; must that a promise rests on it.
	on, must bool
	// rank is for the order in which strokes go again: the last first.
	rank int
	part part
}

// part is where in the arc a stroke stands.
type part int

const (
	arriving part = iota // big slow strokes over chest, shoulders and neck
	inHair
	working
	carryingHome
	byTool
	calming
)

// span is how many strokes a teacher takes in the work, by minutes of hands-on time (review of the
// composer for 30, 45 and 60; between and beyond, common practice).
func span(minutes int) (least, most int) {
	at := []struct{ minutes, least, most int }{{5, 1, 4}, {15, 4, 12}, {30, 8, 14}, {45, 14, 20}, {60, 18, 26}, {120, 30, 44}}
	for i := 1; i < len(at); i++ {
		if a, b := at[i-1], at[i]; minutes <= b.minutes {
			k := max(0, minutes-a.minutes)
			n := b.minutes - a.minutes
			return a.least + (b.least-a.least)*k/n, a.most + (b.most-a.most)*k/n
		}
	}
	return 30, 44
}

// choose picks the strokes of the work: core strokes of every concern, then what its zones still lack,
// the frame of the arc, and as many more that serve as the treatment holds.
func (d *drafting) choose(n int) error {
	d.chosen = nil
	all := d.candidates()
	d.takeCore()
	if missing := d.takeMissing(all); len(missing) > 0 {
		return &NoDraft{Code: "no-stroke", Zones: missing}
	}
	d.takeHome()
	if d.q.Method.DrainageOrUsual() != "whole" {
		d.takeFrom(calm, 1+n/16, calming, words.PaperWhyCalm)
		if n >= 8 {
			d.takeFrom(big, 1+n/12, arriving, words.PaperWhyArrive)
		}
	}
	for _, level := range []int{2, 1, 0} {
		for _, st := range all {
			if len(d.chosen) >= n {
				break
			}
			if c := d.best(st, level); c != nil || level == 0 && d.onTheWay(st) {
				d.take(st, d.whyServes(st, c, level), false)
			}
		}
	}
	if d.q.Exercises {
		d.takeExercises()
	}
	if len(d.chosen) == 0 {
		return &NoDraft{Code: "no-stroke", Zones: []string{}}
	}
	return nil
}

// candidates are the strokes that suit, the best first; dry grips only come in as core strokes.
func (d *drafting) candidates() []*stroke.Stroke {
	var all []*stroke.Stroke
	for _, k := range slices.Sorted(maps.Keys(d.ctx.Strokes)) {
		if st := d.ctx.Strokes[k]; d.suits(st) && st.Intent != stroke.Tone && (st.Glide != stroke.GripGlide || d.q.Method.Slip == "dry") {
			all = append(all, st)
		}
	}
	slices.SortStableFunc(all, func(a, b *stroke.Stroke) int { return cmp.Compare(d.score(b), d.score(a)) })
	return all
}

// score is how well a stroke serves the concerns, earlier ones and their first intents counting more.
func (d *drafting) score(st *stroke.Stroke) float64 {
	score := 0.0
	for rank, c := range d.concerns {
		in := slices.Index(c.Intents, st.Intent)
		n := 0
		for _, z := range c.Zones {
			if touches(st, z) {
				n++
			}
		}
		switch {
		case n > 0 && in >= 0:
			score += (1 + 0.3*float64(n-1)) * (1 - 0.2*float64(in)) / (1 + 0.5*float64(rank))
		case n > 0:
			score += 0.2
		case in >= 0 && touches(st, c.Also...):
			score += 0.3 / (1 + 0.5*float64(rank))
		}
	}
	return score
}

// onTheWay reports whether a stroke lies on the way to the concerns: chest, shoulders and neck first.
// Without a concern everything serves.
func (d *drafting) onTheWay(st *stroke.Stroke) bool {
	if len(d.wanted()) == 0 {
		return true
	}
	switch regionOf(st) {
	case anatomy.Chest, anatomy.Shoulder, anatomy.Neck:
		return true
	}
	return d.short || st.Intent == stroke.Soothe && !atEye(st)
}

// wanted are the zones of all concerns.
func (d *drafting) wanted() (zones []string) {
	for _, c := range d.concerns {
		zones = append(zones, c.Zones...)
	}
	return zones
}

// best is the first concern that a stroke serves at a level.
func (d *drafting) best(st *stroke.Stroke, level int) *protocol.Concern {
	for _, c := range d.concerns {
		if level > 0 && serves(st, c) == level {
			return c
		}
	}
	return nil
}

func (d *drafting) whyServes(st *stroke.Stroke, c *protocol.Concern, level int) string {
	switch {
	case c == nil && len(d.wanted()) == 0:
		return words.PaperWhyWhole
	case c == nil && slices.Contains([]anatomy.Region{anatomy.Neck, anatomy.Shoulder, anatomy.Chest}, regionOf(st)):
		return words.PaperWhyOnTheWay
	case c == nil:
		return words.PaperWhyFill
	case st.Tool != nil:
		return words.PaperWhyTool(strings.ToLower(c.Name))
	case level == 2:
		return words.PaperWhyServes(strings.ToLower(c.Name))
	}
	return words.PaperWhyBeside(strings.ToLower(c.Name))
}

// take adds a stroke that is no twin of one that is in, where its tool may be laid out.
func (d *drafting) take(st *stroke.Stroke, why string, must bool) bool {
	if st == nil || d.in(st) || !d.layable(st) {
		return false
	}
	p := pick{st: st, why: why, on: d.onConcern(st), must: must, rank: len(d.chosen), part: partOf(st)}
	d.chosen = append(d.chosen, p)
	return true
}

// partOf is where a stroke stands unless it frames the work.
func partOf(st *stroke.Stroke) part {
	if st.Tool != nil {
		return byTool
	}
	for _, z := range st.Zones() {
		if id, _ := anatomy.Lookup(z); id.Zone() != nil && id.Zone().Region == anatomy.Scalp && z != "skull-edge" && z != "occiput" {
			return inHair
		}
	}
	switch regionOf(st) {
	case anatomy.Chest, anatomy.Shoulder, anatomy.Scalp:
		return arriving
	case anatomy.Neck:
		if st.Intent != stroke.Drain {
			return arriving
		}
	}
	return working
}

// in reports whether a stroke, or its twin on the same path, is in already.
func (d *drafting) in(st *stroke.Stroke) bool {
	return slices.ContainsFunc(d.chosen, func(x pick) bool {
		return x.st.Key == st.Key || slices.Equal(x.st.Zones(), st.Zones()) && x.st.Relation == st.Relation
	})
}

// takeCore takes the core strokes of every concern: three of a single one, two where there are more.
func (d *drafting) takeCore() {
	each := 4
	switch {
	case d.q.Minutes <= 15:
		each = 3
	case d.q.Minutes >= 40:
		each = 5
	}
	if len(d.concerns) > 1 {
		each = 3
	}
	if len(d.concerns) > 2 || d.q.Minutes <= 15 && len(d.concerns) > 1 {
		each = 2
	}
	for _, c := range d.concerns {
		n := 0
		for _, key := range core[c.Key] {
			if n == each {
				break
			}
			for _, k := range []string{key, unslid[key]} {
				if st := d.ctx.Strokes[k]; st != nil && d.suits(st) && d.take(st, words.PaperWhyCore(strings.ToLower(c.Name)), true) {
					n++
					break
				}
			}
		}
	}
}

// takeMissing works every zone that a concern promises, and returns those that nothing works.
func (d *drafting) takeMissing(all []*stroke.Stroke) (missing []string) {
	for _, c := range d.concerns {
		for _, z := range c.Zones {
			if slices.ContainsFunc(d.chosen, func(x pick) bool { return touches(x.st, z) }) {
				continue
			}
			var best *stroke.Stroke
			for _, st := range all {
				if touches(st, z) && !d.in(st) && d.layable(st) &&
					(best == nil || slices.Contains(c.Intents, st.Intent) && !slices.Contains(c.Intents, best.Intent)) {
					best = st
				}
			}
			if !d.take(best, words.PaperWhyServes(strings.ToLower(c.Name)), true) {
				missing = append(missing, z)
			}
		}
	}
	return missing
}

// takeHome carries home what the face's drains have moved.
func (d *drafting) takeHome() {
	if !slices.ContainsFunc(d.chosen, func(x pick) bool { return x.st.Intent == stroke.Drain }) {
		return
	}
	for _, key := range []string{"neck-drain", "still-neck-home"} {
		if st := d.ctx.Strokes[key]; st != nil && d.suits(st) && d.take(st, words.PaperWhyHome, false) {
			d.chosen[len(d.chosen)-1].part = carryingHome
			return
		}
	}
}

// takeFrom takes some strokes of a list, for a part of the arc.
func (d *drafting) takeFrom(list []string, n int, at part, why string) {
	for _, key := range list {
		if st := d.ctx.Strokes[key]; n > 0 && st != nil && d.suits(st) && d.take(st, why, false) {
			d.chosen[len(d.chosen)-1].part = at
			n--
		}
	}
}

// mostExercises of a treatment, in a row: hands-on time is for hands.
const mostExercises = 2

func (d *drafting) takeExercises() {
	n := 0
	for _, k := range slices.Sorted(maps.Keys(d.ctx.Strokes)) {
		st := d.ctx.Strokes[k]
		if n < mostExercises && st.Intent == stroke.Tone && d.suits(st) && (len(d.concerns) == 0 || d.best(st, 2) != nil || d.best(st, 1) != nil) {
			if d.take(st, words.PaperWhyExercise, false) {
				n++
			}
		}
	}
}

// layable reports whether a stroke's tool is in the plan already, or may be laid out: one up to half an
// hour, two beyond.
func (d *drafting) layable(st *stroke.Stroke) bool {
	if st.Tool == nil {
		return true
	}
	var tools []string
	for _, c := range d.chosen {
		if c.st.Tool != nil && !slices.Contains(tools, c.st.Tool.Key) {
			tools = append(tools, c.st.Tool.Key)
		}
	}
	most := 2
	if d.q.Minutes <= 30 {
		most = 1
	}
	return len(tools) < most || slices.Contains(tools, st.Tool.Key)
}

func regionOf(st *stroke.Stroke) anatomy.Region {
	if len(st.Zones()) == 0 {
		return anatomy.AddOn
	}
	id, _ := anatomy.Lookup(st.Zones()[0])
	return id.Zone().Region
}
