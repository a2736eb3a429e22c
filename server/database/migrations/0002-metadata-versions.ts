// What files said before each write, so that it can be taken back; journals that hold what is needed to finish or undo a
// write that was cut off; and the texts of all fields for searches.

export const sql = `
-- Texts of fields by id, folded as searches compare them.
alter table photo_text add column fields_folded jsonb not null default '{}';

alter table write_journal drop column temporary;
-- Serialised entries, one a file, with paths below the drive.
alter table write_journal add column entries text[] not null default '{}';

create table metadata_version (
  id bigserial primary key,
  photo_id int not null references photo on delete cascade,
  written_at timestamptz not null default now(),
  target text not null check (target in ('file', 'sidecar')),
  -- The way back as compressed pieces; null: the file was made by this write.
  back bytea,
  -- SHA-256 of what this write put into the file: only while it stands there the write can be taken back.
  given_hash bytea not null
);
create index on metadata_version (photo_id, id desc);
`;
