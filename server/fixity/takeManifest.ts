// Taking in what somebody else wrote down of the files of a drive: a manifest of SHA-256 (BagIt, RFC 8493, or what sha256sum prints) says
// what they should hold.

import { parseManifest } from '@stellin/core/bagit/manifest';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import { ownSidecarPath, sharedSidecarPath } from '../files/sidecars';
import * as store from './store';

export interface TakenManifest {
  /** Files that were not read yet: they are compared when they are. */
  noted: number;
  /** Files that hold what it says, as far as they were read. */
  same: number;
  /** Paths of files that were other ones already when they were taken in. */
  damaged: string[];
  /** Paths of files that were changed since, by us or by other programs, so that it can’t be told. */
  changed: string[];
  /** Paths of files that the catalogue does not know on this drive; sidecars are not among them. */
  unknown: string[];
}

const SHA256 = /^[0-9a-f]{64}$/;
/** How the paths of a bag begin. */
const PAYLOAD = 'data/';
const FILES_PER_READ = 5000;

/** Takes a manifest in. Throws an Error that says what is wrong with it; then nothing is changed. */
export async function takeManifest(database: Database, label: string, text: string): Promise<TakenManifest> {
  const drive = await store.driveNamed(database, label);
  if (!drive) throw new StellinError('notFound', { what: `drive “${label}”` });
  const manifest = parseManifest(text);
  const wrong = [...manifest].find(([, checksum]) => !SHA256.test(checksum));
  if (wrong) throw new Error(`what it says of “${wrong[0]}” is no SHA-256`);
  const paths = [...manifest.keys()];
  const isBag = paths.every((path) => path.startsWith(PAYLOAD));
  const files = new Map([...manifest].map(([path, checksum]) => [isBag ? path.slice(PAYLOAD.length) : path, checksum]));
  const isSidecar = (path: string) => /\.xmp$/i.test(path);
  const photos = [...files].flatMap(([path, sha256]) =>
    isSidecar(path)
      ? []
      : [{ path, sha256, sidecar: files.get(ownSidecarPath(path)) ?? files.get(sharedSidecarPath(path)) ?? null }],
  );
  const taken: TakenManifest = { noted: 0, same: 0, damaged: [], changed: [], unknown: [] };
  await database.transaction(async (tx) => {
    for (let at = 0; at < photos.length; at += FILES_PER_READ) {
      const found = await store.expectHashes(database, drive.id, photos.slice(at, at + FILES_PER_READ), tx);
      for (const { path, outcome } of found)
        if (outcome === 'noted' || outcome === 'same') taken[outcome] += 1;
        else taken[outcome].push(path);
    }
    await database.notify(['fixity', 'photos'], tx);
  });
  return taken;
}
