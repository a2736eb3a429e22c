// A thread that looks at pictures: where faces are, whom they are like, how well they show it.

import sharp from 'sharp';
import { withoutDoubles, type Box } from '@stellin/core/people/boxes';
import { vectorOf } from '@stellin/core/people/likeness';
import { expressionOf, qualityOf, sharpnessOf } from '@stellin/core/people/quality';
import { tilesOf } from '@stellin/core/people/tiles';
import type { FileKind } from '@stellin/core/metadata/containers/index';
import { pixelsForLooking } from '../files/preview';
import { systemCode } from '../errors';
import { openModels, type Described, type Models, type Pixels } from './models';
import { requireNoDrawing } from '../files/drawing';

/** A face as it was found; numbers as in the table `face`. */
export interface FoundFace {
  box: Box;
  vector: Int8Array;
  quality: number;
  sharpness: number;
  smile: number;
  eyesOpen: number;
  yaw: number;
  pitch: number;
  roll: number;
  pixels: number;
  /** A small WebP of it. */
  picture: Uint8Array;
  /** What the model said of it, before it became a vector. */
  description: readonly number[];
}

export type Looked = { ok: true; faces: FoundFace[] } | { ok: false; message: string; code: string | undefined };

export interface LookRequest {
  path: string;
  kind: FileKind;
  /** How it is seen; else as its file says. */
  orientation?: number;
}

/** Pictures are scaled down to this many pixels on the longer side before detection. */
const LOOK_PIXELS = 3200;
/** Faces down to this part of the picture's height are found. */
const MIN_FACE_SHARE = 0.03;
const DETECTOR_PIXELS = 256;
const MIN_SCORE = 0.45;
const MIN_MESH_SCORE = 0.5;
/** Of the detector’s box a face takes up so much of the height at least. */
const MIN_FILLED = 0.5;
/** Faces of fewer pixels are nobody in particular. */
const MIN_PIXELS = 18;
/** The face takes up so much of what is described. */
const SURROUND = 2.1;
const DESCRIBE_PIXELS = 448;
const PICTURE_PIXELS = 160;

let opening: Promise<Models> | undefined;
const models = () => (opening ??= openModels());

/** Looks for faces in a file. */
export async function look({ path, kind, orientation }: LookRequest): Promise<Looked> {
  try {
    return { ok: true, faces: await facesIn(await pixelsForLooking(path, kind, LOOK_PIXELS, { orientation })) };
  } catch (error) {
    return { ok: false, message: error instanceof Error ? error.message : String(error), code: systemCode(error) };
  }
}

/** What the face in a box of a file is like; undefined where none can be seen. */
export async function lookInto({
  path,
  kind,
  orientation,
  box,
}: LookRequest & { box: Box }): Promise<FoundFace | undefined> {
  const picture = await pixelsForLooking(path, kind, LOOK_PIXELS, { orientation });
  return described(picture, box, 1);
}

/** The faces of a picture that somebody brings along, as bytes of any format; none in what is no picture. */
export async function lookAtBytes(bytes: Uint8Array): Promise<FoundFace[]> {
  const isPicture = await requireNoDrawing(bytes).then(
    () => true,
    () => false,
  );
  if (!isPicture) return [];
  const picture = await sharp(bytes, { limitInputPixels: 100_000_000 })
    .rotate()
    .resize(LOOK_PIXELS, LOOK_PIXELS, { fit: 'inside', withoutEnlargement: true })
    .flatten({ background: 'white' })
    .toColourspace('srgb')
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
    .catch(() => undefined);
  return picture ? facesIn({ data: picture.data, width: picture.info.width, height: picture.info.height }) : [];
}

async function facesIn(picture: Pixels): Promise<FoundFace[]> {
  const boxes = await detectIn(picture);
  const faces: (FoundFace & Box & { score: number })[] = [];
  for (const { score, ...box } of boxes) {
    const face = await described(picture, box, score);
    if (face && face.pixels >= MIN_PIXELS) faces.push({ ...face, ...face.box, score });
  }
  // Boxes that were apart may turn out to be around one face.
  const kept = new Set(withoutDoubles(faces));
  return faces.flatMap((face) => (kept.has(face) ? [plain(face)] : []));
}

function plain({
  left: _,
  top: _top,
  width: _width,
  height: _height,
  score: _score,
  ...face
}: FoundFace & Box & { score: number }): FoundFace {
  return face;
}

/** Where faces are, of all sizes, each once. */
async function detectIn(picture: Pixels): Promise<(Box & { score: number })[]> {
  const { width, height } = picture;
  const { detect } = await models();
  const found: (Box & { score: number })[] = [];
  let level: { side: number; pixels: Pixels; scale: number } | undefined;
  for (const tile of tilesOf(width, height, MIN_FACE_SHARE)) {
    if (level?.side !== tile.side) level = { side: tile.side, ...(await scaled(picture, DETECTOR_PIXELS / tile.side)) };
    const { pixels, scale } = level;
    const at = { left: Math.round(tile.left * scale), top: Math.round(tile.top * scale) };
    for (const { score, ...box } of await detect(cut(pixels, at, DETECTOR_PIXELS))) {
      if (score < MIN_SCORE || box.height / scale < MIN_PIXELS || touchesInnerEdge(box, at, pixels)) continue;
      found.push({
        left: (at.left + box.left) / scale / width,
        top: (at.top + box.top) / scale / height,
        width: box.width / scale / width,
        height: box.height / scale / height,
        score,
      });
    }
  }
  return withoutDoubles(found);
}

