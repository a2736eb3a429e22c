// Image resources (the `8BIM` blocks of APP13 and PSD): a list of numbered blocks, of which 0x0404 is IIM and 0x0425 the
// MD5 of it. All others are carried through.

import { asciiText, concatBytes, hasAscii, viewOf } from '../bytes';

export interface ImageResource {
  /** Four characters, nearly always `8BIM`. */
  signature: string;
  id: number;
  /** The Pascal string as it stands, padded to an even length. */
  name: Uint8Array;
  data: Uint8Array;
}

export const RESOURCE = { iim: 0x0404, iimDigest: 0x0425, exif: 0x0422, xmp: 0x0424 } as const;

/** The resources in order, and the bytes that are none (kept at the end when written again). One whose name or length is wrong still leads to the next. */
export function parseResources(bytes: Uint8Array): { resources: ImageResource[]; rest: Uint8Array } {
  const resources: ImageResource[] = [];
  const between: Uint8Array[] = [];
  let at = 0;
  while (at + 12 <= bytes.length && isSignature(bytes, at)) {
    const found = placesOf(bytes, at);
    if (!found) break;
    const { sizeAt, dataAt, end, next } = found;
    resources.push({
      signature: asciiText(bytes.subarray(at, at + 4)),
      id: viewOf(bytes).getUint16(at + 4),
      name: evenName(bytes.subarray(at + 6, sizeAt)),
      data: bytes.subarray(dataAt, end),
    });
    const skipped = bytes.subarray(end, next);
    if (skipped.some((byte) => byte !== 0)) between.push(skipped);
    at = next;
  }
  const tail = bytes.subarray(at);
  return { resources, rest: between.length > 0 ? concatBytes([...between, tail]) : tail };
}

/** Where the parts of a resource are. */
interface Places {
  sizeAt: number;
  dataAt: number;
  end: number;
  next: number;
}

/** The parts of the resource at a place, as they lead to the next one; undefined where its length can’t be right and no other follows. */
function placesOf(bytes: Uint8Array, at: number): Places | undefined {
  const letters = bytes[at + 6] ?? 0;
  // The name with its length byte is padded to an even length; some writers forget that.
  const fitting = [...new Set([(letters + 2) & ~1, letters + 1])].flatMap((nameLength): Omit<Places, 'next'>[] => {
    const sizeAt = at + 6 + nameLength;
    if (sizeAt + 4 > bytes.length) return [];
    const end = sizeAt + 4 + viewOf(bytes).getUint32(sizeAt);
    return end <= bytes.length ? [{ sizeAt, dataAt: sizeAt + 4, end }] : [];
  });
  for (const [i, places] of fitting.entries()) {
    const padded = places.end + ((places.end - places.dataAt) & 1);
    // Any four letters pass for a signature where one has to be; elsewhere only the usual one.
    const isNext = (place: number, n: number) =>
      place >= bytes.length || (i + n === 0 ? isSignature(bytes, place) : hasAscii(bytes, place, '8BIM'));
    const next = [padded, places.end, places.end + 1].find(isNext);
    if (next !== undefined) return { ...places, next: Math.min(bytes.length, next) };
  }
  const [first] = fitting;
  const following = nextSignature(bytes, first?.end ?? at + 12);
  if (first) {
    const padded = Math.min(bytes.length, first.end + ((first.end - first.dataAt) & 1));
    return { ...first, next: following ?? padded };
  }
  // Its length goes beyond the end: it ends where the next begins.
  const sizeAt = at + 6 + ((letters + 2) & ~1);
  if (following === undefined || sizeAt + 4 > following) return undefined;
  return { sizeAt, dataAt: sizeAt + 4, end: following, next: following };
}

/** Where the next resource of the usual signature begins. */
function nextSignature(bytes: Uint8Array, from: number): number | undefined {
  for (let at = from; at + 12 <= bytes.length; at++) if (hasAscii(bytes, at, '8BIM')) return at;
  return undefined;
}

function evenName(name: Uint8Array): Uint8Array {
  return name.length % 2 === 0 ? name : concatBytes([name, new Uint8Array(1)]);
}

/** Four letters or digits. */
function isSignature(bytes: Uint8Array, at: number): boolean {
  return hasAscii(bytes, at, '8BIM') || /^[A-Za-z0-9]{4}$/.test(asciiText(bytes.subarray(at, at + 4)));
}

export function serializeResources(resources: readonly ImageResource[]): Uint8Array {
  return concatBytes(
    resources.flatMap(({ signature, id, name, data }) => {
      const head = Uint8Array.from([...signature].map((char) => char.charCodeAt(0)).concat(id >> 8, id & 0xff));
      const size = new Uint8Array(4);
      viewOf(size).setUint32(0, data.length);
      return [head, name, size, data, new Uint8Array(data.length & 1)];
    }),
  );
}

/** The resources with one of them set to `data`, at its place or at the end. */
export function setResource(resources: readonly ImageResource[], id: number, data: Uint8Array): ImageResource[] {
  const made: ImageResource = { signature: '8BIM', id, name: new Uint8Array(2), data };
  const index = resources.findIndex((resource) => resource.id === id);
  const others = resources.filter((resource, i) => resource.id !== id || i === index);
  return index < 0 ? [...others, made] : others.map((resource) => (resource.id === id ? made : resource));
}

export function resourceData(resources: readonly ImageResource[], id: number): Uint8Array | undefined {
  return resources.find((resource) => resource.id === id)?.data;
}

export const APP13_PREFIX = 'Photoshop 3.0\0';

export function isApp13(payload: Uint8Array): boolean {
  return hasAscii(payload, 0, APP13_PREFIX);
}
