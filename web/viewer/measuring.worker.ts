// Worker thread: measures the pixels of a picture, and draws what is to be laid over it.

import { histogramOf, warningsOver } from '@stellin/core/viewer/measuring';
import type { Measured, MeasureRequest } from './measured';

addEventListener('message', ({ data }: MessageEvent<MeasureRequest>) => {
  void measure(data).then((measured) => postMessage(measured, { transfer: measured.over ? [measured.over] : [] }));
});

async function measure({ id, picture, wanted }: MeasureRequest): Promise<Measured> {
  const { width, height } = picture;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!context) return { id };
  context.drawImage(picture, 0, 0);
  picture.close();
  const { data } = context.getImageData(0, 0, width, height);
  const histogram = histogramOf(data);
  if (!wanted.clipping && !wanted.edges) return { id, histogram };
  const over = await createImageBitmap(new ImageData(warningsOver(data, width, height, wanted), width, height));
  return { id, histogram, over };
}
