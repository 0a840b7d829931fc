package checks

import (
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/patch"
	"softpalm/internal/studio"
)

// inboxStore is what waits at the studio.
type inboxStore interface {
	snapshotStore
	Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error) // by start
	// WaitingAnswers, WaitingLetters and WaitingRecords list what came in and nobody has
	// reviewed, letters that were not answered, and treatments that were over at a time and are
	// not signed; the oldest first.
	WaitingAnswers(ctx context.Context) ([]studio.InboxItem, error)
	WaitingLetters(ctx context.Context) ([]studio.InboxItem, error)
	WaitingRecords(ctx context.Context, over time.Time) ([]studio.InboxItem, error)
	// WaitingSeconds lists trainees' records that nobody has signed besides them, the oldest first.
	WaitingSeconds(ctx context.Context) ([]studio.InboxItem, error)
	// EndingSeries lists series paid ahead whose clients are to be reminded on a day that they end.
	EndingSeries(ctx context.Context, today string) ([]studio.InboxItem, error)
	// DueFollowUps lists the follow-ups of reactions that are due before a moment.
	DueFollowUps(ctx context.Context, before time.Time) ([]studio.InboxItem, error)
	// UnreadPatchTests lists those applied since a time, with their clients' names by client.
	UnreadPatchTests(ctx context.Context, since time.Time) ([]studio.PatchTest, map[uuid.UUID]string, error)
}

// How far back patch tests are looked for that nobody read, and how far ahead appointments
// whose letter nobody asked for.
const (
	unreadDays   = 14
	lettersAhead = 14
)

// Inbox lists what waits for somebody at the studio: follow-ups of reactions first, then answers, patch tests,
// records, letters. Those who see no health are told of answers only.
func (s *Service) Inbox(ctx context.Context, a *studio.Actor) ([]studio.InboxItem, error) {
	if err := a.May("get-inbox"); err != nil {
		return nil, err
	}
	var out []studio.InboxItem
	err := studio.In(ctx, s.Kernel, a, func(tx inboxStore, st *studio.Studio) error {
		var answers, ending []studio.InboxItem
		parts := []func() error{studio.Read(ctx, &answers, tx.WaitingAnswers)}
		if a.Role.Scope("list-sold-series") != studio.None {
			parts = append(parts, studio.ReadOf(ctx, &ending, tx.EndingSeries, s.Today(st)))
		}
		w, err := s.findWaiting(ctx, tx, st, a, parts)
		if err != nil {
			return err
		}
		out = slices.Concat([]studio.InboxItem{}, w.followUps, answers, ending, w.patchTests, w.records, w.letters)
		out = append(out, w.lettersNotIn(out, s.Now())...)
		if a.Role.Scope("get-inbox") != studio.Own {
			return nil
		}
		mine := []studio.InboxItem{}
		for _, item := range out {
			treats, err := a.Treats(ctx, tx, item.Client)
			if err != nil {
				return err
			}
			if treats {
				mine = append(mine, item)
			}
		}
		out = mine
		return nil
	})
	return out, err
}

// waiting is what waits besides answers. How somebody's skin is comes before paper.
type waiting struct {
	followUps, patchTests, records, letters []studio.InboxItem
	toAsk                                   []studio.InboxItem // for a letter
}

