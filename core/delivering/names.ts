// The names that copies get, in the order of a delivery.

import { nameParts, nameProblem, numberedName } from '../filing/names';
import { parsePattern } from '../filing/namePattern';
import { COPY_PLACEHOLDERS, type CopyNameFacts } from './placeholders';

export const FOLDER_MODES = {
  flat: 'All in one folder',
  mirror: 'As the originals are',
  pattern: 'By a pattern',
} as const satisfies Record<string, string>;
export type FolderMode = keyof typeof FOLDER_MODES;
export const FOLDER_MODE_IDS = Object.keys(FOLDER_MODES) as [FolderMode, ...FolderMode[]];

export interface Naming {
  /** Without extension, with the placeholders of COPY_PLACEHOLDERS. */
  name: string;
  folders: FolderMode;
  /** Folders with placeholders, divided by `/`. */
  folderPattern: string;
}

/** Turns the facts of a photo into where its copy goes, `a/b/name` without extension; or says why it can't. */
export type NameCopy = (facts: CopyNameFacts) => { ok: true; path: string } | { ok: false; problem: string };

/** Reads the patterns. Nothing that is filled in can lead out of the folder of the delivery: no name has a divider, a leading dot or a letter that file systems refuse. */
export function copyNaming({ name, folders, folderPattern }: Naming): NameCopy | { problem: string } {
  const file = parsePattern(name, COPY_PLACEHOLDERS);
  if (!file.ok) return { problem: file.problem };
  const folder = parsePattern(folders === 'pattern' ? folderPattern : 'none', COPY_PLACEHOLDERS);
  if (!folder.ok) return { problem: folder.problem };
  const folderOf: Record<FolderMode, (facts: CopyNameFacts) => string> = {
    flat: () => '',
    mirror: (facts) => facts.folders,
    pattern: (facts) => folder.fill(facts),
  };
  return (facts) => {
    const parts = [...folderOf[folders](facts).split('/').filter(Boolean), file.fill(facts)].map(tidyName);
    const problem = parts.map(nameProblem).find(Boolean);
    return problem ? { ok: false, problem } : { ok: true, path: parts.join('/') };
  };
}

/** Text from outside as a part of a path: what no file system takes becomes a dash, and no dots lead. */
function tidyName(text: string): string {
  return (
    text
      // oxlint-disable-next-line no-control-regex -- they are what is replaced
      .replace(/[<>:"/\\|?*\u0000-\u001f\u007f]/g, '-')
      .replace(/^[. ]+|[. ]+$/g, '')
      .slice(0, 120)
      .trim() || 'unnamed'
  );
}

export const CONFLICTS = {
  number: 'Give it a number',
  overwrite: 'Write over it',
  skip: 'Leave it out',
  newer: 'Write over older ones',
} as const satisfies Record<string, string>;
export type OnConflict = keyof typeof CONFLICTS;
export const CONFLICT_IDS = Object.keys(CONFLICTS) as [OnConflict, ...OnConflict[]];

/**
 * Gives the copies of one delivery names of their own, as they are seen by file systems that do not tell case apart.
 * @param isTaken what stands at the target already
 * @param besides what else is written with a copy: those names have to be free as well
 */
export function uniqueNames(
  isTaken: (path: string) => boolean = () => false,
  besides: (path: string) => readonly string[] = () => [],
): (path: string) => string {
  const given = new Set<string>();
  /** The number that was found last for a name: many of one name are not counted through each time. */
  const last = new Map<string, number>();
  return (path) => {
    const key = fold(path);
    for (let number = last.get(key) ?? 1; ; number++) {
      const candidate = numberedPath(path, number);
      const names = [candidate, ...besides(candidate)];
      if (names.some((name) => given.has(fold(name)) || isTaken(name))) continue;
      for (const name of names) given.add(fold(name));
      last.set(key, number + 1);
      return candidate;
    }
  };
}

function fold(path: string): string {
  return path.normalize('NFC').toLowerCase();
}

function numberedPath(path: string, number: number): string {
  const slash = path.lastIndexOf('/') + 1;
  return path.slice(0, slash) + numberedName(path.slice(slash), number);
}

/** Where the sidecar of a copy goes: `name.xmp` beside it. */
export function sidecarOf(path: string): string {
  const slash = path.lastIndexOf('/') + 1;
  return `${path.slice(0, slash)}${nameParts(path.slice(slash)).base}.xmp`;
}
