-- +goose Up
-- The second reading of a patch test may be made from the client's picture.
alter table patch_reading add column from_picture boolean not null default false check (not from_picture or hours = 48);

-- +goose Down
alter table patch_reading drop column from_picture;
