-- +goose Up
-- The private page of a client: appointments to confirm, cancel or have moved. The token is kept
-- as its hash only; a new one ends the one before.
create table client_page (
  token_hash bytea primary key,
  studio_id  uuid not null references studio,
  client_id  uuid not null,
  until      timestamptz not null,
  created_at timestamptz not null,
  foreign key (studio_id, client_id) references client (studio_id, id)
);
create unique index on client_page (studio_id, client_id);
-- +goose StatementBegin
create function find_client_page(wanted bytea) returns table (studio_id uuid, client_id uuid, until timestamptz)
language sql stable security definer set search_path = public, pg_temp
as $$ select p.studio_id, p.client_id, p.until from client_page p where p.token_hash = wanted $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function renew_client_page(token bytea, client uuid, until timestamptz, at timestamptz) returns void
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from client_page p where p.studio_id = current_studio() and p.client_id = client;
  if token is not null then
    insert into client_page (token_hash, studio_id, client_id, until, created_at) values (token, current_studio(), client, until, at);
  end if;
end $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function end_page_of_deleted() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from client_page p where p.studio_id = new.studio_id and p.client_id = new.id;
  return new;
end $$;
-- +goose StatementEnd
create trigger client_deleted_has_no_page after update of erased_at on client for each row
  when (old.erased_at is null and new.erased_at is not null) execute function end_page_of_deleted();
alter table message drop constraint message_kind_check;
alter table message add constraint message_kind_check check (kind in ('consultation', 'invitation', 'reset', 'appointments'));

-- +goose Down
drop table client_page cascade;
