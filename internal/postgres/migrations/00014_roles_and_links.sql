-- +goose Up
-- Two more roles: who teaches, and who learns (internal/studio/roles.txt).
alter table account drop constraint account_role_check;
alter table account add constraint account_role_check
  check (role in ('owner', 'practitioner', 'trainer', 'trainee', 'front-desk'));

-- A private link on a tablet that was handed over opens in that session only.
alter table consultation add column session_id uuid;

-- Whatever is written about a client is written about one who is still there: a check and
-- a deletion at the same moment end without health data. The client is held in share
-- mode until the transaction ends; deleting takes the client first, and waits.
-- +goose StatementBegin
create function refuse_deleted_client() returns trigger
language plpgsql
as $$ begin
  perform 1 from client where studio_id = new.studio_id and id = new.client_id and erased_at is null for share;
  if not found then
    raise exception 'the client was deleted' using errcode = 'no_data_found';
  end if;
  return new;
end $$;
-- +goose StatementEnd
create trigger visit_of_client before insert on visit for each row execute function refuse_deleted_client();
create trigger consultation_of_client before insert on consultation for each row execute function refuse_deleted_client();
create trigger pre_check_of_client before insert on pre_check for each row execute function refuse_deleted_client();
create trigger letter_of_client before insert on letter for each row execute function refuse_deleted_client();
create trigger consent_of_client before insert on consent for each row execute function refuse_deleted_client();
create trigger patch_test_of_client before insert on patch_test for each row execute function refuse_deleted_client();

-- Messages that would be sent: no gateway is connected yet.
create table message (
  studio_id uuid not null references studio,
  id        uuid not null,
  at        timestamptz not null,
  kind      text not null check (kind in ('consultation', 'invitation', 'reset')),
  recipient text not null,
  name      text not null,
  body      text not null,
  until     timestamptz not null,
  client_id uuid,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id)
);
create index on message (studio_id, at desc);
alter table message enable row level security;
alter table message force row level security;
create policy own_studio on message using (studio_id = current_studio()) with check (studio_id = current_studio());

-- Deleting a client takes their visits and the client before anything else.
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
