// Photos that are set aside (trashed, or taken out of the catalogue), files that are on their way to another place, and
// bundles.

export const sql = `
-- The folder a trashed photo's file came from; its own folder is below the drive's trash folder.
alter table photo add column trashed_from text;
-- Taken out of the catalogue, with all that was said of it, while its file stays where it is.
alter table photo add column removed boolean not null default false;
alter table photo add column shown boolean not null generated always as (trashed_from is null and not removed) stored;
create index photo_hidden on photo (drive_id) where not shown;

-- Photos that are one picture share a number. In a closed bundle all but the lead are folded into it.
create sequence bundle_number as int;
alter table photo add column bundle int;
alter table photo add column leads boolean not null default false;
alter table photo add column folded_into int references photo on delete set null;
-- Taken out of a bundle by hand: it is not bundled again by itself.
alter table photo add column unbundled boolean not null default false;
create index photo_bundle on photo (bundle) where bundle is not null;
create index photo_folded on photo (folded_into) where folded_into is not null;

-- What is still to be moved or copied for an entry of the ledger.
create table filing_step (
  id bigserial primary key,
  entry_id int not null references ledger_entry on delete cascade,
  photo_id int not null references photo on delete cascade,
  copies boolean not null,
  drive_id uuid not null references drive,
  folder text not null,
  name text not null,
  trashed_from text,
  -- From here on files may have been touched, and the name is settled.
  started boolean not null default false
);
create index on filing_step (photo_id);
create index on filing_step (entry_id, id);
`;
