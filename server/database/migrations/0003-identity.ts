// What tells a picture from others wherever its file goes, photos whose file has vanished, and what drives are like.

export const sql = `
-- Since when the file of a photo is not where it was, though its drive is there.
alter table photo add column missing_since timestamptz;
-- BLAKE2b of the coded picture, without metadata; equal in two photos that are the same picture.
alter table photo add column picture_hash bytea;
-- 64 bits of a difference hash: few bits differ in pictures that look alike.
alter table photo add column likeness bigint;
create index on photo (picture_hash) where picture_hash is not null;
create index on photo (accession_id);
create index photo_missing on photo (size_bytes) where missing_since is not null;

-- Pictures that were looked at before have no hash yet: the next look through their drive makes them.
update photo set preview_state = 0 where preview_state = 1;

alter table accession add column photos_moved int not null default 0;
alter table accession add column photos_missing int not null default 0;
alter table accession add column photos_returned int not null default 0;
-- Of those that changed, the ones whose picture is another.
alter table accession add column pictures_changed int not null default 0;
alter table accession add column sub_folders boolean not null default true;

alter table drive add column capacity_bytes bigint;
alter table drive add column free_bytes bigint;
alter table drive add column read_only boolean not null default false;
alter table drive add column note text not null default '';
alter table drive add column last_checked_at timestamptz;
-- How a drive without marker is recognised: the file system's UUID, or its label and size.
alter table drive add column file_system text unique;
`;
