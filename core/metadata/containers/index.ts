// The table of containers. Another kind of file is another entry.

import type { Container, FileKind } from './container';
import { jpeg } from './jpeg';
import { png } from './png';
import { tiff } from './tiff';

export type { Container, FileKind, RawBlocks } from './container';

export const CONTAINERS: readonly Container[] = [jpeg, tiff, png];

export const FILE_KINDS: readonly FileKind[] = CONTAINERS.map((container) => container.kind);

/** The container whose first bytes these are. */
export function containerOf(head: Uint8Array): Container | undefined {
  return CONTAINERS.find((container) => container.canHandle(head));
}

/** The kind that a file's name promises, before it is opened. */
export function kindByName(name: string): FileKind | undefined {
  const extension = name.slice(name.lastIndexOf('.') + 1).toLowerCase();
  return CONTAINERS.find((container) => container.extensions.includes(extension))?.kind;
}
