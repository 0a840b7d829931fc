-- +goose Up
-- What happened in the room, event by event; only ever added. What the log comes to is worked out from it: the
-- treatment's progress is a copy for lists.
create table room_event (
  studio_id  uuid not null,
  visit_id   uuid not null,
  id         uuid not null,
  device     text not null check (length(device) between 1 and 60),
  seq        int not null check (seq > 0),
  n          int not null check (n > 0),
  -- The tablet's corrected time; it gives lengths, never order.
  at         timestamptz not null,
  kind       text not null check (length(kind) between 1 and 20),
  body       jsonb not null,
  account_id uuid not null,
  arrived_at timestamptz not null,
  primary key (studio_id, visit_id, id),
  foreign key (studio_id, visit_id) references treatment (studio_id, visit_id)
);
create trigger room_event_only_added before update or delete on room_event for each row execute function refuse_change();

-- Whose file is erased leaves no log of their skin behind.
-- +goose StatementBegin
create function erase_room_events() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from room_event e using visit v where v.studio_id = e.studio_id and v.id = e.visit_id
    and e.studio_id = new.studio_id and v.client_id = new.id;
  return new;
end $$;
create trigger client_erased before update on client for each row when (old.erased_at is null and new.erased_at is not null)
  execute function erase_room_events();

do $$
declare t text;
begin
  foreach t in array array['room_event'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
drop trigger client_erased on client;
drop function erase_room_events();
drop table room_event;
