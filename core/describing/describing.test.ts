import fc from 'fast-check';
import type { FieldValue, FieldValues } from '../metadata/fields';
import { stretchText, timeProblem, withTime } from './clock';
import { changedFields, describing, type Description } from './description';
import { editOf, languagesOf, typedText } from './drafts';
import { edited, EDIT_MODES, type EditMode } from './editing';
import { remarksOn } from './limits';
import type { DescribedPhoto } from './photo';
import { hasPlaceholders, parsePlaceholders } from './placeholders';
import { replacer, tidier, TIDY_RULES, type TidyRule } from './replacing';
import { STANDARD_SETS } from './fieldSets';
import { DESCRIBED_FIELDS, isTarget, shapeOf, valueOf, withValue, type Target } from './targets';

const photo = (part: Partial<DescribedPhoto> = {}): DescribedPhoto => ({
  id: 1,
  name: 'SKM_2037_b.jpg',
  folder: '2009/Festival/Day 2',
  drive: 'Vault 1',
  camera: 'Corvina 7',
  orientation: 1,
  takenAt: '2009-06-13T10:41:00',
  clock: '2009-06-13T10:41:00',
  fields: {},
  number: 7,
  today: '2026-11-25',
  user: 'Mara Olt',
  ...part,
});

describe('targets', () => {
  test('fields of the table and of the project can be described, others not', () => {
    expect(isTarget('title')).toBe(true);
    expect(isTarget('custom:Loan number')).toBe(true);
    for (const other of ['keywords', 'rating', 'regions', 'custom', 'custom:', 'nothing', 'toString'])
      expect(isTarget(other)).toBe(false);
  });

  test('an own field is kept beside the others, and goes when it is empty', () => {
    const both = withValue(withValue({ title: 'Kite' }, 'custom:Roll', ['12']), 'custom:Loan', 'L 7');
    expect(both.custom).toEqual([
      { Name: 'Roll', Value: ['12'] },
      { Name: 'Loan', Value: ['L 7'] },
    ]);
    expect(valueOf(both, 'custom:Loan')).toEqual(['L 7']);
    expect(withValue(withValue(both, 'custom:Roll', undefined), 'custom:Loan', [])).toEqual({ title: 'Kite' });
  });

  test('every field set names fields that can be described, each once', () => {
    for (const { targets } of STANDARD_SETS) {
      expect(targets.every(isTarget)).toBe(true);
      expect(new Set(targets).size).toBe(targets.length);
    }
  });
});

describe('edits', () => {
  const after = (
    target: Target,
    mode: EditMode,
    value: FieldValue | null,
    fields: FieldValues = {},
    language?: string,
  ) => valueOf(edited(fields, { target, mode, value, language }), target);

  test.each([
    ['replace', 'new', 'new'],
    ['add', 'new', 'old new'],
    ['fill', 'new', 'old'],
    ['remove', 'new', 'old'],
    ['remove', 'old', undefined],
    ['add', 'old', 'old'],
    ['replace', null, undefined],
    ['replace', '  ', undefined],
  ] as const)('of a text: %s %p gives %p', (mode, value, expected) => {
    expect(after('headline', mode, value, { headline: 'old' })).toEqual(expected);
  });

  test.each([
    ['replace', ['c'], ['c']],
    ['add', ['b', 'c'], ['a', 'b', 'c']],
    ['fill', ['c'], ['a', 'b']],
    ['remove', ['b', 'c'], ['a']],
    ['remove', ['a', 'b'], undefined],
  ] as const)('of a list: %s %p gives %p', (mode, value, expected) => {
    expect(after('creator', mode, [...value], { creator: ['a', 'b'] })).toEqual(expected);
  });

  test('one language is changed, the others stay', () => {
    const both = { title: { 'x-default': 'Kite', de: 'Drachen' } };
    expect(after('title', 'replace', 'Kites', both)).toEqual({ 'x-default': 'Kites', de: 'Drachen' });
    expect(after('title', 'replace', 'Drache', both, 'de')).toEqual({ 'x-default': 'Kite', de: 'Drache' });
    expect(after('title', 'replace', null, both, 'de')).toBe('Kite');
    expect(after('title', 'fill', 'Cerf-volant', both, 'fr')).toEqual({ ...both.title, fr: 'Cerf-volant' });
    expect(after('title', 'fill', 'Other', both)).toEqual(both.title);
  });

  test('adding to a structure fills what it lacks', () => {
    expect(
      after(
        'creatorContactInfo',
        'add',
        { CiAdrCity: 'Fenwick', CiTelWork: '1' },
        { creatorContactInfo: { CiAdrCity: 'Saltmarsh' } },
      ),
    ).toEqual({ CiAdrCity: 'Saltmarsh', CiTelWork: '1' });
  });

  test('what an edit says is said afterwards, and doing it again changes nothing', () => {
    const targets: Target[] = ['title', 'headline', 'creator', 'event', 'custom:Roll', 'source'];
    fc.assert(
      fc.property(
        fc.constantFrom(...targets),
        fc.constantFrom(...EDIT_MODES.filter((mode) => mode !== 'remove')),
        fc.string({ minLength: 1, maxLength: 12 }),
        fc.string({ maxLength: 12 }),
        (target, mode, before, text) => {
          const list = shapeOf(target).list !== undefined;
          const fields = withValue({}, target, list ? [before] : before);
          const edit = { target, mode, value: list ? [text] : text };
          const once = edited(fields, edit);
          expect(changedFields(once, edited(once, edit))).toEqual([]);
        },
      ),
    );
  });
});

