package exchange_test

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/unicode/norm"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/exchange"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/clients"
)

var printed = time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)

// pdfText is what poppler (Debian's poppler-utils) reads in a PDF.
func pdfText(t *testing.T, pdf []byte) string {
	t.Helper()
	if _, err := exec.LookPath("pdftotext"); err != nil {
		t.Skip("pdftotext is not installed; make test installs it (Debian's poppler-utils)")
	}
	name := filepath.Join(t.TempDir(), "paper.pdf")
	require.NoError(t, os.WriteFile(name, pdf, 0o600))
	out, err := exec.Command("pdftotext", "-raw", name, "-").CombinedOutput()
	require.NoError(t, err, string(out))
	return string(out)
}

// A card names every phase and step with its time, and what is laid out; another
// program (poppler) reads it, in both sizes; it uses no colour.
func TestProtocolCard(t *testing.T) {
	b, ctx := demo(t)
	for i := range b.Protocols {
		p := &b.Protocols[i]
		t.Run(p.Key, func(t *testing.T) {
			t.Parallel()
			cardReads(t, p, ctx)
		})
	}
}

func cardReads(t *testing.T, p *protocol.Protocol, ctx *protocol.Context) {
	t.Helper()
	e := evaluation.Evaluate(p, ctx)
	for _, size := range []string{"A4", "A5"} {
		pdf, err := exchange.ProtocolCard(p, e, ctx, "Lantern Row Face Studio", "version 1", size, printed)
		require.NoError(t, err)
		again, err := exchange.ProtocolCard(p, e, ctx, "Lantern Row Face Studio", "version 1", size, printed)
		require.NoError(t, err)
		assert.True(t, bytes.Equal(pdf, again), "the same card is the same file")
		text := strings.Join(strings.Fields(pdfText(t, pdf)), " ")
		assert.LessOrEqual(t, pages(pdf), (len(p.Steps)+24)/25, "%s on %s, a page for 25 steps", p.Key, size)
		assert.Contains(t, text, p.Name)
		assert.Contains(t, text, "Cosmetic massage is not medical treatment")
		assert.Contains(t, text, "Set-up list")
		assert.Contains(t, text, "Hands washed")
		for k := range e.Steps {
			name := e.Steps[k].Name
			if size == "A5" {
				name = e.Steps[k].Stroke.Short
			}
			assert.Contains(t, text, fmt.Sprintf("%d %s", k+1, name), size)
		}
	}
}

// pages counts the pages of a PDF.
func pages(pdf []byte) int { return len(regexp.MustCompile(`/Type\s*/Page[^s]`).FindAll(pdf, -1)) }

// A card names the tool that is really used: the step's own in the place of the stroke's.
func TestACardNamesTheToolInUse(t *testing.T) {
	b, ctx := demo(t)
	for i := range b.Protocols {
		p := b.Protocols[i].Clone()
		changed := 0
		for k := range p.Steps {
			r := evaluation.Resolve(p, k, ctx)
			if r.Tool != nil && r.Tool.Key == "stone-plate" {
				p.Steps[k].Tool = &stroke.ToolPart{Key: "steel-plate", Part: "comb edge"}
				changed++
			}
		}
		if changed == 0 {
			continue
		}
		pdf, err := exchange.ProtocolCard(p, evaluation.Evaluate(p, ctx), ctx, "Lantern Row Face Studio", "version 1", "A4", printed)
		require.NoError(t, err)
		text := strings.Join(strings.Fields(pdfText(t, pdf)), " ")
		assert.GreaterOrEqual(t, strings.Count(text, "Steel plate"), changed)
		assert.NotContains(t, text, "Green stone plate")
		return
	}
	t.Fatal("no protocol uses a stone")
}

// The page for the wall is one page with every step's name and time, in its order.
func TestThePageForTheWall(t *testing.T) {
	b, ctx := demo(t)
	for i := range b.Protocols {
		p := &b.Protocols[i]
		e := evaluation.Evaluate(p, ctx)
		pdf, err := exchange.WallCard(p, e, "Lantern Row Face Studio", "version 1", printed)
		require.NoError(t, err)
		assert.Equal(t, 1, pages(pdf))
		text := strings.Join(strings.Fields(pdfText(t, pdf)), " ")
		for k := range e.Steps {
			begins := int(math.Round(e.Steps[k].Start))
			at := fmt.Sprintf("%d:%02d %s", begins/60, begins%60, e.Steps[k].Stroke.Short)
			assert.Contains(t, text, at)
		}
	}
}

