// Stretches of films and sounds: from one moment to another, with what is said of them. They stand in XMP as markers (XMP specification
// part 2, 1.2.6: xmpDM:Tracks), so that other programs know them, too; what these have marked is a stretch here.

import type { FieldValue } from '../metadata/fields';

export interface Stretch {
  /** Where it stands among the markers; null for one that is not there yet. */
  key: string | null;
  /** Seconds from the beginning. A mere mark ends where it begins. */
  from: number;
  to: number;
  name: string;
  note: string;
  /** 0 for none. */
  rating: number;
  terms: string[];
  people: string[];
}

/** The track that our own stretches stand in, and how many of its units a second has. */
const OWN_TRACK = { trackName: 'Stretches', trackType: 'Markers', frameRate: 'f1000' };
const OWN_RATE = 1000;
/** Until the end. */
const MAXIMUM = 'maximum';
/** Parameters of a marker that are ours. */
const RATING = 'rating';
const LISTS = { terms: 'term', people: 'person' } as const;

type Named = { [member: string]: FieldValue };

/** The stretches of a field, in the order in which they begin. `duration`: of the whole, for those that go on until its end. */
export function stretchesOf(value: FieldValue | undefined, duration = Infinity): Stretch[] {
  const found = listOf(value).flatMap((track, trackAt) => {
    const rate = rateOf(textOf(track, 'frameRate')) ?? OWN_RATE;
    return listOf(track['markers']).flatMap((marker, at): Stretch[] => {
      const from = secondsOf(textOf(marker, 'startTime'), rate);
      if (from === undefined) return [];
      const length = textOf(marker, 'duration');
      const to = length === MAXIMUM ? duration : toMicroseconds(from + (secondsOf(length, rate) ?? 0));
      return [
        {
          key: `${trackAt}:${at}`,
          from,
          to: Math.max(from, Number.isFinite(to) ? to : from),
          name: textOf(marker, 'name'),
          note: textOf(marker, 'comment'),
          rating: ratingOf(parameters(marker, RATING)[0]),
          terms: parameters(marker, LISTS.terms),
          people: parameters(marker, LISTS.people),
        },
      ];
    });
  });
  return found.sort((a, b) => a.from - b.from || a.to - b.to);
}

/**
 * The field with just these stretches. Markers that stay keep what other programs say of them; new ones come into a track of our own;
 * those that are not among them go.
 */
export function withStretches(value: FieldValue | undefined, stretches: readonly Stretch[]): FieldValue | null {
  const byKey = new Map(
    stretches.flatMap((stretch) => (stretch.key === null ? [] : [[stretch.key, stretch] as const])),
  );
  const tracks = listOf(value).map((track, trackAt): Named => {
    const rate = rateOf(textOf(track, 'frameRate')) ?? OWN_RATE;
    const markers = listOf(track['markers']).flatMap((marker, at): Named[] => {
      const stretch = byKey.get(`${trackAt}:${at}`);
      // What says no time can't be shown, and stays.
      if (!stretch) return secondsOf(textOf(marker, 'startTime'), rate) === undefined ? [marker] : [];
      return [markerOf(stretch, rate, marker)];
    });
    return withMember(track, 'markers', markers);
  });
  const fresh = stretches.filter(({ key }) => key === null).map((stretch) => markerOf(stretch, OWN_RATE, {}));
  const own = tracks.findIndex(
    (track) => textOf(track, 'trackName') === OWN_TRACK.trackName && textOf(track, 'frameRate') === OWN_TRACK.frameRate,
  );
  if (fresh.length > 0 && own >= 0) {
    const track = tracks[own] ?? {};
    tracks[own] = withMember(track, 'markers', [...listOf(track['markers']), ...fresh]);
  } else if (fresh.length > 0) tracks.push({ ...OWN_TRACK, markers: fresh });
  const kept = tracks.filter(
    (track) => track['markers'] !== undefined || textOf(track, 'trackName') !== OWN_TRACK.trackName,
  );
  return kept.length > 0 ? kept : null;
}

/** What is said of stretches in words, each on its own. */
export function wordsOfStretches(value: FieldValue | undefined): string[] {
  return stretchesOf(value)
    .flatMap(({ name, note, terms, people }) => [name, note, ...terms, ...people])
    .filter((text) => text !== '');
}

function markerOf(stretch: Stretch, rate: number, before: Named): Named {
  const { from, to, name, note, rating, terms, people } = stretch;
  const start = Math.round(from * rate);
  const others = listOf(before['cuePointParams']).filter((parameter) => !isOurs(textOf(parameter, 'key')));
  const own = [
    ...(rating > 0 ? [{ key: RATING, value: String(rating) }] : []),
    ...terms.map((term) => ({ key: LISTS.terms, value: term })),
    ...people.map((person) => ({ key: LISTS.people, value: person })),
  ];
  // Frames of this rate; where a marker said otherwise itself, its track counts now.
  const timed = { ...before, startTime: String(start), duration: String(Math.max(0, Math.round(to * rate) - start)) };
  return withMember(withMember(withMember(timed, 'name', name), 'comment', note), 'cuePointParams', [
    ...others,
    ...own,
  ]);
}

const isOurs = (key: string) => [RATING, ...Object.values(LISTS)].includes(key);

function parameters(marker: Named, key: string): string[] {
  return listOf(marker['cuePointParams']).flatMap((parameter) =>
    textOf(parameter, 'key') === key && textOf(parameter, 'value') !== '' ? [textOf(parameter, 'value')] : [],
  );
}

function ratingOf(text: string | undefined): number {
  const rating = Number(text);
  return Number.isInteger(rating) && rating >= 1 && rating <= 5 ? rating : 0;
}

/** Units a second of a FrameRate (`f25`, `f30000s1001`). */
function rateOf(text: string): number | undefined {
  const [, above, below = '1'] = /^f(\d+)(?:s(\d+))?$/.exec(text) ?? [];
  const rate = Number(above) / Number(below);
  return Number.isFinite(rate) && rate > 0 ? rate : undefined;
}

/** Seconds of a FrameCount (`250`, `250@f25`). */
function secondsOf(text: string, rate: number): number | undefined {
  const [, count, own] = /^(\d+)(?:@(f\d+(?:s\d+)?))?$/.exec(text) ?? [];
  return count === undefined ? undefined : Number(count) / ((own === undefined ? undefined : rateOf(own)) ?? rate);
}

/** Sums of parts of a second are no parts of a second. */
const toMicroseconds = (seconds: number) => Math.round(seconds * 1e6) / 1e6;

function listOf(value: FieldValue | undefined): Named[] {
  const items = value === undefined ? [] : Array.isArray(value) ? value : [value];
  return items.filter((item): item is Named => typeof item === 'object' && item !== null && !Array.isArray(item));
}

function textOf(of: Named, member: string): string {
  const value = of[member];
  return typeof value === 'string' ? value : typeof value === 'number' ? String(value) : '';
}

/** With a member, or without it where it says nothing. */
function withMember(of: Named, member: string, value: FieldValue): Named {
  const { [member]: _, ...others } = of;
  const isNothing = value === '' || (Array.isArray(value) && value.length === 0);
  return isNothing ? others : { ...others, [member]: value };
}
