// Photos with a position on the plan, by the pin they seem to belong to: put there with one click, pin by pin or all.

import { X } from 'lucide-react';
import { countText } from '@stellin/contract/wording';
import type { Plan } from '@stellin/contract/plans';
import { previewUrl } from '../foundation/api';
import { Button } from '../parts/Button';
import { Queried } from '../parts/Queried';
import { PinSign } from './PinSign';
import { useProposals } from './queries';
import type { PlanWork } from './usePlanWork';

const SHOWN = 8;

export function ProposalsPanel({ work, plan }: { work: PlanWork; plan: Plan }) {
  const proposals = useProposals(plan.id, work.query);
  const { change, pins, setPanel } = work;
  return (
    <section
      aria-labelledby="proposals"
      className="flex w-72 shrink-0 flex-col overflow-y-auto border-l border-line bg-card p-3"
    >
      <h2 id="proposals" className="flex items-center gap-2 font-title text-[16px] font-semibold">
        Proposed by positions
        <Button look="quiet" aria-label="Close" className="ml-auto" onClick={() => setPanel('pin')}>
          <X size={14} />
        </Button>
      </h2>
      <Queried query={proposals}>
        {({ pins: proposed, without, looked }) => (
          <>
            <p role="status" className="my-2 text-[12px] text-ink-2">
              {looked === 0
                ? 'No photo of the result lies on the plan without a pin.'
                : `${countText(looked, 'photo')} of the result on the plan without a pin${without > 0 ? `; ${without} far from every pin` : ''}.`}
            </p>
            <ul>
              {proposed.map(({ pinId, photos }) => {
                const pin = pins.find(({ id }) => id === pinId);
                if (!pin) return null;
                const selection = { query: null, minus: [], plus: photos.map(({ photoId }) => photoId) };
                return (
                  <li key={pinId} className="border-t border-line py-2">
                    <div className="flex items-center gap-2">
                      <PinSign pin={pin} plain />
                      <b className="min-w-0 flex-1 truncate">{pin.name}</b>
                      <Button
                        disabled={change.isPending}
                        onClick={() => change.mutate({ kind: 'pinPhotos', pinId, selection })}
                      >
                        Put {countText(photos.length, 'photo')} there
                      </Button>
                    </div>
                    <div className="mt-1 flex gap-1 overflow-hidden">
                      {photos
                        .slice(0, SHOWN)
                        .map(({ photoId, name, version }) =>
                          version > 0 ? (
                            <img
                              key={photoId}
                              src={previewUrl(photoId, version)}
                              alt={name}
                              title={name}
                              loading="lazy"
                              className="h-10"
                            />
                          ) : null,
                        )}
                    </div>
                  </li>
                );
              })}
            </ul>
          </>
        )}
      </Queried>
    </section>
  );
}