// What is laid out follows from the plan (common practice): measured products,
// tools with the parts in use, a towel under a fragile one, gloves for the mouth.
func TestSetUpList(t *testing.T) {
	read := func(key string) (*protocol.Protocol, *protocol.Context) {
		data, err := os.ReadFile("../craft/crafttest/testdata/protocols/" + key + ".json")
		require.NoError(t, err)
		f, err := exchange.ReadProtocolFile(data)
		require.NoError(t, err)
		_, ctx := demo(t)
		for i := range f.Products {
			core := f.Products[i].Core()
			ctx.Products[core.Key] = &core
		}
		for _, x := range f.Tools {
			ctx.Tools[x.Key] = x
		}
		return &f.Protocol, ctx
	}
	kinds := func(key string) map[string]evaluation.SetUpItem {
		p, ctx := read(key)
		out := map[string]evaluation.SetUpItem{}
		for _, i := range evaluation.SetUp(p, ctx, evaluation.Evaluate(p, ctx)) {
			out[strings.TrimSuffix(i.Kind+" "+i.Key, " ")] = i
		}
		return out
	}
	p, ctx := read("stone-one-side")
	ctx.LongNails = true
	long := evaluation.SetUp(p, ctx, evaluation.Evaluate(p, ctx))
	assert.Equal(t, evaluation.SetUpItem{Kind: "hands", Key: "long-nails"}, long[len(long)-1], "the list does not ask for what is not so")
	stone := kinds("stone-one-side")
	assert.Equal(t, []string{"long curve", "U-notch"}, stone["tool stone-plate"].Parts)
	assert.True(t, stone["tool stone-plate"].Fragile)
	assert.Equal(t, 2, stone["towel"].Count, "one of them under the stone")
	assert.Equal(t, []slip.HandAmount{{Value: 4, Unit: slip.HandML}}, stone["product oil"].Portions, "nobody counts 120 drops")
	assert.NotContains(t, stone, "gloves")
	mouth := kinds("jaw-and-mouth")
	assert.Equal(t, 1, mouth["gloves"].Count)
	assert.Contains(t, kinds("event-glow"), "bowl")
	assert.NotContains(t, kinds("two-minute-oil"), "hands", "home care is not a studio's")
}

// The steps as CSV are read by another reader of RFC 4180, one row a step; no cell
// can be taken for a formula.
func TestStepsCSV(t *testing.T) {
	b, ctx := demo(t)
	p := b.Protocols[0].Clone()
	p.Steps[2].Note = "=1+1, \"slowly\"\nand lighter"
	p.Steps[3].Note = " \u00a0-2 levels"
	p.Steps[4].Note = "a = b"
	e := evaluation.Evaluate(p, ctx)
	data, err := exchange.StepsCSV(p, e)
	require.NoError(t, err)
	rows, err := csv.NewReader(bytes.NewReader(data)).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, len(p.Steps)+1)
	assert.Equal(t, "'=1+1, \"slowly\"\nand lighter", rows[3][18])
	assert.Equal(t, "' \u00a0-2 levels", rows[4][18], "blanks before it do not hide it")
	assert.Equal(t, "a = b", rows[5][18])
	for _, row := range rows[1:] {
		assert.Regexp(t, regexp.MustCompile(`^\d+$`), row[4])
	}
}

