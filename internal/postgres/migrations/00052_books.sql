-- +goose Up
-- How the studio keeps its books; empty for the usual rules.
alter table studio add column books jsonb not null default '{}';
-- The practitioner's grade, where prices depend on it; what they are paid of what they sell, in per cent.
alter table practitioner
  add column grade text not null default '' check (length(grade) <= 40),
  add column commission_treatments numeric(5, 2) not null default 0 check (commission_treatments between 0 and 100),
  add column commission_retail numeric(5, 2) not null default 0 check (commission_retail between 0 and 100);

-- A day that was closed: what was counted, and what went to the bank. Nothing is dated into it afterwards.
create table day_close (
  studio_id  uuid not null references studio (id),
  day        date not null,
  float      numeric(14, 3) not null,
  sales      numeric(14, 3) not null,
  paid_in    numeric(14, 3) not null,
  refunds    numeric(14, 3) not null,
  paid_out   numeric(14, 3) not null,
  expected   numeric(14, 3) not null,
  counted    numeric(14, 3) not null,
  difference numeric(14, 3) not null,
  to_bank    numeric(14, 3) not null check (to_bank >= 0),
  count      jsonb not null,
  cards      jsonb not null,
  note       text not null default '' check (length(note) <= 500),
  account_id uuid not null,
  at         timestamptz not null,
  primary key (studio_id, day)
);

-- Everything that happened to money and goods: events, each with postings that add up to zero.
create table ledger_event (
  studio_id  uuid not null references studio (id),
  id         uuid not null,
  no         bigint not null generated always as identity,
  kind       text not null check (length(kind) between 1 and 30),
  day        date not null,
  at         timestamptz not null,
  account_id uuid,
  receipt_no text not null default '',
  client_id  uuid,
  visit_id   uuid,
  counter_of uuid,
  note       text not null default '' check (length(note) <= 500),
  -- The transaction that wrote it: no posting is added in a later one.
  written_in xid8 not null default pg_current_xact_id(),
  primary key (studio_id, id),
  unique (studio_id, counter_of),
  foreign key (studio_id, counter_of) references ledger_event (studio_id, id)
);
create index ledger_event_day on ledger_event (studio_id, day, no);
create index ledger_event_visit on ledger_event (studio_id, visit_id) where visit_id is not null;

create table ledger_posting (
  studio_id       uuid not null,
  event_id        uuid not null,
  n               int not null,
  account         text not null check (account in ('cash', 'bank', 'card', 'owed-by-clients', 'stock', 'input-tax', 'suppliers',
    'series-owed', 'vouchers-owed', 'deposits-owed', 'output-tax', 'tips-owed', 'commission-owed', 'owner', 'treatments', 'retail',
    'fees', 'breakage', 'products-used', 'retail-cost', 'waste', 'stock-difference', 'card-fees', 'commission', 'cash-difference',
    'rounding')),
  amount          numeric(14, 3) not null check (amount <> 0),
  tax_rate        numeric(6, 3),
  taxable         numeric(14, 3),
  practitioner_id uuid,
  protocol_id     uuid,
  product_id      uuid,
  way             text not null default '' check (way in ('', 'cash', 'card', 'bank', 'later', 'voucher', 'deposit')),
  primary key (studio_id, event_id, n),
  foreign key (studio_id, event_id) references ledger_event (studio_id, id)
);
create index ledger_posting_account on ledger_posting (studio_id, account);

-- +goose StatementBegin
create function date_event() returns trigger language plpgsql
as $$ declare closed date;
begin
  -- A day is closed alone; whoever writes meanwhile waits, and finds it closed.
  perform pg_advisory_xact_lock_shared(hashtextextended('books ' || new.studio_id::text, 0));
  select max(day) into closed from day_close where studio_id = new.studio_id;
  if new.day <= closed then
    new.day := closed + 1;
  end if;
  return new;
end $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function check_posting() returns trigger language plpgsql
as $$ begin
  if not exists (select from ledger_event where studio_id = new.studio_id and id = new.event_id
      and written_in = pg_current_xact_id()) then
    raise exception 'an event is only ever written whole' using errcode = 'restrict_violation';
  end if;
  return new;
