-- +goose Up
-- The studio's own texts; one that is empty or missing is the standard one.
alter table studio add column texts jsonb not null default '{}';
-- How long a client's file is kept: years after the last appointment, and for clients
-- who were under 18 at it at least to an age.
alter table studio add column keep_years int not null default 10 check (keep_years between 1 and 50);
alter table studio add column keep_minors_to int not null default 25 check (keep_minors_to between 18 and 60);

-- +goose Down
alter table studio drop column texts, drop column keep_years, drop column keep_minors_to;
