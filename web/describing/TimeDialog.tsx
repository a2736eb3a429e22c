// Setting capture times right: by a stretch, by what a reference photo should say, by time zone, or to an uncertain date.

import { useDeferredValue, useState, type ReactNode } from 'react';
import { stretchText } from '@stellin/core/describing/clock';
import { dateWords, edtfOfWords } from '@stellin/core/timeplace/dateWords';
import type { Photo, Selection } from '@stellin/contract/photos';
import { useFacets } from '../search/queries';
import { DescribeDialog } from './DescribeDialog';
import type { DescriptionInput } from './queries';
import { Select } from '../parts/Select';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { TextField } from '../parts/Field';

type How = 'shift' | 'reference' | 'zone' | 'toZone' | 'date';

const WAYS: readonly [How, string][] = [
  ['shift', 'Shift by'],
  ['reference', 'By the photo in focus'],
  ['zone', 'Note the time zone'],
  ['toZone', 'Turn to a time zone'],
  ['date', 'Set the date'],
];
const DATE_HELP =
  '14 June 1951, summer 1951, about 1932, the 1930s, between 1931 and 1938; or as EDTF: 1932~, 193X. Empty takes the date off.';

interface Props {
  selection: Selection;
  photo: Photo | undefined;
  onClose: () => void;
}

type TimeChange = Extract<DescriptionInput, { kind: 'changeTime' }>['change'];

export function TimeDialog({ selection, photo, onClose }: Props) {
  const [how, setHow] = useState<How>('shift');
  const [parts, setParts] = useState({ days: 0, hours: 1, minutes: 0, seconds: 0 });
  const [back, setBack] = useState(false);
  const [right, setRight] = useState(photo?.takenAt ?? '');
  const [zone, setZone] = useState('+02:00');
  const [date, setDate] = useState('');
  const [camera, setCamera] = useState('');
  const { data: facets } = useFacets('', { facets: ['camera'], limit: 50 });
  const cameras = facets?.[0]?.values.map(({ label }) => label) ?? [];
  /** What was typed, in words or as EDTF, as it is kept; undefined while it is no date. */
  const meant = date.trim() === '' ? '' : edtfOfWords(date);
  const amount = ((parts.days * 24 + parts.hours) * 60 + parts.minutes) * 60 + parts.seconds;
  const difference = photo?.takenAt ? (Date.parse(`${right}Z`) - Date.parse(`${photo.takenAt}Z`)) / 1000 : NaN;
  const changes: Record<How, TimeChange | undefined> = {
    shift: amount === 0 ? undefined : { how: 'shift', seconds: back ? -amount : amount },
    reference: Number.isInteger(difference) && difference !== 0 ? { how: 'shift', seconds: difference } : undefined,
    zone: { how: 'zone', zone },
    toZone: { how: 'toZone', zone },
    date: meant === undefined ? undefined : { how: 'date', date: meant },
  };
  const change = useDeferredValue(changes[how]);
  const inputs: Record<How, ReactNode> = {
    shift: (
      <div className="flex items-end gap-2">
        {(['days', 'hours', 'minutes', 'seconds'] as const).map((unit) => (
          <TextField
            key={unit}
            label={unit.charAt(0).toUpperCase() + unit.slice(1)}
            type="number"
            min={0}
            className="w-20"
            boxClass="figures h-8"
            value={parts[unit]}
            onChange={(event) =>
              setParts({ ...parts, [unit]: Math.max(0, Math.floor(event.target.valueAsNumber || 0)) })
            }
          />
        ))}
        <Select
          label="Direction"
          className="h-8"
          value={back ? 'back' : 'on'}
          onChange={(value) => setBack(value === 'back')}
          options={[
            { value: 'on', label: 'later' },
            { value: 'back', label: 'earlier' },
          ]}
        />
      </div>
    ),
    reference: photo?.takenAt ? (
      <TextField
        label={
          <>
            {photo.name} says <span className="font-mono">{photo.takenAt.replace('T', ' ')}</span>; right would be
          </>
        }
        type="datetime-local"
        step={1}
        className="w-60"
        help={
          Number.isInteger(difference) && difference !== 0
            ? `The clock is moved ${stretchText(Math.abs(difference))} ${difference < 0 ? 'back' : 'on'}.`
            : undefined
        }
        value={right}
        onChange={(event) =>
          setRight(event.target.value.length === 16 ? `${event.target.value}:00` : event.target.value)
        }
      />
    ) : (
      <p className="text-ink-2">
        The photo in focus says no time. Choose one that does, and whose right time is known.
      </p>
    ),
    zone: <Zone zone={zone} onZone={setZone} help="The clock stays as it reads. Empty takes the zone off." />,
    toZone: (
      <Zone
        zone={zone}
        onZone={setZone}
        help="The moment stays; the clock reads as in that zone. Only photos whose zone is known."
      />
    ),
    date: (
      <TextField
        label="Date, as sure as it is known"
        autoFocus
        className="w-60"
        boxClass="h-8"
        placeholder="about 1932"
        help={meant ? `${dateWords(meant)} (${meant})` : DATE_HELP}
        error={meant === undefined ? `That is no date. ${DATE_HELP}` : undefined}
        value={date}
        onChange={(event) => setDate(event.target.value)}
      />
    ),
  };
  return (
    <DescribeDialog
      title="Time of capture"
      verb="Change"
      selection={selection}
      description={change && { kind: 'changeTime', change, ...(camera === '' ? {} : { camera }) }}
      onClose={onClose}
    >
      <div className="flex gap-6">
        <div className="w-44 shrink-0">
          <RadioGroup label="How" value={how} onChange={setHow}>
            {WAYS.map(([way, label]) => (
              <Radio key={way} value={way}>
                {label}
              </Radio>
            ))}
          </RadioGroup>
        </div>
        <div className="min-w-0 flex-1">{inputs[how]}</div>
        <label className="w-56 shrink-0 text-[12px] text-ink-2">
          Only photos of the camera
          <Select
            className="mt-1 block h-8 w-full"
            value={camera}
            onChange={setCamera}
            options={[{ value: '', label: 'any' }, ...cameras.map((each) => ({ value: each, label: each }))]}
          />
        </label>
      </div>
    </DescribeDialog>
  );
}

function Zone({ zone, onZone, help }: { zone: string; onZone: (zone: string) => void; help: string }) {
  return (
    <TextField
      label="Time zone"
      className="w-28"
      boxClass="h-8 font-mono text-[12px]"
      placeholder="+02:00"
      help={help}
      value={zone}
      onChange={(event) => onZone(event.target.value.trim())}
    />
  );
}
