package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

func scanInbox(kind studio.InboxKind) func(r fields) (studio.InboxItem, error) {
	return func(r fields) (i studio.InboxItem, err error) {
		i.Kind = kind
		err = r.Scan(&i.ID, &i.Client, &i.ClientName, &i.Visit, &i.What, &i.At, &i.Practitioner)
		return i, err
	}
}

// WaitingAnswers lists consultations that came in and nobody has reviewed, the oldest first.
func (t *Tx) WaitingAnswers(ctx context.Context) ([]studio.InboxItem, error) {
	return list(ctx, t, scanInbox(studio.AnswersIn), `select k.id, k.client_id, c.name, null::uuid, '', k.sent_at, null::uuid
		from consultation k join client c on c.studio_id = k.studio_id and c.id = k.client_id
		where k.studio_id = $1 and k.sent_at is not null and k.reviewed_at is null and c.erased_at is null
		order by k.sent_at, k.id`, t.studio)
}

// WaitingLetters lists letters that were not answered, the oldest first.
func (t *Tx) WaitingLetters(ctx context.Context) ([]studio.InboxItem, error) {
	return list(ctx, t, scanInbox(studio.LetterDue), `select l.id, l.client_id, c.name, l.visit_id, l.protocol_name, l.written_at, null::uuid
		from letter l join client c on c.studio_id = l.studio_id and c.id = l.client_id
		where l.studio_id = $1 and l.answer = '' and c.erased_at is null order by l.written_at, l.id`, t.studio)
}

// WaitingRecords lists treatments that were over at a time and are not signed, the oldest first.
func (t *Tx) WaitingRecords(ctx context.Context, over time.Time) ([]studio.InboxItem, error) {
	return list(ctx, t, scanInbox(studio.RecordToSign), `select v.id, v.client_id, c.name, v.id, coalesce(pv.name, ''), v.ends_at, v.practitioner_id
		from treatment r join visit v on v.studio_id = r.studio_id and v.id = r.visit_id
		join client c on c.studio_id = v.studio_id and c.id = v.client_id
		left join protocol_version pv on pv.studio_id = v.studio_id and pv.protocol_id = v.protocol_id
		and pv.number = v.protocol_version
		where r.studio_id = $1 and r.finished_at is null and v.ends_at < $2 order by v.starts_at, v.id`, t.studio, over)
}

// EndingSeries lists series paid ahead whose clients are to be reminded on a day that they end: sixty days before, and
// fourteen; the first to end first. What is shown is the last day.
func (t *Tx) EndingSeries(ctx context.Context, today string) ([]studio.InboxItem, error) {
	return list(ctx, t, scanInbox(studio.SeriesEnds), `select s.id, s.client_id, c.name, null::uuid, s.name, s.good_until::timestamptz, null::uuid
		from sold_series s join client c on c.studio_id = s.studio_id and c.id = s.client_id
		where s.studio_id = $1 and s.state = 'open' and c.erased_at is null and s.good_until >= $2::date
			and (s.good_until - $2::date <= 60 and s.reminded is null or s.good_until - $2::date <= 14 and s.reminded < s.good_until - 14)
		order by s.good_until, s.id`, t.studio, today)
}

// WaitingSeconds lists trainees' records that nobody has signed besides them, the oldest first.
func (t *Tx) WaitingSeconds(ctx context.Context) ([]studio.InboxItem, error) {
	return list(ctx, t, scanInbox(studio.SecondToSign), `select v.id, v.client_id, c.name, v.id, coalesce(pv.name, ''), r.finished_at, v.practitioner_id
		from treatment r join visit v on v.studio_id = r.studio_id and v.id = r.visit_id
		join client c on c.studio_id = v.studio_id and c.id = v.client_id
		left join protocol_version pv on pv.studio_id = v.studio_id and pv.protocol_id = v.protocol_id and pv.number = v.protocol_version
		where r.studio_id = $1 and r.needs_second and r.finished_at is not null
			and not exists (select from second_signature s where s.studio_id = r.studio_id and s.visit_id = r.visit_id)
		order by r.finished_at, v.id`, t.studio)
}

// UnreadPatchTests lists patch tests applied since a time that have no reading, the oldest
// first, and the names of their clients.
func (t *Tx) UnreadPatchTests(ctx context.Context, since time.Time) ([]studio.PatchTest, map[uuid.UUID]string, error) {
	tests, err := list(ctx, t, scanPatchTest,
		patchColumns+` and p.applied_at > $2 and not exists (select 1 from patch_reading r
			where r.studio_id = p.studio_id and r.patch_id = p.id) order by p.applied_at, p.id`, t.studio, since)
	if err != nil || len(tests) == 0 {
		return tests, nil, err
	}
	ids := make([]string, len(tests))
	for i := range tests {
		ids[i] = tests[i].Client.String()
	}
	clients, err := list(ctx, t, scanClient,
		clientColumns+" and id = any($2::uuid[])", t.studio, texts(ids))
	names := map[uuid.UUID]string{}
	for i := range clients {
		names[clients[i].ID] = clients[i].Name
	}
	return tests, names, err
}
