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

/** The resources in order, and the bytes at the end that are none (kept when written again). */
export function parseResources(bytes: Uint8Array): { resources: ImageResource[]; rest: Uint8Array } {
  const view = viewOf(bytes);
  const resources: ImageResource[] = [];
  let at = 0;
  while (at + 12 <= bytes.length && isSignature(bytes, at)) {
    const nameLength = (view.getUint8(at + 6) + 2) & ~1;
    const sizeAt = at + 6 + nameLength;
    if (sizeAt + 4 > bytes.length) break;
    const size = view.getUint32(sizeAt);
    const dataAt = sizeAt + 4;
    if (dataAt + size > bytes.length) break;
    resources.push({
      signature: asciiText(bytes.subarray(at, at + 4)),
      id: view.getUint16(at + 4),
      name: bytes.subarray(at + 6, sizeAt),
      data: bytes.subarray(dataAt, dataAt + size),
    });
    at = Math.min(bytes.length, dataAt + size + (size & 1));
  }
  return { resources, rest: bytes.subarray(at) };
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
