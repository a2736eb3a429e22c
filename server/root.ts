// Where the files of the program are. What is made of them to be run stands elsewhere, and is told (server/threads/program.ts).

import { join } from 'node:path';

export const ROOT = process.env['STELLIN_ROOT'] ?? join(__dirname, '..');
