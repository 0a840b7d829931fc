-- +goose Up
-- How often each part of a studio's data has changed: what the server works out from a part it keeps until the count is
-- another. A change is counted once a transaction, when it commits, so that nobody waits for anybody else's work.
create table studio_change (
  studio_id  uuid primary key,
  catalog    bigint not null default 0,
  plans      bigint not null default 0,
  stock      bigint not null default 0,
  diary      bigint not null default 0,
  files      bigint not null default 0,
  records    bigint not null default 0,
  treatments bigint not null default 0
);
alter table studio_change enable row level security;
alter table studio_change force row level security;
create policy own_studio on studio_change using (studio_id = current_studio()) with check (studio_id = current_studio());

-- What the studio has set counts in its own row, with which it is read.
alter table studio add column changes bigint not null default 0;
-- +goose StatementBegin
create function count_settings() returns trigger language plpgsql
as $$ begin
  new.changes := old.changes + 1;
  return new;
end $$;
-- +goose StatementEnd
create trigger studio_counts before update on studio for each row execute function count_settings();

-- The same for what is known of each client.
create table client_change (
  studio_id uuid not null,
  client_id uuid not null,
  n         bigint not null default 1,
  primary key (studio_id, client_id)
);
alter table client_change enable row level security;
alter table client_change force row level security;
create policy own_studio on client_change using (studio_id = current_studio()) with check (studio_id = current_studio());

-- first_in_transaction reports whether a change is the first of its kind in a transaction.
-- +goose StatementBegin
create function first_in_transaction(change text) returns boolean language plpgsql
as $$ declare noted text := coalesce(current_setting('app.noted', true), '');
begin
  if position(change in noted) > 0 then
    return false;
  end if;
  perform set_config('app.noted', right(noted || change, 2000), true);
  return true;
end $$;
-- +goose StatementEnd

