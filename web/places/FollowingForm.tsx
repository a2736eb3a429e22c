// How photos follow tracks: what their clocks said, which gaps are passed over, and what is filled in.

import { NAMING_WAYS, type NamingWay } from '@stellin/core/describing/placing';
import { Checkbox } from '../parts/Checkbox';
import { Field, TextField } from '../parts/Field';
import { Select } from '../parts/Select';
import { NAMING_TEXTS } from './namingText';
import { parseAhead, zoneText } from './placeText';

/** As it is typed and chosen. */
export interface FollowingSettings {
  /** Minutes east of UTC; null until one is proposed or chosen. */
  zone: number | null;
  ahead: string;
  gap: string;
  way: 'between' | 'nearest';
  onlyWithout: boolean;
  names: NamingWay;
}

const QUARTER_MINUTES = 15;
const MAX_ZONE_MINUTES = 14 * 60;
const ZONES = Array.from(
  { length: (2 * MAX_ZONE_MINUTES) / QUARTER_MINUTES + 1 },
  (_, i) => i * QUARTER_MINUTES - MAX_ZONE_MINUTES,
);
const USUAL_GAP_MINUTES = 10;
const MAX_GAP_MINUTES = 1440;

export const USUAL_SETTINGS: FollowingSettings = {
  ...{ zone: null, ahead: '0:00', gap: String(USUAL_GAP_MINUTES) },
  ...{ way: 'between', onlyWithout: true, names: 'fill' },
};

const WAYS = [
  { value: 'between', label: 'on the way between' },
  { value: 'nearest', label: 'at the nearer one' },
] as const;

/** Minutes of a gap as they are typed; undefined when they are none. */
export function gapMinutesOf(typed: string): number | undefined {
  return /^\d{1,4}$/.test(typed.trim()) && Number(typed) > 0 ? Math.min(MAX_GAP_MINUTES, Number(typed)) : undefined;
}

/** What the settings mean for the server; what can't be read counts as usual. */
export function followingOf({ zone, ahead, gap, way }: FollowingSettings) {
  return {
    ...{ zoneMinutes: zone ?? 0, aheadSeconds: parseAhead(ahead) ?? 0, way },
    maxGapSeconds: (gapMinutesOf(gap) ?? USUAL_GAP_MINUTES) * 60,
  };
}

interface Props {
  settings: FollowingSettings;
  onSettings: (changed: Partial<FollowingSettings>) => void;
}

export function FollowingForm({ settings: { zone, ahead, gap, way, names }, onSettings }: Props) {
  return (
    <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
      <Field label="Clocks stand in" className="w-40">
        {(tied) => (
          <Select
            {...tied}
            value={zone ?? 0}
            onChange={(next) => onSettings({ zone: next })}
            options={ZONES.map((minutes) => ({ value: minutes, label: zoneText(minutes) }))}
          />
        )}
      </Field>
      <TextField
        label="and were behind by"
        className="w-40"
        value={ahead}
        help="hours:minutes:seconds; −0:10 ahead"
        error={parseAhead(ahead) === undefined ? 'Write 1:00 or −0:02:30.' : undefined}
        onChange={({ target }) => onSettings({ ahead: target.value })}
      />
      <TextField
        label="Gaps up to (minutes)"
        className="w-36"
        value={gap}
        error={gapMinutesOf(gap) === undefined ? 'A number of minutes.' : undefined}
        onChange={({ target }) => onSettings({ gap: target.value })}
      />
      <Field label="Between two points" className="w-44">
        {(tied) => <Select {...tied} value={way} onChange={(next) => onSettings({ way: next })} options={[...WAYS]} />}
      </Field>
      <Field label="Names of places" className="w-44">
        {(tied) => (
          <Select
            {...tied}
            value={names}
            onChange={(next) => onSettings({ names: next })}
            options={NAMING_WAYS.map((each) => ({ value: each, label: NAMING_TEXTS[each] }))}
          />
        )}
      </Field>
    </div>
  );
}

/** Whether photos that have a position follow, too. */
export function OnlyWithout({ settings, onSettings }: Props) {
  return (
    <Checkbox className="mt-2" checked={settings.onlyWithout} onChange={(onlyWithout) => onSettings({ onlyWithout })}>
      Only photos without a position
    </Checkbox>
  );
}
