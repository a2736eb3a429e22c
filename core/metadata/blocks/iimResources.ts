// The IIM of a file's image resources. There is to be one block; some programs leave several, of which the first may be empty.

import { md5 } from '@noble/hashes/legacy.js';
import { bytesEqual } from '../bytes';
import { joinedIim } from './iim';
import { RESOURCE, resourceData, type ImageResource } from './resources';

export interface IimOfResources {
  /** All blocks as one, in their order. */
  iim: Uint8Array | undefined;
  iimDigest: Uint8Array | undefined;
  /** What is wrong with it. */
  issues: string[];
}

/** Reads all IIM blocks of a file: of several, one that says what all of them say, with the digest it would have if the digest is that of one of them. */
export function iimOfResources(resources: readonly ImageResource[]): IimOfResources {
  const blocks = resources.filter(({ id, data }) => id === RESOURCE.iim && data.length > 0).map(({ data }) => data);
  const iimDigest = resourceData(resources, RESOURCE.iimDigest);
  if (blocks.length < 2) return { iim: blocks[0] ?? resourceData(resources, RESOURCE.iim), iimDigest, issues: [] };
  const iim = joinedIim(blocks);
  const isOfOne = iimDigest !== undefined && blocks.some((block) => bytesEqual(md5(block), iimDigest));
  return {
    iim,
    iimDigest: isOfOne ? md5(iim) : iimDigest,
    issues: [`the file holds ${blocks.length} IIM blocks; all are read, and the next write leaves one`],
  };
}
