// `bench people`: how well faces are found, compared, grouped and named, and how fast. Persons are divided: what is learnt
// is learnt from one half and measured on the other. With `--fit` what was learnt is written into core/people.

import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { overlap, type Box } from '@stellin/core/people/boxes';
import { fitCalibration, fitLikeness, type Judged } from '@stellin/core/people/fitting';
import { LikenessGroups, STRICTNESS, THRESHOLDS, type Strictness } from '@stellin/core/people/grouping';
import { likeness, pack, VECTOR_LENGTH, vectorOf, type Fit } from '@stellin/core/people/likeness';
import { calibrationBins, groupFigures, verification } from '@stellin/core/people/measuring';
import { highest, VectorTable } from '@stellin/core/people/nearest';
import { tilesOf } from '@stellin/core/people/tiles';
import { certaintyOf, References } from '@stellin/core/people/suggesting';
import type { Calibration } from '@stellin/core/people/fit';
import { ROOT } from '@stellin/server/root';
import { faceLooker, type Looker } from '@stellin/server/people/looking';
import { openModels } from '@stellin/server/people/models';
import type { FoundFace } from '@stellin/server/people/faces.worker';
import { z } from 'zod';
import { namingEffort } from './naming';
import { atLeast, atMost, quantiles, report, type Part, type Report, type Row } from './report';

const PORTRAITS = join(ROOT, 'demo', 'portraits');
const CORE = join(ROOT, 'core', 'people');

const manifestSchema = z.object({
  shots: z.array(
    z.object({
      file: z.string(),
      identity: z.string(),
      yaw: z.number(),
      width: z.number(),
      height: z.number(),
      eyesClosed: z.boolean(),
      expression: z.string(),
      face: z.object({ x: z.number(), y: z.number(), w: z.number(), h: z.number() }),
    }),
  ),
});
type Shot = z.infer<typeof manifestSchema>['shots'][number];
type Known = Shot & { found: FoundFace };

/** Persons whose number is odd are learnt from; those whose number is even are measured. */
const isLearnt = ({ identity }: Shot) => Number(identity.slice(1)) % 2 === 1;
const FRONTAL = 30;
const FOLDS = 5;

export async function benchPeople(_photos: number, fit = false): Promise<Report> {
  const { shots } = manifestSchema.parse(JSON.parse(await readFile(join(PORTRAITS, 'manifest.json'), 'utf8')));
  const looker = faceLooker(2);
  try {
    const portraits = await lookAtPortraits(looker, shots);
    const scenes = await lookAtScenes(looker, shots);
    const learnt = portraits.faces.filter(isLearnt);
    const measured = portraits.faces.filter((shot) => !isLearnt(shot));
    const learntFit = fitOf(learnt);
    const calibration = calibrationOf(learnt);
    if (fit) await writeFit(learntFit, calibration);
    const faces = withVectors(measured, learntFit);
    const verified = verify(faces);
    const grouped = STRICTNESS.map((strictness) => group(faces, strictness));
    const sure = calibrate(judge(faces), calibration);
    const effort = await namingEffort(looker, learntFit, calibration);
    const speed = await speeds(looker, shots);
    const searched = [100_000, 1_000_000].map(searchTimes);
    return report(
      'people',
      [
        ...portraits.rows,
        ...scenes.rows,
        ...verified.rows,
        ...grouped.flatMap(({ rows }) => rows),
        ...sure.rows,
        ...effort.rows,
        ...speed.rows,
        ...searched.flatMap(({ rows }) => rows),
      ],
      [
        ...scenes.ratios,
        ...verified.ratios,
        ...grouped.flatMap(({ ratios }) => ratios),
        ...sure.ratios,
        ...effort.ratios,
        ...speed.ratios,
        ...searched.flatMap(({ ratios }) => ratios),
      ],
    );
  } finally {
    await looker.close();
  }
}

function fitOf(faces: readonly Known[]): Fit {
  return fitLikeness(faces.map(({ identity, found }) => ({ person: identity, description: found.description })));
}

