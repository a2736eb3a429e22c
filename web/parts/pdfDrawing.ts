// Drawing pages of PDFs, in a thread of its own. Loaded only where a page is shown: it is large.

import { getDocument, GlobalWorkerOptions } from 'pdfjs-dist';
import workerAddress from 'pdfjs-dist/build/pdf.worker.min.mjs?url';

GlobalWorkerOptions.workerSrc = workerAddress;

/** Draws a page of a PDF, as wide as it is to be shown, in pixels of the page. Stops where `signal` says so. */
export async function drawPage(
  pdf: Blob,
  page: number,
  canvas: HTMLCanvasElement,
  width: number,
  signal: AbortSignal,
): Promise<void> {
  const loading = getDocument({ data: new Uint8Array(await pdf.arrayBuffer()) });
  try {
    const shown = await (await loading.promise).getPage(page);
    if (signal.aborted) return;
    const viewport = shown.getViewport({ scale: (width * devicePixelRatio) / shown.getViewport({ scale: 1 }).width });
    canvas.width = Math.round(viewport.width);
    canvas.height = Math.round(viewport.height);
    await shown.render({ canvas, viewport }).promise;
  } finally {
    await loading.destroy();
  }
}
