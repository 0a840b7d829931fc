-- +goose Up
-- How messages leave the studio: kept to be passed on by hand, or sent by a mail server.
alter table studio add column gateway jsonb not null default '{"gateway": "keep"}';

-- Where a message is on its way. A waiting one is sent at next_try; who sends it moves
-- next_try on, so that nobody else takes it meanwhile.
alter table message
  add column state text not null default 'kept' check (state in ('kept', 'waiting', 'sent', 'failed')),
  add column tries int not null default 0,
  add column next_try timestamptz,
  add column sent_at timestamptz,
  add column failure text not null default '',
  add constraint message_waits_for_a_try check ((state = 'waiting') = (next_try is not null)),
  add constraint message_was_sent check ((state = 'sent') = (sent_at is not null));
create index message_due on message (next_try) where state = 'waiting';

-- What is to be sent now, of every studio of this database.
-- +goose StatementBegin
create function due_messages(now timestamptz, wanted int) returns table (studio_id uuid, id uuid)
language sql stable security definer set search_path = public, pg_temp
as $$ select m.studio_id, m.id from message m where m.state = 'waiting' and m.next_try <= now order by m.next_try limit wanted $$;
-- +goose StatementEnd

-- +goose Down
drop function due_messages(timestamptz, int);
alter table message drop column state, drop column tries, drop column next_try, drop column sent_at, drop column failure;
alter table studio drop column gateway;
