// Whether the chosen photos have a term: all, some, none of them, or only narrower ones of it.

import { Checkbox } from '../parts/Checkbox';

export type GivenState = 'all' | 'some' | 'narrower' | 'none';

export const STATE_LABELS: Record<GivenState, string> = {
  all: 'on all chosen photos',
  some: 'on some of the chosen photos',
  narrower: 'only narrower ones on the chosen photos',
  none: 'on none of the chosen photos',
};

interface Props {
  label: string;
  state: GivenState;
  onSet: (given: boolean) => void;
}

export function CheckMark({ label, state, onSet }: Props) {
  return (
    <>
      <Checkbox
        aside
        label={label}
        checked={state === 'some' ? 'some' : state === 'all'}
        onChange={() => onSet(state !== 'all')}
      />
      {state === 'narrower' && (
        <span
          className="size-1.5 shrink-0 rounded-full bg-spruce"
          title="Implied: the chosen photos have narrower terms"
        />
      )}
    </>
  );
}
