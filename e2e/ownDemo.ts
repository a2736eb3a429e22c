// A demo of its own for a file of tests: started before the first, stopped after the last.

import { expect, test } from '@playwright/test';
import { makeHome, removeHome, startDemo, type RunningDemo } from './demo';

/** Gives the tests of a file a demo. It is there from the first test on, not before. `serial`: each test goes on where the last one ended. */
export function ownDemo(mode: 'serial' | 'default' = 'serial'): RunningDemo {
  let demo: RunningDemo | undefined;
  const running = (): RunningDemo => {
    if (!demo) throw new Error('the demo runs while tests do');
    return demo;
  };
  test.describe.configure({ mode });
  test.beforeAll(async () => {
    test.setTimeout(300_000);
    demo = await startDemo(await makeHome());
  });
  test.afterAll(async () => {
    expect(await running().stop()).toBe(0);
    await removeHome(running().home);
  });
  return {
    get url() {
      return running().url;
    },
    get base() {
      return running().base;
    },
    get home() {
      return running().home;
    },
    printed: (text) => running().printed(text),
    output: () => running().output(),
    stop: () => running().stop(),
  };
}