/** A face that a tile cuts off is seen whole in the next one. */
function touchesInnerEdge(
  box: { left: number; top: number; width: number; height: number },
  at: { left: number; top: number },
  { width, height }: Pixels,
): boolean {
  const margin = 3;
  return (
    (box.left < -margin && at.left > 0) ||
    (box.top < -margin && at.top > 0) ||
    (box.left + box.width > DETECTOR_PIXELS + margin && at.left + DETECTOR_PIXELS < width) ||
    (box.top + box.height > DETECTOR_PIXELS + margin && at.top + DETECTOR_PIXELS < height)
  );
}

async function scaled({ data, width, height }: Pixels, by: number): Promise<{ pixels: Pixels; scale: number }> {
  const [w, h] = [Math.max(1, Math.round(width * by)), Math.max(1, Math.round(height * by))];
  const resized = await raw({ data, width, height }).resize(w, h, { fit: 'fill' }).raw().toBuffer();
  return { pixels: { data: resized, width: w, height: h }, scale: by };
}

function raw({ data, width, height }: Pixels) {
  return sharp(data, { raw: { width, height, channels: 3 } });
}

const GREY = 114;

/** A square of a picture; what lies over its edge is grey. */
function cut({ data, width, height }: Pixels, { left, top }: { left: number; top: number }, side: number): Pixels {
  const square = new Uint8Array(side * side * 3).fill(GREY);
  const [from, to] = [Math.max(0, left), Math.min(width, left + side)];
  if (to > from)
    for (let y = Math.max(0, top); y < Math.min(height, top + side); y++)
      square.set(data.subarray((y * width + from) * 3, (y * width + to) * 3), ((y - top) * side + from - left) * 3);
  return { data: square, width: side, height: side };
}

/** What the face in a box is like. The detector's box is drawn anew around the mesh: from brow to chin. */
async function described(picture: Pixels, box: Box, score: number): Promise<FoundFace | undefined> {
  const { describe } = await models();
  const middle = {
    x: (box.left + box.width / 2) * picture.width,
    y: (box.top + box.height / 2) * picture.height,
  };
  const side = Math.max(box.width * picture.width, box.height * picture.height) * SURROUND;
  const square = await squareOf(picture, middle, side, DESCRIBE_PIXELS);
  const seen = await describe(square);
  if (!seen || seen.score < MIN_MESH_SCORE) return undefined;
  const scale = side / DESCRIBE_PIXELS;
  const mesh = boundsOf(seen.mesh);
  const own: Box = {
    left: (middle.x - side / 2 + mesh.left * scale) / picture.width,
    top: (middle.y - side / 2 + mesh.top * scale) / picture.height,
    width: (mesh.width * scale) / picture.width,
    height: (mesh.height * scale) / picture.height,
  };
  // Around what is no face the mesh shrinks.
  if (own.height < box.height * MIN_FILLED) return undefined;
  const inside = await greyOf(square, mesh);
  const pixels = Math.round(mesh.height * scale);
  const sharpness = sharpnessOf(inside.data, inside.width, inside.height);
  const pose = poseOf(seen);
  return {
    box: own,
    vector: vectorOf(seen.description),
    quality: qualityOf({ pixels, sharpness, light: inside.light, pose, sure: Math.sqrt(seen.score * score) }),
    sharpness,
    ...expressionOf(seen.mesh, seen.happy),
    ...pose,
    pixels,
    picture: await pictureOf(picture, own),
    description: seen.description,
  };
}

const DEGREES = 180 / Math.PI;

/** The model's angles in degrees, towards the image's right, up and clockwise; measured on portraits whose pose is known. */
function poseOf({ turned }: Described) {
  return { yaw: -1.46 * turned.yaw * DEGREES, pitch: -turned.pitch * DEGREES, roll: turned.roll * DEGREES };
}

function boundsOf(mesh: Described['mesh']) {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x = 0, y = 0] of mesh) {
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  return { left, top, width: right - left, height: bottom - top };
}

/** A square around a point, scaled to a picture of `pixels` by `pixels`. */
async function squareOf(
  picture: Pixels,
  { x, y }: { x: number; y: number },
  side: number,
  pixels: number,
): Promise<Pixels> {
  const whole = { left: Math.round(x - side / 2), top: Math.round(y - side / 2) };
  const length = Math.max(2, Math.round(side));
  const square = cut(picture, whole, length);
  const data = await raw(square).resize(pixels, pixels, { fit: 'fill' }).raw().toBuffer();
  return { data, width: pixels, height: pixels };
}

const GREY_PIXELS = 64;

async function greyOf(square: Pixels, mesh: { left: number; top: number; width: number; height: number }) {
  const left = Math.min(square.width - 2, Math.max(0, Math.round(mesh.left)));
  const top = Math.min(square.height - 2, Math.max(0, Math.round(mesh.top)));
  const width = Math.max(2, Math.min(square.width - left, Math.round(mesh.width)));
  const height = Math.max(2, Math.min(square.height - top, Math.round(mesh.height)));
  const cutOut = await raw(square).extract({ left, top, width, height }).toBuffer();
  const data = await sharp(cutOut, { raw: { width, height, channels: 3 } })
    .resize(GREY_PIXELS * 2, GREY_PIXELS * 2, { fit: 'fill' })
    .greyscale()
    .raw()
    .toBuffer();
  const light = data.reduce((sum, value) => sum + value, 0) / data.length / 255;
  return { data, width: GREY_PIXELS * 2, height: GREY_PIXELS * 2, light };
}

/** A small picture of a face with some of its surroundings. */
async function pictureOf(picture: Pixels, box: Box): Promise<Uint8Array> {
  const middle = { x: (box.left + box.width / 2) * picture.width, y: (box.top + box.height * 0.45) * picture.height };
  const side = Math.max(box.width * picture.width, box.height * picture.height) * 1.55;
  return raw(await squareOf(picture, middle, side, PICTURE_PIXELS))
    .webp({ quality: 82, effort: 2 })
    .toBuffer();
}
