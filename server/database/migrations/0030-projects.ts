// Projects: a case, a commission, an exhibition. Each is a dossier with what belongs to it besides.

export const sql = `
create table project (
  id serial primary key,
  -- Its name, note and colour are those of the dossier; the photos of the project are what lies in it.
  dossier_id int not null unique references dossier deferrable initially deferred,
  -- A year, a month or a day, or nothing.
  starts text not null default '',
  ends text not null default '',
  field_set_id int references field_set deferrable initially deferred,
  -- Fills what new photos do not say yet.
  template_id int references template deferrable initially deferred,
  -- What its photos must have.
  rule_id int references quality_rule deferrable initially deferred,
  -- Nothing of it changes any more.
  closed boolean not null default false,
  created_by int references account on delete set null
);
create index on project (field_set_id) where field_set_id is not null;
create index on project (template_id) where template_id is not null;
create index on project (rule_id) where rule_id is not null;

-- Searches of a project are asked within it.
alter table saved_search add column dossier_id int references dossier deferrable initially deferred;
create index on saved_search (dossier_id) where dossier_id is not null;

-- In a closed project nobody may more than see.
create trigger rights_changed after insert or update or delete on project for each statement execute function rights_changed();
create trigger rights_changed after update of parent_id on dossier for each statement execute function rights_changed();
`;
