// `metadata set`: writing fields into files.

import { findField, parseFieldText } from '@stellin/core/metadata/fieldText';
import { fieldOf } from '@stellin/core/metadata/fields';
import { textsOf } from '@stellin/core/metadata/values';
import type { FieldChanges } from '@stellin/core/metadata/write';
import { countText } from '@stellin/contract/wording';
import { messageOf } from '@stellin/server/errors';
import type { WriteRequest } from '@stellin/server/files/planWrite';
import { problemOf } from '@stellin/server/files/problem';
import { tryBatch, writeBatch, type BatchResult } from '@stellin/server/files/writeBatch';
import { listingOfFile } from './show';
import { UsageError, type SetOptions } from './options';

/** As many files share one journal. */
const FILES_PER_BATCH = 64;

export async function set(files: readonly string[], options: SetOptions): Promise<number> {
  const changes = changesOf(options);
  const keywords = { add: options.addKeyword, remove: options.removeKeyword };
  if (Object.keys(changes).length === 0 && keywords.add.length === 0 && keywords.remove.length === 0)
    throw new UsageError('nothing is to be set: give --field, --add-keyword or --remove-keyword');
  const now = new Date().toISOString().replace(/\.\d+Z$/, 'Z');
  let failed = 0;
  for (let at = 0; at < files.length; at += FILES_PER_BATCH) {
    const { requests, problems } = requestsFor(
      files.slice(at, at + FILES_PER_BATCH),
      changes,
      keywords,
      options.sidecar,
      now,
    );
    for (const [file, problem] of problems) console.error(`✗ ${file}: ${problem}`);
    const results = options.dryRun ? tryBatch(requests) : await writeBatch(options.journals, requests);
    results.forEach((result, i) => {
      const file = requests[i]?.path ?? '';
      if (!result.ok) return console.error(`✗ ${file}: ${result.message}`);
      console.log(`${file}: ${outcome(result, options.dryRun)}`);
      tellCuts(file, result);
    });
    failed += problems.length + results.filter(({ ok }) => !ok).length;
  }
  if (files.length > 1) console.log(`${countText(files.length - failed, 'file')} done, ${failed} failed`);
  return failed > 0 ? 1 : 0;
}

function changesOf({ field }: SetOptions): FieldChanges {
  const changes: FieldChanges = {};
  for (const assignment of field) {
    const at = assignment.indexOf('=');
    if (at < 0) throw new UsageError(`--field “${assignment}” has no =`);
    const found = findField(assignment.slice(0, at));
    if (!found) throw new UsageError(`there is no field “${assignment.slice(0, at)}”; docs/metadata.md lists them`);
    try {
      changes[found.id] = parseFieldText(found, assignment.slice(at + 1));
    } catch (error) {
      throw new UsageError(messageOf(error));
    }
  }
  return changes;
}

function requestsFor(
  files: readonly string[],
  changes: FieldChanges,
  keywords: { add: readonly string[]; remove: readonly string[] },
  sidecarOnly: boolean,
  now: string,
): { requests: WriteRequest[]; problems: [file: string, problem: string][] } {
  const requests: WriteRequest[] = [];
  const problems: [string, string][] = [];
  for (const path of files) {
    try {
      const touches = keywords.add.length + keywords.remove.length > 0;
      const own = touches ? { ...changes, keywords: keywordsOf(path, changes, keywords) } : changes;
      requests.push({ path, changes: own, options: { now }, sidecarOnly });
    } catch (error) {
      problems.push([path, problemOf(error)]);
    }
  }
  return { requests, problems };
}

function keywordsOf(
  path: string,
  changes: FieldChanges,
  { add, remove }: { add: readonly string[]; remove: readonly string[] },
): string[] {
  const before = changes.keywords === undefined ? listingOfFile(path).fields.keywords : (changes.keywords ?? undefined);
  return [...new Set([...textsOf(before), ...add])].filter((keyword) => !remove.includes(keyword));
}

type Done = Extract<BatchResult, { ok: true }>;

/** What was done, or would be. */
function outcome({ files }: Done, dryRun: boolean): string {
  if (files.length === 0) return 'says it already';
  const ways = files.map(({ way, path }) => (way === 'in place' || way === 'anew' ? way : `${way} ${path}`));
  return `${dryRun ? 'would be written' : 'written'} ${ways.join(' and ')}`;
}

function tellCuts(file: string, { cuts }: Done): void {
  for (const { field, text, maxBytes } of cuts)
    console.log(`  ! ${file}: IIM cuts ${fieldOf(field).label} at ${maxBytes} bytes: “${text}”`);
}
