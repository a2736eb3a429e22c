// Where work lists are walked through.

import type { ThingListId } from '@stellin/core/workLists/lists';

/** The places in which other things than photos are settled. */
export const THING_PATHS: Readonly<Record<ThingListId, string>> = {
  keywords: '/intake/keywords',
  names: '/people/names',
  likeness: '/people',
  doubts: '/places',
  proposals: '/vocabulary',
  answers: '/deliver/links',
  doubles: '/intake/doubles',
  backups: '/holdings',
};

/** Where the photos of a list are walked through, within what a query finds. */
export function walkPath(list: string, query: string): string {
  const within = query === '' ? '' : `?${new URLSearchParams({ q: query })}`;
  return `/holdings/lists/${encodeURIComponent(list)}${within}`;
}
