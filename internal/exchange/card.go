package exchange

import (
	"slices"
	"strconv"
	"strings"
	"time"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/words"
)

// cardHead begins a card: the name, lengths and, where there is room, what it is.
func cardHead(p *protocol.Protocol, e *evaluation.Evaluation, studio, version, size string, at time.Time) *paper {
	d := newPaper(size, p.Name, studio+" · "+p.Name+", "+version+" · "+at.Format("2 Jan 2006"), at)
	d.heading(18, p.Name)
	line := []string{
		words.PaperTreatmentMinSecondsHandsOn(number(float64(p.Minutes.Treatment)), clock(e.Seconds)),
		words.PaperRoomReadyAgainAfterResetMin(number(float64(p.Minutes.Reset))),
		version,
	}
	if e.OpenSteps > 0 {
		line[0] += words.PaperAtLeastAtLeast(clock(e.AtLeast))
	}
	if len(p.SkinTypes) > 0 {
		line = append(line, words.PaperForSkinTypesSkin(strings.Join(p.SkinTypes, ", ")))
	}
	d.text("B", 8.5, strings.Join(line, " · "))
	return d
}

// ProtocolCard prints a protocol as small pictures, a few beside each other: lengths, what is
// laid out, and every step in its phase with its path, dose, pressure and what it is worked
// with. size is A4 or A5; it reads in grey. A treatment of 45 minutes takes two pages.
func ProtocolCard(
	p *protocol.Protocol,
	e *evaluation.Evaluation,
	ctx *protocol.Context,
	studio, version, size string,
	at time.Time,
) ([]byte, error) {
	d := cardHead(p, e, studio, version, size, at)
	if p.Summary != "" && size != "A5" {
		d.text("", 8, p.Summary)
	}
	if of := planText(p); of != "" && size != "A5" {
		d.text("", 8, of+".")
	}
	d.text("I", 7, words.PaperDisclaimer)
	d.Ln(1)
	d.heading(10.5, words.PaperSetUp)
	var items []string
	for _, item := range evaluation.SetUp(p, ctx, e) {
		items = append(items, setUpWords(item))
	}
	d.ticks(items)
	d.cells(p, e, ctx, size)
	if size != "A5" {
		d.heading(10.5, words.PaperHowStrokesAreDrawn)
		d.legend(11)
	}
	if care := aftercareText(p, ctx); len(care) > 0 {
		d.heading(10.5, words.PaperAftercare)
		for _, line := range care {
			d.text("", 8, line)
		}
	}
	return d.bytes()
}

// ticks prints things to tick off, three beside each other.
func (d *paper) ticks(items []string) {
	const beside = 3
	w := d.width / beside
	for i := 0; i < len(items); i += beside {
		row := items[i:min(i+beside, len(items))]
		d.font("", 7.5)
		h := 0.0
		for _, s := range row {
			h = max(h, float64(len(d.lines(s, w-6)))*d.lh(7.5))
		}
		d.room(h + 1)
		y := d.GetY()
		for k, s := range row {
			x := d.left + float64(k)*w
			d.SetLineWidth(0.2)
			d.Rect(x+0.4, y+0.5, 2.2, 2.2)
			d.at(x+4, y, w-6, d.lh(7.5), s)
		}
		d.SetY(y + h + 0.5)
	}
}

// at writes a text into a column of a width, wherever the page stands.
func (d *paper) at(x, y, w, h float64, s string) float64 {
	for _, line := range d.lines(s, w) {
		d.put(x, y, w, h, line, "L")
		y += h
	}
	return y
}

// cell is one step on a card: pieces of text, each with its letters and size.
type cell struct {
	label  string // of the phase or round that begins with it
	pieces []piece
	step   *evaluation.Resolved
}

type piece struct {
	style string
	size  float64
	text  string
}

