import type { GroupReader } from './groups';
import type { Record } from './record';

/** How dimensions, leaders and tolerances of a style are drawn; lengths in drawing units before `scale`. */
export interface DimensionStyle {
  scale: number;
  arrow: number;
  /** Gap between the measured point and its extension line, and how far that runs past the dimension line. */
  offset: number;
  beyond: number;
  textHeight: number;
  /** Size of slanting strokes in place of arrowheads; 0 for arrowheads. */
  tick: number;
  gap: number;
  /** 0 where the text interrupts the line; else it is above the line. */
  above: number;
  /** Measured lengths are written times this. */
  factor: number;
  rounding: number;
  /** 1 scientific, 2 decimal, 3 feet and decimal inches, 4 feet and inches, 5 fractions, 6 decimal. */
  form: number;
  decimals: number;
  angleDecimals: number;
  /** Which zeros are left out (`$DIMZIN`). */
  zeros: number;
  /** Character code of the decimal separator. */
  separator: number;
  /** 1: the measured value is followed by its tolerances, `plus` above `minus`. */
  tolerances: number;
  /** 1: the largest and the smallest value are written in place of the measured one. */
  limits: number;
  plus: number;
  minus: number;
  toleranceDecimals: number;
  toleranceZeros: number;
  /** Height of tolerances over that of the text. */
  toleranceHeight: number;
  /** 1: the value times `alternateFactor` follows in brackets. */
  alternate: number;
  alternateFactor: number;
  alternateDecimals: number;
  /** Text around the measured value, which takes the place of `<>`, or else comes first. */
  around: string;
}

type Numeric = Exclude<keyof DimensionStyle, 'around'>;

/** The header variable, the code in a DIMSTYLE and the default of each value (DXF reference). */
const VARIABLES: readonly [Numeric, string, number, number][] = [
  ['scale', '$DIMSCALE', 40, 1],
  ['arrow', '$DIMASZ', 41, 0.18],
  ['offset', '$DIMEXO', 42, 0.0625],
  ['beyond', '$DIMEXE', 44, 0.18],
  ['rounding', '$DIMRND', 45, 0],
  ['plus', '$DIMTP', 47, 0],
  ['minus', '$DIMTM', 48, 0],
  ['tolerances', '$DIMTOL', 71, 0],
  ['limits', '$DIMLIM', 72, 0],
  ['above', '$DIMTAD', 77, 0],
  ['zeros', '$DIMZIN', 78, 0],
  ['textHeight', '$DIMTXT', 140, 0.18],
  ['alternateFactor', '$DIMALTF', 143, 25.4],
  ['tick', '$DIMTSZ', 142, 0],
  ['factor', '$DIMLFAC', 144, 1],
  ['toleranceHeight', '$DIMTFAC', 146, 1],
  ['gap', '$DIMGAP', 147, 0.09],
  ['alternate', '$DIMALT', 170, 0],
  ['alternateDecimals', '$DIMALTD', 171, 2],
  ['angleDecimals', '$DIMADEC', 179, 0],
  ['decimals', '$DIMDEC', 271, 4],
  ['toleranceDecimals', '$DIMTDEC', 272, 4],
  ['form', '$DIMLUNIT', 277, 2],
  ['separator', '$DIMDSEP', 278, 46],
  ['toleranceZeros', '$DIMTZIN', 284, 0],
];
const AROUND = 3;
const OF_VARIABLE = new Map(VARIABLES.map(([key, variable]) => [variable, key]));
const OF_CODE = new Map(VARIABLES.map(([key, , code]) => [code, key]));
/** The application and the list that keep what a single dimension has otherwise than its style. */
const [APPLICATION, LIST] = ['ACAD', 'DSTYLE'];
const [STRING, INTEGER, LAST_EXTENDED] = [1000, 1070, 1071];

/** The style of dimensions in a drawing that sets none. */
export function defaultDimensionStyle(): DimensionStyle {
  const numbers = Object.fromEntries(VARIABLES.map(([key, , , standard]) => [key, standard]));
  return { ...(numbers as Omit<DimensionStyle, 'around'>), around: '' };
}

/** Takes the value of a header variable, where it is one of these. */
export function takeVariable(looks: DimensionStyle, variable: string, groups: GroupReader): void {
  if (variable === '$DIMPOST') looks.around = groups.text();
  const key = OF_VARIABLE.get(variable);
  if (key) set(looks, key, groups.number());
}

/** The values of a DIMSTYLE, over those of the drawing's header. */
export function dimensionStyleOf(record: Record, standard: DimensionStyle): DimensionStyle {
  const looks = { ...standard, around: record.text(AROUND, standard.around) };
  for (const [key, , code] of VARIABLES) set(looks, key, record.number(code, looks[key]));
  return looks;
}

/** The looks of one dimension: those of its style with its own in their place. */
export function withOverrides(record: Record, style: DimensionStyle): DimensionStyle {
  const { from, to } = record.extended(APPLICATION);
  const begins = (i: number): boolean => record.codes[i] === STRING && record.textAt(i).trim().toUpperCase() === LIST;
  let start = from;
  while (start < to && !begins(start)) start++;
  if (start === to) return style;
  const looks = { ...style };
  for (let i = start + 1; i + 1 < to; i++) {
    if (record.codes[i] !== INTEGER) continue;
    const value = record.codes[i + 1]!;
    const key = OF_CODE.get(record.numberAt(i));
    if (value === STRING && record.numberAt(i) === AROUND) looks.around = record.textAt(i + 1);
    else if (key && value > STRING && value <= LAST_EXTENDED) set(looks, key, record.numberAt(i + 1));
    i++;
  }
  return looks;
}

/** Sizes are never negative, and a scale or factor of 0 means 1. */
function set(looks: DimensionStyle, key: Numeric, value: number): void {
  if (!Number.isFinite(value)) return;
  if (key === 'scale' || key === 'textHeight') looks[key] = value > 0 ? value : looks[key];
  else if (key === 'factor') looks[key] = Math.abs(value) || 1;
  else if (value >= 0 || key === 'plus' || key === 'minus') looks[key] = value;
}
