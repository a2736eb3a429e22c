// Reading tracks: GPX 1.0 and 1.1 (Topografix), KML 2.2 with gx:Track (OGC 12-007r2), GeoJSON (RFC 7946) with times of its
// coordinates, and NMEA 0183 sentences.

import { SaxesParser } from 'saxes';
import { TrackBuilder, type Track } from './track';

export const TRACK_FORMATS = { gpx: 'GPX', kml: 'KML', geojson: 'GeoJSON', nmea: 'NMEA' } as const;
export type TrackFormat = keyof typeof TRACK_FORMATS;

/** What a file is, by what it begins with; undefined when it is none of them. */
export function trackFormat(text: string): TrackFormat | undefined {
  const beginning = text
    .slice(0, 2000)
    .replace(/^\ufeff/, '')
    .trimStart();
  if (beginning.startsWith('{')) return 'geojson';
  if (/^[$!]..[A-Z]{3}[,*]/.test(beginning)) return 'nmea';
  if (!beginning.startsWith('<')) return undefined;
  return /<(?:\w+:)?gpx[\s>]/.test(beginning) ? 'gpx' : /<(?:\w+:)?kml[\s>]/.test(beginning) ? 'kml' : undefined;
}

/** So far into a file its root element begins, in characters. */
const HEAD = 2000;
const MAX_RECEIVER = 100;

/** What made a track: the `creator` of a GPX file; '' where a file says nothing of it. */
export function receiverOf(text: string): string {
  const [, said = ''] = /<gpx\b[^>]*?\screator\s*=\s*["']([^"'<]*)["']/.exec(text.slice(0, HEAD)) ?? [];
  return said
    .replace(/&\w+;/g, ' ')
    .replace(/[\s\p{C}]+/gu, ' ')
    .trim()
    .slice(0, MAX_RECEIVER);
}

/** Reads a file. Throws an Error with a sentence that ends what it can’t be, when it has no points with times or is broken. */
export function readTrack(text: string): Track {
  const format = trackFormat(text);
  if (!format) throw new Error('it is neither GPX, KML, GeoJSON nor NMEA');
  const builder = new TrackBuilder();
  READERS[format](text, builder);
  if (builder.count === 0) throw new Error(`no point in it has a time (${TRACK_FORMATS[format]})`);
  return builder.track();
}

const READERS: Readonly<Record<TrackFormat, (text: string, builder: TrackBuilder) => void>> = {
  gpx: readGpx,
  kml: readKml,
  geojson: readGeoJson,
  nmea: readNmea,
};

/** Elements are not nested deeper than this in any track. */
const MAX_DEPTH = 50;

interface Element {
  name: string;
  attributes: Record<string, string>;
  text: string;
}

/** Calls with each element as it opens and, with the text in it, as it closes. */
function walkXml(text: string, opened: (element: Element) => void, closed: (element: Element) => void): void {
  // No namespaces: prefixes that a file forgot to declare are common, and local names are unmistakable here.
  const parser = new SaxesParser();
  const stack: Element[] = [];
  parser.on('error', (error) => {
    throw new Error(`it is no well-formed XML: ${error.message}`);
  });
  parser.on('doctype', () => {
    // Entities are what bombs are made of, and no track needs them.
    throw new Error('it declares a document type, which tracks do not have');
  });
  parser.on('opentag', ({ name, attributes }) => {
    const element = { name: localName(name), attributes: attributes as Record<string, string>, text: '' };
    if (stack.push(element) > MAX_DEPTH) throw new Error('its elements are nested too deeply');
    opened(element);
  });
  parser.on('text', (part) => {
    const element = stack.at(-1);
    if (element && element.text.length < 1e7) element.text += part;
  });
  parser.on('closetag', () => {
    const element = stack.pop();
    if (element) closed(element);
  });
  parser.write(text).close();
}

function localName(name: string): string {
  return name.slice(name.indexOf(':') + 1);
}

function readGpx(text: string, builder: TrackBuilder): void {
  let point: { latitude: number; longitude: number; time: number; altitude: number | undefined } | undefined;
  walkXml(
    text,
    ({ name, attributes }) => {
      if (name === 'trkseg' || name === 'rte') builder.break();
      if (name !== 'trkpt' && name !== 'rtept') return;
      point = {
        latitude: numberOf(attributes['lat']),
        longitude: numberOf(attributes['lon']),
        time: NaN,
        altitude: undefined,
      };
    },
    ({ name, text: said }) => {
      if (!point) return;
      if (name === 'time') point.time = timeOf(said);
      else if (name === 'ele') point.altitude = altitudeOf(said);
      else if (name === 'trkpt' || name === 'rtept') {
        builder.add(point);
        point = undefined;
      }
    },
  );
}

