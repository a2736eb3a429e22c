// How putting good copies back stands in the ledger.

import { recordedValues, type PhotoAspect } from '../ledger/kinds';

const VALUES = `coalesce(nullif(l.after, 'null'), l.before)`;

const shown = (value: unknown) =>
  recordedValues(value)['from'] === undefined ? 'the damaged file' : 'a good copy of it';

export const fixityAspects = {
  // The files are exchanged by the job that follows.
  copyBack: {
    effect: (isMeant) => [
      `insert into copy_back (photo_id, entry_id, from_photo, kept)
       select l.photo_id, l.entry_id, (nullif(l.after, 'null') ->> 'from')::int, ${VALUES} ->> 'kept'
       from ledger_photo l where ${isMeant} and l.aspect = 'copyBack'`,
    ],
    // Until the files are where they are to be, nothing else is done with them.
    stillBefore: 'not exists (select 1 from copy_back c where c.photo_id = l.photo_id)',
    refersTo: (value) => {
      const { drive } = recordedValues(value);
      return typeof drive === 'string' ? [['drive', drive] as const] : [];
    },
    show: ({ before, after }) => [{ what: 'File', before: shown(before), after: shown(after) }],
  },
} as const satisfies Record<string, PhotoAspect>;
