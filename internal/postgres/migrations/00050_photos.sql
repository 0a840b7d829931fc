-- +goose Up
-- Photos of a client for their own file: JPEG without place and camera data, behind the same row security as the rest.
create table photo (
  studio_id  uuid not null,
  id         uuid not null,
  client_id  uuid not null,
  visit_id   uuid,
  view       text not null check (view in ('front', 'left', 'right')),
  image      bytea not null check (octet_length(image) <= 6000000),
  width      int not null check (width > 0),
  height     int not null check (height > 0),
  -- Places marked on it, in pixels, and how light its grey patch is.
  marks      jsonb not null,
  account_id uuid not null,
  at         timestamptz not null,
  primary key (studio_id, id),
  foreign key (studio_id, client_id) references client (studio_id, id),
  foreign key (studio_id, visit_id) references visit (studio_id, id)
);
create index on photo (studio_id, client_id, at);
alter table photo alter column image set storage external; -- JPEG does not shrink
create trigger photo_of_client before insert on photo for each row execute function refuse_deleted_client();
alter table photo enable row level security;
alter table photo force row level security;
create policy own_studio on photo using (studio_id = current_studio()) with check (studio_id = current_studio());

-- With the consent, or the client's file, the photos go.
-- +goose StatementBegin
create function erase_photos() returns trigger
language plpgsql security definer set search_path = public, pg_temp
as $$ begin
  if tg_table_name = 'client' then
    delete from photo where studio_id = new.studio_id and client_id = new.id;
  else
    delete from photo where studio_id = new.studio_id and client_id = new.client_id;
  end if;
  return new;
end $$;
-- +goose StatementEnd
create trigger client_erased_photos before update on client for each row when (old.erased_at is null and new.erased_at is not null)
  execute function erase_photos();
create trigger consent_withdrawn_photos after update on consent for each row
  when (new.kind = 'photos' and old.withdrawn_at is null and new.withdrawn_at is not null) execute function erase_photos();

-- +goose Down
drop trigger client_erased_photos on client;
drop trigger consent_withdrawn_photos on consent;
drop table photo;
drop function erase_photos();