describe('placeholders', () => {
  const filled = (text: string, part: Partial<DescribedPhoto> = {}) => {
    const parsed = parsePlaceholders(text);
    return parsed.ok ? parsed.fill(photo(part)) : parsed.problem;
  };

  test.each([
    ['{date} {time}', '2009-06-13 10:41'],
    ['{year}/{month}/{day}', '2009/06/13'],
    ['{folder}, {folder:2} {folder:3}', 'Day 2, Festival 2009'],
    ['{name}: {part:1} {part:2} {match:_(\\d+)_} {match:b$}', 'SKM_2037_b: SKM 2037 2037 b'],
    ['{number} {number:4}', '7 0007'],
    ['{camera} on {drive}', 'Corvina 7 on Vault 1'],
    ['{user}, {today}', 'Mara Olt, 2026-11-25'],
    ['{{braces}}', '{braces}'],
    ['{field:city}', 'Saltmarsh'],
  ])('%j becomes %j', (text, expected) => expect(filled(text, { fields: { city: 'Saltmarsh' } })).toBe(expected));

  test.each([
    ['{yaer}', 'no placeholder {yaer}'],
    ['a {name', 'brace'],
    ['{match:(}', 'match'],
    ['{folder:0}', 'number from 1'],
    ['{field:nothing}', 'no field'],
    ['{constructor}', 'no placeholder'],
  ])('%j is refused', (text, why) => expect(filled(text)).toContain(why));

  test('what is not known leaves the whole text unsaid', () => {
    expect(filled('{year}: {name}', { takenAt: null })).toBeUndefined();
    expect(filled('{folder:9}')).toBeUndefined();
    expect(filled('{field:headline}')).toBeUndefined();
  });

  test('any text is understood or refused, and one without braces stands for itself', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const parsed = parsePlaceholders(text);
        if (!hasPlaceholders(text)) expect(parsed.ok && parsed.fill(photo())).toBe(text);
        else expect(parsed.ok || parsed.problem.length > 0).toBe(true);
      }),
    );
  });
});

