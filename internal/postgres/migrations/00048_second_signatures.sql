-- +goose Up
-- A trainee's record needs the signature of somebody else, too.
alter table treatment add column needs_second boolean not null default false;
create table second_signature (
  studio_id  uuid not null,
  visit_id   uuid not null,
  account_id uuid not null,
  at         timestamptz not null,
  primary key (studio_id, visit_id),
  foreign key (studio_id, visit_id) references treatment (studio_id, visit_id)
);
create trigger second_signature_only_added before update or delete on second_signature for each row execute function refuse_change();
alter table second_signature enable row level security;
alter table second_signature force row level security;
create policy own_studio on second_signature using (studio_id = current_studio()) with check (studio_id = current_studio());

-- An addition may correct a named field: what it said, and what is right.
alter table record_addition
  add column field text not null default '' check (length(field) <= 80),
  add column was   text not null default '' check (length(was) <= 8000),
  add column right_is text not null default '' check (length(right_is) <= 4000);

-- A correction needs no text besides.
alter table record_addition drop constraint record_addition_body_check;
alter table record_addition add constraint record_addition_body_check
  check (length(body) <= 4000 and (body <> '' or field <> ''));

-- A proposal as it was read when it was taken: the next plan says it.
alter table proposal_answer add column body text not null default '' check (length(body) <= 400);

-- Which pieces a treatment used is read for its record.
create index piece_log_visit on piece_log (studio_id, visit_id) where visit_id is not null;

-- What a client said, and was advised, goes with their file.
-- +goose StatementBegin
create function erase_record_words() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  update treatment t set record = t.record - 'said' - 'advice' from visit v
    where v.studio_id = t.studio_id and v.id = t.visit_id and t.studio_id = new.studio_id and v.client_id = new.id;
  return new;
end $$;
-- +goose StatementEnd
create trigger client_erased_words before update on client for each row when (old.erased_at is null and new.erased_at is not null)
  execute function erase_record_words();

-- +goose Down
drop trigger client_erased_words on client;
drop function erase_record_words();
drop index piece_log_visit;
alter table proposal_answer drop column body;
alter table record_addition drop constraint record_addition_body_check;
alter table record_addition add constraint record_addition_body_check check (length(body) between 1 and 4000) not valid;
alter table record_addition drop column field, drop column was, drop column right_is;
drop table second_signature;
alter table treatment drop column needs_second;
