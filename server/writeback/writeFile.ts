// Writing one photo's description into its file, its sidecar, or both, with proof that nothing else changed.

import { readFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { FIELDS, sameValue, type FieldId } from '@stellin/core/metadata/fields';
import { readMetadata, type FileMetadata } from '@stellin/core/metadata/read';
import { jpegPictureRanges, planJpegWrite, planSidecarWrite, type FieldChanges } from '@stellin/core/metadata/write';
import type { ByteSource } from '@stellin/core/metadata/bytes';
import { fingerprintOf, hashRanges, replaceFile, withFile, ChangedFileError, type Fingerprint } from '../files/replace';

export interface PhotoFile {
  path: string;
  kind: string;
  /** As last read. */
  expected: Fingerprint;
  /** The sidecar's time as last read; null when there was none. */
  sidecarMtimeMs: number | null;
}

export interface WrittenFiles {
  file: Fingerprint;
  sidecarMtimeMs: number | null;
}

/** Kinds whose description is embedded; all others get a sidecar. */
const EMBEDDED = new Set(['jpeg']);

/** Where the sidecar of a file is: its name with `.xmp` for the extension. */
export function sidecarPath(path: string): string {
  const name = basename(path);
  const dot = name.lastIndexOf('.');
  return join(dirname(path), `${dot > 0 ? name.slice(0, dot) : name}.xmp`);
}

/** The temporary files that writing may leave behind when the process is killed. */
export function temporaryPaths(path: string): { file: string; sidecar: string } {
  const temporary = (target: string) => join(dirname(target), `.${basename(target)}.stellin-part`);
  return { file: temporary(path), sidecar: temporary(sidecarPath(path)) };
}

/** Writes the changes. Throws ChangedFileError when the file or its sidecar is not as last read; whatever is thrown, what stood there still stands. */
export async function writePhotoFile(photo: PhotoFile, changes: FieldChanges): Promise<WrittenFiles> {
  const embeds = EMBEDDED.has(photo.kind);
  const sidecar = sidecarPath(photo.path);
  const sidecarNow = await fingerprintOf(sidecar);
  if ((sidecarNow?.mtimeMs ?? null) !== photo.sidecarMtimeMs) throw new ChangedFileError(sidecar);
  // The sidecar first: should the process die between the two, the file is still as it was read and the write is repeated.
  const sidecarAfter = !embeds || sidecarNow ? await writeSidecar(photo, sidecar, sidecarNow, changes) : undefined;
  const file = embeds ? await writeJpeg(photo, changes) : photo.expected;
  return { file, sidecarMtimeMs: sidecarAfter?.mtimeMs ?? null };
}

async function writeJpeg(photo: PhotoFile, changes: FieldChanges): Promise<Fingerprint> {
  const { plan, before } = await withFile(photo.path, async (source) => ({
    plan: await planJpegWrite(source, changes),
    before: { metadata: await readMetadata(source), picture: await pictureHash(source) },
  }));
  return replaceFile({
    path: photo.path,
    temporary: temporaryPaths(photo.path).file,
    expected: photo.expected,
    head: plan.head,
    tailStart: plan.tailStart,
    verify: async (source) => {
      if ((await pictureHash(source)) !== before.picture)
        throw new Error('the picture data would not be the same; nothing was written');
      requireFields(await readMetadata(source), before.metadata, changes);
    },
  });
}

async function writeSidecar(
  photo: PhotoFile,
  path: string,
  now: Fingerprint | undefined,
  changes: FieldChanges,
): Promise<Fingerprint> {
  const old = now ? await readFile(path) : undefined;
  const bytes = planSidecarWrite(old, changes);
  const picture = await withFile(photo.path, (source) => readMetadata(source, old));
  return replaceFile({
    path,
    temporary: temporaryPaths(photo.path).sidecar,
    expected: now,
    head: bytes,
    tailStart: undefined,
    verify: async (source) => {
      const sidecar = await source.read(0, source.size);
      const metadata = await withFile(photo.path, (file) => readMetadata(file, sidecar));
      requireFields(metadata, picture, changes);
    },
  });
}

async function pictureHash(source: ByteSource): Promise<string> {
  return hashRanges(source, await jpegPictureRanges(source));
}

/** Every field reads as it should: the changed ones as meant, all others as before. */
function requireFields(after: FileMetadata, before: FileMetadata, changes: FieldChanges): void {
  const wrong = FIELDS.filter(({ id }) => !sameValue(after.fields[id], expectedValue(id, before, changes)));
  if (wrong.length)
    throw new Error(
      `the new file would not say what it should (${wrong.map(({ label }) => label).join(', ')}); nothing was written`,
    );
}

function expectedValue(id: FieldId, before: FileMetadata, changes: FieldChanges) {
  const change = changes[id];
  if (change === undefined) return before.fields[id];
  return change === null || (Array.isArray(change) && change.length === 0) ? undefined : change;
}

/** Whether a file (with its sidecar) says what a write was to make it say: that write was made, only not recorded. */
export async function saysAlready(
  photo: Pick<PhotoFile, 'path' | 'kind'>,
  intended: { keywords: string[]; rating: number },
): Promise<WrittenFiles | undefined> {
  const sidecar = sidecarPath(photo.path);
  const [file, sidecarNow] = await Promise.all([fingerprintOf(photo.path), fingerprintOf(sidecar)]);
  if (!file) return undefined;
  const bytes = sidecarNow ? await readFile(sidecar) : undefined;
  const { fields, blocks } = await withFile(photo.path, (source) => readMetadata(source, bytes));
  const says =
    sameValue(fields.keywords, intended.keywords.length ? intended.keywords : undefined) &&
    (fields.rating ?? 0) === intended.rating;
  const embedded =
    !EMBEDDED.has(photo.kind) ||
    sameValue(blocks.xmp?.keywords, intended.keywords.length ? intended.keywords : undefined);
  return says && embedded ? { file, sidecarMtimeMs: sidecarNow?.mtimeMs ?? null } : undefined;
}
