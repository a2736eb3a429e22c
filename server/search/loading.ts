// What the finder index is told, read from the catalogue: all of it, or of some photos.

import type { Client } from 'pg';
import type { NamedDossier } from '@stellin/core/dossiers/naming';
import {
  STATE_BITS,
  type ChangePart,
  type FolderFacts,
  type RowPart,
  type RowState,
  type TextPart,
} from '@stellin/core/search/index/records';
import { NOBODY } from '@stellin/core/search/said';
import { NUMBERS } from './compile';
import { localSql } from './clock';

/** So many at once are asked for of some photos, and of all: then what came is forgotten before it counts as old. */
const BATCH = 20_000;
const BATCH_OF_ALL = 2000;
/** 62 digits of a hash are more than enough to tell a million pictures apart. */
const HASH_BYTES = 16;
const GAP = '';

type Value = string | null;
type Row = readonly Value[];

/** How a part of photos is read: the first column is the id. `from` says of which photos, by the column there. */
interface Source<Part, Context = undefined> {
  columns: readonly string[];
  from: string;
  id: string;
  groupBy?: string;
  /** What is read once for all of them. */
  prepare?: (client: Client) => Promise<Context>;
  part: (row: Row, context: Context) => Part;
}

/** The bits of a photo’s states as SQL. */
const STATES = [
  ['missing', 'p.missing_since is not null'],
  ['bundled', 'p.bundle is not null'],
  ['lead', 'p.leads'],
  ['trashed', 'p.trashed_from is not null'],
  ['removed', 'p.removed'],
  ['damaged', 'p.damaged'],
  ['private', 'p.private'],
  ['waiting', `coalesce(w.state = 'waiting', false)`],
  ['conflict', `coalesce(w.state = 'conflict', false)`],
  ['failed', `coalesce(w.state = 'failed', false)`],
  ['written', '(p.written_at is not null and w.state is null)'],
]
  .map(([state, condition]) => `(${condition})::int * ${STATE_BITS[state as RowState]}`)
  .join(' + ');

/** In the rows of a part the id comes first. */
const ROW: Source<RowPart> = {
  columns: [
    'p.name',
    'p.folder_id',
    'p.kind',
    'p.mark',
    'extract(epoch from p.taken_at)::float8',
    'extract(epoch from p.taken_until)::float8',
    `extract(epoch from ${localSql('c.started_at')})::float8`,
    'p.rating',
    'p.accession_id',
    NUMBERS.width,
    NUMBERS.height,
    NUMBERS.size,
    'p.folded_into',
    'p.bundle',
    `encode(substr(p.picture_hash, 1, ${HASH_BYTES}), 'hex')`,
    STATES,
  ],
  from: 'photo p left join write_back w on w.photo_id = p.id left join accession c on c.id = p.accession_id',
  id: 'p.id',
  part: (row) => ({
    name: row[1] ?? '',
    folderId: Number(row[2]),
    kind: row[3] ?? '',
    mark: row[4] ?? '',
    takenFrom: numberOf(row[5]),
    takenUntil: numberOf(row[6]),
    added: numberOf(row[7]),
    rating: Number(row[8]),
    accession: numberOf(row[9]),
    width: numberOf(row[10]),
    height: numberOf(row[11]),
    size: Number(row[12]),
    foldedInto: numberOf(row[13]),
    bundle: numberOf(row[14]),
    pictureHash: row[15] ?? '',
    states: Number(row[16]),
  }),
};

