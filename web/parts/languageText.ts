// Languages as people call them.

const names = new Intl.DisplayNames('en', { type: 'language', fallback: 'none' });
const LETTERS = [...'abcdefghijklmnopqrstuvwxyz'];

/** What a language tag (BCP 47) is called; the tag itself where it has no name. */
export function languageText(tag: string): string {
  return names.of(tag) ?? tag;
}

/** The languages that have a code of two letters (ISO 639-1), with their names, by name. */
export const LANGUAGES: readonly { tag: string; name: string }[] = LETTERS.flatMap((first) =>
  LETTERS.flatMap((second) => {
    const tag = first + second;
    // What is called like another is an old code of it.
    const name = Intl.getCanonicalLocales(tag)[0] === tag ? names.of(tag) : undefined;
    return name === undefined ? [] : [{ tag, name }];
  }),
).sort((a, b) => a.name.localeCompare(b.name, 'en'));

/** Those that texts of an archive are most often in, after BCP 47. */
export const USUAL_LANGUAGES: readonly string[] = ['en', 'de', 'fr', 'nl', 'da', 'es', 'it', 'pl', 'pt', 'sv'];
