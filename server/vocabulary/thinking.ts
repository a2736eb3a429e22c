// What takes seconds with large vocabularies is done in a worker thread.

import { join } from 'node:path';
import type { FormatId } from '@stellin/core/vocabulary/formatIds';
import type { Draft } from '@stellin/core/vocabulary/formats/draft';
import type { Finding, FindingKind } from '@stellin/core/vocabulary/lint';
import type { Relation, Term } from '@stellin/core/vocabulary/term';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';
import type { doubt, read, write } from './thinking.worker';

export interface Thinker {
  /** What a file says of a vocabulary. Rejects with a sentence when it can't be read. */
  read(format: FormatId, text: string): Promise<Draft>;
  /** The file of a vocabulary. */
  write(format: FormatId, draft: Draft): Promise<string>;
  /** What is doubtful in terms, of the kinds that do not depend on which photos have them. */
  doubt(terms: readonly Term[], relations: readonly Relation[]): Promise<ReadonlyMap<FindingKind, Finding[]>>;
  close(): Promise<void>;
}

export function thinker(): Thinker {
  const pool = threadPool(join(ROOT, 'server', 'vocabulary', 'thinking.worker.ts'), {
    maxThreads: 1,
    idleTimeout: 60_000,
  });
  const run = <Task extends typeof read | typeof write | typeof doubt>(name: string, given: Parameters<Task>[0]) =>
    pool.run<Awaited<ReturnType<Task>>>(name, given);
  return {
    read: (format, text) => run<typeof read>('read', { format, text }),
    write: (format, draft) => run<typeof write>('write', { format, draft }),
    doubt: (terms, relations) => run<typeof doubt>('doubt', { terms, relations }),
    close: () => pool.close(),
  };
}
