/** @jest-environment ./web/testing/browser.cjs */
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import type { OwnPlaceRow, PlaceDoubts, Whereabouts } from '@stellin/contract/places';
import type { FollowedState } from '@stellin/contract/tracks';
import { answering, changesIn, choose, Refused, show } from '../testing/render';
import { DoubtsPanel } from './DoubtsPanel';
import { MatchDialog } from './MatchDialog';
import { NamesDialog } from './NamesDialog';
import { OwnPlaceDialog } from './OwnPlaceDialog';
import { OwnPlaces } from './OwnPlaces';
import { OwnPlacesFile } from './OwnPlacesFile';
import { PlaceFinder } from '../parts/PlaceFinder';
import { Placing } from './Placing';
import { PositionsDialog } from './PositionsDialog';
import { Strip, type Meant } from '../photos/Strip';
import { TracksPanel } from './TracksPanel';
import { WorkLists } from './WorkLists';

const POINT = { latitude: 55.9598, longitude: 3.3051 };
const SELECTION = { query: null, minus: [], plus: [4, 5] };
const ENTRY = {
  id: 1,
  title: 'Done',
  at: '2030-01-01T00:00:00Z',
  by: 'keeper',
  photos: 2,
  state: 'done',
  objectId: null,
};
const applied = { entry: ENTRY, job: null };
const PIER: Whereabouts = {
  names: { sublocation: 'Old pier', city: 'Saltmarsh', provinceState: '', country: 'Norland', countryCode: 'XN' },
  ...{ ownId: 3, town: '', metres: -1 },
};
const place = (
  id: number,
  parentId: number | null,
  kind: OwnPlaceRow['kind'],
  name: string,
  path: string[] = [],
): OwnPlaceRow => ({
  ...{ id, parentId, kind, name, path, otherNames: [], countryCode: '', note: '', metres: null, corners: null },
  ...{ point: id === 3 ? POINT : null, query: `place:"${name}"` },
  ...{ geonamesId: null, termId: null, termLabel: null },
});
const PLACES = [
  place(1, null, 'country', 'Norland'),
  place(2, 1, 'town', 'Saltmarsh', ['Norland']),
  place(3, 2, 'spot', 'Old pier', ['Norland', 'Saltmarsh']),
];

const doubt = { photos: 2, photoId: 4, previewVersion: 0 };
const NAMELESS = { sublocation: '', city: '', provinceState: '', country: '', countryCode: '' };
const DOUBTS: PlaceDoubts = {
  contradictions: {
    found: 1,
    rows: [{ ...doubt, query: 'city:Saltmarsh', says: 'Saltmarsh, Norland', lies: 'Elsewhere', metres: 412_000 }],
  },
  jumps: { found: 1, rows: [{ ...doubt, query: 'camera:M3', camera: 'Corvina M3', metres: 520_000, seconds: 500 }] },
  unknownNames: {
    found: 1,
    rows: [
      { ...doubt, query: 'sublocation:"Red barn"', says: 'Red barn', names: { ...NAMELESS, sublocation: 'Red barn' } },
    ],
  },
};

