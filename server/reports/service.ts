// Reports: tables of what came in, was described, delivered and found damaged; put together from what each subject knows.

import { format } from 'date-fns';
import { columnsOf, monthBefore, reportText } from '@stellin/core/reports/report';
import type { Report, ReportCell, ReportKind, ReportSection } from '@stellin/core/reports/tables';
import { within } from '@stellin/core/holdings/figures';
import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import type { DriveFixity } from '@stellin/contract/fixity';
import { kindsFor } from '@stellin/contract/ledger';
import type { Project } from '@stellin/contract/projects';
import {
  reportSettings,
  type ReportPreset,
  type ReportPresetForm,
  type ReportSettings,
} from '@stellin/contract/reports';
import { sizeText } from '@stellin/contract/sizeText';
import { countText, numberText } from '@stellin/contract/wording';
import type { WorkList } from '@stellin/contract/workLists';
import { today } from '../catalogue/clock';
import type { Person } from '../catalogue/viewer';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { messageOf, StellinError } from '../errors';
import type { Search } from '../search/service';
import * as store from './store';

export type Reports = ReturnType<typeof reportService>;

interface Parts {
  database: Database;
  search: Search;
  drives: Pick<Drives, 'list'>;
  projects: (person: Person) => Promise<readonly Project[]>;
  workLists: (person: Person, scope: string) => Promise<readonly WorkList[]>;
  fixity: (person: Person) => Promise<{ drives: readonly DriveFixity[] }>;
  personOf: (accountId: number) => Promise<Person>;
  /** Lets a letter be sent. */
  write: (letter: { accountId: number; title: string; text: string; to: string }) => Promise<void>;
}

/** What a report is about, and its tables. */
type Made = Pick<Report, 'about' | 'sections'>;

const NO_LIMITS = { from: '', until: '' };

