// Large pictures that are decoded before somebody goes to them, so that they are on the screen with the key.

import type { Size } from './zoom';

/** Some neighbours on both sides, and those just left. */
const MOST_KEPT = 7;

/** By address, those asked for last at the end; null while one is on its way. */
const kept = new Map<string, ImageBitmap | null>();

/** Fetches and decodes a picture in the size it is seen in, unless it is there. What fails is left to who shows it, who says why. */
export async function decodeAhead(address: string, { width, height }: Size): Promise<void> {
  const known = kept.get(address);
  if (known !== undefined) {
    keep(address, known);
    return;
  }
  keep(address, null);
  try {
    const response = await fetch(address);
    if (!response.ok) throw new Error(response.statusText);
    const size = { resizeWidth: onScreen(width), resizeHeight: onScreen(height) };
    keep(address, await createImageBitmap(await response.blob(), { ...size, resizeQuality: 'high' }));
  } catch {
    kept.delete(address);
  }
}

/** A picture that was decoded ahead and is as large as it is to be seen. It may be closed once others are kept: it is to be drawn at once. */
export function decodedNow(address: string, { width }: Pick<Size, 'width'>): ImageBitmap | undefined {
  const picture = kept.get(address);
  return picture && picture.width >= onScreen(width) ? picture : undefined;
}

/** Pixels of the screen for a length on it. */
export const onScreen = (length: number): number => Math.max(1, Math.round(length * window.devicePixelRatio));

function keep(address: string, picture: ImageBitmap | null): void {
  kept.delete(address);
  kept.set(address, picture);
  for (const [oldest, gone] of kept) {
    if (kept.size <= MOST_KEPT) return;
    kept.delete(oldest);
    gone?.close();
  }
}
