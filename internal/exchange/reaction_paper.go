package exchange

import (
	"strconv"
	"strings"
	"time"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio/treatment"
	"softpalm/words"
)

// ReactionPaper is a reaction as a PDF for a supplier or an authority: what was noticed, when and where, what lay on
// the skin with its lots, what was done and how it went on. The client is named by initials and year of birth; no other
// client is on it.
func ReactionPaper(r *treatment.ReactionReport, studio string, zone *time.Location, at time.Time) ([]byte, error) {
	const moment = "2 January 2006 15:04"
	d := newPaper("A4", words.PaperReactionReport, studio, at)
	d.heading(20, words.PaperReactionReport)
	d.text("", 10, words.PaperReactionNoDiagnosis)
	d.Ln(d.lh(6))
	d.field(words.PaperClient, strings.TrimSpace(r.Initials+" "+r.Born))
	d.field(words.PaperNoticed, r.NoticedAt.In(zone).Format(moment)+", "+r.NoticedBy)
	d.field(words.PaperReaction, words.ReactionKinds[r.Kind])
	d.field(words.PaperGrade, strconv.Itoa(r.Grade)+": "+words.ReactionGrades[strconv.Itoa(r.Grade)])
	d.field(words.PaperWhere, zoneNames(r.Zones))
	if r.Protocol != "" {
		d.field(words.PaperTreatment, r.Protocol+", "+r.Day)
	}
	d.field(words.PaperWhatWasDone, r.Done)
	d.Ln(d.lh(8))
	var rows [][]string
	for i := range r.Products {
		p := &r.Products[i]
		aside := ""
		if p.SetAside {
			aside = words.PaperSetAside
		}
		rows = append(rows, []string{p.Name, p.Lot, aside})
	}
	if len(rows) > 0 {
		w := d.width
		d.table([]column{{words.PaperProduct, w * 0.45, "L"}, {words.PaperLot, w * 0.3, "L"}, {"", w * 0.25, "L"}}, rows)
	}
	for i := range r.FollowUp {
		f := &r.FollowUp[i]
		if f.DoneAt == nil {
			continue
		}
		grade := ""
		if f.Grade != nil {
			grade = ", " + words.PaperGrade + " " + strconv.Itoa(*f.Grade)
		}
		d.under(words.PaperAskedOn(f.DoneAt.In(zone).Format(moment)), strings.TrimSpace(words.ReactionNow[string(f.Now)]+grade+"\n"+f.Note))
	}
	if r.ClosedAt != nil {
		d.under(words.PaperClosedOn(r.ClosedAt.In(zone).Format(moment)), strings.TrimSpace(words.ReactionOutcomes[string(r.Outcome)]+"\n"+r.Note))
	}
	return d.bytes()
}

// zoneNames are zones with their sides in words.
func zoneNames(zones []contraindication.ZoneSide) string {
	if len(zones) == 0 {
		return words.PaperNotKnown
	}
	names := make([]string, 0, len(zones))
	for _, z := range zones {
		name := z.Zone
		if id, ok := anatomy.Lookup(z.Zone); ok {
			name = strings.ToLower(id.Zone().Name)
		}
		if z.Side == "left" || z.Side == "right" {
			name = z.Side + " " + name
		}
		names = append(names, name)
	}
	return strings.Join(names, ", ")
}
