// Writing XMP into a WAV: a chunk `_PMX` (XMP specification part 3), in its old place while it has room there, else behind all others. No other
// byte but the lengths of the whole moves or changes.

import { asciiBytes, asciiText, concatBytes, hasAscii, uint32le, viewOf, type ByteSource } from '../bytes';
import { packetBody, PADDING_BYTES, wrapBody, WRAPPER_BYTES } from '../blocks/xmp/packet';
import { joinPieces, type Piece } from '../pieces';
import { CHUNK_HEAD_BYTES, chunksOf, ELSEWHERE, type Chunk } from './chunks';
import type { ContainerWriter, Range } from './container';

const XMP = '_PMX';
/** A chunk that readers pass over (RIFF). */
const FILLER = 'JUNK';
/** Chunks that say nothing of the sound and may change. */
const NOT_SOUND = new Set([XMP, FILLER, 'ds64']);
const MAX_RIFF_BYTES = ELSEWHERE - 1;

interface Layout {
  chunks: Chunk[];
  /** Where the RIFF ends; what stands behind it is of nobody we know. */
  end: number;
  ds64: Chunk | undefined;
}

/** Throws an Error that says why nothing can be added. */
function layoutOf(source: ByteSource): Layout {
  const head = source.read(0, CHUNK_HEAD_BYTES);
  const all = chunksOf(source, { littleEndian: true });
  const isLarge = !hasAscii(head, 0, 'RIFF');
  const ds64 = all.find(({ id }) => id === 'ds64');
  if (isLarge && !ds64) throw new Error('the WAV says nowhere how long it is');
  const said =
    isLarge && ds64
      ? Number(viewOf(source.read(ds64.start, 8)).getBigUint64(0, true))
      : viewOf(head).getUint32(4, true);
  const end = CHUNK_HEAD_BYTES + said;
  if (end > source.size) throw new Error('the WAV is shorter than it says');
  const chunks = all.filter(({ start }) => start <= end);
  if (chunks.some(({ start, said: length }) => start + length > end))
    throw new Error('a chunk of the WAV runs past its end');
  return { chunks, end, ds64: isLarge ? ds64 : undefined };
}

/** Behind the byte that fills a chunk up. */
const filledEnd = ({ end }: Chunk) => end + (end % 2);

const chunkOf = (id: string, body: Uint8Array): Uint8Array =>
  concatBytes([asciiBytes(id), uint32le(body.length), body, new Uint8Array(body.length % 2)]);

export const waveWriter: ContainerWriter = {
  holdsIim: false,
  holdsExif: false,
  write(source, { xmp }) {
    const { chunks, end, ds64 } = layoutOf(source);
    const old = chunks.find(({ id }) => id === XMP);
    const body = packetBody(xmp);
    const room = old ? old.end - old.start - WRAPPER_BYTES - body.length : -1;
    if (old && room >= 0)
      return joinPieces([{ start: 0, end: old.start }, wrapBody(body, room), { start: old.end, end: source.size }]);
    const made = chunkOf(XMP, wrapBody(body, PADDING_BYTES + (body.length % 2)));
    const isLast = old !== undefined && chunks.at(-1) === old;
    const cut = old && isLast ? old.start - CHUNK_HEAD_BYTES : end;
    const kept: Piece[] = [{ start: CHUNK_HEAD_BYTES, end: cut }];
    if (old && !isLast)
      kept.splice(
        0,
        1,
        { start: CHUNK_HEAD_BYTES, end: old.start - CHUNK_HEAD_BYTES },
        chunkOf(FILLER, new Uint8Array(old.end - old.start)),
        { start: filledEnd(old), end },
      );
    const fill = new Uint8Array(cut % 2);
    const length = cut + fill.length + made.length - CHUNK_HEAD_BYTES;
    if (!ds64 && length > MAX_RIFF_BYTES) throw new Error('the WAV would become larger than 4 GB');
    const name = asciiText(source.read(0, 4));
    const pieces: Piece[] = [
      asciiBytes(name),
      ds64 ? source.read(4, 4).slice() : uint32le(length),
      ...kept,
      fill,
      made,
      { start: end, end: source.size },
    ];
    return joinPieces(ds64 ? withLength(pieces, ds64, length) : pieces);
  },
  pictureRanges: (source): Range[] =>
    chunksOf(source, { littleEndian: true })
      .filter(({ id }) => !NOT_SOUND.has(id))
      .map(({ start, end }) => ({ start, end })),
};

/** The same with the length of the whole as the chunk ds64 says it, which comes first (EBU Tech 3306). */
function withLength(pieces: readonly Piece[], { start }: Chunk, length: number): Piece[] {
  const said = new Uint8Array(8);
  viewOf(said).setBigUint64(0, BigInt(length), true);
  return pieces.flatMap((piece): Piece[] =>
    piece instanceof Uint8Array || piece.start > start || piece.end < start + 8
      ? [piece]
      : [{ start: piece.start, end: start }, said, { start: start + 8, end: piece.end }],
  );
}
