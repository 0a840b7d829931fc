-- +goose Up
-- A private link lives until the appointment it is for.
alter table consultation add column visit_id uuid;
alter table consultation add foreign key (studio_id, visit_id) references visit (studio_id, id);
-- The questions of a check that were answered no together, each of them asked.
alter table pre_check add column together jsonb not null default '[]';

-- +goose Down
alter table pre_check drop column together;
alter table consultation drop column visit_id;
