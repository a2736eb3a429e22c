// A picture that was decoded ahead, drawn with the first frame.

import { useLayoutEffect, useRef, type CSSProperties } from 'react';
import { decodedNow, onScreen } from './decoded';

interface Props {
  address: string;
  /** What it is called. */
  label: string;
  /** Where it stands, in pixels of the screen. */
  style: CSSProperties & { width: number; height: number };
}

export function DecodedPicture({ address, label, style }: Props) {
  const element = useRef<HTMLCanvasElement>(null);
  const [width, height] = [onScreen(style.width), onScreen(style.height)];
  useLayoutEffect(() => {
    const canvas = element.current;
    const picture = decodedNow(address, style);
    const context = canvas?.getContext('2d');
    if (!canvas || !picture || !context) return;
    canvas.width = width;
    canvas.height = height;
    context.imageSmoothingQuality = 'high';
    context.drawImage(picture, 0, 0, width, height);
  }, [address, style, width, height]);
  return (
    <canvas
      ref={element}
      role="img"
      aria-label={label}
      data-picture={address}
      className="absolute max-w-none"
      style={style}
    />
  );
}
