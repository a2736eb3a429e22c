// Names of files: what of them may be used on every kind of drive, and names that step aside where one is taken.

/** Names that no file may have on some file systems, whatever their extension. */
const RESERVED = /^(con|prn|aux|nul|com[0-9]|lpt[0-9])$/i;
const FORBIDDEN = /[<>:"/\\|?*]/;
const MAX_BYTES = 255;

/** A name in two: what comes before the extension, and the extension with its dot (empty for none). */
export function nameParts(name: string): { base: string; extension: string } {
  const dot = name.lastIndexOf('.');
  return dot > 0 ? { base: name.slice(0, dot), extension: name.slice(dot) } : { base: name, extension: '' };
}

/** Why a name can't be given to a file or folder on every common file system; undefined when it can. */
export function nameProblem(name: string): string | undefined {
  const forbidden = FORBIDDEN.exec(name)?.[0];
  if (name.trim() === '') return 'the name is empty';
  if (forbidden) return `“${forbidden}” can’t stand in a name`;
  // oxlint-disable-next-line no-control-regex -- they are what is looked for
  if (/[\u0000-\u001f\u007f]/.test(name)) return 'control characters can’t stand in a name';
  if (name.startsWith('.')) return 'names that begin with a dot are hidden';
  if (/[. ]$/.test(name)) return 'a name can’t end in a dot or a space';
  if (RESERVED.test(nameParts(name).base)) return `“${nameParts(name).base}” is a reserved name`;
  if (new TextEncoder().encode(name).length > MAX_BYTES) return 'the name is longer than 255 bytes';
  return undefined;
}

/** The name with a number before its extension: `kite-2.jpg`. The first is the name itself. */
export function numberedName(name: string, number: number): string {
  const { base, extension } = nameParts(name);
  return number <= 1 ? name : `${base}-${number}${extension}`;
}
