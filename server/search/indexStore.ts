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
import { NUMBERS } from '../catalogue/compile';
import { FIXITY_SQL } from '../catalogue/fixity';
import { localSql } from '../catalogue/clock';

/** So many at once are asked for of some photos, and of all: then what came is forgotten before it counts as old. */
const IDS_PER_READ = 20_000;
const ROWS_PER_FETCH = 2000;
/** 62 digits of a hash are more than enough to tell a million pictures apart. */
const HASH_BYTES = 16;
const GAP = '';
/** What the id of the photo is called among the columns of a part. */
const ID = 'photoId';

/** As PostgreSQL writes it. */
type Value = string | null;

/** How a part of photos is read: its columns by name, and what is made of them. `from` says of which photos, by the column there. */
interface Source<Part, Column extends string = string, Context = undefined> {
  columns: Readonly<Record<Column, string>>;
  from: string;
  id: string;
  groupBy?: string;
  /** What is read once for all of them. */
  prepare?: (client: Client) => Promise<Context>;
  part: (row: Readonly<Record<Column, Value>>, context: Context) => Part;
}

/** Lets the names of the columns be those that the part may ask for. */
function source<Part, Column extends string, Context = undefined>(
  described: Source<Part, Column, Context>,
): Source<Part, Column, Context> {
  return described;
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
  ['sideways', 'p.sideways <> 0'],
  ['waiting', `coalesce(w.state = 'waiting', false)`],
  ['conflict', `coalesce(w.state = 'conflict', false)`],
  ['failed', `coalesce(w.state = 'failed', false)`],
  ['written', '(p.written_at is not null and w.state is null)'],
]
  .map(([state, condition]) => `(${condition})::int * ${STATE_BITS[state as RowState]}`)
  .join(' + ');

const ROW = source({
  columns: {
    name: 'p.name',
    folderId: 'p.folder_id',
    kind: 'p.kind',
    fixity: FIXITY_SQL,
    mark: 'p.mark',
    takenFrom: 'extract(epoch from p.taken_at)::float8',
    takenUntil: 'extract(epoch from p.taken_until)::float8',
    added: `extract(epoch from ${localSql('c.started_at')})::float8`,
    rating: 'p.rating',
    accession: 'p.accession_id',
    width: NUMBERS.width,
    height: NUMBERS.height,
    size: NUMBERS.size,
    foldedInto: 'p.folded_into',
    bundle: 'p.bundle',
    pictureHash: `encode(substr(p.picture_hash, 1, ${HASH_BYTES}), 'hex')`,
    states: STATES,
  },
  from: 'photo p left join write_back w on w.photo_id = p.id left join accession c on c.id = p.accession_id',
  id: 'p.id',
  part: (row): RowPart => ({
    name: row.name ?? '',
    folderId: Number(row.folderId),
    kind: row.kind ?? '',
    fixity: row.fixity ?? '',
    mark: row.mark ?? '',
    takenFrom: numberOf(row.takenFrom),
    takenUntil: numberOf(row.takenUntil),
    added: numberOf(row.added),
    rating: Number(row.rating),
    accession: numberOf(row.accession),
    width: numberOf(row.width),
    height: numberOf(row.height),
    size: Number(row.size),
    foldedInto: numberOf(row.foldedInto),
    bundle: numberOf(row.bundle),
    pictureHash: row.pictureHash ?? '',
    states: Number(row.states),
  }),
});

const TEXTS = source({
  columns: {
    caption: 't.caption',
    fields: 't.fields::text',
    facts: 't.facts::text',
    words: 't.words::text',
    keywords: `(select json_agg(k.keyword)::text from photo_keyword k where k.photo_id = t.photo_id)`,
    disagreeing: `t.disagreements <> '[]'`,
    faces: `(select json_agg(json_build_array(f.state, coalesce(f.person_id, g.person_id)))::text from face f left join face_guess g on g.face_id = f.id
      where f.photo_id = t.photo_id and f.state not in ('removed', 'none'))`,
    persons: `(select json_agg(g.person_id)::text from photo_person g where g.photo_id = t.photo_id)`,
    pins: `(select json_agg(json_build_array(l.name, n.name) order by l.id, n.id)::text
      from plan_photo h join plan_pin n on n.id = h.pin_id join plan l on l.id = n.plan_id where h.photo_id = t.photo_id)`,
    done: `(select json_agg(w.list)::text from work_done w where w.photo_id = t.photo_id)`,
  },
  from: 'photo_text t',
  id: 't.photo_id',
  prepare: namesOfPersons,
  part: ({ caption, fields, facts, words, keywords, disagreeing, faces, persons, pins, done }, names): TextPart => ({
    caption: caption ?? '',
    fields: parsed(fields, {}) as TextPart['fields'],
    facts: parsed(facts, {}) as TextPart['facts'],
    keywords: parsed(keywords, []) as string[],
    words: wordsInOrder(words ?? ''),
    disagreeing: disagreeing === 't',
    people: peopleOf(faces, persons, names),
    plans: plansOf(pins),
    done: done ? (parsed(done, []) as string[]) : NONE,
  }),
});

