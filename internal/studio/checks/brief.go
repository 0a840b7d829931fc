package checks

import (
	"context"
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/patch"
	"softpalm/internal/studio"
	"softpalm/words"
)

// briefStore is what a brief is gathered from.
type briefStore interface {
	planStore
	RecordAdditions(ctx context.Context, visit uuid.UUID) ([]studio.RecordAddition, error) // oldest first
	PatchTests(ctx context.Context, client uuid.UUID) ([]studio.PatchTest, error)          // newest first
}

// Brief gathers what to know of a client before the next treatment: what is in force, what
// is missing, how it went last time and what is different since. visit is the appointment
// it is for; nil is the next one.
func (s *Service) Brief(ctx context.Context, a *studio.Actor, client uuid.UUID, visit *uuid.UUID) (*studio.Brief, error) {
	if err := a.May("get-brief"); err != nil {
		return nil, err
	}
	var out *studio.Brief
	err := studio.In(ctx, s.Kernel, a, func(tx briefStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "get-brief", client); err != nil {
			return err
		}
		t, err := s.loadClientSnapshot(ctx, tx, st, client)
		if err != nil {
			return err
		}
		visits, err := tx.ClientVisits(ctx, client)
		if err != nil {
			return err
		}
		out = t.brief(st)
		if out.Notes, err = tx.ClientNotes(ctx, client); err != nil {
			return err
		}
		if out.Next = nextVisit(visits, visit, s.Today(st), st); out.Next != nil {
			if err := s.briefNext(ctx, tx, st, a, t, out); err != nil {
				return err
			}
		}
		day := s.Today(st)
		if out.Next != nil {
			day = out.Next.StartsAt.In(st.Zone()).Format(time.DateOnly)
		}
		res, answers := t.judgedDay(st.Pack(), max(day, s.Today(st)))
		out.Known = st.Pack().Marks(res, answers)
		if err := s.briefLast(ctx, tx, st, t, visits, out); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "look", "client", client)
	})
	return out, err
}

// brief is what the snapshot itself tells.
func (t *clientSnapshot) brief(st *studio.Studio) *studio.Brief {
	h := t.history()
	b := &studio.Brief{
		Client: t.client.ID, Name: t.client.Name, Phone: t.client.Phone, BirthDate: t.client.BirthDate, Note: t.client.Note,
		Allergies: h.Allergies, Medicines: h.Medicines, Consultation: t.state, Unsigned: append([]studio.ConsentKind{}, t.unsigned()...), Since: []string{},
	}
	if t.currentConsultation != nil {
		b.ValidUntil = t.currentConsultation.ValidUntil()
	}
	return b
}

// nextVisit is the appointment asked for, or the client's next treatment from today on.
func nextVisit(visits []studio.VisitLine, id *uuid.UUID, today string, st *studio.Studio) *studio.VisitLine {
	var next *studio.VisitLine
	for i := range visits { // newest first
		v := &visits[i]
		if id != nil && v.ID == *id {
			return v
		}
		live := v.State == studio.Booked || v.State == studio.Confirmed || v.State == studio.Arrived || v.State == studio.InRoom
		if id == nil && live && v.StartsAt.In(st.Zone()).Format(time.DateOnly) >= today {
			next = v
		}
	}
	return next
}

// briefNext says what the next appointment needs.
func (s *Service) briefNext(
	ctx context.Context,
	tx briefStore,
	st *studio.Studio,
	a *studio.Actor,
	t *clientSnapshot,
	out *studio.Brief,
) error {
	one := []studio.VisitLine{*out.Next}
	if err := s.Outlook(ctx, tx, st, a, one); err != nil {
		return err
	}
	out.Next = &one[0]
	if out.Next.Kind != studio.ForTreatment {
		return nil
	}
	p, err := tx.Version(ctx, out.Next.Protocol, out.Next.Version)
	if err != nil {
		return err
	}
	lib, err := studio.ReadLibrary(ctx, tx)
	if err != nil {
		return err
	}
	cx := lib.Context()
	if len(p.ValidateStructure(cx, "")) > 0 {
		return nil
	}
	out.Unsigned = []studio.ConsentKind{}
	for _, kind := range consentsFor(evaluation.EvaluateTimeline(p, cx)) {
		if !slices.Contains(t.consented, kind) {
			out.Unsigned = append(out.Unsigned, kind)
		}
	}
	return nil
}

