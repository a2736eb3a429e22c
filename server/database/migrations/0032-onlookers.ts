// Who looks at which photos just now. It is worth nothing after a crash, and costs no log.

export const sql = `
create unlogged table onlooker (
  session_id uuid primary key references session (id) on delete cascade,
  account_id int not null references account on delete cascade,
  photo_ids int[] not null,
  -- looking or describing
  doing text not null,
  at timestamptz not null default now()
);
`;
