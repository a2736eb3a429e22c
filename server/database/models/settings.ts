// The tables of settings and applied migrations.

import { json, name, table, text } from './table';

/** What the team has settled, or the program has to remember, by name. */
export const SETTING = table('setting', {
  name: text({ key: true }),
  /** As the subject that owns the name understands it. */
  value: json(),
});

/** Which migrations were applied. */
export const MIGRATION = table('migration', {
  name: name({ key: true }),
});
