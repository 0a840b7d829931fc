-- +goose Up
-- A room with couches for two or more is shared by clients who come together, and by nobody else.
-- How many it holds is counted under the diary's lock.
alter table room add column places int not null default 1 check (places between 1 and 6);
-- Of those who share a room, what they share as a group; empty for who has it alone.
alter table visit add column shares_room uuid;
alter table visit drop constraint visit_room_free;
alter table visit add constraint visit_room_free exclude using gist
  (studio_id with =, room_id with =, tstzrange(busy_from, busy_until) with &&, coalesce(shares_room, id) with <>)
  where (state in ('held', 'booked', 'confirmed', 'arrived', 'in-room', 'done', 'broken-off'));

-- +goose Down
alter table visit drop constraint visit_room_free;
alter table visit add constraint visit_room_free exclude using gist
  (studio_id with =, room_id with =, tstzrange(busy_from, busy_until) with &&)
  where (state in ('held', 'booked', 'confirmed', 'arrived', 'in-room', 'done', 'broken-off'));
alter table visit drop column shares_room;
alter table room drop column places;
