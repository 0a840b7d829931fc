-- +goose Up
-- Zones of the body that a studio added, as lists without a picture.
create table own_zone (
  studio_id uuid not null references studio(id),
  key       text not null,
  body      jsonb not null,
  primary key (studio_id, key)
);
alter table own_zone enable row level security;
alter table own_zone force row level security;
create policy own_studio on own_zone using (studio_id = current_studio()) with check (studio_id = current_studio());

-- +goose Down
drop table own_zone;