// briefLast tells how the last treatment went, and what is different since.
func (s *Service) briefLast(
	ctx context.Context,
	tx briefStore,
	st *studio.Studio,
	t *clientSnapshot,
	visits []studio.VisitLine,
	out *studio.Brief,
) error {
	i := slices.IndexFunc(visits, func(v studio.VisitLine) bool {
		return v.State.Given() && v.Kind == studio.ForTreatment && (out.Next == nil || v.StartsAt.Before(out.Next.StartsAt))
	})
	if i < 0 {
		out.Since = append(out.Since, words.BriefFirstVisit)
		return nil
	}
	v := &visits[i]
	last := &studio.LastTreatment{
		Visit: v.ID, At: v.StartsAt, Protocol: v.ProtocolName, Practitioner: v.PractitionerName,
		Products: []studio.RecordUse{}, Skipped: []string{}, Known: []contraindication.Mark{},
	}
	out.Last = last
	if out.Next != nil && out.Next.Protocol != v.Protocol && out.Next.Kind == studio.ForTreatment {
		out.Since = append(out.Since, words.BriefOtherProtocol)
	}
	at := v.StartsAt
	gave, err := tx.Treatment(ctx, v.ID)
	if err == nil {
		last.Note, last.Products, last.Skipped = gave.Record.Note, gave.Record.Uses, gave.SkippedSteps()
		at = gave.StartedAt
		if err := t.compareWith(ctx, tx, st, gave, out); err != nil {
			return err
		}
	} else if !errors.Is(err, studio.ErrNotFound) {
		return err
	}
	if last.Additions, err = tx.RecordAdditions(ctx, v.ID); err != nil {
		return err
	}
	for _, add := range last.Additions {
		out.Since = append(out.Since, words.BriefAddedToRecord(add.Author, add.Body))
	}
	if c := t.currentConsultation; c != nil && c.ReviewedAt != nil && c.ReviewedAt.After(at) {
		out.Since = append(out.Since, words.BriefConsultationRenewed(c.ReviewedAt.In(st.Zone()).Format("2 January")))
	}
	return s.testsSince(ctx, tx, out, at)
}

// compareWith says what is in force now and was not at a treatment, and the other way round.
func (t *clientSnapshot) compareWith(
	ctx context.Context,
	tx briefStore,
	st *studio.Studio,
	gave *studio.Treatment,
	out *studio.Brief,
) error {
	if gave.PreCheck == nil {
		return nil
	}
	check, err := tx.PreCheck(ctx, *gave.PreCheck)
	if err != nil {
		return err
	}
	out.Last.Known = st.Pack().Marks(check.Result, check.Answers)
	for _, m := range contraindication.NotAmong(out.Known, out.Last.Known) {
		out.Since = append(out.Since, words.BriefNewSince(m.Text))
	}
	for _, m := range contraindication.NotAmong(out.Last.Known, out.Known) {
		if !st.Pack().OfTheDay(m.Rule) { // what was asked of that day says nothing about this one
			out.Since = append(out.Since, words.BriefGoneSince(m.Text))
		}
	}
	return nil
}

// testsSince names the patch tests that were read since.
func (s *Service) testsSince(ctx context.Context, tx briefStore, out *studio.Brief, at time.Time) error {
	tests, err := tx.PatchTests(ctx, out.Client)
	if err != nil {
		return err
	}
	for i := range tests {
		p := &tests[i]
		state := p.PatchTest.State(s.Now())
		read := slices.ContainsFunc(p.Readings, func(r patch.Reading) bool { return r.At.After(at) })
		switch {
		case read && state == patch.PatchClear:
			out.Since = append(out.Since, words.BriefPatchTestClear(p.Name))
		case read && state == patch.PatchReacted:
			out.Since = append(out.Since, words.BriefPatchTestReacted(p.Name))
		}
	}
	return nil
}
