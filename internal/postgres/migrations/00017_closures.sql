-- +goose Up
-- Days on which the studio is closed, beside its usual hours.
alter table studio add column closures jsonb not null default '[]';

-- +goose Down
alter table studio drop column closures;
