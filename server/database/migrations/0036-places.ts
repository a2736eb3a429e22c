// The archive's own places: a tree of countries, regions, towns and spots.

export const sql = `
create table own_place (
  id serial primary key,
  parent_id int references own_place,
  kind text not null check (kind in ('country', 'region', 'town', 'spot')),
  name text not null,
  name_folded text not null,
  -- [{"name", "from", "until"}]: other and former names.
  other_names jsonb not null default '[]',
  country_code text not null default '',
  note text not null default '',
  latitude double precision,
  longitude double precision,
  -- How far it reaches around its middle; null: as is usual for its kind.
  metres int,
  -- [{"latitude", "longitude"}]: its outline instead of a circle; null: none.
  corners jsonb,
  created_by int references account,
  check ((latitude is null) = (longitude is null))
);
create unique index own_place_name on own_place (coalesce(parent_id, 0), name_folded);
create index own_place_parent on own_place (parent_id);
`;
