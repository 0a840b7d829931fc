package exchange

import (
	"strings"
	"time"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
	"softpalm/internal/studio/clients"
	"softpalm/words"
)

// ClientPaper prints everything the studio keeps of a client, for the client: the
// same as the JSON file, in words. Scans are named, not printed.
func ClientPaper(f *clients.ClientExport, at time.Time) ([]byte, error) {
	d := newPaper("A4", f.Client.Name, f.Studio+" · "+f.Client.Name+" · "+at.Format("2 Jan 2006"), at)
	d.heading(18, f.Client.Name)
	d.text("", 10, words.PaperEverythingStudioKeepsAboutYouOnFormat(f.Studio, at.Format("2 January 2006")))
	d.Ln(2)
	d.said(words.PaperDateOfBirth, dayWords(f.Client.BirthDate))
	d.said("E-mail", f.Client.Email)
	d.said(words.PaperPhone, f.Client.Phone)
	d.said(words.PaperSkin, skinOf(&f.Client))
	d.said(words.PaperNotes, f.Client.Note)

	d.part(words.PaperConsultations, len(f.Consultations))
	for i := range f.Consultations {
		c := &f.Consultations[i]
		day := words.PaperNotReviewedYet
		if c.Day != "" {
			day = dayWords(c.Day)
		}
		d.text("B", 10.5, words.PaperDayRulesOfPackVersion(day, c.PackVersion))
		d.answers(f.Rules, c.Answers)
		d.about(&c.History)
	}
	d.part(words.PaperPreTreatmentChecks, len(f.PreChecks))
	for i := range f.PreChecks {
		sc := &f.PreChecks[i]
		d.text("B", 10.5, dayWords(sc.Day)+": "+resultWords(sc.Result))
		d.answers(f.Rules, sc.Answers)
		d.outcomes(sc.Result.Outcomes)
	}
	d.part(words.PaperPatchTests, len(f.PatchTests))
	for i := range f.PatchTests {
		p := &f.PatchTests[i]
		read := words.PaperNoReadingYet
		if len(p.Readings) > 0 {
			var list []string
			for _, r := range p.Readings {
				said := words.PaperAfterHoursHoursGrade(r.Hours, r.Grade)
				if r.FromPicture {
					said += words.PaperFromAPicture
				}
				list = append(list, said)
			}
			read = strings.Join(list, ", ")
		}
		d.field(p.Applied.Format("2 January 2006"), words.PaperNameLotLotPlaceRead(p.Name, p.Lot, p.Place, read))
	}
	d.part(words.PaperLettersToADoctor, len(f.Letters))
	for i := range f.Letters {
		d.letter(&f.Letters[i])
	}
	d.part(words.PaperConsents, len(f.Consents))
	for i := range f.Consents {
		c := &f.Consents[i]
		state := ""
		if c.WithdrawnAt != nil {
			state = words.PaperWithdrawnFormat(c.WithdrawnAt.Format("2 January 2006"))
		}
		d.field(
			c.SignedAt.Format("2 January 2006"),
			words.PaperKindTextVersionSignedBySignerState(c.Kind, c.Version, c.Signer, state, c.Body),
		)
		d.signature(c.Signature)
	}
	d.diary(f)
	d.part(words.PaperAppointments, len(f.Visits))
	for i := range f.Visits {
		d.appointment(f, &f.Visits[i])
	}
	d.Ln(3)
	d.text("I", 8.5, words.PaperDisclaimer)
	return d.bytes()
}

// letter prints a question to a doctor and the answer.
func (p *paper) letter(l *studio.Letter) {
	p.field(l.WrittenAt.Format("2 January 2006"), l.Question)
	if l.Answer != "" {
		answer := words.PaperDoctorsAnswerAnswer(l.Answer)
		if l.Until != "" {
			answer += words.PaperValidToUntil(dayWords(l.Until))
		}
		p.field("", strings.TrimSuffix(answer+": "+l.Note, ": "))
	}
	if n := len(l.Scans); n > 0 {
		p.field("", words.PaperAnswerAsCameNScannedInJSON(n))
	}
}

// diary prints what the diary keeps of a client beside appointments.
func (p *paper) diary(f *clients.ClientExport) {
	p.part(words.PaperSeries, len(f.Series))
	for i := range f.Series {
		p.series(&f.Series[i])
	}
	for _, planned := range f.Planned {
		p.field(dayWords(planned.Day), words.PaperPlannedOn(titleOf(f.Rules, planned.Rule)))
	}
	for i := range f.Waiting {
		p.field("", words.PaperWaitingSince(f.Waiting[i].Since.Format("2 January 2006")))
	}
}

