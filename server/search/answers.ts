// The questions that the finder thread answers.

import type { Client } from 'pg';
import type { FinderIndex } from '@stellin/core/search/index/finderIndex';
import { STATE_BITS, type ChangePart, type RowPart, type TextPart } from '@stellin/core/search/index/records';
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
    counts: ({ queries, today }) => queries.map((query) => finder.count(query, today)),
    page: ({ asked, order, offset, limit, today }) => finder.page(asked, order, offset, limit, today),
    position: ({ id, asked, order, today }) => finder.position(id, asked, order, today),
    groups: ({ asked, order, by, today }) => {
      const { number, text } = groups[by];
      return finder
        .groups(asked, order, number, today)
        .map(({ first, count }) => ({ key: text(number(first)), count }));
    },
    facets: ({ facets, limit, containing, today }) =>
      facets.map(({ id, query }) =>
        finder.facet(query, id, today, limit, containing ? (label) => foldText(label).includes(containing) : undefined),
      ),
    texts: ({ query, criterion, containing, limit, today }) =>
      finder.texts(
        query,
        criterion,
        today,
        limit,
        containing ? (label) => foldText(label).includes(containing) : undefined,
      ).values,
    terms: ({ query, ids, today }) => {
      const { counts, missing = 0 } = finder.countsOfTerms(query, ids, today);
      return { counts, missing };
    },
    describe: ({ asked, mostKeywords, today }) => {
      const { photos, terms, within, keywords, folders } = finder.describe(asked, today, mostKeywords);
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
    within: ({ asked, queries, most, today }) => finder.within(asked, queries, today, most),
    timeSpan: ({ query, today }) => finder.timeSpan(query, today),
    matching: ({ query, ids, today }) => finder.matching(query, ids, today),
    overTime: ({ query, bounds, today }) => finder.overTime(query, bounds, today),
    photo: ({ id }) => seePhoto(index, client, id),
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

/** A photo as the naive evaluator sees it, to explain a query by. */
async function seePhoto(index: FinderIndex, client: Client, id: number): Promise<SeenPhoto | undefined> {
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
    double: index.inState('double').has(ordinal),
    searched: textParts(texts.words),
  });
  const lead = row.foldedInto === undefined ? -1 : index.ordinalOf(row.foldedInto);
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
