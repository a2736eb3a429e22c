// How ratings and privacy stand in the ledger.

import { clockText } from '@stellin/core/media/moments';
import { NOTHING, showAs, type PhotoAspect } from '../ledger/kinds';

export const photoAspects = {
  private: {
    effect: (isMeant) => [
      `update photo p set private = (l.after)::boolean from ledger_photo l where ${isMeant} and l.aspect = 'private' and p.id = l.photo_id`,
    ],
    stillBefore: `(select to_jsonb(p.private) from photo p where p.id = l.photo_id) = l.before`,
    show: showAs('Private'),
  },
  rating: {
    effect: (isMeant) => [
      `update photo p set rating = (l.after)::int from ledger_photo l where ${isMeant} and l.aspect = 'rating' and p.id = l.photo_id`,
    ],
    stillBefore: `(select to_jsonb(p.rating) from photo p where p.id = l.photo_id) = l.before`,
    show: showAs('Rating'),
  },
  poster: {
    effect: (isMeant) => [
      `update photo p set poster = (l.after #>> '{}')::float8 from ledger_photo l where ${isMeant} and l.aspect = 'poster' and p.id = l.photo_id`,
    ],
    stillBefore: `(select coalesce(to_jsonb(p.poster), 'null') from photo p where p.id = l.photo_id) = l.before`,
    show: ({ before, after }) => [
      { what: 'Picture of the film', before: momentText(before), after: momentText(after) },
    ],
  },
} as const satisfies Record<string, PhotoAspect>;

function momentText(seconds: unknown): string {
  return typeof seconds === 'number' ? `at ${clockText(seconds)}` : NOTHING;
}
