// What is in the archive: which drive holds which folders, which photos stand in them, who and what is on each, what their
// files say of it, and how badly. Everything follows from the tables here; docs/demo.md tells it in words.

import { COAST } from './coast';
import { LIGHTS, type Ground, type Light } from './light';
import { KITE_KINDS, TERM_OF_KIND, type KiteKind } from './kites';
import { randomOf, type Random } from './random';

export const DRIVES = ['Vault 1', 'Vault 2', 'Studio disk', 'Kessel bequest', 'Field disk', 'Camera card A'] as const;
export type DriveLabel = (typeof DRIVES)[number];

export interface Camera {
  make: string;
  model: string;
  lens: string;
  /** Seconds by which its clock is wrong. */
  clockOff: number;
}

const CAMERAS = {
  corvina: { make: 'Corvina', model: 'Corvina R2', lens: 'Corvina 24-70mm f/2.8', clockOff: 0 },
  corvinaOld: { make: 'Corvina', model: 'Corvina D1', lens: 'Corvina 18-55mm f/4', clockOff: 3600 },
  halden: { make: 'Halden', model: 'Halden M7', lens: 'Halden 35mm f/2', clockOff: -754 },
  ostler: { make: 'Ostler', model: 'Ostler Field 4', lens: 'Ostler 70-200mm f/4', clockOff: 86400 },
  brindle: { make: 'Brindle', model: 'Brindle One', lens: '', clockOff: 0 },
} as const satisfies Record<string, Camera>;

/** Invented names for the made-up persons of the portraits. */
export const PEOPLE: Record<string, string> = {
  p01: 'Ida Brandt',
  p02: 'Bashir Odell',
  p03: 'Yuki Tanabe',
  p04: 'Luca Ferro',
  p05: 'Celia Amund',
  p06: 'Per Oskarsen',
  p07: 'Greta Lind',
  p08: 'Milo Dray',
  p09: 'Anouk Maris',
  p10: 'Tomas Rehak',
  p11: 'Noor Vesely',
  p12: 'Sam Okoye',
  p13: 'Hedda Falk',
  p14: 'Anton Kessel',
  p15: 'Rosa Quill',
  p16: 'Jonas Wyke',
  p17: 'Adaeze Munro',
  p18: 'Viktor Sand',
  p19: 'Lina Harrow',
  p20: 'Björn Askel',
};
const EVERYBODY = Object.keys(PEOPLE);

/** How a file says what it says. */
export type Mess =
  | 'nothing'
  | 'iimLatin1'
  | 'xmpOnly'
  | 'both'
  | 'disagree'
  | 'iimNewer'
  | 'oldFields'
  | 'sidecar'
  | 'regions';

export type Setting =
  | { kind: 'outdoors'; ground: Ground; light: Light; horizon: number }
  | { kind: 'room'; gallery: boolean }
  | { kind: 'paper'; dark: boolean };

export interface PlannedPhoto {
  drive: DriveLabel;
  /** Below the drive. */
  path: string;
  /** Decides all chance in the picture; photos of a burst share it. */
  scene: string;
  /** 0–1 within a burst. */
  moment: number;
  width: number;
  height: number;
  format: 'jpeg' | 'tiff' | 'png';
  orientation: 1 | 3 | 6 | 8;
  setting: Setting;
  kites: KiteKind[];
  /** Ids of persons. */
  people: string[];
  /** How far people are from the camera. */
  distance: 'near' | 'middle' | 'far';
  /** All of a scene, or one thing close by. */
  view: 'whole' | 'detail';
  /** Whether an event is under way. */
  festive: boolean;
  look: 'colour' | 'scan' | 'blurred' | 'dark';
  camera: Camera | undefined;
  /** True local time. */
  takenAt: string;
  position: { latitude: number; longitude: number } | undefined;
  mess: Mess;
  title: string;
  caption: string;
  keywords: string[];
  creator: string;
  place: string;
  rating: number | undefined;
  /** Labels of vocabulary terms that truly belong to it. */
  terms: string[];
}

