// What a film or sound is, from what a program that knows such files has found in it: technical facts, and what its tags say.

import { creationMoment } from './creation';
import type { FieldValues } from './fields';
import { positionOf } from './values';

/** A stream as it was found. */
export interface ProbedStream {
  type: string;
  codec?: string | undefined;
  width?: number | undefined;
  height?: number | undefined;
  /** Pictures a second, as it says they come and as they come on average: `30000/1001`. */
  nominalRate?: string | undefined;
  averageRate?: string | undefined;
  bitsPerSample?: number | undefined;
  sampleRate?: number | undefined;
  channels?: number | undefined;
  /** How light is coded (ITU-T H.273, table 3), as its name. */
  transfer?: string | undefined;
  primaries?: string | undefined;
  /** Degrees counter-clockwise. */
  rotation?: number | undefined;
  /** A picture of the cover, no film. */
  isCover?: boolean | undefined;
  tags: Readonly<Record<string, string>>;
}

export interface Probed {
  container: string;
  /** Seconds. */
  duration?: number | undefined;
  /** Bits a second. */
  bitRate?: number | undefined;
  tags: Readonly<Record<string, string>>;
  streams: readonly ProbedStream[];
}

/** Technical facts of a film or sound. */
export interface MediaFacts {
  container?: string;
  /** Seconds. */
  duration?: number;
  /** What its pictures are coded in; of a sound, that. */
  codec?: string;
  /** What the sound of a film is coded in. */
  audioCodec?: string;
  /** Pictures a second, on average. */
  frameRate?: number;
  variableFrameRate?: boolean;
  /** Kilobits a second. */
  bitRate?: number;
  channels?: number;
  /** Hertz. */
  sampleRate?: number;
  /** That of its first picture: `HH:MM:SS:FF`. */
  timecode?: string;
  /** Degrees clockwise by which its pictures are turned to be upright, and what EXIF says for them. */
  rotation?: number;
  orientation?: number;
  dynamicRange?: 'sdr' | 'pq' | 'hlg';
  primaries?: string;
  bitDepth?: number;
  /** Pages, or pictures one after the other. */
  pages?: number;
  /** Words on its pages. */
  text?: string;
  make?: string;
  model?: string;
  software?: string;
  /** Local time without zone, and the zone where it is known. */
  takenAt?: string;
  offset?: string;
}

export interface Media {
  /** Pixels as stored. */
  width?: number;
  height?: number;
  facts: MediaFacts;
  /** What its tags say. */
  fields: FieldValues;
}

/** What was found in a film, sound or document; or why nothing was, and whether the file is to blame. */
export type LookedMedia = Media | { problem: string; damaged: boolean };

/** EXIF’s orientation (Exif 3.0, 4.6.5.1) for a turn by so many degrees clockwise. */
const ORIENTATIONS: Readonly<Record<number, number>> = { 90: 6, 180: 3, 270: 8 };
/** Transfer functions of a high dynamic range (Recommendation ITU-R BT.2100). */
const HIGH_RANGES: Readonly<Record<string, 'pq' | 'hlg'>> = { smpte2084: 'pq', 'arib-std-b67': 'hlg' };
/** Rates that differ by less are the same: averages are measured. */
const SAME_RATE = 0.01;

