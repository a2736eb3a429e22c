import fc from 'fast-check';
import { matchBoxes, overlap, withinPicture, withoutDoubles, type Box } from './boxes';
import { fitCalibration, fitLikeness } from './fitting';
import { followPeople } from './following';
import { Guesses } from './guessing';
import { lifeOf, livedIn } from './lives';
import { secondsOf } from '../search/photo';
import { LikenessGroups, THRESHOLDS, type GroupedFace } from './grouping';
import { DESCRIPTION_LENGTH, likeness, pack, scoreOf, VECTOR_LENGTH, vectorOf } from './likeness';
import { calibrationBins, groupFigures, verification } from './measuring';
import { followName } from './naming';
import { highest, VectorTable } from './nearest';
import { expressionOf, qualityOf, sharpnessOf } from './quality';
import { boxOf, regionBoxes, regionOf, regionsField } from './regions';
import { certaintyOf, leastAlike, References } from './suggesting';
import { tilesOf } from './tiles';
import { parseQuery, queryText } from '../search/language';

const part = fc.double({ min: 0.02, max: 0.45, noNaN: true });
const box: fc.Arbitrary<Box> = fc
  .tuple(part, part, part, part)
  .map(([left, top, width, height]) => ({ left, top, width, height }));
const orientation = fc.integer({ min: 1, max: 8 });

/** A made-up face of a person: near the person’s direction, the nearer the smaller `spread`. */
function faceOf(person: number, shot: number, spread = 0.5): Int8Array {
  const noise = (seed: number, i: number) => Math.sin(seed * 12.9898 + i * 78.233 + seed * i * 0.37);
  const values = Float64Array.from(
    { length: VECTOR_LENGTH },
    (_, i) => noise(person + 1, i) + spread * noise(1000 + person * 50 + shot, i),
  );
  const length = Math.sqrt(values.reduce((sum, value) => sum + value * value, 0));
  return Int8Array.from(values, (value) => Math.round((value / length) * 320));
}

