// Where descriptions beside a file stand: in `name.xmp`, which files of one base name share, or in `name.ext.xmp`, which is the file's
// own and goes before. New ones are made as the first; one that is there keeps its name.

import { basename, dirname, join } from 'node:path';
import { fingerprintOf } from './fingerprint';

/** The name without its extension, in small letters: what a photo and its sidecar share. */
export function baseName(name: string): string {
  return stem(name).toLowerCase();
}

/** The sidecars of a folder, by the names that they are for: of a file, or what files share of theirs, in small letters. */
export type Sidecars = ReadonlyMap<string, string>;

/** The name of the sidecar that is for a file, of those of its folder. */
export function sidecarFor(sidecars: Sidecars, name: string): string | undefined {
  return sidecars.get(name.toLowerCase()) ?? sidecars.get(baseName(name));
}

/** Whether a sidecar is a file's own: `name.ext.xmp`. */
export function isOwnSidecar(sidecar: string, name: string): boolean {
  return baseName(sidecar) === name.toLowerCase();
}

/** What the sidecar of a file is called once the file is called otherwise. */
export function renamedSidecar(sidecar: string, from: string, to: string): string {
  const extension = sidecar.slice(sidecar.lastIndexOf('.'));
  return (isOwnSidecar(sidecar, from) ? to : stem(to)) + extension;
}

/** Where the sidecar of a file is, or would be made. */
export function sidecarPath(path: string): string {
  const own = ownSidecarPath(path);
  return fingerprintOf(own) ? own : sharedSidecarPath(path);
}

/** Where files of one base name share theirs. */
export function sharedSidecarPath(path: string): string {
  return join(dirname(path), `${stem(basename(path))}.xmp`);
}

/** Where a file has its own. */
export function ownSidecarPath(path: string): string {
  return `${path}.xmp`;
}

/** The sidecar beside a photo’s file; undefined when there is none. */
export function sidecarBeside(path: string): string | undefined {
  const beside = sidecarPath(path);
  return fingerprintOf(beside) ? beside : undefined;
}

function stem(name: string): string {
  const dot = name.lastIndexOf('.');
  return dot > 0 ? name.slice(0, dot) : name;
}
