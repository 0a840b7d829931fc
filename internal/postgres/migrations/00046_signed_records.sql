-- +goose Up
-- What was signed: the record as canonical JSON (RFC 8785) and its SHA-256.
alter table treatment
  add column signed        text not null default '',
  add column signed_sha256 text not null default '' check (signed_sha256 ~ '^([0-9a-f]{64})?$');

-- What to do otherwise next time: proposals taken or refused, by code and what they are about.
create table proposal_answer (
  studio_id  uuid not null,
  visit_id   uuid not null,
  code       text not null check (length(code) <= 40),
  about      text not null check (length(about) <= 200),
  taken      boolean not null,
  account_id uuid not null,
  at         timestamptz not null,
  primary key (studio_id, visit_id, code, about),
  foreign key (studio_id, visit_id) references treatment (studio_id, visit_id)
);

-- +goose StatementBegin
create or replace function erase_room_events() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  delete from room_event e using visit v where v.studio_id = e.studio_id and v.id = e.visit_id
    and e.studio_id = new.studio_id and v.client_id = new.id;
  delete from proposal_answer a using visit v where v.studio_id = a.studio_id and v.id = a.visit_id
    and a.studio_id = new.studio_id and v.client_id = new.id;
  update treatment t set signed = '' from visit v where v.studio_id = t.studio_id and v.id = t.visit_id
    and t.studio_id = new.studio_id and v.client_id = new.id;
  return new;
end $$;
-- +goose StatementEnd
alter table proposal_answer enable row level security;
alter table proposal_answer force row level security;
create policy own_studio on proposal_answer using (studio_id = current_studio()) with check (studio_id = current_studio());

-- +goose Down
drop table proposal_answer;
alter table treatment drop column signed, drop column signed_sha256;
