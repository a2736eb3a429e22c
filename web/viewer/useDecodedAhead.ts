// Has the picture that is looked at and its neighbours decoded before one goes to them.

import { useEffect, useEffectEvent, type RefObject } from 'react';
import type { Photo } from '@stellin/contract/photos';
import { pictureUrl } from '../foundation/api';
import { decodeAhead } from './decoded';
import { canBeLarge, sizeOf } from './Stage';
import { FIT, placeOf, type Size } from './zoom';

/** The picture that one has gone to comes first. */
const BEGINS_AFTER_MS = 60;

/** @param photos those that are wanted, the first most; `frame`: where they are seen */
export function useDecodedAhead(photos: readonly (Photo | undefined)[], frame: RefObject<Size | null>): void {
  const wanted = photos.flatMap((photo) => (photo && canBeLarge(photo) ? [photo] : []));
  const key = wanted.map(({ id, previewVersion }) => `${id}-${previewVersion}`).join(' ');
  const begin = useEffectEvent(() => {
    for (const photo of wanted) {
      if (!frame.current) return;
      const { width, height } = placeOf(FIT, frame.current, sizeOf(photo));
      void decodeAhead(pictureUrl(photo.id, photo.previewVersion, 'large'), { width, height });
    }
  });
  // The key says which photos they are.
  useEffect(() => {
    const timer = setTimeout(begin, BEGINS_AFTER_MS);
    return () => clearTimeout(timer);
  }, [key]);
}
