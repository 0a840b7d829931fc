-- +goose Up
-- The bounds of what is entered, the same as in the API and in files (internal/studio/bounds.go).
-- What an earlier version let in stays; what is written from now on is held.
alter table product add constraint product_bounds check (
  pack_size > 0 and pack_size <= 100000 and price between 0 and 9999999.99 and reorder_at between 0 and 100000) not valid;
alter table lot add constraint lot_bounds check (
  expiry between '1900-01-01' and '2100-12-31' and received_on between '1900-01-01' and '2100-12-31'
  and (opened_on is null or opened_on between '1900-01-01' and '2100-12-31') and months_open between 0 and 60) not valid;
alter table stock_movement add constraint stock_movement_bounds check (abs(amount) <= 100000) not valid;
alter table client add constraint client_bounds check (birth_date is null or birth_date between '1900-01-01' and '2100-12-31') not valid;
alter table visit add constraint visit_bounds check (
  starts_at between '1900-01-01' and '2102-12-31' and ends_at <= starts_at + interval '24 hours') not valid;

-- +goose Down
select 1;
