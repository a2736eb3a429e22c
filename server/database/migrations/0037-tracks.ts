// Tracks of receivers, kept with the catalogue.

export const sql = `
create table track (
  id serial primary key,
  name text not null,
  device text not null default '',
  points int not null,
  begins timestamptz not null,
  ends timestamptz not null,
  -- Column by column, see core/timeplace/track.ts.
  data bytea not null,
  -- SHA-256 of the data: the same track is kept once.
  digest bytea not null unique,
  added_at timestamptz not null default now(),
  added_by int references account
);
`;
