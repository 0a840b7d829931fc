-- +goose Up
-- Erasing a client keeps what the accounts must keep: that a visit took place,
-- when, with whom, what it cost and what left the shelf. Everything that says who
-- the client is, and all health data, goes. The lock on what is only added opens
-- for this function alone: it needs the owner's rights, which only it lends.
alter table client add column erased_at timestamptz;
-- +goose StatementBegin
create or replace function refuse_change() returns trigger
language plpgsql
as $$ begin
  if current_setting('softpalm.erasing', true) = 'on' and current_user <> 'softpalm_app' then
    if tg_op = 'DELETE' then return old; end if;
    return new;
  end if;
  raise exception '% is only ever added to', tg_table_name using errcode = 'restrict_violation';
end $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function erase_client(wanted uuid, at timestamptz) returns void
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  perform set_config('softpalm.erasing', 'on', true);
  delete from consultation where studio_id = current_studio() and client_id = wanted;
  delete from letter where studio_id = current_studio() and client_id = wanted;
  delete from consent where studio_id = current_studio() and client_id = wanted;
  update treatment t set screening_id = null, changes = '[]', overrules = '[]', record = jsonb_set(t.record, '{note}', '""')
    from visit v where v.studio_id = t.studio_id and v.id = t.visit_id and t.studio_id = current_studio() and v.client_id = wanted;
  delete from screening where studio_id = current_studio() and client_id = wanted;
  update visit set state = 'cancelled' where studio_id = current_studio() and client_id = wanted and state in ('booked', 'confirmed', 'arrived');
  update client set name = 'Erased client', email = '', phone = '', birth_date = null, skin_type = 'normal', skin_states = '{}', phototype = null, note = '', erased_at = at
    where studio_id = current_studio() and id = wanted;
  perform set_config('softpalm.erasing', 'off', true);
end $$;
-- +goose StatementEnd
revoke execute on function erase_client(uuid, timestamptz) from public;

-- +goose Down
select 1;