describe('boxes', () => {
  test('overlap is the same both ways, one with itself, none apart', () => {
    fc.assert(
      fc.property(box, box, (a, b) => {
        expect(overlap(a, b)).toBeCloseTo(overlap(b, a), 12);
        expect(overlap(a, a)).toBeCloseTo(1, 9);
        expect(overlap(a, { ...a, left: a.left + a.width })).toBe(0);
      }),
    );
  });

  test('each box is matched at most once, the best fitting first', () => {
    const a = { left: 0.1, top: 0.1, width: 0.2, height: 0.2 };
    const near = { ...a, left: 0.12 };
    const far = { ...a, left: 0.17 };
    expect(matchBoxes([a], [far, near])).toEqual([[0, 1]]);
    expect(matchBoxes([a, far], [near])).toEqual([[0, 0]]);
    expect(matchBoxes([a], [{ ...a, left: 0.6 }])).toEqual([]);
  });

  test('of boxes around one face the surest stays, and a box always lies in the picture', () => {
    const a = { left: 0.1, top: 0.1, width: 0.2, height: 0.2 };
    const inside = { left: 0.14, top: 0.14, width: 0.1, height: 0.1 };
    expect(
      withoutDoubles([
        { ...inside, score: 0.9 },
        { ...a, score: 0.8 },
        { ...a, left: 0.7, score: 0.5 },
      ]).map(({ score }) => score),
    ).toEqual([0.9, 0.5]);
    const wild = fc.double({ min: -3, max: 3, noNaN: true });
    fc.assert(
      fc.property(wild, wild, wild, wild, (left, top, width, height) => {
        const {
          left: l,
          top: t,
          width: w,
          height: h,
        } = withinPicture({ left, top, width: Math.abs(width), height: Math.abs(height) });
        for (const value of [l, t, w, h, l + w, t + h]) expect(value >= -1e-9 && value <= 1 + 1e-9).toBe(true);
      }),
    );
  });

  test('every face of the wanted size lies whole in a tile that shows it large enough', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 300, max: 4000 }),
        fc.integer({ min: 300, max: 4000 }),
        fc.double({ min: 0.03, max: 0.5, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (width, height, size, x, y) => {
          const side = Math.min(size * height, width, height);
          const [left, top] = [x * (width - side), y * (height - side)];
          const shows = tilesOf(width, height, 0.03).some(
            (tile) =>
              tile.left <= left + 1e-6 &&
              tile.top <= top + 1e-6 &&
              tile.left + tile.side >= left + side - 1e-6 &&
              tile.top + tile.side >= top + side - 1e-6 &&
              side / tile.side >= 0.05 - 1e-9,
          );
          expect(shows).toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('regions', () => {
  test('a face written as a region is read where it was, in every orientation', () => {
    fc.assert(
      fc.property(box, orientation, (face, turned) => {
        const picture = { orientation: turned, width: 1600, height: 1000 };
        const [read] = regionBoxes(regionsField([regionOf('Ida', face, picture)], picture), picture);
        expect(read).toMatchObject({ name: 'Ida', doubtful: false });
        for (const side of ['left', 'top', 'width', 'height'] as const) expect(read?.[side]).toBeCloseTo(face[side], 4);
      }),
    );
  });

  test('a region stays where it is when a picture is turned: its stored place does not change', () => {
    const stored = { orientation: 1, width: 1600, height: 1000 };
    fc.assert(
      fc.property(box, orientation, (face, turned) => {
        const region = regionOf('Ida', face, stored);
        const seen = turned > 4 ? { width: 1000, height: 1600 } : { width: 1600, height: 1000 };
        const field = regionsField([region], stored);
        const turnedBox = boxOf(region, field, { orientation: turned, ...seen });
        expect(regionOf('Ida', turnedBox ?? face, { orientation: turned, ...seen })['Area']).toEqual(region.Area);
      }),
    );
  });

  const picture = { orientation: 1, width: 1600, height: 1000 };
  const a = { left: 0.1, top: 0.1, width: 0.2, height: 0.3 };
  const b = { left: 0.6, top: 0.1, width: 0.2, height: 0.3 };

  test('names and regions of others stay, ours come and go', () => {
    const foreign = {
      Name: 'Rex',
      Type: 'Pet',
      Area: { x: 0.7, y: 0.25, w: 0.1, h: 0.1, unit: 'normalized' },
      Description: 'a dog',
    };
    const fields = { personInImage: ['A stranger'], regions: regionsField([foreign], picture) ?? '' };
    const named = followPeople(fields, [], [{ name: 'Ida', box: a }, { name: 'Per' }], picture);
    expect(named.personInImage).toEqual(['A stranger', 'Ida', 'Per']);
    expect(regionBoxes(named.regions, picture).map(({ name }) => name)).toEqual(['Rex', 'Ida']);
    const back = followPeople(
      { personInImage: named.personInImage ?? [], regions: named.regions ?? '' },
      [{ name: 'Ida', box: a }, { name: 'Per' }],
      [],
      picture,
    );
    expect(back).toEqual({ personInImage: ['A stranger'], regions: fields.regions });
  });

  test('naming, then taking the names off, leaves fields as they were', () => {
    const people = fc.array(fc.record({ name: fc.constantFrom('Ida', 'Per', 'Noor'), box: fc.constantFrom(a, b) }), {
      maxLength: 2,
    });
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('A stranger', 'Somebody'), { minLength: 1, maxLength: 2 }),
        people,
        (strangers, shown) => {
          const before = { personInImage: [...new Set(strangers)] };
          const named = followPeople(before, [], shown, picture);
          const fields = {
            ...(named.personInImage ? { personInImage: named.personInImage } : {}),
            ...(named.regions === undefined ? {} : { regions: named.regions }),
          };
          expect(followPeople(fields, shown, [], picture)).toEqual({
            personInImage: before.personInImage,
            regions: undefined,
          });
        },
      ),
    );
  });

  test('what is known of somebody goes along and comes off again; what others said of theirs stays', () => {
    const theirs = [{ PersonName: { 'x-default': 'A stranger' }, PersonId: ['urn:x'] }];
    const mine = {
      PersonName: { 'x-default': 'Ida' },
      PersonCharacteristic: [{ CvTermName: { 'x-default': 'maker' } }],
    };
    const shown = [{ name: 'Ida', details: { note: 'Kite maker', uri: 'urn:ida' } }, { name: 'Per' }];
    const { personInImageDetails: details } = followPeople(
      { personInImageDetails: [...theirs, mine] },
      [],
      shown,
      picture,
    );
    expect(details).toEqual([
      ...theirs,
      { ...mine, PersonDescription: { 'x-default': 'Kite maker' }, PersonId: ['urn:ida'] },
    ]);
    const renamed = [{ name: 'Greta', details: { note: '' } }];
    expect(followPeople({ personInImageDetails: details ?? '' }, shown, renamed, picture).personInImageDetails).toEqual(
      [...theirs, { PersonName: { 'x-default': 'Greta' } }],
    );
    expect(followPeople({ personInImageDetails: details ?? '' }, shown, [], picture).personInImageDetails).toEqual(
      theirs,
    );
  });

  test('a region that another program drew around the same face keeps its rectangle and gets the name', () => {
    const theirs = {
      Name: 'ida',
      Type: 'Face',
      Area: { x: 0.21, y: 0.26, w: 0.2, h: 0.3, unit: 'normalized' },
      Extra: 'kept',
    };
    const { regions } = followPeople(
      { regions: regionsField([theirs], picture) ?? '' },
      [],
      [{ name: 'Ida Brandt', box: a }],
      picture,
    );
    expect(regions).toMatchObject({ RegionList: [{ ...theirs, Name: 'Ida Brandt' }] });
  });
});

describe('likeness', () => {
  test('a vector has its length whatever the description, and likeness is that of the descriptions', () => {
    const description = fc.array(fc.double({ min: 0, max: 3, noNaN: true }), {
      minLength: DESCRIPTION_LENGTH,
      maxLength: DESCRIPTION_LENGTH,
    });
    fc.assert(
      fc.property(description, (numbers) => {
        const vector = vectorOf(numbers);
        expect(vector).toHaveLength(VECTOR_LENGTH);
        expect(likeness(vector, vectorOf(numbers.map((value) => value * 5)))).toBeGreaterThan(0.999);
      }),
      { numRuns: 20 },
    );
    expect(vectorOf([]).every((value) => Number.isInteger(value))).toBe(true);
  });

  test('what is learnt brings pictures of one person together, and survives packing', () => {
    const noise = (seed: number, i: number) => Math.abs(Math.sin(seed * 91.17 + i * 3.7));
    const describe_ = (person: number, shot: number) =>
      Array.from(
        { length: DESCRIPTION_LENGTH },
        (_, i) =>
          0.4 * noise(person, i) + (i < 60 ? 1.5 * noise(500 + shot, i) : 0.1 * noise(900 + shot * 7 + person, i)),
      );
    const faces = [1, 2, 3, 4].flatMap((person) =>
      [1, 2, 3, 4, 5].map((shot) => ({ person: String(person), description: describe_(person, shot) })),
    );
    const fit = fitLikeness(faces);
    const plain = { mean: fit.mean, shrunk: [] };
    const apart = (by: typeof fit) =>
      likeness(vectorOf(describe_(7, 1), by), vectorOf(describe_(7, 5), by)) -
      likeness(vectorOf(describe_(7, 1), by), vectorOf(describe_(8, 1), by));
    expect(apart(fit)).toBeGreaterThan(apart(plain));
    expect(pack(fit).shrunk).toHaveLength(fit.shrunk.length);
  });

  test('the table scores as the plain product does, however it grows, and gives the highest', () => {
    const vectors = Array.from({ length: 700 }, (_, i) => faceOf(i % 90, i));
    const table = new VectorTable();
    vectors.forEach((vector, i) => table.set(i, vector));
    const query = vectors[123] ?? new Int8Array(VECTOR_LENGTH);
    const wanted = vectors.map((vector) => scoreOf(vector, query));
    expect([...table.scores(query)]).toEqual(wanted);
    const best = highest(
      700,
      (place) => wanted[place] ?? 0,
      10,
      (place) => place % 2 === 1,
    );
    const sorted = wanted
      .map((score, place) => ({ score, place }))
      .filter(({ place }) => place % 2 === 1)
      .sort((x, y) => y.score - x.score || x.place - y.place);
    expect(best).toEqual(sorted.slice(0, 10).map(({ place }) => place));
  });
});

describe('groups', () => {
  const faces = (persons: number, shots: number): GroupedFace[] =>
    Array.from({ length: persons * shots }, (_, id) => ({
      id,
      photoId: id,
      vector: faceOf(id % persons, Math.floor(id / persons)),
      quality: 0.8,
    }));
  const groupsOf = (some: readonly GroupedFace[]) => {
    const groups = new LikenessGroups(THRESHOLDS.close);
    for (const face of some) groups.add(face);
    return groups;
  };
  const idsOf = (groups: LikenessGroups) =>
    groups.list().map((group) => group.faces.map(({ id }) => id).sort((x, y) => x - y));

  test('faces of one person come together, whatever the order, and each face is in one group', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(faces(4, 6), { minLength: 1 }), (some) => {
        const groups = idsOf(groupsOf(some));
        expect(groups.flat().sort((x, y) => x - y)).toEqual(some.map(({ id }) => id).sort((x, y) => x - y));
        for (const group of groups) expect(new Set(group.map((id) => id % 4)).size).toBe(1);
        expect(groups).toHaveLength(new Set(some.map(({ id }) => id % 4)).size);
      }),
      { numRuns: 60 },
    );
  });

  test('the same faces in the same order give the same groups, and no group has two faces of one photo', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 24, maxLength: 24 }), (photos) => {
        const some = faces(4, 6).map((face, i) => ({ ...face, photoId: photos[i] ?? 0 }));
        const groups = groupsOf(some);
        expect(idsOf(groups)).toEqual(idsOf(groupsOf(some)));
        for (const { faces: own } of groups.list())
          expect(new Set(own.map(({ photoId }) => photoId)).size).toBe(own.length);
      }),
      { numRuns: 60 },
    );
  });

  test('a face that is taken out leaves the others together; poor faces stand alone', () => {
    const groups = groupsOf(faces(2, 5));
    groups.remove(2);
    expect(idsOf(groups)).toEqual([
      [1, 3, 5, 7, 9],
      [0, 4, 6, 8],
    ]);
    expect(groups.has(2)).toBe(false);
    groups.add({ id: 50, photoId: 50, vector: faceOf(0, 9), quality: 0.05 });
    expect(idsOf(groups)).toContainEqual([50]);
  });
});

