// Reading a long list from its newest entry on, a page at a time.

const ENTRIES_PER_PAGE = 1000;

/** All entries older than one (undefined: all there are), the newest first. `readPage`: so many of those older than one. */
export async function* newestFirst<Entry extends { id: number }>(
  before: number | undefined,
  readPage: (before: number | undefined, limit: number) => Promise<Entry[]>,
): AsyncGenerator<Entry> {
  for (let oldest = before; ;) {
    const page = await readPage(oldest, ENTRIES_PER_PAGE);
    yield* page;
    oldest = page.at(-1)?.id;
    if (page.length < ENTRIES_PER_PAGE) return;
  }
}
