// What somebody may not see does not exist for them, by any road: every route is asked by people of different rights, with the
// numbers of everything there is, and no answer speaks of what is outside of what they may see. Nor does any change touch it.

import { FACETS } from '@stellin/core/search/facets';
import { api } from '@stellin/contract/index';
import { change } from '@stellin/contract/ledger';
import type { Route } from '@stellin/contract/route';
import { addressOf, samplesOf } from './testing/requests';
import { openWorld, putFiles, realJpeg, type World } from './testing/world';
import { PROGRAM } from './catalogue/viewer';

/** What is said of photos outside of somebody’s part of the catalogue, and of what is private. */
const [OUTSIDE, SECRET] = ['Zylophane', 'Quenmark'];
const PASSWORD = 'seven lanterns out';

interface Asker {
  cookie: string;
  /** Words that no answer to them may hold. */
  hidden: readonly string[];
  hiddenPhotos: readonly number[];
}

let world: World;
const askers = new Map<string, Asker>();
let uuids: string[];

const ASKERS = ['viewer', 'guest', 'helper', 'nobody'] as const;

beforeAll(async () => {
  // The demo has the routes of its drive bay besides.
  world = await openWorld({ kind: 'demo' });
  const { services } = world;
  const [vault, other] = [await world.addDrive('Vault'), await world.addDrive(OUTSIDE)];
  const kite = (description: string, grey: number) => realJpeg({ description, keywords: [description] }, grey);
  await putFiles(vault, {
    'open/kite.jpg': await kite('Open kite', 40),
    [`open/${SECRET}.jpg`]: await kite(`${SECRET} kite`, 50),
    [`closed ${OUTSIDE}/${OUTSIDE}.jpg`]: await kite(`${OUTSIDE} kite`, 60),
  });
  // The same pictures once more, outside: doubles, bundles and likeness must not tell of them.
  await putFiles(other, {
    [`${OUTSIDE} again.jpg`]: await kite(`${OUTSIDE} again`, 40),
    [`${OUTSIDE} too.jpg`]: await kite(`${OUTSIDE} too`, 60),
  });
  await world.takeIn(vault);
  await world.takeIn(other);
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Kites' }] });
  await world.apply({ kind: 'giveTerms', selection: { query: '' }, termIds: [1] });
  await world.apply({ kind: 'defineMark', markId: null, name: 'Print', letter: 'r', colour: 'green' });
  await world.apply({ kind: 'setMark', selection: { query: '' }, mark: 'Print' });
  const only = (word: string) => ({ query: `name:*${word}*` });
  await world.apply({ kind: 'setPrivate', selection: only(SECRET), private: true });
  for (const word of [OUTSIDE, SECRET]) {
    await world.apply({ kind: 'makeDossier', name: `${word} dossier`, selection: only(word) });
    await world.apply({
      kind: 'setFields',
      selection: only(word),
      edits: [{ target: 'headline', mode: 'replace', value: word }],
    });
    await world.apply({ kind: 'namePhotos', selection: only(word), who: { name: `${word} Person` } });
    await world.apply({ kind: 'saveSearch', name: `${word} search`, query: `name:*${word}*`, sort: 'taken' });
  }
  // A private person on a photo that all may see.
  await world.apply({ kind: 'namePhotos', selection: { query: 'name:kite.jpg' }, who: { name: `${SECRET} Aunt` } });
  const persons = await services.people.listPersons(PROGRAM);
  for (const { id, name, otherNames, note, born, died, detailed, termId } of persons.filter(({ name: one }) =>
    one.startsWith(SECRET),
  ))
    await world.apply({
      kind: 'savePerson',
      personId: id,
      name,
      otherNames,
      note,
      born,
      died,
      detailed,
      termId,
      private: true,
    });
  await world.apply({ kind: 'bundlePhotos', selection: { query: 'name:kite.jpg or name:"* again.jpg"' } });

  const folder = (await services.drives.listFolders(PROGRAM)).find(({ path }) => path === 'open');
  const { roles } = await services.teams.overview();
  const roleId = (preset: string) => roles.find((role) => role.preset === preset)?.id ?? 0;
  const helping = await services.teams.saveRole({
    id: null,
    name: 'Helper',
    permissions: ['describe', 'people', 'vocabulary', 'files', 'writeBack', 'intake', 'deliver', 'share', 'administer'],
  });
  const add = async (
    name: string,
    held: number | null,
    place = { kind: 'folder' as const, folderId: folder?.id ?? 0 },
  ) => {
    const { id } = await services.accounts.add({ name, displayName: name, role: null, password: PASSWORD });
    if (held !== null) await services.teams.giveRight({ kind: 'account', id }, held, place);
  };
  // Somebody who may look at one folder, one who may do everything there but see what is private, and one without any right.
  await add('guest', roleId('viewer'));
  await add('helper', helping);
  await add('nobody', null);

  const ids = await world.ids();
  const photos = (words: readonly string[]) =>
    [...ids].filter(([name]) => words.some((word) => name.includes(word))).map(([, id]) => id);
  for (const name of ASKERS) {
    const password = name === 'viewer' ? 'viewer-password' : PASSWORD;
    const { headers } = await world.app.inject({ method: 'POST', url: '/api/session', payload: { name, password } });
    const hidden = name === 'viewer' ? [SECRET] : [OUTSIDE, SECRET];
    askers.set(name, {
      cookie: String(headers['set-cookie']).split(';')[0] ?? '',
      hidden,
      hiddenPhotos: name === 'nobody' ? [...ids.values()] : photos(hidden),
    });
  }
  uuids = [
    ...(await services.drives.list(PROGRAM)).flatMap(({ id }) => id ?? []),
    ...(await services.jobs.list()).map(({ id }) => id),
  ];
});
afterAll(() => world.close());