describe('suggestions', () => {
  const unknown = (person: number, shot: number, refused: number[] = [], photoId = 99) => ({
    vector: faceOf(person, shot),
    photoId,
    refused,
  });
  const references = new References(
    [0, 1, 2].flatMap((person) =>
      [1, 2].map((shot) => ({ personId: person + 10, photoId: person * 10 + shot, vector: faceOf(person, shot) })),
    ),
  );

  test('the person most alike is suggested; whoever was refused, or is in the photo already, is not', () => {
    expect(references.suggest([unknown(1, 5)])?.personId).toBe(11);
    expect(references.suggest([unknown(1, 5, [11])])?.personId).not.toBe(11);
    expect(references.suggest([unknown(1, 5, [], 11)])?.personId).not.toBe(11);
    expect(references.suggest([unknown(77, 1)])).toBeUndefined();
    expect(new References().suggest([unknown(1, 1)])).toBeUndefined();
  });

  test('more likeness and more faces are never less sure', () => {
    const evidence = fc.record({
      alike: fc.double({ min: 0, max: 1, noNaN: true }),
      ahead: fc.double({ min: 0, max: 1, noNaN: true }),
      faces: fc.integer({ min: 1, max: 50 }),
    });
    fc.assert(
      fc.property(evidence, (given) =>
        expect(certaintyOf({ ...given, alike: given.alike + 0.1 })).toBeGreaterThanOrEqual(certaintyOf(given)),
      ),
    );
  });

  test('a face that is less alike than the least is never suggested', () => {
    const part = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(part, part, (a, b) => {
        const alike = a * leastAlike() * 0.999;
        expect(certaintyOf({ alike, ahead: alike * b, faces: 1 })).toBeLessThan(0.3);
      }),
    );
    expect(certaintyOf({ alike: leastAlike() * 1.001, ahead: leastAlike() * 1.001, faces: 1 })).toBeGreaterThan(0.3);
  });

  test('a calibration fitted to judgements says what is right', () => {
    // Right as often as a logistic function of the likeness says, spread evenly.
    const judged = Array.from({ length: 600 }, (_, i) => {
      const alike = ((i * 37) % 100) / 100;
      return { alike, ahead: 0.1, faces: 1, right: (i * 0.618034) % 1 < 1 / (1 + Math.exp(-12 * (alike - 0.5))) };
    });
    const by = fitCalibration(judged);
    for (const { said, right } of calibrationBins(
      judged.map((one) => ({ certainty: certaintyOf(one, by), right: one.right })),
      5,
    ))
      expect(Math.abs(said - right)).toBeLessThan(0.12);
  });
});

