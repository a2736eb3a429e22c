// Parts of files, as HTTP asks for them (RFC 9110, section 14).

import { createReadStream, type ReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import parseRange from 'range-parser';

export interface FilePart {
  stream: ReadStream;
  /** The bytes it gives, first and last. */
  start: number;
  end: number;
  /** Of the whole file. */
  size: number;
  /** A part was asked for. */
  isPart: boolean;
}

/** What a header `Range` asks for of a file; all of it where there is none, or several parts. `outside`: nothing of it is there. */
export async function filePart(path: string, header: string | undefined): Promise<FilePart | { outside: number }> {
  const { size } = await stat(path);
  const asked = header === undefined ? undefined : parseRange(size, header);
  if (asked === -1) return { outside: size };
  const range = typeof asked === 'object' && asked.type === 'bytes' && asked.length === 1 ? asked[0] : undefined;
  const { start, end } = range ?? { start: 0, end: Math.max(0, size - 1) };
  return { stream: createReadStream(path, { start, end }), start, end, size, isPart: range !== undefined };
}
