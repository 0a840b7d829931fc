-- +goose Up
-- What a client told at a consultation. Once reviewed it stays as it was; later
-- ones stand beside it. A link is a client's way in to one consultation.
create table consultation (
  studio_id    uuid not null,
  id           uuid not null,
  client_id    uuid not null,
  answers      jsonb not null,
  pack_version text not null,
  created_at   timestamptz not null,
  link_until   timestamptz,
  sent_at      timestamptz,
  reviewed_at  timestamptz,
  reviewed_by  uuid,
  day          date,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  check ((reviewed_at is null) = (day is null) and (reviewed_at is null) = (reviewed_by is null))
);
create index on consultation (studio_id, client_id, created_at desc);
create trigger consultation_reviewed before update or delete on consultation for each row when (old.reviewed_at is not null) execute function refuse_change();

create table consultation_link (
  token_hash      bytea primary key,
  studio_id       uuid not null,
  consultation_id uuid not null,
  foreign key (studio_id, consultation_id) references consultation (studio_id, id) on delete cascade
);
-- +goose StatementBegin
create function find_consultation(wanted bytea) returns table (studio_id uuid, consultation_id uuid)
language sql stable security definer set search_path = public, pg_temp
as $$ select l.studio_id, l.consultation_id from consultation_link l where l.token_hash = wanted $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function register_consultation(token bytea, consultation uuid) returns void
language sql security definer set search_path = public, pg_temp
as $$ insert into consultation_link (token_hash, studio_id, consultation_id) values (token, current_studio(), consultation) $$;
-- +goose StatementEnd

-- A letter to a client's doctor, and what came back.
create table letter (
  studio_id     uuid not null,
  id            uuid not null,
  client_id     uuid not null,
  visit_id      uuid,
  rules         jsonb not null,
  protocol_name text not null,
  question      text not null,
  written_at    timestamptz not null,
  written_by    uuid not null,
  answer        text not null default '' check (answer in ('', 'yes', 'no')),
  note          text not null default '',
  valid_until   date,
  answered_at   timestamptz,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id)
);
create index on letter (studio_id, client_id, written_at desc);
create trigger letter_answered before update or delete on letter for each row when (old.answered_at is not null) execute function refuse_change();

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['consultation', 'letter'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
select 1;