end $$;
-- +goose StatementEnd
-- +goose StatementBegin
create function check_event() returns trigger language plpgsql
as $$ declare sum numeric;
begin
  select sum(amount) into sum from ledger_posting where studio_id = new.studio_id and event_id = new.id;
  if sum is distinct from 0 then
    raise exception 'the postings of event % add up to %', new.id, sum using errcode = 'check_violation', constraint = 'event_adds_up';
  end if;
  return null;
end $$;
-- +goose StatementEnd
create trigger ledger_event_dated before insert on ledger_event for each row execute function date_event();
create trigger ledger_posting_whole before insert on ledger_posting for each row execute function check_posting();
create constraint trigger ledger_event_adds_up after insert on ledger_event deferrable initially deferred
  for each row execute function check_event();
create trigger ledger_event_only_added before update or delete on ledger_event for each row execute function refuse_change();
create trigger ledger_posting_only_added before update or delete on ledger_posting for each row execute function refuse_change();
create trigger day_close_only_added before update or delete on day_close for each row execute function refuse_change();

-- The last receipt number and its day: taken in the transaction that writes the receipt, so that none is missing.
create table receipt_counter (
  studio_id uuid not null references studio (id) primary key,
  year      int not null,
  last      int not null,
  day       date not null
);
-- +goose StatementBegin
create function next_receipt(wanted date, out year int, out running int, out day date) language plpgsql
as $$ declare closed date;
begin
  perform pg_advisory_xact_lock_shared(hashtextextended('books ' || current_studio()::text, 0));
  select max(d.day) into closed from day_close d where d.studio_id = current_studio();
  wanted := greatest(wanted, closed + 1);
  insert into receipt_counter as c (studio_id, year, last, day) values (current_studio(), extract(year from wanted), 1, wanted)
  on conflict (studio_id) do update set
    last = case when extract(year from greatest(c.day, excluded.day)) = c.year then c.last + 1 else 1 end,
    year = extract(year from greatest(c.day, excluded.day)), day = greatest(c.day, excluded.day)
  returning c.year, c.last, c.day into year, running, day;
end $$;
-- +goose StatementEnd

-- A sale: what is asked for, and once it is paid its receipt. Its id is the key that makes a repeat safe.
create table sale (
  studio_id  uuid not null references studio (id),
  id         uuid not null,
  client_id  uuid,
  visit_id   uuid,
  document   jsonb not null,
  account_id uuid not null,
  at         timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id)
);
create table receipt (
  studio_id  uuid not null references studio (id),
  id         uuid not null,
  year       int not null,
  running    int not null check (running > 0),
  day        date not null,
  at         timestamptz not null,
  kind       text not null check (kind in ('sale', 'deposit', 'refund', 'deposit-back', 'series-back')),
  account_id uuid not null,
  client_id  uuid,
  visit_id   uuid,
  sale_id    uuid,
  counter_of uuid,
  total      numeric(14, 3) not null,
  document   jsonb not null,
  primary key (studio_id, id),
  unique (studio_id, year, running),
  unique (studio_id, sale_id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id),
  foreign key (studio_id, counter_of) references receipt (studio_id, id)
);
create index receipt_visit on receipt (studio_id, visit_id) where visit_id is not null;
create index receipt_client on receipt (studio_id, client_id) where client_id is not null;
create index receipt_day on receipt (studio_id, day);
-- A line of a receipt is given back at most once.
create table line_given_back (
  studio_id  uuid not null,
  receipt_id uuid not null,
  line       int not null,
  by_receipt uuid not null,
  primary key (studio_id, receipt_id, line),
  foreign key (studio_id, receipt_id) references receipt (studio_id, id),
  foreign key (studio_id, by_receipt) references receipt (studio_id, id)
);
create trigger receipt_only_added before update or delete on receipt for each row execute function refuse_change();
create trigger line_given_back_only_added before update or delete on line_given_back for each row execute function refuse_change();

-- What a client still owes of a receipt.
create table debt (
  studio_id  uuid not null,
  receipt_id uuid not null,
  client_id  uuid,
  amount     numeric(14, 3) not null check (amount > 0),
  settled    numeric(14, 3) not null default 0 check (settled between 0 and amount),
  due_on     date not null,
  primary key (studio_id, receipt_id),
  foreign key (studio_id, receipt_id) references receipt (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id)
);

