// How large a copy becomes.

export const SIZINGS = {
  whole: { label: 'As large as it is', unit: '' },
  long: { label: 'Long edge', unit: 'px' },
  short: { label: 'Short edge', unit: 'px' },
  box: { label: 'Fits into', unit: 'px' },
  megapixels: { label: 'Megapixels', unit: 'MP' },
  percent: { label: 'Percent', unit: '%' },
} as const satisfies Record<string, { label: string; unit: string }>;

export type SizingKind = keyof typeof SIZINGS;
export const SIZING_IDS = Object.keys(SIZINGS) as [SizingKind, ...SizingKind[]];

export interface Sizing {
  by: SizingKind;
  /** In the unit of the kind; of a box its width. */
  value: number;
  /** Of a box its height in pixels. */
  height: number;
  /** Smaller pictures become as large, too. */
  enlarge: boolean;
}

export interface Size {
  width: number;
  height: number;
}

type Scale = (picture: Size, sizing: Sizing) => number;

const SCALES: Record<SizingKind, Scale> = {
  whole: () => 1,
  long: ({ width, height }, { value }) => value / Math.max(width, height),
  short: ({ width, height }, { value }) => value / Math.min(width, height),
  box: ({ width, height }, sizing) => Math.min(sizing.value / width, sizing.height / height),
  megapixels: ({ width, height }, { value }) => Math.sqrt((value * 1e6) / (width * height)),
  percent: (_, { value }) => value / 100,
};

/** The size of a copy in pixels, at least one each way. `picture`: as it is seen, upright. */
export function copySize(picture: Size, sizing: Sizing): Size {
  const wanted = SCALES[sizing.by](picture, sizing);
  const scale = sizing.enlarge ? wanted : Math.min(1, wanted);
  return {
    width: Math.max(1, Math.round(picture.width * scale)),
    height: Math.max(1, Math.round(picture.height * scale)),
  };
}
