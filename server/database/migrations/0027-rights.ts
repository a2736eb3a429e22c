// Roles, teams, and what each account may do where: a right is a role in a part of the catalogue.

export const sql = `
create table role (
  id serial primary key,
  -- A role that every archive has: its name and permissions are the program’s own.
  preset text unique,
  name text not null,
  name_folded text not null unique,
  permissions text[] not null default '{}'
);
insert into role (preset, name, name_folded)
values ('keeper', 'Keeper', 'keeper'), ('cataloguer', 'Cataloguer', 'cataloguer'), ('viewer', 'Viewer', 'viewer');

create table team (
  id serial primary key,
  name text not null,
  name_folded text not null unique,
  note text not null default ''
);
create table team_member (
  team_id int not null references team on delete cascade,
  account_id int not null references account on delete cascade,
  primary key (team_id, account_id)
);
create index team_member_account on team_member (account_id);

create table held_right (
  id serial primary key,
  -- Whose it is: one of both.
  account_id int references account on delete cascade,
  team_id int references team on delete cascade,
  role_id int not null references role,
  -- Where: one of these, or none for the whole catalogue. What was removed may come back when that is taken back, so nothing
  -- refers to it; until then the right is one to nothing.
  drive_id uuid,
  folder_id int,
  dossier_id int,
  search_id int,
  check ((account_id is null) <> (team_id is null)),
  check (num_nonnulls(drive_id, folder_id, dossier_id, search_id) <= 1)
);
create index held_right_account on held_right (account_id);
create index held_right_team on held_right (team_id);

insert into held_right (account_id, role_id) select a.id, r.id from account a join role r on r.preset = a.role;
alter table account drop column role;
-- Nobody signs in to one without: it was invited and has not come yet.
alter table account alter column password_hash drop not null;

alter table session
  add column id uuid not null default gen_random_uuid() unique,
  -- How the browser names itself.
  add column device text not null default '',
  add column last_used_at timestamptz not null default now();

-- A link with which somebody chooses a password, once.
create table invitation (
  -- SHA-256 of what stands in the link.
  token_hash text primary key,
  account_id int not null references account on delete cascade,
  made_by int references account on delete set null,
  made_at timestamptz not null default now(),
  expires_at timestamptz not null
);
create index invitation_account on invitation (account_id);

-- Raised by whatever changes what somebody may do or see: each process keeps the rights of accounts as of a version.
create table rights_version (one boolean primary key default true check (one), version bigint not null);
insert into rights_version (version) values (1);
create function rights_changed() returns trigger language plpgsql as $$
begin
  update rights_version set version = version + 1;
  return null;
end $$;
create trigger rights_changed after insert or update or delete on role for each statement execute function rights_changed();
create trigger rights_changed after insert or delete on team_member for each statement execute function rights_changed();
create trigger rights_changed after insert or update or delete on held_right for each statement execute function rights_changed();
create trigger rights_changed after insert or update or delete on saved_search for each statement execute function rights_changed();
create trigger rights_changed after insert or update or delete on quality_rule for each statement execute function rights_changed();
`;