test('figures: a perfect grouping, one group for all, and verification', () => {
  const of = (groups: readonly number[]) =>
    groupFigures(['a', 'a', 'b', 'b'].map((person, i) => ({ person, group: groups[i] ?? 0 })));
  expect(of([1, 1, 2, 2])).toEqual({ precision: 1, recall: 1, cubedPrecision: 1, cubedRecall: 1 });
  expect(of([1, 1, 1, 1])).toEqual({ precision: 2 / 6, recall: 1, cubedPrecision: 0.5, cubedRecall: 1 });
  expect(verification([0.9, 0.8], [0.1, 0.2, 0.3])).toEqual({ auc: 1, at1: 1, at01: 1 });
  expect(verification([0.1], [0.2]).auc).toBe(0);
});

test('expression, sharpness and quality', () => {
  const mesh = Array.from({ length: 468 }, () => [0, 0]);
  const put = (i: number, x: number, y: number) => (mesh[i] = [x, y]);
  for (const [i, x, y] of [
    [10, 50, 0],
    [152, 50, 130],
    [33, 20, 40],
    [133, 40, 40],
    [263, 80, 40],
    [362, 60, 40],
    [13, 50, 95],
    [14, 50, 96],
  ] as const)
    put(i, x, y);
  const lids = (open: number) => {
    put(159, 30, 40 - open / 2);
    put(145, 30, 40 + open / 2);
    put(386, 70, 40 - open / 2);
    put(374, 70, 40 + open / 2);
  };
  const mouth = (wide: number, up: number) => {
    put(61, 50 - wide / 2, 95 - up);
    put(291, 50 + wide / 2, 95 - up);
  };
  lids(8);
  mouth(44, 5);
  expect(expressionOf(mesh, 0.5)).toMatchObject({ eyesOpen: 1 });
  expect(expressionOf(mesh, 0.5).smile).toBeGreaterThan(0.7);
  lids(2);
  mouth(34, -2);
  expect(expressionOf(mesh, 0).eyesOpen).toBe(0);
  expect(expressionOf(mesh, 0).smile).toBeLessThan(0.2);
  const flat = new Uint8Array(64 * 64).fill(90);
  const stripes = flat.map((_, i) => (i % 2 ? 200 : 40));
  expect([sharpnessOf(flat, 64, 64), sharpnessOf(stripes, 64, 64)]).toEqual([0, 1]);
  const good = { pixels: 150, sharpness: 0.7, light: 0.5, pose: { yaw: 5, pitch: 0, roll: 0 }, sure: 0.95 };
  expect(qualityOf(good)).toBeGreaterThan(0.8);
  for (const worse of [{ pixels: 20 }, { light: 0.01 }, { pose: { yaw: 80, pitch: 0, roll: 0 } }, { sure: 0.2 }])
    expect(qualityOf({ ...good, ...worse })).toBeLessThan(qualityOf(good) - 0.15);
});

