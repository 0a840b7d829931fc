package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/reaction"
	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
)

// AddReaction adds a reaction.
func (t *Tx) AddReaction(ctx context.Context, r *studio.Reaction, account uuid.UUID) error {
	return t.exec(ctx, `insert into reaction (studio_id, id, client_id, visit_id, noticed_at, noticed_by, kind, zones, grade, minute, step, done,
			account_id, at, outcome, closed_at, closed_by)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, case when $16::timestamptz is null then null else $13::uuid end)`,
		t.studio, r.ID, r.Client, r.Visit, r.NoticedAt, r.NoticedBy, r.Kind, document(orEmpty(r.Zones)), r.Grade, r.Minute, r.Step, r.Done,
		account, r.At, r.Outcome, r.ClosedAt)
}

// SaveReaction changes a reaction's grade and how it was closed.
func (t *Tx) SaveReaction(ctx context.Context, r *studio.Reaction, account uuid.UUID) error {
	return t.one(ctx, `update reaction set grade = $3, outcome = $4, closed_at = $5, note = $6,
			closed_by = case when $5::timestamptz is null then null else $7::uuid end
		where studio_id = $1 and id = $2`, t.studio, r.ID, r.Grade, r.Outcome, r.ClosedAt, r.Note, account)
}

const reactionColumns = `select r.id, r.client_id, c.name, r.visit_id, r.noticed_at, r.noticed_by, r.kind, r.zones, r.grade, r.minute, r.step, r.done,
		coalesce(a.name, ''), r.at, r.outcome, r.closed_at, r.note
	from reaction r join client c on c.studio_id = r.studio_id and c.id = r.client_id
	left join account a on a.studio_id = r.studio_id and a.id = r.account_id
	where r.studio_id = $1`

func scanReaction(r fields) (x studio.Reaction, err error) {
	err = r.Scan(&x.ID, &x.Client, &x.ClientName, &x.Visit, &x.NoticedAt, &x.NoticedBy, &x.Kind, doc[[]contraindication.ZoneSide]{&x.Zones}, &x.Grade,
		&x.Minute, &x.Step, &x.Done, &x.By, &x.At, &x.Outcome, &x.ClosedAt, &x.Note)
	return x, err
}

// reactions lists reactions with their products and follow-ups.
func (t *Tx) reactions(ctx context.Context, query string, args ...any) ([]studio.Reaction, error) {
	out, err := list(ctx, t, scanReaction, query, args...)
	if err != nil || len(out) == 0 {
		return out, err
	}
	place := map[uuid.UUID]*studio.Reaction{}
	var of []uuid.UUID
	for i := range out {
		r := &out[i]
		r.Products, r.FollowUp = []studio.ReactionProduct{}, []studio.FollowUp{}
		place[r.ID], of = r, append(of, r.ID)
	}
	type product struct {
		of uuid.UUID
		studio.ReactionProduct
	}
	products, err := list(ctx, t, func(r fields) (p product, err error) {
		err = r.Scan(&p.of, &p.ID, &p.Product, &p.Name, &p.Lot, &p.LotID, textList{&p.Regions}, &p.Bar, &p.SetAside)
		return p, err
	}, `select rp.reaction_id, p.id, p.key, p.name, coalesce(l.number, ''), rp.lot_id, rp.regions::text, rp.bar, rp.set_aside
		from reaction_product rp join product p on p.studio_id = rp.studio_id and p.id = rp.product_id
		left join lot l on l.studio_id = rp.studio_id and l.id = rp.lot_id
		where rp.studio_id = $1 and rp.reaction_id = any($2::uuid[]) order by p.name, l.number`, t.studio, ids(of))
	if err != nil {
		return nil, err
	}
	for i := range products {
		r := place[products[i].of]
		r.Products = append(r.Products, products[i].ReactionProduct)
	}
	type followUp struct {
		of uuid.UUID
		studio.FollowUp
	}
	asked, err := list(ctx, t, func(r fields) (f followUp, err error) {
		err = r.Scan(&f.of, &f.N, &f.DueAt, &f.DoneAt, &f.By, &f.Now, &f.Grade, &f.Note)
		return f, err
	}, `select f.reaction_id, f.n, f.due_at, f.done_at, coalesce(a.name, ''), f.now, f.grade, f.note
		from follow_up f left join account a on a.studio_id = f.studio_id and a.id = f.account_id
		where f.studio_id = $1 and f.reaction_id = any($2::uuid[]) order by f.due_at, f.n`, t.studio, ids(of))
	for i := range asked {
		r := place[asked[i].of]
		r.FollowUp = append(r.FollowUp, asked[i].FollowUp)
	}
	return out, err
}

