import { TEXT_FIELDS } from '@stellin/core/describing/replacing';
import { DESCRIBED_FIELDS, isTarget, type Target } from '@stellin/core/describing/targets';
import type { Selection } from '@stellin/contract/photos';
import { useAgreement } from './queries';

const ALWAYS: readonly Target[] = ['title', 'headline', 'description'];

/** Fields with texts that any of the photos has; some come in any case. */
export function useTextFields(selection: Selection): Target[] {
  const { data } = useAgreement(selection);
  const present = new Set<string>(data?.fields.map(({ target }) => target));
  const own = [...present].filter((target) => target.startsWith('custom:')).filter(isTarget);
  const table = DESCRIBED_FIELDS.map(({ id }) => id).filter(
    (id) => TEXT_FIELDS.includes(id) && (present.has(id) || ALWAYS.includes(id)),
  );
  return [...table, ...own];
}
