-- +goose Up
-- Two treatments in one visit: one client time until the client has arrived, then a visit each, with
-- a record of its own. also are the treatments that follow, with the versions that were pinned and
-- their minutes; part_of is the visit that they followed.
alter table series_item add column also uuid[] not null default '{}';
alter table visit add column also jsonb not null default '[]';
alter table visit add column part_of uuid;
alter table visit add foreign key (studio_id, part_of) references visit (studio_id, id);
-- Clients who come together have one id here.
alter table visit add column together uuid;
create index on visit (studio_id, together) where together is not null;
create index on visit (studio_id, part_of) where part_of is not null;

-- +goose Down
alter table visit drop column part_of;
alter table visit drop column together;
alter table visit drop column also;
alter table series_item drop column also;
