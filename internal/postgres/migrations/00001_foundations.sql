-- +goose Up
create extension if not exists btree_gist;

-- The studio of the running transaction. A pooled connection answers the empty
-- string after a commit, not NULL, hence nullif.
-- +goose StatementBegin
create function current_studio() returns uuid
language sql stable
as $$ select nullif(current_setting('app.studio_id', true), '')::uuid $$;
-- +goose StatementEnd

create table studio (
  id          uuid primary key,
  name        text not null,
  time_zone   text not null,
  currency    char(3) not null,
  open_week   jsonb not null,
  rule_pack   jsonb,
  is_demo     boolean not null default false,
  created_at  timestamptz not null
);

create table practitioner (
  studio_id uuid not null references studio,
  id        uuid not null,
  key       text not null,
  name      text not null,
  week      jsonb not null,
  primary key (studio_id, id),
  unique (studio_id, key)
);

create table room (
  studio_id uuid not null references studio,
  id        uuid not null,
  key       text not null,
  name      text not null,
  primary key (studio_id, id),
  unique (studio_id, key)
);

create table account (
  studio_id       uuid not null references studio,
  id              uuid not null,
  email           text not null,
  name            text not null,
  role            text not null check (role in ('owner', 'practitioner', 'front-desk')),
  password_hash   text not null,
  practitioner_id uuid,
  primary key (studio_id, id),
  foreign key (studio_id, practitioner_id) references practitioner (studio_id, id)
);

create table session (
  studio_id  uuid not null,
  id         uuid not null,
  account_id uuid not null,
  csrf       text not null,
  created_at timestamptz not null,
  expires_at timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, account_id) references account (studio_id, id)
);

-- Ways in, before the studio is known. The application has no right to these
-- tables; it asks the functions below.
create table account_email (
  email      text primary key,
  studio_id  uuid not null,
  account_id uuid not null,
  foreign key (studio_id, account_id) references account (studio_id, id) on delete cascade
);
create table session_token (
  token_hash bytea primary key,
  studio_id  uuid not null,
  session_id uuid not null,
  foreign key (studio_id, session_id) references session (studio_id, id) on delete cascade
);
create table sign_in_attempt (
  subject text not null,
  at      timestamptz not null
);
create index on sign_in_attempt (subject, at);

create table client (
  studio_id   uuid not null references studio,
  id          uuid not null,
  name        text not null,
  email       text not null default '',
  phone       text not null default '',
  birth_date  date,
  skin_type   text not null,
  skin_states text[] not null default '{}',
  phototype   int,
  note        text not null default '',
  created_at  timestamptz not null,
  primary key (studio_id, id)
);
create index on client (studio_id, lower(name), id);

create table tool (
  studio_id uuid not null references studio,
  key       text not null,
  body      jsonb not null,
  primary key (studio_id, key)
);

create table stroke (
  studio_id uuid not null references studio,
  key       text not null,
  body      jsonb not null,
  primary key (studio_id, key)
);

create table product (
  studio_id     uuid not null references studio,
  id            uuid not null,
  key           text not null,
  name          text not null,
  form          text not null,
  unit          text not null check (unit in ('mL', 'g')),
  pack_size     numeric not null check (pack_size > 0),
  price         numeric(12, 2) not null,
  full_dose     numeric not null,
  range_min     numeric not null,
  range_max     numeric not null,
  drops_per_ml  numeric not null,
  ml_per_press  numeric not null,
  density       numeric not null,
  half_life     numeric not null,
  tags          text[] not null,
  unsuited      text[] not null,
  reorder_at    numeric not null,
  primary key (studio_id, id),
  unique (studio_id, key)
);

create table lot (
  studio_id   uuid not null,
  id          uuid not null,
  product_id  uuid not null,
  number      text not null,
  expiry      date,
  received_on date not null,
  opened_on   date,
  months_open int not null default 0,
  unit_cost   numeric(14, 6) not null check (unit_cost >= 0),
  primary key (studio_id, id),
  unique (studio_id, product_id, number),
  foreign key (studio_id, product_id) references product (studio_id, id)
);

create table protocol (
  studio_id  uuid not null references studio,
  id         uuid not null,
  key        text not null,
  created_at timestamptz not null,
  primary key (studio_id, id),
  unique (studio_id, key)
);

create table protocol_version (
  studio_id    uuid not null,
  protocol_id  uuid not null,
  number       int not null,
  body         jsonb not null,
  published_at timestamptz not null,
  published_by uuid,
  primary key (studio_id, protocol_id, number),
  foreign key (studio_id, protocol_id) references protocol (studio_id, id)
);

create table protocol_draft (
  studio_id   uuid not null,
  protocol_id uuid not null,
  account_id  uuid not null,
  revision    int not null,
  based_on    int not null,
  body        jsonb not null,
  updated_at  timestamptz not null,
  primary key (studio_id, protocol_id, account_id),
  foreign key (studio_id, protocol_id) references protocol (studio_id, id),
  foreign key (studio_id, account_id) references account (studio_id, id)
);

