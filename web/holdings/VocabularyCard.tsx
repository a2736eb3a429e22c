// How the vocabulary has grown, month by month.

import { Bar } from 'react-chartjs-2';
import { Link, useNavigate } from 'react-router';
import { countText, numberText } from '@stellin/contract/wording';
import { useGrowth } from '../vocabulary/queries';
import { Card } from './Card';
import { columnOptions, columnsOf } from './columns';

const PLACE = '/vocabulary';

export function VocabularyCard() {
  const { data } = useGrowth();
  const navigate = useNavigate();
  if (!data || data.months.length === 0) return null;
  const { terms, months } = data;
  return (
    <Card
      title="Vocabulary"
      said={`${countText(terms, 'term')}; made by month`}
      chart={
        <div aria-hidden="true" className="h-40">
          <Bar
            options={columnOptions(
              () => void navigate(PLACE),
              (i) => `${countText(months[i]?.made ?? 0, 'term')} made, ${numberText(months[i]?.gone ?? 0)} gone`,
            )}
            data={{
              labels: months.map(({ month }) => month),
              datasets: [
                columnsOf(
                  'terms',
                  months.map(({ made }) => made),
                  'spruce',
                ),
              ],
            }}
          />
        </div>
      }
      table={
        <table className="w-full text-[13px]">
          <thead>
            <tr className="text-left text-[12px] text-ink-2">
              <th className="py-1 font-normal">Month</th>
              <th className="py-1 text-right font-normal">Made</th>
              <th className="py-1 text-right font-normal">Gone</th>
            </tr>
          </thead>
          <tbody>
            {months.map(({ month, made, gone }) => (
              <tr key={month} className="border-t border-line">
                <th className="py-0.5 text-left font-normal">
                  <Link to={PLACE} className="text-slate hover:underline">
                    {month}
                  </Link>
                </th>
                <td className="figures py-0.5 text-right">{numberText(made)}</td>
                <td className="figures py-0.5 text-right">{numberText(gone)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      }
    />
  );
}
