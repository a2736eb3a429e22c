// People: persons, the faces found or drawn in pictures, who is in a photo without a face, and which names of files are
// nobody of the catalogue.

export const sql = `
create table person (
  id serial primary key,
  name text not null,
  name_folded text not null unique,
  other_names text[] not null default '{}',
  -- All of them, as they are compared.
  names_folded text[] not null default '{}',
  note text not null default '',
  -- EDTF.
  born text not null default '',
  died text not null default '',
  -- Never written into files, never shown outside.
  private boolean not null default false,
  term_id int references term on delete set null
);

-- Raised by every change to a face, so that who keeps them in memory reads only what is new.
create sequence face_version;
-- Raised when faces were deleted for good: what is kept in memory is read anew.
create sequence face_generation;

create table face (
  id serial primary key,
  photo_id int not null references photo on delete cascade,
  -- found: by looking at the picture; drawn: by somebody.
  source text not null,
  -- open: nobody has said who it is; named; unnamed: it is not to be named; none: it is no face; removed.
  state text not null default 'open',
  person_id int references person on delete set null,
  -- Persons it is not, for good.
  refused int[] not null default '{}',
  -- Parts of the picture as it is seen.
  box_left real not null,
  box_top real not null,
  box_width real not null,
  box_height real not null,
  -- What it looks like, as 8-bit numbers (core/people/likeness); null where no face could be seen in the box.
  vector bytea,
  -- 0 to 1: how well it shows who it is, how sharp it is, whether it smiles, has its eyes open.
  quality real not null default 0,
  sharpness real not null default 0,
  smile real not null default 0,
  eyes_open real not null default 0,
  -- Degrees: to the side, up, tilted.
  yaw real not null default 0,
  pitch real not null default 0,
  roll real not null default 0,
  -- Height in pixels of the picture.
  pixels int not null default 0,
  version bigint not null default nextval('face_version')
);
create index on face (photo_id);
create index on face (person_id) where person_id is not null;
create index on face (version);

-- Who is in a photo although no face shows it.
create table photo_person (
  photo_id int not null references photo on delete cascade,
  person_id int not null references person on delete cascade,
  primary key (photo_id, person_id)
);
create index on photo_person (person_id);

-- The pictures that have been looked at for faces.
create table face_scan (
  photo_id int primary key references photo on delete cascade,
  -- By what it was looked at: vectors of different ones can't be compared.
  model text not null default '',
  -- Of the picture data looked at.
  picture_hash bytea,
  faces int not null default 0,
  -- Why it could not be looked at.
  problem text not null default '',
  at timestamptz not null default now()
);

-- Drives and folders in whose pictures nobody looks for faces.
create table face_exception (
  drive_id uuid not null references drive on delete cascade,
  -- With all below it; empty for the whole drive.
  folder text not null default '',
  primary key (drive_id, folder)
);

-- Names that files bring and that were settled: whose they are, or null for nobody's of the catalogue.
create table name_decision (
  id serial primary key,
  name text not null,
  name_folded text not null unique,
  person_id int references person on delete cascade
);

-- Names that photos give, in the field of persons shown and in regions, as they stand there.
create table incoming_name (
  photo_id int not null references photo on delete cascade,
  name text not null,
  folded text not null,
  primary key (photo_id, name)
);
create index on incoming_name (folded);
insert into incoming_name (photo_id, name, folded)
  select distinct photo_id, name, regexp_replace(normalize(lower(trim(name)), nfkd), '[\u0300-\u036f]', '', 'g') from (
    select photo_id, jsonb_path_query(fields, '$.personInImage[*]') #>> '{}' as name from photo_text
    union select photo_id, jsonb_path_query(fields, '$.regions.RegionList[*].Name') #>> '{}' from photo_text) given
  where trim(coalesce(name, '')) <> '';

create function raise_face_version() returns trigger language plpgsql as $$
begin
  new.version := nextval('face_version');
  return new;
end $$;
create trigger versioned before update on face for each row execute function raise_face_version();

-- People are found by all their names.
create function note_people() returns trigger language plpgsql as $$
begin
  execute $sql$
    insert into catalogue_change (part, ids)
    select 'texts', array_agg(distinct s.photo_id) from touched t join (
      select person_id, photo_id from face where state = 'named' union all select person_id, photo_id from photo_person) s on s.person_id = t.id
    having count(*) > 0 $sql$;
  return null;
end $$;
create trigger noted_update after update on person referencing new table as touched for each statement execute function note_people();

create trigger noted_insert after insert on face referencing new table as touched for each statement execute function note_photos('texts');
create trigger noted_update after update on face referencing new table as touched for each statement execute function note_photos('texts');
create trigger noted_delete after delete on face referencing old table as touched for each statement execute function note_photos('texts');
create trigger noted_insert after insert on photo_person referencing new table as touched for each statement execute function note_photos('texts');
create trigger noted_delete after delete on photo_person referencing old table as touched for each statement execute function note_photos('texts');
`;
