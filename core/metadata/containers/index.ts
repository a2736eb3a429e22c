// The table of containers. Another kind of file is another entry.

import type { ByteSource } from '../bytes';
import { bmff } from './bmff';
import type { Container } from './container';
import { gif } from './gif';
import { jpeg } from './jpeg';
import type { FileKind } from './kinds';
import { office } from './office';
import { pdf } from './pdf';
import { png } from './png';
import { psd } from './psd';
import { raf } from './raf';
import { streams } from './streams';
import { tiff } from './tiff';
import { wave } from './wave';
import { webp } from './webp';
import { xmp } from './xmp';

export type { Container, ContainerWriter, Range, RawBlocks } from './container';
export { isTimed, kindFacts, kindLabel, kindsWhere, MEDIA, TIMED_KINDS, type FileKind, type Media } from './kinds';

export const CONTAINERS: readonly Container[] = [
  jpeg,
  tiff,
  png,
  webp,
  psd,
  bmff,
  gif,
  pdf,
  office,
  raf,
  xmp,
  wave,
  // Last: some of them are told by few bytes.
  ...streams,
];

const KINDS = CONTAINERS.flatMap(({ kinds }) => kinds);

/** The kinds that a catalogue takes in. */
export const FILE_KINDS: readonly FileKind[] = [
  ...new Set(KINDS.filter(({ extensions }) => extensions.length > 0).map(({ kind }) => kind)),
];

/** The kind that the bytes of a file tell; undefined where they tell none. */
export function kindOfBytes(source: ByteSource): FileKind | undefined {
  const container = containerOf(source.read(0, 16));
  // Only containers of several kinds look further.
  return container?.kinds.length === 1 ? container.kinds[0]?.kind : container?.readBlocks(source).kind;
}

/** The container whose first bytes these are. */
export function containerOf(head: Uint8Array): Container | undefined {
  return CONTAINERS.find((container) => container.canHandle(head));
}

/** The kind that a file's name promises, before it is opened. */
export function kindByName(name: string): FileKind | undefined {
  const extension = name.slice(name.lastIndexOf('.') + 1).toLowerCase();
  return KINDS.find(({ extensions }) => extensions.includes(extension))?.kind;
}
