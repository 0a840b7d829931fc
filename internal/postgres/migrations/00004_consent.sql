-- +goose Up
-- Consents as signed: the whole text, the drawn signature, and when one was
-- withdrawn. Nothing else of a consent ever changes.
create table consent (
  studio_id    uuid not null,
  id           uuid not null,
  client_id    uuid not null,
  kind         text not null check (kind in ('treatment', 'photos', 'mouth')),
  version      text not null,
  body         text not null,
  signer       text not null,
  guardian     boolean not null,
  signature    jsonb not null,
  signed_at    timestamptz not null,
  account_id   uuid not null,
  withdrawn_at timestamptz,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id)
);
create index on consent (studio_id, client_id, signed_at desc);
create trigger consent_withdrawn before update or delete on consent for each row when (old.withdrawn_at is not null) execute function refuse_change();
alter table consent enable row level security;
alter table consent force row level security;
create policy own_studio on consent using (studio_id = current_studio()) with check (studio_id = current_studio());
-- Rules that the practitioner overruled for a treatment, each with the reason.
alter table treatment add column overrules jsonb not null default '[]';

-- +goose Down
select 1;