test('filters of the ledger tell nothing of drives, dossiers and changes outside', async () => {
  const { cookie } = askers.get('guest') ?? { cookie: '' };
  const list = async (filter: string) =>
    (
      JSON.parse((await world.app.inject({ url: `/api/ledger?${filter}`, headers: { cookie } })).body) as {
        entries: { id: number }[];
      }
    ).entries;
  expect((await list('work=describe')).length).toBeGreaterThan(0);
  const other = (await world.services.drives.list(PROGRAM)).find(({ label }) => label === OUTSIDE);
  expect(await list(`driveId=${other?.id ?? ''}`)).toEqual([]);
  for (const { id, name } of await world.services.dossiers.list(PROGRAM))
    if (name.startsWith(OUTSIDE)) expect(await list(`dossierId=${id}`)).toEqual([]);
  expect(await list(`containing=${OUTSIDE}`)).toEqual([]);
});

/** End the session, or stand in its way. */
const LEFT_OUT = new Set(['signIn', 'signOut', 'changePassword', 'acceptInvitation', 'endOtherSessions', 'endSession']);
/** There are no more than so many of anything. */
const NUMBERS = Array.from({ length: 6 }, (_, i) => i + 1);

/** A request with another number, or another id of a drive or job, wherever it asks for one. */
function withIds(value: unknown, number: number, uuid: string, name = ''): unknown {
  if (Array.isArray(value)) return value.map((item) => withIds(item, number, uuid, name));
  if (typeof value === 'object' && value !== null)
    return Object.fromEntries(Object.entries(value).map(([key, part]) => [key, withIds(part, number, uuid, key)]));
  if (typeof value === 'number' && /id|^photo$|plus|minus|leads|before$/i.test(name)) return number;
  if (typeof value === 'string' && /^[0-9a-f]{8}-/.test(value)) return uuid;
  return value;
}

/** The requests of a route with every number there is; where it asks for none, one. */
function requestsOf({
  method,
  path,
  params,
  query,
  body,
}: Route): { method: Route['method']; url: string; payload?: object }[] {
  const requests = NUMBERS.map((number, i) => {
    const uuid = uuids[i % uuids.length] ?? '';
    const [some, asked, sent] = [params, query, body].map((part) => withIds(samplesOf(part, uuid)[0], number, uuid));
    return {
      method,
      url: addressOf(path, some, asked),
      ...(method === 'POST' ? { payload: (sent ?? {}) as object } : {}),
    };
  });
  return [...new Map(requests.map((request) => [JSON.stringify(request), request])).values()];
}

const ask = (request: ReturnType<typeof requestsOf>[number], asker: string) =>
  world.app.inject({ ...request, headers: { cookie: askers.get(asker)?.cookie ?? '' } });

