package exchange

import (
	"maps"
	"slices"
	"sort"
	"strconv"
	"strings"
	"time"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio/checks"
	"softpalm/words"
)

// LetterPaper prints a letter to a client's doctor on one page: who asks, what is
// planned, what the client told us that needs an answer, the question, and room for
// the answer. What else the client told us is not in it.
func LetterPaper(p *checks.Paper, at time.Time) ([]byte, error) {
	l := p.Letter
	d := newPaper("A4", words.PaperLetter, p.Studio+" · "+words.PaperLetter+" · "+l.WrittenAt.Format("2 Jan 2006"), at)
	d.text("", 10, p.Studio)
	if p.Address != "" {
		d.text("", 10, p.Address)
	}
	d.text("", 10, l.WrittenAt.Format("2 January 2006"))
	d.Ln(8)
	d.heading(18, words.PaperLetter)
	d.Ln(2)
	who := p.Client.Name
	if p.Client.BirthDate != "" {
		who += words.PaperBornBirthDate(dayWords(p.Client.BirthDate))
	}
	d.field(words.PaperClient, who)
	planned := words.PaperCosmeticMassageFaceNeckShoulders
	if l.Protocol != "" {
		planned = l.Protocol + ", " + planned
	}
	d.field(words.PaperPlanned, planned)
	var told, rests []string
	for _, id := range l.Rules {
		for _, r := range p.Pack.Rules {
			if r.ID == id {
				told, rests = append(told, r.Title), append(rests, r.Why+" ("+r.Basis+")")
			}
		}
	}
	d.field(words.PaperWhatTheClientToldUs, strings.Join(told, "; "))
	d.field(words.PaperWhyWeAsk, strings.Join(rests, " "))
	d.Ln(3)
	d.heading(13, words.PaperQuestion)
	d.text("", 11, l.Question)
	d.Ln(6)
	d.heading(13, words.PaperAnswer)
	d.Ln(1)
	for _, line := range []string{
		words.PaperTheTreatmentCanBeGivenAsPlanned,
		words.PaperTreatmentCanGivenWithTheseLimits,
		words.PaperTheTreatmentShouldNotBeGiven,
	} {
		y := d.GetY()
		d.SetLineWidth(0.25)
		d.Rect(d.left, y+0.8, 3.6, 3.6)
		d.SetX(d.left + 6)
		d.text("", 11, line)
		d.Ln(2)
		if strings.HasSuffix(line, ":") {
			for range 3 {
				d.Ln(7)
				d.rule()
			}
			d.Ln(4)
		}
	}
	d.field(words.PaperValidUntil, "")
	d.rule()
	d.Ln(9)
	d.field(words.PaperDateNameAndSignature, "")
	d.rule()
	d.Ln(6)
	d.text("I", 8.5, words.PaperDisclaimer)
	return d.bytes()
}

// summaryScales are the sizes a summary is set in, the first that fits one page.
var summaryScales = []float64{1, 0.92, 0.84, 0.76, 0.68}

// SummaryPaper prints what the studio knows of a client that matters for a
// treatment, on one page: skin, client history, and what follows.
func SummaryPaper(p *checks.Paper, at time.Time) ([]byte, error) {
	var d *paper
	for _, scale := range summaryScales {
		if d = summary(p, at, scale); d.PageCount() == 1 {
			break
		}
	}
	return d.bytes()
}

func summary(p *checks.Paper, at time.Time, scale float64) *paper {
	d := newPaper("A4", p.Client.Name, p.Studio+" · "+p.Client.Name+" · "+at.Format("2 Jan 2006"), at)
	d.scale *= scale
	d.heading(18, p.Client.Name)
	d.Ln(1)
	if p.Client.BirthDate != "" {
		d.field(words.PaperDateOfBirth, dayWords(p.Client.BirthDate))
	}
	d.field(words.PaperSkin, skinOf(&p.Client))
	d.Ln(2)
	d.heading(13, words.PaperFromTheConsultation)
	if len(p.Answers) == 0 {
		d.text("", 10, words.PaperNoCurrentConsultation)
	} else {
		var told []string
		for _, r := range p.Pack.Rules {
			if a := p.Answers[r.ID]; a.Yes || a.Option != "" {
				words := r.Title
				if more := strings.TrimPrefix(strings.TrimPrefix(answerWords(a), "yes"), "; "); more != "" {
					words += " (" + more + ")"
				}
				told = append(told, words)
			}
		}
		if len(told) == 0 {
			told = []string{words.PaperNoToEveryQuestion2}
		}
		d.text("", 10, strings.Join(told, "; ")+".")
		d.Ln(1)
		d.about(&p.History)
	}
	d.Ln(2)
	d.heading(13, words.PaperLastPreTreatmentCheck)
	if sc := p.PreCheck; sc == nil {
		d.text("", 10, words.PaperNoCheckYet)
	} else {
		d.text("B", 10, dayWords(sc.Day)+": "+resultWords(sc.Result))
		if scale < 0.84 {
			d.dense(sc.Result.Outcomes)
		} else {
			d.outcomes(sc.Result.Outcomes)
		}
		d.text("I", 8.5, words.PaperRulesOfPackVersion(sc.PackVersion))
	}
	d.Ln(3)
	d.text("I", 8.5, words.PaperDisclaimer)
	return d
}

