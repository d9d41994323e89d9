import { POINTS_PER_MM } from '../measure/units';
import type { Page } from '../page/page';

/** Sides of a PDF page reach 14 400 units; beyond that a unit must be larger (ISO 32000-2, 14.11.2 and table 31). */
const MAX_SIDE = 14_400;

/** Points that one unit of user space measures on a page: 1 but for giant pages. */
export function userUnit(page: Pick<Page, 'widthMm' | 'heightMm'>): number {
  return Math.max(1, Math.ceil((Math.max(page.widthMm, page.heightMm) * POINTS_PER_MM) / MAX_SIDE));
}
