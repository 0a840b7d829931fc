-- +goose Up
-- Messages about appointments: at once when one is booked, moved or cancelled, and on a timetable
-- before and after it. What each is about is noted, so that nothing is said twice.
alter table client add column no_messages boolean not null default false;
alter table client add column short_message boolean not null default false;

-- The limits, times and weights of the diary; what is missing is usual.
alter table studio add column diary jsonb not null default '{}';

-- attachment is a calendar file with the appointments that it tells of.
alter table message add column attachment text not null default '';
alter table message drop constraint message_kind_check;
alter table message add constraint message_kind_check check (kind in
  ('consultation', 'invitation', 'reset', 'appointments', 'booking', 'moving', 'cancelling', 'reminder', 'progress', 'offer'));

-- moves is how often the visit was moved when it was told of: a moved one is told of anew.
create table message_part (
  studio_id  uuid not null,
  visit_id   uuid not null,
  kind       text not null,
  moves      int not null,
  message_id uuid,
  at         timestamptz not null,
  primary key (studio_id, visit_id, kind, moves),
  foreign key (studio_id, visit_id) references visit (studio_id, id) on delete cascade
);
alter table message_part enable row level security;
alter table message_part force row level security;
create policy own_studio on message_part using (studio_id = current_studio()) with check (studio_id = current_studio());

-- Each message opens the page of its client by an address of its own; making the address anew ends
-- all of them.
drop index client_page_studio_id_client_id_idx;
create index on client_page (studio_id, client_id);
-- +goose StatementBegin
create function add_client_page(token bytea, client uuid, until timestamptz, at timestamptz) returns void
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from client_page p where p.studio_id = current_studio() and p.client_id = client and p.until < at;
  insert into client_page (token_hash, studio_id, client_id, until, created_at) values (token, current_studio(), client, until, at);
end $$;
-- +goose StatementEnd

-- The clients of every studio of this database who have an appointment near a time.
-- +goose StatementBegin
create function clients_to_look_after(at timestamptz) returns table (studio_id uuid, client_id uuid)
language sql stable security definer set search_path = public, pg_temp
as $$ select distinct v.studio_id, v.client_id from visit v
  where v.starts_at between at - interval '3 days' and at + interval '10 days' and v.state in ('booked', 'confirmed', 'done') $$;
-- +goose StatementEnd

-- Jobs that are due at a time wait here; the library that works on them makes its own tables.
create schema if not exists jobs;

-- +goose Down
alter table studio drop column diary;
drop schema jobs cascade;
drop function clients_to_look_after(timestamptz);
drop function add_client_page(bytea, uuid, timestamptz, timestamptz);
drop table message_part;