-- +goose StatementBegin
create function note_change() returns trigger language plpgsql
as $$ declare area text := tg_argv[0]; owner uuid := coalesce(new.studio_id, old.studio_id); within text := current_setting('app.studio_id', true);
begin
  if first_in_transaction(area || owner) then
    perform set_config('app.studio_id', owner::text, true); -- at the end of a transaction of several studios, or of none
    execute format('insert into studio_change as c (studio_id, %1$I) select id, 1 from studio where id = $1
      on conflict (studio_id) do update set %1$I = c.%1$I + 1', area) using owner;
    perform set_config('app.studio_id', coalesce(within, ''), true);
  end if;
  return null;
end $$;
-- +goose StatementEnd

-- +goose StatementBegin
create function note_client_change() returns trigger language plpgsql
as $$ declare owner uuid := coalesce(new.studio_id, old.studio_id); changed uuid; clients uuid[]; within text := current_setting('app.studio_id', true);
begin
  perform set_config('app.studio_id', owner::text, true);
  case tg_table_name
    when 'client' then clients := array[new.id, old.id];
    when 'patch_reading' then
      select array_agg(client_id) into clients from patch_test where studio_id = owner and id in (new.patch_id, old.patch_id);
    when 'reaction_product' then
      select array_agg(client_id) into clients from reaction where studio_id = owner and id in (new.reaction_id, old.reaction_id);
    else clients := array[new.client_id, old.client_id];
  end case;
  foreach changed in array coalesce(clients, '{}') loop
    if changed is not null and first_in_transaction('client' || changed) then
      insert into client_change as c (studio_id, client_id) values (owner, changed)
        on conflict (studio_id, client_id) do update set n = c.n + 1;
    end if;
  end loop;
  perform set_config('app.studio_id', coalesce(within, ''), true);
  return null;
end $$;
-- +goose StatementEnd

-- +goose StatementBegin
do $$ declare part record; named text;
begin
  for part in select * from (values
    ('catalog', array['product', 'tool', 'stroke', 'own_zone', 'recipe', 'learned_since', 'order_settings', 'supplier', 'practitioner', 'room',
      'price', 'package']),
    ('plans', array['protocol', 'protocol_version', 'protocol_draft', 'practitioner_pace']),
    ('stock', array['pack', 'lot', 'cost_layer', 'purchase_order', 'order_line', 'batch']),
    ('diary', array['visit', 'series', 'series_item', 'absence', 'roster_entry', 'tool_out', 'client_hours']),
    ('files', array['client', 'consultation', 'pre_check', 'letter', 'patch_test', 'patch_reading', 'consent', 'reaction', 'reaction_product',
      'client_product']),
    ('records', array['product_use', 'use_day', 'use_month']),
    ('treatments', array['treatment'])) p (area, tables)
  loop
    foreach named in array part.tables loop
      execute format('create constraint trigger %1$s_changes after insert or update or delete on %1$I
        deferrable initially deferred for each row execute function note_change(%2$L)', named, part.area);
      if part.area = 'files' then
        execute format('create constraint trigger %1$s_changes_client after insert or update or delete on %1$I
          deferrable initially deferred for each row execute function note_client_change()', named);
      end if;
    end loop;
  end loop;
end $$;
-- +goose StatementEnd

-- What stands on the shelf is asked for all day; most packs are long used up.
create index pack_there on pack (studio_id, product_id) where remaining > 0 or side = 'tester';

-- What a list says of a receipt stands beside its document.
alter table receipt
  add column names jsonb generated always as (jsonb_path_query_array(document, '$.lines[*].name')) stored,
  add column ways jsonb generated always as (jsonb_path_query_array(document, '$.ways[*].by')) stored,
  add column currency text generated always as (document ->> 'currency') stored;

-- What waits for somebody is little beside what was done.
create index consultation_waits on consultation (studio_id) where sent_at is not null and reviewed_at is null;
create index treatment_waits on treatment (studio_id) where finished_at is null;
create index treatment_waits_for_second on treatment (studio_id) where needs_second;
create index letter_waits on letter (studio_id) where answer = '';

-- The words that clients are found by carry what a list is ordered by.
alter table client_word no force row level security;
alter table client no force row level security;
alter table client_word add column sort_name text;
update client_word w set sort_name = c.sort_name from client c where c.studio_id = w.studio_id and c.id = w.client_id;
alter table client_word alter column sort_name set not null;
alter table client_word drop constraint client_word_pkey, add primary key (studio_id, word, client_id) include (sort_name);
alter table client_word force row level security;
alter table client force row level security;
-- +goose StatementBegin
create or replace function keep_client_words() returns trigger language plpgsql
as $$ begin
  delete from client_word where studio_id = new.studio_id and client_id = new.id;
  if new.erased_at is null then
    insert into client_word (studio_id, client_id, word, sort_name)
      select new.studio_id, new.id, w, new.sort_name from client_words(new.name, new.email, new.phone) w;
  end if;
  return null;
end $$;
-- +goose StatementEnd

-- +goose Down
-- +goose StatementBegin
create or replace function keep_client_words() returns trigger language plpgsql
as $$ begin
  delete from client_word where studio_id = new.studio_id and client_id = new.id;
  if new.erased_at is null then
    insert into client_word (studio_id, client_id, word) select new.studio_id, new.id, w from client_words(new.name, new.email, new.phone) w;
  end if;
  return null;
end $$;
-- +goose StatementEnd
alter table client_word drop constraint client_word_pkey, add primary key (studio_id, word, client_id);
alter table client_word drop column sort_name;
drop index pack_there, consultation_waits, treatment_waits, treatment_waits_for_second, letter_waits;
alter table receipt drop column names, drop column ways, drop column currency;
-- +goose StatementBegin
do $$ declare made record;
begin
  for made in select tgname, tgrelid::regclass as named from pg_trigger where tgname like '%\_changes' or tgname like '%\_changes\_client' loop
    execute format('drop trigger %I on %s', made.tgname, made.named);
  end loop;
end $$;
-- +goose StatementEnd
drop function note_change, note_client_change, first_in_transaction;
drop table client_change, studio_change;
drop trigger studio_counts on studio;
drop function count_settings;
alter table studio drop column changes;
