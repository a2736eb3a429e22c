// Pictures of old maps, laid over the map by pins.

export const sql = `
create table old_map (
  id serial primary key,
  name text not null,
  note text not null default '',
  -- WebP, at most some thousand pixels wide and high.
  picture bytea not null,
  width int not null,
  height int not null,
  -- [{"x", "y", "latitude", "longitude"}]: spots of the picture in pixels, and where they are.
  pins jsonb not null default '[]',
  added_at timestamptz not null default now(),
  added_by int references account
);
`;
