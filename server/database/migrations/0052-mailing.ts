// Letters by mail, and the address book.

export const sql = `
create table contact (
  id serial primary key,
  name text not null default '',
  address text not null
);
create unique index on contact (lower(address));

create table letter (
  id serial primary key,
  account_id int not null references account on delete cascade,
  at timestamptz not null default now(),
  subject text not null,
  -- With placeholders, see core/mailing/letters.
  text text not null,
  title text not null,
  -- What goes along: a view link or a delivery.
  link_id int references view_link on delete set null,
  -- Sealed; gone as soon as nobody waits for it.
  link_address bytea,
  delivery_id uuid references delivery on delete set null
);
create index on letter (account_id);
create index on letter (link_id);

create table letter_recipient (
  id serial primary key,
  letter_id int not null references letter on delete cascade,
  name text not null default '',
  address text not null,
  -- See core/mailing/letters.
  state text not null default 'waiting',
  tries int not null default 0,
  next_at timestamptz not null default now(),
  -- Of one that is being sent: since when.
  begun_at timestamptz,
  sent_at timestamptz,
  problem text,
  message_id text not null unique
);
create unique index on letter_recipient (letter_id, lower(address));
create index on letter_recipient (next_at) where state in ('waiting', 'sending');

-- What a link that follows had found when those to whom it was sent were last told of new photos, and when that was.
alter table view_link add column told_ids int[] not null default '{}';
alter table view_link add column told_at timestamptz;
`;
