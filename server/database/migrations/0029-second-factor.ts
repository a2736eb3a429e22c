// A second factor beside the password: codes of an app that change with time (RFC 6238), and recovery codes for when it is lost.

export const sql = `
alter table account
  -- What the app and the server share, in base 32; null: the password is enough.
  add column totp_secret text,
  -- The step of time of the code that was used last: none is good twice.
  add column totp_step bigint;
create table recovery_code (
  account_id int not null references account on delete cascade,
  -- SHA-256; each is good once.
  code_hash text not null,
  primary key (account_id, code_hash)
);
`;
