-- +goose Up
-- What practitioners said of their own hands before a treatment.
alter table treatment add column hands jsonb not null default '{}';

-- +goose Down
alter table treatment drop column hands;
