-- +goose Up
-- What products are made of, as their packs list it.
alter table product add column ingredients text[] not null default '{}';

-- What a client tells besides the answers: medicines, allergies, skin, wishes. It
-- stays with the door check that was judged by it.
alter table consultation add column about jsonb not null default '{}';
alter table screening add column about jsonb not null default '{}';

-- A visit is a treatment by a protocol, or ten minutes for a patch test of
-- products.
alter table visit add column kind text not null default 'treatment' check (kind in ('treatment', 'patch-test'));
alter table visit add column products text[] not null default '{}';
alter table visit alter column protocol_id drop not null;
alter table visit alter column protocol_version drop not null;
alter table visit add constraint visit_of_what check ((kind = 'treatment') = (protocol_id is not null and protocol_version is not null) and (kind = 'patch-test') = (cardinality(products) > 0));

create table patch_test (
  studio_id    uuid not null,
  id           uuid not null,
  client_id    uuid not null,
  visit_id     uuid,
  product_id   uuid not null,
  lot_number   text not null,
  place        text not null,
  applied_at   timestamptz not null,
  months       int not null check (months between 1 and 36),
  note         text not null default '',
  account_id   uuid not null,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id),
  foreign key (studio_id, product_id) references product (studio_id, id)
);
create index on patch_test (studio_id, client_id, applied_at desc);
create table patch_reading (
  studio_id  uuid not null,
  patch_id   uuid not null,
  hours      int not null check (hours in (24, 48)),
  grade      text not null check (grade in ('negative', 'doubtful', 'weak', 'strong', 'extreme', 'irritant')),
  at         timestamptz not null,
  account_id uuid not null,
  primary key (studio_id, patch_id, hours),
  foreign key (studio_id, patch_id) references patch_test (studio_id, id)
);
create trigger patch_test_only_added before update or delete on patch_test for each row execute function refuse_change();
create trigger patch_reading_only_added before update or delete on patch_reading for each row execute function refuse_change();

-- The doctor's answer as it came, on paper.
create table letter_scan (
  studio_id  uuid not null,
  id         uuid not null,
  letter_id  uuid not null,
  type       text not null check (type in ('application/pdf', 'image/jpeg', 'image/png')),
  data       bytea not null,
  added_at   timestamptz not null,
  account_id uuid not null,
  primary key (studio_id, id),
  foreign key (studio_id, letter_id) references letter (studio_id, id)
);
create index on letter_scan (studio_id, letter_id, added_at);
create trigger letter_scan_only_added before update or delete on letter_scan for each row execute function refuse_change();

-- Handing over the tablet: a session is locked to the consultation until a PIN.
alter table account add column pin_hash text not null default '';
alter table session add column locked boolean not null default false;

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['patch_test', 'patch_reading', 'letter_scan'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;
-- +goose StatementEnd
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
  update treatment t set screening_id = null, changes = '[]', overrules = '[]', record = jsonb_set(t.record, '{note}', '""')
    from visit v where v.studio_id = t.studio_id and v.id = t.visit_id and t.studio_id = current_studio() and v.client_id = wanted;
  delete from screening where studio_id = current_studio() and client_id = wanted;
  update visit set state = 'cancelled' where studio_id = current_studio() and client_id = wanted and state in ('booked', 'confirmed', 'arrived');
  update client set name = 'Erased client', email = '', phone = '', birth_date = null, skin_type = 'normal', skin_states = '{}', phototype = null, note = '', erased_at = at
    where studio_id = current_studio() and id = wanted;
  perform set_config('softpalm.erasing', 'off', true);
end $$;
-- +goose StatementEnd

-- +goose Down
select 1;
