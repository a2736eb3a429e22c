/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import type { Plan, PlanPin } from '@stellin/contract/plans';
import { answering, changesIn, choose, Refused, show, type Answers } from '../testing/render';
import { DONE, photoOf } from '../testing/fixtures';
import { NewPlan } from './NewPlan';
import { PhotoPins } from './PhotoPins';
import { PinPanel } from './PinPanel';
import { PlanSide } from './PlanSide';
import { ProposalsPanel } from './ProposalsPanel';
import { TiePanel } from './TiePanel';
import { usePlanWork } from './usePlanWork';

const pin = (id: number, label: string, more: Partial<PlanPin> = {}): PlanPin => ({
  ...{ id, name: label || String(id), query: `plan:"Hall/${label || id}"`, photos: id, cover: null },
  ...{ termLabel: null, placeName: null, kind: 'point', number: id, x: 0.5, y: 0.5, corners: null, direction: null },
  ...{ label, note: '', colour: 'teal', shape: 'disc', layer: '', termId: null, placeId: null },
  ...more,
});
const PINS = [pin(1, 'North wall', { layer: 'Walls' }), pin(2, ''), pin(3, 'Door', { kind: 'view', direction: 90 })];
const HALL: Plan = {
  ...{ id: 5, name: 'Hall', note: 'As it was in 1934', width: 1200, height: 800, pictureId: 2, photoId: 77, page: 1 },
  ...{ pins: 3, photos: 6, query: 'plan:Hall', ties: [], addedBy: 'Keeper' },
};
const ANSWERS: Answers = {
  listPlans: { plans: [HALL, { ...HALL, id: 6, name: 'Yard', photos: 0 }] },
  showPlan: { ...HALL, pinned: PINS },
  listPhotos: { photos: [photoOf(11), photoOf(12, { takenAt: '1934-07-01T00:00:00' })] },
  countPhotos: { count: 1, folded: 0, milliseconds: 1, errors: [] },
  listOwnPlaces: { places: [] },
  suggestTerms: { terms: [] },
  apply: DONE,
};

function Screen({ panel }: { panel?: 'proposals' | 'tie' }) {
  const work = usePlanWork();
  return (
    <>
      <PlanSide work={work} />
      {work.pin && <PinPanel key={work.pin.id} work={work} pin={work.pin} />}
      {panel === 'proposals' && work.plan.data && <ProposalsPanel work={work} plan={work.plan.data} />}
      {panel === 'tie' && work.plan.data && (
        <>
          <button type="button" onClick={() => work.setMode('tie')}>
            Begin
          </button>
          <button type="button" onClick={() => work.pick({ x: 0.25, y: work.plan.data?.ties.length ? 0.5 : 0.75 })}>
            Pick
          </button>
          <TiePanel work={work} plan={work.plan.data} />
        </>
      )}
    </>
  );
}

const at5 = (element: React.ReactNode) => (
  <Routes>
    <Route path="/places/plans/:id" element={element} />
  </Routes>
);
const AT = { at: '/places/plans/5' };

