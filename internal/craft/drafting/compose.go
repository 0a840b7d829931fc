package drafting

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// compose puts the chosen strokes together into a plan, in the arc of a treatment: settle, look,
// cleanse, grip dry, apply, open, arrive with big slow strokes, work one region after the other, tools,
// calm, close, mask, finish, wake.
func (d *drafting) compose() *protocol.Protocol {
	c := d.begin()
	dry, exercises, work := d.inOrder()
	if mist := d.productOf(slip.Mist); mist != nil && d.ctx.HasSkin("dehydrated") && slices.ContainsFunc(work, d.isCold) {
		c.put("prepare", "mist-veil", words.PaperWhyMist, &protocol.Use{Product: mist.Key, Amount: amount(mist, 1)})
	}
	c.work(dry, "work")
	c.work(exercises, "exercises")
	c.apply()
	drains := d.q.Method.DrainageOrUsual() != "none" &&
		slices.ContainsFunc(d.chosen, func(x pick) bool { return x.st.Intent == stroke.Drain })
	var opened []string
	if drains && d.q.Method.Opens() {
		opened = d.opening(work)
		for _, key := range opened {
			c.put("open", key, words.PaperWhyOpen, nil)
		}
	}
	c.work(work, "work")
	if c.long && !d.bare && !slices.ContainsFunc(work, func(x pick) bool { return x.part == inHair }) && d.toolCount() < 2 {
		c.put("compare", "compare-sides", words.PaperWhyCompare, nil)
	}
	if drains && (d.q.Method.Closes() || d.q.Method.DrainageOrUsual() == "middle") {
		d.closing(func(ph protocol.Phase, key string) { c.put(ph, key, words.PaperWhyClose, nil) }, opened)
	}
	c.finish()
	d.measure(c.p)
	return c.p
}

// composer writes the steps of a draft, one after the other.
type composer struct {
	d    *drafting
	p    *protocol.Protocol
	long bool // there is time for the usual doses of what frames the work
}

// longMinutes is from how many minutes on what frames the work has its usual time; maskMinutes from
// how many on there is a mask.
const (
	longMinutes = 25
	maskMinutes = 30
)

// begin starts the protocol and welcomes, looks and cleanses.
func (d *drafting) begin() *composer {
	q := d.q
	c := &composer{d: d, long: q.Minutes >= longMinutes, p: &protocol.Protocol{
		Key:         "first-draft",
		Name:        d.name(),
		Method:      q.Method,
		Concerns:    slices.Clone(q.Concerns),
		DefaultDose: q.Method.DefaultDose(),
		Minutes:     protocol.Minutes{Treatment: q.Minutes + 10, HandsOn: q.Minutes, Reset: 10},
		Price:       protocol.Price{Amount: "0.00", Currency: "EUR"},
	}}
	if q.SkinType != "" {
		c.p.SkinTypes = []string{q.SkinType}
	}
	c.timed(c.put("settle", "breathe-together", words.PaperWhySettle, nil), [3]int{4, 2, 8}, [3]int{2, 1, 4})
	c.timed(c.put("look-over", "look-over", words.PaperWhyLook, nil), [3]int{60, 30, 90}, [3]int{20, 10, 40})
	if slices.Contains(q.Concerns, "clenching") {
		c.put("look-over", "tender-check", words.PaperWhyTender, nil)
	}
	if milk := d.productOf(slip.Milk); milk != nil {
		c.timed(
			c.put("cleanse", "cleansing-circles", words.PaperWhyCleanse, &protocol.Use{Product: milk.Key, Amount: amount(milk, 1)}),
			[3]int{75, 60, 120},
			[3]int{50, 40, 75},
		)
	}
	s := c.put("cleanse", "towel-wipe", words.PaperWhyTakeOff, nil)
	s.Remove = "wipe"
	c.timed(s, [3]int{50, 40, 75}, [3]int{30, 25, 45})
	return c
}

// put adds a step with the reason why it is there; a stroke that the library lacks adds none.
func (c *composer) put(phase protocol.Phase, key, why string, use *protocol.Use) *protocol.Step {
	if c.d.ctx.Strokes[key] == nil {
		return &protocol.Step{}
	}
	c.p.Steps = append(c.p.Steps, protocol.Step{ID: fmt.Sprintf("s%02d", len(c.p.Steps)+1), Stroke: key, Phase: phase, Why: why, Use: use})
	return &c.p.Steps[len(c.p.Steps)-1]
}

// timed gives a step its planned, least and most repetitions, in a long and in a
// short treatment; a zero plan keeps the stroke's.
func (c *composer) timed(s *protocol.Step, long, short [3]int) {
	plan := short
	if c.long {
		plan = long
	}
	if st := c.d.ctx.Strokes[s.Stroke]; st != nil && plan[0] > 0 {
		n := st.Dose
		n.Planned, n.Min, n.Max = plan[0], plan[1], plan[2]
		s.Dose = &n
	}
}

func (d *drafting) isCold(x pick) bool { return x.st.Tool != nil && d.ctx.Tools[x.st.Tool.Key].Cold() }

// inOrder sorts the chosen strokes into a dry block, exercises, and the work in its arc.
func (d *drafting) inOrder() (dry, exercises, work []pick) {
	for _, x := range d.chosen {
		switch {
		case x.st.Intent == stroke.Tone:
			exercises = append(exercises, x)
		case x.st.Glide == stroke.GripGlide:
			dry = append(dry, x)
		default:
			work = append(work, x)
		}
	}
	slices.SortStableFunc(dry, d.arc)
	slices.SortStableFunc(work, d.arc)
	if d.again {
		work = d.secondRound(work)
	}
	return dry, exercises, work
}

