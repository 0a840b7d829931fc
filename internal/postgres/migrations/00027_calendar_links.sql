-- +goose Up
-- The private address of a practitioner's or a client's calendar. The token is kept as its hash
-- only; one that was revoked leads nowhere.
create table calendar_link (
  token_hash      bytea primary key,
  studio_id       uuid not null references studio,
  practitioner_id uuid,
  client_id       uuid,
  created_at      timestamptz not null,
  foreign key (studio_id, practitioner_id) references practitioner (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  check (num_nonnulls(practitioner_id, client_id) = 1)
);
create unique index on calendar_link (studio_id, practitioner_id) where practitioner_id is not null;
create unique index on calendar_link (studio_id, client_id) where client_id is not null;

-- +goose StatementBegin
create function find_calendar(wanted bytea) returns table (studio_id uuid, practitioner_id uuid, client_id uuid)
language sql stable security definer set search_path = public, pg_temp
as $$ select l.studio_id, l.practitioner_id, l.client_id from calendar_link l where l.token_hash = wanted $$;
-- +goose StatementEnd
-- One address at a time: a new one ends the one before. A token of null only ends it.
-- +goose StatementBegin
create function renew_calendar(token bytea, practitioner uuid, client uuid, at timestamptz) returns void
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from calendar_link l where l.studio_id = current_studio()
    and (l.practitioner_id = practitioner or l.client_id = client);
  if token is not null then
    insert into calendar_link (token_hash, studio_id, practitioner_id, client_id, created_at)
      values (token, current_studio(), practitioner, client, at);
  end if;
end $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function calendar_since(practitioner uuid, client uuid) returns timestamptz
language sql stable security definer set search_path = public, pg_temp
as $$ select l.created_at from calendar_link l where l.studio_id = current_studio()
  and (l.practitioner_id = practitioner or l.client_id = client) $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function end_calendar_of_deleted() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from calendar_link l where l.studio_id = new.studio_id and l.client_id = new.id;
  return new;
end $$;
-- +goose StatementEnd
create trigger client_deleted_has_no_calendar after update of erased_at on client for each row
  when (old.erased_at is null and new.erased_at is not null) execute function end_calendar_of_deleted();

-- +goose Down
drop table calendar_link cascade;
