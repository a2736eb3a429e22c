// What is measured of the picture that is looked at: its histogram, and where light is lost or edges are sharp.

import { useQuery } from '@tanstack/react-query';
import { CategoryScale, Chart, Filler, LinearScale, LineController, LineElement, PointElement } from 'chart.js';
import { useLayoutEffect, useRef, type CSSProperties } from 'react';
import { Line } from 'react-chartjs-2';
import { clippedPart, type Histogram, type Warnings } from '@stellin/core/viewer/measuring';
import { measure } from './measuring';

Chart.register(CategoryScale, Filler, LinearScale, LineController, LineElement, PointElement);

interface Props {
  address: string;
  wanted: Warnings & { histogram: boolean };
  /** Where the picture stands in its frame. */
  style: CSSProperties;
}

export function Measurements({ address, wanted, style }: Props) {
  const { histogram: showsHistogram, ...warnings } = wanted;
  const { data, error } = useQuery({
    queryKey: ['measured', address, warnings],
    queryFn: () => measure(address, warnings),
    gcTime: 0,
    staleTime: Infinity,
  });
  return (
    <>
      {data?.over && <Over picture={data.over} style={style} />}
      {error && (
        <p role="alert" className="absolute top-3 left-3 rounded bg-amber-pale px-2 py-1 text-amber">
          {error.message}
        </p>
      )}
      {showsHistogram && data?.histogram && <HistogramChart histogram={data.histogram} />}
    </>
  );
}

function Over({ picture, style }: { picture: ImageBitmap; style: CSSProperties }) {
  const element = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const canvas = element.current;
    if (!canvas) return;
    canvas.width = picture.width;
    canvas.height = picture.height;
    canvas.getContext('2d')?.drawImage(picture, 0, 0);
  }, [picture]);
  return <canvas ref={element} aria-hidden className="pointer-events-none absolute max-w-none" style={style} />;
}

const VALUES = Array.from({ length: 256 }, (_, i) => i);
const CHANNELS = { light: '#9aa3a0', red: '#d2553f', green: '#3f9a5f', blue: '#4a78c8' } as const;

function HistogramChart({ histogram }: { histogram: Histogram }) {
  // A few values that very many pixels have would press the rest flat.
  const highest = Math.max(
    ...VALUES.slice(3, 253).flatMap((i) =>
      [histogram.red[i], histogram.green[i], histogram.blue[i]].map((n) => n ?? 0),
    ),
    1,
  );
  const datasets = Object.entries(CHANNELS).map(([channel, colour]) => ({
    data: histogram[channel as keyof Histogram],
    borderColor: colour,
    borderWidth: 1,
    pointRadius: 0,
    fill: channel === 'light' ? 'origin' : false,
    backgroundColor: `${colour}66`,
  }));
  const part = (end: 'burnt' | 'blocked') => `${(clippedPart(histogram, end) * 100).toFixed(1)} %`;
  return (
    <figure
      aria-label="Histogram"
      className="pointer-events-none absolute right-3 bottom-3 m-0 w-64 rounded border border-line bg-card/90 p-2"
    >
      <div aria-hidden className="h-24">
        <Line
          data={{ labels: VALUES, datasets }}
          options={{
            animation: false,
            maintainAspectRatio: false,
            events: [],
            scales: { x: { display: false }, y: { display: false, beginAtZero: true, max: highest } },
          }}
        />
      </div>
      <figcaption className="figures flex justify-between text-[12px] text-ink-2">
        <span>{part('blocked')} black</span>
        <span>{part('burnt')} white</span>
      </figcaption>
    </figure>
  );
}