// findWaiting finds what waits, and runs the parts that everybody is told of in the same round trip. An actor who sees no
// health gets those parts only.
func (s *Service) findWaiting(
	ctx context.Context,
	tx inboxStore,
	st *studio.Studio,
	a *studio.Actor,
	parts []func() error,
) (w waiting, err error) {
	if a.NoHealth("get-inbox") {
		return w, tx.Gather(parts...)
	}
	now := s.Now()
	var second []studio.InboxItem
	parts = append(parts,
		studio.ReadOf(ctx, &w.followUps, tx.DueFollowUps, st.Midnight(now).AddDate(0, 0, 1)),
		func() (err error) {
			w.patchTests, err = patchTestsToRead(ctx, tx, now)
			return err
		},
		studio.ReadOf(ctx, &w.records, tx.WaitingRecords, now),
		studio.Read(ctx, &w.letters, tx.WaitingLetters),
		studio.Changed(ctx, tx),
	)
	if a.May("countersign-record") == nil {
		parts = append(parts, studio.Read(ctx, &second, tx.WaitingSeconds))
	}
	if err := tx.Gather(parts...); err != nil {
		return w, err
	}
	for i := range w.followUps {
		w.followUps[i].Overdue = w.followUps[i].At.Before(now)
	}
	w.records = slices.DeleteFunc(w.records, func(i studio.InboxItem) bool { return !a.ConcernsRecord(&i, now) })
	for i := range w.records {
		w.records[i].Overdue = now.Sub(w.records[i].At) >= studio.UnsignedMarked
	}
	w.records = append(w.records, second...)
	w.toAsk, err = s.lettersToAsk(ctx, tx, st) // kept for the most part, and worked out once for all who wait for it
	return w, err
}

// patchTestsToRead lists those that are to be read now.
func patchTestsToRead(ctx context.Context, tx inboxStore, now time.Time) (out []studio.InboxItem, err error) {
	tests, names, err := tx.UnreadPatchTests(ctx, now.AddDate(0, 0, -unreadDays))
	for i := range tests {
		p := &tests[i]
		if p.PatchTest.State(now) == patch.PatchDue {
			out = append(out, studio.InboxItem{ID: p.ID, Kind: studio.PatchToRead, Client: p.Client, ClientName: names[p.Client], What: p.Name, At: p.Applied})
		}
	}
	return out, err
}

// lettersNotIn are the letters to ask for soon, of clients whose letter is not among what waits already: each client once.
func (w *waiting) lettersNotIn(waits []studio.InboxItem, now time.Time) (out []studio.InboxItem) {
	among := func(list []studio.InboxItem, client uuid.UUID) bool {
		return slices.ContainsFunc(list, func(o studio.InboxItem) bool {
			return o.Client == client && (o.Kind == studio.LetterDue || o.Kind == studio.LetterToAsk)
		})
	}
	for _, l := range w.toAsk {
		if !among(waits, l.Client) && !among(out, l.Client) && !l.At.Before(now) && l.At.Before(now.AddDate(0, 0, lettersAhead)) {
			out = append(out, l)
		}
	}
	return out
}

// lettersToAsk lists the appointments to come that need a doctor's letter, by start: from today on, and as far ahead as
// letters are asked for.
func (s *Service) lettersToAsk(ctx context.Context, tx inboxStore, st *studio.Studio) ([]studio.InboxItem, error) {
	key := fmt.Sprintf("letters to ask on %s by settings %d", s.Today(st), st.Changes)
	from := []studio.Area{studio.InCatalog, studio.InPlans, studio.InDiary, studio.InFiles}
	return studio.Keep(ctx, tx, key, from, func() ([]studio.InboxItem, error) {
		today := st.Midnight(s.Now())
		coming, err := tx.Visits(ctx, today, today.AddDate(0, 0, lettersAhead+1))
		if err != nil {
			return nil, err
		}
		these := make([]*studio.VisitLine, len(coming))
		for i := range coming {
			these[i] = &coming[i]
		}
		if err := s.judge(ctx, tx, st, these); err != nil {
			return nil, err
		}
		var out []studio.InboxItem
		for i := range coming {
			v := &coming[i]
			if v.Outlook == string(contraindication.NeedsLetter) {
				id, who := v.ID, v.Practitioner
				out = append(out, studio.InboxItem{
					ID: v.ID, Kind: studio.LetterToAsk, Client: v.Client, ClientName: v.ClientName,
					Visit: &id, What: v.ProtocolName, At: v.StartsAt, Practitioner: &who,
				})
			}
		}
		return out, nil
	})
}