export function mediaOf({ container, duration, bitRate, tags, streams }: Probed): Media {
  const film = streams.find(({ type, isCover }) => type === 'video' && isCover !== true);
  const sound = streams.find(({ type }) => type === 'audio');
  const said = lowered(Object.assign({}, ...streams.map((stream) => stream.tags), tags));
  const [nominal, average] = [rateOf(film?.nominalRate), rateOf(film?.averageRate)];
  const facts: { [Fact in keyof MediaFacts]: MediaFacts[Fact] | undefined } = {
    container,
    duration,
    codec: film?.codec ?? sound?.codec,
    audioCodec: film && sound?.codec,
    frameRate: rounded(average ?? nominal, 1000),
    variableFrameRate:
      nominal !== undefined && average !== undefined ? Math.abs(nominal / average - 1) > SAME_RATE : undefined,
    bitRate: bitRate === undefined ? undefined : Math.round(bitRate / 1000),
    channels: sound?.channels,
    sampleRate: sound?.sampleRate,
    timecode: first(said, ['timecode']),
    orientation: ORIENTATIONS[turnOf(film)],
    rotation: turnOf(film) || undefined,
    dynamicRange: film && (HIGH_RANGES[film.transfer ?? ''] ?? 'sdr'),
    primaries: film?.primaries,
    bitDepth: film?.bitsPerSample ?? sound?.bitsPerSample,
    make: first(said, ['com.apple.quicktime.make', 'make']),
    model: first(said, ['com.apple.quicktime.model', 'model']),
    software: first(said, ['com.apple.quicktime.software', 'encoder', 'encoded_by']),
    ...creationMoment(first(said, ['com.apple.quicktime.creationdate', 'creation_time']), first(said, ['date'])),
  };
  return { width: film?.width, height: film?.height, facts: known(facts), fields: fieldsOf(said) } as Media;
}

/** Names of tags by field: what ID3, Vorbis comments, Matroska, QuickTime and the bext chunk (EBU Tech 3285) come to, in lower case. */
const TAGS = {
  title: ['title', 'com.apple.quicktime.title'],
  description: ['description', 'com.apple.quicktime.description', 'synopsis', 'comment'],
  creator: ['artist', 'author', 'com.apple.quicktime.author', 'composer', 'performer'],
  copyrightNotice: ['copyright', 'com.apple.quicktime.copyright'],
  keywords: ['keywords', 'com.apple.quicktime.keywords'],
  source: ['album', 'originator_reference'],
  position: ['location', 'com.apple.quicktime.location.iso6709', 'location-eng'],
} as const;

function fieldsOf(said: ReadonlyMap<string, string>): FieldValues {
  const { title, description, creator, copyrightNotice, keywords, source, position } = TAGS;
  const creatorSaid = first(said, creator);
  const keywordsSaid = first(said, keywords);
  return known({
    title: first(said, title),
    description: first(said, description),
    creator: creatorSaid === undefined ? undefined : [creatorSaid],
    copyrightNotice: first(said, copyrightNotice),
    keywords: keywordsSaid
      ?.split(/[;,]/)
      .map((each) => each.trim())
      .filter((each) => each !== ''),
    source: first(said, source),
    position: pointOf(first(said, position)),
  });
}

/** A point as ISO 6709 writes it in decimal degrees: `+52.1234+004.5678+012.3/`. */
function pointOf(text: string | undefined) {
  const [, latitude, longitude, altitude] = /^([+-][\d.]+)([+-][\d.]+)(?:([+-][\d.]+))?/.exec(text ?? '') ?? [];
  if (latitude === undefined || longitude === undefined) return undefined;
  return positionOf({
    latitude: Number(latitude),
    longitude: Number(longitude),
    ...(altitude === undefined ? {} : { altitude: Number(altitude) }),
  });
}

/** Degrees clockwise, from 0. */
function turnOf(film: ProbedStream | undefined): number {
  return (((-(film?.rotation ?? 0) % 360) + 360) % 360) + 0;
}

/** `30000/1001` as a number; undefined for none. */
function rateOf(text: string | undefined): number | undefined {
  const [, above, below] = /^(\d+)\/(\d+)$/.exec(text ?? '') ?? [];
  const rate = Number(above) / Number(below);
  return Number.isFinite(rate) && rate > 0 ? rate : undefined;
}

function rounded(value: number | undefined, per: number): number | undefined {
  return value === undefined ? undefined : Math.round(value * per) / per;
}

function lowered(tags: Readonly<Record<string, string>>): Map<string, string> {
  return new Map(Object.entries(tags).map(([name, text]) => [name.toLowerCase(), text.trim()]));
}

function first(said: ReadonlyMap<string, string>, names: readonly string[]): string | undefined {
  for (const name of names) {
    const text = said.get(name);
    if (text) return text;
  }
  return undefined;
}

function known<Values extends object>(values: Values): { [Key in keyof Values]?: Exclude<Values[Key], undefined> } {
  return Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined)) as {
    [Key in keyof Values]?: Exclude<Values[Key], undefined>;
  };
}