describe('placing', () => {
  const placing = (
    found: Whereabouts,
    photos = 2,
    { direction = null as number | null, end = undefined as typeof POINT | null | undefined } = {},
  ) => {
    const asked = answering({ whereabouts: { places: [found] }, apply: applied });
    const told: string[] = [];
    const { user } = show(
      <Placing
        point={POINT}
        pin={{
          ...{ point: POINT, looks: direction, end, pick: () => undefined, put: () => undefined },
          turn: (degrees) => told.push(`looks ${degrees}`),
          setEnd: (other) => told.push(`end ${JSON.stringify(other)}`),
          drop: () => told.push('not here'),
        }}
        selection={photos > 0 ? SELECTION : null}
        photos={photos}
        onPlaced={() => told.push('placed')}
      />,
    );
    return { asked, told, user };
  };

  test('shows the names that are filled in, and places the chosen photos', async () => {
    const { asked, told, user } = placing(PIER);
    expect(await screen.findByText('Old pier')).toBeTruthy();
    expect(screen.getByText('55.9598° N, 3.3051° E')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Place 2 photos' }));
    await waitFor(() => expect(told).toEqual(['placed']));
    expect(changesIn(asked)).toMatchObject([
      {
        kind: 'setFields',
        selection: SELECTION,
        edits: [
          { target: 'position', mode: 'replace', value: POINT },
          { target: 'sublocation', mode: 'fill', value: 'Old pier' },
          { target: 'city', mode: 'fill', value: 'Saltmarsh' },
          { target: 'country', mode: 'fill', value: 'Norland' },
          { target: 'countryCode', mode: 'fill', value: 'XN' },
        ],
      },
    ]);
  });

  test('names may be left alone, and told as shown in the picture', async () => {
    const { asked, user } = placing(PIER);
    await user.click(await screen.findByRole('radio', { name: 'leave them' }));
    await user.click(screen.getByRole('checkbox', { name: 'Also as location shown' }));
    await user.click(screen.getByRole('button', { name: 'Place 2 photos' }));
    await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
    expect(changesIn(asked)).toMatchObject([
      { edits: [{ target: 'position' }, { target: 'locationShown', mode: 'add' }] },
    ]);
  });

  test('says how far the town of the gazetteer is, and where nothing is known', async () => {
    const town = { ...PIER, ownId: null, town: 'Saltmarsh', metres: 4130 };
    placing(town);
    expect(await screen.findByText('4.1 km from the middle of Saltmarsh')).toBeTruthy();
  });

  test('a direction of view is turned by keys and said with the position', async () => {
    const { asked, told, user } = placing(PIER, 2, { direction: 359 });
    const dial = await screen.findByRole('slider', { name: 'Direction of view' });
    dial.focus();
    await user.keyboard('{ArrowRight}{PageDown}{Home}');
    expect(told).toEqual(['looks 0', 'looks 344', 'looks 0']);
    await user.click(screen.getByRole('button', { name: 'Place 2 photos' }));
    await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
    expect(changesIn(asked)).toMatchObject([
      { edits: [{ target: 'position', value: { ...POINT, direction: 359 } }, {}, {}, {}, {}] },
    ]);
  });

  test('several photos are spread along a line, whose other end is picked first', async () => {
    const waiting = placing(PIER, 2, { end: null });
    expect(await screen.findByText('Pick the point of the last one on the map.')).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Place 2 photos' }).disabled).toBe(true);
    await waiting.user.click(screen.getByRole('checkbox', { name: 'Spread along a line by time' }));
    expect(waiting.told).toEqual(['end undefined']);
    cleanup();
    const end = { latitude: 56, longitude: 3.4 };
    const { asked, user } = placing(PIER, 2, { end });
    await user.click(await screen.findByRole('button', { name: 'Spread 2 photos' }));
    await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
    expect(changesIn(asked)).toEqual([
      {
        ...{ kind: 'spreadPhotos', selection: SELECTION, from: POINT, to: end },
        naming: { way: 'fill', shown: false },
      },
    ]);
  });

  test('does nothing while nothing is chosen', async () => {
    const names = { sublocation: '', city: '', provinceState: '', country: '', countryCode: '' };
    const { told, user } = placing({ names, ownId: null, town: '', metres: -1 }, 0);
    expect(await screen.findByText(/No place is known here/)).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Choose photos to place' }).disabled).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Not here' }));
    expect(told).toEqual(['not here']);
  });
});

test('a place is found by typing and picked by Enter; one of which nobody knows where it is can’t be', async () => {
  const row = (name: string, latitude: number | null) => ({
    ...{
      kind: 'town' as const,
      ownId: null,
      name,
      detail: 'Norland',
      latitude,
      longitude: latitude,
      population: 400,
      geonamesId: null,
    },
  });
  answering({ findPlaces: { places: [row('Lost', null), row('Saltmarsh', 5)] } });
  const picked: string[] = [];
  const { user } = show(<PlaceFinder label="Find a place" onPick={({ name }) => picked.push(name)} />);
  await user.type(screen.getByLabelText('Find a place'), 'salt');
  expect(await screen.findByRole('option', { name: /Saltmarsh/ })).toBeTruthy();
  expect(screen.queryByRole('option', { name: /Lost/ })).toBeNull();
  await user.keyboard('{Enter}');
  expect(picked).toEqual(['Saltmarsh']);
});

