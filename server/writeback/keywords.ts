// Which files say something else when terms come to give other keywords: worked out for many photos at once.

import type { GivenKeyword } from '../catalogue/givenKeyword';
import type { Bind, Database, Transaction } from '../database/database';
import { termsWriting } from './store';

/** As many keywords as a bigint has bits for, less its sign. */
const KEYWORDS_PER_PASS = 63;

/**
 * Makes a statement that returns the photos (`photo_id`) whose keywords change, all or those of a range of ids; undefined when
 * none can. A keyword that another term
 * of the photo gives as well is no change: so for each keyword that some term gains or loses, all terms that give it are looked
 * at. Each keyword is a bit, so that one pass over the photos of those terms tells of many. The bits of terms are handed over as
 * lists, whose lengths PostgreSQL plans with.
 */
export async function photosToWrite(
  database: Database,
  given: readonly GivenKeyword[],
  tx?: Transaction,
): Promise<((from?: number, to?: number) => { sql: string; bind: Bind }) | undefined> {
  const moved = [...new Set(given.flatMap(({ keyword, was, will }) => (was === will ? [] : [keyword])))];
  if (moved.length === 0) return undefined;
  const places = new Map(moved.map((keyword, i) => [keyword, i]));
  const changing = new Set<string>();
  const chunks = Array.from({ length: Math.ceil(moved.length / KEYWORDS_PER_PASS) }, () => ({
    changes: new Map<number, { was: bigint; will: bigint }>(),
    always: new Map<number, bigint>(),
  }));
  const placeOf = (keyword: string) => {
    const place = places.get(keyword);
    return place === undefined
      ? undefined
      : { chunk: chunks[Math.floor(place / KEYWORDS_PER_PASS)], bit: 1n << BigInt(place % KEYWORDS_PER_PASS) };
  };
  for (const { termId, keyword, was, will } of given) {
    const { chunk, bit = 0n } = placeOf(keyword) ?? {};
    if (!chunk) continue;
    changing.add(`${termId} ${keyword}`);
    const bits = chunk.changes.get(termId) ?? { was: 0n, will: 0n };
    chunk.changes.set(termId, { was: bits.was | (was ? bit : 0n), will: bits.will | (will ? bit : 0n) });
  }
  const giving = await termsWriting(database, moved, tx);
  for (const { termId, keyword } of giving) {
    const { chunk, bit = 0n } = placeOf(keyword) ?? {};
    if (chunk && !changing.has(`${termId} ${keyword}`))
      chunk.always.set(termId, (chunk.always.get(termId) ?? 0n) | bit);
  }
  return (from, to) => {
    const bind: unknown[] = [];
    const list = (values: Iterable<bigint | number>, type: string) =>
      `$${bind.push([...values].map(String))}::${type}[]`;
    const inRange =
      from === undefined ? '' : ` and g.photo_id >= $${bind.push(from)}::int and g.photo_id < $${bind.push(to)}::int`;
    const parts = chunks.map(({ changes, always }) => {
      const bits = [...changes.values()];
      return `(
      with changed as (
        select g.photo_id, bit_or(c.was) as was, bit_or(c.will) as will
        from unnest(${list(changes.keys(), 'int')}, ${list(
          bits.map(({ was }) => was),
          'bigint',
        )}, ${list(
          bits.map(({ will }) => will),
          'bigint',
        )}) c (id, was, will)
        join photo_term g on g.term_id = c.id${inRange} group by g.photo_id having bit_or(c.was) <> bit_or(c.will))
      select c.photo_id from changed c left join (
        select g.photo_id, a.bits from unnest(${list(always.keys(), 'int')}, ${list(always.values(), 'bigint')}) a (id, bits)
        join photo_term g on g.term_id = a.id${inRange}) k on k.photo_id = c.photo_id
      group by c.photo_id, c.was, c.will
      having (c.was | coalesce(bit_or(k.bits), 0)) <> (c.will | coalesce(bit_or(k.bits), 0)))`;
    });
    return { sql: parts.join(' union '), bind };
  };
}
