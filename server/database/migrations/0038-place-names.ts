// Names of places that no place knows and that are right all the same: they are not asked about any more.

export const sql = `
create table place_name_left (
  id serial primary key,
  -- The names as a person reads them.
  names text not null,
  -- What tells names apart: sublocation, city, province, country and its code as a JSON array.
  names_key text not null unique,
  created_by int references account
);
`;
