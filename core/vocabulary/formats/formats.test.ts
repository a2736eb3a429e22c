import fc from 'fast-check';
import { FORMAT_IDS, formatOf, type FormatId } from '../formatIds';
import { compareImport, planImport } from '../importing';
import { lint } from '../lint';
import {
  LABEL_KINDS,
  newTerm,
  soundLabels,
  TERM_COLOURS,
  tidyLabel,
  WRITTEN_OTHERS,
  type Term,
  type Vocabulary,
} from '../term';
import { aTerm, carriedOut, freshFrom, stateOf } from '../testing';
import { TermTree } from '../tree';
import { draftOf, type Draft } from './draft';
import { FORMATS, readVocabulary } from './index';
import { parseOutline } from './indented';

const label = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 12 })
  .map((text) => tidyLabel(text.replace(/[\p{Cc}\p{Cs}\ufffe\uffff]/gu, '')) ?? 'Kite');
const note = fc.constantFrom('', 'Six-sided.', 'With “quotes”, commas; and\nlines <b>&amp;</b>', '=1+1');

/** A random vocabulary: any shape of tree, all facts of terms, links. */
const anyVocabulary = fc
  .array(
    fc.record({
      under: fc.nat(100),
      label,
      heading: fc.boolean(),
      deprecated: fc.boolean(),
      scopeNote: note,
      definition: note,
      byHand: fc.boolean(),
      notation: fc.constantFrom('', 'K.12'),
      colour: fc.constantFrom('', ...TERM_COLOURS),
      proposed: fc.boolean(),
      writeSelf: fc.boolean(),
      writeBroader: fc.boolean(),
      writeOthers: fc.constantFrom(...WRITTEN_OTHERS),
      writeLanguage: fc.constantFrom('', 'de'),
      others: fc.array(
        fc.record({ kind: fc.constantFrom(...LABEL_KINDS), language: fc.constantFrom('', 'de', 'ja', 'pt-BR'), label }),
        { maxLength: 4 },
      ),
      link: fc.nat(100),
    }),
    { minLength: 1, maxLength: 14 },
  )
  .map((drawn) => {
    const vocabulary: Vocabulary = {
      id: 1,
      name: 'Museum; “A”',
      language: 'en',
      uri: 'https://saltmarsh.example/terms',
      note: 'All of it',
      byHand: false,
    };
    const seen = new Set<string>();
    const terms: Term[] = [];
    drawn.forEach(({ under, others, proposed, link: _link, ...said }, i) => {
      const parentId = under % (i + 1) === 0 ? null : under % (i + 1);
      const key = `${parentId} ${said.label}`;
      if (seen.has(key) || (parentId !== null && !terms.some(({ id }) => id === parentId))) return;
      seen.add(key);
      terms.push(
        newTerm({
          ...said,
          id: i + 1,
          parentId,
          vocabularyId: parentId === null ? 1 : null,
          otherLabels: soundLabels(said.label, others),
          status: proposed ? 'proposed' : 'accepted',
          uri: `https://saltmarsh.example/terms/${i + 1}`,
          position: i,
        }),
      );
    });
    const concepts = terms.filter(({ heading }) => !heading);
    const tree = new TermTree(terms);
    const relations = drawn.flatMap(({ link }, i) => {
      const [from, to] = [concepts[i], concepts[link % Math.max(1, concepts.length)]];
      if (!from || !to || from.id >= to.id || tree.above(from.id).has(to.id) || tree.above(to.id).has(from.id))
        return [];
      return [{ kind: 'related' as const, fromId: from.id, toId: to.id }];
    });
    return { vocabulary, relations, tree: new TermTree(terms, relations, [vocabulary]) };
  });

