// Site plans of the museum with their pins, and photos at some of them.

import type { ChangeInput } from '@stellin/contract/ledger';
import { MEADOW_TIES, outlineOf, paintFloor, paintMeadow, ROOMS } from '../archive/sitePlans';
import { ARCHIVIST, accountId, apply, type Preparing } from './applying';

type Services = Preparing['services'];
type Pin = Extract<ChangeInput, { kind: 'savePins' }>['pins'][number]['pin'];

const FLOOR_PINS: readonly Pin[] = [
  ...ROOMS.map((room, i): Pin => ({
    ...{
      kind: 'area',
      number: i + 1,
      x: (room[1] + room[3]) / 2,
      y: (room[2] + room[4]) / 2,
      corners: outlineOf(room),
    },
    ...{ label: room[0], layer: 'Rooms', colour: 'teal', shape: 'disc' },
  })),
  ...(
    [
      ['North wall', 0.3, 0.2, 0],
      ['From the gallery', 0.15, 0.55, 60],
      ['Bench', 0.6, 0.3, 90],
      ['Glass cases', 0.7, 0.7, 180],
    ] as const
  ).map(([label, x, y, direction], i): Pin => ({
    ...{ kind: 'view', number: ROOMS.length + i + 1, x, y, direction, label },
    ...{ layer: 'Views', colour: 'red', shape: 'square' },
  })),
];

const MEADOW_PINS: readonly Pin[] = [
  { kind: 'point', number: 1, x: 0.31, y: 0.32, label: 'Pond', colour: 'blue', shape: 'disc' },
  { kind: 'point', number: 2, x: 0.8, y: 0.2, label: 'Tent', colour: 'amber', shape: 'hexagon' },
  { kind: 'view', number: 3, x: 0.5, y: 0.8, direction: 340, label: 'From the dike', colour: 'red', shape: 'square' },
];

export async function setUpPlans({ services }: Preparing): Promise<void> {
  const floor = await plan(services, 'Ground floor', await paintFloor(), FLOOR_PINS);
  if (floor !== null) await fill(services, floor, 'path:*/Rooms* or path:*Exhibition* or path:*Workshops*');
  const meadow = await plan(services, 'Kite meadow', await paintMeadow(), MEADOW_PINS);
  if (meadow === null) return;
  await apply(services, ARCHIVIST, { kind: 'changePlan', planId: meadow, ties: [...MEADOW_TIES] });
  await fill(services, meadow, 'path:*Festival* taken:<2015');
}

/** Makes a plan with its pins; null where it is there already. */
async function plan(services: Services, name: string, picture: Buffer, pins: readonly Pin[]): Promise<number | null> {
  const maker = await services.rights.personOf(await accountId(services, ARCHIVIST));
  if ((await services.plans.list(maker)).some((each) => each.name === name)) return null;
  const { pictureId } = await services.plans.addFile(`${name}.png`, picture, maker.accountId);
  await apply(services, ARCHIVIST, { kind: 'makePlan', name, pictureId });
  const planId = (await services.plans.list(maker)).find((each) => each.name === name)?.id ?? 0;
  await apply(services, ARCHIVIST, {
    ...{ kind: 'savePins', planId },
    pins: pins.map((pin) => ({ pinId: null, pin })),
  });
  return planId;
}

/** So many photos come to each pin at most. */
const EACH = 9;

/** Puts what a search finds at the pins of a plan, some at each; of most searches something is left over. */
async function fill(services: Services, planId: number, query: string): Promise<void> {
  const maker = await services.rights.personOf(await accountId(services, ARCHIVIST));
  const { pinned } = await services.plans.show(maker, planId);
  const found = await services.search.all.page(query, 'taken', 0, pinned.length * EACH);
  const each = Math.max(1, Math.floor(found.length / (pinned.length + 1)));
  for (const [i, { id: pinId }] of pinned.entries()) {
    const plus = found.slice(i * each, (i + 1) * each);
    if (plus.length > 0)
      await apply(services, ARCHIVIST, { kind: 'pinPhotos', pinId, selection: { query: null, minus: [], plus } });
  }
}
