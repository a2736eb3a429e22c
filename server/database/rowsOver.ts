// Reading over one connection, for threads: loading Sequelize takes longer than all else that they load.

import type { Client } from 'pg';
import type { Rows } from './database';

/** What reads rows by statements over a connection that is open; what fails rejects with PostgreSQL's own error. */
export function rowsOver(client: Client): Rows {
  const rows: Rows['rows'] = async <Row extends object>(sql: string, bind: readonly unknown[] = []) =>
    (await client.query<Row>(sql, [...bind])).rows;
  return {
    rows,
    row: async <Row extends object>(sql: string, bind?: readonly unknown[]) => (await rows<Row>(sql, bind))[0],
  };
}
