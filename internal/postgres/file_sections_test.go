package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/clients"
)

// A file of many years comes by page, newest first: every appointment and every check once, also those of one moment.
func TestAFileOfManyYearsComesByPage(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.asOwner(t, "visit", `insert into visit select (jsonb_populate_record(v, jsonb_build_object('id', gen_random_uuid(), 'state', 'cancelled',
			'series_id', null, 'series_item', null, 'starts_at', v.starts_at - (i / 2) * interval '7 days', 'busy_from', v.busy_from - (i / 2) * interval '7 days',
			'ends_at', v.ends_at - (i / 2) * interval '7 days', 'busy_until', v.busy_until - (i / 2) * interval '7 days'))).* from visit v cross join generate_series(2, 71) i where v.id = $1`, v.ID)
	var all []uuid.UUID
	require.NoError(t, w.within(func(tx *postgres.Tx) error {
		list, err := tx.ClientVisits(ctx, v.Client)
		for _, v := range list {
			all = append(all, v.ID)
		}
		return err
	}))
	head, err := w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	require.Len(t, head.Visits, clients.VisitPageSize)
	read, last := head.Visits, head.MoreVisits
	for last != nil {
		page, more, err := w.svc.Clients.ClientVisits(ctx, &w.desk, v.Client, last)
		require.NoError(t, err)
		read, last = append(read, page...), more
	}
	ids := make([]uuid.UUID, 0, len(read))
	for i, v := range read {
		ids = append(ids, v.ID)
		assert.False(t, i > 0 && v.StartsAt.After(read[i-1].StartsAt), "newest first")
	}
	assert.ElementsMatch(t, all, ids)

	for range 2*checks.CheckPage + 3 { // they are of one moment: the clock of the test stands still
		w.checked(t, v, nil)
	}
	seen := map[uuid.UUID]bool{}
	for last, n := (*uuid.UUID)(nil), 1; n == 1 || last != nil; n++ {
		page, more, err := w.svc.Checks.ChecksOf(ctx, &w.owner, v.Client, last)
		require.NoError(t, err)
		for _, c := range page {
			require.False(t, seen[c.ID])
			seen[c.ID] = true
		}
		last = more
	}
	assert.GreaterOrEqual(t, len(seen), 2*checks.CheckPage+3)
}

// A file opens with the consultation that was reviewed last and with what waits; a link that lapsed unused is not among them.
func TestAFileOpensWithTheConsultationsThatMatter(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.first(t).Client
	w.consult(t, client, noTo(w, contraindication.Consultation), studio.ClientHistory{Sleep: "badly"})
	w.now = w.now.Add(time.Hour)
	w.consult(t, client, noTo(w, contraindication.Consultation), studio.ClientHistory{Sleep: "well"})
	_, err := w.svc.Checks.NewLink(ctx, &w.owner, client, false)
	require.NoError(t, err)
	f, err := w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)
	require.Len(t, f.Consultations, 2)
	assert.Equal(t, "well", f.Consultations[0].History.Sleep)
	assert.Nil(t, f.Consultations[1].SentAt)
	w.now = w.now.Add(60 * 24 * time.Hour)
	f, err = w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)
	assert.Len(t, f.Consultations, 1, "the link lapsed")
}

// Each section is a look at the client, and stands in the audit log as one.
func TestEachSectionOfAFileIsALook(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	looks := func() (n int) {
		log, err := w.svc.House.AuditLog(ctx, &w.owner, time.Time{})
		require.NoError(t, err)
		for _, l := range log {
			if l.Action == "look" && l.Client == v.ClientName {
				n++
			}
		}
		return n
	}
	before := looks()
	_, err := w.file(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	assert.Equal(t, before+6, looks(), "the head and five sections")
	for _, a := range []*studio.Actor{&w.owner, &w.desk} {
		_, _, err = w.svc.Clients.ClientVisits(ctx, a, v.Client, nil)
		require.NoError(t, err)
	}
	assert.Equal(t, before+8, looks(), "a page of appointments is one too, for the desk of contact data")
	_, err = w.svc.Checks.LettersOf(ctx, &w.owner, uuid.New())
	require.ErrorIs(t, err, studio.ErrNotFound)
}

// Contraindications over time stand beside the appointments that were kept or are to come, oldest first.
func TestCautionsStandBesideTheAppointments(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	h, err := w.svc.Checks.CautionHistory(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	if len(h.Spans) == 0 {
		assert.Empty(t, h.Met, "nothing to set them beside")
	}
	w.checked(t, v, map[string]contraindication.Answer{"cancer": {Yes: true}})
	h, err = w.svc.Checks.CautionHistory(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	require.NotEmpty(t, h.Spans)
	require.NotEmpty(t, h.Met)
	for i := 1; i < len(h.Met); i++ {
		assert.False(t, h.Met[i].StartsAt.Before(h.Met[i-1].StartsAt))
	}
}