/** Everything that the catalogue holds of some photos. */
async function stateOf(ids: readonly number[]): Promise<unknown> {
  const tables = [
    'photo p where p.id',
    'photo_text t where t.photo_id',
    'photo_term g where g.photo_id',
    'photo_person n where n.photo_id',
    'dossier_photo d where d.photo_id',
    'face f where f.photo_id',
  ];
  return Promise.all(
    tables.map((from) =>
      world.services.database.rows(
        `select to_jsonb(${from.split(' ')[1]}.*) - 'preview_state' - 'preview_version' as row from ${from} = any($1) order by 1`,
        [ids],
      ),
    ),
  );
}

describe.each(ASKERS)('%s', (asker) => {
  test.each(Object.entries<Route>(api).filter(([name]) => !LEFT_OUT.has(name) && name !== 'apply'))(
    'is not told by %s of what they may not see',
    async (_, route) => {
      const { hidden = [] } = askers.get(asker) ?? {};
      for (const request of requestsOf(route)) {
        const response = await ask(request, asker);
        expect(response.statusCode).toBeLessThan(500);
        for (const word of hidden) expect(response.body).not.toContain(word);
      }
    },
  );

  test('is not told of it who asks for it by name', async () => {
    const { cookie = '', hidden = [] } = askers.get(asker) ?? {};
    const get = async (url: string) => (await world.app.inject({ url, headers: { cookie } })).body;
    const facets = FACETS.map(({ id }) => id).join(',');
    for (const word of hidden) {
      const begun = word.slice(0, 4);
      for (const text of [
        begun,
        `dossier:${begun}`,
        `within:${begun}`,
        `person:${begun}`,
        `search:${begun}`,
        `name:${begun}`,
      ])
        expect([text, await get(`/api/suggestions?text=${text}&query=`)]).toEqual([
          text,
          expect.not.stringContaining(word),
        ]);
      expect(await get(`/api/facets?query=&facets=${facets}&containing=${begun}`)).not.toContain(word);
      const why = await world.app.inject({
        method: 'POST',
        url: '/api/why',
        headers: { cookie },
        payload: { query: '', photo: `${word}.jpg` },
      });
      expect(why.statusCode).toBeGreaterThanOrEqual(400);
    }
  });

  test('gets none of its pictures', async () => {
    const { cookie = '', hiddenPhotos = [] } = askers.get(asker) ?? {};
    for (const id of hiddenPhotos)
      for (const picture of ['preview', 'picture'])
        expect(
          (await world.app.inject({ url: `/api/photos/${id}/${picture}`, headers: { cookie } })).statusCode,
        ).toBeGreaterThan(400);
  });

  test('counts none of it', async () => {
    const { cookie = '' } = askers.get(asker) ?? {};
    const count = async (query: string) =>
      (
        await world.app.inject({ url: `/api/photos/count?query=${encodeURIComponent(query)}`, headers: { cookie } })
      ).json<{ count: number }>().count;
    if (asker === 'nobody') return;
    const [all, doubles, bundled] = [await count(''), await count('is:double'), await count('is:private')];
    // The bundle of the viewer is closed; that of who does not see its other photo is none.
    expect([all, doubles, bundled]).toEqual(asker === 'viewer' ? [3, 3, 0] : [1, 0, 0]);
    const { marks } = (await world.app.inject({ url: '/api/marks', headers: { cookie } })).json<{
      marks: { photos: number }[];
    }>();
    // The closed bundle of the viewer counts here photo by photo.
    const seen = asker === 'viewer' ? 4 : all;
    expect(marks.map(({ photos }) => photos)).toEqual([seen]);
    const { terms } = (await world.app.inject({ url: '/api/vocabulary/column', headers: { cookie } })).json<{
      terms: { photosWithin: number }[];
    }>();
    expect(terms.map(({ photosWithin }) => photosWithin)).toEqual([seen]);
    for (const query of [`person:"${SECRET} Aunt"`, `name:*${SECRET}*`, `${SECRET}`, `search:"${SECRET} search"`])
      expect([query, await count(query)]).toEqual([query, 0]);
  });

  // Last: what they may change is changed by it.
  test('changes nothing of it', async () => {
    const { hiddenPhotos = [] } = askers.get(asker) ?? {};
    const before = await stateOf(hiddenPhotos);
    for (const option of change.options)
      for (const request of requestsOf({ ...api.apply, body: api.apply.body.extend({ change: option }) }))
        await ask(request, asker);
    expect(await stateOf(hiddenPhotos)).toEqual(before);
  });
});