-- Card payments: one a key, asked of the terminal before the receipt is issued.
create table card_payment (
  studio_id  uuid not null references studio (id),
  id         uuid not null,
  sale_id    uuid not null,
  amount     numeric(14, 3) not null check (amount > 0),
  state      text not null check (state in ('asked', 'approved', 'declined', 'unknown', 'stored', 'refused', 'cancelling', 'reversed')),
  reason     text not null default '' check (length(reason) <= 200),
  asked_at   timestamptz not null,
  changed_at timestamptz not null,
  -- The day it is counted on, with its receipt.
  day        date,
  primary key (studio_id, id),
  foreign key (studio_id, sale_id) references sale (studio_id, id)
);
create index card_payment_sale on card_payment (studio_id, sale_id);
-- One at a time: no second charge while it is not known what became of the first.
create unique index card_payment_open on card_payment (studio_id, sale_id) where state in ('asked', 'unknown', 'cancelling', 'approved', 'stored');
create index card_payment_waiting on card_payment (studio_id) where state in ('asked', 'unknown', 'cancelling', 'stored');
-- The simulated card terminal keeps its own account of what it charged.
create table terminal (
  studio_id uuid not null references studio (id) primary key,
  settings  jsonb not null default '{}'
);
create table terminal_charge (
  studio_id    uuid not null references studio (id),
  key          uuid not null,
  amount       numeric(14, 3) not null,
  plan         text not null,
  asked_at     timestamptz not null,
  cancelled_at timestamptz,
  settled_at   timestamptz,
  primary key (studio_id, key)
);

create table voucher (
  studio_id  uuid not null references studio (id),
  id         uuid not null,
  number     text not null check (number ~ '^[0-9]{12}$'),
  amount     numeric(14, 3) not null check (amount > 0),
  remaining  numeric(14, 3) not null check (remaining >= 0 and remaining <= amount),
  good_until date,
  giver      text not null default '' check (length(giver) <= 300),
  receipt_id uuid not null,
  sold_on    date not null,
  lapsed     boolean not null default false,
  primary key (studio_id, id),
  unique (studio_id, number),
  foreign key (studio_id, receipt_id) references receipt (studio_id, id)
);
create table deposit (
  studio_id  uuid not null references studio (id),
  id         uuid not null,
  visit_id   uuid not null,
  client_id  uuid not null,
  gross      numeric(14, 3) not null check (gross > 0),
  tax        numeric(14, 3) not null,
  tax_rate   numeric(6, 3),
  state      text not null default 'held' check (state in ('held', 'used', 'kept', 'given-back')),
  receipt_id uuid not null,
  primary key (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, receipt_id) references receipt (studio_id, id)
);
create index deposit_visit on deposit (studio_id, visit_id);

-- A series paid ahead: a debt in hands until its visits are given. Without a client it belongs to the bearer of a
-- treatment voucher, whose number it has.
create table sold_series (
  studio_id  uuid not null references studio (id),
  id         uuid not null,
  client_id  uuid,
  number     text not null default '' check (number ~ '^([0-9]{12})?$'),
  giver      text not null default '' check (length(giver) <= 300),
  name       text not null,
  rate       numeric(6, 3),
  receipt_id uuid not null,
  sold_on    date not null,
  months     int not null check (months between 0 and 120),
  frozen     jsonb not null default '[]',
  state      text not null default 'open' check (state in ('open', 'given', 'given-back', 'lapsed')),
  -- Its last day, empty where it has none; and when its client was reminded of it last.
  good_until date,
  reminded   date,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, receipt_id) references receipt (studio_id, id)
);
create index sold_series_client on sold_series (studio_id, client_id);
create unique index sold_series_number on sold_series (studio_id, number) where number <> '';
create table series_share (
  studio_id       uuid not null,
  series_id       uuid not null,
  n               int not null check (n > 0),
  protocol_id     uuid not null,
  gross           numeric(14, 3) not null,
  net             numeric(14, 3) not null,
  single          numeric(14, 3) not null,
  -- The visit it was given at; a late-cancelled or missed one where it counts as given.
  visit_id        uuid,
  given_on        date,
  practitioner_id uuid,
  primary key (studio_id, series_id, n),
  unique (studio_id, visit_id),
  check ((visit_id is null) = (given_on is null)),
  foreign key (studio_id, series_id) references sold_series (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id),
  foreign key (studio_id, protocol_id) references protocol (studio_id, id)
);