function readKml(text: string, builder: TrackBuilder): void {
  let times: number[] = [];
  let places: number[][] = [];
  walkXml(
    text,
    ({ name }) => {
      if (name !== 'Track') return;
      builder.break();
      [times, places] = [[], []];
    },
    ({ name, text: said }) => {
      if (name === 'when') times.push(timeOf(said));
      else if (name === 'coord') places.push(said.trim().split(/\s+/).map(numberOf));
      else if (name === 'Track')
        places.forEach(([longitude = NaN, latitude = NaN, altitude], i) =>
          builder.add({ time: times[i] ?? NaN, latitude, longitude, altitude }),
        );
    },
  );
}

/** Lines with the times of their corners in `coordTimes`, `times` or `coordinateProperties.times`, as converters write them. */
function readGeoJson(text: string, builder: TrackBuilder): void {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw new Error('it is no JSON');
  }
  const features = isObject(read) && Array.isArray(read['features']) ? (read['features'] as unknown[]) : [read];
  for (const feature of features) {
    if (!isObject(feature) || !isObject(feature['geometry']) || !isObject(feature['properties'])) continue;
    const { geometry, properties } = feature as {
      geometry: Record<string, unknown>;
      properties: Record<string, unknown>;
    };
    const nested = isObject(properties['coordinateProperties'])
      ? properties['coordinateProperties']['times']
      : undefined;
    const times = properties['coordTimes'] ?? properties['times'] ?? nested;
    const isMany = geometry['type'] === 'MultiLineString';
    if (!isMany && geometry['type'] !== 'LineString') continue;
    const lines = listOf(isMany ? geometry['coordinates'] : [geometry['coordinates']]);
    lines.forEach((line, n) => {
      builder.break();
      const lineTimes = listOf(isMany && Array.isArray(listOf(times)[0]) ? listOf(times)[n] : times);
      listOf(line).forEach((corner, i) => {
        const [longitude, latitude, altitude] = listOf(corner).map(Number);
        const time = lineTimes[i];
        builder.add({
          time: typeof time === 'string' ? timeOf(time) : NaN,
          ...{ latitude: latitude ?? NaN, longitude: longitude ?? NaN, altitude },
        });
      });
    });
  }
}

/** RMC says date, time and place; GGA before it the altitude. */
function readNmea(text: string, builder: TrackBuilder): void {
  let altitude: { at: string; metres: number | undefined } | undefined;
  for (const line of text.split(/\r?\n/)) {
    const fields = sentenceOf(line);
    if (!fields) continue;
    const kind = (fields[0] ?? '').slice(2);
    if (kind === 'GGA') altitude = { at: fields[1] ?? '', metres: altitudeOf(fields[9] ?? '') };
    if (kind !== 'RMC' || fields[2] !== 'A') continue;
    const [, clock = '', , latitude = '', north = '', longitude = '', east = '', , , date = ''] = fields;
    builder.add({
      time: nmeaTime(date, clock),
      latitude: nmeaDegrees(latitude) * (north === 'S' ? -1 : 1),
      longitude: nmeaDegrees(longitude) * (east === 'W' ? -1 : 1),
      altitude: altitude?.at === clock ? altitude.metres : undefined,
    });
  }
}

/** The fields of a sentence, if its sum is right or not told. */
function sentenceOf(line: string): string[] | undefined {
  const found = /^[$!]([^*]{5,200})(?:\*([0-9A-F]{2}))?\s*$/i.exec(line.trim());
  if (!found) return undefined;
  const [, body = '', sum] = found;
  const real = [...body].reduce((all, letter) => all ^ letter.charCodeAt(0), 0);
  return sum === undefined || Number.parseInt(sum, 16) === real ? body.split(',') : undefined;
}

/** Dates have two digits of a year: those from 80 on are of the last century. */
function nmeaTime(date: string, clock: string): number {
  const day = /^(\d{2})(\d{2})(\d{2})$/.exec(date);
  const time = /^(\d{2})(\d{2})(\d{2}(?:\.\d+)?)$/.exec(clock);
  if (!day || !time) return NaN;
  const year = Number(day[3]) + (Number(day[3]) >= 80 ? 1900 : 2000);
  return Date.UTC(year, Number(day[2]) - 1, Number(day[1]), Number(time[1]), Number(time[2])) + Number(time[3]) * 1000;
}

/** `5412.345` is 54 degrees and 12.345 minutes. */
function nmeaDegrees(text: string): number {
  const found = /^(\d{1,3})(\d{2}(?:\.\d+)?)$/.exec(text);
  return found ? Number(found[1]) + Number(found[2]) / 60 : NaN;
}

/** A moment after ISO 8601; without a zone it is UTC, as GPX says. */
function timeOf(text: string): number {
  const said = text.trim();
  return /^\d{4}-\d{2}-\d{2}T[\d:.]+$/.test(said) ? Date.parse(`${said}Z`) : Date.parse(said);
}

function numberOf(text: string | undefined): number {
  return text === undefined || text.trim() === '' ? NaN : Number(text);
}

function altitudeOf(text: string): number | undefined {
  const metres = numberOf(text);
  return Number.isFinite(metres) ? metres : undefined;
}

function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

function listOf(value: unknown): unknown[] {
  return Array.isArray(value) ? (value as unknown[]) : [];
}