// The letter names the planned treatment, what needs an answer and the question,
// and tells the doctor nothing else from the file; the summary has it all
// (handbook, chapter 5). Poppler reads both.
func TestPapersAboutAClient(t *testing.T) {
	answers := map[string]contraindication.Answer{
		"cancer":      {Yes: true},
		"nut-allergy": {Yes: true},
		"sore-skin":   {Yes: true, Zones: []contraindication.ZoneSide{{Zone: "cheekbone", Side: "left"}}},
	}
	pack := contraindication.Trade()
	res := pack.Evaluate(answers, contraindication.ClientProfile{}, "2026-11-24")
	p := &checks.Paper{Studio: "A studio", Pack: pack, Answers: answers,
		Client:   studio.Client{ClientFields: studio.ClientFields{Name: "Žofie Ålund", BirthDate: "1980-02-29", SkinType: "dry", SkinStates: []string{"sensitive"}}},
		Letter:   &studio.Letter{Rules: []string{"cancer"}, Protocol: "Sunday lift", Question: "Can it go ahead?", WrittenAt: printed},
		PreCheck: &studio.PreCheck{Day: "2026-11-24", Result: res}}
	data, err := exchange.LetterPaper(p, printed)
	require.NoError(t, err)
	letter := pdfText(t, data)
	for _, want := range []string{"29 February 1980", "Sunday lift", "Cancer", "Can it go ahead?", "Valid until", "not medical treatment"} {
		assert.Contains(t, letter, want)
	}
	assert.NotContains(t, letter, "Nut allergy")
	assert.NotContains(t, letter, "cheekbone")
	data, err = exchange.SummaryPaper(p, printed)
	require.NoError(t, err)
	summary := pdfText(t, data)
	for _, want := range []string{"dry, sensitive", "Nut allergy", "left cheekbone", "Doctor’s letter needed", "products with nut oil"} {
		assert.Contains(t, summary, want)
	}
	assert.Equal(t, 1, strings.Count(summary, "\f"), "one page")

	// Also with everything there is to tell: every rule of the consultation at once.
	all := map[string]contraindication.Answer{}
	for _, r := range pack.RulesAt(contraindication.Consultation) {
		if r.Group != "Treatments elsewhere" {
			all[r.ID] = contraindication.Answer{Yes: r.AnswerType != contraindication.Choice, Day: "2026-11-20", Zones: []contraindication.ZoneSide{{Zone: "chin"}}}
		}
	}
	p.Answers, p.PreCheck.Result = all, pack.Evaluate(all, contraindication.ClientProfile{}, "2026-11-24")
	data, err = exchange.SummaryPaper(p, printed)
	require.NoError(t, err)
	assert.Equal(t, 1, strings.Count(pdfText(t, data), "\f"), "one page")
}

// The file on paper holds what the JSON file holds, section by section, with the
// signature drawn; Poppler reads it.
func TestTheFileOnPaper(t *testing.T) {
	pack := contraindication.Trade()
	answers := map[string]contraindication.Answer{"diabetes": {Yes: true}, "pressure-wish": {Option: "lighter"}, "puffiness": {Grades: map[string]int{"left-eye": 2}}}
	withdrawn := printed
	f := &clients.ClientExport{Studio: "A studio", Rules: pack.Rules,
		Client:        studio.Client{ClientFields: studio.ClientFields{Name: "Ada Client", BirthDate: "1980-02-29", Email: "ada@example.org", SkinType: "dry"}},
		Consultations: []studio.Consultation{{Day: "2026-11-20", PackVersion: pack.Version, Answers: answers, History: studio.ClientHistory{Medicines: []string{"metformin"}, Bedtime: "22:30"}}},
		PreChecks:     []studio.PreCheck{{Day: "2026-11-24", Answers: answers, Result: pack.Evaluate(answers, contraindication.ClientProfile{}, "2026-11-24")}},
		Letters:       []studio.Letter{{Question: "Can it go ahead?", WrittenAt: printed, Answer: "yes", Until: "2027-01-01", Note: "lightly", Scans: []studio.Scan{{}}}},
		Consents:      []studio.Consent{{Kind: studio.ConsentTreatment, Version: "2026-11", Body: "I was told.", Signer: "Ada Client", SignedAt: printed, WithdrawnAt: &withdrawn, Signature: [][]int{{10, 100, 60, 40, 120, 110, 200, 60}}}},
		PatchTests:    []studio.PatchTest{{Name: "Seed oil", Lot: "A-1", Place: "inner forearm", PatchTest: patch.PatchTest{Applied: printed, Readings: []patch.Reading{{Hours: 24, Grade: patch.Negative}, {Hours: 48, Grade: patch.Negative, FromPicture: true}}}}},
		Visits:        []studio.VisitLine{{Visit: studio.Visit{State: studio.Done, StartsAt: printed}, ProtocolName: "Sunday lift", PractitionerName: "Ines"}},
		Series: []studio.Series{{
			State: studio.SeriesFinished, CreatedAt: printed, Items: make([]studio.SeriesItem, 6), HomeCare: "Sweeps each evening.", Review: &studio.SeriesReview{Found: "Sleeps better."},
		}},
		Planned:    []studio.PlannedProcedure{{Rule: "diabetes", Day: "2026-12-24"}},
		Waiting:    []studio.Waiter{{Since: printed}},
		Treatments: []clients.TreatmentExport{{Overrides: []studio.Override{{Rule: "diabetes", Reason: "the doctor said so"}}, Record: studio.Record{Note: "Slept through the end."}}},
	}
	data, err := exchange.ClientPaper(f, printed)
	require.NoError(t, err)
	text := pdfText(t, data)
	for _, want := range []string{"Ada Client", "29 February 1980", "ada@example.org", "metformin", "22:30", "Diabetes", "lighter", "left eye 2", "OK with adjustments", "Can it go ahead?", "lightly", "1 scanned",
		"I was told.", "withdrawn", "Seed oil, lot A-1, inner forearm: after 24 hours negative", "(from a picture)", "Sunday lift", "the doctor said so", "Slept through the end.",
		"6 visits, finished", "Sweeps each evening.", "Sleeps better.", "Planned elsewhere: diabetes", "On the waiting list since 24 November 2026"} {
		assert.Contains(t, text, want)
	}
}

