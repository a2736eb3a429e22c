// `metadata show`: the fields of files, or what each block says.

import { existsSync } from 'node:fs';
import { kindLabel } from '@stellin/core/metadata/containers/index';
import { fieldText } from '@stellin/core/metadata/fieldText';
import { FIELDS } from '@stellin/core/metadata/fields';
import { listingOf, type MetadataListing } from '@stellin/core/metadata/listing';
import { openFile } from '@stellin/core/metadata/open';
import { sidecarPath } from '@stellin/server/files/sidecars';
import { problemOf } from '@stellin/server/files/problem';
import { readSidecar, withSource } from '@stellin/server/files/source';
import type { ShowOptions } from './options';

const BLOCK_TITLES = { exif: 'EXIF', iim: 'IIM', xmp: 'XMP', sidecar: 'Sidecar' } as const;
type Block = keyof typeof BLOCK_TITLES;

export async function show(files: readonly string[], { json, blocks }: ShowOptions): Promise<number> {
  let status = 0;
  for (const file of files) {
    try {
      const listing = listingOfFile(file);
      if (json) console.log(JSON.stringify({ file, ...listing }));
      else
        console.log([headline(file, listing), ...(blocks ? blockLines(listing) : fieldLines(listing)), ''].join('\n'));
      if (listing.kind === null) status = 1;
    } catch (error) {
      console.error(`✗ ${file}: ${problemOf(error)}`);
      status = 1;
    }
  }
  return status;
}

/** The listing of a file with its sidecar. */
export function listingOfFile(file: string): MetadataListing {
  const beside = sidecarPath(file);
  const sidecar = beside !== file && existsSync(beside) ? readSidecar(beside) : undefined;
  return withSource(file, (source) => listingOf(openFile(source), sidecar));
}

function headline(file: string, { kind, width, height }: MetadataListing): string {
  const size = width && height ? `, ${width} × ${height}` : '';
  return `${file}  ${kind ? kindLabel(kind) : 'unknown kind'}${size}`;
}

function fieldLines({ fields, issues }: MetadataListing): string[] {
  const rows = FIELDS.flatMap(({ id, label }) => {
    const value = fields[id];
    return value === undefined ? [] : [[label, fieldText(value)] as const];
  });
  return [...table(rows), ...issues.map((issue) => `  ! ${issue}`)];
}

function blockLines({ blocks, issues }: MetadataListing): string[] {
  const lines = (Object.keys(BLOCK_TITLES) as Block[]).flatMap((name) => {
    const block = blocks[name];
    if (!block) return [];
    const rows = Object.entries(block).map(([key, value]) => [key, shown(value)] as const);
    return [`  ${BLOCK_TITLES[name]}`, ...table(rows).map((line) => `  ${line}`)];
  });
  return [...lines, ...issues.map((issue) => `  ! ${issue}`)];
}

function table(rows: readonly (readonly [string, string])[]): string[] {
  const width = Math.max(0, ...rows.map(([label]) => label.length));
  return rows.map(([label, text]) => `  ${label.padEnd(width)}  ${oneLine(text)}`);
}

/** Control characters could move about on a terminal. */
function oneLine(text: string): string {
  return text.replace(/\s*[\r\n]+\s*/g, ' ⏎ ').replace(/\p{Cc}/gu, '\ufffd');
}

function shown(value: unknown): string {
  if (Array.isArray(value)) return value.map(shown).join('; ');
  if (typeof value === 'object' && value !== null)
    return Object.entries(value)
      .map(([name, item]) => `${name}: ${shown(item)}`)
      .join(', ');
  return String(value);
}
