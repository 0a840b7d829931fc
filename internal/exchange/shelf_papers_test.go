package exchange_test

import (
	"bytes"
	"encoding/csv"
	"image"
	_ "image/png"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/qrcode"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/exchange"
	"softpalm/internal/studio/diary"
	shelfroom "softpalm/internal/studio/shelf"
)

var dec = decimal.RequireFromString

func order() *shelfroom.PurchaseOrder {
	return &shelfroom.PurchaseOrder{
		Number: "2026-004", Supplier: "=Linden, \"Trade\"", OrderedOn: "2026-11-24", NeededBy: "2026-12-02", Note: "Ring twice\nplease", Currency: "EUR", Value: dec("95.20"),
		Lines: []shelfroom.OrderLine{
			{Article: "LB-110", GTIN: "09506000134352", Name: "Öl für die Nacht", Packs: 2, PackSize: dec("250"), Unit: "mL", Price: dec("38")},
			{Article: "-12", Name: "Wipes", Packs: 3, PackSize: dec("100"), Unit: "pcs", Price: dec("6.4")},
		},
	}
}

// An order is read by another reader of CSV as it was written (RFC 4180, the columns of the handbook,
// chapter 4), and by poppler as a PDF.
func TestAnOrderOnPaper(t *testing.T) {
	data, err := exchange.OrderCSV(order())
	require.NoError(t, err)
	rows, err := csv.NewReader(bytes.NewReader(data)).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, []string{"order_no", "ordered_on", "supplier", "article_no", "gtin", "product", "packs", "pack_size", "unit", "pack_price", "currency", "line_total", "needed_by", "note"}, rows[0])
	assert.Equal(t, []string{"2026-004", "2026-11-24", "'=Linden, \"Trade\"", "LB-110", "09506000134352", "Öl für die Nacht", "2", "250", "mL", "38.00", "EUR", "76.00", "2026-12-02", "Ring twice\nplease"}, rows[1])
	assert.Equal(t, "'-12", rows[2][3], "a spreadsheet would take it for a formula")
	if python, err := exec.LookPath("python3"); err == nil { // a reader of other hands
		name := filepath.Join(t.TempDir(), "order.csv")
		require.NoError(t, os.WriteFile(name, data, 0o600))
		out, err := exec.Command(python, "-c", "import csv,sys; r=list(csv.DictReader(open(sys.argv[1],newline='',encoding='utf-8'))); print(len(r), r[1]['line_total'], r[0]['product'])", name).CombinedOutput()
		require.NoError(t, err, string(out))
		assert.Equal(t, "2 19.20 Öl für die Nacht\n", string(out))
	}
	pdf, err := exchange.OrderPaper(order(), "Lantern Row Face Studio", "Lantern Row 3", printed)
	require.NoError(t, err)
	text := pdfText(t, pdf)
	for _, want := range []string{"Order 2026-004", "Öl für die Nacht", "76.00", "95.20 EUR", "2 December 2026", "Ring twice"} {
		assert.Contains(t, text, want)
	}
}

// A label says what the handbook asks for (chapter 4, Mixing) and fits on one label; its code is read by a reader of
// other people's making (gozxing, a port of the ZXing reader).
func TestALabel(t *testing.T) {
	b := &shelfroom.Batch{
		Pack: uuid.MustParse("0198ab00-0000-7000-8000-000000000001"), Number: "2026-11-24 A", Name: "Lantern evening blend", MadeOn: "2026-11-24", By: "Ines Lorca",
		Until: "2027-02-24", Amount: dec("30"), Unit: "mL", Ingredients: []string{"Prunus Armeniaca Kernel Oil", "Tocopherol", "Lavandula Angustifolia Oil", "Linalool"}, Tags: []string{"essential-oil"},
	}
	pdf, err := exchange.BatchLabel(b, "Lantern Row Face Studio", printed)
	require.NoError(t, err)
	text := pdfText(t, pdf)
	for _, want := range []string{"Lantern evening blend", "2026-11-24 A", "24 November 2026", "Ines Lorca", "Use by 24 February 2027", "30 mL", "Linalool", "essential oil", "For use in this studio only", "approximate"} {
		assert.Contains(t, text, want)
	}
	assert.Equal(t, shelf.OwnCode+b.Pack.String(), scan(t, pictured(t, pdf)), "as a foreign reader scans it")
}

// A sticker says what is open, since when and until when, and its code finds the pack (chapter 4, Shelf).
func TestASticker(t *testing.T) {
	l := &shelfroom.Label{
		Pack: uuid.MustParse("0198ab00-0000-7000-8000-000000000002"), Name: "Calm seed oil", Lot: "CS-7", Number: 2,
		Opened: "2026-11-24", Until: "2027-05-24", Tester: true,
	}
	pdf, err := exchange.OpenedSticker(l, "Lantern Row", printed)
	require.NoError(t, err)
	text := pdfText(t, pdf)
	for _, want := range []string{"Calm seed oil", "Lot CS-7, pack 2", "Opened 24 November 2026", "Use by 24 May 2027", "spatula only"} {
		assert.Contains(t, text, want)
	}
	assert.Equal(t, shelf.OwnCode+l.Pack.String(), scan(t, pictured(t, pdf)))
}

