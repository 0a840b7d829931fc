package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/substance"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/diary"
	"softpalm/internal/studio/treatment"
)

func markTexts(marks []contraindication.Mark) []string {
	out := []string{}
	for _, m := range marks {
		out = append(out, m.Text)
	}
	return out
}

// besides is a consultation with no to everything besides some rules.
func besides(w *world, yes ...string) map[string]contraindication.Answer {
	out := noTo(w, contraindication.Consultation)
	for _, r := range yes {
		out[r] = contraindication.Answer{Yes: true}
	}
	return out
}

// What was reviewed is known at once, on the day's list and in the client's file, and not
// only after the next check; who was not asked is not taken for somebody with nothing
// (common practice).
func TestWhatIsKnownOfAClientAtOnce(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	lineOf := func(a *studio.Actor) studio.VisitLine {
		d, err := w.svc.Diary.Day(ctx, a, "")
		require.NoError(t, err)
		for _, l := range d.Visits {
			if l.ID == v.ID {
				return l
			}
		}
		t.Fatal("the appointment is not on its day")
		return studio.VisitLine{}
	}
	before := lineOf(&w.owner)
	assert.Equal(t, studio.NotAsked, before.Consultation)
	assert.Empty(t, before.Known)
	assert.Equal(t, []studio.ConsentKind{studio.ConsentTreatment}, before.Unsigned)

	w.consult(t, v.Client, besides(w, "lenses", "nut-allergy"), studio.ClientHistory{Medicines: []string{"ramipril"}, Allergies: []substance.Allergy{{Kind: "words", Key: "walnut-shells", Name: "Walnut shells"}}})
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	after := lineOf(&w.owner)
	assert.Equal(t, studio.Current, after.Consultation)
	assert.Equal(t, []string{"no nuts", "no walnut shells", "contact lenses"}, markTexts(after.Known))
	assert.Empty(t, after.Unsigned)
	b, err := w.svc.Checks.Brief(ctx, &w.owner, v.Client, nil)
	require.NoError(t, err)
	assert.Equal(t, markTexts(after.Known), markTexts(b.Known))
	assert.Equal(t, []string{"ramipril"}, b.Medicines)
	require.NotNil(t, b.Next)
	assert.Equal(t, v.ID, b.Next.ID)
	assert.NotEmpty(t, b.ValidUntil)

	desk := lineOf(&w.desk)
	assert.Empty(t, desk.Known)
	assert.Empty(t, desk.Consultation)
	assert.Empty(t, desk.Unsigned)
	_, err = w.svc.Checks.Brief(ctx, &w.desk, v.Client, nil)
	assert.ErrorIs(t, err, studio.ErrForbidden)
	w.now = w.now.AddDate(1, 0, 1)
	b, err = w.svc.Checks.Brief(ctx, &w.owner, v.Client, nil)
	require.NoError(t, err)
	assert.Equal(t, studio.Renew, b.Consultation, "twelve months are over (handbook, chapter 5)")
}

// The brief tells how it went last time and what is different since: new and gone
// contraindications, another protocol, a renewed consultation, additions to the record.
func TestWhatIsDifferentSinceLastTime(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	b, err := w.svc.Checks.Brief(ctx, &w.owner, w.client(t, "Kaia"), nil)
	require.NoError(t, err)
	assert.NotNil(t, b.Since)

	w.treated(t, v, map[string]contraindication.Answer{"migraine": {Yes: true}})
	_, err = w.svc.Treatment.AddToRecord(ctx, &w.owner, v.ID, treatment.NewAddition{Body: "Slept well."})
	require.NoError(t, err)
	b, err = w.svc.Checks.Brief(ctx, &w.owner, v.Client, nil)
	require.NoError(t, err)
	require.NotNil(t, b.Last)
	assert.Equal(t, v.ID, b.Last.Visit)
	assert.Equal(t, []string{"migraine"}, markTexts(b.Last.Known))
	assert.NotEmpty(t, b.Last.Products)
	assert.Contains(t, b.Since, w.owner.Name+" added to the record: Slept well.")

	w.now = w.now.Add(48 * time.Hour)
	w.consult(t, v.Client, besides(w, "lenses"), studio.ClientHistory{})
	b, err = w.svc.Checks.Brief(ctx, &w.owner, v.Client, nil)
	require.NoError(t, err)
	assert.Contains(t, b.Since, "New: contact lenses")
	assert.Contains(t, b.Since, "No longer: migraine")
	assert.Contains(t, b.Since, "Consultation renewed "+w.now.Format("2 January"))
}

