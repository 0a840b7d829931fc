package postgres

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/reaction"
	"softpalm/internal/studio"
)

// ReadClientFacts gathers what is known of some clients for judging a day, in one round trip; a client that is not there
// is not in the answer, and neither is a check of a day to come, which a clock that was wrong made.
func (t *Tx) ReadClientFacts(ctx context.Context, clients []uuid.UUID, today string) (map[uuid.UUID]*studio.ClientFacts, error) {
	ids := make([]string, len(clients))
	for i, id := range clients {
		ids[i] = id.String()
	}
	these := texts(ids)
	out := map[uuid.UUID]*studio.ClientFacts{}
	of := func(client uuid.UUID, add func(*studio.ClientFacts)) {
		if k := out[client]; k != nil {
			add(k)
		}
	}
	err := t.ask(ctx,
		rowsOf(func(c studio.Client) { out[c.ID] = &studio.ClientFacts{Client: c} }, scanClient,
			clientColumns+" and id = any($2::uuid[]) and erased_at is null", t.studio, these),
		// the newest reviewed consultation and the newest check of each
		rowsOf(func(c studio.Consultation) { of(c.Client, func(k *studio.ClientFacts) { k.Consultation = &c }) }, scanConsultation,
			"select n.* from unnest($2::uuid[]) c cross join lateral ("+consultationColumns+`
				and client_id = c and reviewed_at is not null and day <= $3 order by reviewed_at desc, id desc limit 1) n`, t.studio, these, today),
		rowsOf(func(c studio.PreCheck) { of(c.Client, func(k *studio.ClientFacts) { k.NewestCheck = &c }) }, scanPreCheck,
			"select n.* from unnest($2::uuid[]) c cross join lateral ("+preCheckColumns+`
				and client_id = c and day <= $3 order by at desc, id desc limit 1) n`, t.studio, these, today),
		// the answered letters and the patch tests, newest first
		rowsOf(func(l studio.Letter) { of(l.Client, func(k *studio.ClientFacts) { k.Letters = append(k.Letters, l) }) }, scanLetter,
			letterColumns+" and client_id = any($2::uuid[]) and answer <> '' order by answered_at desc, id desc", t.studio, these),
		rowsOf(func(p studio.PatchTest) {
			of(p.Client, func(k *studio.ClientFacts) { k.PatchTests = append(k.PatchTests, p) })
		}, scanPatchTest,
			patchColumns+" and p.client_id = any($2::uuid[]) order by p.applied_at desc, p.id desc", t.studio, these),
		usedProducts(of, t.studio, these), consentsGiven(of, t.studio, these), waitingAnswers(of, t.studio, these),
		reactionBars(of, t.studio, these),
	)
	return out, err
}

// knownOf hands what is known of a client on to the facts about them.
type knownOf func(client uuid.UUID, add func(*studio.ClientFacts))

// usedProducts asks for the products that finished treatments used on each client.
func usedProducts(of knownOf, st uuid.UUID, clients any) question {
	type use struct {
		client uuid.UUID
		key    string
	}
	return rowsOf(func(u use) { of(u.client, func(k *studio.ClientFacts) { k.Used = append(k.Used, u.key) }) }, func(r fields) (u use, err error) {
		err = r.Scan(&u.client, &u.key)
		return u, err
	}, "select client_id, product from client_product where studio_id = $1 and client_id = any($2::uuid[])", st, clients)
}

// consentsGiven asks for the consents that are given.
func consentsGiven(of knownOf, st uuid.UUID, clients any) question {
	type consent struct {
		client uuid.UUID
		kind   studio.ConsentKind
	}
	return rowsOf(func(c consent) {
		of(c.client, func(k *studio.ClientFacts) { k.Consented = append(k.Consented, c.kind) })
	}, func(r fields) (c consent, err error) {
		err = r.Scan(&c.client, &c.kind)
		return c, err
	}, `select distinct client_id, kind from consent
		where studio_id = $1 and client_id = any($2::uuid[]) and withdrawn_at is null order by client_id, kind`, st, clients)
}

// waitingAnswers asks when answers came that wait for a review.
func waitingAnswers(of knownOf, st uuid.UUID, clients any) question {
	type sent struct {
		client uuid.UUID
		at     time.Time
	}
	return rowsOf(func(s sent) { of(s.client, func(k *studio.ClientFacts) { k.SentIn = &s.at }) }, func(r fields) (s sent, err error) {
		err = r.Scan(&s.client, &s.at)
		return s, err
	}, `select client_id, max(sent_at) from consultation where studio_id = $1 and client_id = any($2::uuid[])
		and sent_at is not null and reviewed_at is null group by client_id`, st, clients)
}

// reactionBars asks for what earlier reactions bar, mistakes left out.
func reactionBars(of knownOf, st uuid.UUID, clients any) question {
	type bar struct {
		client uuid.UUID
		reaction.Standing
	}
	return rowsOf(func(b bar) { of(b.client, func(k *studio.ClientFacts) { k.Bars = append(k.Bars, b.Standing) }) }, func(r fields) (b bar, err error) {
		err = r.Scan(&b.client, &b.Product, &b.Name, &b.Bar, &b.Since)
		return b, err
	}, `select r.client_id, p.key, p.name, rp.bar, r.noticed_at from reaction r
		join reaction_product rp on rp.studio_id = r.studio_id and rp.reaction_id = r.id
		join product p on p.studio_id = rp.studio_id and p.id = rp.product_id
		where r.studio_id = $1 and r.client_id = any($2::uuid[]) and r.outcome <> 'mistake' and rp.bar <> 'free'
		order by r.noticed_at desc, p.name`, st, clients)
}

// VersionProducts lists the keys of the products that a version of a protocol
// uses, each once, in no order.
func (t *Tx) VersionProducts(ctx context.Context, id uuid.UUID, number int) ([]string, error) {
	return keptList(ctx, t, fmt.Sprintf("products of %s/%d", id, number), studio.InPlans, func() ([]string, error) {
		return list(ctx, t, func(r fields) (key string, err error) {
			err = r.Scan(&key)
			return key, err
		}, `select distinct s->'use'->>'product' from protocol_version v cross join lateral jsonb_array_elements(v.body->'steps') s
			where v.studio_id = $1 and v.protocol_id = $2 and v.number = $3 and s->'use'->>'product' is not null`, t.studio, id, number)
	})
}
