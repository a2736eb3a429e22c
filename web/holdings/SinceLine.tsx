// What has changed since one was here before, each number a link to its photos.

import { Link } from 'react-router';
import type { FigureCount } from '@stellin/contract/holdings';
import { countText, numberText } from '@stellin/contract/wording';
import { shortDayText } from '../parts/dateTimeText';
import { deskLink } from '../parts/deskLink';
import { useSinceLast } from './queries';

export function SinceLine() {
  const { data } = useSinceLast();
  if (!data || data.day === null) return null;
  const { day, cameIn, changed, by } = data;
  return (
    <p role="note" aria-label="Since you were here" className="mt-1 text-ink-2">
      Since you were here on {shortDayText(day)}:{' '}
      {cameIn.photos + changed.photos === 0 ? (
        'nothing has changed.'
      ) : (
        <>
          <Counted figure={cameIn} /> came in, <Counted figure={changed} /> changed
          {by.length > 0 && (
            <>
              {' '}
              (
              {by.map((one, i) => (
                <span key={one.query}>
                  {i > 0 && ', '}
                  {one.label}{' '}
                  <Link to={deskLink(one.query)} className="figures text-slate hover:underline">
                    {numberText(one.photos)}
                  </Link>
                </span>
              ))}
              )
            </>
          )}
          .
        </>
      )}
    </p>
  );
}

function Counted({ figure: { query, photos } }: { figure: FigureCount }) {
  if (photos === 0) return <>none</>;
  return (
    <Link to={deskLink(query)} className="figures text-slate hover:underline">
      {countText(photos, 'photo')}
    </Link>
  );
}
