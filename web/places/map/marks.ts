// What stands for photos on the map: a disc with their count, whose rim is filled to the share that says the name of a place; and
// at close range the picture itself.

import Icon from 'ol/style/Icon';
import { Circle, Fill, Stroke, Style, Text } from 'ol/style';
import type { MapCell } from '@stellin/contract/places';
import { numberText } from '@stellin/contract/wording';
import { previewUrl } from '../../foundation/api';
import { colour } from './colours';

/** From this zoom on a photo that lies alone is shown itself. */
const PICTURES_FROM_ZOOM = 7;
const PICTURE_PIXELS = 56;
const RIM_PIXELS = 4;
const SCREEN_SCALE = 2;

/** A disc is the wider the more photos it stands for, from one to a million. */
export function radiusOf(photos: number): number {
  return 13 + 2.2 * Math.log10(photos) * 1.6;
}

export function markOf(cell: MapCell, zoom: number): Style[] {
  if (cell.photos === 1 && cell.previewVersion > 0 && zoom >= PICTURES_FROM_ZOOM)
    return [
      new Style({
        image: new Circle({
          radius: PICTURE_PIXELS / 2 + 3,
          fill: new Fill({ color: colour('card') }),
          stroke: new Stroke({ color: cell.named ? colour('spruce') : colour('amber'), width: 2 }),
        }),
      }),
      new Style({ image: new Icon({ src: previewUrl(cell.photoId, cell.previewVersion), width: PICTURE_PIXELS - 8 }) }),
    ];
  const [picture, size] = disc(cell.photos, cell.named / cell.photos);
  return [
    new Style({
      image: new Icon({ img: picture, width: size, height: size }),
      text: new Text({
        text: shortNumber(cell.photos),
        font: '600 11px "Hanken Grotesk Variable"',
        fill: new Fill({ color: colour('ink') }),
      }),
    }),
  ];
}

/** A number in as few signs as a disc has room for. */
export function shortNumber(number: number): string {
  if (number < 10_000) return numberText(number);
  return number < 1_000_000 ? `${Math.round(number / 1000)} k` : `${(number / 1_000_000).toFixed(1)} M`;
}

/** The picture of a disc and how wide it is. */
function disc(photos: number, share: number): [picture: HTMLCanvasElement, size: number] {
  const radius = radiusOf(photos);
  const size = Math.ceil(2 * (radius + RIM_PIXELS));
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = size * SCREEN_SCALE;
  const context = canvas.getContext('2d');
  if (!context) return [canvas, size];
  context.scale(SCREEN_SCALE, SCREEN_SCALE);
  const middle = size / 2;
  const arc = (style: string, width: number, from: number, to: number) => {
    context.beginPath();
    context.arc(middle, middle, radius, from, to);
    context.strokeStyle = style;
    context.lineWidth = width;
    context.stroke();
  };
  context.beginPath();
  context.arc(middle, middle, radius, 0, 2 * Math.PI);
  context.fillStyle = colour('card');
  context.fill();
  // What lacks a name is dashed amber, so that it is told without colour as well.
  context.setLineDash([3, 2]);
  arc(colour('amber'), RIM_PIXELS - 1, 0, 2 * Math.PI);
  context.setLineDash([]);
  const top = -Math.PI / 2;
  if (share > 0) arc(colour('spruce'), RIM_PIXELS, top, top + 2 * Math.PI * share);
  return [canvas, size];
}