// field writes a name and its value.
func (p *paper) field(name, value string) {
	p.room(8)
	y := p.GetY()
	p.font("B", 9.5)
	p.MultiCell(46, p.lh(10), name)
	low := p.GetY()
	p.SetXY(p.left+48, y)
	p.font("", 10)
	p.MultiCell(p.width-48, p.lh(10), value)
	p.SetY(max(low, p.GetY()) + 1.2)
}

func dayWords(day string) string {
	t, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return day
	}
	return t.Format("2 January 2006")
}

func placeWords(places []contraindication.ZoneSide) string {
	out := make([]string, 0, len(places))
	for _, pl := range places {
		name := pl.Zone
		if id, ok := anatomy.Lookup(pl.Zone); ok {
			name = strings.ToLower(id.Zone().Name)
		}
		if pl.Side == "left" || pl.Side == "right" {
			name = pl.Side + " " + name
		}
		out = append(out, name)
	}
	sort.Strings(out)
	return strings.Join(out, ", ")
}

func answerWords(a contraindication.Answer) string {
	out := []string{"yes"}
	if a.Option != "" || len(a.Grades) > 0 {
		out = out[:0]
	}
	if a.Option != "" {
		out = append(out, a.Option)
	}
	for _, spot := range slices.Sorted(maps.Keys(a.Grades)) {
		out = append(out, strings.ReplaceAll(spot, "-", " ")+" "+strconv.Itoa(a.Grades[spot]))
	}
	if a.Ongoing {
		out = append(out, "ongoing")
	} else if a.Day != "" {
		out = append(out, dayWords(string(a.Day)))
	}
	if len(a.Zones) > 0 {
		out = append(out, placeWords(a.Zones))
	}
	return strings.Join(out, "; ")
}

func outcomeWords(o contraindication.Contraindication) string {
	var out []string
	switch o.Kind {
	case contraindication.Cap:
		out = append(out, words.PaperPressureLimitPressure(number(float64(o.Outcome.Pressure))))
	case contraindication.Exclude:
		what := append([]string{}, o.Outcome.Families...)
		for _, v := range o.Outcome.Intents {
			what = append(what, words.PaperStrokesThatV(v))
		}
		for _, v := range o.Outcome.Tools {
			what = append(what, words.PaperVTool(v))
		}
		for _, v := range o.Outcome.Tags {
			what = append(what, words.PaperProductsWithV(strings.ReplaceAll(v, "-", " ")))
		}
		for _, v := range append(slices.Clone(o.Outcome.Forms), o.Outcome.Products...) {
			what = append(what, strings.ReplaceAll(v, "-", " "))
		}
		if o.Outcome.Allergy != nil {
			what = append(what, words.PaperProductsWithAllergy(o.Outcome.Allergy.Name))
		}
		out = append(out, words.PaperDoNotUseWhat(strings.Join(what, ", ")))
	case contraindication.Precaution:
	default:
		out = append(out, words.Kinds[string(o.Kind)]+words.Preferences[string(o.Kind)])
	}
	if len(o.Places) > 0 && o.Kind != contraindication.Precaution {
		out = append(out, placeWords(o.Places))
	}
	if o.Until != "" {
		out = append(out, words.PaperUntilUntil(dayWords(string(o.Until))))
	}
	if o.Allowed {
		out = append(out, words.PaperAllowedByTheDoctorsLetter)
	}
	if o.Outcome.Instruction != "" {
		out = append(out, o.Outcome.Instruction)
	}
	return strings.Join(out, "; ")
}

// resultWords is a check's result in a word or two, with the day of a waiting period.
func resultWords(r contraindication.Result) string {
	out := words.Headlines[string(r.Headline)]
	if r.Headline == contraindication.NotBefore && r.NotBefore != "" {
		out += " " + dayWords(string(r.NotBefore))
	}
	return out
}
