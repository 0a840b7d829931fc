-- +goose Up
-- A lot is what the supplier numbered; a pack is one container of it, opened, blocked and emptied by itself.
-- What a delivery of a lot cost is a layer: another delivery of the same lot may have cost something else.
create table cost_layer (
  studio_id   uuid not null,
  id          uuid not null,
  lot_id      uuid not null,
  position    int not null check (position > 0),
  received_on date not null,
  cost        numeric(14, 2) not null check (cost >= 0),
  amount      numeric(14, 3) not null check (amount > 0),
  -- The order that it was received for: suppliers' lead times are learned from these.
  order_id    uuid,
  primary key (studio_id, id),
  unique (studio_id, lot_id, position),
  foreign key (studio_id, lot_id) references lot (studio_id, id)
);

create table pack (
  studio_id  uuid not null,
  id         uuid not null,
  product_id uuid not null,
  lot_id     uuid not null,
  layer_id   uuid not null,
  number     int not null check (number > 0),
  size       numeric(14, 3) not null check (size > 0),
  -- Kept by the movements, never written otherwise: a pack never holds less than nothing.
  remaining  numeric(14, 3) not null default 0 check (remaining >= 0),
  side       text not null default 'cabin' check (side in ('cabin', 'retail', 'tester')),
  opened_on  date,
  opened_by  uuid,
  -- Why it may not be used, empty where it may; a recall is never overridden.
  blocked    text not null default '' check (length(blocked) <= 300),
  blocked_by uuid,
  blocked_at timestamptz,
  recalled   boolean not null default false,
  primary key (studio_id, id),
  unique (studio_id, lot_id, number),
  foreign key (studio_id, product_id) references product (studio_id, id),
  foreign key (studio_id, lot_id) references lot (studio_id, id),
  foreign key (studio_id, layer_id) references cost_layer (studio_id, id)
);
create index pack_left on pack (studio_id, product_id) where remaining > 0;
create index on pack (studio_id, layer_id);

alter table stock_movement
  add column pack_id    uuid,
  add column product_id uuid, -- of the pack, so that a product's history is read by an index
  -- What the stock is worth more, or less, by it; the lot's cost in exact cents.
  add column value     numeric(14, 2) not null default 0,
  add column client_id uuid,
  -- The batch that it went into, for what a batch is made of.
  add column into_lot  uuid,
  add column counters  uuid,
  -- False where nobody looked at the lot that was proposed.
  add column sure      boolean not null default true,
  add column reason    text not null default '' check (length(reason) <= 60),
  add constraint stock_movement_pack foreign key (studio_id, pack_id) references pack (studio_id, id),
  add constraint stock_movement_client foreign key (studio_id, client_id) references client (studio_id, id),
  add constraint stock_movement_into foreign key (studio_id, into_lot) references lot (studio_id, id),
  add constraint stock_movement_counters foreign key (studio_id, counters) references stock_movement (studio_id, id),
  add constraint stock_movement_countered_once unique (studio_id, counters),
  drop constraint stock_movement_kind_check,
  add constraint stock_movement_kind_check check (kind in ('receive', 'make', 'made', 'treatment', 'patch-test', 'waste',
    'tester', 'retail', 'return', 'send-back', 'dispose', 'stocktake', 'counter')),
  add constraint stock_movement_counter check ((kind = 'counter') = (counters is not null));
create index on stock_movement (studio_id, pack_id);
create index on stock_movement (studio_id, into_lot) where into_lot is not null;
create index on stock_movement (studio_id, client_id) where client_id is not null;

-- What was in stock before: one layer and one pack a lot.
-- +goose StatementBegin
do $$
declare t text;
begin
  alter table stock_movement disable trigger stock_movement_only_added;
  foreach t in array array['lot', 'stock_movement', 'product'] loop
    execute format('alter table %I no force row level security', t);
  end loop;
  insert into cost_layer (studio_id, id, lot_id, position, received_on, cost, amount)
    select l.studio_id, gen_random_uuid(), l.id, 1, l.received_on, round(l.unit_cost * r.amount, 2), r.amount
    from lot l cross join lateral (select coalesce(sum(m.amount) filter (where m.kind = 'receive'), 0) as amount
      from stock_movement m where m.studio_id = l.studio_id and m.lot_id = l.id) r
    where r.amount > 0;
  insert into pack (studio_id, id, product_id, lot_id, layer_id, number, size, remaining, opened_on)
    select l.studio_id, gen_random_uuid(), l.product_id, l.id, c.id, 1, c.amount,
      (select sum(m.amount) from stock_movement m where m.studio_id = l.studio_id and m.lot_id = l.id), l.opened_on
    from lot l join cost_layer c on c.studio_id = l.studio_id and c.lot_id = l.id;
  update stock_movement m set pack_id = p.id, product_id = p.product_id, value = w.value
    from pack p, (select m.studio_id, m.id,
        round(c.cost * sum(m.amount) over up_to / c.amount, 2)
          - round(c.cost * (sum(m.amount) over up_to - m.amount) / c.amount, 2) as value
      from stock_movement m join cost_layer c on c.studio_id = m.studio_id and c.lot_id = m.lot_id
      window up_to as (partition by m.studio_id, m.lot_id order by m.at, m.id)) w
    where p.studio_id = m.studio_id and p.lot_id = m.lot_id and w.studio_id = m.studio_id and w.id = m.id;
  foreach t in array array['lot', 'stock_movement', 'product'] loop
    execute format('alter table %I force row level security', t);
  end loop;
  alter table stock_movement enable trigger stock_movement_only_added;
