// Told where photos are taken in: some were taken with a clock that is known to be wrong. It is proposed, never done by itself.

import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { aheadText, daysText } from './clockText';
import { useClocks } from './queries';

export function ClockNotice() {
  const { data: clocks = [] } = useClocks();
  const mayChange = useMayChange('putClocksRight');
  const change = useChange();
  const wrong = clocks.filter(({ photos }) => photos > 0);
  if (wrong.length === 0 || !mayChange) return null;
  return (
    <section aria-label="Wrong clocks" className="rounded border border-amber bg-card px-3 py-2">
      {wrong.map((clock) => (
        <p key={clock.id} className="flex flex-wrap items-center gap-2">
          {countText(clock.photos, 'photo')} of {clock.camera} say what its clock said, which was{' '}
          {aheadText(clock.aheadSeconds)} ({daysText(clock)}).
          <Button
            disabled={change.isPending}
            onClick={() =>
              change.mutate({ kind: 'putClocksRight', selection: { query: clock.query, minus: [], plus: [] } })
            }
          >
            Put them right
          </Button>
        </p>
      ))}
    </section>
  );
}
