// Turning pictures: how a preview shows its photo, and boxes of faces that follow.

export const sql = `
alter table photo add column preview_orientation smallint not null default 1;
update photo set preview_orientation = orientation where orientation <> 1;
create index on photo (id) where preview_orientation <> orientation and preview_version > 0;

-- What turns a picture that is seen in one orientation so that it is seen in another (core/metadata/orientation, \`between\`).
create function turn_between(shown int, wanted int) returns int language sql immutable as $$
  select ('{{1,2,3,4,5,6,7,8},{2,1,4,3,8,7,6,5},{3,4,1,2,7,8,5,6},{4,3,2,1,6,5,8,7},
    {5,6,7,8,1,2,3,4},{8,7,6,5,2,1,4,3},{7,8,5,6,3,4,1,2},{6,5,8,7,4,3,2,1}}'::int[][])[shown][wanted] $$;

-- Boxes of faces are parts of the picture as it is seen. Where nobody has found or drawn any, it is looked at once more.
create function turn_faces() returns trigger language plpgsql as $$
declare turning int := turn_between(old.orientation, new.orientation);
begin
  update face set
    box_left = case turning when 2 then 1 - box_left - box_width when 3 then 1 - box_left - box_width when 5 then box_top when 8 then box_top
      when 6 then 1 - box_top - box_height when 7 then 1 - box_top - box_height else box_left end,
    box_top = case turning when 3 then 1 - box_top - box_height when 4 then 1 - box_top - box_height when 5 then box_left when 6 then box_left
      when 7 then 1 - box_left - box_width when 8 then 1 - box_left - box_width else box_top end,
    box_width = case when turning > 4 then box_height else box_width end,
    box_height = case when turning > 4 then box_width else box_height end
  where photo_id = new.id;
  if not found then delete from face_scan where photo_id = new.id; end if;
  return null;
end $$;
create trigger turn_faces after update of orientation on photo for each row
  when (old.orientation <> new.orientation) execute function turn_faces();
`;
