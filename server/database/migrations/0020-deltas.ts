// What the finder index follows says more: of a term given to many photos, or taken from them, which it was; of a change to
// photos, which entry made it. So who follows need not read all terms and all the past of these photos again.

export const sql = `
alter table catalogue_change
  -- For given and taken: the term.
  add column term_id int,
  -- For changes: the entry that made them; without it they are read anew.
  add column entry_id int;

-- Called for statements, with the assignments they made (given) or removed (taken). Of many terms each photo is named but once.
create function note_terms() returns trigger language plpgsql as $$
begin
  if (select count(*) from (select 1 from touched group by term_id limit 11) as terms) > 10 then
    insert into catalogue_change (part, ids) select 'terms', array_agg(distinct photo_id) from touched;
  else
    insert into catalogue_change (part, ids, term_id) select tg_argv[0], array_agg(photo_id), term_id from touched group by term_id;
  end if;
  return null;
end $$;
drop trigger noted_insert on photo_term;
drop trigger noted_delete on photo_term;
create trigger noted_insert after insert on photo_term referencing new table as touched for each statement execute function note_terms('given');
create trigger noted_delete after delete on photo_term referencing old table as touched for each statement execute function note_terms('taken');

create function note_entries() returns trigger language plpgsql as $$
begin
  insert into catalogue_change (part, ids, entry_id) select 'changes', array_agg(distinct photo_id), entry_id from touched group by entry_id;
  return null;
end $$;
drop trigger noted_insert on ledger_photo;
create trigger noted_insert after insert on ledger_photo referencing new table as touched for each statement execute function note_entries();
create trigger noted_delete after delete on ledger_photo referencing old table as touched for each statement execute function note_photos('changes');
`;
