// The table of reports that are kept.

import { integer, json, moment, table, text } from './table';

export const REPORT_PRESET = table('report_preset', {
  id: integer({ key: true, preset: true }),
  name: text(),
  settings: json(),
  /** A mail address; empty: it is not sent. */
  monthlyTo: text(),
  accountId: integer({ orNull: true, of: 'account' }),
  sentAt: moment({ orNull: true }),
});
