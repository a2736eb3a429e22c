// Vocabularies as thesauri: all that SKOS says of a concept, links besides the tree, and what is derived from them: which
// terms are broader than which, how many photos have each, and the keywords each becomes.

export const sql = `
create table vocabulary (
  id serial primary key,
  name text not null,
  language text not null default 'en',
  uri text not null,
  note text not null default '',
  by_hand boolean not null default false
);
create unique index vocabulary_name on vocabulary (name);
insert into vocabulary (name, uri) values ('Vocabulary', 'urn:uuid:' || gen_random_uuid());

alter table term
  add column vocabulary_id int references vocabulary deferrable initially deferred,
  add column status text not null default 'accepted' check (status in ('accepted', 'proposed')),
  add column proposed_by int references account on delete set null,
  add column deprecated boolean not null default false,
  add column replaced_by int references term on delete set null deferrable initially deferred,
  add column definition text not null default '',
  add column notation text not null default '',
  add column uri text not null default '',
  add column colour text not null default '',
  add column example_photo int references photo on delete set null,
  add column by_hand boolean not null default false,
  add column position int not null default 0,
  add column write_self boolean not null default true,
  add column write_others text not null default 'none' check (write_others in ('none', 'language', 'all')),
  add column write_language text not null default '';
update term set uri = 'urn:uuid:' || gen_random_uuid();
update term set vocabulary_id = (select min(id) from vocabulary) where parent_id is null;
set constraints all immediate;
alter table term add constraint term_place check ((parent_id is null) = (vocabulary_id is not null));
create unique index term_uri on term (uri);
drop index term_sibling_label;
-- Names may change places within one change, so this is checked at its end.
alter table term add column sibling_group int generated always as (coalesce(parent_id, -vocabulary_id)) stored;
alter table term add constraint term_sibling_label unique (sibling_group, label) deferrable initially deferred;
create index on term (parent_id);
create index on term using gin (labels_folded);
create index on term using gin (words);

create table term_relation (
  id serial primary key,
  kind text not null check (kind in ('broader', 'related', 'apart')),
  from_id int not null references term on delete cascade,
  to_id int not null references term on delete cascade,
  unique (kind, from_id, to_id)
);
create index on term_relation (from_id);
create index on term_relation (to_id);
-- What refers to terms and photos is asked for when one of those goes.
create index on term (replaced_by) where replaced_by is not null;
create index on term (example_photo) where example_photo is not null;
create index on keyword_decision (term_id) where term_id is not null;

-- One row that every change to a vocabulary raises: nobody changes one while another does, and readers see what is stale.
create table vocabulary_version (version bigint not null);
insert into vocabulary_version values (1);

-- Each term with itself and all that are broader than it, by the tree or otherwise.
create table term_above (
  term_id int not null references term on delete cascade,
  above_id int not null,
  primary key (term_id, above_id)
);
create index on term_above (above_id, term_id);

-- How many photos have a term, directly and with narrower ones.
create table term_use (
  term_id int primary key references term on delete cascade,
  photos int not null default 0,
  photos_within int not null default 0,
  last_given_at timestamptz
) with (fillfactor = 50);

-- The keywords that each term becomes in files.
create table term_keyword (
  term_id int not null references term on delete cascade,
  keyword text not null,
  primary key (term_id, keyword)
);
create index on term_keyword (keyword);

-- How a term came to a photo: by hand, at intake, by a rule, from the file, from a person it is linked with.
alter table photo_term add column origin text not null default 'hand';

drop view wanted_keyword;
create view wanted_keyword as
  select distinct given.photo_id, written.keyword
  from photo_term given join term_keyword written on written.term_id = given.term_id;

drop index term_pre_idx;
alter table term drop column pre, drop column last;

insert into term_above
  with recursive walk (term_id, above_id) as (
    select id, id from term
    union
    select w.term_id, t.parent_id from walk w join term t on t.id = w.above_id where t.parent_id is not null)
  select term_id, above_id from walk;
insert into term_keyword
  select distinct own.id, written.label from term own join term_above a on a.term_id = own.id
  join term written on written.id = a.above_id and (written.id = own.id or own.write_broader) where not written.heading;
insert into term_use (term_id, photos, photos_within)
  select t.id, (select count(*) from photo_term g where g.term_id = t.id),
    (select count(distinct g.photo_id) from term_above a join photo_term g on g.term_id = a.term_id where a.above_id = t.id)
  from term t;

-- Keeps term_use right whoever gives or takes terms. Counts are locked in one order, and what is counted is looked at only then,
-- so that two who give terms at once do not count past each other. Planned anew each time: one photo or half a million.
create function count_given_terms() returns trigger language plpgsql as $$
declare
  step int := case tg_op when 'INSERT' then 1 else -1 end;
begin
  perform 1 from term_use where term_id in (
    select a.above_id from (select distinct term_id from touched) t join term_above a on a.term_id = t.term_id) order by term_id for update;
  execute $query$
    with
      direct as materialized (select term_id, count(*)::int as photos from touched group by term_id),
      broad as materialized (select distinct a.above_id from direct d join term_above a on a.term_id = d.term_id),
      reached as materialized (select distinct t.photo_id, a.above_id from touched t join term_above a on a.term_id = t.term_id),
      -- Photos that had, or still have, the broader term by another term than those given or taken.
      otherwise as materialized (
        select distinct g.photo_id, a.above_id from (select distinct photo_id from touched) p
        join photo_term g on g.photo_id = p.photo_id
        join term_above a on a.term_id = g.term_id join broad b on b.above_id = a.above_id
        where $1 = -1 or not exists (select 1 from touched t where t.photo_id = g.photo_id and t.term_id = g.term_id)),
      within as (
        select r.above_id, count(*)::int as photos from reached r
        where not exists (select 1 from otherwise o where o.photo_id = r.photo_id and o.above_id = r.above_id) group by r.above_id)
    update term_use u set
      photos = u.photos + $1 * coalesce(d.photos, 0),
      photos_within = u.photos_within + $1 * coalesce(w.photos, 0),
      last_given_at = case when $1 = 1 and d.photos > 0 then now() else u.last_given_at end
    from broad b left join direct d on d.term_id = b.above_id left join within w on w.above_id = b.above_id
    where u.term_id = b.above_id
  $query$ using step;
  return null;
end $$;
create trigger term_given after insert on photo_term referencing new table as touched
  for each statement execute function count_given_terms();
create trigger term_taken after delete on photo_term referencing old table as touched
  for each statement execute function count_given_terms();

create index on ledger_object (kind, object_id);

-- With the id the photos of drives are counted from the index alone.
drop index photo_drive_id_preview_state_idx;
create index on photo (drive_id, preview_state, id);

-- Photos that show the same people.
create index photo_people on photo_text using gin ((fields -> 'personInImage')) where fields ? 'personInImage';

-- Handfuls of terms on single keys; without an owner they are everybody's.
create table term_pad (
  id serial primary key,
  name text not null,
  owner_id int references account on delete cascade,
  keys jsonb not null default '{}'
);
create unique index term_pad_name on term_pad (coalesce(owner_id, 0), name);

-- Files of vocabularies that were read and wait to be taken in.
create table vocabulary_import (
  id uuid primary key default gen_random_uuid(),
  account_id int references account on delete cascade,
  name text not null,
  format text not null,
  draft jsonb not null,
  created_at timestamptz not null default now()
);
`;
