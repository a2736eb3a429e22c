// How bundles stand in the ledger.

import { recordedValues, NOTHING, type PhotoAspect } from '../ledger/kinds';
import { BUNDLE_STATE, setState } from './states';

function shownState(value: unknown): string {
  const { bundle, leads, foldedInto } = recordedValues(value);
  if (typeof bundle !== 'number') return NOTHING;
  return leads === true
    ? 'lead of a bundle'
    : typeof foldedInto === 'number'
      ? 'in a closed bundle'
      : 'in an open bundle';
}

export const bundleAspects = {
  bundle: {
    effect: (isMeant) => [
      `update photo p set ${setState('l.after')} from ledger_photo l where ${isMeant} and l.aspect = 'bundle' and p.id = l.photo_id`,
    ],
    stillBefore: `(select ${BUNDLE_STATE} from photo p where p.id = l.photo_id) = l.before`,
    show: ({ before, after }) => {
      const [was, is] = [shownState(before), shownState(after)];
      const rest =
        recordedValues(before)['bundle'] !== recordedValues(after)['bundle'] && was === is ? 'another bundle' : is;
      return [{ what: 'Bundle', before: was, after: rest }];
    },
  },
} as const satisfies Record<string, PhotoAspect>;