// LockReaction returns a reaction and holds it until the transaction ends.
func (t *Tx) LockReaction(ctx context.Context, id uuid.UUID) (*studio.Reaction, error) {
	var held uuid.UUID
	if err := t.get(ctx, &held, "select id from reaction where studio_id = $1 and id = $2 for update", t.studio, id); err != nil {
		return nil, err
	}
	out, err := t.reactions(ctx, reactionColumns+" and r.id = $2", t.studio, id)
	if err != nil || len(out) == 0 {
		return nil, err
	}
	return &out[0], nil
}

// Reactions lists the reactions of a client, newest first.
func (t *Tx) Reactions(ctx context.Context, client uuid.UUID) ([]studio.Reaction, error) {
	return t.reactions(ctx, reactionColumns+" and r.client_id = $2 order by r.noticed_at desc, r.id", t.studio, client)
}

// ReactionsTo lists the reactions to a visit, newest first.
func (t *Tx) ReactionsTo(ctx context.Context, visit uuid.UUID) ([]studio.Reaction, error) {
	return t.reactions(ctx, reactionColumns+` and r.visit_id = $2 and r.client_id = (select client_id from visit where studio_id = $1 and id = $2)
		order by r.noticed_at desc, r.id`, t.studio, visit)
}

// SetReactionProducts writes what lay on the skin, and what follows for it.
func (t *Tx) SetReactionProducts(ctx context.Context, id uuid.UUID, p []studio.ReactionProduct) error {
	if err := t.exec(ctx, "delete from reaction_product where studio_id = $1 and reaction_id = $2", t.studio, id); err != nil {
		return err
	}
	for i := range p {
		if err := t.exec(ctx, `insert into reaction_product (studio_id, reaction_id, product_id, lot_id, regions, bar, set_aside)
			values ($1, $2, $3, $4, $5, $6, $7)`, t.studio, id, p[i].ID, p[i].LotID, texts(p[i].Regions), p[i].Bar, p[i].SetAside); err != nil {
			return err
		}
	}
	return nil
}

// PlanFollowUps replaces the follow-ups of a reaction that are still to come.
func (t *Tx) PlanFollowUps(ctx context.Context, id uuid.UUID, due []time.Time) error {
	if err := t.exec(ctx, "delete from follow_up where studio_id = $1 and reaction_id = $2 and done_at is null", t.studio, id); err != nil {
		return err
	}
	for _, at := range due {
		if err := t.exec(ctx, `insert into follow_up (studio_id, reaction_id, n, due_at)
			select $1, $2, coalesce(max(n), 0) + 1, $3 from follow_up where studio_id = $1 and reaction_id = $2`, t.studio, id, at); err != nil {
			return err
		}
	}
	return nil
}

// SaveFollowUp keeps what was said at a follow-up.
func (t *Tx) SaveFollowUp(ctx context.Context, id uuid.UUID, f *studio.FollowUp, account uuid.UUID) error {
	return t.one(ctx, `update follow_up set done_at = $4, account_id = $5, now = $6, grade = $7, note = $8
		where studio_id = $1 and reaction_id = $2 and n = $3 and done_at is null`, t.studio, id, f.N, f.DoneAt, account, f.Now, f.Grade, f.Note)
}

// LotsOnSkin are the lots that a visit used, by the key of their product.
func (t *Tx) LotsOnSkin(ctx context.Context, visit uuid.UUID) (map[string][]studio.Lot, error) {
	type row struct {
		key string
		lot studio.Lot
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.key, &x.lot.ID, &x.lot.Product, &x.lot.Number)
		return x, err
	}, `select p.key, l.id, p.id, l.number from stock_movement m
		join lot l on l.studio_id = m.studio_id and l.id = m.lot_id join product p on p.studio_id = l.studio_id and p.id = l.product_id
		where m.studio_id = $1 and m.visit_id = $2 group by p.key, l.id, p.id, l.number having sum(m.amount) < 0 order by p.key, l.number`, t.studio, visit)
	out := map[string][]studio.Lot{}
	for _, x := range rows {
		out[x.key] = append(out[x.key], x.lot)
	}
	return out, err
}

