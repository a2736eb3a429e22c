// Nobody changes photos, or takes changes of photos back, that are outside of what they may change: looked at again in the
// transaction, whatever way the change has found them.

import { CHANGE_ACCESS, type ChangeKind } from '@stellin/contract/ledger';
import { countText } from '@stellin/contract/wording';
import { sightSql } from '../catalogue/sightSql';
import { reachOf, type Person } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import * as store from './store';

/** Why somebody may not make changes of a kind. */
export function refusal({ role, permissions }: Pick<Person, 'role' | 'permissions'>, kind: string): StellinError {
  const { permission } = CHANGE_ACCESS[kind as ChangeKind] ?? { permission: 'administer' };
  return permission === 'vocabulary' && permissions.includes('describe')
    ? new StellinError('keepersOnly')
    : new StellinError('notAllowed', { role: role || 'no role' });
}

/** Refuses an entry that touches photos which somebody may not change so, as they are before it takes effect. */
export async function requireReach(
  database: Database,
  { entryId, kind, person }: { entryId: number; kind: string; person: Person },
  tx: Transaction,
): Promise<void> {
  const access = CHANGE_ACCESS[kind as ChangeKind];
  // What concerns the whole catalogue concerns photos that do not exist for who works on it, too.
  if (!access || access.where === 'everywhere') return;
  // Who may do it in the whole catalogue may gather what is private as well; it stays what they do not see.
  if (access.where === 'dossiers' && person.everywhere.includes(access.permission)) return;
  const reach = reachOf(person, access.permission);
  if (reach === null) return;
  const within = sightSql(reach, [entryId]);
  const outside = await store.countOutside(database, within, tx);
  if (outside > 0)
    throw new StellinError('outOfReach', { role: person.role, photos: `${countText(outside, 'photo')} of these` });
  if (access.where !== 'dossiers') return;
  const dossiers = reach.flatMap(({ scope }) => (scope.kind === 'dossier' ? [scope.dossierId] : []));
  if (await store.touchesOtherDossiers(database, entryId, dossiers, tx))
    throw new StellinError('outOfReach', { role: person.role, photos: 'that' });
}
