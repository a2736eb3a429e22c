// When people were here, so that they can be told what has changed since.

export const sql = `
create table account_visit (
  account_id int primary key references account on delete cascade,
  last_at timestamptz not null default now(),
  -- When they were here before; null: never.
  before_at timestamptz
);
`;
