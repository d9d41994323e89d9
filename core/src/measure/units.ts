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

/** How far the unit of a drawing is to be trusted. */
export interface UnitJudgement {
  /** `stated`: the file says it; `doubtful`: it does, but is set up for the other system; `unknown`: it does not. */
  sure: 'stated' | 'doubtful' | 'unknown';
  /** The unit it was most probably drawn in, where that is not certain. */
  likely: LengthUnit | undefined;
}

const IMPERIAL: ReadonlySet<LengthUnit> = new Set(['in', 'ft']);
/** A building drawn in m is seldom longer than this, and one drawn in mm seldom shorter; in ft and in likewise (common practice). */
const [MAX_IN_METRES, MAX_IN_FEET] = [1000, 500];

/**
 * Judges a drawing's unit by what it states, by the system it is set up for (DXF's `$MEASUREMENT`; undefined where it
 * does not say), and by its longer side in its own unit.
 */
export function judgeUnit(
  stated: LengthUnit | undefined,
  metric: boolean | undefined,
  longest: number | undefined,
): UnitJudgement {
  const agrees = stated === undefined || metric === undefined || IMPERIAL.has(stated) !== metric;
  if (stated !== undefined && agrees) return { sure: 'stated', likely: undefined };
  return { sure: stated === undefined ? 'unknown' : 'doubtful', likely: likelyUnit(metric, longest) };
}

function likelyUnit(metric: boolean | undefined, longest: number | undefined): LengthUnit | undefined {
  if (longest === undefined) return undefined;
  if (metric === false) return longest > MAX_IN_FEET ? 'in' : 'ft';
  return longest > MAX_IN_METRES ? 'mm' : 'm';
}

const DXF_UNITS: Readonly<Record<number, LengthUnit>> = { 1: 'in', 2: 'ft', 4: 'mm', 5: 'cm', 6: 'm', 7: 'km' };

/** The unit meant by a DXF `$INSUNITS` value; undefined where the file leaves it open (0) or uses one not listed here. */
export function unitFromDxf(code: number): LengthUnit | undefined {
  return DXF_UNITS[code];
}
