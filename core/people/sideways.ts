// What the faces in a picture say of how it stands: where all lie on the same side, the picture does.

/** A face that leans so much lies. In degrees. */
const LEAST_ROLL = 60;
/** Smaller ones are too doubtful to turn a picture by. */
const LEAST_PIXELS = 40;

/**
 * Degrees clockwise by which a picture is to be turned so that its faces stand upright: 90 or 270; 0 where they do, or say different things.
 * @param faces of each how far it leans clockwise (degrees), and its height (pixels)
 */
export function sidewaysOf(faces: readonly { roll: number; pixels: number }[]): 0 | 90 | 270 {
  const large = faces.filter(({ pixels }) => pixels >= LEAST_PIXELS);
  if (large.length === 0) return 0;
  if (large.every(({ roll }) => roll <= -LEAST_ROLL)) return 90;
  return large.every(({ roll }) => roll >= LEAST_ROLL) ? 270 : 0;
}