test('what is to be done is counted, and shown by a click', async () => {
  const COUNTS: Readonly<Record<string, number>> = { 'missing:location': 18, 'has:position missing:place': 5 };
  answering({
    countPhotos: ({ query }: { query: unknown }) => ({
      ...{ count: COUNTS[(query as { query: string }).query] ?? 34, folded: 0, milliseconds: 1, errors: [] },
    }),
  });
  const shown: string[] = [];
  const doubtsOpened: string[] = [];
  const { user } = show(
    <WorkLists
      query=""
      onShow={(query) => shown.push(query)}
      doubts={DOUBTS}
      doubting={null}
      onDoubt={(kind) => doubtsOpened.push(kind)}
    />,
  );
  await user.click(await screen.findByRole('button', { name: 'A position, but no names 5' }));
  expect(shown).toEqual(['has:position missing:place']);
  await user.click(screen.getByRole('button', { name: 'Impossible jumps 1' }));
  expect(doubtsOpened).toEqual(['jumps']);
});

describe('doubts about places', () => {
  const panel = (kind: keyof PlaceDoubts, query = '') => {
    const asked = answering({
      listOwnPlaces: { places: PLACES },
      findPlaces: {
        places: [
          { kind: 'spot', ownId: 3, name: 'Old pier', detail: 'Saltmarsh', population: 0, geonamesId: null, ...POINT },
        ],
      },
      whereabouts: { places: [PIER] },
      apply: applied,
    });
    const shown: string[] = [];
    const tasks: unknown[] = [];
    const { user } = show(
      <DoubtsPanel
        {...{ kind, query }}
        doubts={DOUBTS}
        onShow={(next) => shown.push(next)}
        onTask={(task) => tasks.push(task)}
        onClose={() => shown.push('closed')}
      />,
    );
    return { asked, shown, tasks, user };
  };

  test('each says what is doubtful, and is shown by its query', async () => {
    const { shown, user } = panel('contradictions');
    expect(screen.getByText('lies 412 km away, in Elsewhere · 2 photos')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Saltmarsh, Norland' }));
    expect(shown).toEqual(['city:Saltmarsh']);
  });

  test('jumps say how far and how fast', () => {
    panel('jumps');
    expect(screen.getByText('520 km in 8 min · 2 photos')).toBeTruthy();
  });

  test('a name that no place knows becomes another name of a place, a new place, or is left', async () => {
    const { asked, tasks, user } = panel('unknownNames', 'sublocation:"Red barn"');
    await user.type(screen.getByLabelText('“Red barn” is'), 'old');
    await user.click(await screen.findByRole('option', { name: /Old pier/ }));
    await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
    await user.click(screen.getByRole('button', { name: 'A new place …' }));
    expect(tasks).toEqual([{ kind: 'add', parent: null, name: 'Red barn', placeKind: 'spot' }]);
    await user.click(screen.getByRole('button', { name: 'Right as it is' }));
    await waitFor(() => expect(changesIn(asked)).toHaveLength(2));
    expect(changesIn(asked)).toMatchObject([
      { kind: 'saveOwnPlace', placeId: 3, otherNames: [{ name: 'Red barn', from: '', until: '' }] },
      { kind: 'leavePlaceNames', names: { sublocation: 'Red barn' } },
    ]);
  });
});

describe('own places', () => {
  test('stand as a tree; what is not known to be anywhere says so', async () => {
    const seen: string[] = [];
    const tasks: unknown[] = [];
    const { user } = show(
      <OwnPlaces
        places={PLACES}
        shownId={2}
        onShow={({ name }) => seen.push(name)}
        onTask={(task) => tasks.push(task)}
        onDraw={({ name }) => seen.push(`draw ${name}`)}
      />,
    );
    expect(screen.getByRole('button', { name: 'Saltmarsh', pressed: true })).toBeTruthy();
    expect(screen.getAllByText('nowhere yet')).toHaveLength(2);
    await user.click(screen.getByRole('button', { name: 'What lies in Saltmarsh' }));
    expect(screen.queryByRole('button', { name: 'Old pier' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'What lies in Saltmarsh' }));
    await user.click(screen.getByRole('button', { name: 'Old pier' }));
    expect(seen).toEqual(['Old pier']);
    await user.click(screen.getByRole('button', { name: 'What to do with Saltmarsh' }));
    await user.click(await screen.findByRole('menuitem', { name: 'Add a place in it …' }));
    expect(tasks).toMatchObject([{ kind: 'add', parent: { name: 'Saltmarsh' } }]);
    await user.click(screen.getByRole('button', { name: 'What to do with Saltmarsh' }));
    await user.click(await screen.findByRole('menuitem', { name: 'Draw its outline' }));
    expect(seen).toEqual(['Old pier', 'draw Saltmarsh']);
  });

  test('a viewer changes none', async () => {
    const { user } = show(
      <OwnPlaces
        places={PLACES}
        shownId={null}
        onShow={() => undefined}
        onTask={() => undefined}
        onDraw={() => undefined}
      />,
      {
        role: 'viewer',
      },
    );
    expect(screen.queryByRole('button', { name: 'New …' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'What to do with Norland' }));
    expect((await screen.findAllByRole('menuitem')).map(({ textContent }) => textContent)).toEqual([
      'Show its photos on the Desk',
    ]);
  });

  test('a new one is where the map was picked, with former names and their years', async () => {
    const asked = answering({ apply: applied });
    const { user } = show(
      <OwnPlaceDialog
        task={{ kind: 'add', parent: PLACES[1] ?? null }}
        places={PLACES}
        pin={POINT}
        onClose={() => undefined}
      />,
    );
    await user.type(screen.getByLabelText('Name'), 'Boat house');
    await user.type(screen.getByLabelText('Other and former names'), 'Long shed, 1880–1931{Enter}{Enter}The shed');
    const where = screen.getByLabelText<HTMLInputElement>('Latitude, longitude');
    expect(where.value).toBe('55.9598, 3.3051');
    await user.clear(where);
    await user.type(where, '91, 3');
    await user.click(screen.getByRole('button', { name: 'Add the place' }));
    expect(await screen.findByText(/Write a latitude and a longitude/)).toBeTruthy();
    await user.clear(where);
    await user.type(where, '55.5° N, 3.25° W');
    await user.click(screen.getByRole('button', { name: 'Add the place' }));
    await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
    expect(changesIn(asked)).toMatchObject([
      {
        ...{ kind: 'saveOwnPlace', placeId: null, parentId: 2, placeKind: 'spot', name: 'Boat house', metres: null },
        point: { latitude: 55.5, longitude: -3.25 },
        otherNames: [
          { name: 'Long shed', from: '1880', until: '1931' },
          { name: 'The shed', from: '', until: '' },
        ],
      },
    ]);
  });

  test('one is merged into another that is picked by name', async () => {
    const asked = answering({ apply: applied });
    const [, , pier] = PLACES;
    if (!pier) throw new Error('there is no pier');
    const { user } = show(
      <OwnPlaceDialog task={{ kind: 'merge', place: pier }} places={PLACES} pin={null} onClose={() => undefined} />,
    );
    await user.type(screen.getByLabelText('Into'), 'saltm{Enter}');
    await user.click(screen.getByRole('button', { name: 'Merge them' }));
    await waitFor(() =>
      expect(changesIn(asked)).toEqual([{ kind: 'mergeOwnPlaces', placeId: 3, intoId: 2, rewrite: false }]),
    );
  });
});

test('a place that is called otherwise can take its photos along; how many say the old name is told', async () => {
  const asked = answering({
    countPhotos: { count: 812, folded: 0, milliseconds: 1, errors: [] },
    apply: applied,
  });
  const [, , pier] = PLACES;
  if (!pier) throw new Error('there is no pier');
  const { user } = show(
    <OwnPlaceDialog task={{ kind: 'change', place: pier }} places={PLACES} pin={null} onClose={() => undefined} />,
  );
  expect(screen.queryByRole('checkbox')).toBeNull();
  await user.type(screen.getByLabelText('Name'), ' of 1880');
  await user.click(
    await screen.findByRole('checkbox', { name: 'Rewrite it in photos too: 812 photos say “Old pier”' }),
  );
  await user.click(screen.getByRole('button', { name: 'Keep the changes' }));
  await waitFor(() => expect(changesIn(asked)).toMatchObject([{ name: 'Old pier of 1880', rewrite: true }]));
  expect(asked.find(({ name }) => name === 'countPhotos')?.query).toMatchObject({ query: 'sublocation:"Old pier"' });
});

test('places of a file are taken in once it was told how many are new', async () => {
  const places = ['Norland', 'Saltmarsh'].map((name, i) => ({
    ...{ kind: 'town', name, otherNames: [], countryCode: '', note: '', point: null, metres: null, corners: null },
    parent: i === 0 ? null : 0,
  }));
  const asked = answering({ readOwnPlaces: { places, fresh: 1 }, apply: applied });
  const { user } = show(<OwnPlacesFile />);
  const file = new File(['@prefix skos: <x> .'], 'coast.ttl');
  // jsdom's files can't be read as text.
  file.text = () => Promise.resolve('@prefix skos: <x> .');
  await user.upload(screen.getByLabelText('File of own places'), file);
  expect(await screen.findByText(/^2 places, 1 of them new/)).toBeTruthy();
  expect(screen.getByText('in Norland', { exact: false })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Take them in' }));
  await waitFor(() => expect(changesIn(asked)).toMatchObject([{ kind: 'importOwnPlaces', places }]));
});

test('photos are chosen one by one or all', async () => {
  answering({ listPhotos: { photos: [] }, countPhotos: { count: 812, folded: 0, milliseconds: 1, errors: [] } });
  const meant: Meant[] = [];
  const { user } = show(
    <Strip
      query=""
      meant={{ kind: 'some', ids: new Set() }}
      onMeant={(next) => meant.push(next)}
      hoveredId={null}
      onHover={() => undefined}
      fill={undefined}
    />,
  );
  expect(await screen.findByText('There are no photos here.')).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: 'All of them' }));
  expect(meant).toEqual([{ kind: 'all' }]);
});

