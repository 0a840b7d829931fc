-- +goose Up
-- What an appointment costs beside its products and tools, as far as the studio says.
alter table studio add column costs jsonb not null default '{}';

-- +goose Down
alter table studio drop column costs;
