// Photos by when they were taken, with the share that is described.

import { Bar } from 'react-chartjs-2';
import { useNavigate } from 'react-router';
import type { Figures } from '@stellin/contract/holdings';
import { countText, numberText } from '@stellin/contract/wording';
import { deskLink } from '../parts/deskLink';
import { Card, FigureTable } from './Card';
import { columnOptions, columnsOf } from './columns';
import { timeLabel } from './timeLabel';

export function TimeCard({ time }: { time: Figures['time'] }) {
  const navigate = useNavigate();
  const { unit, missing } = time;
  const bars = time.bars.map((bar) => ({ ...bar, label: timeLabel(unit, bar.label) }));
  const isShared = bars.some(({ described }) => described !== null);
  const said = ({ label, photos, described }: (typeof bars)[number]) =>
    `${label}: ${countText(photos, 'photo')}${described === null ? '' : `, ${numberText(described)} described`}`;
  return (
    <Card
      title="When they were taken"
      said={[
        isShared ? 'what counts as described below, the rest in amber above it' : '',
        missing.photos > 0 ? `${numberText(missing.photos)} without a date` : '',
      ]
        .filter(Boolean)
        .join('; ')}
      chart={
        <div aria-hidden="true" className="h-44">
          <Bar
            options={columnOptions(
              (i) => bars[i] && void navigate(deskLink(bars[i].query)),
              (i) => (bars[i] ? said(bars[i]) : ''),
            )}
            data={{
              labels: bars.map(({ label }) => label),
              datasets: isShared
                ? [
                    columnsOf(
                      'described',
                      bars.map(({ described }) => described ?? 0),
                      'spruce',
                    ),
                    columnsOf(
                      'not described',
                      bars.map(({ photos, described }) => photos - (described ?? 0)),
                      'amber',
                    ),
                  ]
                : [
                    columnsOf(
                      'photos',
                      bars.map(({ photos }) => photos),
                      'spruce',
                    ),
                  ],
            }}
          />
        </div>
      }
      table={
        <FigureTable
          head={['Taken', 'Photos', ...(isShared ? ['Described'] : [])]}
          rows={[...bars, missing]}
          more={(_, i) => {
            const described = bars[i]?.described;
            return isShared ? (
              <td className="figures py-0.5 text-right">
                {described === undefined || described === null ? '' : numberText(described)}
              </td>
            ) : null;
          }}
        />
      }
    />
  );
}
