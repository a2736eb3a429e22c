// A page of a PDF as a picture.

import { useEffect, useRef, useState } from 'react';

interface Props {
  pdf: Blob;
  label: string;
  /** From 1. */
  page?: number;
}

/** As wide as a page is drawn; it is shown smaller where there is less room. */
const DRAWN_PIXELS = 900;

export function PdfPage({ pdf, label, page = 1 }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [problem, setProblem] = useState('');
  useEffect(() => {
    const stop = new AbortController();
    const draw = async () => {
      const { drawPage } = await import('./pdfDrawing');
      if (canvas.current && !stop.signal.aborted) await drawPage(pdf, page, canvas.current, DRAWN_PIXELS, stop.signal);
    };
    draw().then(
      () => setProblem(''),
      (error: unknown) => {
        if (!stop.signal.aborted) setProblem(error instanceof Error ? error.message : String(error));
      },
    );
    return () => stop.abort();
  }, [pdf, page]);
  return (
    <>
      {problem !== '' && (
        <p role="alert" className="text-red">
          The page can’t be shown: {problem}
        </p>
      )}
      <canvas
        ref={canvas}
        role="img"
        aria-label={label}
        className="block h-auto max-h-full max-w-full border border-line bg-white shadow-sm"
      />
    </>
  );
}
