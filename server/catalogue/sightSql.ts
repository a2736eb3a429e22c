// A person’s sight as SQL: which photos exist for them. It must mean what core/accounts/sight says.

import type { Scope, Sight } from '@stellin/core/accounts/sight';
import { compileQuery, type SqlCondition } from './compile';

/** The condition on a photo `p` that it is within a sight, numbering its parameters after those in `bind`. */
export function sightSql(sight: Sight, bind: readonly unknown[] = []): SqlCondition {
  if (sight === null) return { sql: 'true', bind: [...bind] };
  let values = [...bind];
  const parts = sight.map(({ scope, private: withPrivate }) => {
    const within = scopeSql(scope, values);
    values = within.bind;
    return withPrivate ? `(${within.sql})` : `(not p.private and ${within.sql})`;
  });
  return { sql: parts.length === 0 ? 'false' : `(${parts.join(' or ')})`, bind: values };
}

/** The condition on a photo `p` that it is in a part of the catalogue. */
function scopeSql(scope: Scope, bind: readonly unknown[]): SqlCondition {
  const numbered = (value: unknown, sql: (param: string) => string) => ({
    sql: sql(`$${bind.length + 1}`),
    bind: [...bind, value],
  });
  switch (scope.kind) {
    case 'catalogue':
      return { sql: 'true', bind: [...bind] };
    case 'drive':
      return numbered(scope.driveId, (id) => `p.drive_id = ${id}::uuid`);
    case 'folder':
      return numbered(
        scope.folderId,
        (id) => `p.folder_id in (select f.id from folder top join folder f on f.drive_id = top.drive_id
           where top.id = ${id}::int and (top.path = '' or f.path = top.path or starts_with(f.path, top.path || '/')))`,
      );
    case 'dossier':
      return numbered(
        scope.dossierId,
        (
          id,
        ) => `p.id in (select put.photo_id from dossier_above below join dossier_photo put on put.dossier_id = below.id
           where below.above_id = ${id}::int)`,
      );
    case 'search':
      return compileQuery(scope.query, bind);
  }
}
