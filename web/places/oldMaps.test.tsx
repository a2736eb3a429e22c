/** @jest-environment ./web/testing/browser.cjs */
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import type { OldMapRow } from '@stellin/contract/oldMaps';
import { answering, show } from '../testing/render';
import { OldMaps } from './OldMaps';
import { PinPanel, withPoint, type Pinning } from './PinPanel';

const PIN = { x: 10, y: 20, latitude: 55.9, longitude: 3.3 };
const map = (id: number, name: string, pins: OldMapRow['pins']): OldMapRow => ({
  ...{ id, name, pins, note: '', width: 1000, height: 500, addedAt: '2030-01-01T00:00:00Z', addedBy: 'keeper' },
});
const CHART = map(1, 'Chart', [PIN, { ...PIN, x: 600 }]);
const PLAN = map(2, 'Plan', []);

test('a pinned map is laid over the map as strongly as wanted; one without pins is not', async () => {
  const asked = answering({ listOldMaps: { maps: [CHART, PLAN] }, removeOldMap: { done: true } });
  const told: [number, number][][] = [];
  const pinned: string[] = [];
  function Panel() {
    const [strengths, setStrengths] = useState<ReadonlyMap<number, number>>(new Map());
    return (
      <OldMaps
        strengths={strengths}
        onStrengths={(next) => {
          setStrengths(next);
          told.push([...next]);
        }}
        onPin={({ name }) => pinned.push(name)}
      />
    );
  }
  const { user } = show(<Panel />);
  await user.click(await screen.findByRole('checkbox', { name: 'Chart' }));
  expect(screen.getByText('not pinned')).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: 'Plan' }));
  screen.getByRole('slider', { name: 'How strongly Chart covers the map' }).focus();
  await user.keyboard('{ArrowRight}');
  expect(told).toEqual([[[1, 70]], [[1, 75]]]);
  await user.click(screen.getByRole('button', { name: 'What to do with Plan' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Pin …' }));
  expect(pinned).toEqual(['Plan']);
  await user.click(screen.getByRole('button', { name: 'What to do with Chart' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Remove' }));
  await waitFor(() =>
    expect(asked.filter(({ name }) => name === 'removeOldMap')).toMatchObject([{ params: { id: 1 } }]),
  );
  expect(told.at(-1)).toEqual([]);
});

test('a picture is sent as it is, under the name of its file', async () => {
  const asked = answering({ listOldMaps: { maps: [] }, addOldMap: { id: 3 } });
  const { user } = show(<OldMaps strengths={new Map()} onStrengths={() => undefined} onPin={() => undefined} />);
  const file = new File([new Uint8Array([1, 2, 3, 255])], 'Harbour 1874.png', { type: 'image/png' });
  await user.upload(screen.getByLabelText('Picture of an old map'), file);
  await waitFor(() => expect(asked.some(({ name }) => name === 'addOldMap')).toBe(true));
  expect(asked.find(({ name }) => name === 'addOldMap')?.body).toEqual({ name: 'Harbour 1874', picture: 'AQID/w==' });
});

test('a spot of the picture and a point of the map make a pin; the pins are kept', async () => {
  const asked = answering({ changeOldMap: { done: true } });
  function Panel() {
    const [pinning, setPinning] = useState<Pinning | null>({ map: PLAN, pins: [], spot: null });
    if (!pinning) return <p>Kept</p>;
    return (
      <>
        <button type="button" onClick={() => setPinning(withPoint(pinning, { latitude: 55, longitude: 3 }))}>
          The map
        </button>
        <PinPanel pinning={pinning} onPinning={setPinning} />
      </>
    );
  }
  const { user } = show(<Panel />);
  const picture = screen.getByRole('img', { name: 'Plan' });
  picture.getBoundingClientRect = () => ({ left: 0, top: 0, width: 200, height: 100 }) as DOMRect;
  const onMap = () => user.click(screen.getByRole('button', { name: 'The map' }));
  // No spot waits for a point.
  await onMap();
  expect(screen.queryByRole('listitem')).toBeNull();
  fireEvent.click(picture, { clientX: 20, clientY: 10 });
  expect(screen.getByRole('status').textContent).toBe('Now pick the same spot on the map.');
  await onMap();
  fireEvent.click(picture, { clientX: 180, clientY: 90 });
  await onMap();
  expect(screen.getAllByRole('listitem')).toHaveLength(2);
  await user.click(screen.getByRole('button', { name: 'Remove pin 1' }));
  await user.click(screen.getByRole('button', { name: 'Keep it so' }));
  expect(await screen.findByText('Kept')).toBeTruthy();
  expect(asked.find(({ name }) => name === 'changeOldMap')?.body).toMatchObject({
    name: 'Plan',
    pins: [{ x: 900, y: 450, latitude: 55, longitude: 3 }],
  });
});
