// What stands beside the vocabularies while no term is chosen: how they have grown, what is doubtful, which terms were given last.

import { BarController, BarElement, CategoryScale, Chart, LinearScale } from 'chart.js';
import { format } from 'date-fns';
import { Bar } from 'react-chartjs-2';
import { Link } from 'react-router';
import { FINDING_KINDS } from '@stellin/core/vocabulary/lint';
import type { z } from 'zod';
import type { vocabularyGrowth } from '@stellin/contract/vocabulary';
import { countText, numberText } from '@stellin/contract/wording';
import { Queried } from '../parts/Queried';
import { useVocabularies } from '../parts/terms/queries';
import { FINDING_LABELS } from './findingLabels';
import { useGrowth } from './queries';

Chart.register(BarController, BarElement, CategoryScale, LinearScale);

type Growth = z.infer<typeof vocabularyGrowth>;

export function VocabularyOverview({ onShow }: { onShow: (termId: number) => void }) {
  const growth = useGrowth();
  return (
    <Queried query={growth}>
      {({ terms, months, given }) => (
        <div className="flex flex-col gap-4">
          <section>
            <h2 className="font-title text-[19px] font-semibold">{countText(terms, 'term')}</h2>
            {months.length > 0 && <GrowthChart months={months} />}
          </section>
          <DoubtfulThings />
          {given.length > 0 && (
            <section>
              <h3 className="mb-1 text-[12px] font-semibold text-ink-2">Given last</h3>
              <ul>
                {given.map(({ id, label, path, at }) => (
                  <li key={id} className="flex items-baseline gap-2 py-0.5">
                    <button
                      type="button"
                      className="min-w-0 truncate text-left text-slate hover:underline"
                      title={[...path, label].join(' › ')}
                      onClick={() => onShow(id)}
                    >
                      {label}
                    </button>
                    <span className="min-w-0 truncate text-[12px] text-ink-2">{path.at(-1)}</span>
                    <time dateTime={at} className="figures ml-auto text-[12px] whitespace-nowrap text-ink-2">
                      {format(new Date(at), 'd MMM')}
                    </time>
                  </li>
                ))}
              </ul>
            </section>
          )}
          <p className="text-[12px] text-ink-2">
            Choose a term to see its card. Terms can be dragged onto others, and several chosen with Ctrl or Shift.
          </p>
        </div>
      )}
    </Queried>
  );
}

/** Terms made and gone, month by month; for assistive technology as a table. */
function GrowthChart({ months }: { months: Growth['months'] }) {
  const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`);
  const labels = months.map(({ month }) => format(new Date(`${month}-01T00:00`), 'MMM yyyy'));
  const bars = (label: string, data: number[], backgroundColor: string) => ({
    ...{ label, data, backgroundColor },
    maxBarThickness: 26,
    stack: 'terms',
  });
  const ticks = { color: colour('ink-2'), font: { family: getComputedStyle(document.body).fontFamily, size: 11 } };
  return (
    <figure aria-label="Terms made and gone by month" className="m-0 mt-1">
      <div aria-hidden className="h-32">
        <Bar
          options={{
            animation: false,
            maintainAspectRatio: false,
            events: [],
            scales: {
              x: { stacked: true, grid: { display: false }, ticks },
              y: { stacked: true, border: { display: false }, ticks: { ...ticks, precision: 0, maxTicksLimit: 4 } },
            },
          }}
          data={{
            labels,
            datasets: [
              bars(
                'made',
                months.map(({ made }) => made),
                colour('spruce'),
              ),
              bars(
                'gone',
                months.map(({ gone }) => -gone),
                colour('amber'),
              ),
            ],
          }}
        />
      </div>
      <table className="sr-only">
        <thead>
          <tr>
            <th>Month</th>
            <th>Made</th>
            <th>Gone</th>
          </tr>
        </thead>
        <tbody>
          {months.map(({ month, made, gone }, i) => (
            <tr key={month}>
              <th>{labels[i]}</th>
              <td>{numberText(made)}</td>
              <td>{numberText(gone)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </figure>
  );
}

/** What is doubtful, by kind, each of which leads to its list. */
function DoubtfulThings() {
  const { data } = useVocabularies();
  const found = FINDING_KINDS.flatMap((kind) => {
    const count = data?.findings[kind] ?? 0;
    return count > 0 ? [{ kind, count }] : [];
  });
  if (!data) return null;
  return (
    <section>
      <h3 className="mb-1 text-[12px] font-semibold text-ink-2">To look through</h3>
      {found.length === 0 && data.proposals === 0 && <p className="text-ink-2">Nothing is doubtful.</p>}
      <ul>
        {found.map(({ kind, count }) => (
          <li key={kind}>
            <Link to={`/vocabulary?show=${kind}`} className="text-slate hover:underline">
              <b className="figures">{numberText(count)}</b> {FINDING_LABELS[kind]}
            </Link>
          </li>
        ))}
        {data.proposals > 0 && (
          <li>
            <Link to="/vocabulary?show=proposals" className="text-slate hover:underline">
              <b className="figures">{numberText(data.proposals)}</b>{' '}
              {data.proposals === 1 ? 'proposal waiting' : 'proposals waiting'}
            </Link>
          </li>
        )}
      </ul>
    </section>
  );
}
