// The demo's drive bay: a stand-in for plugging drives in and out, also at another place.

import { bayRoutes } from '@stellin/contract/drives';
import { useState } from 'react';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { useBay, useBayAction, useBayTouch } from '../drives/queries';
import { Select } from '../parts/Select';

export function DriveBay() {
  const { data } = useBay();
  const mayChange = useMayCall(bayRoutes.attach);
  const action = useBayAction();
  const touch = useBayTouch();
  const [slot, setSlot] = useState('');
  if (!data?.drives.length) return null;
  const taken = new Set(data.drives.map(({ attachedAt }) => attachedAt));
  const free = data.slots.filter((name) => !taken.has(name));
  return (
    <section aria-label="Drive bay" className="mt-auto border-t border-line px-4 py-3">
      <h2 className="mb-1 text-[12px] font-semibold text-ink-2">Drive bay of the demo</h2>
      <ul className="space-y-1">
        {data.drives.map(({ name, label, attachedAt }) => (
          <li key={name} className="flex items-center gap-2">
            <span className="truncate">{label}</span>
            <span className="ml-auto font-mono text-[11px] whitespace-nowrap text-ink-3">{attachedAt ?? 'shelf'}</span>
            {mayChange && attachedAt && (
              <button
                type="button"
                className="text-[12px] text-slate hover:underline"
                title="A stand-in for another program changes five pictures on this drive"
                aria-label={`Let another program change files of ${label}`}
                disabled={touch.isPending}
                onClick={() => touch.mutate({ name, count: 5 })}
              >
                Touch
              </button>
            )}
            {mayChange && (
              <Button
                className="!h-6 !px-2 text-[12px]"
                disabled={action.isPending}
                aria-label={attachedAt ? `Unplug ${label}` : `Plug ${label} in`}
                onClick={() =>
                  action.mutate(attachedAt ? { name, plug: 'out' } : { name, plug: 'in', slot: slot || undefined })
                }
              >
                {attachedAt ? 'Unplug' : 'Plug in'}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {mayChange && free.length > 0 && (
        <label className="mt-2 flex items-center gap-2 text-[12px] text-ink-2">
          Plug in at
          <Select
            className="h-6"
            value={free.includes(slot) ? slot : ''}
            onChange={setSlot}
            options={[
              { value: '', label: 'the first free slot' },
              ...free.map((name) => ({ value: name, label: name })),
            ]}
          />
        </label>
      )}
    </section>
  );
}
