// What the system tells of the volume behind a mount point.

import { constants } from 'node:fs';
import { access, readdir, readFile, realpath, statfs } from 'node:fs/promises';
import { basename, join } from 'node:path';

export interface Volume {
  capacityBytes: number;
  freeBytes: number;
  readOnly: boolean;
  /** Tells the volume from others where no marker can be written: the file system's UUID, or label and size. */
  fileSystem: string;
}

const BY_UUID = '/dev/disk/by-uuid';

/** Looks at a volume. Throws the file system's error when it is not there. */
export async function volumeOf(mountPoint: string): Promise<Volume> {
  const [{ blocks, bavail, bsize }, readOnly, uuid] = await Promise.all([
    statfs(mountPoint),
    access(mountPoint, constants.W_OK).then(
      () => false,
      () => true,
    ),
    uuidOf(mountPoint),
  ]);
  const capacityBytes = blocks * bsize;
  return {
    capacityBytes,
    freeBytes: bavail * bsize,
    readOnly,
    fileSystem: uuid ? `uuid ${uuid}` : `label ${basename(mountPoint)}, ${capacityBytes} bytes`,
  };
}

/** How many bytes are free for us on the disk of a folder. */
export async function freeBytesOn(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
}

export interface Mount {
  device: string;
  mountPoint: string;
  /** The type of its file system. */
  type: string;
  /** The folder of the file system that is mounted; `/` for all of it. */
  root: string;
}

/** The mount table of this process (proc(5), mountinfo). Empty where there is none. */
export async function mountTable(): Promise<Mount[]> {
  const text = await readFile('/proc/self/mountinfo', 'utf8').catch(() => '');
  return parseMountTable(text);
}

/** Each line: six fields, optional ones, a lone `-`, then type and device; spaces in paths stand as `\040`. */
export function parseMountTable(text: string): Mount[] {
  return text.split('\n').flatMap((line) => {
    const [left, right] = line.split(' - ');
    const [, , , root, mountPoint] = left?.split(' ') ?? [];
    const [type, device] = right?.split(' ') ?? [];
    return root && mountPoint && type && device
      ? [{ device: unescaped(device), mountPoint: unescaped(mountPoint), type, root: unescaped(root) }]
      : [];
  });
}

/** File systems that hold no files of people: they are made by the kernel or by programs, or are images of a system. */
const SYSTEM_TYPES: ReadonlySet<string> = new Set([
  ...['autofs', 'binfmt_misc', 'bpf', 'cgroup', 'cgroup2', 'configfs', 'debugfs', 'devpts', 'devtmpfs', 'efivarfs'],
  ...['fusectl', 'hugetlbfs', 'mqueue', 'nsfs', 'proc', 'pstore', 'ramfs', 'rpc_pipefs', 'securityfs', 'selinuxfs'],
  ...['sysfs', 'tmpfs', 'tracefs'],
  ...['fuse.gvfsd-fuse', 'fuse.lxcfs', 'fuse.portal', 'fuse.snapfuse'],
  ...['cramfs', 'erofs', 'overlay', 'squashfs'],
]);
/** File systems of which usually one of several roots is mounted. */
const WITH_SUBVOLUMES: ReadonlySet<string> = new Set(['btrfs', 'bcachefs']);

/** Whether a mount may be a drive with pictures: no pseudo file system, no system image, no folder bound from elsewhere. */
export function mayHoldPictures({ type, root }: Mount): boolean {
  return !SYSTEM_TYPES.has(type) && (root === '/' || WITH_SUBVOLUMES.has(type));
}

function unescaped(text: string): string {
  return text.replace(/\\([0-7]{3})/g, (_all, octal: string) => String.fromCharCode(Number.parseInt(octal, 8)));
}

/** The UUID of the file system that is mounted just here. */
async function uuidOf(mountPoint: string): Promise<string | undefined> {
  const device = (await mountTable()).findLast((mount) => mount.mountPoint === mountPoint)?.device;
  if (!device?.startsWith('/dev/')) return undefined;
  const names = await readdir(BY_UUID).catch(() => []);
  const [wanted, ...targets] = await Promise.all(
    [device, ...names.map((name) => join(BY_UUID, name))].map((path) => realpath(path).catch(() => path)),
  );
  return names[targets.indexOf(wanted ?? device)];
}
