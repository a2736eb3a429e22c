// What placing does before it is done: where the chosen photos are set, and the names that are filled in.

import { useState } from 'react';
import { fieldOf } from '@stellin/core/metadata/fields';
import type { Point } from '@stellin/core/timeplace/areas';
import {
  NAME_FIELDS,
  nameEdits,
  NAMING_WAYS,
  positionEdit,
  type NamesOfPlace,
  type NamingWay,
} from '@stellin/core/describing/placing';
import type { Whereabouts } from '@stellin/contract/places';
import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { Dial } from '../parts/Dial';
import { Queried } from '../parts/Queried';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { NAMING_TEXTS } from './namingText';
import { distanceText, pointText } from './placeText';
import { useWhereabouts } from './queries';
import type { Pin } from './usePin';

interface Props {
  point: Point;
  pin: Pin;
  /** Null: nothing is chosen. */
  selection: Selection | null;
  photos: number;
  onPlaced: () => void;
}

export function Placing({ point, pin, selection, photos, onPlaced }: Props) {
  const { looks, end } = pin;
  const [way, setWay] = useState<NamingWay>('fill');
  const [shown, setShown] = useState(false);
  const whereabouts = useWhereabouts(point);
  const change = useChange();
  const place = (names: NamesOfPlace) => {
    if (!selection) return;
    if (end) {
      change.mutate(
        { kind: 'spreadPhotos', selection, from: point, to: end, naming: { way, shown } },
        { onSuccess: onPlaced },
      );
      return;
    }
    const edits = [positionEdit({ ...point, direction: looks ?? undefined }), ...nameEdits(names, { way, shown })];
    change.mutate({ kind: 'setFields', selection, edits }, { onSuccess: onPlaced });
  };
  return (
    <section aria-labelledby="placing" className="flex w-80 shrink-0 flex-col border-l border-line bg-card">
      <div className="min-h-0 flex-1 overflow-y-auto px-3 pt-2">
        <h2 id="placing" className="font-title text-[16px] font-semibold">
          Place here
        </h2>
        <p className="mb-2 font-mono text-[12px] text-ink-2">{pointText(point)}</p>
        <Queried query={whereabouts} pending={<p className="text-ink-2">Looking where this is …</p>}>
          {(found) => (found ? <Names found={found} /> : null)}
        </Queried>
        <h3 className="mt-3 text-[12px] font-semibold text-ink-2">Names</h3>
        <RadioGroup label="What becomes of the names" value={way} onChange={setWay}>
          {NAMING_WAYS.map((each) => (
            <Radio key={each} value={each}>
              {NAMING_TEXTS[each]}
            </Radio>
          ))}
        </RadioGroup>
        <Checkbox className="mt-2" checked={shown} onChange={setShown}>
          Also as location shown
        </Checkbox>
        {end === undefined && <Direction {...pin} />}
        {photos > 1 && <Spreading {...pin} />}
      </div>
      <div className="flex gap-2 border-t border-line px-3 py-2">
        <Button
          look="primary"
          disabled={!selection || !whereabouts.data || end === null || change.isPending}
          onClick={() => whereabouts.data && place(whereabouts.data.names)}
        >
          {photos > 0 ? `${end ? 'Spread' : 'Place'} ${countText(photos, 'photo')}` : 'Choose photos to place'}
        </Button>
        <Button onClick={pin.drop}>Not here</Button>
      </div>
    </section>
  );
}

function Names({ found: { names, ownId, town, metres } }: { found: Whereabouts }) {
  const said = NAME_FIELDS.filter((name) => names[name] !== '');
  return (
    <>
      {said.length === 0 ? (
        <p className="my-1 text-ink-2">No place is known here; only the position is set.</p>
      ) : (
        <dl className="my-1 grid grid-cols-[max-content_1fr] gap-x-3">
          {said.map((name) => (
            <div key={name} className="contents">
              <dt className="text-ink-2">{fieldOf(name).label}</dt>
              <dd className="min-w-0 truncate">{names[name]}</dd>
            </div>
          ))}
        </dl>
      )}
      {ownId === null && metres >= 0 && (
        <p className="text-[12px] text-ink-2">
          {distanceText(metres)} from the middle of {town}
        </p>
      )}
    </>
  );
}

/** Where the camera looked. */
function Direction({ looks, turn }: Pick<Pin, 'looks' | 'turn'>) {
  return (
    <div className="mt-3 mb-2">
      <Checkbox checked={looks !== null} onChange={(on) => turn(on ? 0 : null)}>
        Direction of view
      </Checkbox>
      {looks !== null && (
        <div className="mt-1.5 flex items-center gap-3">
          <Dial label="Direction of view" degrees={looks} onTurn={turn} />
          <span className="figures">{looks}° from true north</span>
        </div>
      )}
    </div>
  );
}

/** Several photos along a line: the first taken here, the last at its other end. */
function Spreading({ end, setEnd }: Pick<Pin, 'end' | 'setEnd'>) {
  return (
    <div className="mt-2 mb-3">
      <Checkbox checked={end !== undefined} onChange={(on) => setEnd(on ? null : undefined)}>
        Spread along a line by time
      </Checkbox>
      {end !== undefined && (
        <p className="mt-1 text-[12px] text-ink-2">
          {end ? `The last one is set at ${pointText(end)}.` : 'Pick the point of the last one on the map.'}
        </p>
      )}
    </div>
  );
}