// cells prints the steps, a few beside each other, row by row.
func (d *paper) cells(p *protocol.Protocol, e *evaluation.Evaluation, ctx *protocol.Context, size string) {
	const beside = 3
	list := cellsOf(p, e, ctx, size == "A5")
	gap, pic := 3.0*d.scale, 14.0*d.scale
	if size == "A5" {
		pic = 11
	}
	w := (d.width - gap*float64(beside-1)) / float64(beside)
	label := d.lh(8) + 0.6
	d.Ln(1.2)
	for i := 0; i < len(list); i += beside {
		row := list[i:min(i+beside, len(list))]
		h, top := pic*1.06, 0.0
		for k := range row {
			if row[k].label != "" {
				top = label
			}
			h = max(h, d.height(&row[k], w-pic-1.5))
		}
		d.room(top + h + 1)
		y := d.GetY()
		for k := range row {
			d.cell(&row[k], d.left+float64(k)*(w+gap), y, top, w, pic)
		}
		d.SetY(y + top + h + 1)
	}
}

// height is how much a cell's text takes.
func (d *paper) height(c *cell, w float64) float64 {
	h := 0.0
	for _, t := range c.pieces {
		d.font(t.style, t.size)
		h += float64(len(d.lines(t.text, w))) * d.lh(t.size)
	}
	return h
}

// cell prints one step.
func (d *paper) cell(c *cell, x, y, top, w, pic float64) {
	if c.label != "" {
		d.style, d.serif, d.page.size = "B", true, 8*d.scale
		d.at(x, y, w, d.lh(8), c.label)
		d.SetDrawColor(120)
		d.SetLineWidth(0.15)
		d.Line(x, y+top-0.3, x+w, y+top-0.3)
		d.SetDrawColor(0)
	}
	y += top
	if len(c.step.Path) > 0 {
		d.picture(x, y+0.4, pic, c.step)
	}
	for _, t := range c.pieces {
		d.font(t.style, t.size)
		y = d.at(x+pic+1.5, y, w-pic-1.5, d.lh(t.size), t.text)
	}
}

// cellsOf says in words what each step is; on small paper only what keeps the client safe
// stands beside that.
func cellsOf(p *protocol.Protocol, e *evaluation.Evaluation, ctx *protocol.Context, small bool) []cell {
	out := make([]cell, len(e.Steps))
	phase, round, client, said := protocol.Phase(""), "", "", ""
	for i := range e.Steps {
		r, s := &e.Steps[i], &p.Steps[i]
		c := cell{step: r}
		if r.Phase != phase {
			phase, round, c.label = r.Phase, "", words.Phases[string(r.Phase)]
		}
		if s.Round != round {
			round = s.Round
			for _, rd := range p.Rounds {
				if rd.ID == round {
					c.label = strings.TrimPrefix(c.label+" · "+words.PaperRoundTimesTimesOver(strconv.Itoa(rd.Times)), " · ")
				}
			}
		}
		name := r.Name
		if small {
			name = r.Stroke.ShortName()
		}
		c.pieces = []piece{
			{"B", 7.6, strconv.Itoa(i+1) + " " + name},
			{"", 7, clock(r.Start) + "  +" + clock(float64(r.Seconds)) + "  " + doseWords(r.Dose)},
			{"", 7, handWords(r, small)},
		}
		if s.Use != nil && ctx.Products[s.Use.Product] != nil {
			c.pieces = append(
				c.pieces,
				piece{"B", 6.6, ctx.Products[s.Use.Product].Name + ", " + takenWords(s.Use, ctx.Products[s.Use.Product])},
			)
		}
		var more []string
		if r.Client != "" && r.Client != client { // said once, until it is something else
			more = append(more, words.PaperClientClient(r.Client))
		}
		if further := furtherText(r, ctx); further != "" {
			more = append(more, further+".")
		}
		if s.Note != "" {
			more = append(more, s.Note)
		}
		if r.Precaution != "" {
			more = append(more, r.Precaution)
		}
		client = r.Client
		if small {
			more = nil
			if r.Precaution != "" && r.Precaution != said {
				more = append(more, r.Precaution)
			}
			said = r.Precaution
		}
		if len(more) > 0 {
			c.pieces = append(c.pieces, piece{"I", 6.4, strings.Join(more, " ")})
		}
		out[i] = c
	}
	return out
}

