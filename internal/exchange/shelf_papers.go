package exchange

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/boombuler/barcode/qr"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/craft/substance"
	"softpalm/internal/studio/diary"
	shelfroom "softpalm/internal/studio/shelf"
	"softpalm/words"
)

// OrderCSV writes an order as comma-separated values with a heading, in UTF-8 with CRLF line ends (RFC
// 4180), decimal points and ISO 8601 dates.
func OrderCSV(o *shelfroom.PurchaseOrder) ([]byte, error) {
	rows := [][]string{{
		"order_no", "ordered_on", "supplier", "article_no", "gtin", "product", "packs", "pack_size", "unit", "pack_price", "currency",
		"line_total", "needed_by", "note",
	}}
	for i := range o.Lines {
		l := &o.Lines[i]
		rows = append(rows, []string{
			o.Number, o.OrderedOn, o.Supplier, l.Article, l.GTIN, l.Name, strconv.Itoa(l.Packs), l.PackSize.String(), l.Unit,
			l.Price.StringFixed(2), o.Currency, l.Total().StringFixed(2), o.NeededBy, o.Note,
		})
	}
	return writeCSV(rows)
}

// column is one column of a table on paper: its heading, its width in mm and how it is set.
type column struct {
	head  string
	width float64
	align string
}

// table writes rows under headings; cells that are too long are broken.
func (p *paper) table(columns []column, rows [][]string) {
	head := func() {
		p.font("B", 8.5)
		for _, c := range columns {
			p.CellFormat(c.width, p.lh(11), c.head, false, c.align)
		}
		p.Ln(p.lh(12))
		p.rule()
	}
	head()
	for _, row := range rows {
		p.font("", 9)
		lines := 1
		for i, cell := range row {
			lines = max(lines, len(p.lines(cell, columns[i].width-1)))
		}
		height := float64(lines)*p.lh(10) + 1.2
		if p.GetY()+height > p.h-p.bottom {
			p.AddPage()
			head()
			p.font("", 9)
		}
		x, y := p.left, p.GetY()+0.8
		for i, cell := range row {
			for k, line := range p.lines(cell, columns[i].width-1) {
				p.SetXY(x, y+float64(k)*p.lh(10))
				p.CellFormat(columns[i].width, p.lh(10), line, false, columns[i].align)
			}
			x += columns[i].width
		}
		p.SetXY(p.left, y+height-0.8)
	}
	p.rule()
}

// OrderPaper is an order as a PDF, to send to a supplier.
func OrderPaper(o *shelfroom.PurchaseOrder, studio, address string, at time.Time) ([]byte, error) {
	d := newPaper("A4", words.PaperOrderNumber(o.Number), studio, at)
	d.heading(20, words.PaperOrderNumber(o.Number))
	d.text("", 10, strings.TrimSpace(studio+"\n"+address))
	d.Ln(d.lh(6))
	d.text("B", 11, words.PaperToSupplier(o.Supplier))
	if o.OrderedOn != "" {
		d.text("", 10, words.PaperOrderedOn(dayOnPaper(o.OrderedOn)))
	}
	if o.NeededBy != "" {
		d.text("", 10, words.PaperNeededBy(dayOnPaper(o.NeededBy)))
	}
	d.Ln(d.lh(8))
	w := d.width
	columns := []column{
		{words.PaperArticle, w * 0.14, "L"}, {words.PaperProduct, w * 0.34, "L"}, {words.PaperPacks, w * 0.09, "R"},
		{words.PaperPackSize, w * 0.13, "R"}, {words.PaperPackPrice, w * 0.14, "R"}, {words.PaperTotal, w * 0.16, "R"},
	}
	var rows [][]string
	for i := range o.Lines {
		l := &o.Lines[i]
		rows = append(rows, []string{
			l.Article, l.Name, strconv.Itoa(l.Packs), l.PackSize.String() + " " + l.Unit, l.Price.StringFixed(2), l.Total().StringFixed(2),
		})
	}
	rows = append(rows, []string{"", words.PaperSum, "", "", "", o.Value.StringFixed(2) + " " + o.Currency})
	d.table(columns, rows)
	if o.Note != "" {
		d.Ln(d.lh(8))
		d.text("", 10, o.Note)
	}
	return d.bytes()
}

// dayOnPaper is a day as paper says it.
func dayOnPaper(day string) string {
	t, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return day
	}
	return t.Format("2 January 2006")
}

