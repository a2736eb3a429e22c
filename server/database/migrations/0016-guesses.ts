// Who faces most likely show, kept so that it can be searched; the time of a photo for who can be in it; details of persons.

export const sql = `
create table face_guess (
  face_id int primary key references face on delete cascade,
  person_id int not null references person on delete cascade,
  certainty real not null
);
create index on face_guess (person_id);

create function note_guesses() returns trigger language plpgsql as $$
begin
  execute $sql$
    insert into catalogue_change (part, ids) select 'texts', array_agg(distinct f.photo_id) from touched t join face f on f.id = t.face_id having count(*) > 0 $sql$;
  return null;
end $$;
create trigger noted_insert after insert on face_guess referencing new table as touched for each statement execute function note_guesses();
create trigger noted_update after update on face_guess referencing new table as touched for each statement execute function note_guesses();
create trigger noted_delete after delete on face_guess referencing old table as touched for each statement execute function note_guesses();

create or replace function note_people() returns trigger language plpgsql as $$
begin
  execute $sql$
    insert into catalogue_change (part, ids)
    select 'texts', array_agg(distinct s.photo_id) from touched t join (
      select person_id, photo_id from face where state = 'named' union all select person_id, photo_id from photo_person
      union all select g.person_id, f.photo_id from face_guess g join face f on f.id = g.face_id) s on s.person_id = t.id
    having count(*) > 0 $sql$;
  return null;
end $$;

-- Nobody is suggested before their birth: where the time of a photo changes, its faces are looked at anew.
create function note_face_times() returns trigger language plpgsql as $$
begin
  if exists (select 1 from face) then
    execute $sql$
      update face f set version = version from touched n join before b on b.id = n.id
      where f.photo_id = n.id and (n.taken_at, n.taken_until) is distinct from (b.taken_at, b.taken_until) $sql$;
  end if;
  return null;
end $$;
create trigger noted_face_times after update on photo referencing old table as before new table as touched for each statement execute function note_face_times();

alter table person add column detailed boolean not null default false;
`;
