// Paints and prepares the small demo once; each file of tests gets a copy of it to start from.

import { makeEmptyHome, removeHome, startDemo } from './demo';

export default async function setUp(): Promise<() => Promise<void>> {
  const home = await makeEmptyHome();
  const demo = await startDemo(home);
  await demo.printed('All of the demo is there now');
  const code = await demo.stop();
  if (code !== 0) throw new Error(`the demo ended with ${code}:\n${demo.output()}`);
  process.env['STELLIN_E2E_HOME'] = home;
  return () => removeHome(demo.home);
}
