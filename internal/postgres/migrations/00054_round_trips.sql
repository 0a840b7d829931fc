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
drop index pack_newest;
drop trigger client_words_kept on client;
drop function keep_client_words;
drop table client_word;
drop function client_words, fold;
drop index client_sorted;
alter table client drop column sort_name;
create index client_studio_id_lower_id_idx on client (studio_id, lower(name), id);
drop function session_of;
