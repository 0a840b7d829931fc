-- Run after every migration, as the owner. The application signs in as a role
-- that owns nothing and cannot bypass row security.
grant usage on schema public to softpalm_app;
grant select, insert, update, delete on all tables in schema public to softpalm_app;
revoke all on account_email, session_token, consultation_link, account_link, calendar_link, client_page, demo_sign_in, goose_db_version from softpalm_app;
grant insert on demo_sign_in to softpalm_app;
revoke delete on consultation, letter from softpalm_app;
revoke update, delete on room_event, spell_time, stock_movement, cost_layer, product_use, audit, pre_check, protocol_version, visit_change from softpalm_app;
grant execute on all functions in schema public to softpalm_app;
-- Money and receipts are only ever added to.
revoke update, delete on ledger_event, ledger_posting, day_close, receipt, line_given_back, price, fee_waived from softpalm_app;
revoke delete on receipt_counter, sale, debt, card_payment, voucher, deposit, sold_series, series_share from softpalm_app;
revoke update, delete on consent from softpalm_app;
grant update (withdrawn_at) on consent to softpalm_app;
-- Jobs that are due at a time: ids of studios and clients, nothing about them.
grant usage on schema jobs to softpalm_app;
grant select, insert, update, delete on all tables in schema jobs to softpalm_app;
grant usage on all sequences in schema jobs to softpalm_app;
grant execute on all functions in schema jobs to softpalm_app;
-- The one thing the application reads of the migrations: which one is the newest.
create or replace function schema_version() returns bigint language sql stable security definer
  set search_path = public, pg_temp
  as $$ select coalesce(max(version_id), 0) from goose_db_version where is_applied $$;
grant execute on function schema_version() to softpalm_app;
-- What a pack holds follows from its movements: the application writes what is done to a pack, not what is in it.
revoke update, delete on pack from softpalm_app;
grant update (side, opened_on, opened_by, blocked, blocked_by, blocked_at, recalled) on pack to softpalm_app;
