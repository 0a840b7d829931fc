-- +goose Up
-- When a doctor's answer is expected: nothing is booked before, and the visits are marked.
alter table letter add column expected date;

-- The studio tells that it is late.
alter table message drop constraint message_kind_check;
alter table message add constraint message_kind_check check (kind in
  ('consultation', 'invitation', 'reset', 'appointments', 'booking', 'moving', 'cancelling', 'reminder', 'progress', 'offer', 'late'));

-- A procedure elsewhere that is planned: it blocks its own day and the waiting period of its rule.
create table planned_procedure (
  studio_id  uuid not null,
  id         uuid not null,
  client_id  uuid not null,
  rule       text not null check (length(rule) <= 80),
  day        date not null,
  noted_by   uuid not null,
  created_at timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id)
);
create index on planned_procedure (studio_id, client_id, day);

-- Pieces of a tool that are not there for a time: being mended, or retired for good.
create table tool_out (
  studio_id uuid not null,
  id        uuid not null,
  tool      text not null,
  pieces    int not null check (pieces between 1 and 1000),
  from_day  date not null,
  to_day    date,
  reason    text not null check (reason in ('mended', 'retired')),
  note      text not null default '' check (length(note) <= 200),
  primary key (studio_id, id),
  check (to_day is null or to_day >= from_day)
);
create index on tool_out (studio_id, to_day);

-- The end review of a series: what was found, and what is done next.
alter table series add column review jsonb;

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['planned_procedure', 'tool_out'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;
-- +goose StatementEnd
create trigger planned_of_client before insert on planned_procedure for each row execute function refuse_deleted_client();

-- Deleting a client takes what was planned and what was found.
-- +goose StatementBegin
create function forget_waits() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from planned_procedure where studio_id = new.studio_id and client_id = new.id;
  update series set review = null where studio_id = new.studio_id and client_id = new.id;
  return new;
end $$;
-- +goose StatementEnd
create trigger client_deleted_waits_for_nothing after update of erased_at on client for each row
  when (old.erased_at is null and new.erased_at is not null) execute function forget_waits();

-- +goose Down
drop trigger client_deleted_waits_for_nothing on client;
drop function forget_waits();
alter table series drop column review;
drop table tool_out;
drop table planned_procedure;
alter table letter drop column expected;
