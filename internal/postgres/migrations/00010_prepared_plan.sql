-- +goose Up
-- Today's plan is worked out once and stored whole with the treatment: the room guide
-- and the record read it, and nothing that changes in the studio changes it.
alter table treatment add column prepared jsonb;
alter table treatment disable trigger treatment_locked;
update treatment set prepared = jsonb_build_object('protocol', plan, 'adjustments', changes, 'overrides', overrules, 'practitioner', hands);
alter table treatment enable trigger treatment_locked;
alter table treatment alter column prepared set not null;
alter table treatment drop column plan, drop column changes, drop column overrules, drop column hands;
create trigger treatment_prepared before update on treatment for each row
  when (new.prepared is distinct from old.prepared) execute function refuse_change();

-- A deleted client's treatments keep the protocol as it was published.
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
  update treatment t set screening_id = null, record = jsonb_set(t.record, '{note}', '""'), prepared = jsonb_build_object('protocol', pv.body)
    from visit v join protocol_version pv on pv.studio_id = v.studio_id and pv.protocol_id = v.protocol_id and pv.number = v.protocol_version
    where v.studio_id = t.studio_id and v.id = t.visit_id and t.studio_id = current_studio() and v.client_id = wanted;
  delete from screening where studio_id = current_studio() and client_id = wanted;
  update visit set state = 'cancelled' where studio_id = current_studio() and client_id = wanted and state in ('booked', 'confirmed', 'arrived');
  update client set name = 'Deleted client', email = '', phone = '', birth_date = null, skin_type = 'normal', skin_states = '{}', phototype = null, note = '', erased_at = at
    where studio_id = current_studio() and id = wanted;
  perform set_config('softpalm.erasing', 'off', true);
end $$;
-- +goose StatementEnd

-- +goose Down
select 1;
