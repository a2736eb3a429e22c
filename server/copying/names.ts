// Where copied files go: folder and name from patterns. Files that share a base name keep sharing it, and one number.

import { parseNamePattern } from '@stellin/core/filing/namePattern';
import { nameParts, nameProblem } from '@stellin/core/filing/names';
import type { FileMetadata } from '@stellin/core/metadata/read';
import type { CopyRequest } from '@stellin/contract/copying';
import { StellinError } from '../errors';
import { baseName } from '../files/sidecars';
import { takenAt } from '../catalogue/record';

export interface Named {
  folder: string;
  name: string;
}

/** Tells what each file of a run is to be called; it has to be asked in their order. Throws a StellinError when a pattern can't be used. */
export function copyNames({ toFolder, name, start }: Pick<CopyRequest, 'toFolder' | 'name' | 'start'>) {
  const folderPattern = toFolder === '' ? { ok: true as const, fill: () => '' } : parseNamePattern(toFolder);
  const namePattern = parseNamePattern(name);
  if (!folderPattern.ok) throw new StellinError('nameRefused', { name: toFolder, why: folderPattern.problem });
  if (!namePattern.ok) throw new StellinError('nameRefused', { name, why: namePattern.problem });
  let number = start - 1;
  let group = '';
  return {
    /** Of a file that was named before: only counts it. */
    pass(file: Named): void {
      const key = `${file.folder}/${baseName(file.name)}`;
      if (key !== group) number += 1;
      group = key;
    },
    next(file: Named, metadata: FileMetadata | undefined): { folder: string; name: string } {
      this.pass(file);
      const { base, extension } = nameParts(file.name);
      const facts = {
        name: base,
        takenAt: metadata ? takenAt(metadata) : null,
        camera: String(metadata?.facts.model ?? ''),
        folder: file.folder.slice(file.folder.lastIndexOf('/') + 1),
        number,
      };
      const folder = folderPattern.fill(facts).replace(/^\/+|\/+$/g, '');
      const filled = namePattern.fill(facts) + extension;
      for (const step of [...(folder === '' ? [] : folder.split('/')), filled]) {
        const why = nameProblem(step);
        if (why) throw new StellinError('nameRefused', { name: step, why });
      }
      return { folder, name: filled };
    },
  };
}
