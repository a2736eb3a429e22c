// Photos marked private, and own fields of a project that stay in the catalogue.

export const sql = `
alter table photo add column private boolean not null default false;

-- Planned anew each time: a plan that was made for one photo takes minutes for very many.
create or replace function note_photo_rows() returns trigger language plpgsql as $$
begin
  execute $sql$
    insert into catalogue_change (part, ids)
    select 'row', array_agg(n.id) from touched n join before b on b.id = n.id
    where (n.drive_id, n.folder_id, n.name, n.kind, n.size_bytes, n.width, n.height, n.orientation, n.rating, n.mark, n.damaged, n.removed, n.private,
        n.leads, n.taken_at, n.taken_until, n.accession_id, n.written_at, n.missing_since, n.picture_hash, n.trashed_from, n.bundle, n.folded_into)
      is distinct from (b.drive_id, b.folder_id, b.name, b.kind, b.size_bytes, b.width, b.height, b.orientation, b.rating, b.mark, b.damaged, b.removed, b.private,
        b.leads, b.taken_at, b.taken_until, b.accession_id, b.written_at, b.missing_since, b.picture_hash, b.trashed_from, b.bundle, b.folded_into)
    having count(*) > 0 $sql$;
  return null;
end $$;

-- Fields of the project as a file is to say them: what of them is withheld (targets, 'custom:NAME') stays as the file has it.
create function own_fields_for_file(catalogue jsonb, file jsonb, withheld jsonb) returns jsonb language sql immutable as $$
  select jsonb_agg(own order by side, nth) from (
    select 0 as side, nth, own from jsonb_array_elements(case when jsonb_typeof(catalogue) = 'array' then catalogue else '[]' end) with ordinality c (own, nth)
    where not withheld ? ('custom:' || (own ->> 'Name'))
    union all
    select 1, nth, own from jsonb_array_elements(case when jsonb_typeof(file) = 'array' then file else '[]' end) with ordinality f (own, nth)
    where withheld ? ('custom:' || (own ->> 'Name'))) said
$$;
`;
