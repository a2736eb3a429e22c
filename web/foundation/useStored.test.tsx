/** @jest-environment ./web/testing/browser.cjs */
import { act, renderHook } from '@testing-library/react';
import { z } from 'zod';
import { readStored, useStored } from './useStored';

beforeEach(() => localStorage.clear());

test('what is set is there the next time', () => {
  const { result } = renderHook(() => useStored('sheet', z.number(), 132));
  expect(result.current[0]).toBe(132);
  act(() => result.current[1](210));
  expect(result.current[0]).toBe(210);
  expect(renderHook(() => useStored('sheet', z.number(), 132)).result.current[0]).toBe(210);
});

test('what is not as expected counts as not there; texts of earlier versions still do', () => {
  localStorage.setItem('stellin.drawer', '{"height": "tall"}');
  expect(readStored('drawer', z.object({ height: z.number() }), { height: 262 })).toEqual({ height: 262 });
  localStorage.setItem('stellin.theme', 'dark');
  expect(readStored('theme', z.enum(['light', 'dark']), 'light')).toBe('dark');
});

test('where the browser keeps nothing it holds until the page is left', () => {
  const full = jest.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
    throw new Error('QuotaExceededError');
  });
  const { result } = renderHook(() => useStored('headings', z.boolean(), false));
  act(() => result.current[1](true));
  expect(result.current[0]).toBe(true);
  full.mockRestore();
});
