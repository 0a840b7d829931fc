-- +goose Up
-- Of two people who change the same client or product, the second is shown what the
-- first saved: each change is made to a revision, and a revision is used once.
alter table client add column revision integer not null default 1;
alter table product add column revision integer not null default 1;

-- +goose Down
alter table product drop column revision;
alter table client drop column revision;
