package drafting

import (
	"fmt"
	"slices"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// compose puts the chosen strokes together into a plan.
func (d *drafting) compose() *protocol.Protocol {
	c := d.begin()
	hands, tools, dry, exercises := d.kinds()
	if mist := d.productOf(slip.Mist); mist != nil && d.ctx.HasSkin("dehydrated") && slices.ContainsFunc(tools, d.isCold) {
		c.put("prepare", "mist-veil", &protocol.Use{Product: mist.Key, Amount: amount(mist, 1)})
	}
	c.work(dry, "work")
	c.work(exercises, "exercises")
	c.applyProduct()
	drains := d.q.Method.DrainageOrUsual() != "none" &&
		slices.ContainsFunc(d.chosen, func(x candidate) bool { return x.st.Intent == stroke.Drain })
	var opened []string
	if drains && d.q.Method.Opens() {
		opened = d.opening(append(slices.Clone(hands), tools...))
		for _, key := range opened {
			c.put("open", key, nil)
		}
	}
	c.work(hands, "work")
	c.work(tools, "work")
	if c.long {
		c.put("compare", "compare-sides", nil)
	}
	if drains && (d.q.Method.Closes() || d.q.Method.DrainageOrUsual() == "middle") {
		d.closing(c.put, opened)
	}
	c.finish()
	return c.p
}

// composer writes the steps of a draft, one after the other.
type composer struct {
	d    *drafting
	p    *protocol.Protocol
	long bool // there is time to cleanse, to compare and to finish
}

// longMinutes is from how many minutes on a draft has every phase.
const longMinutes = 25

// begin starts the protocol and welcomes, looks and cleanses.
func (d *drafting) begin() *composer {
	q := d.q
	c := &composer{d: d, long: q.Minutes >= longMinutes, p: &protocol.Protocol{
		Key:         "first-draft",
		Name:        d.name(),
		Method:      q.Method,
		Concerns:    slices.Clone(q.Concerns),
		DefaultDose: q.Method.DefaultDose(),
		Minutes: protocol.Minutes{
			Treatment: q.Minutes + 10,
			HandsOn:   q.Minutes,
			Reset:     10,
		},
		Price: protocol.Price{Amount: "0.00", Currency: "EUR"},
	}}
	if q.SkinType != "" {
		c.p.SkinTypes = []string{q.SkinType}
	}
	c.timed(c.put("settle", "breathe-together", nil), [3]int{5, 2, 10}, [3]int{2, 1, 4})
	c.timed(c.put("look-over", "look-over", nil), [3]int{60, 30, 120}, [3]int{20, 10, 45})
	if milk := d.productOf(slip.Milk); milk != nil && c.long {
		c.put("cleanse", "cleansing-circles", &protocol.Use{Product: milk.Key, Amount: amount(milk, 1)})
		c.put("cleanse", "towel-wipe", nil).Remove = "wipe"
	}
	return c
}

// put adds a step; a stroke that the library lacks adds none.
func (c *composer) put(phase protocol.Phase, key string, use *protocol.Use) *protocol.Step {
	if c.d.ctx.Strokes[key] == nil {
		return &protocol.Step{}
	}
	c.p.Steps = append(c.p.Steps, protocol.Step{ID: fmt.Sprintf("s%02d", len(c.p.Steps)+1), Stroke: key, Phase: phase, Use: use})
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

// kinds sorts the chosen strokes by what they need: slip under hands or tools, a dry
// grip, or the client's own work.
func (d *drafting) kinds() (hands, tools, dry, exercises []candidate) {
	for _, x := range d.chosen {
		switch {
		case x.st.Intent == stroke.Tone:
			exercises = append(exercises, x)
		case x.st.Glide == stroke.GripGlide:
			dry = append(dry, x)
		case x.st.Tool != nil:
			tools = append(tools, x)
		default:
			hands = append(hands, x)
		}
	}
	return hands, tools, dry, exercises
}

func (d *drafting) isCold(x candidate) bool { return d.ctx.Tools[x.st.Tool.Key].Cold() }

// work adds chosen strokes in the order of work.
func (c *composer) work(list []candidate, phase protocol.Phase) {
	slices.SortStableFunc(list, workOrder)
	for _, x := range list {
		s := c.put(phase, x.st.Key, nil)
		s.Optional = !x.must && x.score < 0.5
		if c.d.ctx.HasSkin("sensitive") && x.st.Pressure >= 2 {
			lighter := x.st.Pressure - 1
			s.Pressure = &lighter
		}
		if c.d.stretch > 0 && x.st.Dose.Kind != stroke.Until && x.st.Dose.Kind != stroke.Positions {
			wider := x.st.Dose
			wider.Max = max(wider.Max, wider.Planned) * (1 + c.d.stretch)
			s.Dose = &wider
		}
	}
}

// applyProduct warms and spreads the product that gives slip.
func (c *composer) applyProduct() {
	if c.d.slip == nil {
		return
	}
	c.put("apply", "warm-product", nil)
	share := 1.0
	if c.d.ctx.SkinType == "oily" {
		share = 0.8
	}
	c.timed(
		c.put("apply", "spread-passes", &protocol.Use{Product: c.d.slip.Key, Amount: amount(c.d.slip, share)}),
		[3]int{},
		[3]int{2, 1, 3},
	)
}

// finish takes product off, protects the skin and wakes the client.
func (c *composer) finish() {
	if c.d.slip != nil && c.long {
		c.put("finish", "towel-wipe", nil).Remove = "wipe"
	}
	if spf := c.d.productOf(slip.SunCream); spf != nil && c.long {
		c.put("finish", "finish-cream", &protocol.Use{Product: spf.Key, Amount: amount(spf, 1)})
	}
	c.timed(c.put("wake", "sit-up", nil), [3]int{60, 45, 120}, [3]int{30, 20, 60})
}
