// Statements that are asked again and again: each connection plans such a one once (PostgreSQL, PREPARE), and what comes of it
// is taken as it is. With few rows planning takes longer than all else.

import { createHash } from 'node:crypto';
import type { Client } from 'pg';
import { DatabaseError, type Sequelize } from 'sequelize';
import { isDatabaseAway } from './away';

type Often = <Row extends object>(sql: string, bind: readonly unknown[]) => Promise<Row[]>;

export function oftenOver({ connectionManager }: Sequelize): Often {
  const names = new Map<string, string>();
  return async <Row extends object>(sql: string, bind: readonly unknown[]) => {
    const connection = await connectionManager.getConnection({ type: 'read', useMaster: true });
    try {
      // With PostgreSQL the connections of Sequelize are those of pg.
      const client = connection as Client;
      return (await client.query<Row>({ name: nameOf(sql, names), text: sql, values: [...bind] })).rows;
    } catch (error) {
      const failure = new DatabaseError(Object.assign(error as Error, { sql }));
      // The pool looks at this sign before it hands a connection out; the end of one is told it only a moment later.
      if (isDatabaseAway(failure)) Object.assign(connection, { _invalid: true });
      throw failure;
    } finally {
      connectionManager.releaseConnection(connection);
    }
  };
}

/** A name by which a connection knows a statement. */
function nameOf(sql: string, names: Map<string, string>): string {
  const known = names.get(sql);
  if (known !== undefined) return known;
  const name = createHash('sha1').update(sql).digest('hex');
  names.set(sql, name);
  return name;
}
