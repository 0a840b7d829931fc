-- +goose Up
-- The wall time that was promised, beside the instant: when the rules of a time zone change, it
-- stays, and the instant is worked out anew. Empty is not known.
alter table visit add column promised text not null default '' check (length(promised) <= 16);
update visit v set promised = to_char(v.starts_at at time zone s.time_zone, 'YYYY-MM-DD"T"HH24:MI') from studio s where s.id = v.studio_id;

-- The studios of this database that have an appointment to come.
-- +goose StatementBegin
create function studios_with_visits(at timestamptz) returns setof uuid
language sql stable security definer set search_path = public, pg_temp
as $$ select distinct v.studio_id from visit v where v.starts_at > at and v.state in ('booked', 'confirmed') $$;
-- +goose StatementEnd

-- +goose Down
drop function studios_with_visits(timestamptz);
alter table visit drop column promised;
