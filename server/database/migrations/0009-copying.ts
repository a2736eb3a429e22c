// Copying in: each file of a run with where it goes and how far it is, so that a run that was cut off goes on, and a card
// is emptied only of what is proven to be elsewhere.

export const sql = `
create table copy_step (
  id bigserial primary key,
  job_id uuid not null references job_run on delete cascade,
  -- Below the source, with / between; files of one folder and base name share a number.
  folder text not null,
  name text not null,
  sidecar text,
  size_bytes bigint not null,
  mtime_ms double precision not null,
  state text not null default 'found' check (state in ('found', 'known', 'going', 'copied', 'failed')),
  -- Settled before anything is written; the sidecar takes the same base name.
  to_folder text,
  to_name text,
  second_name text,
  -- BLAKE2b of all bytes, of the file and of its sidecar.
  hash text,
  sidecar_hash text,
  -- Of the picture, where it was known already.
  picture_hash bytea,
  unique (job_id, folder, name)
);
create index on copy_step (job_id, state, id);
alter table accession add column source text not null default '';
`;
