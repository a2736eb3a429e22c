// View links.

export const sql = `
create table view_link (
  id serial primary key,
  -- SHA-256 of the secret part of the address, which nobody keeps.
  token_hash bytea not null unique,
  -- What cookies and keys of pictures are made with.
  secret bytea not null,
  account_id int not null references account on delete cascade,
  at timestamptz not null default now(),
  for_whom text not null default '',
  -- See the contract: the query that it follows, or the photos that it was made for, in their order.
  query text,
  sort text not null,
  photo_ids int[] not null default '{}',
  settings jsonb not null,
  -- argon2id; null for none.
  password_hash text,
  ends_at timestamptz,
  most_views int,
  views int not null default 0,
  viewed_at timestamptz,
  revoked_at timestamptz
);
create index on view_link (account_id);

-- What somebody who looked said of a picture; it waits for the team.
create table link_answer (
  id serial primary key,
  link_id int not null references view_link on delete cascade,
  photo_id int not null references photo on delete cascade,
  kind text not null,
  text text not null default '',
  sender text not null,
  at timestamptz not null default now(),
  -- open, accepted, refused
  state text not null default 'open',
  settled_by int references account on delete set null,
  settled_at timestamptz
);
create unique index on link_answer (link_id, photo_id, kind, sender, md5(text));
create index on link_answer (photo_id);
`;
