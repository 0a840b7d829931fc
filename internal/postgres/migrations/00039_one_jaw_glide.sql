-- +goose Up
-- Of two strokes of the trade that were the same one went; plans and strokes that name it take the other.
-- +goose StatementBegin
do $$
declare t text;
begin
  alter table protocol_version disable trigger version_only_added;
  foreach t in array array['protocol_draft', 'protocol_version', 'stroke'] loop
    execute format('alter table %I no force row level security', t);
    execute format($q$update %I set body = replace(body::text, '"jaw-fork-glide"', '"jaw-drain"')::jsonb
      where body::text like '%%"jaw-fork-glide"%%' and body ->> 'key' <> 'jaw-fork-glide'$q$, t);
    execute format('alter table %I force row level security', t);
  end loop;
  alter table protocol_version enable trigger version_only_added;
end $$;
-- +goose StatementEnd

-- +goose Down
select 1;
