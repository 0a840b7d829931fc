-- +goose Up
-- Series of visits, and what finding times for them asks: rosters, absences, equipment,
-- tools that are out, and holds that lapse.

alter table room add column equipment text[] not null default '{}';

-- A line of a practitioner's roster: of those that cover a day and name its weekday the last
-- rules. days are pieces of time by weekday, mon to sun; an empty list is a day off.
create table roster_entry (
  studio_id       uuid not null,
  id              uuid not null,
  practitioner_id uuid not null,
  from_day        date not null,
  to_day          date,
  every           int not null default 1 check (every between 1 and 52),
  days            jsonb not null,
  note            text not null default '' check (length(note) <= 200),
  primary key (studio_id, id),
  foreign key (studio_id, practitioner_id) references practitioner (studio_id, id),
  check (to_day is null or to_day >= from_day)
);
create index on roster_entry (studio_id, practitioner_id, id);

-- A time at which a practitioner or a client is away, or a room closed.
create table absence (
  studio_id       uuid not null,
  id              uuid not null,
  practitioner_id uuid,
  client_id       uuid,
  room_id         uuid,
  starts_at       timestamptz not null,
  ends_at         timestamptz not null,
  kind            text not null check (kind in ('away', 'ill', 'break', 'closed', 'imported')),
  note            text not null default '' check (length(note) <= 200),
  primary key (studio_id, id),
  foreign key (studio_id, practitioner_id) references practitioner (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, room_id) references room (studio_id, id),
  check (num_nonnulls(practitioner_id, client_id, room_id) = 1),
  check (starts_at < ends_at)
);
create index on absence (studio_id, ends_at);

-- When a client can come and likes to come, and when a minor's guardian can; nothing is any
-- time. Pieces of time by weekday, as in a roster.
create table client_hours (
  studio_id uuid not null,
  client_id uuid not null,
  possible  jsonb,
  likes     jsonb,
  guardian  jsonb,
  bedtime   text not null default '' check (bedtime = '' or bedtime ~ '^[0-2][0-9]:[0-5][0-9]$'),
  revision  int not null default 1,
  primary key (studio_id, client_id),
  foreign key (studio_id, client_id) references client (studio_id, id)
);

create table series (
  studio_id  uuid not null references studio,
  id         uuid not null,
  client_id  uuid not null,
  state      text not null check (state in ('offered', 'running', 'paused', 'finished', 'broken-off', 'lapsed')),
  -- asked is what was asked for, as it was typed and understood.
  asked      jsonb not null,
  reason     text not null default '' check (length(reason) <= 500),
  held_until timestamptz,
  held_by    uuid,
  renewed    boolean not null default false,
  created_at timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id)
);
create index on series (studio_id, client_id, created_at);
create index on series (studio_id, held_until) where state = 'offered';

create table series_item (
  studio_id   uuid not null,
  series_id   uuid not null,
  n           int not null check (n between 1 and 60),
  protocol_id uuid not null,
  ideal       int not null,
  least       int not null,
  most        int not null,
  rest        int not null,
  marks       jsonb not null,
  primary key (studio_id, series_id, n),
  foreign key (studio_id, series_id) references series (studio_id, id),
  foreign key (studio_id, protocol_id) references protocol (studio_id, id)
);

alter table visit add column busy_from timestamptz;
update visit set busy_from = starts_at;
alter table visit alter column busy_from set not null;
alter table visit add constraint visit_prepares check (busy_from <= starts_at);
-- tools are the sets that it takes, by kind; agreed_at is the start first agreed, moves how
-- often it was moved since.
alter table visit add column tools jsonb not null default '{}';
alter table visit add column series_id uuid;
alter table visit add column series_item int;
alter table visit add column held_until timestamptz;
alter table visit add column agreed_at timestamptz;
update visit set agreed_at = starts_at;
alter table visit alter column agreed_at set not null;
alter table visit add column moves int not null default 0;
alter table visit add foreign key (studio_id, series_id, series_item) references series_item (studio_id, series_id, n);
create index on visit (studio_id, series_id, series_item) where series_id is not null;
create index on visit (studio_id, busy_until);

alter table visit drop constraint visit_state_check;
alter table visit add constraint visit_state_check check (state in
  ('held', 'booked', 'confirmed', 'arrived', 'in-room', 'done', 'broken-off', 'cancelled', 'late-cancelled', 'no-show', 'lapsed', 'released'));
