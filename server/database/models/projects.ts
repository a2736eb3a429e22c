// The table of projects.

import { boolean, integer, table, text } from './table';

/** Projects: each a dossier with what belongs to it besides. */
export const PROJECT = table('project', {
  id: integer({ key: true, preset: true }),
  /** Its name, note and colour are those of the dossier. */
  dossierId: integer({ of: 'dossier' }),
  /** A year, a month or a day, or nothing. */
  starts: text({ preset: true }),
  ends: text({ preset: true }),
  fieldSetId: integer({ orNull: true, of: 'field_set' }),
  /** Fills what new photos do not say yet. */
  templateId: integer({ orNull: true, of: 'template' }),
  /** What its photos must have. */
  ruleId: integer({ orNull: true, of: 'quality_rule' }),
  /** Nothing of it changes any more. */
  closed: boolean({ preset: true }),
  createdBy: integer({ orNull: true, of: 'account' }),
});
