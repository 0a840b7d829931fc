-- +goose Up
-- Readings of one measure on one side at one time; only ever added, struck where they were wrong.
create table measurement (
  studio_id     uuid not null,
  id            uuid not null,
  client_id     uuid not null,
  visit_id      uuid,
  measure       text not null check (length(measure) between 1 and 30),
  -- caliper, tape or photo; grade for what is graded.
  instrument    text not null check (instrument in ('caliper', 'tape', 'photo', 'grade')),
  side          text not null check (side in ('left', 'right', 'mid')),
  -- Before the first stroke of the day, or after the last.
  moment        text not null check (moment in ('before', 'after')),
  -- In mm or degrees, one reading after the other.
  readings      numeric(7, 2)[] not null check (cardinality(readings) between 1 and 3),
  account_id    uuid not null,
  at            timestamptz not null,
  struck_at     timestamptz,
  struck_by     uuid,
  struck_reason text not null default '' check (length(struck_reason) <= 500),
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id)
);
create index on measurement (studio_id, client_id, at);
create index on measurement (studio_id, account_id, measure, instrument, at desc) where struck_at is null;
create trigger measurement_of_client before insert on measurement for each row execute function refuse_deleted_client();

-- What is hoped of a measure, stated before: longer, shorter or nothing.
create table measure_hope (
  studio_id  uuid not null,
  client_id  uuid not null,
  measure    text not null check (length(measure) between 1 and 30),
  hope       text not null check (hope in ('longer', 'shorter')),
  account_id uuid not null,
  since      timestamptz not null,
  primary key (studio_id, client_id, measure),
  foreign key (studio_id, client_id) references client (studio_id, id)
);
create trigger measure_hope_of_client before insert on measure_hope for each row execute function refuse_deleted_client();

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['measurement', 'measure_hope'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;

create function erase_measurements() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from measurement where studio_id = new.studio_id and client_id = new.id;
  delete from measure_hope where studio_id = new.studio_id and client_id = new.id;
  return new;
end $$;
-- +goose StatementEnd
create trigger client_erased_measurements before update on client for each row when (old.erased_at is null and new.erased_at is not null)
  execute function erase_measurements();

-- +goose Down
drop trigger client_erased_measurements on client;
drop function erase_measurements();
drop table measure_hope, measurement;
