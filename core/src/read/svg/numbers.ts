const NUMBER = /[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/g;

/** All numbers of a list such as `1,2 3-4`; those that are not finite are 0. */
export function numbersIn(text: string): number[] {
  return (text.match(NUMBER) ?? []).map((found) => {
    const value = Number(found);
    return Number.isFinite(value) ? value : 0;
  });
}

/** User units (CSS pixels, 96 to the inch) to a unit of CSS (CSS Values 3, 5.2). */
const PX: Readonly<Record<string, number>> = {
  px: 1,
  pt: 96 / 72,
  pc: 16,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  q: 96 / 101.6,
  in: 96,
};

/** A length in user units; `whole` is what 100 % comes to, `em` the size of the text. */
export function lengthIn(text: string | undefined, whole: number, standard: number, em = 16): number {
  const match = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)\s*([a-z%]*)\s*$/i.exec(text ?? '');
  if (!match) return standard;
  const value = Number(match[1]);
  if (!Number.isFinite(value)) return standard;
  const unit = match[2]!.toLowerCase();
  if (unit === '') return value;
  if (unit === '%') return (value * whole) / 100;
  if (unit === 'em' || unit === 'rem') return value * em;
  if (unit === 'ex') return (value * em) / 2;
  return value * (PX[unit] ?? 1);
}
