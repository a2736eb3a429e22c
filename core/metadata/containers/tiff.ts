// TIFF 6.0: XMP in tag 700, IIM in tag 33723 or among the image resources of tag 34377.

import { hasAscii } from '../bytes';
import { numberOf, readTiff } from '../blocks/exif';
import { parseResources, RESOURCE, resourceData } from '../blocks/resources';
import type { Container } from './container';

const TAG = { width: 256, height: 257, xmp: 700, iim: 33723, resources: 34377 } as const;

export const tiff: Container = {
  kind: 'tiff',
  label: 'TIFF',
  extensions: ['tif', 'tiff'],
  canHandle: (head) => hasAscii(head, 0, 'II*\0') || hasAscii(head, 0, 'MM\0*'),
  async readBlocks(source) {
    const { pages, littleEndian, issues } = await readTiff(source);
    const main = pages[0];
    const { resources } = parseResources(main?.entries.get(TAG.resources)?.data ?? new Uint8Array());
    return {
      width: numberOf(main, TAG.width, littleEndian),
      height: numberOf(main, TAG.height, littleEndian),
      exif: source,
      xmp: main?.entries.get(TAG.xmp)?.data,
      // IIM is a run of bytes even where an entry calls it LONG, so its own order is that of the file.
      iim: main?.entries.get(TAG.iim)?.data ?? resourceData(resources, RESOURCE.iim),
      iimDigest: resourceData(resources, RESOURCE.iimDigest),
      issues: main ? [] : issues.length ? issues : ['the TIFF holds no picture'],
    };
  },
};
