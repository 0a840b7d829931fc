-- +goose Up
-- Under what a client's card is known in the address book that it came from.
alter table client add column card_uid text not null default '' check (length(card_uid) <= 300);

-- Deleting a client takes that as well; their skin was never asked.
-- +goose StatementBegin
create function forget_card() returns trigger language plpgsql as $$ begin
  new.card_uid := '';
  new.skin_type := '';
  return new;
end $$;
-- +goose StatementEnd
create trigger client_deleted_has_no_card before update of erased_at on client for each row
  when (old.erased_at is null and new.erased_at is not null) execute function forget_card();

-- +goose Down
drop trigger client_deleted_has_no_card on client;
drop function forget_card();
alter table client drop column card_uid;
