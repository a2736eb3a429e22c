// View links: pictures shown to people who have no account, at an address that nobody can guess.

import { COLUMN_IDS, columnFacts, type ColumnId } from '../delivering/columns';

export const LINK_STATES = {
  open: 'open',
  revoked: 'revoked',
  ended: 'ended',
  used: 'viewed as often as it may be',
} as const;
export type LinkState = keyof typeof LINK_STATES;

export interface LinkLife {
  revokedAt: Date | null;
  endsAt: Date | null;
  /** How often it may be viewed; null: without a limit. */
  mostViews: number | null;
  views: number;
}

/** What has become of a link at a moment. */
export function linkState({ revokedAt, endsAt, mostViews, views }: LinkLife, now: Date): LinkState {
  if (revokedAt !== null) return 'revoked';
  if (endsAt !== null && endsAt <= now) return 'ended';
  return mostViews !== null && views >= mostViews ? 'used' : 'open';
}

/** Names of people, which a link shows only where that is wanted. */
const OF_PEOPLE: ReadonlySet<ColumnId> = new Set<ColumnId>(['field:personInImage', 'field:personInImageDetails']);
/** Where something stands in our house, or what only programs read. */
const OURS: ReadonlySet<string> = new Set(['field:regions', 'field:imageRegion', 'field:stretches', 'field:position']);

/** What a link may say of a picture: fields, and what the camera noted; nothing of files, drives, numbers and people. */
export const SHOWN_COLUMNS: readonly ColumnId[] = COLUMN_IDS.filter((id) => {
  const { group } = columnFacts(id);
  return (group === 'Fields' || group === 'Picture') && !OURS.has(id) && !OF_PEOPLE.has(id);
});

/** What a link shows below a picture. */
export function columnsOf({
  columns,
  people,
  terms,
}: {
  columns: readonly ColumnId[];
  people: boolean;
  terms: boolean;
}): ColumnId[] {
  return [
    ...columns.filter((id) => SHOWN_COLUMNS.includes(id)),
    ...(people ? (['field:personInImage'] as const) : []),
    ...(terms ? (['terms'] as const) : []),
  ];
}