/** A copy that lies about: the same file as that of a photo, under another name. */
export interface PlannedCopy {
  drive: DriveLabel;
  path: string;
  of: PlannedPhoto;
}

export interface ArchivePlan {
  photos: PlannedPhoto[];
  copies: PlannedCopy[];
  /** Files that are broken: what is left of a photo. */
  broken: { drive: DriveLabel; path: string; of: string | undefined }[];
}

interface Outing {
  drive: DriveLabel;
  folder: string;
  count: number;
  /** `YYYY-MM-DD` */
  day: string;
  prefix: string;
  first: number;
  camera?: keyof typeof CAMERAS;
  creator: string;
  kind: 'festival' | 'flying' | 'workshop' | 'gallery' | 'collection' | 'landscape' | 'scan' | 'evening';
  event?: string;
  place: string;
  grounds?: readonly Ground[];
  messes: readonly Mess[];
}

const FESTIVAL: readonly Mess[] = ['both', 'both', 'xmpOnly', 'iimLatin1', 'nothing', 'disagree', 'regions'];

const OUTINGS: readonly Outing[] = [
  {
    drive: 'Vault 1',
    folder: '2009/Festival',
    count: 34,
    day: '2009-06-13',
    prefix: 'DSC_',
    first: 412,
    camera: 'corvinaOld',
    creator: 'Per Oskarsen',
    kind: 'festival',
    event: 'Saltmarsh Kite Festival',
    place: 'Saltmarsh',
    messes: ['iimLatin1', 'iimLatin1', 'nothing', 'oldFields'],
  },
  {
    drive: 'Vault 1',
    folder: '2010/Workshops/Rokkaku class',
    count: 20,
    day: '2010-03-20',
    prefix: 'DSC_',
    first: 1102,
    camera: 'corvinaOld',
    creator: 'Per Oskarsen',
    kind: 'workshop',
    place: 'Saltmarsh',
    messes: ['iimLatin1', 'oldFields', 'nothing'],
  },
  {
    drive: 'Vault 1',
    folder: '2011/Festival June',
    count: 34,
    day: '2011-06-11',
    prefix: 'SKM_',
    first: 2037,
    camera: 'halden',
    creator: 'Ida Brandt',
    kind: 'festival',
    event: 'Saltmarsh Kite Festival',
    place: 'Saltmarsh',
    messes: FESTIVAL,
  },
  {
    drive: 'Vault 1',
    folder: '2012/Landscapes',
    count: 22,
    day: '2012-09-02',
    prefix: 'SKM_',
    first: 3310,
    camera: 'halden',
    creator: 'Ida Brandt',
    kind: 'landscape',
    place: 'Kolmer Point',
    messes: ['both', 'nothing', 'xmpOnly'],
  },
  {
    drive: 'Vault 1',
    folder: '2013/Makers weekend',
    count: 24,
    day: '2013-10-05',
    prefix: 'SKM_',
    first: 4188,
    camera: 'halden',
    creator: 'Ida Brandt',
    kind: 'workshop',
    event: 'Makers’ weekend',
    place: 'Saltmarsh',
    messes: ['both', 'regions', 'disagree', 'nothing'],
  },
  {
    drive: 'Vault 1',
    folder: '2014/Festival June',
    count: 36,
    day: '2014-06-14',
    prefix: 'SKM_',
    first: 5003,
    camera: 'corvina',
    creator: 'Tomas Rehak',
    kind: 'festival',
    event: 'Saltmarsh Kite Festival',
    place: 'Saltmarsh',
    messes: FESTIVAL,
  },
  {
    drive: 'Vault 1',
    folder: 'new',
    count: 10,
    day: '2015-04-18',
    prefix: 'IMG_',
    first: 88,
    camera: 'brindle',
    creator: '',
    kind: 'flying',
    place: '',
    messes: ['nothing'],
  },
  {
    drive: 'Vault 1',
    folder: 'new 2',
    count: 10,
    day: '2015-08-22',
    prefix: 'IMG_',
    first: 301,
    camera: 'brindle',
    creator: '',
    kind: 'flying',
    place: '',
    messes: ['nothing', 'oldFields'],
  },
  {
    drive: 'Vault 2',
    folder: '2017/Festival June/Tomas',
    count: 34,
    day: '2017-06-10',
    prefix: 'TR7_',
    first: 611,
    camera: 'corvina',
    creator: 'Tomas Rehak',
    kind: 'festival',
    event: 'Saltmarsh Kite Festival',
    place: 'Saltmarsh',
    messes: FESTIVAL,
  },
  {
    drive: 'Vault 2',
    folder: '2017/Festival June/Anouk',
    count: 24,
    day: '2017-06-11',
    prefix: 'AM_',
    first: 94,
    camera: 'ostler',
    creator: 'Anouk Maris',
    kind: 'festival',
    event: 'Saltmarsh Kite Festival',
    place: 'Saltmarsh',
    messes: ['xmpOnly', 'xmpOnly', 'regions', 'iimNewer'],
  },
  {
    drive: 'Vault 2',
    folder: '2018/Exhibition Borrowed Wind',
    count: 22,
    day: '2018-05-04',
    prefix: 'SKM_',
    first: 7120,
    camera: 'corvina',
    creator: 'Noor Vesely',
    kind: 'gallery',
    event: 'Borrowed Wind',
    place: 'Saltmarsh',
    messes: ['both', 'both', 'xmpOnly'],
  },
  {
    drive: 'Vault 2',
    folder: '2019/Festival June',
    count: 36,
    day: '2019-06-15',
    prefix: 'SKM_',
    first: 8002,
    camera: 'corvina',
    creator: 'Noor Vesely',
    kind: 'festival',
    event: 'Saltmarsh Kite Festival',
    place: 'Saltmarsh',
    messes: FESTIVAL,
  },
  {
    drive: 'Vault 2',
    folder: '2019/Night of lights',
    count: 16,
    day: '2019-06-15',
    prefix: 'SKM_',
    first: 8201,
    camera: 'halden',
    creator: 'Anouk Maris',
    kind: 'evening',
    event: 'Night of lights',
    place: 'Saltmarsh',
    messes: ['xmpOnly', 'nothing'],
  },
  {
    drive: 'Vault 2',
    folder: '2021/Dunes and marsh',
    count: 20,
    day: '2021-10-09',
    prefix: 'SKM_',
    first: 9050,
    camera: 'ostler',
    creator: 'Anouk Maris',
    kind: 'landscape',
    place: 'Great Marsh',
    messes: ['both', 'nothing'],
  },
  {
    drive: 'Vault 2',
    folder: '2022/Workshops',
    count: 22,
    day: '2022-02-26',
    prefix: 'SKM_',
    first: 9403,
    camera: 'corvina',
    creator: 'Noor Vesely',
    kind: 'workshop',
    place: 'Saltmarsh',
    messes: ['regions', 'both', 'nothing', 'disagree'],
  },
  {
    drive: 'Vault 2',
    folder: '2023/One Sky day',
    count: 24,
    day: '2023-10-08',
    prefix: 'SKM_',
    first: 9907,
    camera: 'corvina',
    creator: 'Noor Vesely',
    kind: 'flying',
    event: 'One Sky day',
    place: 'Hask Hill',
    messes: FESTIVAL,
  },
  {
    drive: 'Studio disk',
    folder: 'Collection/Single-line',
    count: 34,
    day: '2016-11-08',
    prefix: 'K2016-',
    first: 1,
    camera: 'corvina',
    creator: 'Celia Amund',
    kind: 'collection',
    place: 'Saltmarsh',
    messes: ['both', 'xmpOnly', 'sidecar'],
  },
  {
    drive: 'Studio disk',
    folder: 'Collection/Cellular',
    count: 20,
    day: '2016-11-15',
    prefix: 'K2016-',
    first: 101,
    camera: 'corvina',
    creator: 'Celia Amund',
    kind: 'collection',
    place: 'Saltmarsh',
    messes: ['both', 'sidecar'],
  },
  {
    drive: 'Studio disk',
    folder: 'Collection/_to sort',
    count: 14,
    day: '2020-01-21',
    prefix: 'tethered_',
    first: 14,
    camera: 'corvina',
    creator: 'Celia Amund',
    kind: 'collection',
    place: '',
    messes: ['nothing'],
  },
  {
    drive: 'Studio disk',
    folder: 'Rooms',
    count: 14,
    day: '2018-04-12',
    prefix: 'SKM_',
    first: 7040,
    camera: 'halden',
    creator: 'Celia Amund',
    kind: 'gallery',
    place: 'Saltmarsh',
    messes: ['both', 'nothing'],
  },
  {
    drive: 'Kessel bequest',
    folder: 'Box 1 1931-1938',
    count: 26,
    day: '1934-07-15',
    prefix: 'kessel_001_',
    first: 1,
    creator: 'Anton Kessel',
    kind: 'scan',
    place: 'Saltmarsh',
    messes: ['iimLatin1', 'nothing', 'oldFields'],
  },
  {
    drive: 'Kessel bequest',
    folder: 'Box 2 1949-1958',
    count: 28,
    day: '1952-06-08',
    prefix: 'kessel_002_',
    first: 1,
    creator: 'Anton Kessel',
    kind: 'scan',
    place: 'Saltmarsh',
    messes: ['iimLatin1', 'both', 'nothing'],
  },
  {
    drive: 'Kessel bequest',
    folder: 'Box 3 1961-1974',
    count: 24,
    day: '1966-08-21',
    prefix: 'kessel_003_',
    first: 1,
    creator: 'Anton Kessel',
    kind: 'scan',
    place: 'Kolmer Point',
    messes: ['both', 'nothing'],
  },
  {
    drive: 'Field disk',
    folder: '2025-06 Festival/Day 1',
    count: 30,
    day: '2025-06-14',
    prefix: 'F25_',
    first: 1201,
    camera: 'corvina',
    creator: 'Lina Harrow',
    kind: 'festival',
    event: 'Saltmarsh Kite Festival',
    place: 'Saltmarsh',
    messes: FESTIVAL,
  },
  {
    drive: 'Field disk',
    folder: '2025-06 Festival/Day 2',
    count: 30,
    day: '2025-06-15',
    prefix: 'F25_',
    first: 1420,
    camera: 'ostler',
    creator: 'Lina Harrow',
    kind: 'festival',
    event: 'Saltmarsh Kite Festival',
    place: 'Saltmarsh',
    messes: ['xmpOnly', 'both', 'iimLatin1', 'regions'],
  },
  {
    drive: 'Field disk',
    folder: '2026-03 Workshop',
    count: 22,
    day: '2026-03-14',
    prefix: 'F26_',
    first: 40,
    camera: 'halden',
    creator: 'Jonas Wyke',
    kind: 'workshop',
    place: 'Saltmarsh',
    messes: ['both', 'nothing', 'regions'],
  },
  {
    drive: 'Field disk',
    folder: 'misc',
    count: 12,
    day: '2026-05-02',
    prefix: 'IMG_',
    first: 2210,
    camera: 'brindle',
    creator: '',
    kind: 'flying',
    place: '',
    messes: ['nothing'],
  },
  {
    drive: 'Camera card A',
    folder: 'DCIM/100CORVI',
    count: 28,
    day: '2026-10-11',
    prefix: 'COR_',
    first: 4711,
    camera: 'corvina',
    creator: '',
    kind: 'flying',
    place: '',
    messes: ['nothing'],
  },
  {
    drive: 'Camera card A',
    folder: 'DCIM/101CORVI',
    count: 12,
    day: '2026-10-12',
    prefix: 'COR_',
    first: 4790,
    camera: 'corvina',
    creator: '',
    kind: 'landscape',
    place: '',
    messes: ['nothing'],
  },
];

