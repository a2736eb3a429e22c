// What each action on files is called, and what is said before it is done.

import type { FilingAction, FilingPlan } from '@stellin/contract/filing';
import { countText } from '@stellin/contract/wording';
import { sizeText } from '@stellin/contract/sizeText';

interface Wording {
  title: string;
  /** On the button, before the count. */
  verb: string;
  explains: string;
}

export const WORDINGS: Record<FilingAction, Wording> = {
  move: { title: 'Move photos', verb: 'Move', explains: 'Sidecars go along. All that was said of them stays.' },
  copy: {
    title: 'Copy photos',
    verb: 'Copy',
    explains: 'The copies are photos of their own, described like the first ones. Sidecars go along.',
  },
  rename: {
    title: 'Rename photos',
    verb: 'Rename',
    explains: 'Sidecars and files of the same name are renamed alike.',
  },
  trash: {
    title: 'Trash photos',
    verb: 'Trash',
    explains: 'Their files go to the trash of their drive, from which they can be restored until it is emptied.',
  },
  restore: { title: 'Restore photos', verb: 'Restore', explains: 'Their files go back to where they came from.' },
  remove: {
    title: 'Take photos out of the catalogue',
    verb: 'Take out',
    explains: 'Their files stay as they are. What was said of them is kept, and they can be brought back.',
  },
  return: { title: 'Bring photos back', verb: 'Bring back', explains: 'With all that was said of them.' },
};

/** What a plan says, a sentence each. */
export function planText(plan: FilingPlan): string[] {
  const left = [
    ...(plan.away ? [`${countText(plan.away, 'photo')} on drives that are away`] : []),
    ...(plan.missing ? [`${countText(plan.missing, 'photo')} whose files are missing`] : []),
    ...(plan.readOnly ? [`${countText(plan.readOnly, 'photo')} on drives that can’t be written to`] : []),
    ...(plan.busy ? [`${countText(plan.busy, 'photo')} that are still being moved`] : []),
  ];
  return [
    `${countText(plan.photos, 'photo')}, ${sizeText(plan.bytes)}.`,
    ...(plan.taken
      ? [
          `${countText(plan.taken, 'name')} ${plan.taken === 1 ? 'is' : 'are'} taken there: a number is added, nothing is written over.`,
        ]
      : []),
    ...(left.length ? [`Left out: ${left.join(', ')}.`] : []),
  ];
}
