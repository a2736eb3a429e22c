// What was decided about keywords that files bring along.

export const sql = `
-- Keywords that were settled once, by number: the ledger refers to them.
create table incoming_keyword (
  id serial primary key,
  keyword text not null unique,
  folded text not null
);

-- Decisions that hold for files still to come.
create table keyword_decision (
  id serial primary key,
  keyword text not null unique,
  decision text not null check (decision in ('term', 'keep', 'drop')),
  term_id int references term on delete cascade,
  check ((decision = 'term') = (term_id is not null))
);
create index on photo_keyword (keyword);

-- False: the keyword is to be written back into a file that has lost it.
alter table photo_keyword add column in_file boolean not null default true;
`;
