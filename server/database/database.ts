// The connection to PostgreSQL: Sequelize underneath, raw SQL in the stores through the few functions here.

import { QueryTypes, Sequelize, type Transaction } from 'sequelize';

import { oftenOver } from './preparedStatements';

export type { Transaction } from 'sequelize';

/** Values for $1, $2 … */
export type Bind = readonly unknown[];

export interface Database {
  readonly url: string;
  readonly sequelize: Sequelize;
  /** The rows a statement returns. */
  rows<Row extends object>(sql: string, bind?: Bind, tx?: Transaction): Promise<Row[]>;
  /** The first row, or undefined. */
  row<Row extends object>(sql: string, bind?: Bind, tx?: Transaction): Promise<Row | undefined>;
  /** The rows of a statement that is asked again and again; its text is always the same. */
  often<Row extends object>(sql: string, bind: Bind): Promise<Row[]>;
  /** Runs the work in one transaction; any error rolls all of it back. */
  transaction<Result>(work: (tx: Transaction) => Promise<Result>): Promise<Result>;
  /** Tells all servers, when the transaction commits, what has changed. */
  notify(topics: readonly string[], tx?: Transaction): Promise<void>;
  close(): Promise<void>;
}

/** What reads need of it: threads that start often have it of one connection, without Sequelize, see rowsOver. */
export type Rows = Pick<Database, 'rows' | 'row'>;

/** The channel on which commits are told (LISTEN/NOTIFY). */
export const CHANNEL = 'stellin_changes';

export function openDatabase(url: string): Database {
  const sequelize = new Sequelize(url, {
    dialect: 'postgres',
    logging: false,
    pool: { max: 10, min: 1, idle: 30_000 },
    dialectOptions: { application_name: 'stellin' },
  });
  const rows = async <Row extends object>(sql: string, bind: Bind = [], tx?: Transaction): Promise<Row[]> =>
    sequelize.query<Row>(sql, { bind: [...bind], type: QueryTypes.SELECT, transaction: tx ?? null });
  const row = async <Row extends object>(sql: string, bind?: Bind, tx?: Transaction): Promise<Row | undefined> =>
    (await rows<Row>(sql, bind, tx))[0];
  return {
    url,
    sequelize,
    rows,
    row,
    often: oftenOver(sequelize),
    transaction: (work) => sequelize.transaction(work),
    async notify(topics, tx) {
      await rows('select pg_notify($1, $2)', [CHANNEL, JSON.stringify({ topics })], tx);
    },
    close: () => sequelize.close(),
  };
}
