// Describing part of the demo's photos by what is true of them, and leaving the rest to whoever tries it.

import type { Services } from '@stellin/server/services';
import { readManifest } from '../archive/make';
import type { DriveLabel } from '../archive/plan';
import { randomOf } from '../archive/random';
import { ARCHIVIST, apply, type Preparing } from './applying';
import { PROGRAM } from '@stellin/server/catalogue/viewer';

interface Known {
  id: number;
  drive: string;
  path: string;
}

/** All photos of the catalogue with their place; the demo's few hundred only. */
async function knownPhotos(services: Services): Promise<Known[]> {
  const [drives, folders] = await Promise.all([services.drives.list(PROGRAM), services.drives.listFolders(PROGRAM)]);
  const labels = new Map(drives.map(({ id, label }) => [id, label]));
  const paths = new Map(folders.map(({ id, path }) => [id, path]));
  const known: Known[] = [];
  for (let offset = 0; ; offset += 200) {
    const page = await services.photos.list(PROGRAM, { query: '', sort: 'added', offset, limit: 200 });
    known.push(
      ...page.map(({ id, name, driveId, folderId }) => ({
        id,
        drive: labels.get(driveId) ?? '',
        path: `${paths.get(folderId)}/${name}`,
      })),
    );
    if (page.length < 200) return known;
  }
}

/** Photos by the terms that are true of them; each photo counts for a term with the given probability. */
async function photosByTerm(
  services: Services,
  label: DriveLabel,
  probability: number,
): Promise<Map<string, number[]>> {
  const ids = new Map((await knownPhotos(services)).map(({ id, drive, path }) => [`${drive}/${path}`, id]));
  const { photos } = await readManifest(services.config.home);
  const byTerm = new Map<string, number[]>();
  for (const { drive, path, terms } of photos.filter((photo) => photo.drive === label)) {
    const id = ids.get(`${drive}/${path}`);
    const random = randomOf(`describe ${drive}/${path}`);
    for (const term of terms) {
      if (!id || !random.chance(probability)) continue;
      byTerm.set(term, [...(byTerm.get(term) ?? []), id]);
    }
  }
  return byTerm;
}

/** Which part of each drive's photos is described. */
const SHARE_DESCRIBED: Partial<Record<DriveLabel, number>> = {
  'Vault 1': 0.7,
  'Vault 2': 0.45,
  'Studio disk': 0.6,
  'Kessel bequest': 0.3,
};

/** Describes part of the photos of a drive by some people in turn. */
export async function describe(
  { services, progress }: Preparing,
  label: DriveLabel,
  people: readonly string[],
): Promise<void> {
  const termIds = await idsOfTerms(services);
  const byTerm = [...(await photosByTerm(services, label, SHARE_DESCRIBED[label] ?? 0))];
  for (const [i, [term, ids]] of byTerm.entries()) {
    const termId = termIds.get(term);
    // Whoever looks around may have removed it meanwhile.
    if (termId === undefined) continue;
    await apply(services, people[i % people.length] ?? ARCHIVIST, {
      kind: 'giveTerms',
      selection: { query: null, plus: ids },
      termIds: [termId],
    });
    progress(i + 1, byTerm.length, term);
  }
}

async function idsOfTerms(services: Services): Promise<Map<string, number>> {
  const terms = await services.vocabulary.list();
  return new Map(terms.filter(({ heading }) => !heading).map(({ label, id }) => [label, id]));
}

/** After the write: ratings and a few terms more, so that something waits on every drive. */
export async function leaveWork({ services }: Preparing): Promise<void> {
  const termIds = await idsOfTerms(services);
  for (const [label, query] of [
    ['Visitor', 'within:"Vault 1/2014" has:terms'],
    ['Fresh breeze', 'within:"Vault 1/2011" term:"In flight"'],
  ] as const) {
    const termId = termIds.get(label);
    if (termId !== undefined)
      await apply(services, ARCHIVIST, { kind: 'giveTerms', selection: { query }, termIds: [termId] });
  }
  const ids = new Map((await knownPhotos(services)).map(({ id, drive, path }) => [`${drive}/${path}`, id]));
  const { photos } = await readManifest(services.config.home);
  const rejected = photos
    .flatMap(({ drive, path, look }) =>
      look === 'blurred' || look === 'dark' ? [ids.get(`${drive}/${path}`) ?? 0] : [],
    )
    .filter(Boolean);
  if (rejected.length)
    await apply(services, ARCHIVIST, { kind: 'setRating', selection: { query: null, plus: rejected }, rating: -1 });
}

/** Field sets, templates and rules as the museum's team has settled them. */
export async function prepareDescribing({ services }: Preparing): Promise<void> {
  const terms = new Map((await services.vocabulary.list()).map(({ id, label }) => [label, id]));
  await apply(services, ARCHIVIST, {
    kind: 'saveFieldSet',
    fieldSetId: null,
    name: 'Events',
    entries: [
      { target: 'title', required: true, help: 'Event and year, as on the poster' },
      { target: 'description', required: true, help: 'Who does what where; kites by their kind' },
      { target: 'event', branch: terms.get('Events') ?? null },
      { target: 'personInImage' },
      { target: 'creator', required: true },
      {
        target: 'creditLine',
        choices: ['Saltmarsh Kite Museum', 'Private loan'],
        initial: 'Saltmarsh Kite Museum',
      },
      { target: 'copyrightNotice', required: true },
      { target: 'city' },
      { target: 'country' },
    ],
  });
  await apply(services, ARCHIVIST, {
    kind: 'saveFieldSet',
    fieldSetId: null,
    name: 'Collection shots',
    entries: [
      { target: 'title', required: true },
      { target: 'artworkOrObject', help: 'The kite itself: maker, date, inventory number' },
      { target: 'custom:Condition', kind: 'choice', choices: ['Good', 'Worn', 'Repaired', 'Fragile'] },
      { target: 'custom:Loan number', help: 'Of kites that are lent to us' },
      { target: 'jobId' },
      { target: 'copyrightNotice', required: true },
    ],
  });
  await apply(services, ARCHIVIST, {
    kind: 'saveTemplate',
    templateId: null,
    name: 'Festival day',
    note: 'For all pictures of one day of the festival',
    edits: [
      { target: 'title', mode: 'fill', value: 'Saltmarsh Kite Festival {year}' },
      { target: 'headline', mode: 'fill', value: '{folder}, {date}' },
      { target: 'copyrightNotice', mode: 'fill', value: '© {year} Saltmarsh Kite Museum' },
      { target: 'jobId', mode: 'replace', value: 'SKF-{year}-{number:4}' },
    ],
    termIds: [terms.get('Saltmarsh Kite Festival')].filter((id) => id !== undefined),
  });
  await apply(services, ARCHIVIST, {
    kind: 'saveQualityRule',
    ruleId: null,
    name: 'Events',
    query: 'term:Events',
    requires: ['caption', 'location', 'creator', 'copyrightNotice'],
  });
}