export function reportService(parts: Parts) {
  // One closure for what its functions share; each of them fits a screen.
  const { database, search } = parts;
  const count = (person: Person, queries: readonly string[]) => search.seenBy(person).counts(queries);

  /** Numbers that searches count, a row each. */
  const figures = async (
    person: Person,
    scope: string,
    rows: readonly (readonly [label: string, query: string])[],
  ): Promise<ReportCell[][]> => {
    const queries = rows.map(([, query]) => within(scope, query));
    const counts = await count(person, queries);
    return rows.map(([label], i) => [{ text: label }, cellOf(counts[i] ?? 0, queries[i])]);
  };

  /** What there is within a scope, and what is open of it. */
  const standing = async (person: Person, scope: string): Promise<ReportSection[]> => {
    const [lists, rows] = await Promise.all([parts.workLists(person, scope), figures(person, scope, STANDING_FIGURES)]);
    return [
      section('What there is', 'Nothing.', ['', '#Photos'], rows),
      section(
        'What is open',
        'Nothing.',
        ['Work list', '#Photos'],
        lists
          .filter(({ photos }) => photos > 0)
          .map(({ label, photos, query }) => [{ text: label }, cellOf(photos, query)]),
      ),
    ];
  };

  const MAKERS: Readonly<Record<ReportKind, (person: Person, settings: ReportSettings) => Promise<Made>>> = {
    async period(person, settings) {
      const [accessions, work, deliveries, damaged, rows] = await Promise.all([
        store.accessionsIn(database, settings),
        store.workIn(database, settings, kindsFor('describe')),
        store.deliveriesIn(database, settings),
        store.damagedIn(database, settings),
        figures(person, '', STANDING_FIGURES),
      ]);
      const sum = (all: readonly { photosNew: number }[]) => all.reduce((total, { photosNew }) => total + photosNew, 0);
      return {
        about: periodText(settings),
        sections: [
          section(
            `What came in: ${countText(sum(accessions), 'photo')}`,
            'Nothing came in.',
            ['No.', 'Day', 'Donor or source', 'Where', 'By', '#New', '#Changed'],
            accessions.map((row) => [
              { text: row.number || String(row.id) },
              { text: row.day },
              { text: row.donor || row.source },
              { text: row.place },
              { text: row.by },
              cellOf(row.photosNew, `accession:${row.id}`),
              cellOf(row.photosChanged),
            ]),
          ),
          section(
            'What was described',
            'Nothing was described.',
            ['By', '#Changes', '#Photos'],
            work.map(({ by, changes, photos }) => [{ text: by }, cellOf(changes), cellOf(photos)]),
          ),
          section(
            'What was delivered',
            'Nothing was delivered.',
            ['Day', 'Title', 'To', 'For', 'By', '#Photos'],
            deliveries.map((row) => [
              ...[row.day, row.title, row.recipient, row.reason, row.by].map((text) => ({ text })),
              cellOf(row.photos),
            ]),
          ),
          section(
            'What was found damaged',
            'Nothing was found damaged.',
            ['Day', 'File', 'What is wrong'],
            damaged.map(({ day, path, problem, id }) => [
              { text: day },
              { text: path, query: `photos:${id}` },
              { text: problem },
            ]),
          ),
          section('What there is now', 'Nothing.', ['', '#Photos'], rows),
        ],
      };
    },

    async project(person, { projectId }) {
      const project = (await parts.projects(person)).find(({ id }) => id === projectId);
      if (!project) throw new StellinError('notFound', { what: 'such project' });
      return { about: `The project “${project.name}”`, sections: await standing(person, project.query) };
    },

    async accession(person, { accessionId }) {
      const [row] = accessionId === null ? [] : await store.accessionsIn(database, NO_LIMITS, accessionId);
      if (!row) throw new StellinError('notFound', { what: 'such accession' });
      const said = Object.entries(SAID_OF_ACCESSION).flatMap(([label, of]) =>
        of(row) === '' ? [] : [[{ text: label }, { text: of(row) }]],
      );
      return {
        about: `Accession ${row.number || row.id}`,
        sections: [
          section('Where it comes from', 'Nothing is said.', ['', ''], said),
          ...(await standing(person, `accession:${row.id}`)),
        ],
      };
    },

    async register(_, settings) {
      const rows = await store.accessionsIn(database, settings);
      return {
        about: `Accession register, ${periodText(settings).toLowerCase()}`,
        sections: [
          section(
            countText(rows.length, 'accession'),
            'There are none.',
            [
              'No.',
              'Day',
              'Donor',
              'Source',
              'Agreement',
              'Restrictions',
              'Holds until',
              'Where',
              'By',
              '#Photos',
              '#Size',
            ],
            rows.map((row) => [
              ...[row.number || String(row.id), row.day, row.donor, row.source, row.agreement, row.restrictions].map(
                (text) => ({ text }),
              ),
              ...[row.ends, row.place, row.by].map((text) => ({ text })),
              cellOf(row.photosNew, `accession:${row.id}`),
              { text: sizeText(row.bytes) },
            ]),
          ),
        ],
      };
    },

    async inventory(person) {
      const [drives, fixity] = await Promise.all([parts.drives.list(person), parts.fixity(person)]);
      const proven = new Map(fixity.drives.map((drive) => [drive.id, drive]));
      const known = drives.filter(({ id }) => id !== null);
      return {
        about: 'Inventory of drives',
        sections: [
          section(
            countText(known.length, 'drive'),
            'There are none.',
            ['Drive', 'State', '#Photos', '#Size', '#Room', '#Free', '#Missing', '#Damaged', 'Oldest proof', 'Note'],
            known.map(({ id, label, state, photos, photoBytes, capacityBytes, freeBytes, missing, note }) => {
              const facts = proven.get(id ?? '');
              return [
                { text: label },
                { text: state },
                cellOf(photos, queryText(criterion('drive', label))),
                { text: sizeText(photoBytes) },
                { text: capacityBytes === null ? '' : sizeText(capacityBytes) },
                { text: freeBytes === null ? '' : sizeText(freeBytes) },
                cellOf(missing),
                cellOf(facts?.damaged ?? 0),
                { text: (facts?.unread ?? 0) > 0 ? 'not all read' : (facts?.oldest ?? '').slice(0, 10) },
                { text: note },
              ];
            }),
          ),
        ],
      };
    },
  };

  const make = async (person: Person, settings: ReportSettings): Promise<Report> => ({
    title: TITLES[settings.kind],
    madeAt: format(new Date(), 'yyyy-MM-dd HH:mm'),
    ...(await MAKERS[settings.kind](person, settings)),
  });

  /** What a monthly letter says: the report, or why there is none; undefined where who has kept it may no longer see everything. */
  const letterOf = async (settings: ReportSettings, accountId: number, day: string): Promise<string | undefined> => {
    const person = await parts.personOf(accountId);
    if (!person.seesAll) return undefined;
    try {
      return reportText(await make(person, { ...settings, ...(isOfTime(settings.kind) ? monthBefore(day) : {}) }));
    } catch (error) {
      // What it is about may be gone: one report that can’t be made keeps no other from being sent.
      return `This report could not be made. ${messageOf(error)}`;
    }
  };

  return {
    make,
    presets: (): Promise<ReportPreset[]> => store.presets(database),
    keep: (form: ReportPresetForm, accountId: number): Promise<number> => store.keepPreset(database, form, accountId),
    async remove(id: number): Promise<void> {
      if (!(await store.removePreset(database, id))) throw new StellinError('notFound', { what: 'such report' });
    },

    /** Sends what is to be sent once a month and was not yet in this one: about the month before, where it is about a time. */
    async sendDue(): Promise<void> {
      const day = today();
      for (const { name, settings: kept, monthlyTo, accountId } of await store.takeDue(
        database,
        `${day.slice(0, 7)}-01`,
      )) {
        const text = await letterOf(reportSettings.parse(kept), accountId, day);
        if (text !== undefined) await parts.write({ accountId, title: name, text, to: monthlyTo });
      }
    },
  };
}

