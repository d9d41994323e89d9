import type { DimensionStyle } from './dimension-looks';

const [ENGINEERING, ARCHITECTURAL, FRACTIONAL] = [3, 4, 5];
const INCHES_PER_FOOT = 12;
/** Bits of `$DIMZIN` for decimals, and its lowest two, for feet and inches. */
const [NO_LEADING_ZERO, NO_TRAILING_ZEROS, FEET_AND_INCHES] = [4, 8, 3];
/** Those two bits: zero feet and inches are both written, or zero feet only, or zero inches only. */
const [ALL_ZEROS, ZERO_FEET, ZERO_INCHES] = [1, 2, 3];
const MAX_DECIMALS = 8;
const HALF = 0.5;

/** A measured length as its dimension style writes it, with the text around it. Drawing units. */
export function writtenLength(length: number, looks: DimensionStyle, prefix = ''): string {
  const times = length * looks.factor;
  const value = looks.rounding > 0 ? Math.round(times / looks.rounding) * looks.rounding : times;
  const written = prefix + lengthIn(value, looks);
  return toleranced(around(written, looks.around), value, looks) + alternate(value, looks);
}

/** A written value with its tolerances, or its limits in its place, as MTEXT writes them: stacked, in letters of their own height. */
function toleranced(written: string, value: number, looks: DimensionStyle): string {
  const { tolerances, limits, plus, minus, toleranceHeight: height } = looks;
  const own = { ...looks, zeros: looks.toleranceZeros };
  const part = (length: number): string =>
    looks.form === 2 || looks.form === 6 ? decimal(length, looks.toleranceDecimals, own) : lengthIn(length, own);
  const signed = (length: number): string => (length < 0 ? '-' : length > 0 ? '+' : ' ') + part(Math.abs(length));
  const small = (text: string): string => `{\\H${height}x;${text}}`;
  if (limits === 1) return small(`\\S${part(value + plus)}^ ${part(value - minus)};`);
  if (tolerances !== 1) return written;
  return `\\A0;${written}${small(plus === minus ? `±${part(plus)}` : `\\S${signed(plus)}^ ${signed(-minus)};`)}`;
}

/** The same length in another unit, in brackets behind it. */
function alternate(value: number, looks: DimensionStyle): string {
  if (looks.alternate !== 1) return '';
  return ` [${decimal(value * looks.alternateFactor, looks.alternateDecimals, looks)}]`;
}

/** A measured angle in degrees. */
export function writtenAngle(degrees: number, looks: DimensionStyle): string {
  return `${decimal(degrees, looks.angleDecimals, looks)}°`;
}

/** The text of a dimension: its measured value, or what was typed in its place, where `<>` stands for the value. */
export function dimensionText(typed: string, measured: string): string {
  if (typed === '') return measured;
  return typed.trim() === '' ? '' : typed.replaceAll('<>', measured);
}

function around(value: string, pattern: string): string {
  return pattern.includes('<>') ? pattern.replace('<>', value) : value + pattern;
}

function lengthIn(value: number, looks: DimensionStyle): string {
  const { form, decimals } = looks;
  if (form === FRACTIONAL) return fraction(value, decimals);
  if (form === ARCHITECTURAL || form === ENGINEERING) return feetAndInches(value, looks);
  return form === 1 ? value.toExponential(places(decimals)).toUpperCase() : decimal(value, decimals, looks);
}

function decimal(value: number, decimals: number, { zeros, separator }: DimensionStyle): string {
  let text = value.toFixed(places(decimals));
  if (zeros & NO_TRAILING_ZEROS && text.includes('.')) text = text.replace(/\.?0+$/, '');
  if (zeros & NO_LEADING_ZERO) text = text.replace(/^(-?)0\./, '$1.');
  return text.replace('.', String.fromCharCode(separator || '.'.charCodeAt(0)));
}

/** Feet and inches of a length in inches, rounded to the smallest part written before it is split. */
function feetAndInches(value: number, looks: DimensionStyle): string {
  const architectural = looks.form === ARCHITECTURAL;
  const parts = architectural ? 2 ** places(looks.decimals) : 10 ** places(looks.decimals);
  const rounded = Math.floor(Math.abs(value) * parts + HALF) / parts;
  const feet = Math.floor(rounded / INCHES_PER_FOOT);
  const inches = rounded - feet * INCHES_PER_FOOT;
  const which = looks.zeros & FEET_AND_INCHES;
  const showFeet = feet > 0 || which === ALL_ZEROS || which === ZERO_FEET;
  const showInches = inches > 0 || !showFeet || which === ALL_ZEROS || which === ZERO_INCHES;
  const written = architectural ? fraction(inches, looks.decimals) : decimal(inches, looks.decimals, looks);
  const sign = value < 0 && rounded > 0 ? '-' : '';
  return sign + [...(showFeet ? [`${feet}'`] : []), ...(showInches ? [`${written}"`] : [])].join('-');
}

/** A number as whole and fraction, to the nearest 1/2ⁿ: `3 1/4`. */
function fraction(value: number, power: number): string {
  const under = 2 ** places(power);
  const parts = Math.floor(Math.abs(value) * under + HALF);
  const whole = Math.floor(parts / under);
  let [over, below] = [parts % under, under];
  while (over > 0 && over % 2 === 0) [over, below] = [over / 2, below / 2];
  const sign = value < 0 && parts > 0 ? '-' : '';
  if (over === 0) return `${sign}${whole}`;
  return whole > 0 ? `${sign}${whole} ${over}/${below}` : `${sign}${over}/${below}`;
}

function places(decimals: number): number {
  return Math.min(MAX_DECIMALS, Math.max(0, Math.trunc(decimals)));
}
