package house

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// diaryStore adds rosters, absences, series and the waiting list.
type diaryStore interface {
	AddRosterEntry(ctx context.Context, e *studio.RosterEntry) error
	AddAbsence(ctx context.Context, a *studio.Absence) error
	AddSeries(ctx context.Context, s *studio.Series) error
	SaveSeries(ctx context.Context, s *studio.Series) error
	AddWaiter(ctx context.Context, w *studio.Waiter) error
}

// closures reads the days on which a new studio is closed.
func (s *Service) closures(st *studio.Studio, list []BundleClosure) error {
	today := s.Now().In(st.Zone())
	for i, c := range list {
		from, ok1 := bundleDay(c.From, today)
		to, ok2 := bundleDay(c.To, today)
		if !ok1 || !ok2 || to < from {
			return studio.FaultAt(fmt.Sprintf("/studio/closures/%d", i), words.ThereIsNoFieldVal("day", c.From))
		}
		st.Closures = append(st.Closures, series.Closure{From: from, To: to, Reason: c.Reason})
	}
	return nil
}

// day reads a day of the file, and notes a fault where it is none.
func (im *importer) day(text, path string) string {
	day, ok := bundleDay(text, im.now.In(im.st.Zone()))
	if !ok {
		im.fault(path, words.ThereIsNoFieldVal("day", text))
	}
	return day
}

// addRosters adds shifts and absences.
func (im *importer) addRosters(ctx context.Context, b *Bundle) error {
	for i := range b.Roster {
		r, at := &b.Roster[i], fmt.Sprintf("/roster/%d", i)
		who, ok := im.people[r.Practitioner]
		if !ok {
			im.fault(at+"/practitioner", words.ThereIsNoFieldVal("practitioner", r.Practitioner))
		}
		e := &studio.RosterEntry{ID: studio.NewID(), Practitioner: who, From: im.day(r.From, at+"/from"), Every: max(r.Every, 1), Days: r.Days, Note: r.Note}
		if r.To != "" {
			e.To = im.day(r.To, at+"/to")
		}
		if err := im.stop(); err != nil {
			return err
		}
		if err := im.tx.AddRosterEntry(ctx, e); err != nil {
			return err
		}
	}
	for i := range b.Absences {
		a, at := &b.Absences[i], fmt.Sprintf("/absences/%d", i)
		who, ok := im.people[a.Practitioner]
		if !ok {
			im.fault(at+"/practitioner", words.ThereIsNoFieldVal("practitioner", a.Practitioner))
		}
		from, err1 := time.ParseInLocation(time.DateOnly, im.day(a.From, at+"/from"), im.st.Zone())
		to, err2 := time.ParseInLocation(time.DateOnly, im.day(a.To, at+"/to"), im.st.Zone())
		if err1 == nil && err2 == nil && to.Before(from) {
			im.fault(at+"/to", words.AnAbsenceEndsAfterItBegins())
		}
		if err := im.stop(); err != nil {
			return err
		}
		if err := im.tx.AddAbsence(ctx, &studio.Absence{
			ID: studio.NewID(), Practitioner: &who, Start: from, End: to.AddDate(0, 0, 1), Kind: studio.Away, Note: a.Note,
		}); err != nil {
			return err
		}
	}
	return nil
}

// holdOfDemo is how long a series that a file holds is held.
const holdOfDemo = 10 * time.Minute

// addSeries adds series; their visits come after them.
func (im *importer) addSeries(ctx context.Context, b *Bundle) error {
	for i := range b.Series {
		bs, at := &b.Series[i], fmt.Sprintf("/series/%d", i)
		client, ok := im.clients[bs.Client]
		if !ok {
			im.fault(at+"/client", words.ThereIsNoFieldVal("client", bs.Client))
		}
		pl, ok := im.plans[bs.Protocol]
		if !ok || pl.version == 0 {
			im.fault(at+"/protocol", words.ThereIsNoFieldVal("protocol", bs.Protocol))
		}
		often := series.ReadOften(bs.Often)
		if often.Visits < 1 {
			im.fault(at+"/often", words.SayHowManyVisitsTheSeriesHas())
		}
		if err := im.stop(); err != nil {
			return err
		}
		sr := &studio.Series{
			ID: studio.NewID(), Client: client, State: bs.State, Reason: bs.Reason, CreatedAt: im.now,
			Asked: studio.SeriesAsked{Often: bs.Often, When: bs.When, With: bs.With},
		}
		if bs.State == studio.SeriesOffered {
			until := im.now.Add(holdOfDemo)
			sr.HeldUntil = &until
		}
		cx := im.lib.Context()
		marks := make([]series.Marks, often.Visits)
		for k := range marks {
			marks[k] = series.MarksOf(&pl.body, cx)
		}
		gaps, perWeek := often.Rhythm.Compile(marks)
		sr.Asked.PerWeek = perWeek
		for k := range gaps {
			it := studio.SeriesItem{N: k + 1, Protocol: pl.id, Gap: gaps[k], Marks: marks[k]}
			if k > 0 {
				it.Rest = marks[k].Rest()
			}
			sr.Items = append(sr.Items, it)
		}
		im.series[bs.Key] = sr.ID
		if err := im.tx.AddSeries(ctx, sr); err != nil {
			return err
		}
		if err := im.tx.SaveSeries(ctx, sr); err != nil { // with its reason
			return err
		}
	}
	return nil
}

// inSeries places a visit in its series, where it names one.
func (im *importer) inSeries(v *studio.Visit, bv *BundleVisit, at string) bool {
	if bv.State == studio.Held {
		until := im.now.Add(holdOfDemo)
		v.HeldUntil = &until
	}
	if bv.Series == "" {
		return true
	}
	id, ok := im.series[bv.Series]
	if !ok || bv.Item < 1 {
		im.fault(at+"/series", words.ThereIsNoFieldVal("series", bv.Series))
		return false
	}
	v.Series, v.Item = &id, bv.Item
	return true
}

// toolsOf counts the sets of tools that a treatment takes.
func (im *importer) toolsOf(p *protocol.Protocol) map[string]int {
	cx := im.lib.Context()
	if len(p.Validate(cx, "")) > 0 {
		return nil
	}
	return evaluation.ToolSets(p, cx)
}

// addWaiting adds the waiting list.
func (im *importer) addWaiting(ctx context.Context, b *Bundle) error {
	for i := range b.Waiting {
		bw, at := &b.Waiting[i], fmt.Sprintf("/waiting/%d", i)
		client, ok1 := im.clients[bw.Client]
		pl, ok2 := im.plans[bw.Protocol]
		if !ok1 {
			im.fault(at+"/client", words.ThereIsNoFieldVal("client", bw.Client))
		}
		if !ok2 {
			im.fault(at+"/protocol", words.ThereIsNoFieldVal("protocol", bw.Protocol))
		}
		since, err := time.ParseInLocation(time.DateOnly, im.day(bw.Since, at+"/since"), im.st.Zone())
		if err := im.stop(); err != nil {
			return err
		}
		if err != nil {
			since = im.now
		}
		if err := im.tx.AddWaiter(ctx, &studio.Waiter{
			ID: uuid.Must(uuid.NewV7()), Client: client, Protocol: pl.id, Asked: studio.SeriesAsked{When: bw.When, With: bw.With},
			Notice: bw.Notice, Displaced: bw.Displaced, Reason: bw.Reason, Since: since.Add(12 * time.Hour),
		}); err != nil {
			return err
		}
	}
	return nil
}