describe('replacing and tidying', () => {
  const replaced = (
    text: string,
    find: string,
    replace: string,
    how: 'text' | 'words' | 'pattern' = 'text',
    matchCase = false,
  ) => {
    const made = replacer({ find, replace, how, matchCase });
    return made.ok ? made.change(text) : made.problem;
  };

  test.each([
    ['Kites and kite', 'kite', 'sail', 'text', 'sails and sail'],
    ['Kites and kite', 'kite', 'sail', 'words', 'Kites and sail'],
    ['f(x) [a]', '(x) [', '$1', 'text', 'f$1a]'],
    ['Möwe, Möwen', 'möwe', 'gull', 'words', 'gull, Möwen'],
    ['1998-07', '(\\d+)-(\\d+)', '$2/$1', 'pattern', '07/1998'],
    ['SKM 12', '(?<number>\\d+)', 'no. $<number>', 'pattern', 'SKM no. 12'],
  ] as const)('%j: %j by %j as %s', (text, find, replace, how, expected) =>
    expect(replaced(text, find, replace, how)).toBe(expected),
  );

  test('capitals matter when they are to, and a wrong pattern says so', () => {
    expect(replaced('Kite kite', 'Kite', 'X', 'text', true)).toBe('X kite');
    expect(replaced('a', '(', '', 'pattern')).toContain('no regular expression');
  });

  test('a plain text is found wherever it stands, whatever letters it has', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1 }), fc.string(), fc.string(), (find, before, behind) => {
        expect(replaced(before + find + behind, find, '', 'text', true)).not.toContain('no regular');
        expect(replaced(find, find, 'x', 'text', true)).toBe('x');
      }),
    );
  });

  const tidied = (text: string, ...rules: TidyRule[]) => tidier(rules)(text);
  test.each([
    ['space', '  A  kite , low .\n  b ', 'A kite, low.\nb'],
    ['quotes', `"Don't", he said`, '“Don’t”, he said'],
    ['capital', '(a kite)', '(A kite)'],
    ['shouting', 'A KITE. ON THE SANDS', 'A kite. On the sands'],
    ['shouting', 'A Kite', 'A Kite'],
    ['fullStop', 'A kite', 'A kite.'],
    ['fullStop', 'A kite!', 'A kite!'],
    ['noFullStop', 'A kite.', 'A kite'],
    ['noFullStop', 'A kite ...', 'A kite ...'],
  ] as const)('%s: %j becomes %j', (rule, text, expected) => expect(tidied(text, rule)).toBe(expected));

  test('what is tidy stays so', () => {
    const rules = (Object.keys(TIDY_RULES) as TidyRule[]).filter((rule) => !/fullStop/i.test(rule));
    fc.assert(
      fc.property(fc.string(), (text) => {
        const once = tidied(text, 'space', 'quotes', 'capital');
        expect(tidied(once, 'space', 'quotes', 'capital')).toBe(once);
        for (const rule of rules) expect(typeof tidied(text, rule)).toBe('string');
      }),
    );
  });
});

describe('times', () => {
  const shifted = (dateCreated: string, seconds: number) =>
    withTime({ dateCreated }, null, { how: 'shift', seconds }).dateCreated;

  test.each([
    ['2009-12-31T23:59:30', 45, '2010-01-01T00:00:15'],
    ['2009-06-13T10:41:00.25+02:00', -3600, '2009-06-13T09:41:00.25+02:00'],
    ['2009-06-13T10:41', 60, '2009-06-13T10:42'],
    ['2009-06-13', 86_400, '2009-06-14'],
    ['2009-06-13', 60, '2009-06-13'],
    ['2009-06', 86_400, '2009-06'],
  ])('%s by %p s is %s', (before, seconds, after) => expect(shifted(before, seconds)).toBe(after));

  test('there and back again is where it was', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), (seconds) => {
        expect(shifted(shifted('2009-06-13T10:41:00', seconds) as string, -seconds)).toBe('2009-06-13T10:41:00');
      }),
    );
  });

  test('zones: noted, taken off, turned to', () => {
    const at = (dateCreated: string, how: 'zone' | 'toZone', zone: string) =>
      withTime({ dateCreated }, null, { how, zone }).dateCreated;
    expect(at('2009-06-13T10:41:00', 'zone', '+02:00')).toBe('2009-06-13T10:41:00+02:00');
    expect(at('2009-06-13T10:41:00+02:00', 'zone', '')).toBe('2009-06-13T10:41:00');
    expect(at('2009-06-13T00:30:00+02:00', 'toZone', '+00:00')).toBe('2009-06-12T22:30:00+00:00');
    expect(at('2009-06-13T10:41:00', 'toZone', '+00:00')).toBe('2009-06-13T10:41:00');
    expect(timeProblem({ how: 'zone', zone: '+2' })).toContain('no time zone');
  });

  test('the camera’s clock stands in where nothing is said', () => {
    expect(withTime({}, '2009-06-13T10:41:00', { how: 'shift', seconds: 60 }).dateCreated).toBe('2009-06-13T10:42:00');
    expect(withTime({}, null, { how: 'shift', seconds: 60 })).toEqual({});
  });

  test.each([
    ['1932', { dateCreated: '1932' }],
    ['1932~', { dateCreated: '1932', dateUncertain: '1932~' }],
    ['1951-06?', { dateCreated: '1951-06', dateUncertain: '1951-06?' }],
    ['1951-22', { dateCreated: '1951', dateUncertain: '1951-22' }],
    ['193X', { dateUncertain: '193X' }],
    ['1930/1939', { dateUncertain: '1930/1939' }],
    ['', {}],
  ])('the date %j', (date, expected) =>
    expect(withTime({ dateCreated: '2020', dateUncertain: 'x' }, null, { how: 'date', date })).toEqual(expected),
  );

  test('stretches in words', () => expect(stretchText(93_784)).toBe('1 d 2 h 3 min 4 s'));
});

