-- +goose Up
-- What the stock of a product is worth by moving average, kept by the movements like what a pack holds.
alter table stock_movement add column average numeric(14, 2) not null default 0;
alter table product add column average_worth numeric(16, 2) not null default 0;

-- The movements so far: what goes out takes its part of the worth, all of it with the last.
-- +goose StatementBegin
do $$
declare t text; m record; worth numeric; amount numeric; part numeric; last uuid;
begin
  alter table stock_movement disable trigger stock_movement_only_added;
  foreach t in array array['stock_movement', 'product'] loop
    execute format('alter table %I no force row level security', t);
  end loop;
  for m in select s.studio_id, s.product_id, s.id, s.amount, s.value from stock_movement s
      order by s.studio_id, s.product_id, s.at, s.id loop
    if last is distinct from m.product_id then
      worth := 0; amount := 0; last := m.product_id;
    end if;
    part := case when m.amount > 0 then m.value when -m.amount >= amount then -worth else round(worth * m.amount / amount, 2) end;
    worth := worth + part; amount := amount + m.amount;
    update stock_movement set average = part where studio_id = m.studio_id and id = m.id;
  end loop;
  update product p set average_worth = (select coalesce(sum(s.average), 0) from stock_movement s
    where s.studio_id = p.studio_id and s.product_id = p.id);
  foreach t in array array['stock_movement', 'product'] loop
    execute format('alter table %I force row level security', t);
  end loop;
  alter table stock_movement enable trigger stock_movement_only_added;
end $$;
create or replace function keep_remaining() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  update pack set remaining = remaining + new.amount where studio_id = new.studio_id and id = new.pack_id;
  update product set average_worth = average_worth + new.average where studio_id = new.studio_id and id = new.product_id;
  return new;
end $$;
-- +goose StatementEnd

-- Another closure drips and pumps otherwise: the day on which somebody said so; the next weighing clears it.
alter table calibration add column closure_changed_on date;

-- +goose Down
alter table calibration drop column closure_changed_on;
-- +goose StatementBegin
create or replace function keep_remaining() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  update pack set remaining = remaining + new.amount where studio_id = new.studio_id and id = new.pack_id;
  return new;
end $$;
-- +goose StatementEnd
alter table product drop column average_worth;
alter table stock_movement drop column average;
