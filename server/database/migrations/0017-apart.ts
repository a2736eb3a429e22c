// Pairs of photos that look alike and of which somebody has said that they are different pictures.

export const sql = `
create table told_apart (
  id serial primary key,
  photo_id int not null references photo on delete cascade,
  other_id int not null references photo on delete cascade,
  check (photo_id < other_id),
  unique (photo_id, other_id)
);
`;
