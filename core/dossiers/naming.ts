// Dossiers by name: what a text in a query names, and queries that follow when a dossier is called otherwise.

import type { Query } from '../query/query';
import { foldText } from '../text/words';

export interface NamedDossier {
  id: number;
  parentId: number | null;
  name: string;
}

/** Dossiers as queries name them: by name, by a path of names with / between that ends at them, or with / in front by their whole path. */
export class DossierNames {
  private readonly byId: ReadonlyMap<number, NamedDossier>;

  constructor(readonly dossiers: readonly NamedDossier[]) {
    this.byId = new Map(dossiers.map((dossier) => [dossier.id, dossier]));
  }

  /** From the top one down; empty for an unknown id. */
  path(id: number): NamedDossier[] {
    const path: NamedDossier[] = [];
    for (let at = this.byId.get(id); at && !path.includes(at); at = this.byId.get(at.parentId ?? -1)) path.unshift(at);
    return path;
  }

  /** The dossiers that a text names. */
  named(text: string): NamedDossier[] {
    const whole = foldText(text);
    const steps = text.split('/').map(foldText);
    return this.dossiers.filter(({ id, name }) => {
      if (foldText(name) === whole) return true;
      const path = this.path(id);
      if (text.startsWith('/')) return foldText(`/${path.map((above) => above.name).join('/')}`) === whole;
      return (
        steps.length <= path.length &&
        steps.every((step, i) => foldText(path[path.length - steps.length + i]?.name ?? '') === step)
      );
    });
  }

  /** Those that a text names, and all below them, by id. */
  namedWithin(text: string): Set<number> {
    return this.within(new Set(this.named(text).map(({ id }) => id)));
  }

  /** Some dossiers and all below them, by id. */
  within(tops: ReadonlySet<number>): Set<number> {
    return new Set(
      this.dossiers.filter(({ id }) => this.path(id).some((above) => tops.has(above.id))).map(({ id }) => id),
    );
  }

  /** The shortest text that names just this one: its name, or as much of its path as tells it from others. */
  nameOf(id: number): string {
    const names = this.path(id).map(({ name }) => name);
    for (let levels = 1; levels <= names.length; levels++) {
      const text = names.slice(-levels).join('/');
      if (this.named(text).length === 1) return text;
    }
    return `/${names.join('/')}`;
  }
}

/** A query whose dossiers are named as they are now; the same object when nothing has to change. */
export function followDossiers(query: Query, before: DossierNames, after: DossierNames): Query {
  if (query.kind === 'all' || query.kind === 'any') {
    const of = query.of.map((part) => followDossiers(part, before, after));
    return of.every((part, i) => part === query.of[i]) ? query : { kind: query.kind, of };
  }
  if (query.kind === 'not') {
    const of = followDossiers(query.of, before, after);
    return of === query.of ? query : { kind: 'not', of };
  }
  if (query.kind !== 'criterion' || query.criterion !== 'dossier') return query;
  const wanted = before.named(query.value).map(({ id }) => id);
  const now = new Set(after.named(query.value).map(({ id }) => id));
  const still = wanted.filter((id) => after.path(id).length > 0);
  if (still.length === 0 || (still.length === now.size && still.every((id) => now.has(id)))) return query;
  const named = still.map((id): Query => ({ ...query, value: after.nameOf(id) }));
  return named.length === 1 && named[0] ? named[0] : { kind: 'any', of: named };
}
