-- +goose Up
-- How long each spell of a treatment took beside its plan, as the room's log tells it: a practitioner's pace is
-- learned from these.
create table spell_time (
  studio_id       uuid not null,
  visit_id        uuid not null,
  spell           text not null check (length(spell) <= 120),
  practitioner_id uuid not null,
  stroke          text not null check (length(stroke) <= 120),
  planned         numeric(8, 2) not null,
  actual          numeric(8, 2) not null,
  ended_by        text not null default '' check (length(ended_by) <= 10),
  dose            text not null check (length(dose) <= 20),
  -- Stayed with, skipped, worked again, paused or estimated: such a spell says nothing of the hands.
  stayed          boolean not null,
  skipped         boolean not null,
  repeated        boolean not null,
  paused          boolean not null,
  estimated       boolean not null,
  at              timestamptz not null,
  primary key (studio_id, visit_id, spell),
  foreign key (studio_id, visit_id) references visit (studio_id, id),
  foreign key (studio_id, practitioner_id) references practitioner (studio_id, id)
);
create index on spell_time (studio_id, practitioner_id, at desc);
create trigger spell_time_only_added before update or delete on spell_time for each row execute function refuse_change();

create table practitioner_pace (
  studio_id       uuid not null,
  practitioner_id uuid not null,
  pace            numeric(4, 2) not null check (pace > 0),
  treatments      int not null default 0,
  -- Of the strokes whose own pace was learned: {"cheek-drain": {"pace": 0.93, "from": 8}}.
  strokes         jsonb not null default '{}',
  -- From when on treatments teach again, where somebody said "forget and start over".
  since           timestamptz not null default '-infinity',
  primary key (studio_id, practitioner_id),
  foreign key (studio_id, practitioner_id) references practitioner (studio_id, id)
);

-- The slip right after an application, and what the stroke needed: the room knows both.
alter table slip_observation
  add column slip numeric(6, 2) not null default 100 check (slip > 0),
  add column need numeric(6, 2) not null default 35 check (need > 0);

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['spell_time', 'practitioner_pace'] loop
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy own_studio on %I using (studio_id = current_studio()) with check (studio_id = current_studio())', t);
  end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
alter table slip_observation drop column slip, drop column need;
drop table practitioner_pace, spell_time;
