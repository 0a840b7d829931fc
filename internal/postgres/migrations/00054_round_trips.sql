-- +goose Up
-- Who a session's token belongs to, in one question: the studio is entered inside the statement, and left with it.
-- +goose StatementBegin
create function session_of(wanted bytea) returns table (s session, a account, st studio) language plpgsql
as $$ declare f record;
begin
  select * into f from find_session(wanted);
  if not found then
    return;
  end if;
  perform set_config('app.studio_id', f.studio_id::text, true);
  return query select x, y, z from session x
    join account y on y.studio_id = x.studio_id and y.id = x.account_id
    join studio z on z.id = x.studio_id
    where x.studio_id = f.studio_id and x.id = f.session_id;
end $$;
-- +goose StatementEnd

-- What clients are searched by: the words of their names from each letter on, the parts of their e-mail addresses, and
-- the ends of their telephone numbers, in small letters without accents. Row security lets an index be read by what
-- compares whole texts only, so a search is a range of these.
-- +goose StatementBegin
create function fold(t text) returns text language sql immutable strict parallel safe
as $$ select lower(translate(regexp_replace(normalize(t, nfkd), '[\u0300-\u036F]', '', 'g'), 'łŁøØđĐıİßþÞæÆœŒ', 'llooddiistTaaoo')) $$;
-- +goose StatementEnd
create table client_word (
  studio_id uuid not null,
  client_id uuid not null,
  word      text collate "C" not null,
  primary key (studio_id, word, client_id),
  foreign key (studio_id, client_id) references client (studio_id, id) on delete cascade
);
create index client_word_client on client_word (studio_id, client_id);
alter table client_word enable row level security;
alter table client_word force row level security;
create policy own_studio on client_word using (studio_id = current_studio()) with check (studio_id = current_studio());
-- +goose StatementBegin
create function client_words(name text, email text, phone text) returns setof text language sql immutable
as $$
  select distinct substr(w, k) from regexp_split_to_table(fold(name), '[^[:alnum:]]+') w, generate_series(1, greatest(length(w) - 1, 1)) k where w <> ''
  union select substr(e, k) from fold(email) e, generate_series(1, length(e)) k where k = 1 or substr(e, k - 1, 1) !~ '[[:alnum:]]'
  union select substr(d, k) from regexp_replace(phone, '[^0-9]', '', 'g') d, generate_series(1, length(d) - 2) k
$$;
-- +goose StatementEnd
-- +goose StatementBegin
create function keep_client_words() returns trigger language plpgsql
as $$ begin
  delete from client_word where studio_id = new.studio_id and client_id = new.id;
  if new.erased_at is null then
    insert into client_word (studio_id, client_id, word) select new.studio_id, new.id, w from client_words(new.name, new.email, new.phone) w;
  end if;
  return null;
end $$;
-- +goose StatementEnd
create trigger client_words_kept after insert or update of name, email, phone, erased_at on client
  for each row execute function keep_client_words();
-- Sums over the ledger read what a closed day left, and the postings of the open days alone: nothing is dated into a
-- closed day afterwards.
alter table ledger_posting disable trigger user;
alter table ledger_posting no force row level security;
alter table ledger_event no force row level security;
alter table ledger_posting add column day date;
update ledger_posting p set day = e.day from ledger_event e where e.studio_id = p.studio_id and e.id = p.event_id;
alter table ledger_posting alter column day set not null;
alter table ledger_posting enable trigger user;
alter table ledger_posting force row level security;
alter table ledger_event force row level security;
drop index ledger_posting_account;
create index ledger_posting_account on ledger_posting (studio_id, account, day);
create index ledger_posting_day on ledger_posting (studio_id, day, account) include (amount);
create index ledger_posting_taken on ledger_posting (studio_id, day, way) include (account, amount) where way in ('cash', 'card', 'bank');
-- +goose StatementBegin
create or replace function check_posting() returns trigger language plpgsql
as $$ begin
  select day into new.day from ledger_event where studio_id = new.studio_id and id = new.event_id and written_in = pg_current_xact_id();
  if not found then
    raise exception 'an event is only ever written whole' using errcode = 'restrict_violation';
  end if;
  return new;
