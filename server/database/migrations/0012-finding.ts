// Finding: what the finder index follows, dates known only roughly, dossiers, and more to saved searches.

export const sql = `
-- The first moment after the time of capture, where less than the second is known.
alter table photo add column taken_until timestamp;
update photo p set taken_until = p.taken_at + case
    when t.fields ->> 'dateCreated' ~ '^\\d{4}$' then interval '1 year'
    when t.fields ->> 'dateCreated' ~ '^\\d{4}-\\d{2}$' then interval '1 month'
    when t.fields ->> 'dateCreated' ~ '^\\d{4}-\\d{2}-\\d{2}$' then interval '1 day'
    else interval '1 minute' end
  from photo_text t
  where t.photo_id = p.id and p.taken_at is not null and not t.facts ? 'takenAt'
    and t.fields ->> 'dateCreated' ~ '^\\d{4}(-\\d{2}(-\\d{2}(T\\d{2}:\\d{2})?)?)?$';

-- Texts of all criteria that come from fields and facts, folded; what was read before this stands here nearly as it would be
-- read now.
update photo_text t set fields_folded = t.fields_folded || coalesce((
  select jsonb_object_agg(said.id, said.texts) from (
    select each.id, jsonb_agg(distinct regexp_replace(normalize(lower(each.text), nfkd), '[\\u0300-\\u036f]', '', 'g')) as texts from (
      select f.key as id, v #>> '{}' as text from jsonb_each(t.fields) f cross join lateral jsonb_path_query(f.value, 'strict $.**') v
        where jsonb_typeof(v) in ('string', 'number', 'boolean') and not t.fields_folded ? f.key
      union all select 'camera', nullif(concat_ws(' ', t.facts ->> 'make', t.facts ->> 'model'), '')
      union all select 'lens', t.facts ->> 'lens'
      union all select 'codec', t.facts ->> 'codec'
      union all select 'person', v #>> '{}' from jsonb_path_query(t.fields, 'lax $.personInImage[*]') v
      union all select 'place', t.fields ->> place from unnest(array['sublocation', 'city', 'provinceState', 'country']) place
    ) each where each.text <> '' group by each.id) said), '{}');

update photo_text set camera_folded = lower(facts ->> 'model')
  where starts_with(lower(facts ->> 'model'), lower(facts ->> 'make'));

create table dossier (
  id serial primary key,
  parent_id int references dossier deferrable initially deferred,
  name text not null,
  name_folded text not null,
  note text not null default '',
  colour text not null default '',
  cover_photo int references photo on delete set null,
  position float8 not null default 0,
  created_by int references account on delete set null
);
create unique index dossier_name on dossier (coalesce(parent_id, 0), name);
create index on dossier (cover_photo) where cover_photo is not null;
-- Each dossier with itself and all it is in.
create recursive view dossier_above (id, above_id) as
  select id, id from dossier
  union
  select a.id, d.parent_id from dossier_above a join dossier d on d.id = a.above_id where d.parent_id is not null;

create table dossier_photo (
  dossier_id int not null references dossier,
  photo_id int not null references photo on delete cascade,
  position float8 not null,
  primary key (dossier_id, photo_id)
);
create index on dossier_photo (photo_id);
-- The dossier into which one puts photos with a single key.
create table dossier_pin (
  account_id int primary key references account on delete cascade,
  dossier_id int not null references dossier on delete cascade
);

alter table saved_search
  -- Names of folders from the top down, with / between.
  add column folder text not null default '',
  add column pinned boolean not null default false,
  -- What it is asked within, in the query language; empty for the whole catalogue.
  add column scope text not null default '',
  add column size int;

create table recent_search (
  account_id int not null references account on delete cascade,
  query text not null,
  sort text not null,
  at timestamptz not null default now(),
  primary key (account_id, query)
);

-- What has changed, for the finder index to follow: the part of which photos (or folders), by the transaction that did it.
create table catalogue_change (
  id bigserial primary key,
  xid xid8 not null default pg_current_xact_id(),
  at timestamptz not null default now(),
  part text not null,
  ids int[] not null default '{}'
);
create index on catalogue_change (xid);

-- Called for statements, with what they touched; the part is the trigger’s argument.
create function note_photos() returns trigger language plpgsql as $$
begin
  insert into catalogue_change (part, ids) select tg_argv[0], array_agg(distinct photo_id) from touched having count(*) > 0;
  return null;
end $$;
create function note_ids() returns trigger language plpgsql as $$
begin
  insert into catalogue_change (part, ids) select tg_argv[0], array_agg(id) from touched having count(*) > 0;
  return null;
end $$;
create function note_part() returns trigger language plpgsql as $$
begin
  insert into catalogue_change (part) values (tg_argv[0]);
  return null;
end $$;
-- Only what searches look at: previews and hashes of files come in later, one by one.
create function note_photo_rows() returns trigger language plpgsql as $$
begin
  insert into catalogue_change (part, ids)
  select 'row', array_agg(n.id) from touched n join before b on b.id = n.id
  where (n.drive_id, n.folder_id, n.name, n.kind, n.size_bytes, n.width, n.height, n.orientation, n.rating, n.mark, n.damaged, n.removed,
      n.leads, n.taken_at, n.taken_until, n.accession_id, n.written_at, n.missing_since, n.picture_hash, n.trashed_from, n.bundle, n.folded_into)
    is distinct from (b.drive_id, b.folder_id, b.name, b.kind, b.size_bytes, b.width, b.height, b.orientation, b.rating, b.mark, b.damaged, b.removed,
      b.leads, b.taken_at, b.taken_until, b.accession_id, b.written_at, b.missing_since, b.picture_hash, b.trashed_from, b.bundle, b.folded_into)
  having count(*) > 0;
  return null;
end $$;
create function note_drives() returns trigger language plpgsql as $$
begin
  insert into catalogue_change (part) select 'drives' from touched n join before b on b.id = n.id
  where (n.label, n.attached) is distinct from (b.label, b.attached) having count(*) > 0;
  return null;
end $$;

create trigger noted_insert after insert on photo referencing new table as touched for each statement execute function note_ids('row');
create trigger noted_update after update on photo referencing old table as before new table as touched for each statement execute function note_photo_rows();
create trigger noted_delete after delete on photo referencing old table as touched for each statement execute function note_ids('gone');
create trigger noted_insert after insert on photo_text referencing new table as touched for each statement execute function note_photos('texts');
create trigger noted_update after update on photo_text referencing new table as touched for each statement execute function note_photos('texts');
create trigger noted_insert after insert on photo_keyword referencing new table as touched for each statement execute function note_photos('texts');
create trigger noted_update after update on photo_keyword referencing new table as touched for each statement execute function note_photos('texts');
create trigger noted_delete after delete on photo_keyword referencing old table as touched for each statement execute function note_photos('texts');
create trigger noted_insert after insert on photo_term referencing new table as touched for each statement execute function note_photos('terms');
create trigger noted_delete after delete on photo_term referencing old table as touched for each statement execute function note_photos('terms');
create trigger noted_insert after insert on write_back referencing new table as touched for each statement execute function note_photos('row');
create trigger noted_update after update on write_back referencing new table as touched for each statement execute function note_photos('row');
create trigger noted_delete after delete on write_back referencing old table as touched for each statement execute function note_photos('row');
create trigger noted_insert after insert on ledger_photo referencing new table as touched for each statement execute function note_photos('changes');
create trigger noted_insert after insert on dossier_photo referencing new table as touched for each statement execute function note_photos('dossiers');
create trigger noted_update after update on dossier_photo referencing new table as touched for each statement execute function note_photos('dossiers');
create trigger noted_delete after delete on dossier_photo referencing old table as touched for each statement execute function note_photos('dossiers');
create trigger noted_insert after insert on folder referencing new table as touched for each statement execute function note_ids('folders');
create trigger noted_update after update on folder referencing new table as touched for each statement execute function note_ids('folders');
create trigger noted after insert or update or delete on dossier for each statement execute function note_part('dossierFacts');
create trigger noted_update after update on drive referencing old table as before new table as touched for each statement execute function note_drives();
`;
