-- +goose Up
-- The address of somebody's own calendar, which is read again every hour. It opens the calendar, so it
-- is shown to nobody.
create table busy_address (
  studio_id       uuid not null,
  id              uuid not null,
  practitioner_id uuid,
  client_id       uuid,
  address         text not null check (length(address) <= 2000),
  read_at         timestamptz,
  failure         text not null default '' check (length(failure) <= 300),
  primary key (studio_id, id),
  foreign key (studio_id, practitioner_id) references practitioner (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  check (num_nonnulls(practitioner_id, client_id) = 1)
);
create unique index on busy_address (studio_id, coalesce(practitioner_id, client_id));
alter table busy_address enable row level security;
alter table busy_address force row level security;
create policy own_studio on busy_address using (studio_id = current_studio()) with check (studio_id = current_studio());
create trigger busy_address_of_client before insert on busy_address for each row
  when (new.client_id is not null) execute function refuse_deleted_client();

-- +goose StatementBegin
create function forget_busy_address() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from busy_address where studio_id = new.studio_id and client_id = new.id;
  return new;
end $$;
-- +goose StatementEnd
create trigger client_deleted_has_no_busy_address after update of erased_at on client for each row
  when (old.erased_at is null and new.erased_at is not null) execute function forget_busy_address();

-- An end review may have an appointment of its own.
alter table visit drop constraint visit_kind_check;
alter table visit add constraint visit_kind_check check (kind in ('treatment', 'patch-test', 'review'));

-- The studios of this database that are looked after: with an appointment to come, or a calendar that
-- is read again.
-- +goose StatementBegin
create or replace function studios_with_visits(at timestamptz) returns setof uuid
language sql stable security definer set search_path = public, pg_temp
as $$ select v.studio_id from visit v where v.starts_at > at and v.state in ('booked', 'confirmed')
  union select b.studio_id from busy_address b $$;
-- +goose StatementEnd

-- +goose Down
drop trigger client_deleted_has_no_busy_address on client;
drop function forget_busy_address();
drop table busy_address;