/** Keywords as different hands spelt them: the same idea three ways, or in another language. */
const SPELLINGS: Record<string, readonly string[]> = {
  Rokkaku: ['Rokkaku', 'rokaku', 'Rokakku'],
  Delta: ['Delta', 'delta kite', 'Deltadrachen'],
  'Box kite': ['Box kite', 'boxkite', 'Kastendrachen'],
  Beach: ['Beach', 'beach', 'Strand'],
  Meadow: ['Meadow', 'meadow', 'Wiese'],
  Workshop: ['Workshop', 'workshop', 'Werkstatt'],
  'Saltmarsh Kite Festival': ['Saltmarsh Kite Festival', 'kite festival', 'Drachenfest'],
  Diamond: ['Diamond', 'Diamond kite', 'Rautendrachen'],
};

const GROUND_TERM: Record<Ground, string> = {
  beach: 'Beach',
  meadow: 'Meadow',
  hills: 'Hill',
  dunes: 'Dunes',
  harbour: 'Harbour',
};
const LIGHT_TERM: Record<string, string> = {
  golden: 'Golden hour',
  dusk: 'Dusk',
  overcast: 'Overcast',
  storm: 'Storm clouds',
  mist: 'Mist',
  night: 'Night',
  morning: 'Morning light',
  clear: 'Clear sky',
  noon: 'Broken cloud',
};

