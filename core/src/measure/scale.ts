/** A drawing scale as paper length over real length: 1:50 is 0.02, 2:1 is 2. */
export type Scale = number;

/** Scales of ISO 5455 with those that building practice adds (1:25, 1:250, 1:1250, 1:2500), largest first. */
export const METRIC_SCALES: readonly Scale[] = [
  50,
  20,
  10,
  5,
  2,
  1,
  1 / 2,
  1 / 5,
  1 / 10,
  1 / 20,
  1 / 25,
  1 / 50,
  1 / 100,
  1 / 200,
  1 / 250,
  1 / 500,
  1 / 1000,
  1 / 1250,
  1 / 2000,
  1 / 2500,
  1 / 5000,
  1 / 10_000,
];

/** Feet-and-inches scales in use in building (common practice): inches on paper for one foot. */
const INCHES_PER_FOOT = [3, 1.5, 1, 3 / 4, 1 / 2, 3 / 8, 1 / 4, 3 / 16, 1 / 8, 3 / 32, 1 / 16];
const FEET_PER_INCH = [10, 20, 30, 40, 50, 60, 100];

export const IMPERIAL_SCALES: readonly Scale[] = [
  ...INCHES_PER_FOOT.map((inches) => inches / 12),
  ...FEET_PER_INCH.map((feet) => 1 / (12 * feet)),
];

/**
 * Reads a scale as drafters write it: `1:50`, `2:1`, `1/8" = 1'-0"`, `1 1/2" = 1'`, `1" = 20'`.
 * Undefined when the text is not a scale.
 */
export function parseScale(text: string): Scale | undefined {
  const plain = text
    .trim()
    .replace(/[″”“]/g, '"')
    .replace(/[′’‘]/g, "'")
    .replace(/[\u00a0\u202f]/g, ' ');
  const ratio = /^(\d+(?:[.,]\d+)?)\s*[:/]\s*(\d[\d ]*(?:[.,]\d+)?)$/.exec(plain);
  if (ratio) return positive(decimal(ratio[1]!) / decimal(ratio[2]!.replace(/ /g, '')));
  const sides = plain.split('=');
  if (sides.length !== 2) return undefined;
  const paper = inches(sides[0]!);
  const real = inches(sides[1]!);
  return paper === undefined || real === undefined ? undefined : positive(paper / real);
}

/** Writes a scale in the shortest usual form: feet and inches where it is one of those scales, else a ratio. */
export function formatScale(scale: Scale, style: 'metric' | 'imperial' = 'metric'): string {
  if (style === 'imperial') {
    const perFoot = INCHES_PER_FOOT.find((value) => near(value / 12, scale));
    if (perFoot !== undefined) return `${fraction(perFoot)}" = 1'-0"`;
    const perInch = FEET_PER_INCH.find((feet) => near(1 / (12 * feet), scale));
    if (perInch !== undefined) return `1" = ${perInch}'`;
  }
  return scale >= 1 ? `${trimmed(scale)}:1` : `1:${trimmed(1 / scale)}`;
}

/** True for a scale written in feet and inches. */
export function isImperial(text: string): boolean {
  return /["'″”“′’‘]/.test(text);
}

/** The largest of `scales` at which `lengthMm × heightMm` of reality fits a drawing area (all in mm). */
export function fittingScale(
  realMm: { width: number; height: number },
  areaMm: { width: number; height: number },
  scales: readonly Scale[] = METRIC_SCALES,
): Scale | undefined {
  const slackMm = 1e-6;
  return [...scales]
    .sort((a, b) => b - a)
    .find((s) => realMm.width * s <= areaMm.width + slackMm && realMm.height * s <= areaMm.height + slackMm);
}

/** The scales of a sheet's views as its title block shows them. */
export function scaleOfSheet(
  scales: readonly Scale[],
  style: 'metric' | 'imperial' = 'metric',
  words = { mixed: 'As indicated', none: 'Not to scale' },
): string {
  const written = [...new Set(scales.map((s) => formatScale(s, style)))];
  if (written.length === 0) return words.none;
  return written.length === 1 ? written[0]! : words.mixed;
}

function near(a: number, b: number): boolean {
  return Math.abs(a - b) <= 1e-9 * Math.max(a, b);
}

function positive(value: number): Scale | undefined {
  return Number.isFinite(value) && value > 0 ? value : undefined;
}

function decimal(text: string): number {
  return Number(text.replace(',', '.'));
}

function trimmed(value: number): string {
  return String(Number(value.toFixed(4)));
}

/** A length such as `1/8"`, `1 1/2"`, `20'`, `1'-0"` in inches. */
function inches(text: string): number | undefined {
  const match = /^\s*(?:(\d+(?:\.\d+)?)\s*')?\s*-?\s*(?:((?:\d+\s+)?\d+\/\d+|\d+(?:\.\d+)?)\s*")?\s*$/.exec(text);
  if (!match || (match[1] === undefined && match[2] === undefined)) return undefined;
  return Number(match[1] ?? 0) * 12 + mixedNumber(match[2] ?? '0');
}

function mixedNumber(text: string): number {
  return text
    .trim()
    .split(/\s+/)
    .map((part) => {
      const [over, under] = part.split('/');
      return under === undefined ? Number(over) : Number(over) / Number(under);
    })
    .reduce((sum, value) => sum + value, 0);
}

function fraction(value: number): string {
  const whole = Math.floor(value);
  const rest = value - whole;
  if (rest === 0) return String(whole);
  for (let under = 2; under <= 64; under *= 2) {
    const over = rest * under;
    if (Number.isInteger(over)) return whole ? `${whole} ${over}/${under}` : `${over}/${under}`;
  }
  return String(value);
}

/** Scales of views, paper over real length: a region of the earth on a sheet, and a detail far larger than it is. */
const [MIN_SCALE, MAX_SCALE] = [1 / 1_000_000, 1000];

/** What is wrong with a typed scale; undefined where nothing is. `also`: words that may stand for one, such as `fit`. */
export function scaleProblem(text: string, also: readonly string[] = []): string | undefined {
  if (also.includes(text.trim().toLowerCase())) return undefined;
  const scale = parseScale(text);
  const or = also.includes('fit') ? ', or fit' : also.includes('') ? ', or leave it blank' : '';
  if (scale === undefined) return `Write a scale such as 1:50${or}.`;
  return scale < MIN_SCALE || scale > MAX_SCALE ? 'Scales go from 1:1,000,000 to 1000:1.' : undefined;
}