alter table visit add constraint visit_held check ((state = 'held') = (held_until is not null));

-- Never double. The prepare and the reset belong to room and practitioner.
alter table visit drop constraint visit_practitioner_free;
alter table visit drop constraint visit_room_free;
alter table visit drop constraint visit_client_free;
alter table visit add constraint visit_practitioner_free exclude using gist
  (studio_id with =, practitioner_id with =, tstzrange(busy_from, busy_until) with &&)
  where (state in ('held', 'booked', 'confirmed', 'arrived', 'in-room', 'done', 'broken-off'));
alter table visit add constraint visit_room_free exclude using gist
  (studio_id with =, room_id with =, tstzrange(busy_from, busy_until) with &&)
  where (state in ('held', 'booked', 'confirmed', 'arrived', 'in-room', 'done', 'broken-off'));
alter table visit add constraint visit_client_free exclude using gist
  (studio_id with =, client_id with =, tstzrange(starts_at, ends_at) with &&)
  where (state in ('held', 'booked', 'confirmed', 'arrived', 'in-room', 'done', 'broken-off'));

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['roster_entry', 'absence', 'client_hours', 'series', 'series_item'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;
-- +goose StatementEnd
create trigger series_of_client before insert on series for each row execute function refuse_deleted_client();
create trigger client_hours_of_client before insert on client_hours for each row execute function refuse_deleted_client();

-- Deleting a client takes their hours, their absences and what was typed about their series.
-- +goose StatementBegin
create or replace function erase_client(wanted uuid, at timestamptz) returns void
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  perform 1 from visit where studio_id = current_studio() and client_id = wanted order by id for update;
  perform 1 from client where studio_id = current_studio() and id = wanted for update;
  perform set_config('softpalm.erasing', 'on', true);
  delete from consultation where studio_id = current_studio() and client_id = wanted;
  delete from letter_scan s using letter l where l.studio_id = s.studio_id and l.id = s.letter_id and s.studio_id = current_studio() and l.client_id = wanted;
  delete from letter where studio_id = current_studio() and client_id = wanted;
  delete from message where studio_id = current_studio() and client_id = wanted;
  delete from client_note where studio_id = current_studio() and client_id = wanted;
  delete from client_hours where studio_id = current_studio() and client_id = wanted;
  delete from absence where studio_id = current_studio() and client_id = wanted;
  delete from consent where studio_id = current_studio() and client_id = wanted;
  delete from patch_reading r using patch_test p where p.studio_id = r.studio_id and p.id = r.patch_id and r.studio_id = current_studio() and p.client_id = wanted;
  delete from patch_test where studio_id = current_studio() and client_id = wanted;
  delete from record_addition a using visit v where v.studio_id = a.studio_id and v.id = a.visit_id and a.studio_id = current_studio() and v.client_id = wanted;
  update visit_change c set reason = '' from visit v where v.studio_id = c.studio_id and v.id = c.visit_id and c.studio_id = current_studio() and v.client_id = wanted and c.reason <> '';
  update treatment t set pre_check_id = null, record = jsonb_set(t.record, '{note}', '""'), prepared = jsonb_build_object('protocol', pv.body)
    from visit v join protocol_version pv on pv.studio_id = v.studio_id and pv.protocol_id = v.protocol_id and pv.number = v.protocol_version
    where v.studio_id = t.studio_id and v.id = t.visit_id and t.studio_id = current_studio() and v.client_id = wanted;
  delete from pre_check where studio_id = current_studio() and client_id = wanted;
  update visit set state = 'cancelled' where studio_id = current_studio() and client_id = wanted and state in ('booked', 'confirmed', 'arrived');
  update visit set state = 'released', held_until = null where studio_id = current_studio() and client_id = wanted and state = 'held';
  update series set state = case when state = 'offered' then 'lapsed' else 'broken-off' end, asked = '{}', reason = ''
    where studio_id = current_studio() and client_id = wanted and state in ('offered', 'running', 'paused');
  update series set asked = '{}', reason = '' where studio_id = current_studio() and client_id = wanted;
  update client set name = 'Deleted client', email = '', phone = '', birth_date = null, skin_type = 'normal', skin_states = '{}', phototype = null, note = '', erased_at = at
    where studio_id = current_studio() and id = wanted;
  perform set_config('softpalm.erasing', 'off', true);
end $$;
-- +goose StatementEnd

-- +goose Down
drop table series_item, series, client_hours, absence, roster_entry cascade;