/** The whole archive, or with `share` below 1 that part of each folder. */
export function planArchive(share = 1): ArchivePlan {
  const photos = OUTINGS.flatMap((outing) => planOuting(outing, Math.max(2, Math.round(outing.count * share))));
  const named = (drive: DriveLabel, index: number) =>
    photos.filter((photo) => photo.drive === drive && photo.format === 'jpeg')[index];
  const copyOf = (drive: DriveLabel, index: number, target: DriveLabel, folder: string): PlannedCopy[] => {
    const original = named(drive, index);
    if (!original) return [];
    const name = original.path.slice(original.path.lastIndexOf('/') + 1);
    return [{ drive: target, path: `${folder}/${name.replace('.', ' copy.')}`, of: original }];
  };
  return {
    photos,
    copies: [
      ...[0, 3, 5].flatMap((i) => copyOf('Vault 1', i, 'Vault 1', 'new 2')),
      ...[1, 4].flatMap((i) => copyOf('Vault 1', i, 'Vault 2', '2017/from Vault 1')),
      ...[2, 5].flatMap((i) => copyOf('Vault 2', i, 'Field disk', 'misc')),
    ],
    broken: [
      { drive: 'Vault 1', path: 'new/IMG_0099.jpg', of: named('Vault 1', 2)?.path },
      { drive: 'Vault 1', path: 'new 2/IMG_0320.jpg', of: undefined },
      { drive: 'Camera card A', path: 'DCIM/100CORVI/COR_4799.jpg', of: named('Camera card A', 1)?.path },
    ],
  };
}

