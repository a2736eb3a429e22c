// Doubles: photos that are one picture, and photos that look alike.

import { groupPairs } from '@stellin/core/doubles/doubles';
import type { DoubleKind, DoublePhoto } from '@stellin/contract/doubles';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import * as store from './store';

export type Doubles = ReturnType<typeof doubleService>;

/** Photos that are compared with all others in one step, and how many steps a page may take. */
const GROUPS_PER_SCAN = 500;
const MAX_STEPS = 20;

interface Page {
  groups: number[][];
  next: number | null;
}

export function doubleService(database: Database) {
  const same = async (viewer: Viewer, after: number, limit: number): Promise<Page> => {
    const groups = await store.sameGroups(database, viewer, after, limit);
    const next = groups.length === limit ? (groups.at(-1)?.first ?? null) : null;
    return { groups: groups.map(({ ids }) => ids), next };
  };
  const alike = async (viewer: Viewer, after: number, limit: number): Promise<Page> => {
    const pairs: [number, number][] = [];
    let from = after;
    for (let step = 0; step < MAX_STEPS; step++) {
      const found = await store.alikePairs(database, viewer, from, GROUPS_PER_SCAN);
      if (found.last === null) return { groups: groupPairs(pairs), next: null };
      pairs.push(...found.pairs);
      from = found.last;
      const groups = groupPairs(pairs);
      if (groups.length >= limit) return { groups, next: from };
    }
    return { groups: groupPairs(pairs), next: from };
  };
  const PAGES: Record<DoubleKind, (viewer: Viewer, after: number, limit: number) => Promise<Page>> = { same, alike };

  return {
    count: (viewer: Viewer) => store.countSame(database, viewer),

    /** A page of groups: about as many as asked for. */
    async list(
      viewer: Viewer,
      { kind, after = 0, limit }: { kind: DoubleKind; after?: number | undefined; limit: number },
    ) {
      const { groups, next } = await PAGES[kind](viewer, after, limit);
      const photos = new Map((await store.photosOf(database, viewer, groups.flat())).map((photo) => [photo.id, photo]));
      const whole = groups.map((ids) => ids.flatMap((id): DoublePhoto | DoublePhoto[] => photos.get(id) ?? []));
      return { groups: whole.filter(({ length }) => length > 1), next };
    },
  };
}
