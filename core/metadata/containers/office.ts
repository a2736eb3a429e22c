// Office documents: ZIP files that are told by what is in them. What they say is read by `officeOf`; descriptions go into sidecars.

import { hasAscii } from '../bytes';
import { officeKind } from '../office';
import type { Container } from './container';

export const office: Container = {
  kinds: [
    { kind: 'odf', extensions: ['odt', 'ods', 'odp', 'odg'] },
    { kind: 'ooxml', extensions: ['docx', 'xlsx', 'pptx'] },
  ],
  canHandle: (head) => hasAscii(head, 0, 'PK\u0003\u0004'),
  readBlocks(source) {
    const kind = officeKind(source);
    return {
      exif: [],
      issues: kind ? [] : ['the ZIP file is no office document'],
      ...(kind ? { kind } : {}),
      damaged: !kind,
    };
  },
};
