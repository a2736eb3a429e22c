// How pictures look, for finding those that look alike, and how sharp they are.

export const sql = `
create sequence look_version;
create table photo_look (
  photo_id int primary key references photo on delete cascade,
  -- Which recipe made the look (core/lookalikes/look, LOOKS_BY).
  recipe smallint not null,
  -- 8-bit numbers, see core/lookalikes/look.
  look bytea not null,
  -- The deviation of a Laplacian of its preview: the higher the sharper.
  sharpness real not null,
  -- Rises with each change.
  version bigint not null default nextval('look_version')
);
create index on photo_look (version);
create function raise_look_version() returns trigger language plpgsql as $$
begin
  new.version := nextval('look_version');
  return new;
end $$;
create trigger versioned before update on photo_look for each row execute function raise_look_version();
`;
