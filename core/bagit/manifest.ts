// Manifests of bags (BagIt, RFC 8493, section 2.1.3): a line a file, its checksum and its path.

/** By path what the checksum of a file is, in hexadecimal digits. */
export type Manifest = ReadonlyMap<string, string>;

/** Paths may hold anything but what would end a line (RFC 8493, 2.1.3). */
const ESCAPES: Record<string, string> = { '%': '%25', '\n': '%0A', '\r': '%0D' };

/** The text of a manifest. */
export function manifestText(manifest: Manifest): string {
  const escaped = (path: string) => path.replace(/[%\n\r]/g, (letter) => ESCAPES[letter] ?? letter);
  return [...manifest].map(([path, checksum]) => `${checksum}  ${escaped(path)}\n`).join('');
}

/** A manifest from its text. Throws an Error that names the line when one can't be read, or names a file twice. */
export function parseManifest(text: string): Map<string, string> {
  const manifest = new Map<string, string>();
  for (const [i, line] of text.split(/\r\n|\r|\n/).entries()) {
    if (line === '') continue;
    const [, checksum, escaped] = /^([0-9a-fA-F]+)[ \t]+(?:\*|\.\/)?(.+)$/s.exec(line) ?? [];
    if (checksum === undefined || escaped === undefined) throw new Error(`line ${i + 1} of the manifest can’t be read`);
    const path = escaped.replace(/%(25|0A|0D)/gi, (code) => decodeURIComponent(code));
    if (manifest.has(path)) throw new Error(`the manifest names “${path}” twice`);
    manifest.set(path, checksum.toLowerCase());
  }
  return manifest;
}

/** Files that differ from a manifest: `changed` have another checksum, `missing` are not there, `unlisted` are not named by it. */
export function manifestDifferences(
  manifest: Manifest,
  found: Manifest,
): { changed: string[]; missing: string[]; unlisted: string[] } {
  const named = [...manifest.keys()];
  return {
    changed: named.filter((path) => found.has(path) && found.get(path) !== manifest.get(path)),
    missing: named.filter((path) => !found.has(path)),
    unlisted: [...found.keys()].filter((path) => !manifest.has(path)),
  };
}
