// The copy of one photo: its bytes with what is to be said in them, and its sidecar.

import { join } from 'node:path';
import sharp from 'sharp';
import { formatFacts, type CopyFormat } from '@stellin/core/delivering/formats';
import { copyMetadata } from '@stellin/core/delivering/metadata';
import { memorySource } from '@stellin/core/metadata/bytes';
import type { FileKind } from '@stellin/core/metadata/containers/index';
import { assemble } from '@stellin/core/metadata/pieces';
import { readMetadata } from '@stellin/core/metadata/read';
import { DEFAULT_LANGUAGE, textsOf } from '@stellin/core/metadata/values';
import { planSidecar, planWrite, wrongFields, type FieldChanges } from '@stellin/core/metadata/write';
import { foldText } from '@stellin/core/text/words';
import type { CopySettings } from '@stellin/contract/delivering';
import type { Snapshot, VocabularyIndex } from '../catalogue/vocabularySnapshot';
import type { Database } from '../database/database';
import { joinPath, type insideDrives } from '../files/drivePath';
import type { FileContent } from '../files/fileContent';
import { renderCopy } from './rendering';
import * as store from './store';

/** What is the same for all copies of a delivery. */
export interface LetOut {
  vocabulary: Snapshot;
  privateNames: ReadonlySet<string>;
  privateTerms: ReadonlySet<number>;
  /** ISO 8601: when the delivery was made. The same photo comes to the same bytes, however often it is tried. */
  now: string;
}

export interface MadeCopy {
  content: FileContent;
  sidecar: Uint8Array | undefined;
}

/** Reads what copies may say. */
export async function letOutBy(database: Database, terms: VocabularyIndex, now: string): Promise<LetOut> {
  const [vocabulary, secret] = await Promise.all([terms.current(), store.privatePersons(database)]);
  const labels = secret.termIds.flatMap((id) => {
    const term = vocabulary.tree.get(id);
    return term ? [term.label, ...term.otherLabels.map(({ label }) => label)] : [];
  });
  const privateNames = new Set([...secret.names, ...labels].map(foldText));
  return { vocabulary, privateNames, privateTerms: new Set(secret.termIds), now };
}

/** Makes the copy of a photo whose drive is attached. Throws an Error that says why it can’t be. */
export async function makeCopy(
  photo: store.DeliveredPhoto & { mountPoint: string },
  settings: CopySettings,
  { vocabulary, privateNames, now }: LetOut,
  resolveInside: ReturnType<typeof insideDrives>,
): Promise<MadeCopy> {
  if (photo.private) throw new Error('it was marked private meanwhile, and stays');
  if (photo.missing) throw new Error('its file is not where it was');
  const original = await resolveInside(photo.mountPoint, joinPath(photo.folder, photo.name));
  const { format } = settings;
  if (format === 'original' && !settings.sidecars) return { content: { from: original }, sidecar: undefined };
  const changes = copyMetadata(photo, settings.metadata, vocabulary, privateNames);
  const sidecar = settings.sidecars ? planSidecar(undefined, changes, { now }) : undefined;
  if (format === 'original') return { content: { from: original }, sidecar };
  const caption = captionOf(photo, settings.metadata.language);
  const said = formatFacts(format).embeds ? changes : {};
  const maxBytes = settings.maxBytes === null ? null : settings.maxBytes - (await sizeOfWords(format, said, now));
  const { bytes } = await renderCopy(
    { path: original, kind: photo.kind as FileKind, orientation: photo.orientation },
    { ...settings, format, maxBytes },
    caption,
  );
  return { content: { bytes: formatFacts(format).embeds ? describe(bytes, changes, now) : bytes }, sidecar };
}

/** Writes what a copy is to say into it, and reads it back. */
function describe(bytes: Buffer, changes: FieldChanges, now: string): Uint8Array {
  if (Object.keys(changes).length === 0) return bytes;
  const source = memorySource(bytes);
  const made = assemble(source, planWrite(source, changes, { now, iim: 'always' }).pieces);
  const wrong = wrongFields(readMetadata(source), readMetadata(memorySource(made)), changes);
  if (wrong.length > 0) throw new Error(`the copy does not say what it should of: ${wrong.join(', ')}`);
  return made;
}

/** How many bytes what is said takes in a file of a format: a limit holds for the file with them. */
async function sizeOfWords(
  format: Exclude<CopyFormat, 'original'>,
  changes: FieldChanges,
  now: string,
): Promise<number> {
  const dot = await sharp({ create: { width: 1, height: 1, channels: 3, background: 'white' } })
    .toFormat(format)
    .toBuffer();
  return describe(dot, changes, now).length - dot.length;
}

function captionOf({ fields: { description } }: store.DeliveredPhoto, language: string): string {
  if (typeof description === 'object' && !Array.isArray(description)) {
    const said = description[language] ?? description[DEFAULT_LANGUAGE];
    if (typeof said === 'string') return said;
  }
  return textsOf(description)[0] ?? '';
}

/** Where a copy goes below the folder of its delivery: the payload of a bag lies in data/. */
export function placeOf({ bag }: Pick<CopySettings, 'bag'>, path: string): string {
  return bag ? join('data', path) : path;
}
