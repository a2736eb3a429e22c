// The demo's vocabulary: its terms, what is said of them, and what in it wants mending.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseOutline, type OutlineTerm } from '@stellin/core/vocabulary/formats/indented';
import type { NewTermInput } from '@stellin/contract/termChanges';
import { ROOT } from '@stellin/server/root';
import { ARCHIVIST, apply, type Preparing } from './applying';
import { PROGRAM } from '@stellin/server/catalogue/viewer';

/** Which headings of vocabulary.txt begin a vocabulary of their own; the others make the thesaurus. */
const VOCABULARIES: readonly { name: string; note: string; headings: readonly string[] }[] = [
  {
    name: 'Places',
    note: 'Where pictures were taken, and where kites come from',
    headings: ['Places', 'Regions of origin'],
  },
  { name: 'Picture types', note: 'What kind of picture it is', headings: ['Picture types'] },
];

/** Adds the terms of vocabulary.txt, each under the vocabulary that it belongs to. */
export async function addVocabulary({ services }: Preparing): Promise<void> {
  const { terms, errors } = parseOutline(readFileSync(join(ROOT, 'demo', 'vocabulary.txt'), 'utf8'));
  if (errors[0]) throw new Error(`vocabulary.txt, line ${errors[0].line}: ${errors[0].message}`);
  const { vocabularies } = await services.vocabulary.overview(PROGRAM);
  const define = { kind: 'defineVocabulary', language: 'en' } as const;
  await apply(services, 'keeper', {
    ...define,
    vocabularyId: vocabularies[0]?.id ?? null,
    name: 'Museum thesaurus',
    note: 'Objects, people, events and weather',
  });
  for (const { name, note } of VOCABULARIES)
    if (!vocabularies.some((known) => known.name === name))
      await apply(services, 'keeper', { ...define, vocabularyId: null, name, note });
  const now = (await services.vocabulary.overview(PROGRAM)).vocabularies;
  const nameOf = (label: string) =>
    VOCABULARIES.find(({ headings }) => headings.includes(label))?.name ?? 'Museum thesaurus';
  for (const { id, name } of now) {
    const own = terms.filter(({ label }) => nameOf(label) === name);
    if (own.length)
      await apply(services, 'keeper', { kind: 'addTerms', parentId: null, vocabularyId: id, terms: own.map(newTerm) });
  }
}

/** What makes a vocabulary live: notes, links, proposals that wait, pads. */
export async function tendVocabulary({ services }: Preparing): Promise<void> {
  const list = await services.vocabulary.list();
  const id = (label: string) => list.find((term) => term.label === label)?.id ?? 0;
  for (const [label, facts] of CARDS) await apply(services, ARCHIVIST, { kind: 'editTerm', termId: id(label), facts });
  for (const [relation, from, to] of LINKS)
    await apply(services, ARCHIVIST, { kind: 'relateTerms', relation, fromId: id(from), toId: id(to) });
  for (const { below, ...proposal } of PROPOSALS)
    await apply(services, 'cataloguer', { kind: 'proposeTerm', parentId: id(below), ...proposal });
  for (const { name, keys } of PADS)
    await apply(services, ARCHIVIST, {
      kind: 'definePad',
      padId: null,
      name,
      shared: true,
      keys: Object.fromEntries(Object.entries(keys).map(([key, label]) => [key, id(label)])),
    });
}

/** Doubtful spots to mend, as they come about. */
export async function leaveDoubts({ services }: Preparing): Promise<void> {
  const list = await services.vocabulary.list();
  const id = (label: string) => list.find((term) => term.label === label)?.id ?? 0;
  // Added in haste by somebody who did not find Rokkaku.
  const added = { kind: 'addTerms', parentId: id('Bowed kites') } as const;
  await apply(services, ARCHIVIST, { ...added, terms: [{ label: 'Rokaku' }] });
  await apply(services, ARCHIVIST, { ...added, terms: [{ label: 'Bermuda' }] });
  await apply(services, ARCHIVIST, {
    kind: 'deprecateTerm',
    termId: id('Bermuda-type'),
    replacedBy: id('Hexagon'),
  });
  const doubled = (await services.vocabulary.list()).find(({ label }) => label === 'Rokaku')?.id ?? 0;
  for (const query of ['only:Rokkaku within:"Vault 2"', 'keyword:rok* drive:"Studio disk"'])
    await apply(services, ARCHIVIST, { kind: 'giveTerms', selection: { query }, termIds: [doubled] });
}

const CARDS = [
  [
    'Rokkaku',
    { scopeNote: 'Hexagonal bowed kite with two spars across. Use also for fighting rokkaku.', colour: 'green' },
  ],
  ['Kites', { scopeNote: 'The objects themselves, in the air or not.', colour: 'teal' }],
  ['Delta', { scopeNote: 'Three-cornered kite with a keel. For two lines use Stunt delta.' }],
  [
    'Parafoil',
    {
      scopeNote: 'Soft kite with open cells that the wind fills.',
      definition: 'Flexible wing of cells between two sails.',
    },
  ],
  [
    'Saltmarsh Kite Festival',
    { colour: 'amber', scopeNote: 'The yearly festival in June. For the winter meeting use Winter indoor meeting.' },
  ],
  ['Portrait', { scopeNote: 'One person is what the picture is about.' }],
] as const;

const LINKS = [
  ['related', 'Rokkaku', 'Fighter kite'],
  ['related', 'Saltmarsh Kite Festival', 'One Sky day'],
  ['broader', 'Rokkaku', 'East Asian kites'],
  ['broader', 'Edo', 'East Asian kites'],
] as const;

const PROPOSALS = [
  {
    below: 'Soft kites',
    label: 'Ray',
    scopeNote: 'Flat soft kite in the shape of a fish; many at the festival of 2014.',
    selection: { query: 'only:Manta within:"Vault 1"' },
  },
  {
    below: 'Flying',
    label: 'Lit kites',
    scopeNote: 'Kites with lamps on line or sail, flown after sunset.',
    selection: { query: 'term:Dusk within:"Vault 1"' },
  },
] as const;

const PADS = [
  {
    name: 'Festival',
    keys: {
      '1': 'Flyer',
      '2': 'Judge',
      '3': 'Visitor',
      '4': 'Child',
      q: 'Rokkaku',
      w: 'Delta',
      e: 'Parafoil',
      r: 'Box kite',
      a: 'Overall view',
      s: 'Detail',
      d: 'Portrait',
    },
  },
  {
    name: 'Collection',
    keys: {
      '1': 'Overall view',
      '2': 'Detail',
      '3': 'Back view',
      '4': 'With scale',
      q: 'Diamond',
      w: 'Hexagon',
      e: 'Sled',
    },
  },
] as const;

function newTerm({ label, heading, otherLabels, narrower }: OutlineTerm): NewTermInput {
  return { label, heading, otherLabels, narrower: narrower.map(newTerm) };
}