test('plans and pins are listed by layer; a layer is hidden; a pin that is chosen can be changed', async () => {
  const asked = answering(ANSWERS);
  const { user } = show(at5(<Screen />), AT);
  expect(await screen.findByText('As it was in 1934')).toBeTruthy();
  const walls = await screen.findByRole('list', { name: 'Pins on the layer Walls' });
  expect(within(walls).getAllByRole('listitem')).toHaveLength(1);
  await user.click(screen.getByRole('button', { name: 'Show the layer Walls' }));
  expect(screen.queryByRole('list', { name: 'Pins on the layer Walls' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Show the layer Walls' }));
  await user.click(screen.getByRole('button', { name: /^North wall/ }));
  const label = await screen.findByLabelText('Label');
  expect(screen.getByRole('button', { name: 'Keep it so' })).toHaveProperty('disabled', true);
  await user.clear(label);
  await user.type(label, 'East/wall');
  await user.click(screen.getByRole('button', { name: 'Keep it so' }));
  expect(await screen.findByText('A label has no “/”.')).toBeTruthy();
  await user.clear(label);
  await user.type(label, 'East wall');
  await choose(user, screen.getByRole('combobox', { name: 'Shape' }), 'Diamond');
  await user.click(screen.getByRole('button', { name: 'Keep it so' }));
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([
      {
        kind: 'savePins',
        planId: 5,
        pins: [{ pinId: 1, pin: { label: 'East wall', shape: 'diamond', layer: 'Walls' } }],
      },
    ]),
  );
});

test('photos of a pin are taken off, and two of them laid over one another', async () => {
  const asked = answering(ANSWERS);
  const { user } = show(at5(<Screen />), AT);
  await user.click(await screen.findByRole('button', { name: /^Door/ }));
  const photos = await screen.findByRole('list', { name: 'Photos at Door' });
  await user.click(within(photos).getByRole('button', { name: 'SKM_11.jpg' }));
  expect(screen.getByRole('button', { name: 'Then and now …' })).toHaveProperty('disabled', true);
  await user.click(within(photos).getByRole('button', { name: 'SKM_12.jpg' }));
  await user.click(screen.getByRole('button', { name: 'Then and now …' }));
  const dialog = await screen.findByRole('dialog', { name: 'Then and now at Door' });
  expect(within(dialog).getByRole('slider', { name: 'Share of the two pictures' })).toBeTruthy();
  expect(within(dialog).getByText(/1934-07-01/)).toBeTruthy();
  await user.keyboard('{Escape}');
  await user.click(screen.getByRole('button', { name: 'Take off' }));
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([
      { kind: 'unpinPhotos', planId: 5, pinId: 3, selection: { query: null, plus: [11, 12] } },
    ]),
  );
});

test('who may only look sees what is said of a pin, and nothing to change it with', async () => {
  answering(ANSWERS);
  const { user } = show(at5(<Screen />), { ...AT, role: 'viewer' });
  await user.click(await screen.findByRole('button', { name: /^Door/ }));
  expect(await screen.findByRole('heading', { name: /Door/ })).toBeTruthy();
  expect(screen.queryByLabelText('Label')).toBeNull();
  expect(screen.queryByRole('button', { name: 'Take off' })).toBeNull();
  expect(screen.queryByRole('button', { name: 'New …' })).toBeNull();
});

test('pins are merged, numbered anew, and taken in from the regions of the photo', async () => {
  const asked = answering({ ...ANSWERS, readPinRegions: { pins: [pin(9, 'Well')], leftOut: 2 } });
  const { user } = show(at5(<Screen />), AT);
  await user.click(await screen.findByRole('button', { name: 'What to do with the pin Door' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Merge into another …' }));
  await choose(user, await screen.findByRole('combobox', { name: 'Its photos come to' }), '2');
  await user.click(screen.getByRole('button', { name: 'Merge' }));
  await user.click(await screen.findByRole('button', { name: 'What to do with the plan Hall' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Number the pins anew …' }));
  await user.click(await screen.findByRole('radio', { name: /by their labels/ }));
  await user.click(screen.getByRole('button', { name: 'Number them' }));
  await user.click(await screen.findByRole('button', { name: 'What to do with the plan Hall' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Take in pins …' }));
  await user.click(await screen.findByRole('button', { name: 'From the image regions of its photo' }));
  expect(await screen.findByText('1 pin; 2 more have no spot on this plan')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Put them on the plan' }));
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([
      { kind: 'mergePins', pinId: 3, intoId: 2 },
      { kind: 'numberPins', planId: 5, numbering: 'label' },
      { kind: 'savePins', planId: 5, pins: [{ pinId: null, pin: { label: 'Well' } }] },
    ]),
  );
});

test('a plan is tied by spots and where they are', async () => {
  const asked = answering(ANSWERS);
  const { user } = show(at5(<Screen panel="tie" />), AT);
  await user.click(await screen.findByRole('button', { name: 'Begin' }));
  await user.click(screen.getByRole('button', { name: 'Pick' }));
  const where = await screen.findByLabelText('Latitude, longitude');
  await user.type(where, 'somewhere');
  expect(await screen.findByText(/Write a latitude/)).toBeTruthy();
  await user.clear(where);
  await user.type(where, '55.96, 3.31{Enter}');
  expect(await screen.findByText('55.9600° N, 3.3100° E')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Keep it so' }));
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([
      { kind: 'changePlan', planId: 5, ties: [{ x: 0.25, y: 0.75, latitude: 55.96, longitude: 3.31 }] },
    ]),
  );
});

test('what is proposed by positions is put at its pin', async () => {
  const photos = [{ photoId: 31, name: 'a.jpg', version: 1 }];
  const asked = answering({ ...ANSWERS, proposePins: { pins: [{ pinId: 2, photos }], without: 4, looked: 5 } });
  const { user } = show(at5(<Screen panel="proposals" />), AT);
  expect(
    await screen.findByText('5 photos of the result on the plan without a pin; 4 far from every pin.'),
  ).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Put 1 photo there' }));
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([{ kind: 'pinPhotos', pinId: 2, selection: { query: null, plus: [31] } }]),
  );
});

test('a plan is made of the photo that is chosen; what is refused keeps what was typed', async () => {
  const refused = new Refused(404, 'noPreview', 'The drive is away.');
  let pictures = 0;
  const asked = answering({
    ...ANSWERS,
    addPlanPicture: () => (pictures++ === 0 ? refused : { pictureId: 3, width: 10, height: 10 }),
  });
  const made = jest.fn();
  const { user } = show(<NewPlan chosenId={11} onClose={() => undefined} onMade={made} />);
  expect(await screen.findByText('Found: SKM_11.jpg')).toBeTruthy();
  await user.type(screen.getByLabelText('Name'), 'Yard');
  await user.click(screen.getByRole('button', { name: 'Make the plan' }));
  await waitFor(() => expect(pictures).toBe(1));
  await user.click(await screen.findByRole('button', { name: 'Make the plan' }));
  await waitFor(() => expect(made).toHaveBeenCalledWith(8));
  expect(changesIn(asked)).toMatchObject([{ kind: 'makePlan', name: 'Yard', pictureId: 3 }]);
});

test('in the drawer: the pins of a photo, and its key puts the chosen ones at the pin meant last', async () => {
  localStorage.setItem('stellin.pin', JSON.stringify({ pinId: 3, name: 'Hall/Door' }));
  const pins = [{ planId: 5, pinId: 1, plan: 'Hall', pin: 'North wall', query: 'plan:"Hall/North wall"' }];
  const asked = answering({ ...ANSWERS, pinsOfPhoto: { pins } });
  const selection = { query: null, minus: [], plus: [11, 12] };
  const { user } = show(<PhotoPins selection={selection} count={2} photoId={11} />);
  await user.click(await screen.findByRole('button', { name: 'Take the chosen photos off Hall/North wall' }));
  await user.keyboard('{Shift>}G{/Shift}');
  await choose(user, await screen.findByRole('combobox', { name: 'Put at a pin' }), '1 · North wall');
  await waitFor(() =>
    expect(changesIn(asked)).toEqual([
      { kind: 'unpinPhotos', planId: 5, pinId: 1, selection },
      { kind: 'pinPhotos', pinId: 3, selection },
      { kind: 'pinPhotos', pinId: 1, selection },
    ]),
  );
  localStorage.removeItem('stellin.pin');
});
