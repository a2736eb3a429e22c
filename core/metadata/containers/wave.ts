// WAV (RIFF WAVE; EBU Tech 3285, and 3306 for files beyond 4 GB): the cue points with their labels and lengths, what the recorder noted in
// iXML (iXML specification 3), and XMP (XMP specification part 3, 1.2.5). Streams and tags are told by a program that knows them.

import { asciiText, hasAscii, looseText, viewOf, type ByteSource } from '../bytes';
import type { FieldValue } from '../fields';
import { elementsOf, parseXml, textIn } from '../xml';
import { CHUNK_HEAD_BYTES, chunksOf, xmpIn, type Chunk } from './chunks';
import type { Container, RawBlocks, Recording } from './container';
import { waveWriter } from './waveWriter';

const CUE_BYTES = 24;
const MAX_CUES = 5000;
const MAX_LABELS_BYTES = 4_000_000;
const MAX_XML_BYTES = 4_000_000;

/** What the recorder noted, by the elements of iXML. */
const NOTED: Readonly<Record<string, keyof Recording | undefined>> = {
  PROJECT: 'project',
  SCENE: 'scene',
  TAKE: 'take',
  TAPE: 'tape',
  NOTE: 'note',
};

interface Cue {
  id: number;
  /** In samples. */
  at: number;
}

interface Labels {
  names: Map<number, string>;
  notes: Map<number, string>;
  /** In samples. */
  lengths: Map<number, number>;
}

export const wave: Container = {
  kinds: [{ kind: 'wav', extensions: ['wav', 'bwf'] }],
  canHandle: (head) => ['RIFF', 'RF64', 'BW64'].some((text) => hasAscii(head, 0, text)) && hasAscii(head, 8, 'WAVE'),
  readBlocks(source) {
    const chunks = chunksOf(source, { littleEndian: true });
    const find = (id: string) => chunks.find((chunk) => chunk.id === id);
    const xmp = xmpIn(source, find('_PMX'));
    const issues: string[] = [];
    const stretches = cueTrack(source, chunks);
    const recording = recordingOf(source, find('iXML'), issues);
    return {
      exif: [],
      issues,
      ...(xmp ? { xmp } : {}),
      ...(stretches ? { stretches } : {}),
      ...(recording ? { recording } : {}),
    } satisfies RawBlocks;
  },
  writer: waveWriter,
};

/** The cue points as a track of markers that counts in samples, see the field of stretches; undefined for none. */
function cueTrack(source: ByteSource, chunks: readonly Chunk[]): FieldValue | undefined {
  const format = chunks.find(({ id }) => id === 'fmt ');
  const rate = format && format.end - format.start >= 8 ? viewOf(source.read(format.start, 8)).getUint32(4, true) : 0;
  const cues =
    rate > 0
      ? cuesOf(
          source,
          chunks.find(({ id }) => id === 'cue '),
        )
      : [];
  if (cues.length === 0) return undefined;
  const { names, notes, lengths } = labelsOf(source, chunks);
  const markers = cues.map(({ id, at }) => ({
    startTime: String(at),
    duration: String(lengths.get(id) ?? 0),
    ...(names.has(id) ? { name: names.get(id) ?? '' } : {}),
    ...(notes.has(id) ? { comment: notes.get(id) ?? '' } : {}),
  }));
  return [{ trackName: 'Cues', trackType: 'Cue', frameRate: `f${rate}`, markers }];
}

function cuesOf(source: ByteSource, chunk: Chunk | undefined): Cue[] {
  if (!chunk || chunk.end - chunk.start < 4) return [];
  const said = viewOf(source.read(chunk.start, 4)).getUint32(0, true);
  const count = Math.min(said, MAX_CUES, Math.floor((chunk.end - chunk.start - 4) / CUE_BYTES));
  const view = viewOf(source.read(chunk.start + 4, count * CUE_BYTES));
  return Array.from({ length: count }, (_, i) => ({
    id: view.getUint32(i * CUE_BYTES, true),
    at: view.getUint32(i * CUE_BYTES + 20, true),
  }));
}

/** What the list of associated data says of cue points. */
function labelsOf(source: ByteSource, chunks: readonly Chunk[]): Labels {
  const labels: Labels = { names: new Map(), notes: new Map(), lengths: new Map() };
  for (const { id, start, end } of chunks) {
    if (id !== 'LIST' || end - start < 4 || end - start > MAX_LABELS_BYTES) continue;
    const list = source.read(start, end - start);
    if (!hasAscii(list, 0, 'adtl')) continue;
    const view = viewOf(list);
    for (let at = 4; at + CHUNK_HEAD_BYTES + 4 <= list.length;) {
      const kind = asciiText(list.subarray(at, at + 4));
      const length = view.getUint32(at + 4, true);
      const body = at + CHUNK_HEAD_BYTES;
      const cue = view.getUint32(body, true);
      const text = () =>
        looseText(list.subarray(body + 4, Math.min(list.length, body + length)))
          .replace(/\0[^]*$/, '')
          .trim();
      if (kind === 'labl' && text() !== '') labels.names.set(cue, text());
      if (kind === 'note' && text() !== '') labels.notes.set(cue, text());
      if (kind === 'ltxt' && body + 8 <= list.length) labels.lengths.set(cue, view.getUint32(body + 4, true));
      at = body + length + (length % 2);
    }
  }
  return labels;
}

function recordingOf(source: ByteSource, chunk: Chunk | undefined, issues: string[]): Recording | undefined {
  if (!chunk || chunk.end - chunk.start > MAX_XML_BYTES) return undefined;
  const text = looseText(source.read(chunk.start, chunk.end - chunk.start)).replace(/\0+$/, '');
  try {
    const said: Recording = {};
    for (const element of elementsOf(parseXml(text))) {
      const name = NOTED[element.name];
      const value = name && textIn(element).trim();
      if (name && value) said[name] = value;
    }
    return Object.keys(said).length > 0 ? said : undefined;
  } catch (error) {
    issues.push(`what the recorder noted could not be read: ${error instanceof Error ? error.message : String(error)}`);
    return undefined;
  }
}
