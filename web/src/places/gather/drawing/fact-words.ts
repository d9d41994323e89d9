/** What follows the value of a fact about an entity: a length has the unit of the drawing, an area its square. */
const UNITS: Readonly<Record<string, (unit: string) => string>> = {
  Length: (unit) => ` ${unit}`,
  Outline: (unit) => ` ${unit}`,
  Radius: (unit) => ` ${unit}`,
  Height: (unit) => ` ${unit}`,
  Area: (unit) => ` ${unit && `${unit}²`}`,
  Angle: () => '°',
};

/** A fact about an entity, to a thousandth, with its unit; `unit`: of the drawing, empty where it is not known. */
export function factInWords(name: string, value: string | number, unit: string): string {
  if (typeof value === 'string') return value;
  return `${Math.round(value * 1000) / 1000}${UNITS[name]?.(unit) ?? ''}`.trim();
}