/** Persons that were learnt from look surer than others are: some of them at a time are judged by what the others taught. */
function calibrationOf(learnt: readonly Known[]): Calibration {
  const persons = [...new Set(learnt.map(({ identity }) => identity))];
  const isIn = (fold: number, person: string) => persons.indexOf(person) % FOLDS === fold;
  return fitCalibration(
    Array.from({ length: FOLDS }, (_, fold) => {
      const taught = fitOf(learnt.filter(({ identity }) => !isIn(fold, identity)));
      return judge(withVectors(learnt, taught), (person) => isIn(fold, person));
    }).flat(),
  );
}

const share = (part: number, whole: number) => (100 * part) / (whole || 1);

async function lookAtPortraits(looker: Looker, shots: readonly Shot[]): Promise<{ faces: Known[]; rows: Row[] }> {
  const found = await Promise.all(
    shots.map(async (shot) => {
      const bytes = await sharp(join(PORTRAITS, shot.file)).flatten({ background: '#8aabbb' }).png().toBuffer();
      const faces = await looker.lookAtBytes(bytes);
      return { shot, face: faces.find(({ box }) => overlap(box, truth(shot)) > 0.3), others: faces.length - 1 };
    }),
  );
  const faces = found.flatMap(({ shot, face }) => (face ? [{ ...shot, found: face }] : []));
  const poses: readonly [string, (shot: Shot) => boolean][] = [
    ['up to 30° aside', ({ yaw }) => Math.abs(yaw) <= FRONTAL],
    ['further aside', ({ yaw }) => Math.abs(yaw) > FRONTAL],
  ];
  const eyes = faces.filter(({ found: face, eyesClosed }) => face.eyesOpen < 0.5 === eyesClosed).length;
  const smiles = faces.filter(
    ({ found: face, expression }) => face.smile > 0.5 === ['smile', 'grin'].includes(expression),
  );
  return {
    faces,
    rows: [
      ...poses.map(([name, fits]) => {
        const some = found.filter(({ shot }) => fits(shot));
        return {
          id: `portraits found, ${name}`,
          value: share(some.filter(({ face }) => face).length, some.length),
          unit: '%',
        };
      }),
      {
        id: 'false faces in portraits',
        value: found.reduce((sum, { others }) => sum + Math.max(0, others), 0),
        unit: 'faces',
      },
      { id: 'eyes open or closed told rightly', value: share(eyes, faces.length), unit: '%' },
      { id: 'smile or none told rightly', value: share(smiles.length, faces.length), unit: '%' },
    ],
  };
}

function truth({ face, width, height }: Shot): Box {
  return { left: face.x / width, top: face.y / height, width: face.w / width, height: face.h / height };
}

const SCENE = { width: 2400, height: 1600 };
/** Heights of faces as parts of the scene’s height. */
const SIZES = [0.03, 0.04, 0.05, 0.08, 0.12] as const;
const SCENES = 25;

/** Scenes with a face of each size, and as many without anybody. */
async function lookAtScenes(looker: Looker, shots: readonly Shot[]): Promise<Part> {
  const seen = new Map<number, { found: number; all: number }>(SIZES.map((size) => [size, { found: 0, all: 0 }]));
  let [falseFaces, pictures] = [0, 0];
  const usable = shots.filter(({ yaw }) => Math.abs(yaw) <= 45);
  await Promise.all(
    Array.from({ length: SCENES * 2 }, async (_, i) => {
      const inhabited = i < SCENES;
      const placed = inhabited
        ? SIZES.map((size, k) => ({
            size,
            shot: usable[((i * SIZES.length + k) * 7) % usable.length],
            at: { x: 0.04 + k * 0.19, y: 0.25 + ((i + k) % 3) * 0.2 },
          }))
        : [];
      const { bytes, boxes } = await sceneOf(
        i,
        placed.flatMap(({ size, shot, at }) => (shot ? [{ size, shot, at }] : [])),
      );
      const faces = await looker.lookAtBytes(bytes);
      const left = new Set(faces);
      for (const { size, box } of boxes) {
        const count = seen.get(size);
        const hit = [...left].find((face) => overlap(face.box, box) > 0.25);
        if (count) count.all += 1;
        if (hit && count) {
          count.found += 1;
          left.delete(hit);
        }
      }
      falseFaces += left.size;
      pictures += 1;
    }),
  );
  const recall = (sizes: readonly number[]) => {
    const counts = sizes.flatMap((size) => seen.get(size) ?? []);
    return share(
      counts.reduce((sum, { found }) => sum + found, 0),
      counts.reduce((sum, { all }) => sum + all, 0),
    );
  };
  return {
    rows: [
      ...SIZES.map((size) => ({
        id: `scenes: found, ${size * 100} % of the height`,
        value: recall([size]),
        unit: '%',
      })),
      { id: 'scenes: false faces in 50 pictures', value: (falseFaces / pictures) * 50, unit: 'faces' },
    ],
    ratios: [
      atLeast('recall of faces of 5 % and more, %', recall(SIZES.filter((size) => size >= 0.05)), 99),
      atLeast('recall of faces of 3 %, %', recall([0.03]), 95),
      atMost('false faces in 50 pictures', (falseFaces / pictures) * 50, 1),
    ],
  };
}

