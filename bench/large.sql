-- Makes of the demo studio one of ten years, beside twenty others: 20 000 clients, 200 000 appointments with checks and
-- treatments, 2 million stock movements, their postings and receipts, 300 000 audit lines. It runs as the owner of an
-- empty database into which the demo was loaded; :today is the day of the server's clock.
\set ON_ERROR_STOP on
set synchronous_commit = off;
set work_mem = '256MB';
set maintenance_work_mem = '512MB';
select set_config('app.studio_id', id::text, false) from studio order by created_at limit 1;
begin;
alter table stock_movement disable trigger user;
alter table ledger_event disable trigger user;
alter table ledger_posting disable trigger user;
alter table treatment disable trigger user;
alter table pre_check disable trigger user;

-- Eight more practitioners and rooms: 64 appointments a day, six days a week.
insert into practitioner (studio_id, id, key, name, week, mark)
  select studio_id, gen_random_uuid(), 'p' || k, 'Practitioner ' || k, week, mark from practitioner, generate_series(1, 8) k where key = 'ines';
insert into room (studio_id, id, key, name, equipment)
  select studio_id, gen_random_uuid(), 'r' || k, 'Room ' || k, equipment
  from (select * from room where studio_id = current_studio() order by key limit 1) r, generate_series(1, 8) k;
insert into client (studio_id, id, name, email, phone, birth_date, skin_type, phototype, created_at)
  select current_studio(), gen_random_uuid(),
    (array['Ada','Bruno','Celia','Dmitri','Éloïse','Farid','Greta','Hugo','Ines','Jonas','Kaja','Łucja','Mara','Nils','Olga','Pia','Quentin','Rosa','Şule','Tove'])[1 + i % 20]
    || ' ' || (array['Abel','Brandt','Čapek','Duarte','Ekdal','Fonseca','Grönlund','Hale','Ivanova','Jensen','Kovács','Lind','Møller','Novák','Ortega','Pérez','Quist','Rossi','Šimek','Tamm'])[1 + (i / 20) % 20]
    || ' ' || i, 'client' || i || '@example.org', '+00 555 ' || lpad(i::text, 6, '0'), date '1950-01-01' + (i * 37) % 18000, 'normal', 3, now()
  from generate_series(1, 20000) i;

create temp table person on commit drop as
  select id, row_number() over (order by id) - 1 as n from client where studio_id = current_studio() and email like 'client%@example.org';
create unique index on person (n);
create temp table place on commit drop as
  select p.id as practitioner, r.id as room, row_number() over (order by p.key) - 1 as k
  from practitioner p join room r on r.studio_id = p.studio_id and r.key = replace(p.key, 'p', 'r')
  where p.studio_id = current_studio() and p.key ~ '^p[0-9]$';
create temp table plan on commit drop as
  select v.protocol_id, v.number, row_number() over (order by v.protocol_id) - 1 as k, count(*) over () as all_of
  from (select distinct on (protocol_id) protocol_id, number from protocol_version where studio_id = current_studio() order by protocol_id, number desc) v;
create temp table working on commit drop as
  select d::date as day, row_number() over (order by d) - 1 as n
  from generate_series(date :'today' - 3652, date :'today' + 56, '1 day') d where extract(isodow from d) < 7;
create temp table booked on commit drop as
  select gen_random_uuid() as id, c.id as client, l.practitioner, l.room, p.protocol_id, p.number, w.day, w.n * 64 + s * 8 + l.k as n,
    (w.day + time '08:00' + s * interval '75 minutes') at time zone 'Europe/Lisbon' as at
  from working w cross join place l cross join generate_series(0, 7) s
  join person c on c.n = ((w.n * 64 + s * 8 + l.k) * 7919) % 20000
  join plan p on p.k = (w.n + l.k + s) % p.all_of;
insert into visit (studio_id, id, client_id, practitioner_id, room_id, protocol_id, protocol_version, starts_at, ends_at, busy_until, state, created_at, busy_from, agreed_at)
  select current_studio(), id, client, practitioner, room, protocol_id, number, at, at + interval '60 minutes', at + interval '70 minutes',
    case when day < :'today' then 'done' else 'confirmed' end, at - interval '20 days', at, at - interval '20 days' from booked;
