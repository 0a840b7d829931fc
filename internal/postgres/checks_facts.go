package postgres

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"softpalm/internal/studio"
)

// ReadClientFacts gathers what is known of some clients for judging a day, in a fixed
// number of queries; a client that is not there is not in the answer, and neither is a check
// of a day to come, which a clock that was wrong made.
func (t *Tx) ReadClientFacts(ctx context.Context, clients []uuid.UUID, today string) (map[uuid.UUID]*studio.ClientFacts, error) {
	ids := make([]string, len(clients))
	for i, id := range clients {
		ids[i] = id.String()
	}
	these := texts(ids)
	out := map[uuid.UUID]*studio.ClientFacts{}
	rows, err := list(ctx, t, func(r *sqlx.Rows) (studio.Client, error) { return scanClient(r) },
		clientColumns+" and id = any($2::uuid[]) and erased_at is null", t.studio, these)
	for _, c := range rows {
		out[c.ID] = &studio.ClientFacts{Client: c}
	}
	if err != nil || len(out) == 0 {
		return out, err
	}
	return out, errors.Join(
		t.addConsultations(ctx, out, these, today),
		t.addLettersAndTests(ctx, out, these),
		t.addUsedProducts(ctx, out, these),
		t.addPapers(ctx, out, these),
		t.addReactionBars(ctx, out, these),
	)
}

// addConsultations adds the newest reviewed consultation and the newest check of each client.
func (t *Tx) addConsultations(ctx context.Context, to map[uuid.UUID]*studio.ClientFacts, clients any, today string) error {
	consultations, err := list(ctx, t, func(r *sqlx.Rows) (studio.Consultation, error) { return scanConsultation(r) },
		"select n.* from unnest($2::uuid[]) c cross join lateral ("+consultationColumns+`
			and client_id = c and reviewed_at is not null and day <= $3 order by reviewed_at desc, id desc limit 1) n`,
		t.studio, clients, today)
	if err != nil {
		return err
	}
	for i := range consultations {
		if k := to[consultations[i].Client]; k != nil {
			k.Consultation = &consultations[i]
		}
	}
	checks, err := list(ctx, t, scanPreCheck,
		"select n.* from unnest($2::uuid[]) c cross join lateral ("+preCheckColumns+`
			and client_id = c and day <= $3 order by at desc, id desc limit 1) n`,
		t.studio, clients, today)
	for i := range checks {
		if k := to[checks[i].Client]; k != nil {
			k.NewestCheck = &checks[i]
		}
	}
	return err
}

// addLettersAndTests adds the answered letters and the patch tests, newest first.
func (t *Tx) addLettersAndTests(ctx context.Context, to map[uuid.UUID]*studio.ClientFacts, clients any) error {
	letters, err := list(ctx, t, func(r *sqlx.Rows) (studio.Letter, error) { return scanLetter(r) },
		letterColumns+" and client_id = any($2::uuid[]) and answer <> '' order by answered_at desc, id desc", t.studio, clients)
	if err != nil {
		return err
	}
	for _, l := range letters {
		if k := to[l.Client]; k != nil {
			k.Letters = append(k.Letters, l)
		}
	}
	tests, err := list(ctx, t, func(r *sqlx.Rows) (studio.PatchTest, error) { return scanPatchTest(r) },
		patchColumns+" and p.client_id = any($2::uuid[]) order by p.applied_at desc, p.id desc", t.studio, clients)
	for _, p := range tests {
		if k := to[p.Client]; k != nil {
			k.PatchTests = append(k.PatchTests, p)
		}
	}
	return err
}

// addUsedProducts adds the products that finished treatments used on each client.
func (t *Tx) addUsedProducts(ctx context.Context, to map[uuid.UUID]*studio.ClientFacts, clients any) error {
	type use struct {
		client uuid.UUID
		key    string
	}
	used, err := list(ctx, t, func(r *sqlx.Rows) (u use, err error) {
		err = r.Scan(&u.client, &u.key)
		return u, err
	}, "select client_id, product from client_product where studio_id = $1 and client_id = any($2::uuid[])", t.studio, clients)
	for _, u := range used {
		if k := to[u.client]; k != nil {
			k.Used = append(k.Used, u.key)
		}
	}
	return err
}

// addPapers adds the consents that are given, and when answers came that wait for a review.
func (t *Tx) addPapers(ctx context.Context, to map[uuid.UUID]*studio.ClientFacts, clients any) error {
	type consent struct {
		client uuid.UUID
		kind   studio.ConsentKind
	}
	given, err := list(ctx, t, func(r *sqlx.Rows) (c consent, err error) {
		err = r.Scan(&c.client, &c.kind)
		return c, err
	}, `select distinct client_id, kind from consent
		where studio_id = $1 and client_id = any($2::uuid[]) and withdrawn_at is null order by client_id, kind`, t.studio, clients)
	if err != nil {
		return err
	}
	for _, c := range given {
		if k := to[c.client]; k != nil {
			k.Consented = append(k.Consented, c.kind)
		}
	}
	type sent struct {
		client uuid.UUID
		at     time.Time
	}
	waiting, err := list(ctx, t, func(r *sqlx.Rows) (s sent, err error) {
		err = r.Scan(&s.client, &s.at)
		return s, err
	}, `select client_id, max(sent_at) from consultation where studio_id = $1 and client_id = any($2::uuid[])
		and sent_at is not null and reviewed_at is null group by client_id`, t.studio, clients)
	for _, s := range waiting {
		if k := to[s.client]; k != nil {
			k.SentIn = &s.at
		}
	}
	return err
}

// VersionProducts lists the keys of the products that a version of a protocol
// uses, each once, in no order.
func (t *Tx) VersionProducts(ctx context.Context, id uuid.UUID, number int) ([]string, error) {
	return keptList(ctx, t, fmt.Sprintf("products of %s/%d", id, number), studio.InPlans, func() ([]string, error) {
		return list(ctx, t, func(r *sqlx.Rows) (key string, err error) {
			err = r.Scan(&key)
			return key, err
		}, `select distinct s->'use'->>'product' from protocol_version v cross join lateral jsonb_array_elements(v.body->'steps') s
			where v.studio_id = $1 and v.protocol_id = $2 and v.number = $3 and s->'use'->>'product' is not null`, t.studio, id, number)
	})
}
