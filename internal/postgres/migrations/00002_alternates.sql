-- +goose Up
-- An alternate was the key of a stroke; it is now an object that also says when,
-- and may name another hand part or tool.
alter table stroke no force row level security;
update stroke set body = jsonb_set(body, '{alternates}', (
  select jsonb_agg(case when jsonb_typeof(a) = 'string' then jsonb_build_object('stroke', a) else a end)
  from jsonb_array_elements(body -> 'alternates') a))
where jsonb_typeof(body -> 'alternates') = 'array' and jsonb_array_length(body -> 'alternates') > 0;
alter table stroke force row level security;

-- +goose Down
select 1;
