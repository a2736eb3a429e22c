// Pictures that stand on their side: faces in them tell how they should be turned.

export const sql = `
-- Degrees clockwise by which it is to be turned to stand upright, as the faces in it say; 0: nobody has found that it should be.
alter table photo add column sideways smallint not null default 0;
create index on photo (id) where sideways <> 0;

-- Turned another way it stands as it should; its faces, seen badly as they lay, are looked for once more.
create function forget_sideways() returns trigger language plpgsql as $$
begin
  if old.sideways <> 0 then delete from face_scan where photo_id = new.id; end if;
  new.sideways := 0;
  return new;
end $$;
create trigger forget_sideways before update of orientation on photo for each row
  when (old.orientation <> new.orientation) execute function forget_sideways();

-- The finder index follows it.
create or replace function note_photo_rows() returns trigger language plpgsql as $$
begin
  execute $sql$
    insert into catalogue_change (part, ids)
    select 'row', array_agg(n.id) from touched n join before b on b.id = n.id
    where (n.drive_id, n.folder_id, n.name, n.kind, n.size_bytes, n.width, n.height, n.orientation, n.rating, n.mark, n.damaged, n.removed, n.private,
        n.leads, n.taken_at, n.taken_until, n.accession_id, n.written_at, n.missing_since, n.picture_hash, n.trashed_from, n.bundle, n.folded_into, n.fixity, n.sideways)
      is distinct from (b.drive_id, b.folder_id, b.name, b.kind, b.size_bytes, b.width, b.height, b.orientation, b.rating, b.mark, b.damaged, b.removed, b.private,
        b.leads, b.taken_at, b.taken_until, b.accession_id, b.written_at, b.missing_since, b.picture_hash, b.trashed_from, b.bundle, b.folded_into, b.fixity, b.sideways)
    having count(*) > 0 $sql$;
  return null;
end $$;
`;
