// Telling that the database does not answer from anything else that may go wrong with a statement.

import { ConnectionError, DatabaseError } from 'sequelize';
import { messageOf, systemCode } from '../errors';

/** SQLSTATE of what ends or refuses a connection: class 08 (connection exception), class 57P (operator intervention), 53300 (too many connections). */
const AWAY = /^(08|57P|53300)/;
/** What the system says of a connection that breaks under a statement. */
const BROKEN = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT']);

/** Whether an error says that PostgreSQL can't be reached, or has closed the connection. */
export function isDatabaseAway(error: unknown): boolean {
  if (error instanceof ConnectionError) return true;
  if (!(error instanceof DatabaseError)) return false;
  const code = systemCode(error.original) ?? '';
  return AWAY.test(code) || BROKEN.has(code) || messageOf(error.original).startsWith('Connection terminated');
}
