// Describing fields: what files still say of fields that the catalogue says otherwise; templates, field sets, and what
// teams call described.

export const sql = `
-- A row for each field that the catalogue says otherwise than the file as it was read last. Photos with any wait to be written.
create table field_in_file (
  photo_id int not null references photo on delete cascade,
  field text not null,
  -- What the file said when it was read last; JSON null where it has nothing.
  value jsonb not null,
  -- What it says now, where both sides have changed it: nothing is written until that is settled.
  conflicting jsonb,
  primary key (photo_id, field)
);

alter table drive add column attached_at timestamptz not null default now();

-- Changes of very many photos are made by jobs: a job that is run again must not make its change twice.
alter table ledger_entry add column job_id uuid;
create index on ledger_entry (job_id) where job_id is not null;

create table template (
  id serial primary key,
  name text not null,
  note text not null default '',
  -- Null: everybody's.
  owner_id int references account on delete cascade,
  edits jsonb not null default '[]',
  term_ids int[] not null default '{}'
);
create unique index template_name on template (coalesce(owner_id, 0), name);

create table field_set (
  id serial primary key,
  name text not null unique,
  position float8 not null default 0,
  entries jsonb not null default '[]'
);

-- What photos that a query finds must have to count as described.
create table quality_rule (
  id serial primary key,
  name text not null unique,
  query text not null default '',
  requires text[] not null default '{}'
);

-- As before, but planned anew each time: a plan made for one photo takes minutes for 50,000.
create or replace function note_photo_rows() returns trigger language plpgsql as $$
begin
  execute $sql$
    insert into catalogue_change (part, ids)
    select 'row', array_agg(n.id) from touched n join before b on b.id = n.id
    where (n.drive_id, n.folder_id, n.name, n.kind, n.size_bytes, n.width, n.height, n.orientation, n.rating, n.mark, n.damaged, n.removed,
        n.leads, n.taken_at, n.taken_until, n.accession_id, n.written_at, n.missing_since, n.picture_hash, n.trashed_from, n.bundle, n.folded_into)
      is distinct from (b.drive_id, b.folder_id, b.name, b.kind, b.size_bytes, b.width, b.height, b.orientation, b.rating, b.mark, b.damaged, b.removed,
        b.leads, b.taken_at, b.taken_until, b.accession_id, b.written_at, b.missing_since, b.picture_hash, b.trashed_from, b.bundle, b.folded_into)
    having count(*) > 0 $sql$;
  return null;
end $$;
`;