test('queries follow a person who is called otherwise', () => {
  const follow = (text: string) => queryText(followName(parseQuery(text).query, 'Ida', 'Ida Brandt'));
  expect(follow('person:ida not (rating:3 or person:Ida)')).toBe(
    'person:"Ida Brandt" not (rating:3 or person:"Ida Brandt")',
  );
  expect(follow('person:Per name:Ida')).toBe('person:Per name:Ida');
});

describe('lives', () => {
  const year = (from: number, until = from + 1) => ({
    from: secondsOf(`${from}-01-01T00:00:00`),
    until: secondsOf(`${until}-01-01T00:00:00`),
  });

  test.each([
    ['1932', '', 1931, false],
    ['1932', '', 1932, true],
    ['1932~', '', 1928, true],
    ['1932~', '', 1925, false],
    ['193X', '', 1930, true],
    ['', '1951-06-02', 1951, true],
    ['', '1951-06-02', 1952, false],
    ['', '1951?', 1955, true],
    ['1900/1905', '', 1899, false],
  ])('born %s, died %s: in a photo of %d? %s', (born, died, taken, lived) => {
    const life = lifeOf(born, died);
    expect(life && livedIn(life, year(taken))).toBe(lived);
  });

  test('of whom nothing is known may be in any photo, and so may everybody in a photo without a date', () => {
    expect(lifeOf('', '')).toBeUndefined();
    expect(lifeOf('no date', '')).toBeUndefined();
    const vector = Int8Array.from({ length: VECTOR_LENGTH }, (_, i) => (i % 7) - 3);
    const references = new References(
      [{ personId: 1, photoId: 1, vector }],
      new Map([[1, { born: 0, died: Infinity }]]),
    );
    const asked = (taken?: { from: number; until: number }) =>
      references.suggest([{ vector, photoId: 2, refused: [], taken }])?.personId;
    expect([asked(), asked({ from: 5, until: 9 }), asked({ from: -9, until: -5 })]).toEqual([1, 1, undefined]);
  });
});