// OthersReacted are reactions of other clients to lots since a moment, mistakes left out.
func (t *Tx) OthersReacted(ctx context.Context, lots []uuid.UUID, client uuid.UUID, since, until time.Time) ([]reaction.Other, error) {
	return list(ctx, t, func(r fields) (o reaction.Other, err error) {
		err = r.Scan(&o.Client, &o.Lot, &o.Grade, &o.DaysAgo)
		return o, err
	}, `select r.client_id::text, rp.lot_id::text, r.grade,
			($5::timestamptz at time zone z.time_zone)::date - (r.noticed_at at time zone z.time_zone)::date
		from reaction_product rp join reaction r on r.studio_id = rp.studio_id and r.id = rp.reaction_id
		join studio z on z.id = rp.studio_id
		where rp.studio_id = $1 and rp.lot_id = any($2::uuid[]) and r.client_id <> $3 and r.noticed_at >= $4 and r.noticed_at <= $5
			and r.outcome <> 'mistake' and rp.bar <> 'free'`, t.studio, ids(lots), client, since, until)
}

// OthersWith are the other clients who had a treatment or a patch test with one of some lots, by name.
func (t *Tx) OthersWith(ctx context.Context, lots []uuid.UUID, client uuid.UUID) ([]treatment.ReachedClient, error) {
	return list(ctx, t, func(r fields) (c treatment.ReachedClient, err error) {
		err = r.Scan(&c.ID, &c.Name, &c.Phone, &c.Day)
		return c, err
	}, `select c.id, c.name, c.phone, max((m.at at time zone z.time_zone)::date)::text
		from stock_movement m left join visit v on v.studio_id = m.studio_id and v.id = m.visit_id
		join client c on c.studio_id = m.studio_id and c.id = coalesce(m.client_id, v.client_id)
		join studio z on z.id = m.studio_id
		where m.studio_id = $1 and m.lot_id = any($2::uuid[]) and c.id <> $3 and c.erased_at is null and m.kind in ('treatment', 'patch-test', 'tester')
		group by c.id, c.name, c.phone order by lower(c.name), c.id`, t.studio, ids(lots), client)
}

// DueFollowUps lists the follow-ups of open reactions that are due before a moment, the first due first.
func (t *Tx) DueFollowUps(ctx context.Context, before time.Time) ([]studio.InboxItem, error) {
	return list(ctx, t, scanInbox(studio.FollowUpDue), `select r.id, r.client_id, c.name, r.visit_id, r.kind, min(f.due_at), v.practitioner_id
		from follow_up f join reaction r on r.studio_id = f.studio_id and r.id = f.reaction_id
		join client c on c.studio_id = r.studio_id and c.id = r.client_id
		left join visit v on v.studio_id = r.studio_id and v.id = r.visit_id
		where f.studio_id = $1 and f.done_at is null and f.due_at < $2 and r.closed_at is null and c.erased_at is null
		group by r.id, r.client_id, c.name, r.visit_id, r.kind, v.practitioner_id order by min(f.due_at), r.id`, t.studio, before)
}

// AddIncident adds an incident.
func (t *Tx) AddIncident(ctx context.Context, visit uuid.UUID, i *studio.Incident, account uuid.UUID) error {
	return t.exec(ctx, "insert into incident (studio_id, id, visit_id, at, kind, body, told, account_id) values ($1, $2, $3, $4, $5, $6, $7, $8)",
		t.studio, i.ID, visit, i.At, i.Kind, i.Body, i.Told, account)
}

// Incidents lists the incidents of a visit, oldest first.
func (t *Tx) Incidents(ctx context.Context, visit uuid.UUID) ([]studio.Incident, error) {
	return list(ctx, t, func(r fields) (i studio.Incident, err error) {
		err = r.Scan(&i.ID, &i.At, &i.Kind, &i.Body, &i.Told, &i.By)
		return i, err
	}, `select i.id, i.at, i.kind, i.body, i.told, coalesce(a.name, '') from incident i
		left join account a on a.studio_id = i.studio_id and a.id = i.account_id
		where i.studio_id = $1 and i.visit_id = $2 order by i.at, i.id`, t.studio, visit)
}
