import { MM_PER_UNIT, POINTS_PER_MM } from '../measure/units';
import { points, textString } from './syntax';

/** A rectangle of a page that shows something at one scale. */
export interface MeasuredArea {
  name: string;
  /** xmin, ymin, xmax, ymax, mm from the page's lower left corner. */
  box: [number, number, number, number];
  /** Paper length over real length. */
  scale: number;
  /** As the title block says it. */
  words: string;
  unit: 'm' | 'ft';
}

/**
 * The viewport with its measure dictionary (ISO 32000-2, 12.9): a reader that can measure gives real lengths. `unit` is
 * what a unit of user space measures in points.
 */
export function viewport({ name, box, scale, words, unit }: MeasuredArea, userUnit: number): string {
  const perMm = POINTS_PER_MM / userUnit;
  const real = 1 / perMm / scale / MM_PER_UNIT[unit];
  const length = numberFormat(unit, real, 1000);
  const area = numberFormat(unit === 'm' ? 'm²' : 'sq ft', 1, 100);
  // X turns units of user space into real ones; D and A go on from there.
  return (
    `<< /Type /Viewport /BBox [${box.map((mm) => points(mm * perMm)).join(' ')}] /Name ${textString(name)}` +
    ` /Measure << /Type /Measure /Subtype /RL /R ${textString(words)} /X [${length}] /D [${numberFormat(unit, 1, 1000)}]` +
    ` /A [${area}] >> >>`
  );
}

function numberFormat(unit: string, factor: number, decimals: number): string {
  return `<< /Type /NumberFormat /U ${textString(unit)} /C ${Number(factor.toPrecision(12))} /D ${decimals} /F /D >>`;
}
