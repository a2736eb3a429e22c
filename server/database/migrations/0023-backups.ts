// Backups that were made or tried, and their trials.

export const sql = `
create table backup (
  id uuid primary key,
  at timestamptz not null,
  path text not null,
  bytes bigint not null default 0,
  seconds double precision not null default 0,
  nightly boolean not null,
  previews boolean not null,
  problem text,
  checked_at timestamptz,
  check_problem text
);
create index on backup (at desc);
`;