-- Prices with their first day: never overwritten. Visits above 1 is the price of a series of so many.
create table price (
  studio_id   uuid not null references studio (id),
  id          uuid not null,
  protocol_id uuid,
  product_id  uuid,
  extra       text not null default '' check (length(extra) <= 60),
  grade       text not null default '' check (length(grade) <= 40),
  visits      int not null default 1 check (visits between 1 and 60),
  minutes     int not null default 0 check (minutes between 0 and 240),
  valid_from  date not null,
  amount      numeric(14, 3) not null check (amount >= 0),
  account_id  uuid,
  at          timestamptz not null,
  primary key (studio_id, id),
  check (num_nonnulls(protocol_id, product_id, nullif(extra, '')) = 1),
  foreign key (studio_id, protocol_id) references protocol (studio_id, id),
  foreign key (studio_id, product_id) references product (studio_id, id)
);
create index price_of on price (studio_id, protocol_id, product_id, valid_from);
create trigger price_only_added before update or delete on price for each row execute function refuse_change();

-- A proposed fee that was waived, with the reason.
create table fee_waived (
  studio_id  uuid not null,
  visit_id   uuid not null,
  reason     text not null check (length(reason) between 1 and 300),
  account_id uuid not null,
  at         timestamptz not null,
  primary key (studio_id, visit_id),
  foreign key (studio_id, visit_id) references visit (studio_id, id)
);

-- What was in stock before there was a ledger.
-- +goose StatementBegin
do $$
begin
  alter table stock_movement no force row level security;
  alter table pack no force row level security;
  insert into ledger_event (studio_id, id, kind, day, at, account_id, client_id, visit_id)
    select m.studio_id, m.id, case m.kind when 'receive' then 'receive' when 'make' then 'blend' when 'made' then 'blend'
        when 'treatment' then 'use' when 'patch-test' then 'use' when 'retail' then 'sold' when 'return' then 'return-goods'
        when 'counter' then 'counter-move' else m.kind end,
      m.at::date, m.at, m.account_id, m.client_id, m.visit_id
    from stock_movement m where m.value <> 0 order by m.at, m.id;
  insert into ledger_posting (studio_id, event_id, n, account, amount, product_id)
    select m.studio_id, m.id, p.n, p.account, p.amount, m.product_id
    from stock_movement m left join stock_movement f on f.studio_id = m.studio_id and f.id = m.counters
    cross join lateral (values (1, 'stock', m.value),
      (2, case coalesce(f.kind, m.kind) when 'receive' then 'suppliers' when 'send-back' then 'suppliers'
        when 'treatment' then 'products-used' when 'patch-test' then 'products-used' when 'retail' then 'retail-cost'
        when 'return' then 'retail-cost' when 'waste' then 'waste' when 'tester' then 'waste' when 'dispose' then 'waste'
        else 'stock-difference' end, -m.value)) p (n, account, amount)
    where m.value <> 0;
  alter table stock_movement force row level security;
  alter table pack force row level security;
end $$;
-- +goose StatementEnd

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['day_close', 'ledger_event', 'ledger_posting', 'receipt_counter', 'sale', 'receipt', 'line_given_back', 'debt',
      'card_payment', 'terminal', 'terminal_charge', 'voucher', 'deposit', 'sold_series', 'series_share', 'price', 'fee_waived'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
drop table fee_waived, price, series_share, sold_series, deposit, voucher, terminal_charge, terminal, card_payment, debt, line_given_back,
  receipt, sale, receipt_counter, ledger_posting, ledger_event, day_close cascade;
drop function next_receipt, check_event, check_posting, date_event;
alter table practitioner drop column grade, drop column commission_treatments, drop column commission_retail;
alter table studio drop column books;
