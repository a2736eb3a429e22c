// What people have pinned for themselves, and what is said of folders.

export const sql = `
create table pinned_place (
  account_id int not null references account on delete cascade,
  position int not null,
  -- folder, dossier or search.
  kind text not null,
  target_id int not null,
  primary key (account_id, position)
);

-- How a folder is marked in the list, and what somebody wants to be known of it.
alter table folder add column colour text not null default '';
alter table folder add column note text not null default '';

-- G goes to a place: marks give that letter up for the first that is free.
update mark m set letter = (
  select letter from unnest(string_to_array('a b e f h i j l m n o q r u v w y', ' ')) with ordinality as free (letter, at)
  where not exists (select 1 from mark o where o.letter = free.letter) order by at limit 1)
where m.letter = 'g' and exists (
  select 1 from unnest(string_to_array('a b e f h i j l m n o q r u v w y', ' ')) as free (letter)
  where not exists (select 1 from mark o where o.letter = free.letter));
`;
