-- +goose Up
-- A request that a screen sends with a key is carried out once: its repeat gets the same
-- answer. Answers are kept for a day; one that showed a secret is kept without it.
create table request (
  studio_id   uuid not null references studio,
  account_id  uuid not null,
  key         text not null check (length(key) between 8 and 100),
  fingerprint bytea not null,
  at          timestamptz not null,
  status      integer,
  type        text not null default '',
  body        bytea not null default '',
  secret      boolean not null default false,
  primary key (studio_id, account_id, key),
  foreign key (studio_id, account_id) references account (studio_id, id) on delete cascade
);
create index on request (studio_id, at);
alter table request enable row level security;
alter table request force row level security;
create policy own_studio on request using (studio_id = current_studio()) with check (studio_id = current_studio());

-- +goose Down
drop table request;
