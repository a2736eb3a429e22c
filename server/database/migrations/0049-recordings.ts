// Films and sounds: the picture that stands for one, and hashes that leave out what is written into them.

export const sql = `
-- Seconds from the beginning, chosen by somebody; and what its preview shows. Null: a telling one that was found.
alter table photo add column poster double precision;
alter table photo add column preview_poster double precision;
create index on photo (id) where poster is distinct from preview_poster;

-- Descriptions can be written into these kinds from now on: the hash of what they record leaves those out.
update photo set picture_hash = null, preview_state = 0 where kind in ('mp4', '3gp', 'm4a', 'wav');
`;
