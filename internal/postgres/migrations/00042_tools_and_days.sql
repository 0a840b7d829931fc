-- +goose Up
-- How each piece of a tool stands now, and the log of its uses and cleanings.
create table piece (
  studio_id uuid not null references studio,
  tool      text not null check (length(tool) <= 60),
  number    int not null check (number between 1 and 1000),
  state     text not null check (state in ('ready', 'in use', 'to clean', 'in the bath', 'drying', 'chilling', 'put away', 'retired')),
  since     timestamptz not null,
  uses      int not null default 0 check (uses >= 0),
  visit_id  uuid,
  bath_id   uuid,
  primary key (studio_id, tool, number),
  foreign key (studio_id, visit_id) references visit (studio_id, id)
);
create index on piece (studio_id, visit_id) where visit_id is not null;
create table bath (
  studio_id       uuid not null references studio,
  id              uuid not null,
  product         text not null check (length(product) between 1 and 120),
  lot             text not null default '' check (length(lot) <= 60),
  dilution        text not null default '' check (length(dilution) <= 60),
  contact_minutes int not null check (contact_minutes between 1 and 1440),
  made_at         timestamptz not null,
  good_until      timestamptz not null,
  discarded_at    timestamptz,
  account_id      uuid not null,
  primary key (studio_id, id),
  check (good_until > made_at)
);
alter table piece add constraint piece_bath foreign key (studio_id, bath_id) references bath (studio_id, id);
create table heat_cycle (
  studio_id  uuid not null references studio,
  id         uuid not null,
  number     int not null,
  load       jsonb not null,
  celsius    int not null check (celsius between 60 and 200),
  minutes    int not null check (minutes between 1 and 600),
  passed     boolean not null,
  account_id uuid not null,
  at         timestamptz not null,
  primary key (studio_id, id),
  unique (studio_id, number)
);
create table piece_log (
  studio_id  uuid not null,
  id         uuid not null,
  tool       text not null,
  number     int not null,
  state      text not null,
  visit_id   uuid,
  bath_id    uuid,
  cycle_id   uuid,
  note       text not null default '' check (length(note) <= 300),
  account_id uuid,
  at         timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id)
);
create index on piece_log (studio_id, tool, number, at desc);
create trigger piece_log_only_added before update or delete on piece_log for each row execute function refuse_change();
create trigger heat_cycle_only_added before update or delete on heat_cycle for each row execute function refuse_change();

-- Linen by kind, and where its pieces are.
create table linen (
  studio_id uuid not null references studio,
  kind      text not null check (length(kind) between 1 and 60),
  clean     int not null check (clean between 0 and 10000),
  in_use    int not null default 0 check (in_use between 0 and 10000),
  to_wash   int not null default 0 check (to_wash between 0 and 10000),
  washing   int not null default 0 check (washing between 0 and 10000),
  per_visit int not null check (per_visit between 0 and 50),
  charge    numeric(8, 2) not null default 0 check (charge >= 0),
  primary key (studio_id, kind)
);

-- What was ticked when the day was opened and closed.
create table day_tick (
  studio_id  uuid not null references studio,
  day        date not null,
  list       text not null check (list in ('opening', 'closing')),
  item       text not null check (length(item) <= 60),
  value      text not null default '' check (length(value) <= 120),
  account_id uuid not null,
  at         timestamptz not null,
  primary key (studio_id, day, list, item)
);

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['piece', 'bath', 'heat_cycle', 'piece_log', 'linen', 'day_tick'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
drop table day_tick, linen, piece_log, heat_cycle, piece, bath;
