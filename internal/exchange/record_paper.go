package exchange

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/guide"
	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
	"softpalm/words"
)

// RecordPaper is the record of a treatment as a PDF: what was used, how it went beside the plan, what was marked, notes
// and additions, and what was signed.
func RecordPaper(r *treatment.RecordView, studio string, zone *time.Location, at time.Time) ([]byte, error) {
	const moment = "2 January 2006 15:04"
	v := &r.Visit
	d := newPaper("A4", words.PaperRecordOfATreatment, studio, at)
	d.heading(20, words.PaperRecordOfATreatment)
	d.text("B", 11, v.ClientName)
	d.text("", 10, words.PaperTreatmentBy(v.ProtocolName, v.PractitionerName, r.Treatment.StartedAt.In(zone).Format(moment)))
	d.Ln(d.lh(8))
	w := d.width
	columns := []column{
		{words.PaperProduct, w * 0.32, "L"}, {words.PaperPlanned, w * 0.14, "R"}, {words.PaperUsed, w * 0.14, "R"},
		{words.PaperHow, w * 0.16, "L"}, {words.PaperLot, w * 0.24, "L"},
	}
	var rows [][]string
	for i := range r.Record.Uses {
		u := &r.Record.Uses[i]
		var lots []string
		for k := range u.Lots {
			lots = append(lots, u.Lots[k].Number)
		}
		rows = append(rows, []string{u.Name, short(u.Planned) + " " + u.Unit, short(u.Used) + " " + u.Unit, "   " + string(u.How), strings.Join(lots, ", ")})
	}
	if len(rows) > 0 {
		d.table(columns, rows)
	}
	if r.Treatment.Headline != "" {
		d.under(words.PaperCheckedAtTheDoor, words.Headlines[r.Treatment.Headline])
	}
	var tools []string
	for _, p := range r.Pieces {
		tools = append(tools, p.Tool+" "+strconv.Itoa(p.Number))
	}
	d.names(words.PaperToolsUsed, tools)
	if r.Account != nil {
		d.account(r.Account)
	}
	d.names(words.PaperSkipped, r.Skipped)
	d.under(words.PaperNotes, r.Record.Note)
	d.under(words.PaperClientSaid, r.Record.Said)
	d.under(words.PaperAdviceGiven, r.Record.Advice)
	d.measured(r.Measurements)
	for i := range r.Reactions {
		x := &r.Reactions[i]
		d.under(words.PaperReaction, words.PaperReactionLine(words.ReactionKinds[x.Kind], x.Grade, x.NoticedAt.In(zone).Format(moment)))
	}
	for i := range r.Incidents {
		x := &r.Incidents[i]
		d.under(words.PaperIncident(words.IncidentKinds[x.Kind], x.At.In(zone).Format(moment)), x.Body)
	}
	for i := range r.Additions {
		a := &r.Additions[i]
		text := a.Body
		if a.Field != "" {
			text = strings.TrimSpace(words.PaperCorrected(fieldName(r, a.Field), a.Was, a.Right) + "\n" + a.Body)
		}
		d.under(words.PaperAddedOn(a.At.In(zone).Format(moment), a.Author), text)
	}
	if s := r.Signature; s != nil {
		d.Ln(d.lh(10))
		d.text("B", 10, words.PaperSignedBy(s.By, s.At.In(zone).Format(moment)))
		d.text("", 8, "SHA-256 "+s.SHA256)
		switch {
		case s.Second != nil:
			d.text("B", 10, words.PaperSignedBy(s.Second.By, s.Second.At.In(zone).Format(moment)))
		case s.NeedsSecond:
			d.text("", 10, words.PaperSecondSignatureMissing)
		}
	}
	return d.bytes()
}

// measured prints lengths with every reading, and grades.
func (p *paper) measured(list []studio.Measurement) {
	var lines []string
	for i := range list {
		m := &list[i]
		if m.StruckAt != nil {
			continue
		}
		var readings []string
		for _, v := range m.Readings {
			readings = append(readings, strconv.FormatFloat(v, 'f', -1, 64))
		}
		name := words.MeasureNames[m.Measure]
		if m.Side != "mid" {
			name += ", " + m.Side
		}
		lines = append(lines, words.PaperMeasuredLine(name, words.MeasuredMoments[string(m.Moment)], strings.Join(readings, " / ")))
	}
	p.under(words.PaperMeasured, strings.Join(lines, "\n"))
}

// fieldName is a corrected field in words.
func fieldName(r *treatment.RecordView, field string) string {
	kind, _, _ := strings.Cut(field, "/")
	for _, f := range r.Correctable {
		if f.Field == field && f.Name != "" {
			return f.Name + ", " + words.RecordFields[kind]
		}
	}
	return words.RecordFields[kind]
}

// account prints how a treatment went beside its plan.
func (p *paper) account(a *guide.Account) {
	p.Ln(p.lh(8))
	p.text("B", 11, words.PaperInTheRoom)
	p.text("", 10, words.PaperRealOfPlanned(minutes(a.Real), minutes(a.Planned)))
	if a.Pauses > 0 {
		p.text("", 10, words.PaperPauses(a.Pauses, minutes(a.Paused)))
	}
	if a.Refit != nil {
		p.text("", 10, words.PaperRefitBy(a.Refit.Minutes))
	}
	var lines []string
	for i := range a.Spells {
		if s := &a.Spells[i]; s.Begun && s.Stayed > 0 {
			lines = append(lines, words.PaperStayedWith(s.Name, s.Stayed))
		}
	}
	for _, m := range a.Marks {
		lines = append(lines, words.PaperMarkAt(markName(m), int(m.Minute+0.5)))
	}
	for _, line := range lines {
		p.text("", 10, line)
	}
}

// markName is a mark in words: what, on which side, where, with what.
func markName(m guide.MarkRecord) string {
	parts := []string{words.RoomMarks[string(m.Kind)]}
	if m.Side == "left" || m.Side == "right" {
		parts = append(parts, m.Side)
	}
	if id, ok := anatomy.Lookup(m.Zone); ok {
		parts = append(parts, strings.ToLower(id.Zone().Name))
	}
	if m.Product != "" {
		parts = append(parts, m.Product)
	}
	return strings.Join(parts, " ")
}

// names prints names under a heading, where there are any.
func (p *paper) names(heading string, names []string) { p.under(heading, strings.Join(names, ", ")) }

// under prints a text under a heading, where there is one.
func (p *paper) under(heading, text string) {
	if text == "" {
		return
	}
	p.Ln(p.lh(8))
	p.text("B", 11, heading)
	p.text("", 10, text)
}

// minutes are seconds as m:ss.
func minutes(seconds float64) string {
	s := int(seconds + 0.5)
	return fmt.Sprintf("%d:%02d", s/60, s%60)
}