// pictured is the one page of a paper as a picture, at 300 dots an inch.
func pictured(t *testing.T, pdf []byte) image.Image {
	t.Helper()
	name := filepath.Join(t.TempDir(), "label.pdf")
	require.NoError(t, os.WriteFile(name, pdf, 0o600))
	if _, err := exec.LookPath("pdftoppm"); err != nil {
		t.Skip("pdftoppm is not installed; make test installs it (Debian's poppler-utils)")
	}
	require.NoError(t, exec.Command("pdftoppm", "-png", "-r", "300", name, name).Run())
	pages, err := filepath.Glob(name + "*.png")
	require.NoError(t, err)
	require.Len(t, pages, 1, "one page")
	file, err := os.Open(pages[0])
	require.NoError(t, err)
	defer file.Close()
	img, _, err := image.Decode(file)
	require.NoError(t, err)
	return img
}

// scan reads the code in a picture with a reader of other people's making.
func scan(t *testing.T, img image.Image) string {
	t.Helper()
	bitmap, err := gozxing.NewBinaryBitmapFromImage(img)
	require.NoError(t, err)
	read, err := qrcode.NewQRCodeReader().Decode(bitmap, map[gozxing.DecodeHintType]any{gozxing.DecodeHintType_TRY_HARDER: true})
	require.NoError(t, err)
	return read.GetText()
}

// A recall is printed with names for the calls, and without any to hand on; the letters name no other
// client and make no claim.
func TestARecallOnPaper(t *testing.T) {
	greta, hugo := uuid.New(), uuid.New()
	trace := &shelfroom.LotTrace{
		Reason: "Filter below the label", Lots: []shelfroom.TracedLot{{Number: "SP-51", Name: "Day shield", Left: dec("0"), Unit: "mL"}},
		Rows: []shelfroom.TraceRow{
			{Client: &greta, Name: "Greta Gillow", Day: "2026-10-14", Lot: "SP-51", Kind: shelf.Treatment, Amount: dec("1.3"), Unit: "mL", By: "Ines", Sure: true},
			{Client: &hugo, Name: "Hugo Harkin", Day: "2026-10-15", Lot: "SP-51", Kind: shelf.Retail, Amount: dec("200"), Unit: "mL", By: "Desk"},
		},
		Clients: []shelfroom.TracedClient{{ID: greta, Name: "Greta Gillow", Phone: "+00 1"}, {ID: hugo, Name: "Hugo Harkin"}},
	}
	named, err := exchange.RecallPaper(trace, true, "Lantern Row", printed)
	require.NoError(t, err)
	text := pdfText(t, named)
	for _, want := range []string{"Greta Gillow", "SP-51 (likely)", "+00 1", "sold"} {
		assert.Contains(t, text, want)
	}
	bare, err := exchange.RecallPaper(trace, false, "Lantern Row", printed)
	require.NoError(t, err)
	text = pdfText(t, bare)
	assert.NotContains(t, text, "Greta")
	assert.Contains(t, text, "Client 2")
	letters, err := exchange.RecallLetters(trace, "Lantern Row", "Row 3", printed)
	require.NoError(t, err)
	pages := bytes.Split([]byte(pdfText(t, letters)), []byte("\f"))
	assert.Contains(t, string(pages[0]), "Dear Greta Gillow")
	assert.NotContains(t, string(pages[0]), "Hugo")
	assert.Contains(t, string(pages[1]), "15 October 2026: Day shield, lot SP-51")
	assert.Contains(t, strings.Join(strings.Fields(string(pages[1])), " "), "ask a doctor")
}

// The day's set-up is by practitioner, treatment by treatment.
func TestTheSetUpOfTheDay(t *testing.T) {
	list := []diary.PractitionerSetUp{{Name: "Ines Lorca", Treatments: []diary.SetUpOf{{
		At: time.Date(2026, 11, 24, 9, 15, 0, 0, time.UTC), Client: "Ada", Protocol: "Full-face drainage", Room: "North",
		Items: []evaluation.SetUpItem{{Kind: "tool", Name: "Stone plate", Count: 2}},
	}}}}
	pdf, err := exchange.SetUpPaper(list, "Lantern Row", printed)
	require.NoError(t, err)
	text := pdfText(t, pdf)
	for _, want := range []string{"Set-up for today", "Ines Lorca", "09:15 Ada, Full-face drainage, North", "2 stone plates"} {
		assert.Contains(t, text, want)
	}
	empty, err := exchange.SetUpPaper(nil, "Lantern Row", printed)
	require.NoError(t, err)
	assert.Contains(t, pdfText(t, empty), "Nothing to lay out.")
}
