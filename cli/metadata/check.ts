// `metadata check`: what is wrong with the metadata of files.

import { existsSync } from 'node:fs';
import { iimCuts } from '@stellin/core/metadata/blocks/iim';
import { fieldText } from '@stellin/core/metadata/fieldText';
import { FIELDS, fieldOf } from '@stellin/core/metadata/fields';
import { openFile } from '@stellin/core/metadata/open';
import { metadataOf } from '@stellin/core/metadata/read';
import { BLOCKS } from '@stellin/core/metadata/reconcile';
import { countText } from '@stellin/contract/wording';
import { sidecarPath } from '@stellin/server/files/sidecars';
import { problemOf } from '@stellin/server/files/problem';
import { readSidecar, withSource } from '@stellin/server/files/source';

const BLOCK_NAMES = { sidecar: 'the sidecar', xmp: 'XMP', iim: 'IIM', exif: 'EXIF', tags: 'its tags' } as const;

export async function check(files: readonly string[]): Promise<number> {
  let withProblems = 0;
  for (const file of files) {
    const problems = problemsOf(file);
    for (const problem of problems) console.log(`${file}: ${problem}`);
    if (problems.length > 0) withProblems += 1;
  }
  console.log(`${countText(files.length, 'file')} checked, ${withProblems} with problems`);
  return withProblems > 0 ? 1 : 0;
}

function problemsOf(file: string): string[] {
  try {
    const beside = sidecarPath(file);
    const sidecar = beside !== file && existsSync(beside) ? readSidecar(beside) : undefined;
    return withSource(file, (source) => {
      const opened = openFile(source);
      const { issues, disagreements, blocks, fields } = metadataOf(opened, sidecar);
      const disagreeing = disagreements.map((id) => {
        const said = BLOCKS.flatMap((block) => {
          const value = blocks[block]?.[id];
          return value === undefined ? [] : [`${BLOCK_NAMES[block]} says “${fieldText(value)}”`];
        });
        return `the blocks disagree on ${fieldOf(id).label}: ${said.join(', ')}`;
      });
      const cuts = opened.iim ? FIELDS.flatMap((field) => iimCuts(field, fields[field.id])) : [];
      return [
        ...issues,
        ...disagreeing,
        ...cuts.map(({ field, text, maxBytes }) => `IIM cuts ${fieldOf(field).label} at ${maxBytes} bytes: “${text}”`),
      ];
    });
  } catch (error) {
    return [problemOf(error)];
  }
}
