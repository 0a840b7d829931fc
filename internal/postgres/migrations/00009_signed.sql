-- +goose Up
-- What was signed or written stays as it was from the first moment on: of a
-- consent only the withdrawal comes later, of a letter only its answer.
drop trigger consent_withdrawn on consent;
create trigger consent_kept before delete on consent for each row execute function refuse_change();
create trigger consent_signed before update on consent for each row
  when (old.withdrawn_at is not null
    or (new.studio_id, new.id, new.client_id, new.kind, new.version, new.body, new.signer, new.guardian, new.signature, new.signed_at, new.account_id)
      is distinct from (old.studio_id, old.id, old.client_id, old.kind, old.version, old.body, old.signer, old.guardian, old.signature, old.signed_at, old.account_id))
  execute function refuse_change();
drop trigger letter_answered on letter;
create trigger letter_kept before delete on letter for each row execute function refuse_change();
create trigger letter_written before update on letter for each row
  when (old.answered_at is not null
    or (new.studio_id, new.id, new.client_id, new.visit_id, new.rules, new.protocol_name, new.question, new.written_at, new.written_by)
      is distinct from (old.studio_id, old.id, old.client_id, old.visit_id, old.rules, old.protocol_name, old.question, old.written_at, old.written_by))
  execute function refuse_change();

-- A tailored plan tells what was left out: an erased client's treatments keep the
-- plan as it was published.
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
  update treatment t set screening_id = null, changes = '[]', overrules = '[]', record = jsonb_set(t.record, '{note}', '""'), plan = pv.body
    from visit v join protocol_version pv on pv.studio_id = v.studio_id and pv.protocol_id = v.protocol_id and pv.number = v.protocol_version
    where v.studio_id = t.studio_id and v.id = t.visit_id and t.studio_id = current_studio() and v.client_id = wanted;
  delete from screening where studio_id = current_studio() and client_id = wanted;
  update visit set state = 'cancelled' where studio_id = current_studio() and client_id = wanted and state in ('booked', 'confirmed', 'arrived');
  update client set name = 'Erased client', email = '', phone = '', birth_date = null, skin_type = 'normal', skin_states = '{}', phototype = null, note = '', erased_at = at
    where studio_id = current_studio() and id = wanted;
  perform set_config('softpalm.erasing', 'off', true);
end $$;
-- +goose StatementEnd

-- +goose Down
select 1;
