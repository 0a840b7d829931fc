-- +goose Up
-- Every request looks up its session. A function in SQL is planned anew at each call; one in PL/pgSQL keeps its plan.
-- +goose StatementBegin
create or replace function find_session(wanted bytea) returns table (studio_id uuid, session_id uuid)
language plpgsql stable security definer set search_path = public, pg_temp
as $$ begin
  return query select t.studio_id, t.session_id from session_token t where t.token_hash = wanted;
end $$;
-- +goose StatementEnd

-- What is kept of counted tables is good for a transaction until it writes to one of them: a sale may take prices and
-- names from memory although its repeats and its receipt are written.
-- +goose StatementBegin
create function note_own_change() returns trigger language plpgsql
as $$ begin
  perform set_config('app.changes', 'own', true);
  return null;
end $$;
-- +goose StatementEnd
-- +goose StatementBegin
do $$ declare named regclass;
begin
  for named in select tgrelid::regclass from pg_trigger where tgname like '%\_changes' union select 'studio'::regclass loop
    execute format('create trigger %1$s_own_change before insert or update or delete on %1$s
      for each statement execute function note_own_change()', named);
  end loop;
end $$;
-- +goose StatementEnd

-- When somebody was here and how often is read from the index alone.
drop index visit_studio_id_client_id_starts_at_idx;
create index visit_of_client on visit (studio_id, client_id, starts_at) include (state);

-- +goose Down
drop index visit_of_client;
create index on visit (studio_id, client_id, starts_at);
-- +goose StatementBegin
do $$ declare made record;
begin
  for made in select tgname, tgrelid::regclass as named from pg_trigger where tgname like '%\_own\_change' loop
    execute format('drop trigger %I on %s', made.tgname, made.named);
  end loop;
end $$;
-- +goose StatementEnd
drop function note_own_change;
-- +goose StatementBegin
create or replace function find_session(wanted bytea) returns table (studio_id uuid, session_id uuid)
language sql stable security definer set search_path = public, pg_temp
as $$ select t.studio_id, t.session_id from session_token t where t.token_hash = wanted $$;
-- +goose StatementEnd