end $$;
-- +goose StatementEnd
alter table stock_movement alter column pack_id set not null, alter column product_id set not null;
create index stock_movement_newest on stock_movement (studio_id, product_id, at desc);
alter table lot drop column opened_on, drop column unit_cost, add constraint lot_bounds check (
  expiry between '1900-01-01' and '2100-12-31' and received_on between '1900-01-01' and '2100-12-31'
  and months_open between 0 and 60) not valid;
alter table pack add constraint pack_bounds check (
  size <= 100000 and (opened_on is null or opened_on between '1900-01-01' and '2100-12-31'));

-- +goose StatementBegin
create function keep_remaining() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  update pack set remaining = remaining + new.amount where studio_id = new.studio_id and id = new.pack_id;
  return new;
end $$;
-- +goose StatementEnd
create trigger stock_movement_kept after insert on stock_movement for each row execute function keep_remaining();
create trigger cost_layer_only_added before update or delete on cost_layer for each row execute function refuse_change();

-- What a product is bought and kept by.
alter table product
  add column use         text not null default 'cabin' check (use in ('cabin', 'retail', 'both')),
  add column place       text not null default '' check (length(place) <= 60),
  add column supplier    text not null default '' check (length(supplier) <= 120),
  add column article_no  text not null default '' check (length(article_no) <= 60),
  add column gtin        text not null default '' check (gtin ~ '^([0-9]{14})?$'),
  add column lead_days   int not null default 5 check (lead_days between 0 and 365),
  add column min_packs   int not null default 1 check (min_packs between 1 and 1000),
  add column months_open int not null default 0 check (months_open between 0 and 60),
  add column tare_g      numeric(10, 2) check (tare_g >= 0),
  add column ml_per_spatula numeric not null default 0 check (ml_per_spatula >= 0),
  add column per_visit   int not null default 0 check (per_visit between 0 and 100),
  add column per_protocol jsonb not null default '{}',
  drop constraint product_unit_check,
  add constraint product_unit_check check (unit in ('mL', 'g', 'pcs'));
create unique index product_gtin on product (studio_id, gtin) where gtin <> '';

-- What was used in a treatment, product by product: what the records teach is read from here.
create table product_use (
  studio_id       uuid not null,
  visit_id        uuid not null,
  product_id      uuid not null,
  practitioner_id uuid not null,
  protocol_id     uuid not null,
  day             date not null,
  planned         numeric(14, 3) not null,
  used            numeric(14, 3) not null check (used >= 0),
  how             text not null check (how in ('as planned', 'counted', 'weighed')),
  measure         text not null default '' check (length(measure) <= 20),
  cost            numeric(14, 2) not null,
  -- What it cost beyond the plan, at the cost of its lots.
  over_plan       numeric(14, 2) not null default 0,
  at              timestamptz not null,
  primary key (studio_id, visit_id, product_id),
  foreign key (studio_id, visit_id) references visit (studio_id, id),
  foreign key (studio_id, product_id) references product (studio_id, id),
  foreign key (studio_id, practitioner_id) references practitioner (studio_id, id)
);
create index product_use_newest on product_use (studio_id, product_id, at desc);
create index on product_use (studio_id, practitioner_id, product_id, at desc) where how <> 'as planned';
create index on product_use (studio_id, day);

-- What was used in each month, and on which days anything was used: kept by the uses, so that seasons are
-- read without reading the history.
create table use_month (
  studio_id  uuid not null,
  product_id uuid not null,
  month      date not null,
  used       numeric(16, 3) not null,
  primary key (studio_id, product_id, month)
);
create table use_day (
  studio_id uuid not null,
  day       date not null,
  primary key (studio_id, day)
);
-- +goose StatementBegin
create function keep_use() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  insert into use_month values (new.studio_id, new.product_id, date_trunc('month', new.day), new.used)
    on conflict (studio_id, product_id, month) do update set used = use_month.used + excluded.used;
  insert into use_day values (new.studio_id, new.day) on conflict do nothing;
  return new;
end $$;
-- +goose StatementEnd
create trigger product_use_kept after insert on product_use for each row execute function keep_use();
create trigger product_use_only_added before update or delete on product_use for each row execute function refuse_change();

