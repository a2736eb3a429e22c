// What an own place is the same as: a place of the gazetteer, and a term.

export const sql = `
alter table own_place
  -- Its number at GeoNames.
  add column geonames_id int,
  add column term_id int references term on delete set null deferrable initially deferred;
`;