// A paper writes every name (UAX #9 and the joined forms of Arabic by the fonts' own
// tables): another program reads Latin with its marks, Cyrillic, Greek, Hebrew and Arabic
// as they were typed, every font is in the file, and no letter is a box.
func TestPapersWriteEveryName(t *testing.T) {
	names := []string{"Дарья Łucja Đặng", "Ελένη Παππά", "İpek Güneş", "Nguyễn Thị Ánh", "דנה כהן", "ليلى الشريف", "Siân O’Dóńnell-Čapková"}
	for _, name := range names {
		p := &checks.Paper{Studio: "Σάλα of " + name, Address: "ул. Ленина 3", Pack: contraindication.Trade(),
			Client: studio.Client{ClientFields: studio.ClientFields{Name: name, SkinType: "dry"}},
			Letter: &studio.Letter{Question: name + ": may it go ahead?\n" + name, WrittenAt: printed}}
		letter, err := exchange.LetterPaper(p, printed)
		require.NoError(t, err)
		summary, err := exchange.SummaryPaper(p, printed)
		require.NoError(t, err)
		for _, data := range [][]byte{letter, summary} {
			text := norm.NFKC.String(pdfText(t, data))
			for _, word := range strings.Fields(name) {
				assert.Contains(t, text, norm.NFKC.String(word), name)
			}
			assert.NotContains(t, text, "\uFFFD")
			assert.NotContains(t, string(data), "/Helvetica", "the fonts are in the file")
			assert.Contains(t, string(data), "/Lang(en)")
		}
	}
}

// A long text breaks into lines and pages and loses nothing, whatever its script; a word
// that is wider than the page is cut, not lost.
func TestLongTextsBreak(t *testing.T) {
	word := strings.Repeat("Überlangeswort", 30)
	lines := make([]string, 120)
	for i := range lines {
		lines[i] = fmt.Sprintf("строка %d مرحبا שלום", i)
	}
	f := &clients.ClientExport{Studio: "A studio", Client: studio.Client{ClientFields: studio.ClientFields{Name: "Ada", SkinType: "dry", Note: word + "\n" + strings.Join(lines, "\n")}}}
	data, err := exchange.ClientPaper(f, printed)
	require.NoError(t, err)
	text := norm.NFKC.String(pdfText(t, data))
	for i := range lines {
		assert.Contains(t, text, fmt.Sprintf("строка %d", i))
	}
	assert.Greater(t, strings.Count(text, "\f"), 1)
	assert.Equal(t, 30, strings.Count(strings.Join(strings.Fields(text), ""), "Überlangeswort"))
}

// The card says what a plan and its steps say besides, in words.
func TestTheCardSaysEverything(t *testing.T) {
	for key, want := range map[string][]string{
		"inside-the-mouth":       {"gum line", "past the last tooth", "hand of that side", "Score of: tenderness", "the client gags", "Extra seconds at a tender spot: 10", "mirror"},
		"two-weeks-of-sittings":  {"Aftercare", "Drink a glass of water.", "Shade", "Sittings a day: 1"},
		"creases":                {"across", "The crease runs: up", "2 cm", "Rows until covered"},
		"taught-for-the-evening": {"And then: then judge", "When it is for: a heavy evening", "Works: frontalis"},
	} {
		p, ctx := crafttest.Said(t, key)
		pdf, err := exchange.ProtocolCard(p, evaluation.Evaluate(p, ctx), ctx, "A studio", "draft", "A4", printed)
		require.NoError(t, err)
		text := strings.Join(strings.Fields(pdfText(t, pdf)), " ")
		for _, w := range want {
			assert.Contains(t, text, w, key)
		}
	}
}
