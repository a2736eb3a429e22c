// Lining up two cameras: one row of pictures is dragged against the other until the same moment stands below itself; how far that
// was is what the second clock was wrong by.

import { useMemo, useState } from 'react';
import { firstShift, momentOfLocal, type Moment } from '@stellin/core/timeplace/liningUp';
import { stretchText } from '@stellin/core/describing/clock';
import type { CameraRow } from '@stellin/contract/tracks';
import type { Selection } from '@stellin/contract/photos';
import { countText, numberText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { Field, TextField } from '../parts/Field';
import { Queried } from '../parts/Queried';
import { Select } from '../parts/Select';
import { daysText } from './clockText';
import { LineUpRows } from './LineUpRows';
import { aheadText, parseAhead } from './placeText';
import { useCamerasByTime } from './queries';

interface Props {
  selection: Selection;
  onClose: () => void;
}

export function LineUpDialog({ selection, onClose }: Props) {
  const cameras = useCamerasByTime(selection);
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Line up two cameras" wide>
      <Queried query={cameras}>
        {({ cameras: rows, looked, isWhole }) => (
          <>
            {!isWhole && <p className="mb-2 text-ink-2">The first {numberText(looked)} photos by time are shown.</p>}
            {rows.length < 2 ? (
              <p>
                {rows[0]
                  ? `All of them were taken with ${rows[0].camera}. Choose photos of two cameras.`
                  : 'No photo here tells its camera and time.'}
              </p>
            ) : (
              <LiningUp {...{ rows, selection, onClose }} />
            )}
          </>
        )}
      </Queried>
    </Dialog>
  );
}

function LiningUp({ rows, selection, onClose }: Props & { rows: readonly CameraRow[] }) {
  const [rightCamera, setRightCamera] = useState(rows[0]?.camera ?? '');
  const [wrongCamera, setWrongCamera] = useState(rows[1]?.camera ?? '');
  const [dragged, setDragged] = useState<number | null>(null);
  const right = rows.find(({ camera }) => camera === rightCamera);
  const wrong = rows.find(({ camera }) => camera === wrongCamera);
  const change = useChange();
  const options = rows.map(({ camera, photos }) => ({
    value: camera,
    label: `${camera} · ${countText(photos.length, 'photo')}`,
  }));
  const moments = useMemo(
    () => right && wrong && { right: momentsOf(right, 'time'), wrong: momentsOf(wrong, 'clock') },
    [right, wrong],
  );
  const shift = dragged ?? (moments ? firstShift(moments.right, moments.wrong) : 0);
  const seconds = Math.round(shift / 1000);
  const days = wrong && daysOf(wrong);
  const note = async (thenRight: boolean) => {
    if (!days) return;
    const clock = { camera: wrongCamera, ...days, aheadSeconds: -seconds, note: '' };
    await change.mutateAsync({ kind: 'saveCameraClock', clockId: null, ...clock });
    if (thenRight) await change.mutateAsync({ kind: 'putClocksRight', selection });
    onClose();
  };
  const choose = (set: (camera: string) => void) => (camera: string) => {
    set(camera);
    setDragged(null);
  };
  return (
    <>
      <div className="mb-3 flex flex-wrap items-start gap-x-4 gap-y-2">
        <Field label="This clock was right" className="w-72">
          {(tied) => <Select {...tied} value={rightCamera} onChange={choose(setRightCamera)} options={options} />}
        </Field>
        <Field label="This one is lined up with it" className="w-72">
          {(tied) => <Select {...tied} value={wrongCamera} onChange={choose(setWrongCamera)} options={options} />}
        </Field>
        <Shift key={seconds} seconds={seconds} onSeconds={(next) => setDragged(next * 1000)} />
      </div>
      {right && wrong && moments && right !== wrong ? (
        <LineUpRows
          key={`${rightCamera} ${wrongCamera}`}
          upper={{ camera: rightCamera, photos: right.photos, moments: moments.right }}
          lower={{ camera: wrongCamera, photos: wrong.photos, moments: moments.wrong }}
          shift={shift}
          onShift={setDragged}
        />
      ) : (
        <p className="text-ink-2">Choose two cameras.</p>
      )}
      <p className="mt-3" role="status">
        {seconds === 0 || !days
          ? 'Drag the lower row until what shows the same moment stands below itself, or pick one photo in each.'
          : `The clock of ${wrongCamera} was ${stretchText(seconds)} ${seconds > 0 ? 'behind' : 'ahead'} (${daysText(days)}).`}
      </p>
      <div className="mt-3 flex gap-2">
        <Button
          look="primary"
          disabled={seconds === 0 || !days || change.isPending}
          onClick={() => void note(true).catch(() => undefined)}
        >
          Note it and put photos right
        </Button>
        <Button
          disabled={seconds === 0 || !days || change.isPending}
          onClick={() => void note(false).catch(() => undefined)}
        >
          Only note it
        </Button>
        <Button onClick={onClose}>Not now</Button>
      </div>
    </>
  );
}

/** What the second clock was behind, as it is typed. */
function Shift({ seconds, onSeconds }: { seconds: number; onSeconds: (seconds: number) => void }) {
  const [text, setText] = useState(aheadText(seconds));
  const typed = parseAhead(text);
  return (
    <TextField
      label="It was behind by"
      className="w-40"
      value={text}
      help="hours:minutes:seconds; −0:10 ahead"
      error={typed === undefined ? 'Write 1:00 or −0:02:30.' : undefined}
      onChange={({ target }) => setText(target.value)}
      onBlur={() => typed !== undefined && typed !== seconds && onSeconds(typed)}
      onKeyDown={({ key }) => key === 'Enter' && typed !== undefined && onSeconds(typed)}
    />
  );
}

function momentsOf({ photos }: CameraRow, which: 'clock' | 'time'): Moment[] {
  return photos
    .map((photo) => ({ photoId: photo.photoId, at: momentOfLocal(photo[which]) }))
    .filter(({ at }) => !Number.isNaN(at))
    .sort((a, b) => a.at - b.at);
}

/** The first and the last day by the clock of a camera. */
function daysOf({ photos }: CameraRow): { from: string; until: string } | undefined {
  const days = photos.map(({ clock }) => clock.slice(0, 10)).sort();
  const [from, until] = [days[0], days.at(-1)];
  return from !== undefined && until !== undefined ? { from, until } : undefined;
}
