// Measuring pictures in a worker thread.

import type { Warnings } from '@stellin/core/viewer/measuring';
import type { Measured, MeasureRequest } from './measured';

/** Pictures are measured at this many pixels on the longer side. */
const MEASURED_PIXELS = 1600;

let thread: Promise<Worker> | undefined;
let last = 0;

/** Measures the picture at an address. Rejects with an Error where it can’t be had. */
export async function measure(address: string, wanted: Warnings): Promise<Measured> {
  const response = await fetch(address);
  if (!response.ok) throw new Error('The picture can’t be had.');
  const picture = await reduced(await response.blob());
  const worker = await (thread ??= start());
  const id = ++last;
  return new Promise((resolve) => {
    const listen = ({ data }: MessageEvent<Measured>) => {
      if (data.id !== id) return;
      worker.removeEventListener('message', listen);
      resolve(data);
    };
    worker.addEventListener('message', listen);
    worker.postMessage({ id, picture, wanted } satisfies MeasureRequest, [picture]);
  });
}

async function reduced(blob: Blob): Promise<ImageBitmap> {
  const whole = await createImageBitmap(blob);
  const scale = MEASURED_PIXELS / Math.max(whole.width, whole.height);
  if (scale >= 1) return whole;
  const size = { resizeWidth: Math.round(whole.width * scale), resizeHeight: Math.round(whole.height * scale) };
  const smaller = await createImageBitmap(whole, { ...size, resizeQuality: 'medium' });
  whole.close();
  return smaller;
}

async function start(): Promise<Worker> {
  const { default: address } = await import('./measuring.worker?worker&url');
  return new Worker(address, { type: 'module' });
}
