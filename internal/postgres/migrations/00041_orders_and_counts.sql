-- +goose Up
-- Who products are bought from, and how the studio orders.
create table supplier (
  studio_id   uuid not null references studio,
  name        text not null check (length(name) between 1 and 120),
  -- The least an order must be worth, and what one order costs to make.
  least_value numeric(12, 2) not null default 0 check (least_value >= 0),
  order_cost  numeric(12, 2) not null default 9 check (order_cost > 0),
  email       text not null default '' check (length(email) <= 200),
  primary key (studio_id, name)
);
create table order_settings (
  studio_id       uuid not null references studio,
  service_level   int not null check (service_level in (90, 95, 98, 99)),
  holding_percent numeric(5, 1) not null check (holding_percent > 0),
  most_months     int not null check (most_months between 1 and 60),
  blind_count     boolean not null,
  least_life_days int not null check (least_life_days between 0 and 1000),
  scale_step      numeric(6, 3) not null check (scale_step > 0),
  primary key (studio_id)
);

create table purchase_order (
  studio_id  uuid not null references studio,
  id         uuid not null,
  number     text not null check (length(number) <= 20),
  supplier   text not null,
  state      text not null check (state in ('draft', 'sent', 'part received', 'received', 'closed short')),
  ordered_on date,
  needed_by  date,
  note       text not null default '' check (length(note) <= 500),
  revision   int not null default 1,
  account_id uuid not null,
  created_at timestamptz not null,
  primary key (studio_id, id),
  unique (studio_id, number),
  check ((state = 'draft') = (ordered_on is null))
);
create index on purchase_order (studio_id, created_at desc);
create table order_line (
  studio_id  uuid not null,
  order_id   uuid not null,
  position   int not null,
  product_id uuid not null,
  packs      int not null check (packs between 1 and 10000),
  pack_size  numeric(14, 3) not null check (pack_size > 0),
  pack_price numeric(12, 2) not null check (pack_price >= 0),
  received   int not null default 0 check (received >= 0),
  why        text not null default '' check (length(why) <= 300),
  primary key (studio_id, order_id, position),
  unique (studio_id, order_id, product_id),
  foreign key (studio_id, order_id) references purchase_order (studio_id, id),
  foreign key (studio_id, product_id) references product (studio_id, id)
);
create index on order_line (studio_id, product_id);
alter table cost_layer add constraint cost_layer_order foreign key (studio_id, order_id) references purchase_order (studio_id, id);
create index on cost_layer (studio_id, order_id) where order_id is not null;

-- A stocktake: its lines are written while it is open; closing it makes movements of the differences.
create table stocktake (
  studio_id  uuid not null references studio,
  id         uuid not null,
  places     text[] not null,
  -- Where only what was due is counted, these packs; else empty.
  packs      uuid[] not null default '{}',
  blind      boolean not null,
  started_at timestamptz not null,
  started_by uuid not null,
  closed_at  timestamptz,
  closed_by  uuid,
  -- What was gained and lost, at cost, when it was closed.
  gained     numeric(14, 2) not null default 0,
  lost       numeric(14, 2) not null default 0,
  primary key (studio_id, id)
);
create unique index stocktake_open on stocktake (studio_id) where closed_at is null;
create table stocktake_line (
  studio_id    uuid not null,
  stocktake_id uuid not null,
  pack_id      uuid not null,
  -- What the books showed at the moment of counting, and what was found.
  books        numeric(14, 3) not null,
  found        numeric(14, 3) not null check (found >= 0),
  gross        numeric(12, 3),
  tare         numeric(12, 3),
  tolerance    numeric(14, 3) not null,
  booked       numeric(14, 3) not null,
  -- Over a tenth of the pack is typed twice.
  again        boolean not null default false,
  reason       text not null default '' check (length(reason) <= 300),
  counted_by   uuid not null,
  at           timestamptz not null,
  primary key (studio_id, stocktake_id, pack_id),
  foreign key (studio_id, stocktake_id) references stocktake (studio_id, id),
  foreign key (studio_id, pack_id) references pack (studio_id, id)
);
create trigger stocktake_locked before update or delete on stocktake for each row when (old.closed_at is not null) execute function refuse_change();

-- A recall and whom it was told to.
create table recall (
  studio_id  uuid not null references studio,
  id         uuid not null,
  lots       uuid[] not null,
  reason     text not null check (length(reason) between 1 and 300),
  account_id uuid not null,
  at         timestamptz not null,
  primary key (studio_id, id)
);
create table recall_call (
  studio_id  uuid not null,
  id         uuid not null,
  recall_id  uuid not null,
  client_id  uuid not null,
  outcome    text not null check (outcome in ('reached', 'message-left', 'not-reached')),
  note       text not null default '' check (length(note) <= 300),
  account_id uuid not null,
  at         timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, recall_id) references recall (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id)
);
create index on recall_call (studio_id, recall_id);

-- The half-life that the studio's own records teach, and from how many; 0 where none.
alter table product
  add column learned_half_life numeric(8, 2) not null default 0 check (learned_half_life >= 0),
  add column learned_from      int not null default 0 check (learned_from >= 0);

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['supplier', 'order_settings', 'purchase_order', 'order_line', 'stocktake', 'stocktake_line', 'recall', 'recall_call'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
alter table product drop column learned_half_life, drop column learned_from;
drop table recall_call, recall, stocktake_line, stocktake;
alter table cost_layer drop constraint cost_layer_order;
drop table order_line, purchase_order, order_settings, supplier;