/** A beach with kites and people; where their faces are. */
async function sceneOf(seed: number, placed: readonly { size: number; shot: Shot; at: { x: number; y: number } }[]) {
  const { width, height } = SCENE;
  const kites = Array.from({ length: 7 }, (_, k) => {
    const [x, y, s] = [(seed * 379 + k * 331) % width, (seed * 97 + k * 113) % 600, 40 + (((seed + k) * 37) % 90)];
    const colour = ['#b3321f', '#f0a23a', '#2f568c', '#0d6a55', '#7a4a92'][(seed + k) % 5];
    return `<polygon points="${x},${y - s} ${x + s * 0.7},${y} ${x},${y + s * 1.4} ${x - s * 0.7},${y}" fill="${colour}"/><circle cx="${x}" cy="${y}" r="${s / 6}" fill="#fff"/>`;
  }).join('');
  const backdrop = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><defs><linearGradient id="s" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#6fa7d8"/><stop offset="0.6" stop-color="#dfe9ee"/><stop offset="0.62" stop-color="#d8c69a"/><stop offset="1" stop-color="#b79f6d"/></linearGradient></defs><rect width="100%" height="100%" fill="url(#s)"/>${kites}</svg>`;
  const parts = await Promise.all(
    placed.map(async ({ size, shot, at }) => {
      const scale = (size * height) / shot.face.h;
      const input = await sharp(join(PORTRAITS, shot.file))
        .resize(Math.round(shot.width * scale), Math.round(shot.height * scale))
        .png()
        .toBuffer();
      const [left, top] = [Math.round(at.x * width), Math.round(at.y * height)];
      const box: Box = {
        left: (left + shot.face.x * scale) / width,
        top: (top + shot.face.y * scale) / height,
        width: (shot.face.w * scale) / width,
        height: (shot.face.h * scale) / height,
      };
      return { input, left, top, size, box };
    }),
  );
  const bytes = await sharp(Buffer.from(backdrop))
    .composite(parts.map(({ input, left, top }) => ({ input, left, top })))
    .jpeg({ quality: 90 })
    .toBuffer();
  return { bytes, boxes: parts.map(({ size, box }) => ({ size, box })) };
}

interface Vectored {
  person: string;
  photoId: number;
  yaw: number;
  quality: number;
  vector: Int8Array;
}

function withVectors(faces: readonly Known[], fit: Fit): Vectored[] {
  return faces.map(({ identity, yaw, found }, photoId) => ({
    person: identity,
    photoId,
    yaw,
    quality: found.quality,
    vector: vectorOf(found.description, fit),
  }));
}

function verify(faces: readonly Vectored[]): Part {
  const of = (some: readonly Vectored[]) => {
    const [same, different]: [number[], number[]] = [[], []];
    for (const [i, a] of some.entries())
      for (const b of some.slice(i + 1)) (a.person === b.person ? same : different).push(likeness(a.vector, b.vector));
    return verification(same, different);
  };
  const [all, frontal] = [of(faces), of(faces.filter(({ yaw }) => Math.abs(yaw) <= FRONTAL))];
  const rows = (name: string, { auc, at1, at01 }: typeof all): Row[] => [
    { id: `likeness, ${name}: AUC`, value: auc, unit: '' },
    { id: `likeness, ${name}: true at 1 % false`, value: at1 * 100, unit: '%' },
    { id: `likeness, ${name}: true at 0.1 % false`, value: at01 * 100, unit: '%' },
  ];
  return {
    rows: [...rows('frontal', frontal), ...rows('all poses', all)],
    ratios: [
      atLeast('AUC over all poses', all.auc, 0.995),
      atLeast('true at 0.1 % false, all poses, %', all.at01 * 100, 85),
    ],
  };
}

