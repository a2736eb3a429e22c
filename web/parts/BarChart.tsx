// Bars that lie one below the other, drawn by Chart.js in the colours of the theme. A click on a bar opens what it counts; for
// the keyboard and assistive technology the same stands below as links.

import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  LinearScale,
  Tooltip,
  type ChartOptions,
  type Scale,
} from 'chart.js';
import { Bar } from 'react-chartjs-2';
import { Link, useNavigate } from 'react-router';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

export interface BarOf {
  label: string;
  value: number;
  /** The value in words. */
  said: string;
  /** Where the bar leads. */
  link: string;
}

const ROW_HEIGHT = 22;
/** Longer labels are cut; the whole is said where one points. */
const MAX_LETTERS = 26;
const MAX_LABEL_PIXELS = 170;

export function BarChart({ label, bars }: { label: string; bars: readonly BarOf[] }) {
  const navigate = useNavigate();
  const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`);
  const axis = (position: 'left' | 'right', labels?: string[]) => ({
    type: 'category' as const,
    position,
    ...(labels ? { labels } : {}),
    grid: { display: false },
    border: { display: false },
    // The package gives each of two axes a quarter of the room, whatever stands on it.
    afterFit: (scale: Scale) => {
      const widths = scale.ticks.map(({ label }) => scale.ctx.measureText(String(label)).width);
      if (position === 'left') scale.width = Math.min(MAX_LABEL_PIXELS, Math.max(0, ...widths) + 12);
    },
    ticks: {
      color: colour('ink-2'),
      autoSkip: false,
      font: { family: getComputedStyle(document.body).fontFamily, size: 12 },
    },
  });
  const options: ChartOptions<'bar'> = {
    indexAxis: 'y',
    maintainAspectRatio: false,
    animation: false,
    onClick: (_, [hit]) => {
      const bar = hit && bars[hit.index];
      if (bar) void navigate(bar.link);
    },
    onHover: ({ native }, [hit]) => {
      if (native?.target instanceof HTMLElement) native.target.style.cursor = hit ? 'pointer' : 'default';
    },
    interaction: { mode: 'nearest', axis: 'y', intersect: false },
    plugins: {
      tooltip: {
        callbacks: {
          title: ([item]) => (item && bars[item.dataIndex]?.label) ?? '',
          label: ({ dataIndex }) => bars[dataIndex]?.said ?? '',
        },
      },
    },
    scales: {
      x: { display: false, beginAtZero: true },
      y: axis('left'),
      counts: axis(
        'right',
        bars.map(({ said }) => said),
      ),
    },
  };
  return (
    <figure aria-label={label} className="relative m-0 mt-1">
      <div aria-hidden="true" style={{ height: bars.length * ROW_HEIGHT + 8 }}>
        <Bar
          options={options}
          data={{
            labels: bars.map(({ label: each }) =>
              each.length > MAX_LETTERS ? `${each.slice(0, MAX_LETTERS - 1)}…` : each,
            ),
            datasets: [
              {
                data: bars.map(({ value }) => value),
                backgroundColor: colour('spruce'),
                borderRadius: 2,
                maxBarThickness: 12,
                minBarLength: 2,
              },
            ],
          }}
        />
      </div>
      <ul className="sr-only">
        {bars.map((bar) => (
          <li key={bar.link}>
            <Link to={bar.link}>
              {bar.label}: {bar.said}
            </Link>
          </li>
        ))}
      </ul>
    </figure>
  );
}