test('guesses that are kept follow those that would be made anew, whatever changes in between', () => {
  const guess = fc.option(
    fc.record({ personId: fc.integer({ min: 1, max: 3 }), certainty: fc.constantFrom(0.4, 0.6, 0.9) }),
    { nil: undefined },
  );
  const faces = fc.array(guess, { minLength: 6, maxLength: 6 });
  fc.assert(
    fc.property(fc.array(faces, { minLength: 1, maxLength: 4 }), fc.integer({ min: 1, max: 4 }), (states, slice) => {
      const kept = new Map<number, { personId: number; certainty: number }>();
      let guesses = new Guesses([]);
      for (const [round, now] of states.entries()) {
        // A process that is started anew begins with what was kept.
        if (round % 2 === 1) guesses = new Guesses([...kept].map(([faceId, one]) => ({ faceId, ...one })));
        guesses.doubt(now.keys());
        while (guesses.doubtful > 0) {
          let left = slice;
          for (const { faceId, guess: one } of guesses.settle(
            (id) => now[id],
            () => left-- > 0,
          ))
            if (one) kept.set(faceId, one);
            else kept.delete(faceId);
        }
        expect(kept).toEqual(new Map(now.flatMap((one, id) => (one ? [[id, one] as const] : []))));
      }
    }),
  );
});