const TERMS = source({
  columns: { terms: 'array_agg(g.term_id)' },
  from: 'photo_term g',
  id: 'g.photo_id',
  groupBy: 'g.photo_id',
  part: ({ terms }): readonly number[] => numbersIn(terms),
});

const DOSSIERS = source({
  columns: { dossiers: 'array_agg(d.dossier_id)' },
  from: 'dossier_photo d',
  id: 'd.photo_id',
  groupBy: 'd.photo_id',
  part: ({ dossiers }): readonly number[] => numbersIn(dossiers),
});

const CHANGES = source({
  columns: {
    by: `array_to_json(array_remove(array_agg(distinct a.display_name), null))::text`,
    at: `extract(epoch from ${localSql('max(e.at)')})::float8`,
  },
  from: 'ledger_photo l join ledger_entry e on e.id = l.entry_id left join account a on a.id = e.account_id',
  id: 'l.photo_id',
  groupBy: 'l.photo_id',
  part: ({ by, at }): ChangePart => ({ by: parsed(by, []) as string[], at: numberOf(at) }),
});

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
  const { columns, from, id, groupBy, prepare, part } = SOURCES[name] as unknown as Source<
    PartOf<Name>,
    string,
    unknown
  >;
  const context = await prepare?.(client);
  const selected = Object.entries(columns).map(([column, sql]) => `${sql} as "${column}"`);
  const read = (where: string, values: unknown[]) =>
    client.query<Record<string, Value>>({
      name: `${name} ${where}`,
      text: `select ${[`${id} as "${ID}"`, ...selected].join(', ')} from ${from} where ${where} ${groupBy ? `group by ${groupBy}` : ''} order by ${id}`,
      values,
      types: AS_TEXT,
    });
  const batches: [where: string, values: unknown[]][] = [];
  if (ids)
    for (let at = 0; at < ids.length; at += IDS_PER_READ)
      batches.push([`${id} = any($1)`, [ids.slice(at, at + IDS_PER_READ)]]);
  else {
    const last = await client.query<{ last: number | null }>('select max(id) as last from photo');
    for (let at = 0; at < (last.rows[0]?.last ?? 0); at += ROWS_PER_FETCH)
      batches.push([`${id} > $1 and ${id} <= $2`, [at, at + ROWS_PER_FETCH]]);
  }
  // The next batch is asked for before this one is told, so that the database works meanwhile.
  let next = batches[0] && read(...batches[0]);
  for (let i = 0; next; i++) {
    const { rows } = await next;
    const following = batches[i + 1];
    next = following && read(...following);
    for (const row of rows) tell(Number(row[ID]), part(row, context));
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

/** All names of each person, by id, and whether the person is private. */
type PersonNames = ReadonlyMap<number, { names: readonly string[]; isPrivate: boolean }>;

async function namesOfPersons(client: Client): Promise<PersonNames> {
  const { rows } = await client.query<{ id: number; names: string[]; private: boolean }>(
    'select id, name || other_names as names, private from person',
  );
  return new Map(rows.map(({ id, names, private: isPrivate }) => [id, { names, isPrivate }]));
}

function peopleOf(faces: Value | undefined, persons: Value | undefined, names: PersonNames): TextPart['people'] {
  if (!faces && !persons) return NOBODY;
  const found = parsed(faces, []) as [state: string, personId: number | null][];
  const of = (state: string) =>
    found.flatMap(([each, personId]) => (each === state && personId !== null ? [personId] : []));
  const without = parsed(persons, []) as number[];
  const said = (isSaid: (id: number) => boolean) => {
    const namesOf = (ids: readonly number[]) => [
      ...new Set(ids.filter(isSaid).flatMap((id) => names.get(id)?.names ?? [])),
    ];
    return {
      names: namesOf([...of('named'), ...without]),
      confirmed: namesOf(of('named')),
      suggested: namesOf(of('open')),
    };
  };
  const isPrivate = (id: number) => names.get(id)?.isPrivate ?? false;
  const hasPrivate = [...of('named'), ...of('open'), ...without].some(isPrivate);
  return {
    ...said(() => true),
    ...(hasPrivate ? { public: said((id) => !isPrivate(id)) } : {}),
    faces: found.length,
    unnamed: found.filter(([state]) => state === 'open').length,
  };
}

/** The plans on which a photo is pinned, each once, and their pins. */
function plansOf(pins: Value | undefined): readonly string[] {
  if (!pins) return NONE;
  const found = parsed(pins, []) as [plan: string, pin: string][];
  return [...new Set(found.flatMap(([plan, pin]) => [plan, `${plan}/${pin}`]))];
}

const NONE: readonly string[] = [];

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
