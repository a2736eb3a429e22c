// Looking at the folder of a handover: what is new there, and what is not as it went out. A file is read when it looks the same at two
// looks one after the other, so that none is read while a program still writes it.

import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { originalFinder } from '@stellin/core/handover/matching';
import type { FieldValues } from '@stellin/core/metadata/fields';
import type { FileReader } from '../catalogue/reader';
import type { Database } from '../database/database';
import { systemCode } from '../errors';
import { joinPath } from '../files/drivePath';
import { sidecarFor } from '../files/sidecars';
import { walkFolders } from '../files/walk';
import { pictureProblem } from './files';
import * as store from './store';

const FILES_PER_READ = 50;
const UNKNOWN =
  'which photo it belongs to can’t be told by its name: begin it with the name that the photo went out by';

/** What a process remembers of a folder: how its files looked. */
interface Memory {
  /** At the last look; they are to look the same at the next. */
  seen: Map<string, string>;
  /** As they were read. */
  read: Map<string, string>;
}

interface Present {
  path: string;
  sidecar: string | undefined;
  looks: string;
  bytes: number;
}

export interface Looker {
  /** Looks at a folder, and notes what came back. True where something did. */
  look(handover: store.HandoverRow, root: string): Promise<boolean>;
  /** The files that are as they went out or were taken in, with their sidecars, and how many others there are. */
  sortOut(handover: store.HandoverRow, root: string): Promise<{ known: string[]; kept: number }>;
  forget(deliveryId: string): void;
}

export function folderLooker(database: Database, reader: Pick<FileReader, 'read' | 'hashes'>): Looker {
  const memories = new Map<string, Memory>();
  return {
    async look({ deliveryId }, root) {
      const memory = memories.get(deliveryId) ?? { seen: new Map(), read: new Map() };
      memories.set(deliveryId, memory);
      const present = await filesIn(root);
      if (present === undefined) return false;
      const settled = present.filter(
        ({ path, looks }) => memory.seen.get(path) === looks && memory.read.get(path) !== looks,
      );
      const seen = new Map(present.map(({ path, looks }) => [path, looks]));
      const gone = [...memory.read.keys()].filter((path) => !seen.has(path));
      for (const path of gone) memory.read.delete(path);
      memory.seen = seen;
      let changed = await store.forgetReturned(database, deliveryId, gone);
      if (settled.length > 0) {
        const handed = await store.handedFiles(database, deliveryId);
        for (let at = 0; at < settled.length; at += FILES_PER_READ) {
          const batch = settled.slice(at, at + FILES_PER_READ);
          const { back, same } = await readFiles(reader, root, batch, handed);
          changed += await store.noteReturned(database, deliveryId, back);
          changed += await store.forgetReturned(database, deliveryId, same);
        }
        for (const { path, looks } of settled) memory.read.set(path, looks);
      }
      return changed > 0;
    },
    async sortOut({ deliveryId }, root) {
      const present = (await filesIn(root)) ?? [];
      const handed = await store.handedFiles(database, deliveryId);
      const known = new Set(
        [...handed, ...(await store.takenFiles(database, deliveryId))].map((file) => looksOf(file.path, file)),
      );
      const isKnown: boolean[] = [];
      for (let at = 0; at < present.length; at += FILES_PER_READ) {
        const batch = present.slice(at, at + FILES_PER_READ);
        const hashes = await reader.hashes(batch.map(({ path }) => join(root, path)));
        batch.forEach(({ path }, i) => {
          const hash = hashes[i];
          isKnown.push(hash?.ok === true && known.has(looksOf(path, hash)));
        });
      }
      const stays = present.filter((_, i) => !isKnown[i]);
      const needed = new Set(stays.map(({ sidecar }) => sidecar));
      const removable = present.filter((_, i) => isKnown[i]);
      const sidecars = removable.flatMap(({ sidecar }) => (sidecar && !needed.has(sidecar) ? [sidecar] : []));
      return { known: [...removable.map(({ path }) => path), ...new Set(sidecars)], kept: stays.length };
    },

    forget: (deliveryId) => void memories.delete(deliveryId),
  };
}

