-- +goose Up
-- Those who work in the studio: invited, changed, gone; and how they sign in. An account
-- without a password was invited and has not answered yet; one that was closed keeps its
-- name on records.
alter table account
  add column revision integer not null default 1,
  add column closed_at timestamptz,
  -- The secret of an authenticator app, empty where there is none; the last step that was
  -- used, so that no code is used twice; and the hashes of the recovery codes that are left.
  add column factor_secret text not null default '',
  add column factor_step bigint not null default 0,
  add column recovery_hashes text[] not null default '{}';

alter table practitioner
  add column mark text not null default '',
  add column skills text[] not null default '{}',
  add column licences jsonb not null default '[]',
  add column left_at timestamptz;

alter table session
  add column seen_at timestamptz,
  add column address text not null default '',
  add column agent text not null default '';
update session set seen_at = created_at;
alter table session alter column seen_at set not null;

-- Whether owners need a second factor.
alter table studio add column owners_need_factor boolean not null default false;
-- Where the studio is, for papers; and how often its settings were changed.
alter table studio add column address text not null default '', add column revision integer not null default 1;

-- A link with which somebody chooses a password: after an invitation, or when it is
-- forgotten. One at a time for an account; like the other ways in, the application has no
-- right to the table and asks functions.
create table account_link (
  token_hash bytea primary key,
  studio_id  uuid not null,
  account_id uuid not null,
  until      timestamptz not null,
  foreign key (studio_id, account_id) references account (studio_id, id) on delete cascade
);
create index on account_link (studio_id, account_id);
-- +goose StatementBegin
create function find_account_link(wanted bytea) returns table (studio_id uuid, account_id uuid, until timestamptz)
language sql stable security definer set search_path = public, pg_temp
as $$ select l.studio_id, l.account_id, l.until from account_link l where l.token_hash = wanted $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function drop_account_links(account uuid) returns void
language sql security definer set search_path = public, pg_temp
as $$ delete from account_link where studio_id = current_studio() and account_id = account $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function register_account_link(token bytea, account uuid, ends timestamptz) returns void
language sql security definer set search_path = public, pg_temp
as $$ insert into account_link (token_hash, studio_id, account_id, until) values (token, current_studio(), account, ends) $$;
-- +goose StatementEnd
-- Whether there is any studio yet: the first page makes one where there is none.
-- +goose StatementBegin
create function any_studio() returns boolean
language sql stable security definer set search_path = public, pg_temp
as $$ select exists (select 1 from studio) $$;
-- +goose StatementEnd

-- The audit log tells where from, and in which request. Those who try to sign in and are
-- not known have no account.
alter table audit
  add column address text not null default '',
  add column request text not null default '';

-- +goose Down
select 1;