\echo visits
insert into consultation (studio_id, id, client_id, answers, pack_version, created_at, reviewed_at, reviewed_by, day)
  select current_studio(), gen_random_uuid(), p.id, c.answers, c.pack_version, now() - interval '200 days', now() - interval '200 days', c.reviewed_by, date :'today' - 200
  from person p, (select * from consultation where studio_id = current_studio() and reviewed_at is not null order by id limit 1) c;
insert into pre_check (studio_id, id, client_id, visit_id, day, answers, result, pack_version, account_id, at)
  select current_studio(), gen_random_uuid(), b.client, b.id, b.day, c.answers, c.result, c.pack_version, c.account_id, b.at
  from booked b, (select * from pre_check where studio_id = current_studio() order by length(result::text) limit 1) c where b.day < :'today';
insert into treatment (studio_id, visit_id, pre_check_id, prepared, progress, record, cost, started_at, finished_at, finished_by, signed)
  select current_studio(), b.id, null, t.prepared, t.progress, t.record, 1.37, b.at, b.at + interval '60 minutes', t.finished_by, t.signed
  from booked b, (select * from treatment where studio_id = current_studio() and finished_at is not null
    order by abs(pg_column_size(prepared) - 6500) limit 1) t
  where b.day < :'today';
\echo checks and treatments

insert into client_product (studio_id, client_id, product)
  select distinct current_studio(), b.client, p.key from booked b join product p on p.studio_id = current_studio() where b.day < :'today' and b.n % 3 = 0
  on conflict do nothing;
-- Ten products are used in each treatment; a pack is enough for forty, a delivery has five.
create temp table ware on commit drop as
  select id, row_number() over (order by key) - 1 as k, count(*) over () as all_of from product where studio_id = current_studio();
create temp table used on commit drop as
  select w.id as product, w.k, b.id as visit, b.practitioner, b.protocol_id, b.day, b.at, gen_random_uuid() as id,
    row_number() over (partition by w.k order by b.n) - 1 as i
  from booked b join ware w on (b.n + w.k) % w.all_of < 10 where b.day < :'today';
create temp table lots on commit drop as
  select product, i / 200 as n, gen_random_uuid() as lot, gen_random_uuid() as layer, min(at)::date as received from used group by product, i / 200;
create temp table packs on commit drop as
  select u.product, u.i / 40 as n, gen_random_uuid() as pack, l.lot, l.layer, count(*) as uses, min(u.at) as opened
  from used u join lots l on l.product = u.product and l.n = u.i / 200 group by u.product, u.i / 40, l.lot, l.layer;
create unique index on packs (product, n);
insert into lot (studio_id, id, product_id, number, expiry, received_on)
  select current_studio(), lot, product, 'L' || n, received + 900, received from lots;
insert into cost_layer (studio_id, id, lot_id, position, received_on, cost, amount) select current_studio(), layer, lot, 1, received, 190, 500 from lots;
insert into pack (studio_id, id, product_id, lot_id, layer_id, number, size, remaining, opened_on)
  select current_studio(), pack, product, lot, layer, n % 5 + 1, 100, 100 - 2.5 * uses, opened::date from packs;
insert into stock_movement (studio_id, id, pack_id, product_id, lot_id, kind, amount, value, average, at)
  select current_studio(), gen_random_uuid(), pack, product, lot, 'receive', 100, 38, 38, opened - interval '1 day' from packs;
insert into stock_movement (studio_id, id, pack_id, product_id, lot_id, kind, amount, value, average, visit_id, at)
  select current_studio(), u.id, p.pack, u.product, p.lot, 'treatment', -2.5, -0.95, -0.95, u.visit, u.at
  from used u join packs p on p.product = u.product and p.n = u.i / 40;
insert into product_use (studio_id, visit_id, product_id, practitioner_id, protocol_id, day, planned, used, how, cost, over_plan, at)
  select current_studio(), visit, product, practitioner, protocol_id, day, 2.4, 2.5, case when i % 3 = 0 then 'counted' else 'as planned' end, 0.95, 0.04, at from used;
