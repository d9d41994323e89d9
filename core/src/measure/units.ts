/** The length units a drawing may be made in. */
export type LengthUnit = 'mm' | 'cm' | 'm' | 'km' | 'in' | 'ft';

export const LENGTH_UNITS: readonly LengthUnit[] = ['mm', 'cm', 'm', 'km', 'in', 'ft'];

/** Millimetres in one unit. The inch is exactly 25.4 mm (ISO 80000-3; international yard agreement of 1959). */
export const MM_PER_UNIT: Readonly<Record<LengthUnit, number>> = {
  mm: 1,
  cm: 10,
  m: 1000,
  km: 1_000_000,
  in: 25.4,
  ft: 304.8,
};

/** PDF user-space points in a millimetre: 1 pt = 1/72 in (ISO 32000-2, 8.3.2.3). */
export const POINTS_PER_MM = 72 / 25.4;

const DXF_UNITS: Readonly<Record<number, LengthUnit>> = { 1: 'in', 2: 'ft', 4: 'mm', 5: 'cm', 6: 'm', 7: 'km' };

/** The unit meant by a DXF `$INSUNITS` value; undefined where the file leaves it open (0) or uses one not listed here. */
export function unitFromDxf(code: number): LengthUnit | undefined {
  return DXF_UNITS[code];
}