/** Faces come in another order in each round: groups depend on it. */
const ROUNDS = 8;

function shuffled<Item>(items: readonly Item[], seed: number): Item[] {
  const keyed = items.map((item, i) => ({ item, key: Math.imul(i + 1, 2_654_435_761 + seed * 40_503) >>> 0 }));
  return keyed.sort((a, b) => a.key - b.key).map(({ item }) => item);
}

function group(faces: readonly Vectored[], strictness: Strictness): Part {
  const sums = { precision: 0, recall: 0, cubedPrecision: 0, cubedRecall: 0 };
  for (let round = 0; round < ROUNDS; round++) {
    const ordered = shuffled(faces, round);
    const groups = new LikenessGroups(THRESHOLDS[strictness]);
    for (const [id, face] of ordered.entries()) groups.add({ id, ...face });
    const figures = groupFigures(
      groups
        .list()
        .flatMap(({ faces: own }, at) => own.map(({ id }) => ({ person: ordered[id]?.person ?? '', group: at }))),
    );
    for (const key of Object.keys(sums) as (keyof typeof sums)[]) sums[key] += figures[key] / ROUNDS;
  }
  return {
    rows: [
      { id: `groups, ${strictness}: pairs, precision`, value: sums.precision, unit: '' },
      { id: `groups, ${strictness}: pairs, recall`, value: sums.recall, unit: '' },
      { id: `groups, ${strictness}: B-cubed precision`, value: sums.cubedPrecision, unit: '' },
      { id: `groups, ${strictness}: B-cubed recall`, value: sums.cubedRecall, unit: '' },
    ],
    ratios:
      strictness === 'close'
        ? [
            atLeast('groups, close: precision', sums.precision, 0.995),
            atLeast('groups, close: recall', sums.recall, 0.85),
          ]
        : [],
  };
}

/** Suggestions for faces and small groups, with some persons named by one to five faces and some not at all. */
function judge(faces: readonly Vectored[], isAsked: (person: string) => boolean = () => true): Judged[] {
  const persons = [...new Set(faces.map(({ person }) => person))];
  const judged: Judged[] = [];
  for (let round = 0; round < 40; round++) {
    const order = shuffled(persons, round + 1);
    const named = order.slice(0, Math.ceil(order.length * 0.7));
    const references = new References();
    const unknown: Vectored[] = [];
    for (const [i, person] of order.entries()) {
      const own = shuffled(
        faces.filter((face) => face.person === person),
        round * 31 + i,
      );
      const known = named.includes(person) ? 1 + ((round + i) % 5) : 0;
      for (const { vector, photoId } of own.slice(0, known))
        references.add({ personId: persons.indexOf(person), photoId, vector });
      if (isAsked(person)) unknown.push(...own.slice(known));
    }
    for (const [i, face] of shuffled(unknown, round).entries()) {
      const size = [1, 1, 1, 2, 4][i % 5] ?? 1;
      const group = [
        face,
        ...unknown.filter((other) => other !== face && other.person === face.person).slice(0, size - 1),
      ];
      const evidence = references.evidenceFor(group.map(({ vector, photoId }) => ({ vector, photoId, refused: [] })));
      if (evidence) judged.push({ ...evidence, right: persons[evidence.personId] === face.person });
    }
  }
  return judged;
}

const BINS = 10;