// BatchLabel is the label of a batch mixed in the studio, 90 by 55 mm, with a code to scan.
func BatchLabel(b *shelfroom.Batch, studio string, at time.Time) ([]byte, error) {
	page, err := newPage("label", b.Name, 4, 4, 3, at)
	if err != nil {
		return nil, err
	}
	page.foot = func(int, int) {}
	d := &paper{page: page, width: page.w - 8, scale: 0.72}
	full := d.width
	d.width = full - 20 // beside the code
	d.heading(15, b.Name)
	d.width = full
	d.text("B", 10, b.Number)
	d.text("", 9.5, words.PaperMadeOnBy(dayOnPaper(b.MadeOn), b.By))
	if b.Until != "" {
		d.text("B", 10.5, words.PaperGoodUntil(dayOnPaper(b.Until)))
	}
	d.text("", 9.5, words.PaperAmountOf(b.Amount.String(), b.Unit))
	if len(b.Ingredients) > 0 {
		d.text("", 7.5, words.PaperIngredientsAbout(strings.Join(b.Ingredients, ", ")))
	}
	if named := tagNames(b.Tags); named != "" {
		d.text("B", 8.5, words.PaperContains(named))
	}
	d.text("", 8, words.PaperForUseInThisStudioOnly(studio))
	return d.unless(d.code(shelf.OwnCode+b.Pack.String(), d.page.w-4-17, 4, 17))
}

// OpenedSticker goes on a pack that was opened, 60 by 30 mm: what it is, since when it is open and until when it may
// be used.
func OpenedSticker(l *shelfroom.Label, studio string, at time.Time) ([]byte, error) {
	page, err := newPage("sticker", l.Name, 3, 3, 2, at)
	if err != nil {
		return nil, err
	}
	page.foot = func(int, int) {}
	d := &paper{page: page, width: page.w - 6, scale: 0.72}
	full := d.width
	d.width = full - 15 // beside the code
	d.heading(11, l.Name)
	d.text("", 8.5, words.PaperLotAndPack(l.Lot, l.Number))
	d.text("", 9, words.PaperOpenedOn(dayOnPaper(l.Opened)))
	if l.Until != "" {
		d.text("B", 10, words.PaperGoodUntil(dayOnPaper(l.Until)))
	}
	if l.Tester {
		d.text("B", 9, words.PaperTesterSpatulaOnly)
	}
	return d.unless(d.code(shelf.OwnCode+l.Pack.String(), d.page.w-3-13, 3, 13))
}

// RecallCSV lists whom recalled lots reached, see [OrderCSV] for the format.
func RecallCSV(t *shelfroom.LotTrace) ([]byte, error) {
	rows := [][]string{{"day", "client", "phone", "email", "lot", "product", "kind", "amount", "unit", "practitioner", "certainty"}}
	for _, r := range t.Rows {
		phone, email, sure := "", "", "sure"
		for _, c := range t.Clients {
			if r.Client != nil && c.ID == *r.Client {
				phone, email = c.Phone, c.Email
			}
		}
		if !r.Sure {
			sure = "likely"
		}
		rows = append(rows, []string{
			r.Day, r.Name, phone, email, r.Lot, productOf(t, r.Lot), string(r.Kind), r.Amount.String(), r.Unit, r.By, sure,
		})
	}
	return writeCSV(rows)
}

// tagNames are tags as people call them; those without a name are the program's own.
func tagNames(tags []string) string {
	var out []string
	for _, t := range substance.KnownTags() {
		if slices.Contains(tags, t.Tag) {
			out = append(out, strings.ToLower(t.Name))
		}
	}
	return strings.Join(out, ", ")
}

// code draws a QR code at a place, in mm.
func (p *paper) code(text string, x, y, size float64) error {
	c, err := qr.Encode(text, qr.M, qr.Auto)
	if err != nil {
		return fmt.Errorf("exchange: a code to scan: %w", err)
	}
	n := c.Bounds().Dx()
	dot := size / float64(n)
	p.SetFillColor(0)
	for row := range n {
		for col := range n {
			if r, _, _, _ := c.At(col, row).RGBA(); r == 0 {
				p.MoveTo(x+float64(col)*dot, y+float64(row)*dot)
				p.LineTo(x+float64(col+1)*dot, y+float64(row)*dot)
				p.LineTo(x+float64(col+1)*dot, y+float64(row+1)*dot)
				p.LineTo(x+float64(col)*dot, y+float64(row+1)*dot)
				p.ClosePath()
			}
		}
	}
	p.DrawPath("F")
	return nil
}

// unless is the paper, unless something before it failed.
func (p *paper) unless(err error) ([]byte, error) {
	if err != nil {
		return nil, err
	}
	return p.bytes()
}

