// Which process sees which drive, and where: a drive is attached as long as any process that lives sees it.

export const sql = `
create table drive_seen (
  drive_id uuid not null references drive on delete cascade,
  -- The process, by the lock that its connection holds.
  seer text not null,
  mount_point text not null,
  primary key (drive_id, seer)
);
`;
