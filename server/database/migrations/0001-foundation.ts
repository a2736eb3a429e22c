// The tables of the first path: accounts, drives and folders, photos with their texts, vocabulary, ledger, jobs, saved
// searches, write-back. Photo rows are narrow with room for updates in place; texts stand in a table of their own.

export const sql = `
-- Facts about this catalogue itself, by name.
create table setting (
  name text primary key,
  value jsonb not null
);

create table account (
  id serial primary key,
  name text not null unique,
  display_name text not null,
  role text not null check (role in ('keeper', 'cataloguer', 'viewer')),
  password_hash text not null,
  created_at timestamptz not null default now()
);

create table session (
  token_hash text primary key,
  account_id int not null references account on delete cascade,
  created_at timestamptz not null default now(),
  expires_at timestamptz not null
);

create table drive (
  id uuid primary key,
  label text not null,
  label_folded text not null,
  mount_point text,
  attached boolean not null default false,
  last_seen_at timestamptz,
  created_at timestamptz not null default now()
);

create table folder (
  id serial primary key,
  drive_id uuid not null references drive,
  parent_id int references folder,
  name text not null,
  path text collate "C" not null,
  unique (drive_id, path)
);

create table job_run (
  id uuid primary key,
  kind text not null,
  title text not null,
  state text not null default 'queued',
  wish text not null default 'run' check (wish in ('run', 'pause', 'cancel')),
  parameters jsonb not null,
  account_id int references account on delete set null,
  done int not null default 0,
  total int not null default 0,
  current text not null default '',
  waits_for uuid,
  result jsonb not null default '{}',
  owner text,
  heartbeat_at timestamptz,
  seconds_active double precision not null default 0,
  created_at timestamptz not null default now(),
  started_at timestamptz,
  finished_at timestamptz
);
create index on job_run (created_at desc);

create table job_failure (
  id serial primary key,
  job_id uuid not null references job_run on delete cascade,
  subject text not null,
  message text not null,
  unique (job_id, subject)
);

create table accession (
  id serial primary key,
  drive_id uuid not null references drive,
  folder text not null,
  account_id int references account on delete set null,
  job_id uuid references job_run on delete set null,
  started_at timestamptz not null default now(),
  finished_at timestamptz,
  photos_new int not null default 0,
  photos_changed int not null default 0
);

create table photo (
  id serial primary key,
  drive_id uuid not null references drive,
  folder_id int not null references folder,
  accession_id int references accession,
  name text not null,
  kind text not null,
  size_bytes bigint not null,
  mtime_ms double precision not null,
  sidecar_mtime_ms double precision,
  width int,
  height int,
  orientation smallint not null default 1,
  taken_at timestamp,
  rating smallint not null default 0,
  rating_written smallint not null default 0,
  damaged boolean not null default false,
  preview_version int not null default 0,
  preview_state smallint not null default 0,
  has_caption boolean not null default false,
  has_people boolean not null default false,
  has_location boolean not null default false,
  written_at timestamptz,
  unique (folder_id, name)
) with (fillfactor = 80);
create index on photo (taken_at, id);
create index on photo (drive_id, preview_state);

create table photo_text (
  photo_id int primary key references photo on delete cascade,
  caption text not null default '',
  fields jsonb not null default '{}',
  facts jsonb not null default '{}',
  issues jsonb not null default '[]',
  disagreements jsonb not null default '[]',
  name_folded text not null default '',
  caption_folded text not null default '',
  camera_folded text not null default '',
  words tsvector not null default ''
);
create index on photo_text using gin (words);

create table photo_preview (
  photo_id int primary key references photo on delete cascade,
  placeholder text not null
);

create table photo_keyword (
  photo_id int not null references photo on delete cascade,
  keyword text not null,
  folded text not null,
  position int not null,
  primary key (photo_id, keyword)
);
create index on photo_keyword (folded);

create table term (
  id serial primary key,
  parent_id int references term deferrable initially deferred,
  label text not null,
  heading boolean not null default false,
  write_broader boolean not null default true,
  scope_note text not null default '',
  other_labels jsonb not null default '[]',
  labels_folded text[] not null,
  words tsvector not null default '',
  pre int not null default 0,
  last int not null default 0
);
create unique index term_sibling_label on term (coalesce(parent_id, 0), label);
create index on term (pre);

create table photo_term (
  term_id int not null references term,
  photo_id int not null references photo on delete cascade,
  primary key (term_id, photo_id)
);
create index on photo_term (photo_id);

-- The keywords that the terms of a photo become in its file.
create view wanted_keyword as
  select distinct given.photo_id, written.label as keyword
  from photo_term given
  join term own on own.id = given.term_id
  join term written on written.id = own.id or (own.write_broader and written.pre < own.pre and written.last >= own.pre)
  where not written.heading;

-- The keywords that our last write of a photo put into its file for its terms.
create table written_keyword (
  photo_id int not null references photo on delete cascade,
  keyword text not null,
  primary key (photo_id, keyword)
);

create table write_back (
  photo_id int primary key references photo on delete cascade,
  state text not null check (state in ('waiting', 'conflict', 'failed')),
  since timestamptz not null default now(),
  message text not null default ''
);
create index on write_back (state);

create table write_journal (
  photo_id int primary key references photo on delete cascade,
  temporary text[] not null,
  intended jsonb not null,
  started_at timestamptz not null default now()
);

create table saved_search (
  id serial primary key,
  name text not null unique,
  query text not null,
  sort text not null,
  note text not null default '',
  created_by int references account on delete set null
);

create table ledger_entry (
  id serial primary key,
  account_id int references account on delete set null,
  at timestamptz not null default now(),
  kind text not null,
  title text not null default '',
  parameters jsonb not null,
  photos int not null default 0,
  object_id int,
  reverses int references ledger_entry,
  step text not null default 'do' check (step in ('do', 'undo', 'redo')),
  undone boolean not null default false
);
create index on ledger_entry (account_id, id desc);

create table ledger_photo (
  entry_id int not null references ledger_entry on delete cascade,
  photo_id int not null references photo on delete cascade,
  aspect text not null,
  key int not null,
  before jsonb not null,
  after jsonb not null,
  primary key (entry_id, photo_id, aspect, key)
);
create index on ledger_photo (photo_id);

create table ledger_object (
  entry_id int not null references ledger_entry on delete cascade,
  kind text not null,
  object_id int not null,
  before jsonb,
  after jsonb,
  primary key (entry_id, kind, object_id)
);
`;
