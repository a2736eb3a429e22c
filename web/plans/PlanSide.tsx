// The side of the screen of site plans: the plans, and the pins of the one that is shown, by layer.

import { Eye, EyeOff, Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, useLocation } from 'react-router';
import { deskLink } from '../parts/deskLink';
import { countText, numberText } from '@stellin/contract/wording';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { Queried } from '../parts/Queried';
import { NewPlan } from './NewPlan';
import { PinMenu } from './PinMenu';
import { layersOf } from './pinForm';
import { PinSign } from './PinSign';
import { PlanMenu } from './PlanMenu';
import type { PlanWork } from './usePlanWork';

export function PlanSide({ work }: { work: PlanWork }) {
  const [making, setMaking] = useState(false);
  const mayMake = useMayChange('makePlan');
  const { search } = useLocation();
  const { plans, plan, planId, open } = work;
  return (
    <aside className="flex w-72 shrink-0 flex-col overflow-y-auto border-r border-line bg-card p-4">
      <div className="flex items-baseline gap-3">
        <h1 className="font-title text-[22px] font-semibold">Site plans</h1>
        <Link to={{ pathname: '/places', search }} className="ml-auto text-slate hover:underline">
          Map
        </Link>
      </div>
      <Queried query={plans}>
        {(all) => (
          <section aria-labelledby="plans" className="mt-3">
            <div className="mb-1 flex items-center">
              <h2 id="plans" className="text-[12px] font-semibold text-ink-2">
                {countText(all.length, 'plan')}
              </h2>
              {mayMake && (
                <Button className="ml-auto" onClick={() => setMaking(true)}>
                  <Plus size={14} /> New …
                </Button>
              )}
            </div>
            {all.length === 0 && (
              <p className="text-[12px] text-ink-2">
                Drawings, maps and aerial views with pins, on which photos are found by where they belong.
              </p>
            )}
            <ul>
              {all.map(({ id, name, photos }) => (
                <li key={id}>
                  <button
                    type="button"
                    aria-pressed={id === planId}
                    className={`flex w-full items-baseline gap-2 rounded px-1.5 py-0.5 text-left ${id === planId ? 'bg-spruce-pale' : 'hover:bg-ground'}`}
                    onClick={() => open(id)}
                  >
                    <span className="min-w-0 flex-1 truncate">{name}</span>
                    <span className="figures text-[12px] text-ink-2">{numberText(photos)}</span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        )}
      </Queried>
      {planId !== undefined && <Queried query={plan}>{() => <PinsByLayer work={work} />}</Queried>}
      {making && (
        <NewPlan
          chosenId={chosenOf(work)}
          onClose={() => setMaking(false)}
          onMade={(id) => {
            setMaking(false);
            open(id);
          }}
        />
      )}
    </aside>
  );
}

/** The photo that is chosen, if it is just one. */
function chosenOf({ meant }: PlanWork): number | null {
  const [one = null, other] = meant.kind === 'some' ? meant.ids : [];
  return other === undefined ? one : null;
}

function PinsByLayer({ work }: { work: PlanWork }) {
  const { plan, pins, pin, hidden, setHidden, choose, map } = work;
  if (!plan.data) return null;
  const { name, note, query, photos } = plan.data;
  const layers = layersOf(pins);
  const toggle = (layer: string) => {
    const next = new Set(hidden);
    if (!next.delete(layer)) next.add(layer);
    setHidden(next);
  };
  return (
    <section aria-labelledby="plan" className="mt-4 border-t border-line pt-3">
      <div className="flex items-baseline gap-2">
        <h2 id="plan" className="min-w-0 flex-1 truncate font-title text-[16px] font-semibold" title={name}>
          {name}
        </h2>
        <PlanMenu work={work} plan={plan.data} />
      </div>
      {note !== '' && <p className="text-[12px] whitespace-pre-line text-ink-2">{note}</p>}
      <p className="text-[12px] text-ink-2">
        {countText(pins.length, 'pin')} ·{' '}
        <Link to={deskLink(query)} className="text-slate hover:underline">
          {countText(photos, 'photo')} on the Desk
        </Link>
      </p>
      {layers.map((layer) => {
        const isHidden = hidden.has(layer);
        const onIt = pins.filter((each) => each.layer === layer);
        return (
          <div key={layer} className="mt-2">
            {(layers.length > 1 || layer !== '') && (
              <div className="flex items-center gap-1.5 text-[12px] font-semibold text-ink-2">
                <button
                  type="button"
                  aria-pressed={!isHidden}
                  aria-label={`Show the layer ${layer || 'of pins on none'}`}
                  title={isHidden ? 'Show this layer' : 'Hide this layer'}
                  className="text-ink-3 hover:text-ink"
                  onClick={() => toggle(layer)}
                >
                  {isHidden ? <EyeOff size={14} /> : <Eye size={14} />}
                </button>
                <span className="min-w-0 truncate">{layer || 'On no layer'}</span>
              </div>
            )}
            {!isHidden && (
              <ul aria-label={layer === '' ? 'Pins' : `Pins on the layer ${layer}`}>
                {onIt.map((each) => (
                  <li
                    key={each.id}
                    className={`flex items-center gap-1.5 rounded pr-1 ${each.id === pin?.id ? 'bg-spruce-pale' : 'hover:bg-ground'}`}
                  >
                    <button
                      type="button"
                      aria-pressed={each.id === pin?.id}
                      className="flex min-w-0 flex-1 items-center gap-1.5 py-0.5 text-left"
                      onClick={() => {
                        choose(each);
                        map.current?.show(each);
                      }}
                    >
                      <PinSign pin={each} plain />
                      <span className="min-w-0 flex-1 truncate">
                        {each.label || <i className="text-ink-2">without a label</i>}
                      </span>
                      <span className="figures text-[12px] text-ink-2">{numberText(each.photos)}</span>
                    </button>
                    <PinMenu work={work} pin={each} />
                  </li>
                ))}
              </ul>
            )}
          </div>
        );
      })}
    </section>
  );
}
