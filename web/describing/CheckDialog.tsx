// The check before a delivery: what the chosen photos lack of what the team’s rules ask for.

import { MAX_CHECKED } from '@stellin/contract/describing';
import type { Selection } from '@stellin/contract/photos';
import { countText, numberText } from '@stellin/contract/wording';
import { NOTHING } from '../photos/chosen';
import { useSelection } from '../photos/selection';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { partLabel } from './partLabel';
import { useCheck } from './queries';

interface Props {
  selection: Selection;
  onClose: () => void;
}

export function CheckDialog({ selection, onClose }: Props) {
  const { data } = useCheck(selection);
  const { setChosen } = useSelection();
  const choose = (first: readonly number[]) => {
    setChosen({ ...NOTHING, plus: new Set(first) });
    onClose();
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Check before delivery">
      {data && (
        <>
          <p className={data.ready === data.photos ? 'text-spruce' : ''}>
            {data.ready === data.photos
              ? `All ${countText(data.photos, 'photo')} have what the rules ask for.`
              : `${numberText(data.ready)} of ${countText(data.photos, 'photo')} have all that the rules ask for.`}
          </p>
          {data.private > 0 && (
            <p className="mt-1 text-amber">
              {countText(data.private, 'photo')} marked private {data.private === 1 ? 'stays' : 'stay'} in the archive.
            </p>
          )}
          {data.rules.length === 0 && (
            <p className="mt-2 text-ink-2">
              There are no rules yet: a keeper says under “What counts as described” what photos must have.
            </p>
          )}
          {data.rules.map(({ name, lacking }) => (
            <section key={name} className="mt-3">
              <h3 className="text-[12px] font-semibold text-ink-2">{name}</h3>
              <ul className="divide-y divide-line rounded border border-line">
                {lacking.map(({ part, photos, first }) => (
                  <li key={part} className="flex min-h-9 items-center gap-3 px-3 py-1">
                    {partLabel(part)}
                    <span className={`figures ml-auto ${photos > 0 ? 'font-semibold text-amber' : 'text-ink-2'}`}>
                      {photos > 0 ? `${numberText(photos)} lack it` : 'all have it'}
                    </span>
                    {photos > 0 && (
                      <Button className="!h-7" onClick={() => choose(first)}>
                        {photos > MAX_CHECKED ? `Choose the first ${numberText(MAX_CHECKED)}` : 'Choose these'}
                      </Button>
                    )}
                  </li>
                ))}
              </ul>
            </section>
          ))}
          <div className="mt-4 flex justify-end">
            <Button look="primary" onClick={onClose}>
              Done
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}