// A note is pinned to a place or a stroke, shows at the steps it is about on the plan and
// in the room, and goes with the client.
func TestNotesAreAtTheirSteps(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	for _, wrong := range []studio.PinnedNote{
		{Body: "nowhere"}, {Zone: "no-such", Body: "x"}, {Zone: "chin", Stroke: "chin-hold", Body: "both"}, {Zone: "chin", Body: "  "},
	} {
		_, err := w.svc.Clients.AddNote(ctx, &w.owner, v.Client, wrong)
		var bad *studio.InputError
		assert.ErrorAs(t, err, &bad, "%+v", wrong)
	}
	_, err := w.svc.Clients.AddNote(ctx, &w.desk, v.Client, studio.PinnedNote{Zone: "chin", Body: "x"})
	require.ErrorIs(t, err, studio.ErrForbidden)
	jaw, err := w.svc.Clients.AddNote(ctx, &w.owner, v.Client, studio.PinnedNote{Zone: "jawline", Side: "left", Body: " The left jaw is the tender one. "})
	require.NoError(t, err)
	chin, err := w.svc.Clients.AddNote(ctx, &w.owner, v.Client, studio.PinnedNote{Zone: "chin", Side: "left", Body: "Ticklish."})
	require.NoError(t, err)
	assert.Empty(t, chin.Side, "the chin has no sides")
	require.NoError(t, w.svc.Clients.RemoveNote(ctx, &w.owner, v.Client, chin.ID))
	require.ErrorIs(t, w.svc.Clients.RemoveNote(ctx, &w.owner, v.Client, chin.ID), studio.ErrNotFound)
	require.ErrorIs(t, w.svc.Clients.RemoveNote(ctx, &w.owner, w.client(t, "Kaia"), jaw.ID), studio.ErrNotFound)

	w.checked(t, v, nil)
	p, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	require.NoError(t, err)
	require.Len(t, p.ClientNotes, 1)
	assert.Equal(t, "The left jaw is the tender one.", p.ClientNotes[0].Body)
	want := []string{}
	for _, step := range p.Evaluation.Steps {
		if step.OnZone("jawline") && step.Sides != "right" {
			want = append(want, step.ID)
		}
	}
	require.NotEmpty(t, want)
	assert.Equal(t, want, p.ClientNotes[0].Steps)
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	require.NoError(t, w.start(t, v.ID))
	room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, p.ClientNotes, room.Treatment.ClientNotes)

	rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, rec.Record)
	require.NoError(t, err)
	f, err := w.svc.Clients.ExportClient(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	assert.Len(t, f.Notes, 1)
	require.NoError(t, w.svc.Clients.EraseClient(ctx, &w.owner, v.Client, f.Client.Name))
	assert.Zero(t, w.count(t, "select count(*) from client_note"))
}