describe('tracks', () => {
  const track = {
    ...{ id: 7, name: 'walk.gpx', device: '', points: 451, addedBy: 'keeper', addedAt: '2030-01-01T00:00:00Z' },
    ...{ begins: '2009-06-13T07:00:00Z', ends: '2009-06-13T22:00:00Z' },
  };

  test('are added from files; one that can’t be read is told, and the others are kept', async () => {
    const asked = answering({
      listTracks: { tracks: [track] },
      addTrack: ({ body }: { body: unknown }) =>
        (body as { name: string }).name === 'lost.gpx'
          ? new Refused(422, 'unreadableTrack', 'The track “lost.gpx” can’t be read.')
          : { id: 8 },
    });
    const chosen: number[][] = [];
    const { user } = show(
      <TracksPanel chosen={new Set([7])} onChosen={(ids) => chosen.push([...ids])} onMatch={() => undefined} />,
    );
    await screen.findByText('walk.gpx');
    await user.upload(screen.getByLabelText('Files of tracks'), [
      new File(['oops'], 'lost.gpx'),
      new File(['<gpx/>'], 'found.gpx'),
    ]);
    await waitFor(() => expect(chosen).toEqual([[7, 8]]));
    expect(asked.filter(({ name }) => name === 'addTrack')).toHaveLength(2);
  });

  test('photos are matched once the clock is put right as is proposed', async () => {
    const row = (name: string, state: FollowedState) => ({
      ...{ photoId: name.length, name, previewVersion: 0, clock: '2009-06-13T10:41:00', before: null, state },
      after: state === 'placed' ? POINT : null,
    });
    const asked = answering({
      previewFollowing: ({ body }: { body: unknown }) => {
        const { following } = body as { following: { aheadSeconds: number } };
        const isRight = following.aheadSeconds === 3600;
        return {
          ...{ looked: 2, zone: 'Europe/London', proposedZoneMinutes: 60, proposedAheadSeconds: 3600 },
          counts: { placed: isRight ? 1 : 0, kept: 0, before: isRight ? 0 : 1, after: 0, gap: 0, timeless: 1 },
          rows: [row('a.jpg', isRight ? 'placed' : 'before'), row('bb.jpg', 'timeless')],
        };
      },
      apply: applied,
    });
    const { user } = show(<MatchDialog selection={SELECTION} trackIds={[7]} onClose={() => undefined} />);
    expect(await screen.findByRole('button', { name: '1 taken before the track begins' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: '1 without a time' }));
    await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ state: 'timeless', offset: 0 }));
    await user.click(screen.getByRole('button', { name: '1 without a time' }));
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Nothing to place' }).disabled).toBe(true);
    expect(screen.getByLabelText('Clocks stand in').textContent).toContain('UTC+1:00');
    await user.click(screen.getByRole('button', { name: 'Take that' }));
    const placed = await screen.findByRole('button', { name: 'Place 1 photo' });
    expect(within(screen.getByRole('row', { name: /a\.jpg/ })).getByText('55.9598° N, 3.3051° E')).toBeTruthy();
    await choose(user, screen.getByLabelText('Names of places'), 'leave them');
    await user.click(placed);
    await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
    expect(changesIn(asked)).toMatchObject([
      {
        kind: 'followTracks',
        following: { zoneMinutes: 60, aheadSeconds: 3600, maxGapSeconds: 600, way: 'between' },
        naming: { way: 'none' },
      },
    ]);
  });
});

