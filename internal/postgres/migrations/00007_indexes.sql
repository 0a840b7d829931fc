-- +goose Up
-- A visit shows its newest door check; the audit log is read newest first.
create index on screening (studio_id, visit_id, at desc) where visit_id is not null;
create index on audit (studio_id, at desc, id desc);

-- +goose Down
select 1;
