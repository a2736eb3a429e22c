// Folders that keep up with their drive by themselves.

export const sql = `
create table tracked_folder (
  id serial primary key,
  drive_id uuid not null references drive,
  folder text not null,
  sub_folders boolean not null,
  leave_out jsonb not null default '[]',
  ignore jsonb not null default '[]',
  account_id int references account on delete set null,
  checked_at timestamptz,
  unique (drive_id, folder)
);
`;
