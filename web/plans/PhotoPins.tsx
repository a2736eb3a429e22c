// In the drawer: the pins of site plans that hold the photo in focus, and putting the chosen photos at one.

import { X } from 'lucide-react';
import { Link } from 'react-router';
import { useState } from 'react';
import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { shownKey } from '../foundation/keys';
import { useMayChange } from '../foundation/session';
import { useKeys } from '../foundation/useKeys';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { Failed } from '../parts/Queried';
import { Kbd } from '../parts/Kbd';
import { Select } from '../parts/Select';
import { usePinsOfPhoto, usePlan, usePlans } from './queries';
import { useLastPin } from './useLastPin';

interface Props {
  selection: Selection;
  count: number;
  /** The photo in focus, of which it is told. */
  photoId: number;
}

export function PhotoPins({ selection, count, photoId }: Props) {
  const pins = usePinsOfPhoto(photoId);
  const plans = usePlans();
  const mayGive = useMayChange('pinPhotos');
  const change = useChange();
  const found = pins.data ?? [];
  if (found.length === 0 && (plans.data ?? []).length === 0) return null;
  return (
    <section aria-label="Site plans" className="mt-3 border-t border-line pt-2">
      <h3 className="text-[12px] font-semibold text-ink-2">Site plans</h3>
      <Failed query={pins} />
      {found.length === 0 && <p className="text-[12px] text-ink-2">This photo is at no pin.</p>}
      <ul>
        {found.map(({ planId, pinId, plan, pin, query }) => (
          <li key={pinId} className="flex items-center gap-1">
            <Link to={`/places/plans/${planId}`} className="text-slate hover:underline">
              {plan}
            </Link>
            <span className="text-ink-3">/</span>
            <Link to={deskLink(query)} className="min-w-0 truncate text-slate hover:underline">
              {pin}
            </Link>
            {mayGive && (
              <Button
                look="quiet"
                className="ml-auto !h-6"
                aria-label={`Take the chosen photos off ${plan}/${pin}`}
                disabled={change.isPending}
                onClick={() => change.mutate({ kind: 'unpinPhotos', planId, pinId, selection })}
              >
                <X size={12} />
              </Button>
            )}
          </li>
        ))}
      </ul>
      {mayGive && <PutAtPin selection={selection} count={count} />}
    </section>
  );
}

function PutAtPin({ selection, count }: { selection: Selection; count: number }) {
  const { pin: last, note } = useLastPin();
  const plans = usePlans().data ?? [];
  const [planId, setPlanId] = useState<number | undefined>();
  const plan = usePlan(planId ?? plans[0]?.id).data;
  const change = useChange();
  const put = (pinId: number) => change.mutate({ kind: 'pinPhotos', pinId, selection });
  useKeys({ pin: () => last && put(last.pinId) });
  return (
    <div className="mt-2 flex flex-col gap-1.5">
      {last && (
        <Button disabled={change.isPending} onClick={() => put(last.pinId)}>
          <span className="min-w-0 truncate">
            {countText(count, 'photo')} to {last.name}
          </span>
          <Kbd>{shownKey('pin')}</Kbd>
        </Button>
      )}
      <div className="flex gap-1.5">
        <Select
          label="Site plan"
          className="min-w-0 flex-1"
          value={plan?.id ?? 0}
          onChange={setPlanId}
          options={plans.map(({ id, name }) => ({ value: id, label: name }))}
        />
        <Select
          label="Put at a pin"
          className="min-w-0 flex-1"
          value={0}
          onChange={(pinId) => {
            const chosen = plan?.pinned.find(({ id }) => id === pinId);
            if (!plan || !chosen) return;
            note({ pinId, name: `${plan.name}/${chosen.name}` });
            put(pinId);
          }}
          options={[
            { value: 0, label: 'Put at …', disabled: true },
            ...(plan?.pinned ?? []).map(({ id, number, label }) => ({
              value: id,
              label: label === '' ? String(number) : `${number} · ${label}`,
            })),
          ]}
        />
      </div>
    </div>
  );
}
