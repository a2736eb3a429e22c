// How places of files, copies and folders stand in the ledger.

import { recordedValues, showAs, NOTHING, type NameOf, type ObjectKind, type PhotoAspect } from '../ledger/kinds';
import { baseNameSql } from '../catalogue/baseName';

/** Where photos `p` (in folders `f`) are, as the ledger keeps it. */
export const PLACE_SQL = `jsonb_build_object('drive', p.drive_id, 'folder', f.path, 'name', p.name, 'trashedFrom', p.trashed_from)`;

function placeOf(photoId: string): string {
  return `(select ${PLACE_SQL} from photo p join folder f on f.id = p.folder_id where p.id = ${photoId})`;
}

/** Files whose names others of the same entry are to get step aside first, those that share a base name together. */
function asideSql(isMeant: string): string {
  const wanted = `(l.after ->> 'drive')::uuid, l.after ->> 'folder', ${baseNameSql(`l.after ->> 'name'`)}`;
  return `insert into filing_step (entry_id, photo_id, copies, drive_id, folder, name, trashed_from, aside)
    select l.entry_id, l.photo_id, false, p.drive_id, f.path,
      regexp_replace(p.name, '(\\.[^.]*)?$', ' (moving ' || l.entry_id || ')\\1'), p.trashed_from, true
    from ledger_photo l join photo p on p.id = l.photo_id join folder f on f.id = p.folder_id
    where ${isMeant} and l.aspect = 'place' and l.after <> ${PLACE_SQL} and (p.drive_id, f.path, ${baseNameSql('p.name')}) in (
      select ${wanted} from ledger_photo l where ${isMeant} and l.aspect = 'place'
        and (${wanted}) is distinct from ((l.before ->> 'drive')::uuid, l.before ->> 'folder', ${baseNameSql(`l.before ->> 'name'`)}))
    order by p.drive_id, p.folder_id, ${baseNameSql('p.name')}, p.id`;
}

function stepsSql(isMeant: string, aspect: string, copies: boolean): string {
  // Files that share a base name, and with it a sidecar, come one after the other.
  return `insert into filing_step (entry_id, photo_id, copies, drive_id, folder, name, trashed_from)
    select l.entry_id, l.photo_id, ${copies}, (l.after ->> 'drive')::uuid, l.after ->> 'folder', l.after ->> 'name', l.after ->> 'trashedFrom'
    from ledger_photo l join photo p on p.id = l.photo_id join folder f on f.id = p.folder_id
    where ${isMeant} and l.aspect = '${aspect}' ${copies ? '' : `and l.after <> ${PLACE_SQL}`}
    order by p.drive_id, p.folder_id, ${baseNameSql('p.name')}, p.id`;
}

const driveOf = (value: unknown) => {
  const { drive } = recordedValues(value);
  return typeof drive === 'string' ? [['drive', drive] as const] : [];
};

/** `Vault/2019/a.jpg`; of a trashed photo where it came from. */
function shownPlace(value: unknown, nameOf: NameOf): string {
  const { drive, folder, name, trashedFrom } = recordedValues(value);
  if (typeof drive !== 'string') return NOTHING;
  const path = [nameOf('drive', drive), typeof trashedFrom === 'string' ? trashedFrom : folder, name];
  return `${typeof trashedFrom === 'string' ? 'in the trash, from ' : ''}${path.filter(Boolean).join('/')}`;
}

export const filingAspects = {
  // Files go where the record says when the job has moved them there.
  place: {
    effect: (isMeant) => [asideSql(isMeant), stepsSql(isMeant, 'place', false)],
    stillBefore: `${placeOf('l.photo_id')} = l.before`,
    refersTo: driveOf,
    show: ({ before, after }, nameOf) => [
      { what: 'Place', before: shownPlace(before, nameOf), after: shownPlace(after, nameOf) },
    ],
  },
  // What copying made is undone by moving the copies to the trash: those have places of their own.
  copy: {
    effect: (isMeant) => [stepsSql(isMeant, 'copy', true)],
    stillBefore: 'false',
    refersTo: driveOf,
    show: ({ before, after }, nameOf) => [
      { what: 'Copy', before: shownPlace(before, nameOf), after: shownPlace(after, nameOf) },
    ],
  },
  removed: {
    effect: (isMeant) => [
      `update photo p set removed = (l.after)::boolean from ledger_photo l where ${isMeant} and l.aspect = 'removed' and p.id = l.photo_id`,
    ],
    stillBefore: `(select to_jsonb(p.removed) from photo p where p.id = l.photo_id) = l.before`,
    show: showAs('Taken out of the catalogue'),
  },
} as const satisfies Record<string, PhotoAspect>;

export const filingObjects = {
  folder: {
    label: 'Folder',
    named: 'path',
    columns: {
      drive_id: { label: 'Drive', refersTo: 'drive' },
      parent_id: { label: 'Within', refersTo: 'folder' },
      name: { label: 'Name' },
      path: { label: 'Path' },
      colour: { label: 'Colour' },
      note: { label: 'Note' },
    },
  },
} as const satisfies Record<string, ObjectKind>;
