-- +goose Up
-- A package: several things at one price, from a day on. Never overwritten; without parts it is sold no more.
create table package (
  studio_id  uuid not null references studio (id),
  id         uuid not null,
  name       text not null check (length(name) between 1 and 60),
  parts      jsonb not null,
  valid_from date not null,
  amount     numeric(14, 3) not null check (amount >= 0),
  account_id uuid,
  at         timestamptz not null,
  primary key (studio_id, id)
);
create trigger package_only_added before update or delete on package for each row execute function refuse_change();
alter table package enable row level security;
alter table package force row level security;
create policy own_studio on package using (studio_id = current_studio()) with check (studio_id = current_studio());

-- When the tax of a series is due, and what goes with a visit of it.
alter table sold_series add column tax_when_given boolean not null default false;
alter table series_share
  add column extras text[] not null default '{}',
  -- The receipt that a visit of a treatment voucher paid, for another protocol.
  add column receipt_id uuid,
  add foreign key (studio_id, receipt_id) references receipt (studio_id, id),
  drop constraint series_share_studio_id_visit_id_key;
create unique index series_share_visit on series_share (studio_id, visit_id) where receipt_id is null;
create index series_share_paid on series_share (studio_id, receipt_id) where receipt_id is not null;

-- The tax on a delivery's invoice, and what a supplier credits for goods sent back where that is not what they cost.
alter table stock_movement
  add column tax numeric(14, 3) not null default 0 check (tax >= 0),
  add column credit numeric(14, 3) check (credit >= 0);

-- The studio tells clients that a series ends.
alter table message drop constraint message_kind_check;
alter table message add constraint message_kind_check check (kind in ('consultation', 'invitation', 'reset', 'appointments', 'booking',
  'moving', 'cancelling', 'reminder', 'progress', 'offer', 'late', 'series-ends'));

-- What the card terminal gave back.
create table card_refund (
  studio_id  uuid not null references studio (id),
  id         uuid not null,
  receipt_id uuid not null,
  amount     numeric(14, 3) not null check (amount > 0),
  day        date not null,
  at         timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, receipt_id) references receipt (studio_id, id)
);
create index card_refund_day on card_refund (studio_id, day);
alter table card_refund enable row level security;
alter table card_refund force row level security;
create policy own_studio on card_refund using (studio_id = current_studio()) with check (studio_id = current_studio());

-- +goose Down
delete from message where kind = 'series-ends';
alter table message drop constraint message_kind_check;
alter table message add constraint message_kind_check check (kind in ('consultation', 'invitation', 'reset', 'appointments', 'booking',
  'moving', 'cancelling', 'reminder', 'progress', 'offer', 'late'));
drop table card_refund, package;
alter table stock_movement drop column tax, drop column credit;
drop index series_share_visit, series_share_paid;
alter table series_share drop column extras, drop column receipt_id, add unique (studio_id, visit_id);
alter table sold_series drop column tax_when_given;
