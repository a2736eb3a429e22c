// Clocks of cameras that went wrong for a while, and the time zones of places.

import { Plus } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { CameraClockRow } from '@stellin/contract/tracks';
import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { Menu, MenuItem } from '../parts/Menu';
import { Failed } from '../parts/Queried';
import { ClockDialog } from './ClockDialog';
import { aheadText, daysText } from './clockText';
import { LineUpDialog } from './LineUpDialog';
import { useClocks } from './queries';

/** `selection`: the photos whose zones are noted and whose cameras are lined up. */
export function ClocksPanel({ selection }: { selection: Selection }) {
  const clocks = useClocks();
  const mayNote = useMayChange('saveCameraClock');
  const mayChange = useMayChange('noteZones');
  const change = useChange();
  const [liningUp, setLiningUp] = useState(false);
  const [editing, setEditing] = useState<CameraClockRow | 'new' | null>(null);
  return (
    <section aria-labelledby="clocks">
      <div className="mb-1 flex items-center">
        <h2 id="clocks" className="text-[12px] font-semibold text-ink-2">
          Clocks
        </h2>
        {mayNote && (
          <Button className="ml-auto" aria-label="Note a wrong clock" onClick={() => setEditing('new')}>
            <Plus size={14} /> Note …
          </Button>
        )}
      </div>
      <Failed query={clocks} />
      {clocks.data?.length === 0 && (
        <p className="text-[12px] text-ink-2">
          Cameras whose clock was wrong for a while, so that later cards are put right.
        </p>
      )}
      <ul>
        {clocks.data?.map((clock) => (
          <Clock key={clock.id} {...{ clock, mayNote }} onEdit={() => setEditing(clock)} />
        ))}
      </ul>
      {mayChange && (
        <Button
          className="mt-1"
          disabled={change.isPending}
          title="Of the chosen photos, or all of the result, that have a position and no zone"
          onClick={() => change.mutate({ kind: 'noteZones', selection })}
        >
          Time zones from positions
        </Button>
      )}
      {mayNote && mayChange && (
        <Button className="mt-1" title="Of the chosen photos, or all of the result" onClick={() => setLiningUp(true)}>
          Line up two cameras …
        </Button>
      )}
      {liningUp && <LineUpDialog selection={selection} onClose={() => setLiningUp(false)} />}
      {editing && <ClockDialog clock={editing === 'new' ? null : editing} onClose={() => setEditing(null)} />}
    </section>
  );
}

function Clock({ clock, mayNote, onEdit }: { clock: CameraClockRow; mayNote: boolean; onEdit: () => void }) {
  const change = useChange();
  const navigate = useNavigate();
  const { id, camera, aheadSeconds, photos, query } = clock;
  return (
    <li className="flex items-center gap-1 py-0.5">
      <div className="min-w-0 flex-1">
        <p className="truncate">{camera}</p>
        <p className="text-[12px] text-ink-2">
          {aheadText(aheadSeconds)}, {daysText(clock)}
        </p>
        {photos > 0 && mayNote && (
          <Button
            className="mt-0.5"
            disabled={change.isPending}
            onClick={() => change.mutate({ kind: 'putClocksRight', selection: { query, minus: [], plus: [] } })}
          >
            Put {countText(photos, 'photo')} right
          </Button>
        )}
      </div>
      <Menu label={`What to do with the clock of ${camera}`}>
        <MenuItem label="Show its photos on the Desk" onSelect={() => void navigate(deskLink(query))} />
        {mayNote && (
          <>
            <MenuItem label="Change …" onSelect={onEdit} />
            <MenuItem label="Forget it" onSelect={() => change.mutate({ kind: 'removeCameraClock', clockId: id })} />
          </>
        )}
      </Menu>
    </li>
  );
}
