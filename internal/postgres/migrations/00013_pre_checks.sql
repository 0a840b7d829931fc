-- +goose Up
-- One word for one thing: the pre-treatment check and the client's history are called
-- in the database what they are called everywhere else.
alter table screening rename to pre_check;
alter table pre_check rename column about to history;
alter trigger screening_only_added on pre_check rename to pre_check_only_added;
alter table treatment rename column screening_id to pre_check_id;
alter table consultation rename column about to history;

-- Deleting a client, with the new names.
-- +goose StatementBegin
create or replace function erase_client(wanted uuid, at timestamptz) returns void
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  perform set_config('softpalm.erasing', 'on', true);
  delete from consultation where studio_id = current_studio() and client_id = wanted;
  delete from letter_scan s using letter l where l.studio_id = s.studio_id and l.id = s.letter_id and s.studio_id = current_studio() and l.client_id = wanted;
  delete from letter where studio_id = current_studio() and client_id = wanted;
  delete from consent where studio_id = current_studio() and client_id = wanted;
  delete from patch_reading r using patch_test p where p.studio_id = r.studio_id and p.id = r.patch_id and r.studio_id = current_studio() and p.client_id = wanted;
  delete from patch_test where studio_id = current_studio() and client_id = wanted;
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
select 1;
