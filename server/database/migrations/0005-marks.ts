// Marks: states that a team defines, and the one a photo has.

export const sql = `
create table mark (
  id serial primary key,
  name text not null unique,
  name_folded text not null,
  letter text not null unique,
  colour text not null
);

-- By name, as the file has it: files bring marks along that no team has defined.
alter table photo add column mark text not null default '';
alter table photo add column mark_folded text not null default '';
alter table photo add column mark_written text not null default '';
update photo p set mark = t.fields ->> 'mark', mark_written = t.fields ->> 'mark', mark_folded = lower(t.fields ->> 'mark')
from photo_text t where t.photo_id = p.id and t.fields ? 'mark';
`;