function planOuting(outing: Outing, count: number): PlannedPhoto[] {
  const random = randomOf(`${outing.drive}/${outing.folder}`);
  const photos: PlannedPhoto[] = [];
  let number = outing.first;
  let minute = 9 * 60 + random.int(0, 90);
  while (photos.length < count) {
    const scene = `${outing.folder} ${number}`;
    const burst = outing.kind !== 'scan' && outing.kind !== 'collection' && random.chance(0.1) ? random.int(3, 4) : 1;
    for (let i = 0; i < burst && photos.length < count; i++) {
      photos.push(planPhoto(outing, scene, number, minute * 60 + i * 2, i / Math.max(1, burst - 1)));
      number += 1;
    }
    number += random.chance(0.3) ? random.int(1, 9) : 0;
    minute += random.int(1, Math.max(2, Math.floor(560 / count)));
  }
  return photos;
}

function planPhoto(outing: Outing, scene: string, number: number, second: number, moment: number): PlannedPhoto {
  const random = randomOf(scene);
  const own = randomOf(`${scene}/${moment}`);
  const scan = outing.kind === 'scan';
  const collection = outing.kind === 'collection';
  const setting = settingOf(outing, second, random);
  const kites = kitesOf(outing, random);
  const people = peopleOf(outing, random);
  // Takes chance of its own, so that who and what is on a photo stays.
  const view = randomOf(`${scene} view`);
  const distance = distanceOf(people, view);
  const isDetail = kites.length > 0 && people.length === 0 && !scan && view.chance(0.13);
  if (setting.kind === 'outdoors') setting.horizon = view.between(...view.pick<readonly [number, number]>(HORIZONS));
  const format = formatOf(outing, own);
  const [width, height] = sizeOf(outing, format, people.length > 0 && distance !== 'near', random);
  const terms = [...termsOf(outing, setting, kites, people), ...(isDetail ? ['Detail'] : [])];
  const mess =
    format === 'jpeg'
      ? own.pick(outing.messes)
      : format === 'tiff'
        ? own.pick(['sidecar', 'xmpOnly'] as const)
        : 'xmpOnly';
  const extension = {
    jpeg: outing.prefix.startsWith('DSC') || outing.prefix.startsWith('COR') ? 'JPG' : 'jpg',
    tiff: 'tif',
    png: 'png',
  }[format];
  const digits = scan ? 3 : 4;
  return {
    drive: outing.drive,
    path: `${outing.folder}/${outing.prefix}${String(number).padStart(digits, '0')}.${extension}`,
    scene,
    moment,
    width,
    height,
    format,
    orientation: format === 'jpeg' && !scan && !collection ? own.pick([1, 1, 1, 1, 1, 1, 6, 8, 3] as const) : 1,
    setting,
    kites,
    people,
    distance,
    view: isDetail ? 'detail' : 'whole',
    festive: outing.event !== undefined && !scan,
    look: scan ? 'scan' : own.chance(0.035) ? 'blurred' : own.chance(0.03) ? 'dark' : 'colour',
    camera: outing.camera && CAMERAS[outing.camera],
    takenAt: timeOf(outing, second, own),
    position:
      outing.camera === 'brindle' || (outing.camera === 'corvina' && !collection && random.chance(0.5))
        ? around(outing.place, random)
        : undefined,
    mess,
    title: titleOf(outing, kites, number),
    caption: captionOf(outing, setting, kites, people, random),
    keywords: keywordsOf(terms, people, own),
    creator: outing.creator,
    place: outing.place,
    rating: own.chance(0.3) ? own.pick([1, 2, 3, 3, 4, 4, 5, -1]) : undefined,
    terms,
  };
}

