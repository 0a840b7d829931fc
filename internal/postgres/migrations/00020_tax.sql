-- +goose Up
-- The usual tax that the studio's prices bear.
alter table studio add column tax jsonb not null default '{"taxMode": "included"}';

-- +goose Down
alter table studio drop column tax;
