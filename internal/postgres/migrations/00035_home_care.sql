-- +goose Up
-- What the client of a series does at home beside the visits.
alter table series add column home_care text not null default '';

-- Deleting a client takes it with what was planned and what was found.
-- +goose StatementBegin
create or replace function forget_waits() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from planned_procedure where studio_id = new.studio_id and client_id = new.id;
  update series set review = null, home_care = '' where studio_id = new.studio_id and client_id = new.id;
  return new;
end $$;
-- +goose StatementEnd

-- +goose Down
-- +goose StatementBegin
create or replace function forget_waits() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from planned_procedure where studio_id = new.studio_id and client_id = new.id;
  update series set review = null where studio_id = new.studio_id and client_id = new.id;
  return new;
end $$;
-- +goose StatementEnd
alter table series drop column home_care;
