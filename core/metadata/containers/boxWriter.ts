// Writing XMP into files made of boxes: a box `uuid` at the top (XMP specification part 3, MPEG-4), in its old place while it has room there,
// else behind all others, so that no byte of the film moves: tables in it say where its parts stand.

import { asciiBytes, asciiText, concatBytes, hexText, uint32, viewOf, type ByteSource } from '../bytes';
import { packetBody, PADDING_BYTES, wrapBody, WRAPPER_BYTES } from '../blocks/xmp/packet';
import { joinPieces, type Piece } from '../pieces';
import type { ContainerWriter, Range } from './container';

/** By what a box `uuid` is known to hold XMP. */
export const XMP_UUID = 'be7acfcb97a942e89c71999491e3afac';
const UUID_BYTES = Uint8Array.from({ length: 16 }, (_, i) => parseInt(XMP_UUID.slice(2 * i, 2 * i + 2), 16));
const BOX_HEAD_BYTES = 8;
const MAX_BOXES = 20_000;

interface TopBox extends Range {
  type: string;
  /** Where its content begins. */
  body: number;
}

/** The boxes at the top, in their order. Throws an Error that says why nothing can be added. */
function topBoxes(source: ByteSource): TopBox[] {
  const boxes: TopBox[] = [];
  for (let at = 0; at < source.size;) {
    const head = source.read(at, 16);
    const view = viewOf(head);
    const said = head.length < BOX_HEAD_BYTES ? -1 : view.getUint32(0);
    if (said === 0) throw new Error('its last part has no length, so nothing can be added behind it');
    const isWide = said === 1 && head.length === 16;
    const size = isWide ? Number(view.getBigUint64(8)) : said;
    if (size < (isWide ? 16 : BOX_HEAD_BYTES) || at + size > source.size)
      throw new Error('a box runs past the end of the file');
    if (boxes.length >= MAX_BOXES) throw new Error('the file has too many boxes');
    boxes.push({
      type: asciiText(head.subarray(4, 8)),
      start: at,
      body: at + (isWide ? 16 : BOX_HEAD_BYTES),
      end: at + size,
    });
    at += size;
  }
  return boxes;
}

const isXmp = (source: ByteSource, { type, body }: TopBox): boolean =>
  type === 'uuid' && hexText(source.read(body, 16)) === XMP_UUID;

const boxOf = (type: string, ...parts: Uint8Array[]): Uint8Array => {
  const content = concatBytes(parts);
  return concatBytes([uint32(BOX_HEAD_BYTES + content.length), asciiBytes(type), content]);
};

/**
 * What writes kinds of these files.
 * @param holds whether descriptions may go into a file: kinds whose tables count from elsewhere are left alone
 */
export const boxWriter = (holds: (source: ByteSource) => boolean): ContainerWriter => ({
  holdsIim: false,
  holdsExif: false,
  write(source, { xmp }) {
    const boxes = topBoxes(source);
    const old = boxes.find((box) => isXmp(source, box));
    const body = packetBody(xmp);
    const room = old ? old.end - old.body - 16 - WRAPPER_BYTES - body.length : -1;
    if (old && room >= 0)
      return joinPieces([{ start: 0, end: old.body + 16 }, wrapBody(body, room), { start: old.end, end: source.size }]);
    const made = boxOf('uuid', UUID_BYTES, wrapBody(body, PADDING_BYTES));
    const isLast = old !== undefined && boxes.at(-1) === old;
    // What finds the parts of a film by its own length stays at the end (ISO/IEC 14496-12, 8.8.10).
    const index = boxes.at(-1)?.type === 'mfra' ? boxes.at(-1) : undefined;
    const end = index?.start ?? source.size;
    const kept: Piece[] = !old
      ? [{ start: 0, end }]
      : isLast
        ? [{ start: 0, end: old.start }]
        : [
            { start: 0, end: old.start },
            boxOf('free', new Uint8Array(old.end - old.start - BOX_HEAD_BYTES)),
            { start: old.end, end },
          ];
    return joinPieces([...kept, made, { start: end, end: source.size }]);
  },
  pictureRanges: (source): Range[] =>
    holds(source)
      ? topBoxes(source)
          .filter((box) => box.type !== 'free' && !isXmp(source, box))
          .map(({ start, end }) => ({ start, end }))
      : [],
});