const TEXTS: Source<TextPart, PersonNames> = {
  columns: [
    't.caption',
    't.fields::text',
    't.facts::text',
    't.words::text',
    `(select json_agg(k.keyword)::text from photo_keyword k where k.photo_id = t.photo_id)`,
    `t.disagreements <> '[]'`,
    `(select json_agg(json_build_array(f.state, coalesce(f.person_id, g.person_id)))::text from face f left join face_guess g on g.face_id = f.id
      where f.photo_id = t.photo_id and f.state not in ('removed', 'none'))`,
    `(select json_agg(g.person_id)::text from photo_person g where g.photo_id = t.photo_id)`,
  ],
  from: 'photo_text t',
  id: 't.photo_id',
  prepare: namesOfPersons,
  part: ([, caption, fields, facts, words, keywords, disagreeing, faces, persons], names) => ({
    caption: caption ?? '',
    fields: parsed(fields, {}) as TextPart['fields'],
    facts: parsed(facts, {}) as TextPart['facts'],
    keywords: parsed(keywords, []) as string[],
    words: wordsInOrder(words ?? ''),
    disagreeing: disagreeing === 't',
    people: peopleOf(faces, persons, names),
  }),
};

const TERMS: Source<readonly number[]> = {
  columns: ['array_agg(g.term_id)'],
  from: 'photo_term g',
  id: 'g.photo_id',
  groupBy: 'g.photo_id',
  part: ([, ids]) => numbersIn(ids),
};

const DOSSIERS: Source<readonly number[]> = {
  columns: ['array_agg(d.dossier_id)'],
  from: 'dossier_photo d',
  id: 'd.photo_id',
  groupBy: 'd.photo_id',
  part: ([, ids]) => numbersIn(ids),
};

const CHANGES: Source<ChangePart> = {
  columns: [
    `array_to_json(array_remove(array_agg(distinct a.display_name), null))::text`,
    `extract(epoch from ${localSql('max(e.at)')})::float8`,
  ],
  from: 'ledger_photo l join ledger_entry e on e.id = l.entry_id left join account a on a.id = e.account_id',
  id: 'l.photo_id',
  groupBy: 'l.photo_id',
  part: ([, by, at]) => ({ by: parsed(by, []) as string[], at: numberOf(at) }),
};

/** Parts of photos by what `catalogue_change` calls them. */
export const SOURCES = { row: ROW, texts: TEXTS, terms: TERMS, dossiers: DOSSIERS, changes: CHANGES } as const;
export type PartName = keyof typeof SOURCES;
export type PartOf<Name extends PartName> = ReturnType<(typeof SOURCES)[Name]['part']>;

/** Reads a part of photos, of all or of some, and tells each. */
export async function loadPart<Name extends PartName>(
  client: Client,
  name: Name,
  ids: readonly number[] | undefined,
  tell: (id: number, part: PartOf<Name>) => void,
): Promise<void> {
  const source = SOURCES[name] as unknown as Source<PartOf<Name>, unknown>;
  const { columns, from, id, groupBy, part } = source;
  const context = await source.prepare?.(client);
  const read = (where: string, values: unknown[]) =>
    client.query<Value[]>({
      name: `${name} ${where}`,
      text: `select ${[id, ...columns].join(', ')} from ${from} where ${where} ${groupBy ? `group by ${groupBy}` : ''} order by ${id}`,
      values,
      rowMode: 'array',
      types: AS_TEXT,
    });
  const batches: [where: string, values: unknown[]][] = [];
  if (ids)
    for (let at = 0; at < ids.length; at += BATCH) batches.push([`${id} = any($1)`, [ids.slice(at, at + BATCH)]]);
  else {
    const last = await client.query<{ last: number | null }>('select max(id) as last from photo');
    for (let at = 0; at < (last.rows[0]?.last ?? 0); at += BATCH_OF_ALL)
      batches.push([`${id} > $1 and ${id} <= $2`, [at, at + BATCH_OF_ALL]]);
  }
  // The next batch is asked for before this one is told, so that the database works meanwhile.
  let next = batches[0] && read(...batches[0]);
  for (let i = 0; next; i++) {
    const { rows } = await next;
    const following = batches[i + 1];
    next = following && read(...following);
    for (const row of rows) tell(Number(row[0]), part(row, context));
  }
}

/** The ids of all photos, ascending. */
export async function loadIds(client: Client): Promise<number[]> {
  const { rows } = await client.query<[number]>({ text: 'select id from photo order by id', rowMode: 'array' });
  return rows.map(([id]) => id);
}

