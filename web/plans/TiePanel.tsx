// Tying a plan to the map: a spot of the plan is picked, then it is said where it is.

import { X } from 'lucide-react';
import { useState } from 'react';
import type { Spot } from '@stellin/core/plans/pins';
import { tiedBy, type Tie } from '@stellin/core/plans/tying';
import type { Point } from '@stellin/core/timeplace/areas';
import type { Plan } from '@stellin/contract/plans';
import { Button } from '../parts/Button';
import { TextField } from '../parts/Field';
import { PlaceFinder } from '../parts/PlaceFinder';
import { distanceText, parsePoint, pointText } from '../places/placeText';
import type { PlanWork } from './usePlanWork';

export function TiePanel({ work, plan }: { work: PlanWork; plan: Plan }) {
  const [ties, setTies] = useState<readonly Tie[]>(plan.ties);
  const { spots, setMode, setPanel, change } = work;
  const [spot] = spots;
  const leave = () => {
    setMode('look');
    setPanel('pin');
  };
  const tied = tiedBy(ties, plan);
  return (
    <section
      aria-labelledby="tie"
      className="flex w-72 shrink-0 flex-col overflow-y-auto border-l border-line bg-card p-3"
    >
      <h2 id="tie" className="font-title text-[16px] font-semibold">
        Tie {plan.name} to the map
      </h2>
      <p role="status" className="my-2 text-[12px] text-ink-2">
        {spot
          ? 'Say where this spot is.'
          : ties.length < 2
            ? 'Pick a spot on the plan of which you know where it is. Two tie the plan to the map.'
            : 'Three and more also stretch it. Pick a further spot, or keep it so.'}
      </p>
      {spot && (
        <WhereIs
          key={`${spot.x} ${spot.y}`}
          spot={spot}
          onSaid={(tie) => {
            setTies([...ties, tie]);
            setMode('tie');
          }}
        />
      )}
      <ol className="mt-2">
        {ties.map((tie, i) => (
          <li key={`${tie.x} ${tie.y}`} className="flex items-center gap-2 text-[12px]">
            <b>{i + 1}</b>
            <span className="font-mono">{pointText(tie)}</span>
            <Button
              aria-label={`Remove tie ${i + 1}`}
              className="ml-auto"
              onClick={() => setTies(ties.filter((each) => each !== tie))}
            >
              <X size={12} />
            </Button>
          </li>
        ))}
      </ol>
      {tied && <p className="mt-2 text-[12px] text-ink-2">The plan is {distanceText(tied.metresWide)} wide.</p>}
      <div className="mt-3 flex gap-2">
        <Button
          look="primary"
          disabled={change.isPending || ties === plan.ties}
          onClick={() => change.mutate({ kind: 'changePlan', planId: plan.id, ties: [...ties] }, { onSuccess: leave })}
        >
          Keep it so
        </Button>
        <Button onClick={leave}>Cancel</Button>
      </div>
    </section>
  );
}

/** Where a spot is, typed or found by name. */
function WhereIs({ spot, onSaid }: { spot: Spot; onSaid: (tie: Tie) => void }) {
  const [typed, setTyped] = useState('');
  const point = parsePoint(typed);
  const say = ({ latitude, longitude }: Point) => onSaid({ ...spot, latitude, longitude });
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (point) say(point);
      }}
    >
      <TextField
        label="Latitude, longitude"
        autoFocus
        placeholder="55.9598, 3.3051"
        value={typed}
        error={typed.trim() !== '' && !point ? 'Write a latitude and a longitude, as 54.12, 8.5.' : undefined}
        onChange={(event) => setTyped(event.target.value)}
      />
      <PlaceFinder label="Or a place by its name" onPick={say} />
      <Button type="submit" disabled={!point}>
        It is there
      </Button>
    </form>
  );
}
