// The first faces: some pictures are looked at, and some of the names that files bring are settled.

import { ARCHIVIST, apply, type Preparing } from './applying';

/** Of the names that files bring this many are settled. */
const NAMES_SETTLED = 11;

/** Looks at the first pictures for faces, and settles names. */
export async function settlePeople({ services, progress, isStopped }: Preparing, pictures: number): Promise<void> {
  await services.scanning.some(pictures, (done) => {
    progress(done, pictures);
    if (isStopped()) throw new Error('stopped');
  });
  const names = await services.people.names();
  const decisions = names.slice(0, NAMES_SETTLED).map(({ name }) => ({ name, who: { name } }));
  if (decisions.length > 0) await apply(services, ARCHIVIST, { kind: 'settleNames', decisions });
}