// takenWords is how much a step takes, as the hand takes it; what was never measured is said as it was.
func takenWords(u *protocol.Use, prod *slip.Product) string {
	mL, ok := u.Amount.In(prod)
	if !ok {
		return number(u.Amount.Value) + " " + string(u.Amount.Measure)
	}
	a := prod.ByHand(mL, false)
	return handAmount(&a)
}

// handWords is how a step is worked: its pressure, its sides, and the tool that is really
// used, with its part, or the hand. Short is for small paper.
func handWords(r *evaluation.Resolved, short bool) string {
	var what []string
	if len(r.Path) > 0 {
		pressure, side := strconv.Itoa(r.Pressure)+" "+words.Pressures[r.Pressure], words.Sides[string(r.Sides)]
		if short {
			pressure, side = strconv.Itoa(r.Pressure), strings.TrimSuffix(side, " together")
		}
		what = append(what, pressure)
		if side != "" {
			what = append(what, side)
		}
	}
	switch {
	case r.Tool != nil && r.Tool.Part != "":
		what = append(what, r.ToolName+", "+r.Tool.Part)
	case r.Tool != nil:
		what = append(what, r.ToolName)
	case r.Hand != "":
		what = append(what, r.Hand)
	}
	return strings.Join(what, " · ")
}

// The letters of a wall page, the largest that fits on it is used.
const (
	wallLargest  = 14.0
	wallSmallest = 4.0
	wallLeading  = 1.12
)

// WallCard prints a protocol on one page for the wall: when each step begins and its name, in
// letters as large as the page allows.
func WallCard(p *protocol.Protocol, e *evaluation.Evaluation, studio, version string, at time.Time) ([]byte, error) {
	d := cardHead(p, e, studio, version, "A4", at)
	d.Ln(2)
	list := cellsOf(p, e, &protocol.Context{}, true)
	y, room := d.GetY(), d.h-d.bottom-d.GetY()
	const gap = 8.0
	size, beside := 0.0, 1
	for n := 1; n <= 3; n++ {
		if s := d.wallSize(list, n, (d.width-gap*float64(n-1))/float64(n), room); s > size {
			size, beside = s, n
		}
	}
	w, h := (d.width-gap*float64(beside-1))/float64(beside), d.lh(size)*wallLeading
	d.font("B", size)
	clockWidth := d.page.width("88:88  ")
	x, top := d.left, y
	for i := range list {
		need := h
		if list[i].label != "" {
			need = 2 * h
		}
		if y+need > top+room && x+w < d.left+d.width-1 {
			x, y = x+w+gap, top
		}
		if list[i].label != "" {
			d.style, d.serif, d.page.size = "B", true, size*0.92
			d.put(x, y, w, h, list[i].label, "L")
			y += h
		}
		r := list[i].step
		d.font("B", size)
		d.put(x, y, clockWidth, h, clock(r.Start), "L")
		d.font("", size)
		d.put(x+clockWidth, y, w-clockWidth, h, wallLine(r), "L")
		y += h
	}
	return d.bytes()
}

// wallLine is a step in a line of the wall page.
func wallLine(r *evaluation.Resolved) string { return r.Stroke.ShortName() }

// wallSize is the largest size at which the lines of a wall page go into some columns of a
// width; the smallest where none does.
func (d *paper) wallSize(list []cell, columns int, w, room float64) float64 {
	rows := columns // a label may have to go on to the next column
	for i := range list {
		rows++
		if list[i].label != "" {
			rows++
		}
	}
	for size := wallLargest; size > wallSmallest; size -= 0.25 {
		if float64(rows)*d.lh(size)*wallLeading > room*float64(columns) {
			continue
		}
		d.font("B", size)
		left := w - d.page.width("88:88  ")
		d.font("", size)
		if !slices.ContainsFunc(list, func(c cell) bool { return d.page.width(wallLine(c.step)) > left }) {
			return size
		}
	}
	return wallSmallest
}