/** Where horizons are, as parts of the height: much ground, even, much sky. */
const HORIZONS = [
  [0.36, 0.48],
  [0.5, 0.62],
  [0.5, 0.66],
  [0.66, 0.8],
] as const;

/** The more people the further away; most are seen as a whole. */
function distanceOf(people: readonly string[], random: Random): PlannedPhoto['distance'] {
  if (people.length > 3) return random.pick(['middle', 'middle', 'middle', 'middle', 'middle', 'far']);
  if (people.length === 3) return random.pick(['near', 'near', 'middle', 'middle', 'far']);
  return random.pick(['near', 'near', 'near', 'near', 'middle', 'middle', 'middle', 'far']);
}

function settingOf(outing: Outing, second: number, random: Random): Setting {
  if (outing.kind === 'workshop') return { kind: 'room', gallery: false };
  if (outing.kind === 'gallery') return { kind: 'room', gallery: true };
  if (outing.kind === 'collection') return { kind: 'paper', dark: random.chance(0.3) };
  const hour = second / 3600;
  const byHour =
    hour < 10.5
      ? ['morning', 'clear', 'mist', 'overcast']
      : hour < 16
        ? ['noon', 'clear', 'noon', 'overcast', 'storm']
        : ['golden', 'golden', 'noon', 'dusk', 'storm'];
  const names =
    outing.kind === 'evening'
      ? ['dusk', 'night', 'night']
      : outing.kind === 'landscape'
        ? ['golden', 'dusk', 'storm', 'mist', 'morning', 'clear', 'overcast']
        : byHour;
  const name = random.pick(names);
  const light = LIGHTS.find((candidate) => candidate.name === name) ?? random.pick(LIGHTS);
  const grounds: readonly Ground[] =
    outing.grounds ??
    (outing.place === 'Hask Hill' ? ['hills', 'meadow'] : ['beach', 'beach', 'dunes', 'meadow', 'harbour', 'hills']);
  return { kind: 'outdoors', ground: random.pick(grounds), light, horizon: random.between(0.55, 0.74) };
}

