-- +goose Up
-- Who waits for a time, and whom the desk has to call because their appointment changed.
create table waiting (
  studio_id   uuid not null,
  id          uuid not null,
  client_id   uuid not null,
  protocol_id uuid not null,
  -- When and with whom, as it was typed.
  asked       jsonb not null,
  -- Least notice in minutes: a time that begins sooner is not offered.
  notice      int not null default 0 check (notice between 0 and 20160),
  displaced   boolean not null default false,
  series_id   uuid,
  series_item int,
  reason      text not null default '' check (length(reason) <= 200),
  since       timestamptz not null,
  -- offered_id is the hold with which a time is offered at the moment.
  offered_id  uuid,
  ended_at    timestamptz,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, protocol_id) references protocol (studio_id, id),
  foreign key (studio_id, series_id, series_item) references series_item (studio_id, series_id, n),
  foreign key (studio_id, offered_id) references series (studio_id, id)
);
create index on waiting (studio_id, since) where ended_at is null;

create table call (
  studio_id       uuid not null,
  id              uuid not null,
  visit_id        uuid not null,
  client_id       uuid not null,
  was_at          timestamptz not null,
  was_with        uuid not null,
  -- Whether the client said that nobody else will do: asked before it counts.
  ask_first       boolean not null default false,
  reason          text not null check (length(reason) <= 200),
  created_at      timestamptz not null,
  made_at         timestamptz,
  made_by         uuid,
  primary key (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, was_with) references practitioner (studio_id, id)
);
create index on call (studio_id, was_at) where made_at is null;

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['waiting', 'call'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;
-- +goose StatementEnd
create trigger waiting_of_client before insert on waiting for each row execute function refuse_deleted_client();

-- +goose StatementBegin
create function end_waiting_of_deleted() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from call where studio_id = new.studio_id and client_id = new.id;
  delete from waiting where studio_id = new.studio_id and client_id = new.id;
  return new;
end $$;
-- +goose StatementEnd
create trigger client_deleted_waits_no_more after update of erased_at on client for each row
  when (old.erased_at is null and new.erased_at is not null) execute function end_waiting_of_deleted();

-- +goose Down
drop table call, waiting cascade;