create table visit (
  studio_id       uuid not null,
  id              uuid not null,
  client_id       uuid not null,
  practitioner_id uuid not null,
  room_id         uuid not null,
  protocol_id     uuid not null,
  protocol_version int not null,
  starts_at       timestamptz not null,
  ends_at         timestamptz not null,
  busy_until      timestamptz not null,
  state           text not null check (state in ('booked', 'confirmed', 'arrived', 'in-room', 'done', 'cancelled', 'late-cancelled', 'no-show')),
  created_at      timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, practitioner_id) references practitioner (studio_id, id),
  foreign key (studio_id, room_id) references room (studio_id, id),
  foreign key (studio_id, protocol_id, protocol_version) references protocol_version (studio_id, protocol_id, number),
  check (starts_at < ends_at and ends_at <= busy_until),
  -- Never double. A client's range leaves out the reset; room and practitioner include it.
  constraint visit_practitioner_free exclude using gist (studio_id with =, practitioner_id with =, tstzrange(starts_at, busy_until) with &&)
    where (state not in ('cancelled', 'late-cancelled', 'no-show')),
  constraint visit_room_free exclude using gist (studio_id with =, room_id with =, tstzrange(starts_at, busy_until) with &&)
    where (state not in ('cancelled', 'late-cancelled', 'no-show')),
  constraint visit_client_free exclude using gist (studio_id with =, client_id with =, tstzrange(starts_at, ends_at) with &&)
    where (state not in ('cancelled', 'late-cancelled', 'no-show'))
);
create index on visit (studio_id, starts_at, id);
create index on visit (studio_id, client_id, starts_at);

create table visit_change (
  studio_id  uuid not null,
  id         uuid not null,
  visit_id   uuid not null,
  state      text not null,
  account_id uuid,
  at         timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id)
);

create table screening (
  studio_id    uuid not null,
  id           uuid not null,
  client_id    uuid not null,
  visit_id     uuid,
  day          date not null,
  answers      jsonb not null,
  result       jsonb not null,
  pack_version text not null,
  account_id   uuid not null,
  at           timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id)
);
create index on screening (studio_id, client_id, at desc);

create table treatment (
  studio_id    uuid not null,
  visit_id     uuid not null,
  screening_id uuid,
  plan         jsonb not null,
  changes      jsonb not null,
  progress     jsonb not null,
  record       jsonb not null,
  cost         numeric(12, 2),
  started_at   timestamptz not null,
  finished_at  timestamptz,
  finished_by  uuid,
  primary key (studio_id, visit_id),
  foreign key (studio_id, visit_id) references visit (studio_id, id),
  foreign key (studio_id, screening_id) references screening (studio_id, id)
);

create table stock_movement (
  studio_id  uuid not null,
  id         uuid not null,
  lot_id     uuid not null,
  kind       text not null check (kind in ('receive', 'treatment', 'waste', 'tester', 'retail', 'stocktake', 'dispose', 'return')),
  amount     numeric not null check (amount <> 0),
  planned    numeric,
  visit_id   uuid,
  account_id uuid,
  note       text not null default '',
  at         timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, lot_id) references lot (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id)
);
create index on stock_movement (studio_id, lot_id);
create index on stock_movement (studio_id, visit_id) where visit_id is not null;

create table audit (
  studio_id  uuid not null references studio,
  id         uuid not null,
  account_id uuid,
  at         timestamptz not null,
  action     text not null,
  subject    text not null,
  subject_id uuid,
  primary key (studio_id, id)
);

-- What is closed or only ever added cannot be changed, whoever asks.
-- +goose StatementBegin
create function refuse_change() returns trigger
language plpgsql
as $$ begin raise exception '% is only ever added to', tg_table_name using errcode = 'restrict_violation'; end $$;
-- +goose StatementEnd
create trigger stock_movement_only_added before update or delete on stock_movement for each row execute function refuse_change();
create trigger audit_only_added before update or delete on audit for each row execute function refuse_change();
create trigger screening_only_added before update or delete on screening for each row execute function refuse_change();
create trigger version_only_added before update or delete on protocol_version for each row execute function refuse_change();
create trigger visit_change_only_added before update or delete on visit_change for each row execute function refuse_change();
create trigger treatment_locked before update or delete on treatment for each row when (old.finished_at is not null) execute function refuse_change();

-- Ways in.
-- +goose StatementBegin
create function find_sign_in(wanted text) returns table (studio_id uuid, account_id uuid)
language sql stable security definer set search_path = public, pg_temp
as $$ select e.studio_id, e.account_id from account_email e where e.email = lower(wanted) $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function find_session(wanted bytea) returns table (studio_id uuid, session_id uuid)
language sql stable security definer set search_path = public, pg_temp
as $$ select t.studio_id, t.session_id from session_token t where t.token_hash = wanted $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function register_sign_in(wanted text, account uuid) returns void
language sql security definer set search_path = public, pg_temp
as $$ insert into account_email (email, studio_id, account_id) values (lower(wanted), current_studio(), account) $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function register_session(token bytea, session uuid) returns void
language sql security definer set search_path = public, pg_temp
as $$ insert into session_token (token_hash, studio_id, session_id) values (token, current_studio(), session) $$;
-- +goose StatementEnd
-- The demo's accounts are named on the sign-in page when, and only when, the demo is loaded.
create table demo_sign_in (
  studio_id uuid not null references studio,
  email     text not null,
  password  text not null,
  role      text not null,
  name      text not null,
  primary key (studio_id, email)
);
-- +goose StatementBegin
create function demo_sign_ins() returns table (email text, password text, role text, name text)
language sql stable security definer set search_path = public, pg_temp
as $$ select d.email, d.password, d.role, d.name from demo_sign_in d order by d.email desc $$;
-- +goose StatementEnd
-- Row security on every table of a studio.
-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['practitioner','room','account','session','client','tool','stroke','product','lot','protocol','protocol_version','protocol_draft','visit','visit_change','screening','treatment','stock_movement','audit'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
  alter table studio enable row level security;
  alter table studio force row level security;
  create policy own_studio on studio using (id = current_studio()) with check (id = current_studio());
end $$;
-- +goose StatementEnd

-- +goose Down
-- There is no way down from the foundations: restore a backup instead.
