// What the file system says, in words a person understands.

import { messageOf, systemCode } from '../errors';

const PROBLEMS: Readonly<Record<string, string>> = {
  ENOENT: 'it is not there (any more)',
  ENOTDIR: 'its folder is not there (any more)',
  EACCES: 'there is no permission to do this',
  EPERM: 'there is no permission to do this',
  EROFS: 'the drive can’t be written to',
  ENOSPC: 'the drive is full',
  EDQUOT: 'the quota on the drive is used up',
  EFBIG: 'the file would be too large for the drive',
  EIO: 'the drive could not be read or written',
  EISDIR: 'it is a folder',
  ELOOP: 'its links run in a circle',
  ENAMETOOLONG: 'its name is too long',
  ETXTBSY: 'another program is using it',
  EBUSY: 'another program is using it',
};

/** The sentence for an error: that of the table for errors of the file system, else its own. */
export function problemOf(error: unknown): string {
  return PROBLEMS[systemCode(error) ?? ''] ?? messageOf(error);
}
