// Tokens with which scripts ask in somebody's name, for some of what that person may do, until a day.

export const sql = `
create table api_token (
  id serial primary key,
  account_id int not null references account on delete cascade,
  name text not null,
  -- SHA-256 of what the script sends.
  token_hash text not null unique,
  permissions text[] not null,
  created_at timestamptz not null default now(),
  expires_at timestamptz not null,
  last_used_at timestamptz
);
create index api_token_account on api_token (account_id);
`;