end $$;
-- +goose StatementEnd
-- What accounts took in and gave from the beginning to the end of a closed day.
create table account_total (
  studio_id uuid not null references studio (id),
  day       date not null,
  account   text not null,
  debit     numeric(16, 3) not null,
  credit    numeric(16, 3) not null,
  primary key (studio_id, day, account)
);
alter table account_total enable row level security;
alter table account_total force row level security;
create policy own_studio on account_total using (studio_id = current_studio()) with check (studio_id = current_studio());
create trigger account_total_only_added before update or delete on account_total for each row execute function refuse_change();
-- The same to the end of any day; of all days where none is named.
-- +goose StatementBegin
create function account_totals(upto date) returns table (account text, debit numeric, credit numeric) language sql stable
as $$
  with last as materialized (select coalesce(max(day), '-infinity') as day from account_total
    where studio_id = current_studio() and day <= coalesce(upto, 'infinity'))
  select x.account, sum(x.debit), sum(x.credit) from (
    select t.account, t.debit, t.credit from account_total t where t.studio_id = current_studio() and t.day = (select day from last)
    union all
    select p.account, greatest(p.amount, 0), greatest(-p.amount, 0) from ledger_posting p
      where p.studio_id = current_studio() and p.day > (select day from last) and p.day <= coalesce(upto, 'infinity')
  ) x group by x.account
$$;
-- +goose StatementEnd
-- +goose StatementBegin
do $$
begin
  alter table day_close no force row level security;
  alter table ledger_posting no force row level security;
  alter table account_total no force row level security;
  -- Each posting falls to the first close on or after its day; from there the sums go on.
  insert into account_total (studio_id, day, account, debit, credit)
    with daily as (select studio_id, account, day, sum(greatest(amount, 0)) as debit, sum(greatest(-amount, 0)) as credit
        from ledger_posting group by studio_id, account, day),
      closing as (select d.studio_id, d.account, c.day, sum(d.debit) as debit, sum(d.credit) as credit
        from daily d cross join lateral (select min(x.day) as day from day_close x where x.studio_id = d.studio_id and x.day >= d.day) c
        where c.day is not null group by d.studio_id, d.account, c.day),
      every as (select c.studio_id, c.day, a.account from day_close c join (select distinct studio_id, account from closing) a using (studio_id))
    select e.studio_id, e.day, e.account, sum(coalesce(c.debit, 0)) over (partition by e.studio_id, e.account order by e.day),
      sum(coalesce(c.credit, 0)) over (partition by e.studio_id, e.account order by e.day)
    from every e left join closing c using (studio_id, day, account);
  alter table day_close force row level security;
  alter table ledger_posting force row level security;
  alter table account_total force row level security;
end $$;
-- +goose StatementEnd
-- Which products a client has had, by their keys: from the finished records, kept up to date with them.
create table client_product (
  studio_id uuid not null,
  client_id uuid not null,
  product   text not null,
  primary key (studio_id, client_id, product),
  foreign key (studio_id, client_id) references client (studio_id, id) on delete cascade
);
alter table client_product enable row level security;
alter table client_product force row level security;
create policy own_studio on client_product using (studio_id = current_studio()) with check (studio_id = current_studio());
-- +goose StatementBegin
create function keep_client_products() returns trigger language plpgsql
as $$ declare who uuid;
begin
  if new.finished_at is null then
    return null;
  end if;
  select client_id into who from visit where studio_id = new.studio_id and id = new.visit_id;
  if tg_op = 'UPDATE' and old.finished_at is not null then -- put right: what it does not name any more goes
    delete from client_product where studio_id = new.studio_id and client_id = who;
    insert into client_product (studio_id, client_id, product)
      select distinct new.studio_id, who, u->>'product' from visit v
      join treatment t on t.studio_id = v.studio_id and t.visit_id = v.id
      cross join lateral jsonb_array_elements(t.record->'uses') u
      where v.studio_id = new.studio_id and v.client_id = who and t.finished_at is not null and (u->>'real')::numeric > 0;
  else
    insert into client_product (studio_id, client_id, product)
      select distinct new.studio_id, who, u->>'product' from jsonb_array_elements(new.record->'uses') u where (u->>'real')::numeric > 0
      on conflict do nothing;
  end if;
  return null;
