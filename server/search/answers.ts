// The questions that the finder thread answers.

import type { FinderIndex } from '@stellin/core/search/index/finderIndex';
import { STATE_BITS, type ChangePart, type RowPart, type TextPart } from '@stellin/core/search/index/records';
import type { Viewpoint } from '@stellin/core/search/viewpoint';
import { criterion, type Query } from '@stellin/core/query/query';
import { folderText } from '@stellin/core/search/photo';
import { searchableOf } from '@stellin/core/search/searchable';
import type { GroupBy } from '@stellin/core/search/sorts';
import { foldText } from '@stellin/core/text/words';
import { labelsOf } from '@stellin/core/vocabulary/term';
import type { IndexFollower } from './indexFollower';
import { loadPart } from './indexStore';
import type { ChoiceDescription, Questions, SeenPhoto } from './questions';

/** What the thread answers to each question, from an index that is up to date. */
export function answersOf({ index, finder, client }: Pick<IndexFollower, 'index' | 'finder' | 'client'>): Questions {
  const groups = groupsOf(index);
  return {
    follow: () => ({ photos: index.size }),
    counts: ({ queries, from }) => queries.map((query) => finder.count(query, from)),
    countParts: ({ query, parts, from }) => finder.countParts(query, parts, from),
    page: ({ asked, order, offset, limit, from }) => finder.page(asked, order, offset, limit, from),
    position: ({ id, asked, order, from }) => finder.position(id, asked, order, from),
    groups: ({ asked, order, by, from }) => {
      const { number, text } = groups[by];
      return finder.groups(asked, order, number, from).map(({ first, count }) => ({ key: text(number(first)), count }));
    },
    facets: ({ facets, limit, containing, from }) =>
      facets.map(({ id, query }) =>
        finder.facet(query, id, from, limit, containing ? (label) => foldText(label).includes(containing) : undefined),
      ),
    texts: ({ query, criterion, containing, limit, from }) =>
      finder.texts(
        query,
        criterion,
        from,
        limit,
        containing ? (label) => foldText(label).includes(containing) : undefined,
      ).values,
    terms: ({ query, ids, from }) => {
      const { counts, missing = 0 } = finder.countsOfTerms(query, ids, from);
      return { counts, missing };
    },
    describe: ({ asked, mostKeywords, from }) => {
      const { photos, terms, within, keywords, folders } = finder.describe(asked, from, mostKeywords);
      const drives = new Map<string, ChoiceDescription['drives'][number]>();
      for (const [folderId, count] of folders) {
        const folder = index.folders.get(folderId);
        if (!folder) continue;
        const drive = drives.get(folder.driveId) ?? {
          id: folder.driveId,
          label: folder.drive,
          away: folder.away,
          photos: 0,
        };
        drives.set(folder.driveId, { ...drive, photos: drive.photos + count });
      }
      return {
        photos,
        terms: [...terms],
        within: [...within],
        keywords: keywords.map(({ label, photos: having }) => ({ keyword: label, photos: having })),
        drives: [...drives.values()],
      };
    },
    within: ({ asked, queries, most, from }) => finder.within(asked, queries, from, most),
    onMap: ({ asked, view, from }) => finder.onMap(asked, view, from),
    timeSpan: ({ query, from }) => finder.timeSpan(query, from),
    matching: ({ query, ids, from }) => finder.matching(query, ids, from),
    overTime: ({ query, bounds, from }) => finder.overTime(query, bounds, from),
    calendar: ({ query, bounds, from }) => finder.calendar(query, bounds, from),
    events: ({ query, stretch, least, most, from }) => finder.events(query, stretch, least, most, from),
    photo: ({ id, from }) => seePhoto({ index, finder, client }, id, from),
  };
}

const DAY = 86_400;
const NONE = -Infinity;

/** What tells groups apart, and how it is written. */
interface GroupKey {
  number: (ordinal: number) => number;
  text: (number: number) => string | null;
}

function groupsOf(index: FinderIndex): Record<GroupBy, GroupKey> {
  return {
    day: {
      number: (ordinal) => {
        const day = Math.floor(index.taken.from.get(ordinal) / DAY);
        return Number.isNaN(day) ? NONE : day;
      },
      text: (day) => (day === NONE ? null : new Date(day * DAY * 1000).toISOString().slice(0, 10)),
    },
    folder: {
      number: (ordinal) => index.folder.get(ordinal),
      text: (id) => {
        const folder = index.folders.get(id);
        return folder ? folderText(folder.drive, folder.path) : '';
      },
    },
    kind: {
      number: (ordinal) => index.single.kind.column.get(ordinal),
      text: (kind) => index.single.kind.texts.shown(kind),
    },
    rating: { number: (ordinal) => index.measures.rating.get(ordinal), text: String },
    bundle: {
      number: (ordinal) => index.bundle.get(ordinal),
      text: (bundle) => (bundle < 0 ? null : String(bundle)),
    },
  };
}

const EVERYTHING: Query = { kind: 'everything' };

/** A photo as the naive evaluator sees it, to explain a query by. */
async function seePhoto(
  { index, finder, client }: Pick<IndexFollower, 'index' | 'finder' | 'client'>,
  id: number,
  from: Viewpoint,
): Promise<SeenPhoto | undefined> {
  const [isSeen, isDouble] = [EVERYTHING, criterion('is', 'double')].map(
    (query) => finder.matching(query, [id], from)[0] ?? false,
  );
  if (!isSeen) return undefined;
  const ordinal = index.ordinalOf(id);
  let row: RowPart | undefined;
  let texts: TextPart | undefined;
  let changes: ChangePart = { by: [], at: undefined };
  await loadPart(client, 'row', [id], (_, part) => (row = part));
  await loadPart(client, 'texts', [id], (_, part) => (texts = part));
  await loadPart(client, 'changes', [id], (_, part) => (changes = part));
  const folder = row && index.folders.get(row.folderId);
  if (!row || !texts || !folder || ordinal < 0) return undefined;
  const { tree } = index.terms;
  const labels = (termId: number) => tree.path(termId).map(labelsOf);
  const photo = searchableOf({
    id,
    row,
    texts,
    changes,
    terms: index.termIds.get(ordinal).map((termId) => ({
      path: labels(termId),
      // Broader terms elsewhere, as ways of their own.
      also: [...tree.above(termId)].map(labels),
    })),
    dossiers: index.dossierIds.get(ordinal).map((dossierId) => index.dossiers.path(dossierId).map(({ name }) => name)),
    folder,
    double: isDouble ?? false,
    knowsPrivate: from.knowsPrivate,
    searched: textParts(texts.words),
  });
  const lead =
    row.foldedInto !== undefined && finder.matching(EVERYTHING, [row.foldedInto], from)[0]
      ? index.ordinalOf(row.foldedInto)
      : -1;
  return {
    photo,
    setAside: (row.states & (STATE_BITS.trashed | STATE_BITS.removed)) !== 0,
    lead: lead < 0 ? null : index.single.name.textOf(lead),
  };
}

/** The words of texts, a text a line. */
function textParts(words: readonly string[]): string[] {
  return words.join(' ').split('  ').filter(Boolean);
}