function kitesOf(outing: Outing, random: Random): KiteKind[] {
  if (outing.kind === 'landscape') return random.chance(0.3) ? [random.pick(KITE_KINDS)] : [];
  if (outing.kind === 'collection')
    return [
      random.pick(outing.folder.includes('Cellular') ? (['box', 'cellular', 'box', 'star'] as const) : KITE_KINDS),
    ];
  if (outing.kind === 'workshop')
    return outing.folder.includes('Rokkaku')
      ? ['rokkaku', ...(random.chance(0.4) ? (['rokkaku'] as const) : [])]
      : random.some(KITE_KINDS, random.int(1, 2));
  if (outing.kind === 'gallery') return random.some(KITE_KINDS, random.int(2, 5));
  if (outing.kind === 'scan')
    return random.some(
      ['diamond', 'box', 'delta', 'cellular', 'star', 'bird', 'edo', 'roller'] as const,
      random.int(0, 2),
    );
  return Array.from({ length: random.pick([1, 1, 2, 2, 3, 4, 6, 8]) }, () => random.pick(KITE_KINDS));
}

function peopleOf(outing: Outing, random: Random): string[] {
  const probability = {
    festival: 0.62,
    flying: 0.5,
    workshop: 0.9,
    gallery: 0.45,
    collection: 0,
    landscape: 0.04,
    scan: 0.6,
    evening: 0.35,
  }[outing.kind];
  if (!random.chance(probability)) return [];
  return random.some(
    outing.kind === 'scan' ? ['p06', 'p07', 'p10', 'p14', 'p16', 'p17', 'p18', 'p20'] : EVERYBODY,
    random.pick([1, 1, 1, 2, 2, 3, 4, 5]),
  );
}

function formatOf(outing: Outing, random: Random): PlannedPhoto['format'] {
  if (outing.kind === 'scan') return random.chance(0.16) ? 'tiff' : 'jpeg';
  if (outing.kind === 'collection') return random.chance(0.16) ? 'tiff' : random.chance(0.12) ? 'png' : 'jpeg';
  return 'jpeg';
}

/** Pictures of people who are seen as a whole have more pixels: their faces are to be recognised. */
function sizeOf(
  outing: Outing,
  format: PlannedPhoto['format'],
  ofSmallPeople: boolean,
  random: Random,
): [number, number] {
  if (format !== 'jpeg') return [1600, random.pick([1200, 1067])];
  const usual = ofSmallPeople ? 1920 : 1440;
  const long = random.chance(0.006)
    ? 6000
    : random.pick([usual, usual, usual, usual, usual, usual, usual, 1600, 1920, 2400]);
  const ratio =
    outing.kind === 'scan'
      ? random.pick([1.4, 1.33, 0.72])
      : outing.kind === 'collection'
        ? random.pick([1, 0.75, 1.33])
        : random.pick([1.5, 1.5, 1.5, 1.33, 0.667, 1.78]);
  return ratio >= 1 ? [long, Math.round(long / ratio)] : [Math.round(long * ratio), long];
}

