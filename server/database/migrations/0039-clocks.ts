// Clocks of cameras that are known to have gone wrong for a while.

export const sql = `
create table camera_clock (
  id serial primary key,
  -- Maker and model, as photos say them.
  camera text not null,
  -- The first and the last day, by that clock: YYYY-MM-DD.
  from_day text not null,
  until_day text not null check (until_day >= from_day),
  ahead_seconds int not null,
  note text not null default '',
  created_by int references account
);
`;
