// The connection to PostgreSQL: Sequelize underneath, raw SQL in the stores through the few functions here.

import { Pool } from 'pg';
import { QueryTypes, Sequelize, type Transaction } from 'sequelize';

import { oftenOver } from './preparedStatements';
import { rowsOver, type Bind, type Rows } from './rowsOver';

export type { Transaction } from 'sequelize';

export type { Bind, Rows } from './rowsOver';

export interface Database extends Rows {
  readonly url: string;
  readonly sequelize: Sequelize;
  /** The rows of a statement that is asked again and again; its text is always the same. */
  often<Row extends object>(sql: string, bind: Bind): Promise<Row[]>;
  /** The rows of a statement that only reads, and may be answered by a replica, a moment behind. */
  behind<Row extends object>(sql: string, bind: Bind): Promise<Row[]>;
  /** Runs the work in one transaction; any error rolls all of it back. */
  transaction<Result>(work: (tx: Transaction) => Promise<Result>): Promise<Result>;
  /** Works with a connection that is none of those which statements run on, in a transaction of its own: what it holds, no statement waits for. */
  beside<Result>(work: (connection: Rows) => Promise<Result>): Promise<Result>;
  /** Tells all servers, when the transaction commits, what has changed. */
  notify(topics: readonly string[], tx?: Transaction): Promise<void>;
  close(): Promise<void>;
}

/** The channel on which commits are told (LISTEN/NOTIFY). */
export const CHANNEL = 'stellin_changes';

const NOTIFY = 'select pg_notify($1, $2)';

/** Tells all servers over a connection, when its transaction commits, what has changed. */
export async function notifyOver(connection: Rows, topics: readonly string[]): Promise<void> {
  await connection.rows(NOTIFY, [CHANNEL, JSON.stringify({ topics })]);
}

const CONNECTIONS = 10;
const MAX_BESIDE = 16;
const IDLE_MS = 30_000;
/** How long a statement waits for a connection at most. */
const ACQUIRE_MS = 60_000;

/** What only the database itself can answer; a replica may be a moment behind. */
const OF_NOW = { useMaster: true };

interface Opening {
  connections?: number | undefined;
  /** A replica that answers what may be a moment behind. */
  replicaUrl?: string | undefined;
}

/** Opens a database. `connections`: how many statements run side by side at most; what needs a second one while it holds one would wait for itself when all are held so, which tests show with just one. */
export function openDatabase(url: string, { connections = CONNECTIONS, replicaUrl }: Opening = {}): Database {
  const sequelize = new Sequelize(url, {
    dialect: 'postgres',
    logging: false,
    ...(replicaUrl === undefined ? {} : { replication: { write: partsOf(url), read: [partsOf(replicaUrl)] } }),
    pool: { max: connections, min: 1, idle: IDLE_MS, acquire: ACQUIRE_MS },
    dialectOptions: { application_name: 'stellin' },
  });
  const besides = new Pool({
    connectionString: url,
    max: MAX_BESIDE,
    idleTimeoutMillis: IDLE_MS,
    allowExitOnIdle: true,
    application_name: 'stellin locks',
  });
  // One that is lost while nobody uses it is opened anew.
  besides.on('error', () => undefined);
  const rows = async <Row extends object>(sql: string, bind: Bind = [], tx?: Transaction): Promise<Row[]> =>
    sequelize.query<Row>(sql, { ...OF_NOW, bind: [...bind], type: QueryTypes.SELECT, transaction: tx ?? null });
  // Models read as statements do: what is true now.
  for (const hook of ['beforeFind', 'beforeCount'] as const)
    sequelize.addHook(hook, (options: object) => void Object.assign(options, OF_NOW));
  const row = async <Row extends object>(sql: string, bind?: Bind, tx?: Transaction): Promise<Row | undefined> =>
    (await rows<Row>(sql, bind, tx))[0];
  return {
    url,
    sequelize,
    rows,
    row,
    often: oftenOver(sequelize),
    behind: (sql, bind) => sequelize.query(sql, { bind: [...bind], type: QueryTypes.SELECT }),
    transaction: (work) => sequelize.transaction(work),
    async notify(topics, tx) {
      await rows(NOTIFY, [CHANNEL, JSON.stringify({ topics })], tx);
    },
    async beside(work) {
      const connection = await besides.connect();
      try {
        await connection.query('begin');
        const result = await work(rowsOver(connection));
        await connection.query('commit');
        connection.release();
        return result;
      } catch (error) {
        // With it goes all that it held.
        connection.release(true);
        throw error;
      }
    },
    async close() {
      if (!besides.ending) await besides.end();
      await sequelize.close();
    },
  };
}

/** An address of a database in the parts that Sequelize takes for replication. */
function partsOf(address: string) {
  const { hostname, port, username, password, pathname } = new URL(address);
  return {
    host: hostname,
    port: port === '' ? '5432' : port,
    username: decodeURIComponent(username),
    password: decodeURIComponent(password),
    database: decodeURIComponent(pathname.slice(1)),
  };
}
