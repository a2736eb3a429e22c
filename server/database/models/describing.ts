// The tables of templates, field sets and rules of quality.

import { double, integer, integers, json, table, text, texts } from './table';

/** Description templates. */
export const TEMPLATE = table('template', {
  id: integer({ key: true, preset: true }),
  name: text(),
  note: text({ preset: true }),
  /** Null: it is for everybody. */
  ownerId: integer({ orNull: true, of: 'account' }),
  /** Fields and what is put in, see core/describing/editing. */
  edits: json({ preset: true }),
  termIds: integers({ preset: true }),
  createdBy: integer({ orNull: true, of: 'account' }),
});

/** Sets of fields that the form shows together. */
export const FIELD_SET = table('field_set', {
  id: integer({ key: true, preset: true }),
  name: text(),
  position: double({ preset: true }),
  /** Fields with whether they are required, their help and offered values. */
  entries: json({ preset: true }),
});

/** What photos have to say to count as described. */
export const QUALITY_RULE = table('quality_rule', {
  id: integer({ key: true, preset: true }),
  name: text(),
  /** Of which photos it is asked; empty: of all. */
  query: text({ preset: true }),
  /** Parts they must have. */
  requires: texts({ preset: true }),
});
