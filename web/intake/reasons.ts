import type { Reason } from '@stellin/core/vocabulary/matching';

/** Why a term is proposed, in words. */
export const REASON_TEXTS: Record<Reason, string> = {
  label: 'the same label',
  case: 'but for case or accents',
  'other name': 'another name of it',
  'other language': 'in another language',
  path: 'the same path',
  plural: 'singular or plural',
  spelling: 'another spelling',
  'end of path': 'end of the path',
};
