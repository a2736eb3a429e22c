// The record of access, and the chain of hashes over what the ledger holds.

export const sql = `
-- Who came, looked, searched by face, and was refused.
create table access_entry (
  id bigserial primary key,
  at timestamptz not null default now(),
  account_id int references account on delete set null,
  kind text not null,
  -- Nothing refers to it: the record outlives the photo.
  photo_id int,
  about text not null default '',
  address text not null default '',
  digest bytea,
  seal_id int
);
create index on access_entry (account_id, id desc);
create index on access_entry (photo_id, id desc) where photo_id is not null;
create index on access_entry (id) where seal_id is null;
create index on access_entry (seal_id);

-- A seal closes some entries: whoever alters or removes one of them afterwards breaks the chain.
create table ledger_seal (
  id serial primary key,
  -- Changes and access have a chain each.
  book text not null check (book in ('changes', 'access')),
  at timestamptz not null default now(),
  entries int not null,
  -- SHA-256 of the digests of its entries, in their order.
  digest bytea not null,
  -- The chain as it was, empty at the beginning; and with this seal: SHA-256 of both.
  previous bytea not null,
  chain bytea not null
);
create index on ledger_seal (book, id);

alter table ledger_entry add column digest bytea, add column seal_id int;
create index on ledger_entry (id) where seal_id is null;
create index on ledger_entry (seal_id);

-- What was recorded of photos that are gone for good: the ledger keeps it.
create table ledger_photo_gone (
  entry_id int not null,
  photo_id int not null,
  aspect text not null,
  key int not null,
  before jsonb not null,
  after jsonb not null,
  primary key (entry_id, photo_id, aspect, key)
);
create function keep_gone() returns trigger language plpgsql as $$
begin
  insert into ledger_photo_gone select * from gone g where not exists (select 1 from photo p where p.id = g.photo_id)
    on conflict do nothing;
  return null;
end $$;
create trigger kept_when_gone after delete on ledger_photo referencing old table as gone for each statement execute function keep_gone();
`;