/** Folders, all or some. */
export async function loadFolders(client: Client, ids: readonly number[] | undefined): Promise<FolderFacts[]> {
  const { rows } = await client.query<FolderFacts>(
    `select f.id, d.id as "driveId", d.label as drive, f.path, not d.attached as away from folder f join drive d on d.id = f.drive_id
     where $1::int[] is null or f.id = any($1)`,
    [ids ?? null],
  );
  return rows;
}

export async function loadDossiers(client: Client): Promise<NamedDossier[]> {
  const { rows } = await client.query<NamedDossier>('select id, parent_id as "parentId", name from dossier');
  return rows;
}

/** Values as PostgreSQL writes them: each part knows what it makes of them. */
const AS_TEXT = { getTypeParser: () => (value: string) => value };

function numberOf(value: Value | undefined): number | undefined {
  return value === null || value === undefined ? undefined : Number(value);
}

function parsed(json: Value | undefined, otherwise: unknown): unknown {
  return json === null || json === undefined ? otherwise : JSON.parse(json);
}

/** All names of each person, by id. */
type PersonNames = ReadonlyMap<number, readonly string[]>;

async function namesOfPersons(client: Client): Promise<PersonNames> {
  const { rows } = await client.query<{ id: number; names: string[] }>(
    'select id, name || other_names as names from person',
  );
  return new Map(rows.map(({ id, names }) => [id, names]));
}

function peopleOf(faces: Value | undefined, persons: Value | undefined, names: PersonNames): TextPart['people'] {
  if (!faces && !persons) return NOBODY;
  const found = parsed(faces, []) as [state: string, personId: number | null][];
  const namesOf = (ids: readonly (number | null)[]) => [
    ...new Set(ids.flatMap((id) => (id === null ? [] : (names.get(id) ?? [])))),
  ];
  const of = (state: string) => found.filter((face) => face[0] === state).map(([, personId]) => personId);
  return {
    names: namesOf([...of('named'), ...(parsed(persons, []) as number[])]),
    confirmed: namesOf(of('named')),
    suggested: namesOf(of('open')),
    faces: found.length,
    unnamed: of('open').length,
  };
}

/** `{1,2,3}`; none of them is negative. */
function numbersIn(array: Value | undefined): number[] {
  if (!array || array.length <= 2) return [];
  const numbers: number[] = [];
  let number = 0;
  for (let i = 1; i < array.length; i++) {
    const digit = array.charCodeAt(i) - DIGIT_0;
    if (digit >= 0 && digit <= 9) number = number * 10 + digit;
    else {
      numbers.push(number);
      number = 0;
    }
  }
  return numbers;
}

const DIGIT_0 = '0'.charCodeAt(0);

/**
 * The words of a tsvector (`'beach':3 'kite':1,7`) in their order, with a gap wherever a position is left out. Those far behind,
 * which share the last position, come one by one.
 */
function wordsInOrder(vector: string): string[] {
  const placed: string[] = [];
  const late: string[] = [];
  // Words are letters and digits only, so none holds a quotation mark.
  for (let open = vector.indexOf("'"); open >= 0;) {
    const close = vector.indexOf("'", open + 1);
    const word = vector.slice(open + 1, close);
    let at = 0;
    let i = close + 2;
    for (; i < vector.length; i++) {
      const digit = vector.charCodeAt(i) - DIGIT_0;
      if (digit >= 0 && digit <= 9) at = at * 10 + digit;
      else if (digit === COMMA) {
        placed[at] = word;
        at = 0;
      } else break;
    }
    if (placed[at] === undefined) placed[at] = word;
    else late.push(GAP, word);
    open = vector.indexOf("'", i);
  }
  const words: string[] = [];
  let gap = true;
  for (let at = 0; at < placed.length; at++) {
    const word = placed[at];
    if (word !== undefined) words.push(word);
    else if (!gap) words.push(GAP);
    gap = word === undefined;
  }
  return late.length === 0 ? words : [...words, ...late];
}

const COMMA = ','.charCodeAt(0) - DIGIT_0;
