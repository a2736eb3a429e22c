// Pictures of old maps, laid over the map where their pins say.

import ImageLayer from 'ol/layer/Image';
import ImageCanvas from 'ol/source/ImageCanvas';
import { oldMapUrl } from '../oldMapUrl';
import { LAYERS } from './layers';
import { placementOf, type MapPin } from '@stellin/core/timeplace/pinning';

export interface LaidMap {
  id: number;
  pins: readonly MapPin[];
  /** From 0 to 1. */
  opacity: number;
}

const pictures = new Map<number, Promise<HTMLImageElement>>();

/** A layer with the picture, or none while it is not pinned. */
export function oldMapLayer({ id, pins, opacity }: LaidMap): ImageLayer<ImageCanvas> | undefined {
  const placement = placementOf(pins);
  if (!placement) return undefined;
  const { a, b, c, d, e, f } = placement;
  let picture: HTMLImageElement | undefined;
  const source: ImageCanvas = new ImageCanvas({
    ratio: 1.2,
    canvasFunction: ([left = 0, , , top = 0], resolution, pixelRatio, [width = 0, height = 0]) => {
      const canvas = document.createElement('canvas');
      canvas.width = width;
      canvas.height = height;
      const context = canvas.getContext('2d');
      const scale = pixelRatio / resolution;
      // Pixels of the picture → metres of the map → pixels of the canvas, whose top is north.
      context?.setTransform(a * scale, -d * scale, b * scale, -e * scale, (c - left) * scale, (top - f) * scale);
      if (picture) context?.drawImage(picture, 0, 0);
      return canvas;
    },
  });
  void pictureOf(id).then((loaded) => {
    picture = loaded;
    source.changed();
  });
  return new ImageLayer({ source, opacity, zIndex: LAYERS.oldMaps });
}

function pictureOf(id: number): Promise<HTMLImageElement> {
  const known = pictures.get(id);
  if (known) return known;
  const loading = new Promise<HTMLImageElement>((resolve) => {
    const image = new Image();
    image.addEventListener('load', () => resolve(image), { once: true });
    // Whoever shows it next asks for it again.
    image.addEventListener('error', () => pictures.delete(id), { once: true });
    image.src = oldMapUrl(id);
  });
  pictures.set(id, loading);
  return loading;
}