function calibrate(judged: readonly Judged[], by: Calibration): Part {
  const said = judged.map((evidence) => ({ certainty: certaintyOf(evidence, by), right: evidence.right }));
  const bins = calibrationBins(said, BINS);
  const off = bins.reduce((sum, bin) => sum + (Math.abs(bin.said - bin.right) * bin.count) / said.length, 0);
  return {
    rows: bins.flatMap((bin, i) => [
      { id: `certainty, tenth ${i + 1}: said`, value: bin.said * 100, unit: 'in 100' },
      { id: `certainty, tenth ${i + 1}: right`, value: bin.right * 100, unit: 'in 100' },
    ]),
    ratios: [atMost('certainty is off by, in 100', off * 100, 3)],
  };
}

async function speeds(looker: Looker, shots: readonly Shot[]): Promise<Part> {
  const pictures = await Promise.all(
    shots
      .filter((_, i) => i % 10 === 0)
      .map(async ({ file }) => sharp(join(PORTRAITS, file)).flatten({ background: '#8aabbb' }).png().toBuffer()),
  );
  const models = await openModels();
  const raws = await Promise.all(
    pictures.map(async (bytes) => {
      const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
      return { data, width: info.width, height: info.height };
    }),
  );
  // The models alone on pixels that lie ready: as many tiles as are looked at, then the description.
  const tile = { data: new Uint8Array(256 * 256 * 3), width: 256, height: 256 };
  const bareOnce = async () => {
    for (const raw of raws) {
      for (const _ of tilesOf(raw.width, raw.height, SIZES[0])) await models.detect(tile);
      await models.describe(raw);
    }
  };
  await bareOnce();
  const bare = await perSecond(raws.length, bareOnce);
  const one = faceLooker(1);
  await one.lookAtBytes(pictures[0] ?? new Uint8Array());
  const single = await perSecond(pictures.length, () => Promise.all(pictures.map((bytes) => one.lookAtBytes(bytes))));
  await one.close();
  const double = await perSecond(pictures.length, () =>
    Promise.all(pictures.map((bytes) => looker.lookAtBytes(bytes))),
  );
  return {
    rows: [
      { id: 'bare model, one thread', value: bare, unit: 'faces/s' },
      { id: 'looking, one thread', value: single, unit: 'faces/s' },
      { id: 'looking, two threads', value: double, unit: 'faces/s' },
    ],
    ratios: [atLeast('two threads of twice the bare model', double / (2 * bare), 0.9)],
  };
}

async function perSecond(faces: number, work: () => Promise<unknown>): Promise<number> {
  const started = performance.now();
  await work();
  return (faces / (performance.now() - started)) * 1000;
}

function searchTimes(count: number): Part {
  const table = new VectorTable();
  table.reserve(count);
  let state = 7;
  const vector = new Int8Array(VECTOR_LENGTH);
  for (let i = 0; i < count; i++) {
    for (let k = 0; k < VECTOR_LENGTH; k++) {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
      vector[k] = (state >>> 26) - 32;
    }
    table.set(i, vector);
  }
  const times = Array.from({ length: 40 }, (_, i) => {
    const query = table.at((i * 7919) % count).slice();
    const started = performance.now();
    const scores = table.scores(query);
    const [best] = highest(
      count,
      (place) => scores[place] ?? 0,
      100,
      () => true,
    );
    if (best !== (i * 7919) % count) throw new Error('the likeliest face is not itself');
    return performance.now() - started;
  });
  const rows = quantiles(`top 100 of ${count.toLocaleString('en')} faces`, times, 'ms');
  const p95 = rows.find(({ id }) => id.endsWith('p95'))?.value ?? 0;
  return { rows, ratios: count >= 1_000_000 ? [atMost('top 100 of a million, p95 ms', p95, 100)] : [] };
}

async function writeFit(fit: Fit, calibration: Calibration): Promise<void> {
  const packed = JSON.stringify(pack(fit)).replaceAll('},{', '},\n{');
  await writeFile(
    join(CORE, 'fitted.ts'),
    `// Made by \`./stellin bench people --fit\` from the portraits of every other person; not to be edited.\n\nimport type { PackedFit } from './likeness';\nimport type { Calibration } from './suggesting';\n\n// oxfmt-ignore\nexport const FITTED: PackedFit = ${packed};\n\nexport const CALIBRATION: Calibration = ${JSON.stringify(calibration)};\n`,
  );
}
