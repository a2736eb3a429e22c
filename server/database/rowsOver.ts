// Reading over one connection, for threads: loading Sequelize takes longer than all else that they load.

import type { ClientBase } from 'pg';
import type { Transaction } from 'sequelize';

/** Values for $1, $2 … */
export type Bind = readonly unknown[];

/** What reads need of a database. */
export interface Rows {
  /** The rows a statement returns. */
  rows<Row extends object>(sql: string, bind?: Bind, tx?: Transaction): Promise<Row[]>;
  /** The first row, or undefined. */
  row<Row extends object>(sql: string, bind?: Bind, tx?: Transaction): Promise<Row | undefined>;
}

/** What reads rows by statements over a connection that is open; what fails rejects with PostgreSQL's own error. */
export function rowsOver(client: ClientBase): Rows {
  const rows: Rows['rows'] = async <Row extends object>(sql: string, bind: readonly unknown[] = []) =>
    (await client.query<Row>(sql, [...bind])).rows;
  return {
    rows,
    row: async <Row extends object>(sql: string, bind?: readonly unknown[]) => (await rows<Row>(sql, bind))[0],
  };
}
