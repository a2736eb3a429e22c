// What somebody may do, and what exists for them: read once for each version of the rights, since every request asks for it.

import { createHash } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import { PERMISSION_IDS, PRESET_ROLES, type Permission, type PresetRole } from '@stellin/core/accounts/permissions';
import { holdsEverywhere, sightOf, type Right, type Scope } from '@stellin/core/accounts/sight';
import type { Query } from '@stellin/core/query/query';
import type { Person } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import * as store from './store';

export type Rights = ReturnType<typeof rightsService>;

const PERSONS_KEPT = 500;
/** What is shown of somebody beside their rights; they change without these. */
const SETTINGS = ['displayName', 'theme', 'language'] as const;
/** What somebody still may in a project that is closed. */
const WHEN_CLOSED: ReadonlySet<Permission> = new Set<Permission>(['see', 'private']);

/** `queryOf`: what a saved search asks, with those in it opened; undefined where there is none. */
export function rightsService(database: Database, queryOf: (searchId: number) => Promise<Query | undefined>) {
  const persons = new LRUCache<number, { version: string; person: Person }>({ max: PERSONS_KEPT });

  const scopeOf = async ({ driveId, folderId, dossierId, searchId }: store.PlaceRow): Promise<Scope | undefined> => {
    if (driveId !== null) return { kind: 'drive', driveId };
    if (folderId !== null) return { kind: 'folder', folderId };
    if (dossierId !== null) return { kind: 'dossier', dossierId };
    if (searchId === null) return { kind: 'catalogue' };
    const query = await queryOf(searchId);
    return query && { kind: 'search', searchId, query };
  };

  async function read(row: store.AccountRow): Promise<Person> {
    const known = persons.get(row.accountId);
    if (known?.version === row.version && SETTINGS.every((name) => known.person[name] === row[name]))
      return known.person;
    const rows = await store.rightsOf(database, row.accountId);
    const rights: Right[] = [];
    for (const held of rows) {
      const scope = await scopeOf(held);
      if (!scope) continue;
      const permissions = permissionsOf(held);
      rights.push({ permissions: held.closed ? permissions.filter((id) => WHEN_CLOSED.has(id)) : permissions, scope });
    }
    const person = personWith(rights, {
      id: row.accountId,
      name: row.name,
      displayName: row.displayName,
      theme: row.theme,
      language: row.language,
      role: [...new Set(rows.map(roleName))].join(', '),
      rights: createHash('sha256').update(JSON.stringify(rights)).digest('base64url'),
    });
    persons.set(row.accountId, { version: row.version, person });
    return person;
  }

  return {
    /** An account that was found with the present version of rights, with what it may do. */
    read,

    /** An account by its number, with what it may do now. */
    async personOf(accountId: number): Promise<Person> {
      const account = await store.accountOf(database, accountId);
      if (!account) throw new StellinError('notFound', { what: 'such account' });
      return read(account);
    },
  };
}

/** Somebody with some rights, and what follows from them. */
function personWith(
  held: readonly Right[],
  named: Pick<Person, 'id' | 'name' | 'displayName' | 'theme' | 'language' | 'role' | 'rights'>,
): Person {
  const sight = sightOf(held, 'see');
  return {
    ...named,
    accountId: named.id,
    permissions: PERMISSION_IDS.filter((id) => held.some(({ permissions }) => permissions.includes(id))),
    everywhere: PERMISSION_IDS.filter((id) => holdsEverywhere(held, id)),
    sight,
    seesAll: sight === null,
    knowsPrivate: held.some(({ permissions }) => permissions.includes('private')),
    held,
  };
}

/** Somebody, but for what goes beyond some permissions. */
export function limitedTo(person: Person, permissions: readonly string[]): Person {
  const held = person.held.map((right) => ({
    ...right,
    permissions: right.permissions.filter((id) => permissions.includes(id)),
  }));
  return personWith(held, person);
}

/** The permissions of a role: those of one that every archive has are the program’s own. */
export function permissionsOf({ preset, permissions }: Pick<store.RightRow, 'preset' | 'permissions'>): Permission[] {
  const given: readonly string[] = preset === null ? permissions : PRESET_ROLES[preset as PresetRole].permissions;
  return PERMISSION_IDS.filter((id) => given.includes(id));
}

/** What a role is called in a list of somebody’s roles; one for a part of the catalogue says so. */
function roleName({ roleName: name, driveId, folderId, dossierId, searchId }: store.RightRow): string {
  const isPart = [driveId, folderId, dossierId, searchId].some((place) => place !== null);
  return isPart ? `${name} of a part` : name;
}
