-- +goose Up
-- What practitioners want to remember of a client at a place or at a stroke: shown on the
-- plan, at the step and in the room.
create table client_note (
  studio_id  uuid not null,
  id         uuid not null,
  client_id  uuid not null,
  zone       text not null default '',
  side       text not null default '' check (side in ('', 'left', 'right', 'both')),
  stroke     text not null default '',
  body       text not null check (length(body) between 1 and 300),
  author     text not null,
  account_id uuid not null,
  at         timestamptz not null,
  removed_at timestamptz,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  check ((zone = '') <> (stroke = ''))
);
create index on client_note (studio_id, client_id) where removed_at is null;
alter table client_note enable row level security;
alter table client_note force row level security;
create policy own_studio on client_note using (studio_id = current_studio()) with check (studio_id = current_studio());
create trigger client_note_of_client before insert on client_note for each row execute function refuse_deleted_client();

-- Deleting a client takes their notes too.
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
  update client set name = 'Deleted client', email = '', phone = '', birth_date = null, skin_type = 'normal', skin_states = '{}', phototype = null, note = '', erased_at = at
    where studio_id = current_studio() and id = wanted;
  perform set_config('softpalm.erasing', 'off', true);
end $$;
-- +goose StatementEnd

-- +goose Down
drop table client_note;