/** The pictures of a folder and of those within it; undefined where it is not there. */
async function filesIn(root: string): Promise<Present[] | undefined> {
  const found: Present[] = [];
  try {
    for await (const { path: folder, photos, sidecars } of walkFolders(root, '', { subFolders: true }))
      for (const name of photos) {
        const sidecar = sidecarFor(sidecars, name);
        const path = joinPath(folder, name);
        const beside = sidecar === undefined ? undefined : joinPath(folder, sidecar);
        const [file, other] = await Promise.all([look(join(root, path)), beside && look(join(root, beside))]);
        if (file)
          found.push({ path, sidecar: beside, bytes: file.bytes, looks: `${file.looks} ${other ? other.looks : ''}` });
      }
  } catch (error) {
    if (systemCode(error) === 'ENOENT') return undefined;
    throw error;
  }
  return found;
}

async function look(path: string): Promise<{ bytes: number; looks: string } | undefined> {
  try {
    const { size, mtimeMs } = await stat(path);
    return { bytes: size, looks: `${size}:${mtimeMs}` };
  } catch (error) {
    if (systemCode(error) !== 'ENOENT') throw error;
    return undefined;
  }
}

/** Reads files, and tells those that came back from those that are as they went out. */
async function readFiles(
  reader: Pick<FileReader, 'read' | 'hashes'>,
  root: string,
  files: readonly Present[],
  handed: readonly Omit<store.HandedFile, 'said'>[],
): Promise<{ back: store.FoundFile[]; same: string[] }> {
  const paths = files.map(({ path }) => join(root, path));
  const [hashes, records] = await Promise.all([
    reader.hashes(paths),
    reader.read(
      files.map(({ path, sidecar }) => ({
        path: join(root, path),
        sidecarPath: sidecar === undefined ? undefined : join(root, sidecar),
      })),
    ),
  ]);
  const byPath = new Map(handed.map((file) => [file.path, file]));
  const sidecarsOut = new Set(handed.flatMap(({ sidecar, path }) => (sidecar === null ? [] : [withoutEnding(path)])));
  const originalOf = originalFinder(handed);
  const back: store.FoundFile[] = [];
  const same: string[] = [];
  for (const [i, { path, bytes, sidecar }] of files.entries()) {
    const [hash, record] = [hashes[i], records[i]];
    const went = byPath.get(path);
    const original = went ?? originalOf(path);
    const sha256 = hash?.ok ? hash.sha256 : NO_HASH;
    const sidecarSha256 = hash?.ok ? hash.sidecar : null;
    const isPicture = !went || !hash?.ok || !holdsPicture(went, hash);
    if (went && hash?.ok && sha256 === went.sha256 && sidecarSha256 === went.sidecar) {
      same.push(path);
      continue;
    }
    const problem = !hash?.ok
      ? `it can’t be read: ${hash?.message ?? 'nothing was read'}`
      : !record?.ok
        ? `it can’t be read: ${record?.message ?? 'nothing was read'}`
        : // Only what came back as a picture is decoded.
          ((isPicture ? await pictureProblem(root, path) : undefined) ?? (original ? null : UNKNOWN));
    back.push({
      path,
      position: original?.position ?? null,
      kind: isPicture ? 'picture' : 'words',
      whole: !isPicture && sidecarSha256 !== null && sidecarSha256 !== went.sidecar,
      bytes,
      sha256,
      sidecarSha256,
      // One that went out belongs to the original.
      sidecar: sidecar !== undefined && isPicture && !sidecarsOut.has(withoutEnding(path)) ? sidecar : null,
      said: record?.ok ? (record.metadata.fields as FieldValues) : {},
      problem,
    });
  }
  return { back, same };
}

/** A file by its path and what it and its sidecar hold. */
function looksOf(path: string, { sha256, sidecar }: { sha256: string; sidecar: string | null }): string {
  return `${path}\n${sha256}\n${sidecar ?? ''}`;
}

/** Of a file that could not be read. */
const NO_HASH = '00';

function holdsPicture(went: Omit<store.HandedFile, 'said'>, now: { sha256: string; picture: string | null }): boolean {
  return went.sha256 === now.sha256 || (went.picture !== null && went.picture === now.picture);
}

function withoutEnding(path: string): string {
  const dot = path.lastIndexOf('.');
  return (dot > path.lastIndexOf('/') ? path.slice(0, dot) : path).toLowerCase();
}
