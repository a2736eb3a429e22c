// Upright columns drawn by Chart.js in the colours of the theme, on each of which one can click.

import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip, type ChartOptions } from 'chart.js';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

/** A colour of the theme as it is now. */
export function colourOf(name: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(`--${name}`);
}

/** What a column chart is like: several values stand on one another; a click tells which column was meant. */
export function columnOptions(onPick: (index: number) => void, said: (index: number) => string): ChartOptions<'bar'> {
  const ticks = { color: colourOf('ink-2'), font: { family: getComputedStyle(document.body).fontFamily, size: 11 } };
  return {
    animation: false,
    maintainAspectRatio: false,
    onClick: (_, [hit]) => hit && onPick(hit.index),
    onHover: ({ native }, [hit]) => {
      if (native?.target instanceof HTMLElement) native.target.style.cursor = hit ? 'pointer' : 'default';
    },
    interaction: { mode: 'index', intersect: false },
    plugins: {
      tooltip: { callbacks: { label: ({ dataIndex, datasetIndex }) => (datasetIndex === 0 ? said(dataIndex) : '') } },
    },
    scales: {
      x: { stacked: true, grid: { display: false }, ticks },
      y: { stacked: true, border: { display: false }, ticks: { ...ticks, precision: 0, maxTicksLimit: 5 } },
    },
  };
}

/** One of the values that stand on one another. */
export function columnsOf(label: string, data: number[], colour: string) {
  return { label, data, backgroundColor: colourOf(colour), maxBarThickness: 34, borderRadius: 1 };
}