// RecallPaper lists whom recalled lots reached, for the calls and for the supplier or authority. Without
// names it can be handed on.
func RecallPaper(t *shelfroom.LotTrace, names bool, studio string, at time.Time) ([]byte, error) {
	d := newPaper("A4", words.PaperRecallList, studio, at)
	d.heading(20, words.PaperRecallList)
	if t.Reason != "" {
		d.text("B", 11, t.Reason)
	}
	for _, l := range t.Lots {
		say := words.PaperLotOfProduct(l.Number, l.Name, l.Left, l.Unit)
		if l.Through {
			say = words.PaperBatchOfProduct(l.Number, l.Name, l.Left, l.Unit)
		}
		d.text("", 10, say)
	}
	d.Ln(d.lh(8))
	w := d.width
	columns := []column{
		{words.PaperDay, w * 0.15, "L"}, {words.PaperClient, w * 0.25, "L"}, {words.PaperLot, w * 0.16, "L"},
		{words.PaperHow, w * 0.13, "L"}, {words.PaperAmount, w * 0.13, "R"}, {words.PaperBy, w * 0.18, "L"},
	}
	var rows [][]string
	seen := map[string]string{}
	for _, r := range t.Rows {
		name := r.Name
		if !names {
			key := r.Name
			if r.Client != nil {
				key = r.Client.String()
			}
			if seen[key] == "" {
				seen[key] = words.PaperClientNumber(len(seen) + 1)
			}
			name = seen[key]
		}
		sure := ""
		if !r.Sure {
			sure = " " + words.PaperLikely
		}
		rows = append(rows, []string{
			dayOnPaper(r.Day), name, r.Lot + sure, words.MovementKinds[string(r.Kind)], short(r.Amount) + " " + r.Unit, r.By,
		})
	}
	if len(rows) == 0 {
		d.text("", 10, words.PaperNobodyWasReached)
		return d.bytes()
	}
	d.table(columns, rows)
	if names {
		d.Ln(d.lh(8))
		d.text("B", 11, words.PaperToCall)
		for _, c := range t.Clients {
			d.text("", 10, strings.Join([]string{c.Name, c.Phone, c.Email}, "   "))
		}
	}
	return d.bytes()
}

// RecallLetters is a letter to each client whom a recall reached, a page each.
func RecallLetters(t *shelfroom.LotTrace, studio, address string, at time.Time) ([]byte, error) {
	d := newPaper("A4", words.PaperRecallLetter, studio, at)
	for i, c := range t.Clients {
		if i > 0 {
			d.AddPage()
		}
		d.text("", 10, strings.TrimSpace(studio+"\n"+address))
		d.Ln(d.lh(10))
		d.text("", 10, at.Format("2 January 2006"))
		d.Ln(d.lh(10))
		d.text("B", 11, words.PaperDearClient(c.Name))
		d.Ln(d.lh(4))
		d.text("", 11, words.PaperWeUsedARecalledLot)
		for _, r := range t.Rows {
			if r.Client != nil && *r.Client == c.ID {
				d.text("", 11, words.PaperOnDayLot(dayOnPaper(r.Day), productOf(t, r.Lot), r.Lot))
			}
		}
		d.Ln(d.lh(4))
		d.text("", 11, words.PaperTheSupplierSays(t.Reason))
		d.Ln(d.lh(4))
		d.text("", 11, words.PaperWhatToDoAfterARecall)
		d.Ln(d.lh(14))
		d.text("", 11, studio)
	}
	if len(t.Clients) == 0 {
		d.text("", 11, words.PaperNobodyWasReached)
	}
	return d.bytes()
}

// productOf is the product of a lot that is struck.
func productOf(t *shelfroom.LotTrace, lot string) string {
	for _, l := range t.Lots {
		if l.Number == lot {
			return l.Name
		}
	}
	return ""
}

// short is an amount as it is shown, to a hundredth.
func short(d decimal.Decimal) string { return d.Round(2).String() }

// SetUpPaper lists what to lay out for a day's treatments, by practitioner, with a box to tick each.
func SetUpPaper(list []diary.PractitionerSetUp, studio string, at time.Time) ([]byte, error) {
	d := newPaper("A4", words.PaperSetUpOfTheDay, studio, at)
	d.heading(20, words.PaperSetUpOfTheDay)
	d.text("", 10, at.Format("Monday 2 January 2006"))
	if len(list) == 0 {
		d.text("", 11, words.PaperNothingToLayOut)
	}
	for _, p := range list {
		d.room(30)
		d.Ln(d.lh(8))
		d.heading(15, p.Name)
		d.rule()
		for _, t := range p.Treatments {
			d.room(20)
			d.Ln(d.lh(4))
			d.text("B", 10.5, words.PaperTreatmentAt(t.At.Format("15:04"), t.Client, t.Protocol, t.Room))
			for _, item := range t.Items {
				say := setUpWords(item)
				if say == "" {
					continue
				}
				d.room(8)
				y := d.GetY()
				d.SetDrawColor(90)
				d.SetLineWidth(0.2)
				d.Rect(d.left+1, y+0.9, 2.6, 2.6)
				d.SetDrawColor(0)
				d.SetX(d.left + 6)
				d.font("", 9.5)
				d.MultiCell(d.width-6, d.lh(10), say)
			}
		}
	}
	return d.bytes()
}
