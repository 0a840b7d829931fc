-- +goose Up
-- A reaction of the skin, as noticed. What it is called is what was seen, never a diagnosis.
create table reaction (
  studio_id  uuid not null,
  id         uuid not null,
  client_id  uuid not null,
  -- The treatment after which it was noticed; null where there was none.
  visit_id   uuid,
  noticed_at timestamptz not null,
  -- By whom it was noticed, in words.
  noticed_by text not null check (length(noticed_by) <= 80),
  kind       text not null check (length(kind) between 1 and 30),
  -- Zones with sides: [{"zone": "cheek", "side": "left"}]; empty where that is not known.
  zones      jsonb not null default '[]',
  -- The worst so far, 0 to 4.
  grade      int not null check (grade between 0 and 4),
  -- Where it was noticed in the room: minute of hands-on time and step; null elsewhere.
  minute     int check (minute >= 0),
  step       text not null default '' check (length(step) <= 200),
  done       text not null default '' check (length(done) <= 2000),
  account_id uuid not null,
  at         timestamptz not null,
  outcome    text not null default '' check (outcome in ('', 'settled', 'doctor', 'mistake')),
  closed_at  timestamptz,
  closed_by  uuid,
  note       text not null default '' check (length(note) <= 2000),
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id),
  check ((outcome = '') = (closed_at is null))
);
create index on reaction (studio_id, client_id, noticed_at desc);
create trigger reaction_of_client before insert on reaction for each row execute function refuse_deleted_client();

-- What lay on the skin, and what follows for it. A lot is known once the record says which.
create table reaction_product (
  studio_id   uuid not null,
  reaction_id uuid not null,
  product_id  uuid not null,
  lot_id      uuid,
  regions     text[] not null default '{}',
  bar         text not null check (bar in ('free', 'ask', 'blocked-until-patch', 'blocked')),
  set_aside   boolean not null default false,
  foreign key (studio_id, reaction_id) references reaction (studio_id, id),
  foreign key (studio_id, product_id) references product (studio_id, id),
  foreign key (studio_id, lot_id) references lot (studio_id, id)
);
create unique index on reaction_product (studio_id, reaction_id, product_id, lot_id) nulls not distinct;
create index on reaction_product (studio_id, lot_id);

-- When to ask again, and what was said then.
create table follow_up (
  studio_id   uuid not null,
  reaction_id uuid not null,
  n           int not null check (n > 0),
  due_at      timestamptz not null,
  done_at     timestamptz,
  account_id  uuid,
  now         text not null default '' check (now in ('', 'better', 'same', 'worse', 'gone', 'not-reached')),
  grade       int check (grade between 0 and 4),
  note        text not null default '' check (length(note) <= 2000),
  primary key (studio_id, reaction_id, n),
  foreign key (studio_id, reaction_id) references reaction (studio_id, id)
);
create index on follow_up (studio_id, due_at) where done_at is null;

-- What happened besides: a fall, a broken stone, a power cut. Only ever added.
create table incident (
  studio_id  uuid not null,
  id         uuid not null,
  visit_id   uuid not null,
  at         timestamptz not null,
  kind       text not null check (length(kind) between 1 and 30),
  body       text not null check (length(body) between 1 and 2000),
  -- Who was told, in words.
  told       text not null default '' check (length(told) <= 200),
  account_id uuid not null,
  primary key (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id)
);
create index on incident (studio_id, visit_id, at);

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['reaction', 'reaction_product', 'follow_up', 'incident'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;

create function erase_reactions() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from follow_up f using reaction r where r.studio_id = f.studio_id and r.id = f.reaction_id
    and r.studio_id = new.studio_id and r.client_id = new.id;
  delete from reaction_product p using reaction r where r.studio_id = p.studio_id and r.id = p.reaction_id
    and r.studio_id = new.studio_id and r.client_id = new.id;
  delete from reaction where studio_id = new.studio_id and client_id = new.id;
  delete from incident i using visit v where v.studio_id = i.studio_id and v.id = i.visit_id
    and i.studio_id = new.studio_id and v.client_id = new.id;
  return new;
end $$;
-- +goose StatementEnd
create trigger client_erased_reactions before update on client for each row when (old.erased_at is null and new.erased_at is not null)
  execute function erase_reactions();

-- +goose Down
drop trigger client_erased_reactions on client;
drop function erase_reactions();
drop table incident, follow_up, reaction_product, reaction;