\echo stock

-- Each use posts itself, each treatment was paid by card.
insert into ledger_event (studio_id, id, kind, day, at, visit_id) select current_studio(), id, 'use', day, at, visit from used order by at;
insert into ledger_posting (studio_id, event_id, day, n, account, amount, product_id)
  select current_studio(), u.id, u.day, x.n, x.account, x.amount, u.product from used u cross join (values (1, 'stock', -0.95), (2, 'products-used', 0.95)) x (n, account, amount);
create temp table paid on commit drop as
  select gen_random_uuid() as receipt, b.*, extract(year from day)::int - 100 as year, row_number() over (partition by extract(year from day) order by n) as running
  from booked b where b.day < :'today';
insert into receipt (studio_id, id, year, running, day, at, kind, account_id, client_id, visit_id, total, document)
  select current_studio(), p.receipt, p.year, p.running, p.day, p.at, 'sale', r.account_id, p.client, p.id, 95, r.document
  from paid p,
    (select * from receipt where studio_id = current_studio() and kind = 'sale' order by running limit 1) r;
insert into ledger_event (studio_id, id, kind, day, at, client_id) select current_studio(), receipt, 'receipt', day, at, client from paid order by at;
insert into ledger_posting (studio_id, event_id, day, n, account, amount, tax_rate, taxable, way)
  select current_studio(), p.receipt, p.day, x.n, x.account, x.amount, x.rate, x.taxable, x.way
  from paid p cross join (values (1, 'card', 95.00, null::numeric, null::numeric, 'card'), (2, 'treatments', -77.24, 23, null, ''), (3, 'output-tax', -17.76, 23, 77.24, ''))
    x (n, account, amount, rate, taxable, way);
-- Every day was closed.
insert into day_close (studio_id, day, float, sales, paid_in, refunds, paid_out, expected, counted, difference, to_bank, count, cards, account_id, at)
  select current_studio(), d, 150, 0, 0, 0, 0, 150, 150, 0, 0, '{}', '[]', (select account_id from day_close where studio_id = current_studio() limit 1), d + time '19:00'
  from (select distinct day as d from booked where day < :'today') x on conflict do nothing;
alter table account_total disable trigger user;
delete from account_total where studio_id = current_studio();
insert into account_total (studio_id, day, account, debit, credit)
  with daily as (select account, day, sum(greatest(amount, 0)) as debit, sum(greatest(-amount, 0)) as credit
      from ledger_posting where studio_id = current_studio() group by account, day),
    every as (select c.day, a.account from day_close c cross join (select distinct account from daily) a where c.studio_id = current_studio())
  select current_studio(), e.day, e.account, sum(coalesce(d.debit, 0)) over (partition by e.account order by e.day),
    sum(coalesce(d.credit, 0)) over (partition by e.account order by e.day)
  from every e left join daily d using (day, account);
alter table account_total enable trigger user;
\echo ledger
insert into audit (studio_id, id, at, action, subject, subject_id)
  select current_studio(), gen_random_uuid(), now() - i * interval '17 minutes', 'look', 'client', p.id
  from generate_series(1, 300000) i join person p on p.n = i % 20000;
alter table stock_movement enable trigger user;
alter table ledger_event enable trigger user;
alter table ledger_posting enable trigger user;
alter table treatment enable trigger user;
alter table pre_check enable trigger user;
commit;

-- Twenty more studios of a thousand clients each.
do $$
declare other uuid; first studio; home uuid := current_studio();
begin
  select * into first from studio where id = home;
  for k in 1..20 loop
    other := gen_random_uuid();
    perform set_config('app.studio_id', other::text, false);
    insert into studio (id, name, time_zone, currency, open_week, created_at)
      values (other, 'Studio ' || k, first.time_zone, first.currency, first.open_week, now());
    insert into client (studio_id, id, name, email, skin_type, created_at)
      select other, gen_random_uuid(), 'Client ' || i || ' of ' || k, 'c' || i || '@studio' || k || '.example', 'normal', now() from generate_series(1, 1000) i;
  end loop;
  perform set_config('app.studio_id', home::text, false);
end $$;
vacuum analyze;