// series prints a series with its home care and what its end review found.
func (p *paper) series(s *studio.Series) {
	p.field(s.CreatedAt.Format("2 January 2006"), words.PaperVisitsOfSeries(len(s.Items), words.SeriesStates[string(s.State)]))
	p.said(words.PaperHomeCare, s.HomeCare)
	if s.Review != nil {
		p.said(words.PaperEndReview, s.Review.Found)
	}
}

// appointment prints an appointment with the record of its treatment.
func (p *paper) appointment(f *clients.ClientExport, v *studio.VisitLine) {
	p.field(
		v.StartsAt.Format("2 January 2006"),
		words.PaperProtocolnameWithPractitionerNameState(v.ProtocolName, v.PractitionerName, v.State.Word()),
	)
	for k := range f.Treatments {
		t := &f.Treatments[k]
		if t.Visit != v.ID {
			continue
		}
		for _, o := range t.Overrides {
			p.field("", words.PaperOverrideOfRulesReason(titleOf(f.Rules, o.Rule), o.Reason))
		}
		for _, u := range t.Record.Uses {
			lots := make([]string, len(u.Lots))
			for n, l := range u.Lots {
				lots[n] = l.Number
			}
			p.field("", words.PaperNameUsedUnitLotLots(u.Name, u.Used, u.Unit, strings.Join(lots, ", ")))
		}
		if t.Record.Note != "" {
			p.field("", t.Record.Note)
		}
	}
}

// titleOf is what a rule is called; its id where it is not in force any more.
func titleOf(rules []contraindication.Rule, id string) string {
	for i := range rules {
		if rules[i].ID == id {
			return strings.ToLower(rules[i].Title[:1]) + rules[i].Title[1:]
		}
	}
	return id
}

// said prints a field where there is something in it.
func (p *paper) said(name, value string) {
	if value != "" {
		p.field(name, value)
	}
}

func (p *paper) part(title string, n int) {
	p.Ln(3)
	p.room(16)
	p.heading(13, title)
	if n == 0 {
		p.text("", 10, words.PaperNone)
	}
}

// answers prints what was answered with more than a no.
func (p *paper) answers(rules []contraindication.Rule, answers map[string]contraindication.Answer) {
	none := true
	for i := range rules {
		r := &rules[i]
		if a, ok := answers[r.ID]; ok && (a.Yes || a.Option != "" || len(a.Grades) > 0) {
			p.field(r.Title, answerWords(a))
			none = false
		}
	}
	if none {
		p.text("", 10, words.PaperNoToEveryQuestion)
	}
}

func (p *paper) outcomes(list []contraindication.Contraindication) {
	titles, asks := asked(list)
	for _, title := range titles {
		p.field(title, strings.Join(asks[title], "\n"))
	}
}

// dense prints outcomes as running text, where there are many.
func (p *paper) dense(list []contraindication.Contraindication) {
	titles, asks := asked(list)
	for _, title := range titles {
		p.text("", 10, title+": "+strings.Join(asks[title], "; "))
	}
}

// asked gathers what the rules ask, by their titles.
func asked(list []contraindication.Contraindication) (titles []string, asks map[string][]string) {
	asks = map[string][]string{}
	for _, o := range list {
		if asks[o.Title] == nil {
			titles = append(titles, o.Title)
		}
		asks[o.Title] = append(asks[o.Title], outcomeWords(o))
	}
	return titles, asks
}

// about prints the client history.
func (p *paper) about(a *studio.ClientHistory) {
	names := make([]string, len(a.Allergies))
	for i, al := range a.Allergies {
		names[i] = al.Name
	}
	p.said(words.PaperMedicines, strings.Join(a.Medicines, ", "))
	p.said(words.PaperAllergicTo, strings.Join(names, ", "))
	p.said(words.PaperConcerns, strings.ReplaceAll(strings.Join(a.Concerns, ", "), "-", " "))
	p.said(words.PaperHomeProducts, a.HomeProducts)
	p.said(words.PaperSleep, a.Sleep)
	p.said(words.PaperBedtime, a.Bedtime)
}

// signature draws a signature 45 mm wide.
func (p *paper) signature(lines [][]int) {
	const width = 45.0
	scale := width / studio.SignatureWidth
	high := studio.SignatureHeight * scale
	p.room(high + 2)
	x, y := p.left+48, p.GetY()
	p.SetLineWidth(0.3)
	for _, l := range lines {
		for i := 0; i+3 < len(l); i += 2 {
			p.Line(x+float64(l[i])*scale, y+float64(l[i+1])*scale, x+float64(l[i+2])*scale, y+float64(l[i+3])*scale)
		}
	}
	p.SetY(y + high + 2)
}

// skinOf is the skin of a client in words.
func skinOf(c *studio.Client) string {
	kind := c.SkinType
	if kind == "" {
		kind = words.PaperSkinTypeNotAsked
	}
	return strings.Join(append([]string{kind}, c.SkinStates...), ", ")
}