end $$;
-- +goose StatementEnd
create trigger client_products_kept after insert or update of record, finished_at on treatment for each row execute function keep_client_products();
-- +goose StatementBegin
do $$
begin
  alter table visit no force row level security;
  alter table treatment no force row level security;
  alter table client_product no force row level security;
  insert into client_product (studio_id, client_id, product)
    select distinct v.studio_id, v.client_id, u->>'product' from visit v
    join treatment t on t.studio_id = v.studio_id and t.visit_id = v.id
    cross join lateral jsonb_array_elements(t.record->'uses') u
    where t.finished_at is not null and (u->>'real')::numeric > 0;
  alter table visit force row level security;
  alter table treatment force row level security;
  alter table client_product force row level security;
end $$;
-- +goose StatementEnd
-- What every list of appointments says is kept beside the documents, which are long.
alter table protocol_version
  add column name text generated always as (body->>'name') stored,
  add column price text generated always as (body->'price'->>'amount') stored;
alter table pre_check add column headline text generated always as (result->>'headline') stored;
create index ledger_event_moved on ledger_event (studio_id, no)
  where kind in ('open', 'card-settle', 'pay-supplier', 'pay-commission', 'commission', 'pay-tips', 'settle-later');
-- Treatments that are not finished, and records that wait for a second signature, are few.
create index treatment_open on treatment (studio_id, visit_id) where finished_at is null;
create index treatment_second on treatment (studio_id, visit_id) where needs_second;
create index pack_newest on pack (studio_id, product_id, id desc);
-- The order of lists is stored, so that the next page is found by an index as well.
alter table client add column sort_name text generated always as (lower(name)) stored;
drop index client_studio_id_lower_id_idx;
create index client_sorted on client (studio_id, sort_name, id);
-- +goose StatementBegin
do $$
begin
  alter table client no force row level security;
  alter table client_word no force row level security;
  insert into client_word (studio_id, client_id, word)
    select c.studio_id, c.id, w from client c cross join lateral client_words(c.name, c.email, c.phone) w where c.erased_at is null;
  alter table client force row level security;
  alter table client_word force row level security;
end $$;
-- +goose StatementEnd

-- +goose Down
alter table pre_check drop column headline;
alter table protocol_version drop column name, drop column price;
drop trigger client_products_kept on treatment;
drop function keep_client_products;
drop table client_product;
drop index treatment_open, treatment_second, ledger_event_moved;
drop function account_totals;
drop table account_total;
-- +goose StatementBegin
create or replace function check_posting() returns trigger language plpgsql
as $$ begin
  if not exists (select from ledger_event where studio_id = new.studio_id and id = new.event_id
      and written_in = pg_current_xact_id()) then
    raise exception 'an event is only ever written whole' using errcode = 'restrict_violation';
  end if;
  return new;
end $$;
-- +goose StatementEnd
drop index ledger_posting_account, ledger_posting_day, ledger_posting_taken;
alter table ledger_posting drop column day;
create index ledger_posting_account on ledger_posting (studio_id, account);
drop index pack_newest;
drop trigger client_words_kept on client;
drop function keep_client_words;
drop table client_word;
drop function client_words, fold;
drop index client_sorted;
alter table client drop column sort_name;
create index client_studio_id_lower_id_idx on client (studio_id, lower(name), id);
drop function session_of;
