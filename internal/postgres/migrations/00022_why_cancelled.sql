-- +goose Up
-- Why an appointment was cancelled.
alter table visit_change add column reason text not null default '' check (length(reason) <= 500);

-- +goose Down
alter table visit_change drop column reason;