/** A draft without what only its making says: keys and the order of lists that have none. */
function essence(draft: Draft, says: Draft['says']): unknown {
  const uris = new Map(draft.terms.map((term) => [term.key, term.uri || term.label]));
  const named = (key: string | null) => (key === null ? null : (uris.get(key) ?? key));
  return draft.terms.map((term) => [
    term.label,
    named(term.parent)?.replace(/^.*\//, ''),
    ...says.map((part) => {
      if (part === 'otherLabels')
        return term.otherLabels.map((one) => JSON.stringify([one.kind, one.language, one.label])).sort();
      if (part === 'broader' || part === 'related') return term[part].map((key) => String(named(key))).sort();
      if (part === 'replacedBy') return named(term.replacedBy);
      return term[part];
    }),
  ]);
}

test.each(
  (['turtle', 'rdfxml', 'jsonld'] as const).flatMap((format) =>
    [true, false].map((byHand) => [format, byHand] as const),
  ),
)(
  '%s says of the vocabulary itself what it is called, in which language, and whether it is in an order by hand: %s',
  async (format, byHand) => {
    const vocabulary = {
      id: 1,
      name: 'Museum',
      language: 'de',
      uri: 'https://saltmarsh.example/terms',
      note: 'Objects and events',
      byHand,
    };
    const tree = new TermTree([aTerm(1, null, 'Drachen')], [], [vocabulary]);
    const read = await readVocabulary(format, FORMATS[format].write(draftOf(vocabulary, tree, [])));
    const { name, uri, language, note } = vocabulary;
    expect(read).toMatchObject({ name, uri, language, note, byHand });
  },
);

test('concepts without a scheme are a vocabulary that says nothing of itself', async () => {
  const read = await readVocabulary(
    'turtle',
    '@prefix skos: <http://www.w3.org/2004/02/skos/core#> . <urn:a> a skos:Concept ; skos:prefLabel "Kite"@en .',
  );
  expect(read).toMatchObject({ name: '', uri: '', note: '', language: 'en', byHand: false });
});

describe.each(FORMAT_IDS)('%s', (format: FormatId) => {
  test('what is written is read back the same', async () => {
    await fc.assert(
      fc.asyncProperty(anyVocabulary, async ({ vocabulary, tree, relations }) => {
        const draft = draftOf(vocabulary, tree, relations);
        // Labels in the vocabulary's own language are the same with and without its tag.
        const text = FORMATS[format].write(draft);
        const read = await readVocabulary(format, text);
        expect(read.problems).toEqual([]);
        if (format === 'indented')
          expect(read.terms.map((term) => term.label)).toEqual(draft.terms.map((term) => term.label));
        else expect(essence(read, read.says)).toEqual(essence(draft, read.says));
      }),
      { numRuns: 60 },
    );
  });

  test('taking in what was just written changes nothing', async () => {
    await fc.assert(
      fc.asyncProperty(anyVocabulary, async ({ vocabulary, tree, relations }) => {
        const state = { tree, relations, vocabularies: [vocabulary], uses: new Map() };
        const read = await readVocabulary(format, FORMATS[format].write(draftOf(vocabulary, tree, relations)));
        expect(compareImport(state, 1, read).filter(({ kind }) => kind !== 'same')).toEqual([]);
      }),
      { numRuns: 40 },
    );
  });

  test('broken and cut-off files are refused with a sentence or read in part, never worse', async () => {
    const whole = FORMATS[format].write(
      draftOf(
        { id: 1, name: 'M', language: 'en', uri: 'urn:m', note: '', byHand: false },
        stateOf([aTerm(1, null, 'Kites'), aTerm(2, 1, 'Delta')]).tree,
        [],
      ),
    );
    await fc.assert(
      fc.asyncProperty(fc.nat(whole.length), fc.string({ maxLength: 4 }), async (at, inserted) => {
        const mutilated = whole.slice(0, at) + inserted + (at % 2 ? '' : whole.slice(at + 1));
        try {
          expect((await readVocabulary(format, mutilated)).terms.length).toBeLessThan(100);
        } catch (error) {
          expect(String(error)).toMatch(/can’t be read as|at most|the most/);
        }
      }),
      { numRuns: 150 },
    );
  });
});

describe('SKOS as others write it', () => {
  const TURTLE = `
    @prefix skos: <http://www.w3.org/2004/02/skos/core#> . @prefix ex: <http://kites.example/> . @prefix dct: <http://purl.org/dc/terms/> .
    ex:scheme a skos:ConceptScheme ; dct:title "Kites"@en ; skos:hasTopConcept ex:kites .
    ex:kites skos:prefLabel "kites"@en, "Drachen"@de ; skos:narrower ex:delta, ex:box .
    ex:delta a skos:Concept ; skos:prefLabel "delta"@en ; skos:altLabel "delta-wing"@en ; skos:related ex:box .
    ex:box a skos:Concept ; skos:prefLabel "box"@en ; skos:broader ex:kites, ex:cells ; skos:notation "B1" .
    ex:cells a skos:Concept ; skos:prefLabel "cellular forms"@en ; skos:topConceptOf ex:scheme .
    ex:byWing a skos:Collection ; skos:prefLabel "kites by wing"@en ; skos:member ex:delta .`;

  test('narrower says broader, the language is that of most labels, collections are headings', async () => {
    const draft = await readVocabulary('turtle', TURTLE);
    const at = (name: string) => draft.terms.find(({ label: own }) => own === name);
    expect(draft).toMatchObject({ name: 'Kites', language: 'en', problems: [] });
    expect(at('kites')).toMatchObject({
      parent: null,
      otherLabels: [{ kind: 'preferred', language: 'de', label: 'Drachen' }],
    });
    expect(at('kites by wing')).toMatchObject({ heading: true, parent: 'http://kites.example/kites' });
    expect(at('delta')?.parent).toBe('http://kites.example/byWing');
    expect(new Set([at('box')?.parent, ...(at('box')?.broader ?? [])])).toEqual(
      new Set(['http://kites.example/cells', 'http://kites.example/kites']),
    );
    expect(at('delta')?.related).toEqual(['http://kites.example/box']);
  });

  test('hidden labels, notations, ordered arrays and labels without a language are understood', async () => {
    const draft = await readVocabulary(
      'jsonld',
      JSON.stringify({
        '@context': {
          skos: 'http://www.w3.org/2004/02/skos/core#',
          member: { '@id': 'skos:memberList', '@container': '@list' },
        },
        '@graph': [
          {
            '@id': 'urn:k',
            '@type': 'skos:Concept',
            'skos:prefLabel': 'kites',
            'skos:hiddenLabel': { '@value': 'kytes', '@language': 'en' },
          },
          {
            '@id': 'urn:s',
            '@type': 'skos:Concept',
            'skos:prefLabel': { '@value': 'small', '@language': 'en' },
            'skos:notation': '1',
            'skos:broader': { '@id': 'urn:k' },
          },
          {
            '@id': 'urn:l',
            '@type': 'skos:Concept',
            'skos:prefLabel': { '@value': 'large', '@language': 'en' },
            'skos:broader': { '@id': 'urn:k' },
          },
          {
            '@id': 'urn:size',
            '@type': 'skos:OrderedCollection',
            'skos:prefLabel': { '@value': 'kites by size', '@language': 'en' },
            member: [{ '@id': 'urn:s' }, { '@id': 'urn:l' }],
          },
        ],
      }),
    );
    const at = (name: string) => draft.terms.find(({ label: own }) => own === name);
    expect(at('kites')?.otherLabels).toEqual([{ kind: 'hidden', language: '', label: 'kytes' }]);
    expect(at('kites by size')).toMatchObject({ heading: true, parent: 'urn:k' });
    expect([at('small')?.parent, at('large')?.parent, at('small')?.notation]).toEqual(['urn:size', 'urn:size', '1']);
  });

  test('RDF/XML with typed nodes and nested concepts says the same as Turtle', async () => {
    const xml = `<?xml version="1.0"?><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#" xmlns:s="http://www.w3.org/2004/02/skos/core#" xml:lang="en">
      <s:Concept rdf:about="urn:k"><s:prefLabel>kites</s:prefLabel><s:prefLabel xml:lang="pt-br">pipas</s:prefLabel>
        <s:narrower><s:Concept rdf:about="urn:d"><s:prefLabel>delta &amp; co</s:prefLabel></s:Concept></s:narrower></s:Concept></rdf:RDF>`;
    const draft = await readVocabulary('rdfxml', xml);
    expect(draft.terms.map(({ label: own, parent }) => [own, parent])).toEqual([
      ['kites', null],
      ['delta & co', 'urn:k'],
    ]);
    expect(draft.terms[0]?.otherLabels).toEqual([{ kind: 'preferred', language: 'pt-BR', label: 'pipas' }]);
  });

  test('what the file does not speak of stays as it is', async () => {
    const draft = await readVocabulary('turtle', TURTLE);
    expect(draft.says).not.toContain('colour');
    const state = stateOf([aTerm(1, null, 'kites', { colour: 'red', uri: 'http://kites.example/kites' })]);
    const { state: after } = carriedOut(
      state,
      planImport(state, 1, draft, { gone: 'keep', same: [], without: [] }, freshFrom(50)),
    );
    expect(after.tree.get(1)).toMatchObject({ colour: 'red', uri: 'http://kites.example/kites' });
  });
});

describe('importing', () => {
  const state = stateOf([aTerm(1, null, 'Kites'), aTerm(2, 1, 'Delta'), aTerm(3, 1, 'Rokkaku'), aTerm(4, null, 'Old')]);

  test('tells new, moved, doubtful, gone and changed apart', async () => {
    const draft = await readVocabulary('indented', '[Kites]\n\tRokaku\n\tSled\nDelta\n');
    const rows = compareImport(state, 1, draft).map(({ label: own, kind }) => [own, kind]);
    expect(rows).toEqual([
      ['Kites', 'changed'],
      ['Rokaku', 'doubtful'],
      ['Sled', 'new'],
      ['Delta', 'moved'],
      ['Rokkaku', 'gone'],
      ['Old', 'gone'],
    ]);
  });

  test('takes doubtful ones for what they might be, leaves out what is not wanted, and deprecates what is gone', async () => {
    const draft = await readVocabulary('indented', 'Kites\n\tRokaku\n\tSled\n\tBox\n');
    const [rokaku, sled] = [draft.terms[1]?.key ?? '', draft.terms[2]?.key ?? ''];
    const plan = planImport(state, 1, draft, { gone: 'deprecate', same: [rokaku], without: [sled] }, freshFrom(50));
    const { tree } = carriedOut(state, plan).state;
    expect(tree.narrower(1).map(({ label: own, deprecated }) => [own, deprecated])).toEqual([
      ['Box', false],
      ['Delta', true],
      ['Rokkaku', false],
    ]);
    expect(tree.get(4)?.deprecated).toBe(true);
  });

  test('a link that makes a circle is left out or told among the findings', async () => {
    const circle = `@prefix skos: <http://www.w3.org/2004/02/skos/core#> .
      <urn:a> skos:prefLabel "a" ; skos:broader <urn:b> . <urn:b> skos:prefLabel "b" ; skos:broader <urn:a> ; skos:related <urn:c> .
      <urn:c> skos:prefLabel "c" ; skos:broader <urn:b>, <urn:gone> .`;
    const draft = await readVocabulary('turtle', circle);
    expect(draft.problems.map(({ message }) => message)).toContain(
      'its broader terms go in a circle; one of them is taken to the top',
    );
    const empty = stateOf([]);
    const after = carriedOut(
      empty,
      planImport(empty, 1, draft, { gone: 'keep', same: [], without: [] }, freshFrom(1)),
    ).state;
    expect(lint({ tree: after.tree, relations: after.relations, photos: new Map() }).map(({ kind }) => kind)).toContain(
      'circle',
    );
  });
});

describe('hostile files', () => {
  test('twenty thousand levels, and a circle as long, are cut or broken, not followed', async () => {
    const deep = Array.from(
      { length: 20_000 },
      (_, i) =>
        `<urn:${i}> <${'http://www.w3.org/2004/02/skos/core#'}broader> <urn:${i + 1}>; <http://www.w3.org/2004/02/skos/core#prefLabel> "t${i}" .`,
    ).join('\n');
    const draft = await readVocabulary('turtle', deep);
    expect(draft.problems.length).toBeGreaterThan(0);
    expect(draft.terms.length).toBeLessThan(20_000);
  });

  test('entities that blow up in one another are not followed', async () => {
    const bomb = `<?xml version="1.0"?><!DOCTYPE rdf:RDF [<!ENTITY a "aaaaaaaaaa">${Array.from({ length: 30 }, (_, i) => `<!ENTITY a${i} "&a${i - 1};&a${i - 1};&a${i - 1};&a${i - 1};">`).join('')}]>
      <rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#" xmlns:skos="http://www.w3.org/2004/02/skos/core#"><skos:Concept rdf:about="urn:x"><skos:prefLabel>&a29;</skos:prefLabel></skos:Concept></rdf:RDF>`;
    await readVocabulary('rdfxml', bomb).then(
      (draft) => expect(JSON.stringify(draft).length).toBeLessThan(10_000),
      (error: unknown) => expect(String(error)).toContain('can’t be read as'),
    );
  });

  test('a context that stands elsewhere is not fetched', async () => {
    await expect(
      readVocabulary('jsonld', '{"@context": "https://elsewhere.example/context", "@id": "urn:x"}'),
    ).rejects.toThrow(/can’t be read as SKOS, JSON-LD/);
  });
});

test('the format is told by the beginning and the name', () => {
  expect(formatOf('terms.txt', '<?xml version="1.0"?>')).toBe('rdfxml');
  expect(formatOf('terms', '{"@context": {}}')).toBe('jsonld');
  expect(formatOf('terms.TTL', '<urn:a> a <urn:b> .')).toBe('turtle');
  expect(formatOf('pasted', '@prefix skos: <urn:> .')).toBe('turtle');
  expect(formatOf('terms.csv', 'label,parent')).toBe('csv');
  expect(formatOf('', '[Objects]\n\tKites')).toBe('indented');
});

test('CSV comes with paths in columns, or with the label of the broader term', async () => {
  const paths = await readVocabulary('csv', 'Kites,,\n,Single-line,\n,,Delta\nKites,Dual-line,\n');
  expect(
    paths.terms.map(({ label: own, parent }) => [own, paths.terms.find(({ key }) => key === parent)?.label ?? null]),
  ).toEqual([
    ['Kites', null],
    ['Single-line', 'Kites'],
    ['Delta', 'Single-line'],
    ['Dual-line', 'Kites'],
  ]);
  const broader = await readVocabulary('csv', 'label;broader;scope note\nDelta;Kites;Flies well\nKites;;\n');
  expect(broader.terms.map(({ label: own, scopeNote }) => [own, scopeNote])).toEqual([
    ['Kites', ''],
    ['Delta', 'Flies well'],
  ]);
});

test('indented text gives levels, headings and other labels; a line indented too deep is named', () => {
  const { terms, errors } = parseOutline(
    '[Objects]\n\tKites\n\t\tRokkaku = six-sided kite; !Rokkakudako @ja; ~rokaku\n# a remark\n\n  Tails',
  );
  expect(errors).toEqual([]);
  expect(terms[0]).toMatchObject({
    label: 'Objects',
    heading: true,
    narrower: [{ label: 'Kites' }, { label: 'Tails' }],
  });
  expect(terms[0]?.narrower[0]?.narrower[0]?.otherLabels).toEqual([
    { kind: 'alternative', language: '', label: 'six-sided kite' },
    { kind: 'preferred', language: 'ja', label: 'Rokkakudako' },
    { kind: 'hidden', language: '', label: 'rokaku' },
  ]);
  expect(parseOutline('Kites\n\t\t\tDelta').errors).toEqual([
    { line: 2, message: 'is indented deeper than one level below the line before' },
  ]);
});
