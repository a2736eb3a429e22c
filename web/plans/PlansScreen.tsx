// Site plans: the plan large, its layers and pins beside it, and photos below to be put on them.

import { MapPin, Maximize, Minus, MousePointer2, Plus, Spline, Telescope } from 'lucide-react';
import type { ComponentType } from 'react';
import { useKeys } from '../foundation/useKeys';
import { useDragging } from '../parts/dragging/dragging';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { Strip } from '../photos/Strip';
import { MapQuery } from '../places/MapQuery';
import type { Mode } from './pinForm';
import { PinPanel } from './PinPanel';
import { Pins } from './Pins';
import { PlanMap } from './PlanMap';
import { PlanSide } from './PlanSide';
import { ProposalsPanel } from './ProposalsPanel';
import { TiePanel } from './TiePanel';
import { usePlanWork, type PlanWork } from './usePlanWork';

export function PlansScreen() {
  const work = usePlanWork();
  const { plan, query, offered, look, meant, setMeant, onlyFree, setOnlyFree, pin, panel } = work;
  useKeys({
    pin: () => pin && work.mayGive && work.give(pin, work.selection),
    chooseNone: () => (work.mode === 'look' ? setMeant({ kind: 'some', ids: new Set() }) : work.stepBack()),
  });
  return (
    <div className="flex h-full">
      <PlanSide work={work} />
      <div className="flex min-w-0 flex-1 flex-col">
        <MapQuery query={query} onShow={look} />
        <div className="flex min-h-0 flex-1">
          {plan.data ? (
            <>
              <PlanArea work={work} plan={plan.data} />
              {panel === 'tie' && <TiePanel key={plan.data.id} work={work} plan={plan.data} />}
              {panel === 'proposals' && <ProposalsPanel work={work} plan={plan.data} />}
              {panel === 'pin' &&
                (pin ? <PinPanel key={pin.id} work={work} pin={pin} /> : <NoPin work={work} plan={plan.data} />)}
            </>
          ) : (
            <p className="p-6 text-ink-2">{work.plans.data?.length === 0 ? 'There is no site plan yet.' : ''}</p>
          )}
        </div>
        <div className="flex h-40 shrink-0 border-t border-line">
          <Strip key={offered} query={offered} meant={meant} onMeant={setMeant}>
            {plan.data && (
              <Checkbox checked={onlyFree} onChange={setOnlyFree}>
                Only those without a pin here
              </Checkbox>
            )}
          </Strip>
        </div>
      </div>
    </div>
  );
}

/** What stands beside the plan while no pin is chosen: so nothing moves when one is. */
function NoPin({ work, plan }: { work: PlanWork; plan: Shown }) {
  const { mayPin, mayGive, pins } = work;
  return (
    <section aria-label="Pin" className="w-72 shrink-0 border-l border-line bg-card p-3 text-[12px] text-ink-2">
      <p>{pins.length === 0 ? `${plan.name} has no pins yet.` : 'Choose a pin to see its photos.'}</p>
      {mayPin && <p className="mt-2">Pins, views and areas are put on the plan with the tools above it.</p>}
      {mayGive && pins.length > 0 && (
        <p className="mt-2">Photos are dragged from below onto a pin, or chosen there and put at the chosen pin.</p>
      )}
    </section>
  );
}

type Shown = NonNullable<PlanWork['plan']['data']>;

const TOOLS: readonly { mode: Mode; label: string; Icon: ComponentType<{ size: number }> }[] = [
  { mode: 'look', label: 'Look and choose', Icon: MousePointer2 },
  { mode: 'point', label: 'Put a pin', Icon: MapPin },
  { mode: 'view', label: 'Put a view: from where, then towards what', Icon: Telescope },
  { mode: 'area', label: 'Draw an area, corner by corner', Icon: Spline },
];

const SAYS: Readonly<Record<Mode, (spots: number) => string | null>> = {
  look: () => null,
  point: () => 'Click where the pin belongs; Enter takes the middle. Esc leaves it.',
  view: (spots) => (spots === 0 ? 'Click where one stands. Esc leaves it.' : 'Now click what one looks at.'),
  area: (spots) =>
    spots < 3
      ? 'Click the corners, one after the other. Esc takes one back.'
      : 'Further corners, or close the outline.',
  tie: (spots) => (spots === 0 ? 'Click a spot of which you know where it is.' : null),
};

function PlanArea({ work, plan }: { work: PlanWork; plan: Shown }) {
  const { map, mode, spots, shown, pin, mayPin, mayGive } = work;
  const { ref, props, over } = useDragging('plan', {
    takes: mayGive ? { photo: ({ id }, _zone, at) => work.dropped(id, at) } : {},
  });
  const says = SAYS[mode](spots.length);
  return (
    <div {...props} ref={ref} className={`relative min-w-0 flex-1 ${over ? 'ring-2 ring-spruce ring-inset' : ''}`}>
      <PlanMap ref={map} plan={plan} onSpot={work.pick} picking={mode !== 'look'}>
        <Pins
          map={map}
          pins={shown}
          chosenId={pin?.id ?? null}
          onChoose={work.choose}
          onMoved={mayPin && mode === 'look' ? work.moved : undefined}
          passing={mode !== 'look'}
          drawn={spots}
        />
      </PlanMap>
      <div className="absolute top-3 right-3 flex flex-col gap-1">
        <Button aria-label="Closer" onClick={() => map.current?.zoom(1)}>
          <Plus size={16} />
        </Button>
        <Button aria-label="Farther" onClick={() => map.current?.zoom(-1)}>
          <Minus size={16} />
        </Button>
        <Button aria-label="The whole plan" onClick={() => map.current?.whole()}>
          <Maximize size={16} />
        </Button>
      </div>
      {mayPin && (
        <div role="group" aria-label="What a click does" className="absolute top-3 left-3 flex gap-1">
          {TOOLS.map(({ mode: each, label, Icon }) => (
            <Button
              key={each}
              aria-label={label}
              title={label}
              aria-pressed={mode === each}
              className={mode === each ? '!border-spruce !bg-spruce-pale' : ''}
              onClick={() => work.setMode(each)}
            >
              <Icon size={16} />
            </Button>
          ))}
          {work.close && (
            <Button look="primary" onClick={work.close}>
              Close the outline
            </Button>
          )}
        </div>
      )}
      {says && (
        <p role="status" className="absolute top-12 left-3 rounded bg-slate px-2 py-0.5 text-[12px] text-card">
          {says}
        </p>
      )}
    </div>
  );
}
