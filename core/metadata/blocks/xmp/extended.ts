// Extended XMP (ISO 16684-3, 4.5.2): a packet too large for a JPEG segment is split in two, and put together when read.

import { hexText } from '../../bytes';
import { md5 } from '@noble/hashes/legacy.js';
import { xmpName } from '../../namespaces';
import { joinPackets, packetBody, packetOf, parseXmp, propertyOf, setProperty, type XmpPacket } from './packet';
import { textValue } from './tree';

const HAS_EXTENDED = xmpName('xmpNote:HasExtendedXMP');

/** The MD5 that the packet names its extension by, as 32 hexadecimal digits; undefined when there is none. */
export function extensionId(packet: XmpPacket): string | undefined {
  const value = propertyOf(packet, HAS_EXTENDED);
  return value?.kind === 'text' ? value.text.trim().toUpperCase() : undefined;
}

/** Takes an extension into the packet it belongs to. Throws an Error when it can't be read. */
export function joinExtension(packet: XmpPacket, extension: Uint8Array): void {
  joinPackets(packet, parseXmp(extension));
  setProperty(packet, HAS_EXTENDED, undefined);
}

/** Moves the largest properties into an extension until the packet's body has at most `maxBytes`. */
export function splitPacket(
  packet: XmpPacket,
  maxBytes: number,
): { main: Uint8Array; extension: Uint8Array; id: string } {
  const bySize = packet.properties
    .map((property) => ({ property, size: packetBody(packetOf([property])).length }))
    .sort((a, b) => b.size - a.size);
  const main = parseXmp(packetBody(packet));
  const moved: typeof bySize = [];
  for (const entry of bySize) {
    moved.push(entry);
    setProperty(main, entry.property, undefined);
    const extension = packetBody(packetOf(moved.map(({ property }) => property)));
    const id = hexText(md5(extension)).toUpperCase();
    setProperty(main, HAS_EXTENDED, textValue(id));
    const body = packetBody(main);
    if (body.length <= maxBytes) return { main: body, extension, id };
  }
  throw new Error('the XMP can’t be split into parts that fit');
}
