// The photos that a pin holds: looked at, taken off, and two of them laid over one another.

import { useState } from 'react';
import { Link } from 'react-router';
import type { Photo } from '@stellin/contract/photos';
import type { PlanPin } from '@stellin/contract/plans';
import { countText } from '@stellin/contract/wording';
import { previewUrl } from '../foundation/api';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { shownKey } from '../foundation/keys';
import { Kbd } from '../parts/Kbd';
import { Queried } from '../parts/Queried';
import { BLOCK, useBlock } from '../photos/queries';
import { PinThenNow } from './PinThenNow';
import type { PlanWork } from './usePlanWork';

export function PinPhotos({ work, pin }: { work: PlanWork; pin: PlanPin }) {
  const photos = useBlock({ query: pin.query, sort: 'taken' }, 0);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [laid, setLaid] = useState<readonly [Photo, Photo] | null>(null);
  const { mayGive, selection, planId, change, give } = work;
  const toggle = (id: number) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    setChosen(next);
  };
  return (
    <div className="mt-2">
      <div className="mb-1 flex items-center gap-2">
        <h3 className="text-[12px] font-semibold text-ink-2">{countText(pin.photos, 'photo')}</h3>
        <Link to={deskLink(pin.query)} className="ml-auto text-[12px] text-slate hover:underline">
          On the Desk
        </Link>
      </div>
      {mayGive && (
        <Button
          className="mb-2 w-full justify-center"
          disabled={selection === null}
          onClick={() => give(pin, selection)}
        >
          Put the chosen photos here <Kbd>{shownKey('pin')}</Kbd>
        </Button>
      )}
      <Queried query={photos}>
        {(shown) => {
          const two = shown.filter(({ id }) => chosen.has(id));
          const [below, above, third] = two;
          return (
            <>
              <ul aria-label={`Photos at ${pin.name}`} className="grid max-h-52 grid-cols-3 gap-1 overflow-y-auto">
                {shown.map(({ id, name, previewVersion, takenAt }) => (
                  <li key={id}>
                    <button
                      type="button"
                      aria-pressed={chosen.has(id)}
                      aria-label={name}
                      title={[name, takenAt?.slice(0, 10)].filter(Boolean).join(' · ')}
                      className={`flex h-16 w-full items-center justify-center border-2 bg-ground ${chosen.has(id) ? 'border-spruce' : 'border-transparent'}`}
                      onClick={() => toggle(id)}
                    >
                      {previewVersion > 0 ? (
                        <img
                          src={previewUrl(id, previewVersion)}
                          alt=""
                          loading="lazy"
                          draggable={false}
                          className="max-h-full max-w-full"
                        />
                      ) : (
                        <span className="truncate px-1 font-mono text-[10px] text-ink-2">{name}</span>
                      )}
                    </button>
                  </li>
                ))}
              </ul>
              {pin.photos > BLOCK && <p className="text-[12px] text-ink-2">The first {BLOCK} are shown.</p>}
              {shown.length > 0 && (
                <div className="mt-2 flex flex-wrap gap-2">
                  <Button
                    disabled={!below || !above || third !== undefined}
                    title="Choose two photos of this pin"
                    onClick={() => below && above && setLaid([below, above])}
                  >
                    Then and now …
                  </Button>
                  {mayGive && planId !== undefined && (
                    <Button
                      disabled={chosen.size === 0 || change.isPending}
                      onClick={() =>
                        change.mutate(
                          {
                            ...{ kind: 'unpinPhotos', planId, pinId: pin.id },
                            selection: { query: null, minus: [], plus: [...chosen] },
                          },
                          { onSuccess: () => setChosen(new Set()) },
                        )
                      }
                    >
                      Take off
                    </Button>
                  )}
                </div>
              )}
            </>
          );
        }}
      </Queried>
      {laid && <PinThenNow below={laid[0]} above={laid[1]} pin={pin} onClose={() => setLaid(null)} />}
    </div>
  );
}
