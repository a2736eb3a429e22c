// Figures as charts of bars, and the decades of capture against the years of taking in.

import { Bar } from 'react-chartjs-2';
import { Link, useNavigate } from 'react-router';
import type { FigureCount, Figures, WorkDone } from '@stellin/contract/holdings';
import { countText, numberText } from '@stellin/contract/wording';
import { BarChart } from '../parts/BarChart';
import { deskLink } from '../parts/deskLink';
import { Card, FigureTable } from './Card';
import { columnOptions, columnsOf } from './columns';

/** Bars one below the other. */
export function BarsCard({ title, said, figures }: { title: string; said?: string; figures: readonly FigureCount[] }) {
  return (
    <Card
      title={title}
      {...(said ? { said } : {})}
      chart={
        <BarChart
          label={title}
          bars={figures.map(({ label, query, photos }) => ({
            ...{ label, value: photos, said: numberText(photos), link: deskLink(query) },
          }))}
        />
      }
      table={<FigureTable head={[title, 'Photos']} rows={figures} />}
    />
  );
}

/** What was taken in, month by month. */
export function GrowthCard({ months }: { months: readonly FigureCount[] }) {
  const navigate = useNavigate();
  const first = months.findIndex(({ photos }) => photos > 0);
  const shown = first < 0 ? months.slice(-1) : months.slice(first);
  return (
    <Card
      title="Taken in"
      said="by month"
      chart={
        <div aria-hidden="true" className="h-40">
          <Bar
            options={columnOptions(
              (i) => shown[i] && void navigate(deskLink(shown[i].query)),
              (i) => (shown[i] ? countText(shown[i].photos, 'photo') : ''),
            )}
            data={{
              labels: shown.map(({ label }) => label),
              datasets: [
                columnsOf(
                  'photos',
                  shown.map(({ photos }) => photos),
                  'slate',
                ),
              ],
            }}
          />
        </div>
      }
      table={<FigureTable head={['Month', 'Photos']} rows={shown} />}
    />
  );
}

/** Decades of capture against years of taking in: the fuller a cell, the darker. */
export function AgesCard({ ages }: { ages: Figures['ages'] }) {
  const isFull = ages.years.map((_, i) => ages.decades.some(({ cells }) => (cells[i]?.photos ?? 0) > 0));
  const years = ages.years.filter((_, i) => isFull[i]);
  const decades = ages.decades.map(({ label, cells }) => ({ label, cells: cells.filter((_, i) => isFull[i]) }));
  const most = Math.max(1, ...decades.flatMap(({ cells }) => cells.map(({ photos }) => photos)));
  const table = (
    <table className="mt-1 w-full text-[12px]">
      <thead>
        <tr>
          <th className="py-0.5 text-left font-normal text-ink-2">Taken · taken in</th>
          {years.map((year) => (
            <th key={year} className="figures px-1 text-right font-normal text-ink-2">
              {year}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {decades.map(({ label, cells }) => (
          <tr key={label} className="border-t border-line">
            <th className="figures py-0.5 text-left font-normal">{label}</th>
            {cells.map(({ query, photos, label: said }) => (
              <td key={query} className="figures relative px-1 text-right">
                {photos > 0 && (
                  <>
                    <span
                      aria-hidden="true"
                      className="absolute inset-0 bg-spruce-pale"
                      style={{ opacity: 0.25 + 0.75 * Math.sqrt(photos / most) }}
                    />
                    <Link
                      to={deskLink(query)}
                      title={`${said}: ${countText(photos, 'photo')}`}
                      className="relative hover:underline"
                    >
                      {numberText(photos)}
                    </Link>
                  </>
                )}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
  return (
    <section aria-label="By decade and year of taking in" className="rounded border border-line bg-card px-3 py-2">
      <h3 className="font-semibold">How old they were when taken in</h3>
      {table}
    </section>
  );
}

/** Those with most are told apart by colour; the others together. */
const PEOPLE = ['spruce', 'slate', 'amber', 'red'] as const;

/** What was described week by week, and by whom. */
export function WorkCard({ weeks }: { weeks: readonly WorkDone[] }) {
  const total = (by: string) => weeks.filter((each) => each.by === by).reduce((sum, { photos }) => sum + photos, 0);
  const people = [...new Set(weeks.map(({ by }) => by))].sort((a, b) => total(b) - total(a));
  const labels = [...new Set(weeks.map(({ week }) => week))].sort();
  const of = (week: string, wanted: (by: string) => boolean) =>
    weeks.filter((each) => each.week === week && wanted(each.by)).reduce((sum, { photos }) => sum + photos, 0);
  const named = people.slice(0, PEOPLE.length - 1);
  const series = [
    ...named.map((name, i) => ({ name, colour: PEOPLE[i] ?? 'ink-3', isOf: (by: string) => by === name })),
    ...(people.length > named.length
      ? [{ name: 'others', colour: PEOPLE.at(-1) ?? 'ink-3', isOf: (by: string) => !named.includes(by) }]
      : []),
  ];
  return (
    <Card
      title="Described"
      said={`week by week, ${series.map(({ name }) => name).join(', ')}`}
      chart={
        <div aria-hidden="true" className="h-40">
          <Bar
            options={columnOptions(
              () => undefined,
              (i) => series.map(({ name, isOf }) => `${name} ${numberText(of(labels[i] ?? '', isOf))}`).join(', '),
            )}
            data={{
              labels,
              datasets: series.map(({ name, colour, isOf }) =>
                columnsOf(
                  name,
                  labels.map((week) => of(week, isOf)),
                  colour,
                ),
              ),
            }}
          />
        </div>
      }
      table={
        <table className="w-full text-[13px]">
          <thead>
            <tr className="text-left text-[12px] text-ink-2">
              {['Week from', 'By', 'Changes', 'Photos'].map((name, i) => (
                <th key={name} className={`py-1 font-normal ${i > 1 ? 'text-right' : ''}`}>
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {weeks.map(({ week, by, changes, photos }) => (
              <tr key={`${week} ${by}`} className="border-t border-line">
                <th className="figures py-0.5 text-left font-normal">{week}</th>
                <td>{by}</td>
                <td className="figures text-right">{numberText(changes)}</td>
                <td className="figures text-right">{numberText(photos)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      }
    />
  );
}
