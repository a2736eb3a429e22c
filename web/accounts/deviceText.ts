// A device by what its browser says of itself (RFC 9110, section 10.1.5): good enough to tell one's own machines apart.

const BROWSERS: readonly [RegExp, string][] = [
  [/\bEdg\//, 'Edge'],
  [/\bOPR\//, 'Opera'],
  [/\bFirefox\//, 'Firefox'],
  [/Chrom(e|ium)\//, 'Chrome or Chromium'],
  [/\bSafari\//, 'Safari'],
];
const SYSTEMS: readonly [RegExp, string][] = [
  [/\bAndroid\b/, 'Android'],
  [/\b(iPhone|iPad)\b/, 'iOS'],
  [/\bWindows\b/, 'Windows'],
  [/\bMac OS X\b/, 'macOS'],
  [/\bLinux\b/, 'Linux'],
];

const firstOf = (table: readonly [RegExp, string][], text: string) =>
  table.find(([pattern]) => pattern.test(text))?.[1];

/** “Firefox on Linux”; of what is not known the beginning of what it says. */
export function deviceText(userAgent: string): string {
  const [browser, system] = [firstOf(BROWSERS, userAgent), firstOf(SYSTEMS, userAgent)];
  if (browser && system) return `${browser} on ${system}`;
  return browser ?? system ?? (userAgent.slice(0, 40) || 'a program that does not say its name');
}
