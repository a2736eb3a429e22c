// Text seen in pictures.

export const sql = `
alter table drive add column read_text boolean not null default false;

create table photo_lettering (
  photo_id int primary key references photo on delete cascade,
  -- Lines with where they are seen, see core/pictureText/lines.
  lines jsonb not null,
  -- All lines, one below the other.
  text text not null,
  -- How the picture was seen, as Exif counts.
  orientation smallint not null,
  -- Of the picture that was read.
  picture_hash bytea,
  -- Why it could not be read; empty for none.
  problem text not null default '',
  at timestamptz not null default now()
);
`;