// secondRound works the concerns' strokes once more after the first round, before tools and calm.
func (d *drafting) secondRound(work []pick) []pick {
	at := slices.IndexFunc(work, func(x pick) bool { return x.part > working })
	if at < 0 {
		at = len(work)
	}
	var again []pick
	for _, x := range work[:at] {
		if x.on && x.part != inHair && !atEye(x.st) {
			x.why = words.PaperWhyAgain(strings.ToLower(d.best(x.st, 2).Name))
			again = append(again, x)
		}
	}
	_, most := span(d.q.Minutes)
	return slices.Insert(slices.Clone(work), at, again[:max(0, min(len(again), most-len(work)-topUps))]...)
}

// atEye reports whether a stroke counts against what an eye takes.
func atEye(st *stroke.Stroke) bool {
	return slices.ContainsFunc(st.Zones(), func(z string) bool { return evaluation.EyeShare(z) != "" })
}

func (d *drafting) toolCount() int {
	tools := map[string]bool{}
	for _, x := range d.chosen {
		if x.st.Tool != nil {
			tools[x.st.Tool.Key] = true
		}
	}
	return len(tools)
}

// arc orders the work: part by part; what is beside the concerns before what works them; the regions of
// the face from the jaw up; in a region what is firm before what is light, and what drains last.
func (d *drafting) arc(a, b pick) int {
	tool := func(x pick) string {
		switch {
		case x.st.Tool == nil:
			return ""
		case d.isCold(x):
			return "~" // cold comes last
		}
		return x.st.Tool.Key
	}
	heart := func(x pick) int {
		if x.on {
			return 1
		}
		return 0
	}
	drains := func(x pick) int {
		if x.st.Intent == stroke.Drain {
			return 1
		}
		return 0
	}
	return cmp.Or(
		cmp.Compare(a.part, b.part),
		cmp.Compare(tool(a), tool(b)),
		cmp.Compare(heart(a), heart(b)),
		cmp.Compare(climb(a.st), climb(b.st)),
		cmp.Compare(drains(a), drains(b)),
		cmp.Compare(b.st.Pressure, a.st.Pressure),
		cmp.Compare(a.rank, b.rank),
	)
}

// climb numbers the regions from the chest up: under the jaw, mouth and jaw, ear, cheeks and nose, eyes, forehead.
func climb(st *stroke.Stroke) int {
	z := st.Zones()
	switch regionOf(st) {
	case anatomy.Chest, anatomy.Shoulder:
		return 0
	case anatomy.Neck:
		return 1
	case anatomy.Lower:
		return 2
	case anatomy.SideFace:
		return 3
	case anatomy.Middle:
		if len(z) > 0 && evaluation.EyeZone(z[0]) {
			return 5
		}
		return 4
	case anatomy.Upper:
		return 6
	}
	return 7
}

// work adds chosen strokes; hands that come from the hair are washed before the face.
func (c *composer) work(list []pick, phase protocol.Phase) {
	for i, x := range list {
		s := c.put(phase, x.st.Key, x.why, nil)
		s.Optional = !x.must && x.part != carryingHome
		if c.d.ctx.HasSkin("sensitive") && x.st.Pressure >= 2 {
			lighter := x.st.Pressure - 1
			s.Pressure = &lighter
		}
		if x.part == inHair && i+1 < len(list) && list[i+1].part != inHair {
			c.put(phase, "wash-hands", words.PaperWhyWash, nil)
		}
	}
}

// apply warms and spreads the product that gives slip.
func (c *composer) apply() {
	if c.d.slip == nil {
		return
	}
	c.put("apply", "warm-product", words.PaperWhyApply, nil)
	c.timed(
		c.put("apply", "spread-passes", words.PaperWhyApply, &protocol.Use{Product: c.d.slip.Key, Amount: amount(c.d.slip, 1)}),
		[3]int{},
		[3]int{2, 1, 3},
	)
}

// finish takes product off, lays a mask where there is time and one on the shelf, protects the skin and
// wakes the client.
func (c *composer) finish() {
	d := c.d
	if d.slip != nil {
		s := c.put("finish", "towel-wipe", words.PaperWhyTakeOff, nil)
		s.Remove = "wipe"
		c.timed(s, [3]int{45, 40, 75}, [3]int{30, 25, 45})
	}
	if d.mask != nil {
		c.put("finish", "mask-on", words.PaperWhyMask, &protocol.Use{Product: d.mask.Key, Amount: amount(d.mask, 1)})
		c.timed(c.put("finish", "mask-rest", words.PaperWhyMask, nil), [3]int{300, 300, 330}, [3]int{300, 300, 330})
		c.put("finish", "mask-off", words.PaperWhyTakeOff, nil).Remove = "wipe"
	}
	protect := d.productOf(slip.SunCream)
	if protect == nil {
		protect = d.productOf(slip.DayCream)
	}
	if protect != nil {
		c.timed(
			c.put("finish", "finish-cream", words.PaperWhyFinish, &protocol.Use{Product: protect.Key, Amount: amount(protect, 1)}),
			[3]int{1, 1, 3},
			[3]int{1, 1, 2},
		)
	}
	if c.long {
		c.put("wake", "palms-over-eyes", words.PaperWhyWake, nil)
	}
	c.timed(c.put("wake", "sit-up", words.PaperWhyWake, nil), [3]int{60, 45, 120}, [3]int{30, 20, 60})
}