// The inbox holds what waits: answers, tests to read, records to sign, letters asked for
// and letters to ask for. The front desk is told of answers only, a trainee of their own.
func TestTheInbox(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	kinds := func(a *studio.Actor, client uuid.UUID) map[studio.InboxKind]int {
		list, err := w.svc.Checks.Inbox(ctx, a)
		require.NoError(t, err)
		out := map[studio.InboxKind]int{}
		for _, i := range list {
			if i.Client == client {
				assert.NotEmpty(t, i.ClientName)
				out[i.Kind]++
			}
		}
		return out
	}
	v := w.first(t)
	link, err := w.svc.Checks.NewLink(ctx, &w.owner, v.Client, false)
	require.NoError(t, err)
	assert.Empty(t, kinds(&w.owner, v.Client))
	answers := map[string]contraindication.Answer{}
	open, err := w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"})
	require.NoError(t, err)
	for _, r := range open.Questions {
		answers[r.ID] = contraindication.Answer{}
	}
	require.NoError(t, w.svc.Checks.SaveLinked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"}, answers, studio.ClientHistory{}, true))
	assert.Equal(t, map[studio.InboxKind]int{studio.AnswersIn: 1}, kinds(&w.owner, v.Client))
	assert.Equal(t, map[studio.InboxKind]int{studio.AnswersIn: 1}, kinds(&w.desk, v.Client))

	w.consult(t, v.Client, besides(w, "cancer"), studio.ClientHistory{})
	got := kinds(&w.owner, v.Client)
	assert.Equal(t, 1, got[studio.LetterToAsk], "once, however many appointments need it")
	w.checked(t, v, map[string]contraindication.Answer{"cancer": {Yes: true}})
	_, err = w.svc.Checks.WriteLetter(ctx, &w.owner, v.Client, nil, "May it?", "")
	require.NoError(t, err)
	got = kinds(&w.owner, v.Client)
	assert.Equal(t, 1, got[studio.LetterDue])
	assert.Zero(t, got[studio.LetterToAsk])
	assert.Zero(t, kinds(&w.desk, v.Client)[studio.LetterDue])
	stranger := w.owner
	stranger.Role, stranger.Practitioner = studio.Trainee, w.colleagueOf(t, v.Practitioner)
	assert.Empty(t, kinds(&stranger, v.Client))

	other := w.next(t, w.client(t, "Kaia"))
	w.now = other.StartsAt.Add(-5 * time.Minute)
	w.checked(t, other, nil)
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, other.Client, studio.ConsentTreatment, "K. Client", false, signature)
	require.NoError(t, err)
	require.NoError(t, w.start(t, other.ID))
	hers := w.owner
	hers.Role, hers.Practitioner = studio.Practitioner, &other.Practitioner
	assert.Zero(t, kinds(&hers, other.Client)[studio.RecordToSign], "it is being given")
	w.now = other.EndsAt.Add(time.Minute)
	assert.Equal(t, 1, kinds(&hers, other.Client)[studio.RecordToSign])
}

// Today is prepared for the treatments that have not begun: of one practitioner, or of all.
func TestPreparingToday(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	all, err := w.svc.Diary.Preparation(ctx, &w.owner, nil)
	require.NoError(t, err)
	v := w.first(t)
	mine, err := w.svc.Diary.Preparation(ctx, &w.owner, &v.Practitioner)
	require.NoError(t, err)
	d, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	want, own := 0, 0
	for _, l := range d.Visits {
		if l.Kind == studio.ForTreatment && (l.State == studio.Booked || l.State == studio.Confirmed) {
			want++
			if l.Practitioner == v.Practitioner {
				own++
			}
		}
	}
	assert.Equal(t, want, all.Treatments)
	assert.Equal(t, own, mine.Treatments)
	assert.Less(t, own, want)
	amount := func(p *diary.Preparation) (sum float64) {
		for _, n := range p.Products {
			sum += n.ML
		}
		return sum
	}
	assert.Less(t, amount(mine), amount(all))
	assert.GreaterOrEqual(t, all.Towels, want)
	assert.Empty(t, all.Short, "the demo's shelf lasts for the day")
	_, err = w.svc.Diary.SetVisitState(ctx, &w.owner, v.ID, studio.Cancelled, "ill")
	require.NoError(t, err)
	less, err := w.svc.Diary.Preparation(ctx, &w.owner, nil)
	require.NoError(t, err)
	assert.Equal(t, want-1, less.Treatments)
	assert.Less(t, amount(less), amount(all))
	_, err = w.svc.Diary.Preparation(ctx, &w.desk, nil)
	assert.ErrorIs(t, err, studio.ErrForbidden)
}
