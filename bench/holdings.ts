// `bench holdings`: all figures of Holdings at once, and all work lists, over HTTP on a made catalogue, for the whole of it and for parts.

import { countText } from '@stellin/contract/wording';
import type { Config } from '@stellin/server/config';
import { listen } from '@stellin/server/server';
import type { Services } from '@stellin/server/services';
import { signedIn } from './asking';
import { timed } from './bare';
import { withCatalogue } from './catalogue';
import { atMost, quantiles, report, type Report } from './report';

const SCOPES = ['', 'rating:>=3', 'has:caption', 'taken:201X', 'missing:people', 'kind:jpeg'];
const ROUNDS = 8;
/** All figures of a million photos, in milliseconds. */
const AIM_MS = 300;

export function benchHoldings(photos: number): Promise<Report> {
  return withCatalogue(photos, (services, config) => measure(services, config, photos));
}

async function measure(services: Services, config: Config, photos: number): Promise<Report> {
  const server = await listen({ ...services, close: () => Promise.resolve() }, config);
  try {
    const ask = await signedIn(server.url);
    const figures = (scope: string) => ask(`/api/holdings/figures?query=${encodeURIComponent(scope)}`);
    const first = await timed(() => figures(''));
    const times: number[] = [];
    for (let i = 0; i < ROUNDS; i++)
      for (const scope of SCOPES)
        times.push(await timed(() => figures(i === 0 ? scope : `${scope} rating:>=${i % 5}`)));
    const lists: number[] = [];
    for (let i = 0; i < ROUNDS; i++)
      for (const scope of SCOPES)
        lists.push(await timed(() => ask(`/api/work-lists?query=${encodeURIComponent(scope)}`)));
    const rows = [
      ...quantiles('all figures of a part', times, 'ms'),
      ...quantiles('work lists of a part', lists, 'ms'),
    ];
    return report(
      `holdings (${countText(photos, 'photo')})`,
      [{ id: 'the first time after the start', value: first, unit: 'ms' }, ...rows],
      [atMost('all figures, ms (p95)', rows[1]?.value ?? NaN, AIM_MS)],
    );
  } finally {
    await server.close();
  }
}