test('names are shown before many photos are filled with them', async () => {
  const asked = answering({
    previewNames: { photos: 5, rows: [{ photoId: 1, name: 'a.jpg', previewVersion: 0, point: POINT, place: PIER }] },
    apply: applied,
  });
  const { user } = show(<NamesDialog selection={{ query: '', minus: [], plus: [] }} onClose={() => undefined} />);
  expect(await screen.findByRole('row', { name: /a\.jpg.*Old pier, Saltmarsh, Norland/ })).toBeTruthy();
  await user.click(screen.getByRole('radio', { name: 'replace what is there' }));
  await user.click(screen.getByRole('button', { name: 'Fill in the names of 5 photos' }));
  await waitFor(() => expect(changesIn(asked)).toMatchObject([{ kind: 'namePlaces', naming: { way: 'replace' } }]));
});

test('photos are set by their names where one place is meant; a doubt is shown', async () => {
  const row = (name: string, point: typeof POINT | null, several: number) => ({
    ...{ photoId: name.length, name, previewVersion: 0, names: PIER.names, point, several },
    place: point ? 'Old pier, Saltmarsh' : '',
  });
  const asked = answering({
    previewPositions: { photos: 2, rows: [row('a.jpg', POINT, 0), row('bb.jpg', null, 3)] },
    apply: applied,
  });
  const selection = { query: 'missing:position', minus: [], plus: [] };
  const { user } = show(<PositionsDialog selection={selection} onClose={() => undefined} />);
  expect(await screen.findByRole('row', { name: /a\.jpg.*Old pier, Saltmarsh 55\.9598° N/ })).toBeTruthy();
  expect(screen.getByRole('row', { name: /bb\.jpg.*3 places are called so/ })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Place those that are certain' }));
  await waitFor(() => expect(changesIn(asked)).toEqual([{ kind: 'placeByNames', selection }]));
});

test('a place is linked to one of the gazetteer, where it lies too, and to a term; links can be taken away', async () => {
  const town = { kind: 'town', ownId: null, name: 'Kessel', detail: 'Norland', ...POINT, population: 900 } as const;
  const asked = answering({
    findPlaces: { places: [{ ...town, geonamesId: 4711 }] },
    countPhotos: { count: 0 },
    apply: applied,
  });
  const given = { ...PLACES[2], termId: 9, termLabel: 'Piers' } as OwnPlaceRow;
  const { user } = show(
    <OwnPlaceDialog
      task={{ kind: 'change', place: { ...given, point: null } }}
      places={PLACES}
      pin={null}
      onClose={() => undefined}
    />,
  );
  await user.type(screen.getByLabelText('The same in the gazetteer'), 'Kess');
  await user.click(await screen.findByRole('option', { name: /Kessel/ }));
  expect(screen.getByText('Kessel, Norland')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Its term: none' }));
  await user.click(screen.getByRole('button', { name: 'Keep the changes' }));
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  expect(changesIn(asked)).toMatchObject([{ kind: 'saveOwnPlace', geonamesId: 4711, termId: null, point: POINT }]);
});
