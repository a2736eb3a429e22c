// The drawer's tab Place & time: where the chosen photos are and when they were taken, and the ways to set both.

import { lazy, Suspense, useRef, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { nameEdits, namesIn, namesTold, positionEdit } from '@stellin/core/describing/placing';
import type { FieldValues } from '@stellin/core/metadata/fields';
import { positionOf, textsOf } from '@stellin/core/metadata/values';
import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import { dateWords, edtfOfWords } from '@stellin/core/timeplace/dateWords';
import type { PhotoDetails, Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { showError, useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { TextField } from '../parts/Field';
import { namesAt, PlaceFinder, type KnownPlace } from '../parts/PlaceFinder';
import { Queried } from '../parts/Queried';
import { usePhoto } from '../photos/queries';
import type { MapHandle } from './map/WorldMap';
import { distanceText, pointText } from './placeText';
import { useMapSelection, useOwnPlaces, useWhereabouts } from './queries';

const WorldMap = lazy(async () => ({ default: (await import('./map/WorldMap')).WorldMap }));

interface Props {
  selection: Selection | null;
  count: number;
  /** The photo in focus, of which it is told. */
  photoId: number | undefined;
  /** What else is said of where it is. */
  children?: ReactNode;
}

export function PlaceTimeTab({ selection, count, photoId, children }: Props) {
  const photo = usePhoto(photoId);
  const mayChange = useMayChange('setFields');
  if (photoId === undefined || !selection)
    return <p className="p-3 text-ink-2">Choose photos to see and say where and when they were taken.</p>;
  return (
    <div className="grid h-full grid-cols-[1fr_1.2fr_1fr]">
      <section aria-label="Where" className="overflow-y-auto p-3">
        <Queried query={photo}>{(shown) => <Where photo={shown} />}</Queried>
        {mayChange && <SetPlace selection={selection} count={count} />}
        {children}
      </section>
      <OnMap selection={selection} />
      <section aria-label="When" className="overflow-y-auto p-3">
        <Queried query={photo}>{(shown) => <When photo={shown} />}</Queried>
        {mayChange && <SetTime selection={selection} count={count} />}
      </section>
    </div>
  );
}

type Row = [label: string, value: string];

function Rows({ rows }: { rows: readonly Row[] }) {
  return (
    <dl className="grid grid-cols-[max-content_1fr] gap-x-3">
      {rows
        .filter(([, value]) => value !== '')
        .map(([label, value]) => (
          <div key={label} className="contents">
            <dt className="text-ink-2">{label}</dt>
            <dd className="min-w-0 break-words">{value}</dd>
          </div>
        ))}
    </dl>
  );
}

function Where({ photo }: { photo: PhotoDetails }) {
  const fields = photo.fields as FieldValues;
  const position = positionOf(fields.position) ?? null;
  const { data: found } = useWhereabouts(position);
  const said = namesTold(namesIn(fields));
  const near =
    found && found.metres >= 0 && found.ownId === null
      ? `${distanceText(found.metres)} from the middle of ${found.town}`
      : '';
  return (
    <>
      <Rows
        rows={[
          ['Says', said.join(', ')],
          ['Position', position ? pointText(position) : ''],
          ['Altitude', position?.altitude === undefined ? '' : `${position.altitude} m`],
          ['Looks', position?.direction === undefined ? '' : `${position.direction}° from true north`],
          ['Lies', near],
        ]}
      />
      {said.length === 0 && !position && <p className="text-ink-2">Nobody has said where it was taken.</p>}
      {position && (
        <Link
          className="text-slate hover:underline"
          to={`/places?q=${encodeURIComponent(queryText(criterion('near', `${position.latitude},${position.longitude},1km`)))}`}
        >
          What was taken around it
        </Link>
      )}
    </>
  );
}

function SetPlace({ selection, count }: { selection: Selection; count: number }) {
  const change = useChange();
  const set = (place: KnownPlace) =>
    void namesAt(place)
      .then((names) => {
        const said = names ? nameEdits(names, { way: 'fill', shown: false }) : [];
        const { latitude, longitude } = place;
        change.mutate({ kind: 'setFields', selection, edits: [positionEdit({ latitude, longitude }), ...said] });
      })
      .catch(showError);
  return (
    <div className="mt-3">
      <PlaceFinder above label={`Place ${countText(count, 'photo')} at`} onPick={set} />
      <p className="mt-1 text-[12px] text-ink-2">Names are filled in where there are none.</p>
    </div>
  );
}

/** Where the chosen photos lie. */
function OnMap({ selection }: { selection: Selection }) {
  const map = useRef<MapHandle>(null);
  const { data } = useMapSelection(selection);
  const own = useOwnPlaces();
  const cells = data?.cells ?? [];
  return (
    <div className="relative border-x border-line" aria-label="Map of the chosen photos">
      <Suspense fallback={<p className="p-3 text-ink-2">Drawing the map …</p>}>
        {data && (
          <WorldMap
            key={cells.map(({ latitude, longitude }) => `${latitude} ${longitude}`).join()}
            ref={map}
            {...{ cells, lines: [], areas: [], laid: [] }}
            own={own.data ?? []}
            {...{ pin: null, looks: null, end: null, outline: null, hovered: null, onDrawn: null }}
            shown={cells}
            onView={() => undefined}
            onPick={() => undefined}
            onCell={(cell) => map.current?.show(cell)}
            onBox={() => undefined}
            onHover={() => undefined}
          />
        )}
      </Suspense>
      {data && cells.length === 0 && (
        <p className="absolute inset-x-0 top-2 mx-auto w-max rounded bg-card px-2 text-[12px] text-ink-2">
          None of them has a position.
        </p>
      )}
    </div>
  );
}

function When({ photo: { fields, facts } }: { photo: PhotoDetails }) {
  const said = textsOf((fields as FieldValues).dateCreated)[0] ?? '';
  const uncertain = textsOf((fields as FieldValues).dateUncertain)[0] ?? '';
  const clock = typeof facts['takenAt'] === 'string' ? `${facts['takenAt']}${String(facts['offset'] ?? '')}` : '';
  const zone = /[+-]\d\d:\d\d$|Z$/.exec(said)?.[0] ?? '';
  return (
    <>
      <Rows
        rows={[
          ['Taken', readable(said)],
          ['That is', uncertain === '' ? '' : `${dateWords(uncertain) ?? uncertain} (${uncertain})`],
          ['Time zone', zone],
          ['Camera’s clock', readable(clock)],
        ]}
      />
      {said === '' && uncertain === '' && clock === '' && (
        <p className="text-ink-2">Nobody has said when it was taken.</p>
      )}
    </>
  );
}

function readable(time: string): string {
  return time.replace('T', ' ');
}

function SetTime({ selection, count }: { selection: Selection; count: number }) {
  const [typed, setTyped] = useState('');
  const change = useChange();
  const meant = typed.trim() === '' ? undefined : edtfOfWords(typed);
  return (
    <form
      className="mt-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (meant)
          change.mutate(
            { kind: 'changeTime', selection, change: { how: 'date', date: meant } },
            { onSuccess: () => setTyped('') },
          );
      }}
    >
      <TextField
        label={`${countText(count, 'photo')} taken`}
        placeholder="about 1932, summer 1951, 14 June 1951"
        value={typed}
        error={typed.trim() !== '' && meant === undefined ? 'That is no date.' : undefined}
        help={meant ? `${dateWords(meant)} (${meant})` : undefined}
        onChange={(event) => setTyped(event.target.value)}
      />
      <div className="mt-1.5 flex flex-wrap gap-2">
        <Button type="submit" disabled={!meant || change.isPending}>
          Say so
        </Button>
        <Button
          disabled={change.isPending}
          title="Of those that have a position and a time without one"
          onClick={() => change.mutate({ kind: 'noteZones', selection })}
        >
          Time zone from the position
        </Button>
      </div>
    </form>
  );
}
