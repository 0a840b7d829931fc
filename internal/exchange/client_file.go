package exchange

import (
	"fmt"
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
	d.text("", 10, "Everything "+f.Studio+" keeps about you, on "+at.Format("2 January 2006")+".")
	d.Ln(2)
	d.said("Date of birth", dayWords(f.Client.BirthDate))
	d.said("E-mail", f.Client.Email)
	d.said("Phone", f.Client.Phone)
	d.said("Skin", strings.Join(append([]string{f.Client.SkinType}, f.Client.SkinStates...), ", "))
	d.said("Notes", f.Client.Note)

	d.part("Consultations", len(f.Consultations))
	for i := range f.Consultations {
		c := &f.Consultations[i]
		day := "not reviewed yet"
		if c.Day != "" {
			day = dayWords(c.Day)
		}
		d.text("B", 10.5, day+", rules of "+c.PackVersion)
		d.answers(f.Rules, c.Answers)
		d.about(&c.History)
	}
	d.part("Pre-treatment checks", len(f.PreChecks))
	for i := range f.PreChecks {
		sc := &f.PreChecks[i]
		d.text("B", 10.5, dayWords(sc.Day)+": "+resultWords(sc.Result))
		d.answers(f.Rules, sc.Answers)
		d.outcomes(sc.Result.Outcomes)
	}
	d.part("Patch tests", len(f.PatchTests))
	for i := range f.PatchTests {
		p := &f.PatchTests[i]
		read := "no reading yet"
		if len(p.Readings) > 0 {
			var list []string
			for _, r := range p.Readings {
				list = append(list, fmt.Sprintf("after %d hours %s", r.Hours, r.Grade))
			}
			read = strings.Join(list, ", ")
		}
		d.field(p.Applied.Format("2 January 2006"), fmt.Sprintf("%s, lot %s, %s: %s", p.Name, p.Lot, p.Place, read))
	}
	d.part("Letters to a doctor", len(f.Letters))
	for i := range f.Letters {
		d.letter(&f.Letters[i])
	}
	d.part("Consents", len(f.Consents))
	for i := range f.Consents {
		c := &f.Consents[i]
		state := ""
		if c.WithdrawnAt != nil {
			state = "; withdrawn " + c.WithdrawnAt.Format("2 January 2006")
		}
		d.field(c.SignedAt.Format("2 January 2006"), fmt.Sprintf("%s, text %s, signed by %s%s\n%s", c.Kind, c.Version, c.Signer, state, c.Body))
		d.signature(c.Signature)
	}
	d.part("Appointments", len(f.Visits))
	for i := range f.Visits {
		d.appointment(f, &f.Visits[i])
	}
	d.Ln(3)
	d.text("I", 8.5, words.English.PaperDisclaimer)
	return d.bytes()
}

// letter prints a question to a doctor and the answer.
func (p *paper) letter(l *studio.Letter) {
	p.field(l.WrittenAt.Format("2 January 2006"), l.Question)
	if l.Answer != "" {
		answer := "Doctor's answer: " + l.Answer
		if l.Until != "" {
			answer += ", valid to " + dayWords(l.Until)
		}
		p.field("", strings.TrimSuffix(answer+": "+l.Note, ": "))
	}
	if n := len(l.Scans); n > 0 {
		p.field("", fmt.Sprintf("The answer as it came: %d scanned, in the JSON file", n))
	}
}

// appointment prints an appointment with the record of its treatment.
func (p *paper) appointment(f *clients.ClientExport, v *studio.VisitLine) {
	p.field(v.StartsAt.Format("2 January 2006"), fmt.Sprintf("%s, with %s (%s)", v.ProtocolName, v.PractitionerName, v.State.Word()))
	for k := range f.Treatments {
		t := &f.Treatments[k]
		if t.Visit != v.ID {
			continue
		}
		for _, o := range t.Overrides {
			p.field("", "Override of "+titleOf(f.Rules, o.Rule)+": "+o.Reason)
		}
		for _, u := range t.Record.Uses {
			lots := make([]string, len(u.Lots))
			for n, l := range u.Lots {
				lots[n] = l.Number
			}
			p.field("", fmt.Sprintf("%s %s %s, lot %s", u.Name, u.Used, u.Unit, strings.Join(lots, ", ")))
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
		p.text("", 10, "None.")
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
		p.text("", 10, "No to every question.")
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

// about prints what was told besides the answers.
func (p *paper) about(a *studio.ClientHistory) {
	names := make([]string, len(a.Allergies))
	for i, al := range a.Allergies {
		names[i] = al.Name
	}
	p.said("Medicines", strings.Join(a.Medicines, ", "))
	p.said("Allergic to", strings.Join(names, ", "))
	p.said("Concerns", strings.ReplaceAll(strings.Join(a.Concerns, ", "), "-", " "))
	p.said("Home products", a.HomeProducts)
	p.said("Sleep", a.Sleep)
	p.said("Bedtime", a.Bedtime)
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