-- What the records before say: an amount that is not the plan's was counted.
-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['treatment', 'visit', 'product', 'studio'] loop
    execute format('alter table %I no force row level security', t);
  end loop;
  insert into product_use (studio_id, visit_id, product_id, practitioner_id, protocol_id, day, planned, used, how, cost, over_plan, at)
    select t.studio_id, t.visit_id, p.id, v.practitioner_id, v.protocol_id, (v.starts_at at time zone s.time_zone)::date,
      u.planned, u.used, case when u.planned = u.used then 'as planned' else 'counted' end, u.cost,
      case when u.used > 0 then round(u.cost * (u.used - u.planned) / u.used, 2) else 0 end, t.finished_at
    from treatment t join visit v on v.studio_id = t.studio_id and v.id = t.visit_id
    join studio s on s.id = t.studio_id
    cross join lateral (select x ->> 'product' as key, sum(coalesce((x ->> 'planned')::numeric, 0)) as planned, sum((x ->> 'real')::numeric) as used,
        sum(coalesce((select sum((l ->> 'cost')::numeric) from jsonb_array_elements(case jsonb_typeof(x -> 'lots') when 'array' then x -> 'lots' else '[]' end) l), 0)) as cost
      from jsonb_array_elements(case jsonb_typeof(t.record -> 'uses') when 'array' then t.record -> 'uses' else '[]' end) x group by 1) u
    join product p on p.studio_id = t.studio_id and p.key = u.key
    where t.finished_at is not null and v.protocol_id is not null and u.used >= 0;
  foreach t in array array['treatment', 'visit', 'product', 'studio'] loop
    execute format('alter table %I force row level security', t);
  end loop;
end $$;
-- +goose StatementEnd

-- How long an application slid, as a record tells it.
create table slip_observation (
  studio_id  uuid not null,
  id         uuid not null,
  product_id uuid not null,
  visit_id   uuid not null,
  minute     numeric(6, 1) not null check (minute > 0 and minute <= 600),
  kind       text not null check (kind in ('at', 'beyond', 'before')),
  skin       numeric(6, 3) not null check (skin > 0),
  at         timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id),
  foreign key (studio_id, product_id) references product (studio_id, id)
);
create index on slip_observation (studio_id, product_id, at desc);

-- From when on records teach again, where somebody said "forget and start over".
create table learned_since (
  studio_id  uuid not null,
  product_id uuid not null,
  kind       text not null check (kind in ('dose', 'half-life')),
  since      timestamptz not null,
  account_id uuid not null,
  primary key (studio_id, product_id, kind),
  foreign key (studio_id, product_id) references product (studio_id, id)
);

-- Drops, presses and spatulas as they were weighed, for one product and closure.
create table calibration (
  studio_id     uuid not null,
  id            uuid not null,
  product_id    uuid not null,
  measure       text not null check (measure in ('drops', 'presses', 'spatulas')),
  day           date not null,
  count         int not null check (count between 1 and 1000),
  readings      numeric[] not null,
  scale_step    numeric(6, 3) not null check (scale_step > 0),
  density       numeric(6, 3) not null check (density > 0),
  ml_each       numeric(12, 5) not null check (ml_each > 0),
  per_ml        numeric(12, 2) not null check (per_ml > 0),
  error_percent numeric(6, 1) not null,
  -- The closure it holds for; another one asks for a new calibration.
  closure       text not null default '' check (length(closure) <= 60),
  account_id    uuid,
  at            timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, product_id) references product (studio_id, id)
);
create index on calibration (studio_id, product_id, at desc);

-- What is mixed here: a recipe is written anew for every change, a batch names the one it was made by.
create table recipe (
  studio_id  uuid not null,
  id         uuid not null,
  version    int not null check (version > 0),
  product_id uuid not null,
  name       text not null check (length(name) between 1 and 120),
  body       jsonb not null,
  retired    boolean not null default false,
  account_id uuid not null,
  at         timestamptz not null,
  primary key (studio_id, id, version),
  foreign key (studio_id, product_id) references product (studio_id, id)
);
create table batch (
  studio_id  uuid not null,
  lot_id     uuid not null,
  recipe_id  uuid not null,
  version    int not null,
  made_on    date not null,
  account_id uuid not null,
  at         timestamptz not null,
  primary key (studio_id, lot_id),
  foreign key (studio_id, lot_id) references lot (studio_id, id),
  foreign key (studio_id, recipe_id, version) references recipe (studio_id, id, version)
);
create trigger batch_only_added before update or delete on batch for each row execute function refuse_change();

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['recipe', 'batch', 'use_month', 'use_day', 'cost_layer', 'pack', 'product_use', 'slip_observation', 'learned_since', 'calibration'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
drop table calibration, learned_since, slip_observation, product_use, use_month, use_day;
drop function keep_use();
drop trigger stock_movement_kept on stock_movement;
drop function keep_remaining();
alter table product drop column use, drop column place, drop column supplier, drop column article_no, drop column gtin,
  drop column lead_days, drop column min_packs, drop column months_open, drop column tare_g, drop column ml_per_spatula,
  drop column per_visit, drop column per_protocol;
alter table lot add column opened_on date, add column unit_cost numeric(14, 6) not null default 0;
alter table stock_movement drop column pack_id, drop column product_id, drop column value, drop column client_id, drop column into_lot,
  drop column counters, drop column sure, drop column reason;
drop table batch, recipe, pack, cost_layer;
