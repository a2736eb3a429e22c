// Numbers as they are typed in a query: with the unit of their criterion, with another one, as a fraction.

/** A unit by what people write behind the number, and how many of the criterion's own unit it is. */
export type Units = Readonly<Record<string, number>>;

/** The number a text stands for in the criterion's own unit, undefined when it is none: `50mm`, `1/250 s`, `12.5`. */
export function numberOf(text: string, units: Units = {}): number | undefined {
  const match = /^(-?\d{1,15}(?:\.\d{1,10})?)(?:\/(\d{1,9}))?\s*([\p{L}°]*)$/u.exec(text.trim());
  if (!match) return undefined;
  const [, above, below, unit = ''] = match;
  const factor =
    unit === '' ? 1 : Object.entries(units).find(([name]) => name.toLowerCase() === unit.toLowerCase())?.[1];
  if (factor === undefined || below === '0') return undefined;
  return (Number(above) / Number(below ?? 1)) * factor;
}
