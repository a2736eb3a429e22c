// Whether files still hold the bytes they should.

export const sql = `
create table photo_fixity (
  photo_id int primary key references photo on delete cascade,
  -- What its file should hold.
  sha256 bytea not null,
  picture_hash bytea,
  sidecar_sha256 bytea,
  -- Who wrote that: 1 as taken in, 2 us, 3 another program.
  origin smallint not null,
  -- When it was last read and compared.
  proven_at timestamptz not null default now(),
  -- What is wrong with a damaged one.
  problem text
);
create index on photo_fixity (sha256);
create index on photo_fixity (proven_at);

-- 0 not read yet, 1 as taken in, 2 changed by us, 3 by others, 4 damaged.
alter table photo add column fixity smallint not null default 0;
create index on photo (drive_id) where fixity = 4;

create or replace function note_photo_rows() returns trigger language plpgsql as $$
begin
  execute $sql$
    insert into catalogue_change (part, ids)
    select 'row', array_agg(n.id) from touched n join before b on b.id = n.id
    where (n.drive_id, n.folder_id, n.name, n.kind, n.size_bytes, n.width, n.height, n.orientation, n.rating, n.mark, n.damaged, n.removed, n.private,
        n.leads, n.taken_at, n.taken_until, n.accession_id, n.written_at, n.missing_since, n.picture_hash, n.trashed_from, n.bundle, n.folded_into, n.fixity)
      is distinct from (b.drive_id, b.folder_id, b.name, b.kind, b.size_bytes, b.width, b.height, b.orientation, b.rating, b.mark, b.damaged, b.removed, b.private,
        b.leads, b.taken_at, b.taken_until, b.accession_id, b.written_at, b.missing_since, b.picture_hash, b.trashed_from, b.bundle, b.folded_into, b.fixity)
    having count(*) > 0 $sql$;
  return null;
end $$;

-- Files that are being put back: where the good copy stands, and where the damaged file is kept meanwhile and afterwards.
create table copy_back (
  photo_id int primary key references photo on delete cascade,
  entry_id int not null references ledger_entry on delete cascade,
  -- Of the copy; null: the file that is kept comes back.
  from_photo int,
  kept text not null
);
`;