describe('descriptions', () => {
  const described = (description: Description, part: Partial<DescribedPhoto> = {}) => {
    const made = describing(description);
    if (!made.ok) throw new Error(made.problem);
    return made.describe(photo(part));
  };

  test('a template fills what it knows, also inside structures, and from what it has filled', () => {
    expect(
      described({
        kind: 'fillTemplate',
        edits: [
          { target: 'city', mode: 'fill', value: 'Saltmarsh' },
          { target: 'headline', mode: 'replace', value: '{field:city}, {year}' },
          { target: 'locationShown', mode: 'add', value: [{ City: '{field:city}', Sublocation: '{folder:9}' }] },
          { target: 'jobId', mode: 'replace', value: '{folder:9}' },
        ],
      }),
    ).toEqual({ city: 'Saltmarsh', headline: 'Saltmarsh, 2009', locationShown: [{ City: 'Saltmarsh' }] });
  });

  test('replacing reaches lists, languages, structures and own fields', () => {
    const fields: FieldValues = {
      title: { 'x-default': 'Kite', de: 'Kite' },
      personInImage: ['Ida Kite', 'Ida Sail'],
      locationShown: [{ City: 'Kite', LocationId: ['urn:Kite'] }],
      custom: [{ Name: 'Kite', Value: ['Kite'] }],
    };
    const after = described(
      {
        kind: 'replaceText',
        targets: ['title', 'personInImage', 'locationShown', 'custom:Kite'],
        find: 'Kite',
        replace: 'Sail',
        how: 'text',
        matchCase: true,
      },
      { fields },
    );
    expect(after).toEqual({
      title: { 'x-default': 'Sail', de: 'Sail' },
      personInImage: ['Ida Sail'],
      locationShown: [{ City: 'Sail', LocationId: ['urn:Kite'] }],
      custom: [{ Name: 'Kite', Value: ['Sail'] }],
    });
  });

  test('times of one camera only', () => {
    const change = { kind: 'changeTime', camera: 'Corvina 7', change: { how: 'shift', seconds: 60 } } as const;
    expect(described(change).dateCreated).toBe('2009-06-13T10:42:00');
    expect(described(change, { camera: 'Other' })).toEqual({});
  });

  test('what changes is what differs', () => {
    expect(changedFields({ title: 'a', city: 'b' }, { title: 'a', country: 'c' })).toEqual([
      ['city', 'b', undefined],
      ['country', undefined, 'c'],
    ]);
  });
});

describe('drafts and limits', () => {
  test('what is typed becomes a value, or is told why not', () => {
    expect(editOf('creator', { mode: 'add', typed: 'Ida Brandt; Per Oskarsen' })).toMatchObject({
      edit: { value: ['Ida Brandt', 'Per Oskarsen'] },
    });
    expect(editOf('rightsMarked', { mode: 'replace', typed: 'maybe' })).toMatchObject({ ok: false });
    expect(editOf('countryCode', { mode: 'replace', typed: 'germany' })).toMatchObject({
      problem: expect.stringContaining('ISO 3166') as string,
    });
    expect(editOf('title', { mode: 'add', typed: ' ' })).toEqual({ ok: false, problem: 'say what' });
    expect(editOf('title', { mode: 'replace', typed: ' ' })).toMatchObject({ ok: true, edit: { value: null } });
  });

  test('what is shown can be typed again', () => {
    const values: [Target, FieldValue][] = [
      ['creator', ['a', 'b']],
      ['rightsMarked', true],
      ['urgency', 5],
      ['position', { latitude: 54.1, longitude: 8.5 }],
      ['dateCreated', '1998-07-05'],
    ];
    for (const [target, value] of values)
      expect(editOf(target, { mode: 'replace', typed: typedText(target, value) })).toMatchObject({ edit: { value } });
    const both = { 'x-default': 'Kite', de: 'Drachen' };
    expect([typedText('title', both), typedText('title', both, 'de'), typedText('title', 'Kite', 'de')]).toEqual([
      'Kite',
      'Drachen',
      '',
    ]);
    expect(languagesOf(both)).toEqual(['x-default', 'de']);
  });

  test('IIM cuts are foretold by bytes', () => {
    expect(remarksOn(shapeOf('city'), 'ä'.repeat(16))).toEqual([]);
    expect(remarksOn(shapeOf('city'), 'ä'.repeat(17))).toEqual([
      { kind: 'note', text: 'IIM cuts this at 32 bytes (it has 34); XMP keeps it whole' },
    ]);
    expect(DESCRIBED_FIELDS.every((field) => remarksOn(field, null).length === 0)).toBe(true);
  });
});
