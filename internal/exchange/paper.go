package exchange

import (
	"time"

	"softpalm/words"
)

// paper is a PDF being written: the page, and the measures of its text.
type paper struct {
	*page
	width, scale float64
}

// newPaper begins a paper of a size ("A4" or "A5") with a running foot.
func newPaper(size, title, foot string, at time.Time) *paper {
	p := &paper{scale: 1}
	left := 15.0
	if size == "A5" {
		p.scale, left = 0.82, 11
	}
	page, err := newPage(size, title, left, 13, 15, at)
	if err != nil {
		panic(err.Error()) // the fonts ship with the program
	}
	p.page, p.width = page, page.w-2*left
	page.foot = func(n, of int) {
		p.SetXY(p.left, p.h-11)
		p.font("", 6.5)
		p.CellFormat(p.width*0.8, 5, foot, false, "L")
		p.CellFormat(p.width*0.2, 5, words.PaperPageOfPages(n, of), false, "R")
	}
	return p
}

// font chooses the letters: plain, bold or slanted. DejaVu is a wide face; its letters are
// set a little smaller than their name says.
func (p *paper) font(style string, size float64) {
	p.style, p.serif, p.page.size = style, false, size*p.scale*0.88
}

// lh is the line height for a font size, in mm.
func (p *paper) lh(size float64) float64 { return size * p.scale * 0.46 }

// text writes a paragraph over the width that is left.
func (p *paper) text(style string, size float64, s string) {
	p.font(style, size)
	p.MultiCell(0, p.lh(size), s)
}

func (p *paper) heading(size float64, s string) {
	p.style, p.serif, p.page.size = "B", true, size*p.scale*0.92
	p.MultiCell(0, p.lh(size), s)
}

// room starts a new page where less than mm is left on this one.
func (p *paper) room(mm float64) {
	if p.GetY()+mm > p.h-p.bottom {
		p.AddPage()
	}
}

func (p *paper) rule() {
	p.SetDrawColor(150)
	p.SetLineWidth(0.15)
	y := p.GetY()
	p.Line(p.left, y, p.left+p.width, y)
	p.SetDrawColor(0)
}