function termsOf(outing: Outing, setting: Setting, kites: readonly KiteKind[], people: readonly string[]): string[] {
  const terms = new Set(kites.map((kind) => TERM_OF_KIND[kind]));
  if (outing.event) terms.add(outing.event);
  if (setting.kind === 'outdoors') {
    terms.add(GROUND_TERM[setting.ground]);
    terms.add(LIGHT_TERM[setting.light.name] ?? 'Clear sky');
    if (kites.length) terms.add('In flight');
  }
  if (setting.kind === 'room') terms.add(setting.gallery ? 'Gallery' : 'Workshop');
  if (outing.kind === 'workshop') terms.add('Sewing').add('Framing');
  if (outing.kind === 'collection') terms.add('Photo studio').add('With scale');
  if (outing.kind === 'scan') terms.add('Scanned print');
  if (outing.kind === 'landscape') terms.add('Landscape');
  if (people.length > 2) terms.add('Group portrait');
  else if (people.length === 1) terms.add('Portrait');
  return [...terms];
}

function keywordsOf(terms: readonly string[], people: readonly string[], random: Random): string[] {
  const keywords = terms.filter(() => random.chance(0.6)).map((term) => random.pick(SPELLINGS[term] ?? [term]));
  if (random.chance(0.35)) keywords.push(...people.map((id) => PEOPLE[id] ?? id));
  if (random.chance(0.2))
    keywords.push(random.pick(['Country|Norland', 'kites', 'Kite', 'DSC', 'good one', 'für Web', 'château de sable']));
  return [...new Set(keywords)];
}

/** Somewhere near a place; where none is said, near the museum. */
function around(place: string, random: Random): { latitude: number; longitude: number } {
  const { latitude, longitude } = COAST[place as keyof typeof COAST] ?? COAST.Saltmarsh;
  return { latitude: latitude + random.between(-0.006, 0.006), longitude: longitude + random.between(-0.009, 0.009) };
}

function titleOf(outing: Outing, kites: readonly KiteKind[], number: number): string {
  const [first] = kites;
  if (outing.kind === 'collection' && first)
    return `${TERM_OF_KIND[first]}, inv. ${outing.prefix}${String(number).padStart(4, '0')}`;
  return outing.event ?? '';
}

function captionOf(
  outing: Outing,
  setting: Setting,
  kites: readonly KiteKind[],
  people: readonly string[],
  random: Random,
): string {
  const what = kites.length
    ? `${kites.length > 2 ? 'Many kites, among them a' : 'A'} ${TERM_OF_KIND[kites[0] ?? 'delta'].toLowerCase()}${kites.length === 2 ? ` and a ${TERM_OF_KIND[kites[1] ?? 'delta'].toLowerCase()}` : ''}`
    : 'A view';
  const where =
    setting.kind === 'outdoors'
      ? {
          beach: 'over the beach',
          meadow: 'above the meadow',
          hills: 'above the hill',
          dunes: 'behind the dunes',
          harbour: 'at the harbour',
        }[setting.ground]
      : setting.kind === 'room'
        ? setting.gallery
          ? 'in the gallery'
          : 'in the workshop'
        : 'in the photo studio';
  const who = people.length
    ? ` With ${people
        .slice(0, 3)
        .map((id) => PEOPLE[id])
        .join(', ')}.`
    : '';
  const when = outing.kind === 'scan' ? ` Print of about ${outing.day.slice(0, 4)}.` : '';
  return `${what} ${where}${random.chance(0.4) && outing.place ? `, ${outing.place}` : ''}.${who}${when}`;
}

function timeOf(outing: Outing, second: number, random: Random): string {
  if (outing.kind === 'scan') return `${Number(outing.day.slice(0, 4)) + random.int(-3, 5)}`;
  const time = new Date(`${outing.day}T00:00:00Z`);
  time.setUTCSeconds(Math.min(second + (outing.kind === 'evening' ? 10 * 3600 : 0), 86_000));
  return time.toISOString().slice(0, 19);
}