const TITLES: Readonly<Record<ReportKind, string>> = {
  period: 'Report',
  project: 'Report of a project',
  accession: 'Report of an accession',
  register: 'Accession register',
  inventory: 'Inventory of drives',
};

const isOfTime = (kind: ReportKind) => kind === 'period' || kind === 'register';

const STANDING_FIGURES = [
  ['Photos', ''],
  ['Described', 'described:all'],
  ['With a caption', 'has:caption'],
  ['With terms', 'has:terms'],
  ['With people', 'has:people'],
  ['With a place', 'has:location'],
  ['Waiting to be written', 'is:waiting'],
  ['Private', 'is:private'],
] as const;

const SAID_OF_ACCESSION: Readonly<Record<string, (row: store.AccessionRow) => string>> = {
  Number: ({ number }) => number,
  'Taken in': ({ day, by }) => [day, by && `by ${by}`].filter(Boolean).join(' '),
  Where: ({ place }) => place,
  Donor: ({ donor }) => donor,
  Source: ({ source }) => source,
  Agreement: ({ agreement }) => agreement,
  Restrictions: ({ restrictions }) => restrictions,
  'Holds until': ({ ends }) => ends,
  Note: ({ note }) => note,
};

function section(title: string, empty: string, labels: readonly string[], rows: ReportCell[][]): ReportSection {
  return { title, empty, columns: columnsOf(...labels), rows };
}

function cellOf(count: number, query?: string): ReportCell {
  return { text: numberText(count), query: count > 0 ? query : undefined };
}

function periodText({ from, until }: store.Period): string {
  if (from === '' && until === '') return 'From the beginning until today';
  if (from === '') return `Until ${until}`;
  return `From ${from} until ${until || 'today'}`;
}
