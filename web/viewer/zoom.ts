// Zooming and panning a picture in a frame. A zoom is shared by pictures that are compared, so it speaks of parts of the
// picture and not of where it stands on the screen.

export interface Size {
  width: number;
  height: number;
}

export interface Zoom {
  /** Screen pixels for a pixel of the picture; null: the whole picture fits. */
  scale: number | null;
  /** What stands in the middle of the frame, as parts of width and height. */
  x: number;
  y: number;
}

export const FIT: Zoom = { scale: null, x: 0.5, y: 0.5 };
export const MAX_SCALE = 8;

/** The scale at which the whole picture fits; never beyond 1:1. */
export function fitScale(frame: Size, picture: Size): number {
  return Math.min(1, frame.width / picture.width, frame.height / picture.height);
}

/** Where the picture stands in its frame, in screen pixels. */
export function placeOf(zoom: Zoom, frame: Size, picture: Size): Size & { left: number; top: number; scale: number } {
  const scale = zoom.scale ?? fitScale(frame, picture);
  const [width, height] = [picture.width * scale, picture.height * scale];
  return {
    scale,
    width,
    height,
    left: offsetOf(zoom.x, width, frame.width),
    top: offsetOf(zoom.y, height, frame.height),
  };
}

/** Zooms by a factor; what stands at the point (in the frame) stays there. Zooming out ends when the whole picture fits. */
export function zoomedAt(
  zoom: Zoom,
  factor: number,
  point: { x: number; y: number },
  frame: Size,
  picture: Size,
): Zoom {
  const before = placeOf(zoom, frame, picture);
  const scale = Math.min(MAX_SCALE, before.scale * factor);
  if (scale <= fitScale(frame, picture)) return FIT;
  const centre = (at: number, start: number, length: number, whole: number, middle: number) =>
    (at - start) / length + (middle - at) / (whole * scale);
  return settled(
    {
      scale,
      x: centre(point.x, before.left, before.width, picture.width, frame.width / 2),
      y: centre(point.y, before.top, before.height, picture.height, frame.height / 2),
    },
    frame,
    picture,
  );
}

/** Fit becomes 1:1 around a point, anything else fit. */
export function toggled(zoom: Zoom, point: { x: number; y: number }, frame: Size, picture: Size): Zoom {
  if (zoom.scale !== null) return FIT;
  const fit = fitScale(frame, picture);
  return fit >= 1 ? FIT : zoomedAt(zoom, 1 / fit, point, frame, picture);
}

/** Moves the picture by screen pixels. */
export function panned(zoom: Zoom, dx: number, dy: number, frame: Size, picture: Size): Zoom {
  if (zoom.scale === null) return zoom;
  return settled(
    {
      scale: zoom.scale,
      x: zoom.x - dx / (picture.width * zoom.scale),
      y: zoom.y - dy / (picture.height * zoom.scale),
    },
    frame,
    picture,
  );
}

/** The middle of the frame never leaves what can be seen of the picture. */
function settled({ scale, x, y }: Zoom, frame: Size, picture: Size): Zoom {
  const within = (at: number, length: number, whole: number) => {
    const half = whole / 2 / length;
    return half >= 0.5 ? 0.5 : Math.min(1 - half, Math.max(half, at));
  };
  return {
    scale,
    x: within(x, picture.width * (scale ?? 1), frame.width),
    y: within(y, picture.height * (scale ?? 1), frame.height),
  };
}

function offsetOf(centre: number, length: number, frame: number): number {
  if (length <= frame) return (frame - length) / 2;
  return Math.min(0, Math.max(frame - length, frame / 2 - centre * length));
}
